"""The person's model: volumes at true size in the world. No view, no paper."""

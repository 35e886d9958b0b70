"""The Practice tab."""

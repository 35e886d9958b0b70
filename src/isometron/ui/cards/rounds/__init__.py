"""The Rounds tab."""

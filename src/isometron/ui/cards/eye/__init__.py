"""The Eye tab."""

"""The Light tab."""

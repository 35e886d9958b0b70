"""The Build order tab."""

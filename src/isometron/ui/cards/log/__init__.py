"""The Log tab."""

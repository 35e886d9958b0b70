"""The Volumes tab."""

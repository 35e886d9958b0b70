"""Edits of what a volume is: its kind, cuts, edges, profile, rounds."""

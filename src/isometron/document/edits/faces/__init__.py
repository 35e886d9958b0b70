"""Edits of what lies on the faces of a volume."""

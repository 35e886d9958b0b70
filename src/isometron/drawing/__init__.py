"""Framework and eye turned into strokes and measures on the sheet: still only numbers."""

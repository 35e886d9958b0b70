"""Strokes painted with QPainter: the same painter for the board, pictures and the printer."""

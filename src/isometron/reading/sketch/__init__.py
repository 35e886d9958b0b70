"""A sketch of one's own: its paper, its strokes, and what is off in it."""

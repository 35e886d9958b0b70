"""Light on a sheet: shadows, values, hatching, and the points that a hand builds them with."""

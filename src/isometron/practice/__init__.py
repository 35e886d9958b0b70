"""Practice: drills on exact geometry, what they say of a hand, and the log of work. No Qt."""

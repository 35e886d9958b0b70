"""Marks on pictures: what they say about the eye, proportions and rounds, and how surely."""

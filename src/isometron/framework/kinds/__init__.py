"""Kinds of volume, one file each: what fills the box of a volume's width, depth and height."""

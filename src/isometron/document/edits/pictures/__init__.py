"""Edits of pictures and of what is marked on them."""

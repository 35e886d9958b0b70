"""Intentions: what parts were meant to be to each other, one file for each kind of tie."""

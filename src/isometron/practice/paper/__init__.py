"""Exercises on paper: how a page is laid out, and what a photograph of it says."""

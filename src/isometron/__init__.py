"""Isometron: a framework bench for product sketchers."""

__version__ = "0.1.0"

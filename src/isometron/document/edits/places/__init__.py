"""Edits of where things stand, are laid, dragged and measured."""

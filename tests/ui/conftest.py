"""The desk fixture for every interface test."""

from tests.ui.desk import desk

__all__ = ["desk"]

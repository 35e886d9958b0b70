"""Build orders as files: their words, JSON, booklets and step sheets."""

"""Edits: functions from a document to the next one, or a sentence why not."""

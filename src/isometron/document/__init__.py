"""The sheet in work: an immutable document, and the edits that give the next one."""

"""The Picture tab: marks, what is known, and the sheet that is laid over a picture."""

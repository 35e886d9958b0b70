"""What a person can point at on the sheet: one file for each, with its reading and its swipe."""

"""Does it look right: bands of proportion, what they are of, and what falls outside."""

"""The bench: windows, cards, handles, commands. Computes nothing that has a number in it."""

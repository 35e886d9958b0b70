"""Bodies: what a volume is made of, how each is made, and where planes cut it."""

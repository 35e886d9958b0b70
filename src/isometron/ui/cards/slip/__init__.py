"""The slip: what is picked, what it measures, and what can be done with it."""

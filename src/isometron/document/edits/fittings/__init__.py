"""Fittings: parts that are put on any volume by themselves, and that starters are made of: legs
and feet, wheels in their arches, handles, lids, louvres. Each is made from the sides of its
carrier, in the carrier's own directions, and hangs on it."""

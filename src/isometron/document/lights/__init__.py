"""The lights there are, one file each: everything that is asked of a light, it answers."""

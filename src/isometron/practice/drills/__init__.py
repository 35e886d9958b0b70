"""The drills, one file each."""

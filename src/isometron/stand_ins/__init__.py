"""Stand-ins for devices: what a camera would have seen, with the truth beside it."""

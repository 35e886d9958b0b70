"""Every command of a window: the tables by menu, what they do, the menus made of them, and help."""

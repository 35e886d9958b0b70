"""The window and what it is worked by: commands, menus, session, files, dialogs."""

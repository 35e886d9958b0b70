"""What can be done with what is on a sheet, as data: deeds, their typed parameters, their edits."""

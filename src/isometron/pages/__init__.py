"""What goes on paper: display lists in mm, y up from the lower left corner, and their writers."""

"""What can be taken hold of on the board, a file for each kind; `table.py` finds them all."""

"""What every part of the interface is made of: theme, fields, forms, pages, pads."""

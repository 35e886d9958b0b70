"""Build orders, and the ruler machine that executes them."""

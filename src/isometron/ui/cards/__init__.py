"""The index tabs, a folder each; readings and second look beside them."""

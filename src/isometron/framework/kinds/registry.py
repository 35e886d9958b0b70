"""The kinds there are, by their word: files, forms and starters read this table. Every kind that
has a file in this folder stands in it."""

from isometron.folders import classes_of
from isometron.framework import kinds as folder
from isometron.framework.kinds.kind import Kind

KINDS: dict[str, type[Kind]] = {kind.word: kind for kind in classes_of(folder, Kind)}
"""Every kind of volume, in the order of lists."""

"""The kinds of intention there are, by their word: files and lists read this table. Every kind that
has a file in this folder stands in it."""

from isometron.folders import classes_of
from isometron.framework import intentions as folder
from isometron.framework.intentions.intention import Intention

INTENTIONS: dict[str, type[Intention]] = {kind.word: kind for kind in classes_of(folder, Intention)}
"""Every kind of intention, in the order of lists."""

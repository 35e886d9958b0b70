"""The kinds there are, by their word: files, forms and starters read this table. Every kind that
has a file in this folder stands in it."""

from isometron.folders import modules_of
from isometron.framework import kinds as folder
from isometron.framework.kinds.kind import Kind


def _kinds() -> list[type[Kind]]:
    found: list[type[Kind]] = []
    for file in modules_of(folder):
        for kind in vars(file).values():
            own = isinstance(kind, type) and issubclass(kind, Kind) and kind is not Kind
            if own and kind.__module__ == file.__name__:
                found.append(kind)
    return sorted(found, key=lambda kind: kind.rank)


KINDS: dict[str, type[Kind]] = {kind.word: kind for kind in _kinds()}
"""Every kind of volume."""

"""The table of deeds: every file of this room that has DEEDS stands in it."""

from functools import cache

from isometron import deeds as room
from isometron.deeds.deed import Deed, Matter
from isometron.folders import modules_of


@cache
def deeds() -> dict[str, Deed]:
    """All deeds by their keys."""
    found: dict[str, Deed] = {}
    for file in modules_of(room):
        for deed in getattr(file, "DEEDS", ()):
            if deed.key in found:
                raise KeyError(f"two deeds are called {deed.key!r}")
            found[deed.key] = deed
    return found


@cache
def matters() -> dict[str, Matter]:
    """What every deed is about, by its key: what its file says."""
    return {one.key: file.MATTER for file in modules_of(room) for one in getattr(file, "DEEDS", ())}


def deed(key: str) -> Deed:
    """The deed of a key."""
    return deeds()[key]

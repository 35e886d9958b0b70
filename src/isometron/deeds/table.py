"""The table of deeds: every file of this room that has DEEDS stands in it."""

import pkgutil
from functools import cache
from importlib import import_module

from isometron import deeds as room
from isometron.deeds.deed import Deed


@cache
def deeds() -> dict[str, Deed]:
    """All deeds by their keys."""
    found: dict[str, Deed] = {}
    for file in pkgutil.iter_modules(room.__path__):
        for deed in getattr(import_module(f"{room.__name__}.{file.name}"), "DEEDS", ()):
            if deed.key in found:
                raise KeyError(f"two deeds are called {deed.key!r}")
            found[deed.key] = deed
    return found


def deed(key: str) -> Deed:
    """The deed of a key."""
    return deeds()[key]

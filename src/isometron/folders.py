"""Tables that fill themselves: what stands in a folder is in them."""

import importlib
import pkgutil
from types import ModuleType
from typing import Any


def modules_of(folder: ModuleType) -> list[ModuleType]:
    """Every module of a package, loaded, in the order of their names."""
    names = sorted(one.name for one in pkgutil.iter_modules(folder.__path__))
    return [importlib.import_module(f"{folder.__name__}.{name}") for name in names]


def classes_of(folder: ModuleType, base: type) -> list[Any]:
    """Every class under `base` that a module of a package makes, by their `rank`."""
    found = [
        kind
        for file in modules_of(folder)
        for kind in vars(file).values()
        if isinstance(kind, type) and issubclass(kind, base) and kind is not base
        if kind.__module__ == file.__name__
    ]
    return sorted(found, key=lambda kind: kind.rank)

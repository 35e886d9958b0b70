"""Tables that fill themselves: what stands in a folder is in them."""

import importlib
import pkgutil
from types import ModuleType


def modules_of(folder: ModuleType) -> list[ModuleType]:
    """Every module of a package, loaded, in the order of their names."""
    names = sorted(one.name for one in pkgutil.iter_modules(folder.__path__))
    return [importlib.import_module(f"{folder.__name__}.{name}") for name in names]

"""Writes docs/caches.md: everything that is kept from one call to the next, what it hangs on, and
how large it grows."""

import importlib
import inspect
import pkgutil
import sys
from pathlib import Path
from weakref import WeakValueDictionary

sys.path.insert(0, str(Path(__file__).parents[1] / "src"))

import isometron

OUT = Path(__file__).parents[1] / "docs" / "caches.md"
HEAD = """# What is kept

Values never change here, so what was worked out of one stays true. This is all that is kept of it
from one call to the next, by room: what it hangs on, and how many are kept at most. What is *kept
on* a value goes when the value goes. `tools/caches.py` writes this page; a test holds it to the
program.

| what | hangs on | at most |
|---|---|---|
"""


WEAK = ("what it is made from, while somebody holds it", "as many as are held")


def kept() -> list[tuple[str, str, str]]:
    """Name, what it hangs on, and how many, of everything that is kept."""
    found = {}
    for module in pkgutil.walk_packages(isometron.__path__, "isometron."):
        if module.name.endswith("__main__"):
            continue
        for name, one in vars(importlib.import_module(module.name)).items():
            if isinstance(one, WeakValueDictionary):
                found[f"{module.name.removeprefix('isometron.')}.{name}"] = WEAK
            if getattr(one, "__module__", None) != module.name:
                continue
            where = f"{module.name.removeprefix('isometron.')}.{name}"
            if hasattr(one, "cache_parameters"):
                most = one.cache_parameters()["maxsize"]
                on = ", ".join(inspect.signature(one.__wrapped__).parameters) or "nothing"
                found[where] = (on, "all there are" if most is None else str(most))
            elif hasattr(one, "kept_on"):
                names = list(inspect.signature(one.__wrapped__).parameters)
                others = [n for n in names if n != names[one.kept_on]]
                by = f", by {', '.join(others)}" if others else ""
                found[where] = (f"kept on {names[one.kept_on]}{by}", str(one.most))
    return [(where, *what) for where, what in sorted(found.items())]


def page() -> str:
    """The whole page."""
    return HEAD + "".join(f"| `{a}` | {b} | {c} |\n" for a, b, c in kept())


if __name__ == "__main__":
    OUT.write_text(page())

"""The house has no circles: no file, however far round, uses a file that uses it."""

import re
from graphlib import TopologicalSorter
from pathlib import Path

ROOT = Path(__file__).parents[1] / "src"


IMPORT = re.compile(r"^ *from (isometron[\w.]*) import (\([^)]*\)|.*)", re.M)


def uses(path, names):
    for module, what in IMPORT.findall(path.read_text()):
        yield from {module, *(f"{module}.{one}" for one in re.findall(r"\w+", what))} & names


def test_no_file_uses_a_file_that_uses_it():
    files = {
        ".".join(p.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__"): p
        for p in ROOT.rglob("*.py")
    }
    arrows = {name: set(uses(path, set(files))) - {name} for name, path in files.items()}
    assert sum(map(len, arrows.values())) > 2000
    order = list(TopologicalSorter(arrows).static_order())  # raises CycleError, naming the circle
    assert len(order) == len(files)

"""The house has no circles: no file, however far round, uses a file that uses it."""

import ast
from graphlib import TopologicalSorter
from pathlib import Path

ROOT = Path(__file__).parents[1] / "src"


def uses(path, names):
    tree = ast.parse(path.read_text())
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and node.module:
            yield from {node.module, *(f"{node.module}.{a.name}" for a in node.names)} & names


def test_no_file_uses_a_file_that_uses_it():
    files = {
        ".".join(p.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__"): p
        for p in ROOT.rglob("*.py")
    }
    arrows = {name: set(uses(path, set(files))) - {name} for name, path in files.items()}
    assert sum(map(len, arrows.values())) > 2000
    order = list(TopologicalSorter(arrows).static_order())  # raises CycleError, naming the circle
    assert len(order) == len(files)

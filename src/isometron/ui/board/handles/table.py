"""The table of handles: every file of this folder adds the kinds it knows."""

from collections.abc import Callable
from dataclasses import dataclass

from isometron.document.document import Document
from isometron.document.edits.projecting import flat_twin
from isometron.drawing.curved_twin import twin_of
from isometron.drawing.scene import Scene
from isometron.folders import modules_of
from isometron.ui.board import handles as folder
from isometron.ui.board.handles.curved import bent
from isometron.ui.board.handles.handle import Handle

Finds = Callable[[Document, Scene], list[Handle]]


@dataclass(frozen=True)
class Kind:
    """A kind of handle: its place in the order, how help calls it and what stays, and how the
    handles of a document are found."""

    rank: int
    name: str
    stays: str
    finds: Finds


KINDS: list[Kind] = []
"""The most particular first: what lies on top of what when a place is touched."""


def handles(rank: int, name: str, stays: str) -> Callable[[Finds], Finds]:
    """Makes a function one that finds handles. Of two that touch, the lower rank is taken."""

    def add(finds: Finds) -> Finds:
        KINDS.append(Kind(rank, name, stays, finds))
        KINDS.sort(key=lambda kind: kind.rank)
        return finds

    return add


def handles_of(document: Document, scene: Scene) -> list[Handle]:
    """All handles of a document, the most particular first."""
    if document.eye.curved:
        twin = flat_twin(document)
        flat = handles_of(twin, twin_of(scene, twin.eye))
        laid = (bent(document.eye, handle) for handle in flat)
        return [handle for handle in laid if handle is not None]
    found: dict[str, Handle] = {}
    for kind in KINDS:
        for handle in kind.finds(document, scene):
            found.setdefault(handle.key, handle)
    return list(found.values())


def load() -> None:
    """Let every file of the folder add its kinds."""
    modules_of(folder)

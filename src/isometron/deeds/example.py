"""What the drawings of deeds are made from: small frameworks seen well."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from typing import Any

from isometron.document.document import Document
from isometron.document.edits import choosing, proportioning
from isometron.document.edits.places.laying import add_box
from isometron.document.edits.shapes import bending, rounding, shaping
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick


@dataclass(frozen=True)
class Example:
    """A document, what is picked on it, and values by the keys of parameters."""

    document: Document
    pick: Pick | None = None
    values: Mapping[str, Any] = field(default_factory=dict)


@cache
def blank() -> Example:
    """A blank sheet."""
    return Example(Document())


@cache
def box() -> Example:
    """A cube before us."""
    return Example(add_box(Document()))


@cache
def two() -> Example:
    """Two boxes side by side, both chosen."""
    return Example(choosing.choose_all(add_box(box().document)))


@cache
def joined() -> Example:
    """Two cubes against each other, both chosen."""
    alone = box().document
    cube = alone.volumes[0]
    return Example(
        choosing.choose_all(
            choosing.with_new(alone, [replace(cube, name="2", x_mm=cube.x_mm + cube.width_mm)])
        )
    )


@cache
def upper_edge() -> Example:
    """A cube with its upper front edge picked."""
    return Example(box().document, EdgePick(0, 2))


@cache
def front_face() -> Example:
    """A cube with its front picked."""
    return Example(box().document, FacePick(0, 2))


@cache
def with_module() -> Example:
    """A cube on a sheet that counts in a module."""
    return Example(proportioning.type_module(box().document, "w = 62 mm"))


@cache
def wheel() -> Example:
    """A wheel before us."""
    return Example(rounding.add_round(Document(), "wheel"))


@cache
def bar() -> Example:
    """A bent bar."""
    section = bending.Section(8.0, 8.0, 20.0, True)
    return Example(bending.make_bar(box().document, bending.SHAPES[0], section, 3))


@cache
def tip() -> Example:
    """A cube whose sides lean until they meet."""
    return Example(shaping.make_pyramid(box().document))


def box_with(**values: Any) -> Example:
    """A cube, and values by the keys of parameters, a space for each _."""
    return Example(box().document, None, {key.replace("_", " "): v for key, v in values.items()})

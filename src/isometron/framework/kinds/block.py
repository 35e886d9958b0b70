"""The box."""

from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.extruded import Carried, carried, contents_mm3, extruded_body
from isometron.framework.bodies.facets import carried_triangles, flat_triangles
from isometron.framework.bodies.flat import block
from isometron.framework.box import CORNERS, EDGE_FACES, EDGES, rectangle_faces
from isometron.framework.circles import (
    axis_of_holes,
    pierced,
)
from isometron.framework.kinds.kind import (
    RECTANGLE,
    Boxed,
    Holes,
    Kind,
    OfShares,
    OnFlatFaces,
    Outline,
    Triangles,
    Unturned,
)
from isometron.framework.outlines import rectangle
from isometron.perspective.places import Sides
from isometron.words import said


@dataclass(frozen=True)
class Block(Unturned, Boxed, OfShares, OnFlatFaces, Kind):
    """The whole box; with round holes one way through it."""

    word = said("box")
    rank = 0

    @property
    def called(self) -> str:
        """A box."""
        return "box"

    def body(self, sides: Sides, holes: Holes) -> Body:
        """The box; pierced it keeps the numbers of its corners, edges and faces."""
        if not holes:
            return block(sides)
        one = self._pierced(sides, holes)
        body = extruded_body(one, rectangle_faces(one.axis))
        vertices, smooth = CORNERS * np.array(sides), np.zeros(len(EDGES), dtype=bool)
        return replace(body, vertices=vertices, edges=EDGES, edge_faces=EDGE_FACES, smooth=smooth)

    def _pierced(self, sides: Sides, holes: Holes) -> Carried:
        axis = axis_of_holes(holes)
        rings = [rectangle(), *(pierced(one, axis, sides) for one in holes)]
        return carried(rings, axis, sides, (0.0, 0.0), ())

    def faceted(self, sides: Sides) -> Body | None:
        """The box."""
        return block(sides)

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """Width times depth times height, less its holes."""
        if holes:
            return contents_mm3(self._pierced(sides, holes))
        width, depth, height = sides
        return width * depth * height

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin."""
        if holes:
            return carried_triangles(self._pierced(sides, holes))
        return flat_triangles(block(sides))

    def profile(self, sides: Sides, holes: Holes) -> Carried | None:
        """Its face with the holes, when it has any."""
        return self._pierced(sides, holes) if holes else None

    def mirrored(self) -> Self:
        """The same."""
        return self

    @property
    def leans(self) -> tuple[float, float, float, float] | None:
        """Its sides stand upright."""
        return 0.0, 0.0, 0.0, 0.0

    @property
    def outline(self) -> Outline | None:
        """The rectangle."""
        return Outline(RECTANGLE, 0.0, False)


BLOCK = Block()

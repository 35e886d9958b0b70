"""The prism on a plan outline."""

import math
from dataclasses import dataclass
from typing import Self

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.extruded import Carried, carried, contents_mm3, extruded_body
from isometron.framework.bodies.facets import carried_triangles, flat_triangles
from isometron.framework.bodies.flat import from_faces
from isometron.framework.bodies.plan_outlines import (
    MOST_OUTLINE,
    area_of,
    crosses_itself,
    with_cut_corners,
)
from isometron.framework.circles import (
    FaceCircle,
    FacePlane,
    end_plane,
    flat_plane,
    on_ends_only,
    pierced,
)
from isometron.framework.kinds.kind import (
    Holes,
    Kind,
    OnFaces,
    Outline,
    Triangles,
    Unleaning,
    Unturned,
)
from isometron.framework.outlines import Knot, Ring
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place, Sides
from isometron.words import _, said

UP = 2


@dataclass(frozen=True)
class Plan(Unturned, Unleaning, OnFaces, Kind):
    """A prism on a plan outline: corners as shares of width and depth, counter-clockwise from
    above; every corner chamfered or rounded by `corner_mm`."""

    corners: tuple[Place, ...]
    corner_mm: float = 0.0
    rounded: bool = False
    word = said("prism")
    rank = 2

    def __post_init__(self) -> None:
        if not 3 <= len(self.corners) <= MOST_OUTLINE:
            raise VolumeError(
                _("A plan outline needs 3 to {most_outline} corners.").format(
                    most_outline=MOST_OUTLINE
                )
            )
        if not all(math.isfinite(v) for point in self.corners for v in point):
            raise VolumeError(_("A plan corner is not a place: give two numbers for each."))
        if not (math.isfinite(self.corner_mm) and self.corner_mm >= 0):
            raise VolumeError(_("A plan corner is cut by a length of 0 or more."))
        if area_of(np.array(self.corners)) <= 0:
            object.__setattr__(self, "corners", tuple(reversed(self.corners)))
        if crosses_itself(np.array(self.corners)):
            raise VolumeError(
                _("That plan outline crosses itself: take its corners in order round.")
            )

    @property
    def called(self) -> str:
        """A prism."""
        return "prism"

    @property
    def _bends(self) -> bool:
        return bool(self.rounded and self.corner_mm)

    def body(self, sides: Sides, holes: Holes) -> Body:
        """Base, top, then its sides in the order of its corners; rounded corners are true arcs."""
        if not self._bends and not holes:
            return self._chorded(sides)
        return extruded_body(self._carried(sides, holes))

    def _carried(self, sides: Sides, holes: Holes) -> Carried:
        rings = [self._ring(sides), *(pierced(one, UP, sides) for one in holes)]
        return carried(rings, UP, sides, (0.0, 0.0), ())

    def _ring(self, sides: Sides) -> Ring:
        """The outline with its corners cut, as knots: rounded ones as true arcs."""
        with_cut_corners(np.array(self.corners) * sides[:2], self.corner_mm, self.rounded)
        if not self.corner_mm:
            return tuple(Knot(x, y) for x, y in self.corners)
        size = np.array(sides[:2])
        corners = np.array(self.corners) * size
        knots = []
        for i, corner in enumerate(corners):
            back, on = corners[i - 1] - corner, corners[(i + 1) % len(corners)] - corner
            into, out = back / np.linalg.norm(back), on / np.linalg.norm(on)
            angle = math.acos(float(np.clip(into @ out, -1.0, 1.0)))
            reach = self.corner_mm / math.tan(angle / 2) if self.rounded else self.corner_mm
            turn = math.copysign(math.pi - angle, float(out[0] * into[1] - out[1] * into[0]))
            first, last = (corner + reach * into) / size, (corner + reach * out) / size
            bulge = math.tan(turn / 4) if self.rounded else 0.0
            knots += [
                Knot(float(first[0]), float(first[1]), bulge),
                Knot(float(last[0]), float(last[1])),
            ]
        return tuple(knots)

    def _chorded(self, sides: Sides) -> Body:
        width, depth, height = sides
        corners = np.array(self.corners) * (width, depth)
        ring, arcs = with_cut_corners(corners, self.corner_mm, self.rounded)
        n = len(ring)
        base = np.column_stack([ring, np.zeros(n)])
        points = np.concatenate([base, base + np.array([0.0, 0.0, height])])
        faces = [[list(range(n - 1, -1, -1))], [list(range(n, 2 * n))]]
        faces += [[[i, (i + 1) % n, n + (i + 1) % n, n + i]] for i in range(n)]
        return from_faces(points, faces, frozenset(frozenset((i, n + i)) for i in arcs))

    def faceted(self, sides: Sides) -> Body | None:
        """Rounded corners in chords."""
        return self._chorded(sides)

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """The area of its outline times its height."""
        return contents_mm3(self._carried(sides, holes))

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin."""
        if self._bends or holes:
            return carried_triangles(self._carried(sides, holes))
        return flat_triangles(self._chorded(sides))

    def profile(self, sides: Sides, holes: Holes) -> Carried | None:
        """Its plan, when that is round anywhere."""
        return self._carried(sides, holes) if self._bends or holes else None

    def footprint(self, sides: Sides) -> Array:
        """Its outline, rounded corners in chords."""
        corners = np.array(self.corners) * sides[:2]
        ring, _unused = with_cut_corners(corners, self.corner_mm, self.rounded)
        return np.column_stack([ring, np.zeros(len(ring))])

    def mirrored(self) -> Self:
        """Its outline turned over."""
        corners = tuple((1.0 - x, y) for x, y in reversed(self.corners))
        return type(self)(corners, self.corner_mm, self.rounded)

    def scaled(self, factors: Sides) -> Self:
        """Corners are cut by as much more as the smaller of its sides has grown."""
        return type(self)(self.corners, self.corner_mm * min(factors[:2]), self.rounded)

    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """The face of its number; of one that bends, its base or its top."""
        if body.surfaces is None:
            return flat_plane(body, circle.face), circle.face
        on_ends_only(circle)
        return end_plane(UP, sides, circle.face, (0.0, 0.0)), circle.face

    @property
    def outline(self) -> Outline | None:
        """Its own."""
        return Outline(self.corners, self.corner_mm, self.rounded)

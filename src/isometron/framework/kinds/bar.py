"""The bent bar: handle, fork, drawbar, tube, slat, along a line with bends."""

import math
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from isometron.framework.bodies import bent
from isometron.framework.bodies.body import Body
from isometron.framework.bodies.facets import AROUND, flat_triangles
from isometron.framework.box import SMALLEST_MM
from isometron.framework.circles import (
    FaceCircle,
    FacePlane,
    flat_plane,
    no_hole,
    on_ends_only,
)
from isometron.framework.kinds.kind import (
    Boxed,
    Holes,
    Kind,
    OnFaces,
    Triangles,
    Uncarried,
    Unleaning,
    Unoutlined,
    Unturned,
)
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.places import Sides, WorldPlace
from isometron.words import _, said

MOST_POINTS = 60
"""More points than this are a spring."""


@dataclass(frozen=True)
class Bar(Unturned, Unleaning, Unoutlined, Uncarried, Boxed, OnFaces, Kind):
    """A section carried along a line through points, shares of its box from where the section has
    room on all sides, and on from its first and last to the sides of the box; every corner bent
    with a radius.

    thick_mm: how thick it is, its diameter when round; wide_mm: how broad otherwise, along the own
    axis `across` where the line lets it. bend_mm: radius of its middle line, 0 for mitred corners.
    """

    points: tuple[WorldPlace, ...]
    thick_mm: float
    wide_mm: float
    bend_mm: float = 0.0
    round: bool = True
    across: int = 1
    word = said("bent bar")
    rank = 5

    def __post_init__(self) -> None:
        if not 2 <= len(self.points) <= MOST_POINTS:
            raise VolumeError(_("A bent bar needs 2 to {most} points.").format(most=MOST_POINTS))
        if not all(math.isfinite(v) and abs(v) <= 100 for point in self.points for v in point):
            raise VolumeError(_("A point of a bar is not a place: give three numbers for each."))
        if not all(SMALLEST_MM <= mm <= LARGEST_MM for mm in (self.thick_mm, self.wide_mm)):
            raise VolumeError(_("A bar has a thickness above 0: type, say, 2 cm."))
        if not 0 <= self.bend_mm <= LARGEST_MM or self.across not in (0, 1, 2):
            raise VolumeError(_("A bend has a radius of 0 or more: type, say, 5 cm."))

    @property
    def called(self) -> str:
        """What it is."""
        return said("bent bar")

    @property
    def _inset(self) -> Array:
        """How far its middle line stays from the sides of its box, mm (3,)."""
        inset = np.full(3, self.thick_mm / 2)
        if not self.round:
            inset[self.across] = self.wide_mm / 2
        return inset

    def places(self, sides: Sides) -> Array:
        """The points (n, 3) of its middle line in a box of the given sides, own mm: its two ends go
        on to the sides of the box."""
        inside = bent.points_in(self.points, sides, self._inset)
        return bent.lengthened(inside, self._inset, 1.0)

    def _course(self, sides: Sides) -> bent.Course:
        room = np.array(sides) - 2 * self._inset
        if float(room.min()) < -SAME * max(sides):
            raise VolumeError(_("The bar is thicker than its box: make it thinner."))
        places = self.places(sides)
        reach = self.thick_mm / 2 if self.round else max(self.thick_mm, self.wide_mm) / 2
        if not self.round and self._flat(places):
            reach = self.thick_mm / 2  # it bends across its thickness only
        return bent.course_of(places, self.bend_mm, reach)

    def _flat(self, places: Array) -> bool:
        """Whether its line lies square to the way it is broad."""
        return bool(np.ptp(places[:, self.across]) <= SAME * float(np.ptp(places, axis=0).max()))

    def _section(self) -> Array:
        return bent.rectangle(self.thick_mm, self.wide_mm)

    def body(self, sides: Sides, holes: Holes) -> Body:
        """Faces 0 and 1 are its ends."""
        no_hole(holes, self.called)
        course = self._course(sides)
        if self.round:
            return bent.round_bar(course, self.thick_mm / 2)
        return bent.cornered_bar(course, self._section(), np.eye(3)[self.across])

    def faceted(self, sides: Sides) -> Body | None:
        """One with corners; a round one is not cut."""
        return None if self.round else self.body(sides, ())

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """Section times length of its middle line."""
        area = math.pi * self.thick_mm**2 / 4 if self.round else self.thick_mm * self.wide_mm
        return bent.contents_mm3(self._course(sides), area)

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin, a round one in chords."""
        if not self.round:
            return flat_triangles(self.body(sides, ()))
        ring = bent.ring(self.thick_mm / 2, AROUND // 2)
        return flat_triangles(bent.cornered_bar(self._course(sides), ring, np.eye(3)[self.across]))

    def mirrored(self) -> Self:
        """Its line turned over."""
        return replace(self, points=tuple((1.0 - x, y, z) for x, y, z in self.points))

    def scaled(self, factors: Sides) -> Self:
        """As much thicker as the least of its sides has grown."""
        least = min(factors)
        return replace(
            self,
            thick_mm=least * self.thick_mm,
            wide_mm=least * self.wide_mm,
            bend_mm=least * self.bend_mm,
        )

    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """Its begin (0) or its end (1)."""
        on_ends_only(circle)
        return flat_plane(body, circle.face), circle.face

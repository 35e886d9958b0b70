"""The circle or arc in space."""

import math
from dataclasses import dataclass, replace
from typing import Self

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.turned import axle_of, loop_making, round_footprint
from isometron.framework.circles import FaceCircle, FacePlane, no_hole
from isometron.framework.kinds.kind import (
    Holes,
    Kind,
    OfShares,
    Triangles,
    Uncarried,
    Unleaning,
    Unoutlined,
    Unrolling,
)
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _, said


@dataclass(frozen=True)
class Loop(Unrolling, Unleaning, Unoutlined, Uncarried, OfShares, Kind):
    """A circle or arc in space, fitted in the box across an own axis, at half its length: a line
    that hides nothing. start_deg is counted from the first cross axis to the second."""

    axis: int = 2
    start_deg: float = 0.0
    sweep_deg: float = 360.0
    shares: tuple[float, ...] = (1.0,)
    word = said("circle")
    rank = 6

    def __post_init__(self) -> None:
        if self.axis not in (0, 1, 2) or not math.isfinite(self.start_deg):
            raise VolumeError(_("A circle lies across the width, depth or height of its box."))
        if not (math.isfinite(self.sweep_deg) and 0 < abs(self.sweep_deg) <= 360):
            raise VolumeError(_("An arc turns by more than 0° and up to 360°: type another angle."))
        if not self.shares or not all(0 < share <= 1 for share in self.shares):
            raise VolumeError(_("Concentric circles have radii between 0 and the largest one."))

    @property
    def called(self) -> str:
        """A circle or an arc."""
        return said("circle") if abs(self.sweep_deg) == 360 else said("arc")

    @property
    def axle(self) -> int | None:
        """The own axis it lies across."""
        return self.axis

    def body(self, sides: Sides, holes: Holes) -> Body:
        """Its arcs, and nothing that hides."""
        no_hole(holes, self.called)
        turns = (self.start_deg, self.sweep_deg)
        return loop_making(axle_of(self.axis, sides), self.shares, turns).done()

    def faceted(self, sides: Sides) -> Body | None:
        """A line cuts nothing."""
        return None

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """None."""
        return 0.0

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """It has no body."""
        return None

    def footprint(self, sides: Sides) -> Array:
        """Its whole circle; the rectangle of its box when it stands."""
        return round_footprint(self.axis, sides)

    def mirrored(self) -> Self:
        """Its arc run through the other way; across its width it lies as before."""
        if self.axis == 0:
            return self
        start = -self.start_deg if self.axis == 1 else 180.0 - self.start_deg
        return replace(self, start_deg=start, sweep_deg=-self.sweep_deg)

    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """It has no faces."""
        raise VolumeError(_("A circle in space has no faces: choose a volume."))

    def mirrored_circle(
        self, circle: FaceCircle, body: Body, twin: Body, width_mm: float
    ) -> FaceCircle | None:
        """It carries none."""
        return None

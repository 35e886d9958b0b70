"""The turned form: cylinder, cone, tube, ball, dome, wheel, whatever a lathe makes."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Self

from isometron.framework.bodies.body import Body, Circle, Segment
from isometron.framework.bodies.facets import turned_triangles
from isometron.framework.bodies.lathe import LEVEL_WITH, Station, contents_mm3, segments_of
from isometron.framework.bodies.turned import Axle, axle_of, round_footprint, turned_making
from isometron.framework.circles import (
    FaceCircle,
    FacePlane,
    disc_plane,
    mirrored_on_end,
    no_hole,
    on_ends_only,
)
from isometron.framework.kinds.kind import (
    Holes,
    Kind,
    OfShares,
    Triangles,
    Uncarried,
    Unleaning,
    Unoutlined,
)
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _, said

MOST_STATIONS = 120
"""More radii than this are not a sketcher's lathe."""

NO_RADIUS = 1e-12
"""A radius smaller than this share of the largest is none: nothing can be worked out with it."""

JOINS = ("straight", "smooth", "dome")


@dataclass(frozen=True)
class Turned(Unleaning, Unoutlined, Uncarried, OfShares, Kind):
    """A form turned about an own axis (0 width, 1 depth, 2 height) through the middle of its box.

    stations: from the base of the axle on, joined straight or smoothly ("dome": a quarter round
    that leaves the wider end upright). bore: radius of a hole along the axle, as a share. rings:
    further circles drawn on it (rims, hubs), as stations. name: what a sketcher calls it. wheel:
    it rolls, whatever it is called.
    """

    stations: tuple[Station, ...]
    join: str = "straight"
    axis: int = 2
    bore: float = 0.0
    rings: tuple[Station, ...] = ()
    name: str = "turned form"
    wheel: bool = False
    word = said("turned form")
    rank = 3

    def __post_init__(self) -> None:
        if self.join not in JOINS or self.axis not in (0, 1, 2):
            raise VolumeError(_("A turned form is joined straight, smoothly or as a dome."))
        if not 2 <= len(self.stations) <= MOST_STATIONS:
            raise VolumeError(
                _("A turned form needs 2 to {most_stations} radii, from its base up.").format(
                    most_stations=MOST_STATIONS
                )
            )
        for height, radius in (*self.stations, *self.rings):
            if not (math.isfinite(height) and 0 <= height <= 1):
                raise VolumeError(_("A height of a turned form lies between its base and its top."))
            if not (math.isfinite(radius) and 0 <= radius <= 1):
                raise VolumeError(
                    _("A radius of a turned form lies between 0 and the largest one.")
                )
        for name in ("stations", "rings"):
            found = getattr(self, name)
            if any(0 < radius < NO_RADIUS for _height, radius in found):
                object.__setattr__(
                    self, name, tuple((h, 0.0 if r < NO_RADIUS else r) for h, r in found)
                )
        heights = [height for height, _unused in self.stations]
        if any(b < a for a, b in itertools.pairwise(heights)):
            raise VolumeError(_("The heights of a turned form go up: put them in order."))
        if heights[-1] - heights[0] <= LEVEL_WITH or max(r for _unused, r in self.stations) <= 0:
            raise VolumeError(_("That turned form has no body: give it some height and radius."))
        if self.join == "smooth" and any(
            b - a <= LEVEL_WITH for a, b in itertools.pairwise(heights)
        ):
            raise VolumeError(_("A smooth form has one radius at every height: join it straight."))
        if self.bore and not 0 < self.bore < min(r for _unused, r in self.stations):
            raise VolumeError(_("The bore must be narrower than the form everywhere."))

    @property
    def called(self) -> str:
        """Its name."""
        return self.name

    @property
    def axle(self) -> int | None:
        """Its own axis."""
        return self.axis

    @property
    def rolls(self) -> bool:
        """Whether it is a wheel."""
        return self.wheel

    def pieces(self, sides: Sides) -> tuple[Axle, tuple[Segment, ...]]:
        """Its axle in a box of the given sides, and its pieces from the base up, mm."""
        axle = axle_of(self.axis, sides)
        return axle, segments_of(self.stations, self.join, axle.length, axle.radius)

    def body(self, sides: Sides, holes: Holes) -> Body:
        """Its ends are faces (one that comes to a tip is none), its skin bends."""
        no_hole(holes, self.called)
        axle, pieces = self.pieces(sides)
        return turned_making(axle, pieces, self.bore * axle.radius, self.rings).done()

    def faceted(self, sides: Sides) -> Body | None:
        """A round form is not cut: it takes a bore."""
        return None

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """π times the integral of r², less the bore."""
        axle, pieces = self.pieces(sides)
        return contents_mm3(pieces, self.bore * axle.radius)

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin in chords."""
        axle, pieces = self.pieces(sides)
        return turned_triangles(axle, pieces, self.bore * axle.radius)

    def footprint(self, sides: Sides) -> Array:
        """Its largest circle; the rectangle of its box when it lies."""
        return round_footprint(self.axis, sides)

    def mirrored(self) -> Self:
        """The same; turned about its width, its ends change over."""
        if self.axis:
            return self
        stations = tuple((1.0 - h, r) for h, r in reversed(self.stations))
        return replace(self, stations=stations, rings=tuple((1.0 - h, r) for h, r in self.rings))

    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """Its near (0) or far (1) end."""
        on_ends_only(circle)
        tips = [station[1] <= LEVEL_WITH for station in (self.stations[0], self.stations[-1])]
        if tips[circle.face]:
            raise VolumeError(_("That end comes to a tip: choose the other one for a circle."))
        station = self.stations[-1 if circle.face else 0]
        return disc_plane(self.axis, sides, station), circle.face - (circle.face and tips[0])

    def mirrored_circle(
        self, circle: FaceCircle, body: Body, twin: Body, width_mm: float
    ) -> FaceCircle | None:
        """The circle on the end across from it."""
        return mirrored_on_end(circle, self.axis, (0.0, 0.0))

    def circle_called(self, circle: Circle, circles: Sequence[Circle]) -> str:
        """Tyre, rim and hub of a wheel; base and top of others."""
        if self.wheel:
            if circle.role != "ring":
                return said("tyre")
            rings = [one.radius_mm for one in circles if one.role == "ring"]
            return said("hub") if circle.radius_mm <= min(rings) < max(rings) else said("rim")
        if circle.role == "end":
            return said("base") if circle.height_share < 0.5 else said("top")
        return circle.called


CYLINDER = Turned(((0.0, 1.0), (1.0, 1.0)), name="cylinder")
CONE = Turned(((0.0, 1.0), (1.0, 0.0)), name="cone")
FRUSTUM = Turned(((0.0, 1.0), (1.0, 0.6)), name="frustum")
TUBE = Turned(((0.0, 1.0), (1.0, 1.0)), bore=0.8, name="tube")
SPHERE = Turned(((0.0, 0.0), (0.5, 1.0), (1.0, 0.0)), join="smooth", name="sphere")
DOME = Turned(((0.0, 1.0), (1.0, 0.0)), join="dome", name="dome")


def wheel(rim: float = 0.62, hub: float = 0.18, shoulder: float = 0.06) -> Turned:
    """A wheel about its depth: tyre with a shoulder, rim and hub circles on both faces (shares of
    the radius; shoulder also of the width)."""
    if not 0 < hub < rim < 1 - shoulder:
        raise VolumeError(_("The hub lies inside the rim, and the rim inside the tyre."))
    edge = 1.0 - shoulder
    stations = ((0.0, edge), (shoulder, 1.0), (1 - shoulder, 1.0), (1.0, edge))
    rings = ((0.0, rim), (0.0, hub), (1.0, rim), (1.0, hub))
    return Turned(stations, axis=1, rings=rings, name="wheel", wheel=True)

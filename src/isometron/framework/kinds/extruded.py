"""The extrusion: a profile carried through a volume along one of its own axes."""

import itertools
import math
from dataclasses import dataclass, replace
from typing import Self

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.extruded import (
    CROSS,
    Carried,
    carried,
    contents_mm3,
    extruded_body,
)
from isometron.framework.bodies.facets import carried_triangles
from isometron.framework.circles import (
    FaceCircle,
    FacePlane,
    end_plane,
    mirrored_on_end,
    on_ends_only,
    pierced,
)
from isometron.framework.kinds.kind import (
    Boxed,
    Holes,
    Kind,
    OfShares,
    Triangles,
    Unleaning,
    Unoutlined,
    Unturned,
)
from isometron.framework.outlines import Ring, mirrored
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.places import Sides
from isometron.words import _, said

MOST_WIDTHS = 24
"""More places at which a width is given are no longer judged by eye."""


@dataclass(frozen=True)
class Extruded(Unturned, Unleaning, Unoutlined, Boxed, OfShares, Kind):
    """An outline (first ring) with holes, carried along an own axis.

    Rings lie along the other two axes, in the order of CROSS, as shares of the sides. slant: how
    far the far end is shifted along them, as shares, so that the way may be oblique. widths: (share
    along the first cross axis, share of the full thickness), between which the thickness changes
    evenly, the same on both sides of the middle; none means straight. name: what it is called. at:
    the plane on which its outline is shown and moved, as a share of the thickness.
    """

    rings: tuple[Ring, ...]
    axis: int = 1
    slant: tuple[float, float] = (0.0, 0.0)
    widths: tuple[tuple[float, float], ...] = ()
    name: str = "extrusion"
    at: float = 0.0
    word = said("extrusion")
    rank = 4

    def __post_init__(self) -> None:
        if self.axis not in (0, 1, 2) or not self.rings:
            raise VolumeError(_("An extrusion needs an outline and an own axis to run along."))
        if not all(math.isfinite(v) and abs(v) <= 100 for v in self.slant):
            raise VolumeError(
                _("An extrusion's slant is a share of its sides: type a smaller one.")
            )
        if not (math.isfinite(self.at) and 0 <= self.at <= 1):
            raise VolumeError(_("A profile is shown on a plane between its two sides: type 1/2."))
        places = [place for place, _unused in self.widths]
        if len(places) == 1 or len(places) > MOST_WIDTHS:
            raise VolumeError(
                _("A varying width is given at 2 to {most_widths} places.").format(
                    most_widths=MOST_WIDTHS
                )
            )
        if any(not b - a > SAME for a, b in itertools.pairwise(places)):
            raise VolumeError(
                _("The places of a varying width go from front to back: put them in order.")
            )
        if not all(math.isfinite(p) and 0 < w <= 1 for p, w in self.widths):
            raise VolumeError(_("A width is a share of the full one, above 0 and up to 1."))
        if places and (places[0] > SAME or places[-1] < 1 - SAME):
            raise VolumeError(_("A varying width is given at both ends: begin at 0 and end at 1."))
        if self.widths and any(self.slant):
            raise VolumeError(_("A slanting extrusion has one width: take the widths away first."))

    @property
    def called(self) -> str:
        """Its name."""
        return self.name

    @property
    def cross(self) -> tuple[int, int]:
        """The two own axes its outline lies along."""
        return CROSS[self.axis]

    def profile(self, sides: Sides, holes: Holes) -> Carried:
        """Its outline in mm, holes in it, carried through a box of the given sides."""
        if any(not 0 <= one.face <= 1 for one in holes):
            raise VolumeError(_("A hole through an extrusion begins on one of its ends."))
        rings = [*self.rings, *(pierced(one, self.axis, sides) for one in holes)]
        return carried(rings, self.axis, sides, self.slant, self.widths)

    def body(self, sides: Sides, holes: Holes) -> Body:
        """Near end, far end, then its sides in the order of its outline."""
        return extruded_body(self.profile(sides, holes))

    def faceted(self, sides: Sides) -> Body | None:
        """Itself where it is flat all over; a bent one is not cut."""
        one = self.profile(sides, ())
        return extruded_body(one) if one.straight else None

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """Its outline's area less its holes times the thickness."""
        return contents_mm3(self.profile(sides, holes))

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin, arcs in chords."""
        return carried_triangles(self.profile(sides, holes))

    def mirrored(self) -> Self:
        """Its outline turned over; carried along its width, begun at the other end."""
        if self.axis == 0:
            across, along = self.slant
            far = tuple(
                tuple(replace(knot, x=knot.x + across, y=knot.y + along) for knot in ring)
                for ring in self.rings
            )
            return replace(self, rings=far, slant=(-across, -along))
        widths = tuple((1.0 - place, width) for place, width in reversed(self.widths))
        rings = tuple(mirrored(ring) for ring in self.rings)
        return replace(self, rings=rings, widths=widths, slant=(-self.slant[0], self.slant[1]))

    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """Its near (0) or far (1) end."""
        on_ends_only(circle)
        if self.widths:
            raise VolumeError(
                _("Its sides are not flat where the width varies: make it straight first.")
            )
        return end_plane(self.axis, sides, circle.face, self.slant), circle.face

    def mirrored_circle(
        self, circle: FaceCircle, body: Body, twin: Body, width_mm: float
    ) -> FaceCircle | None:
        """The circle on the end across from it."""
        return mirrored_on_end(circle, self.axis, self.slant)

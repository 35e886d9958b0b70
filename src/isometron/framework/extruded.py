"""Extrusions and profiles: an outline carried through a volume along one of its own axes."""

import itertools
import math
from dataclasses import dataclass

from isometron.framework.outlines import Flat, Ring, area, flat, refuse_crossings
from isometron.perspective.errors import VolumeError

MOST_WIDTHS = 24
"""More places at which a width is given are no longer judged by eye."""

CROSS = ((1, 2), (0, 2), (0, 1))
"""The two own axes an outline lies along, for an extrusion along width, depth or height."""

Sides = tuple[float, float, float]


@dataclass(frozen=True)
class Extruded:
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

    def __post_init__(self) -> None:
        if self.axis not in (0, 1, 2) or not self.rings:
            raise VolumeError("An extrusion needs an outline and an own axis to run along.")
        if not all(math.isfinite(v) and abs(v) <= 100 for v in self.slant):
            raise VolumeError("An extrusion's slant is a share of its sides: type a smaller one.")
        if not (math.isfinite(self.at) and 0 <= self.at <= 1):
            raise VolumeError("A profile is shown on a plane between its two sides: type 1/2.")
        places = [place for place, _ in self.widths]
        if len(places) == 1 or len(places) > MOST_WIDTHS:
            raise VolumeError(f"A varying width is given at 2 to {MOST_WIDTHS} places.")
        if any(not b - a > 1e-9 for a, b in itertools.pairwise(places)):
            raise VolumeError(
                "The places of a varying width go from front to back: put them in order."
            )
        if not all(math.isfinite(p) and 0 < w <= 1 for p, w in self.widths):
            raise VolumeError("A width is a share of the full one, above 0 and up to 1.")
        if places and (places[0] > 1e-9 or places[-1] < 1 - 1e-9):
            raise VolumeError("A varying width is given at both ends: begin at 0 and end at 1.")
        if self.widths and any(self.slant):
            raise VolumeError("A slanting extrusion has one width: take the widths away first.")

    @property
    def kind(self) -> str:
        """What it is."""
        return self.name

    @property
    def cross(self) -> tuple[int, int]:
        """The two own axes its outline lies along."""
        return CROSS[self.axis]


def flats_of(shape: Extruded, sides: Sides) -> list[Flat]:
    """Its rings in mm. Raises VolumeError when they cross themselves or each other."""
    first, second = shape.cross
    rings = [flat(ring, sides[first], sides[second]) for ring in shape.rings]
    refuse_crossings(rings)
    return rings


def width_at(shape: Extruded, share: float) -> float:
    """Share of the full thickness at a share along the first cross axis."""
    if not shape.widths:
        return 1.0
    for (a, first), (b, last) in zip(shape.widths, shape.widths[1:], strict=False):
        if share <= b:
            return first + (last - first) * (share - a) / (b - a)
    return shape.widths[-1][1]


def contents_mm3(shape: Extruded, sides: Sides) -> float:
    """True contents, mm³: the outline's area less its holes times the thickness (for a varying one
    by slices, exact to 1e-6)."""
    rings = flats_of(shape, sides)
    size = abs(area(rings[0])) - sum(abs(area(hole)) for hole in rings[1:])
    if not shape.widths:
        return size * sides[shape.axis]
    from isometron.framework.outlines import crossings

    across = sides[shape.cross[0]]
    count, total = 2000, 0.0
    for i in range(count):
        share = (i + 0.5) / count
        ends = crossings(rings, 0, share * across)
        high = sum(b - a for a, b in zip(ends[::2], ends[1::2], strict=False))
        total += high * width_at(shape, share) * across / count
    return total * sides[shape.axis]

"""Turned forms: a stack of radii by height, and circles in space.

Between two stations the square of the radius is a quadratic in the height, r² = a + b·h + c·h², so
that every piece of a turned form is a piece of a quadric (cone, cylinder, sphere, hyperboloid …)
and its outline and sections are conics. A smooth stack is the quadratic spline through r² of
Schumaker (SIAM J. Numer. Anal. 20, 1983): one slope at every station, one knot between two.
"""

import itertools
import math
from dataclasses import dataclass

import numpy as np

from isometron.perspective.errors import VolumeError

Station = tuple[float, float]
"""Height as a share of the length along the axle, radius as a share of the largest radius."""

MOST_STATIONS = 120
"""More radii than this are not a sketcher's lathe."""

LEVEL_WITH = 1e-9
"""Shares that differ by less than this are the same height, radius or slope."""

JOINS = ("straight", "smooth", "dome")


@dataclass(frozen=True)
class Turned:
    """A form turned about an own axis (0 width, 1 depth, 2 height) through the middle of its box.

    stations: from the base of the axle on, joined straight or smoothly ("dome": a quarter round
    that leaves the wider end upright). bore: radius of a hole along the axle, as a share. rings:
    further circles drawn on it (rims, hubs), as stations. name: what a sketcher calls it.
    """

    stations: tuple[Station, ...]
    join: str = "straight"
    axis: int = 2
    bore: float = 0.0
    rings: tuple[Station, ...] = ()
    name: str = "turned form"

    def __post_init__(self) -> None:
        if self.join not in JOINS or self.axis not in (0, 1, 2):
            raise VolumeError("A turned form is joined straight, smoothly or as a dome.")
        if not 2 <= len(self.stations) <= MOST_STATIONS:
            raise VolumeError(f"A turned form needs 2 to {MOST_STATIONS} radii, from its base up.")
        for height, radius in (*self.stations, *self.rings):
            if not (math.isfinite(height) and 0 <= height <= 1):
                raise VolumeError("A height of a turned form lies between its base and its top.")
            if not (math.isfinite(radius) and 0 <= radius <= 1):
                raise VolumeError("A radius of a turned form lies between 0 and the largest one.")
        heights = [height for height, _ in self.stations]
        if any(b < a for a, b in itertools.pairwise(heights)):
            raise VolumeError("The heights of a turned form go up: put them in order.")
        if heights[-1] - heights[0] <= LEVEL_WITH or max(r for _, r in self.stations) <= 0:
            raise VolumeError("That turned form has no body: give it some height and radius.")
        if self.join == "smooth" and any(
            b - a <= LEVEL_WITH for a, b in itertools.pairwise(heights)
        ):
            raise VolumeError("A smooth form has one radius at every height: join it straight.")
        if self.bore and not 0 < self.bore < min(r for _, r in self.stations):
            raise VolumeError("The bore must be narrower than the form everywhere.")

    @property
    def kind(self) -> str:
        """What it is."""
        return self.name


@dataclass(frozen=True)
class Loop:
    """A circle or arc in space, fitted in the box across an own axis, at half its length: a line
    that hides nothing. start_deg is counted from the first cross axis to the second."""

    axis: int = 2
    start_deg: float = 0.0
    sweep_deg: float = 360.0
    shares: tuple[float, ...] = (1.0,)

    def __post_init__(self) -> None:
        if self.axis not in (0, 1, 2) or not math.isfinite(self.start_deg):
            raise VolumeError("A circle lies across the width, depth or height of its box.")
        if not (math.isfinite(self.sweep_deg) and 0 < abs(self.sweep_deg) <= 360):
            raise VolumeError("An arc turns by more than 0° and up to 360°: type another angle.")
        if not self.shares or not all(0 < share <= 1 for share in self.shares):
            raise VolumeError("Concentric circles have radii between 0 and the largest one.")

    @property
    def kind(self) -> str:
        """What it is."""
        return "circle" if abs(self.sweep_deg) == 360 else "arc"


@dataclass(frozen=True)
class Segment:
    """A piece of a turned form between two heights, mm: r² = a + b·h + c·h². straight: a cone or
    cylinder. level: an annulus at one height (then only the radii count)."""

    low: float
    high: float
    a: float
    b: float
    c: float
    straight: bool

    def squared(self, height: float) -> float:
        """r² at a height, never below 0."""
        return max(self.a + self.b * height + self.c * height * height, 0.0)

    def radius(self, height: float) -> float:
        """Radius at a height, mm."""
        return math.sqrt(self.squared(height))


def segments_of(shape: Turned, length_mm: float, radius_mm: float) -> tuple[Segment, ...]:
    """The pieces of a turned form of a length and a largest radius, mm, from its base up."""
    stations = [(h * length_mm, r * radius_mm) for h, r in shape.stations]
    if shape.join == "smooth":
        return _smooth(stations)
    pieces = []
    for (low, first), (high, last) in itertools.pairwise(stations):
        if high - low <= LEVEL_WITH * length_mm:
            continue
        if shape.join == "dome":
            wide, narrow = max(first, last), min(first, last)
            foot = low if first >= last else high
            bend = (narrow * narrow - wide * wide) / (high - low) ** 2
            a, b, c = wide * wide + bend * foot * foot, -2 * bend * foot, bend
            pieces.append(Segment(low, high, a, b, c, False))
            continue
        slope = (last - first) / (high - low)
        foot = first - slope * low
        pieces.append(Segment(low, high, foot * foot, 2 * slope * foot, slope * slope, True))
    return tuple(pieces)


def _smooth(stations: list[Station]) -> tuple[Segment, ...]:
    height = np.array([h for h, _ in stations])
    square = np.array([r * r for _, r in stations])
    rise = np.diff(square) / np.diff(height)
    slope = np.zeros(len(height))
    for i in range(1, len(height) - 1):
        before, after = rise[i - 1], rise[i]
        if before * after > 0:
            slope[i] = 2 * before * after / (before + after)
    slope[0] = _end_slope(rise[0], slope[1], free=len(height) > 2)
    slope[-1] = _end_slope(rise[-1], slope[-2], free=len(height) > 2)
    pieces: list[Segment] = []
    for i in range(len(rise)):
        low, high = float(height[i]), float(height[i + 1])
        knot, bend = (low + high) / 2, 2 * rise[i] - (slope[i] + slope[i + 1]) / 2
        if abs(slope[i] + slope[i + 1] - 2 * rise[i]) <= LEVEL_WITH * abs(square).max() / high:
            curve = float(slope[i + 1] - slope[i]) / (2 * (high - low))
            pieces.append(_piece(low, high, float(square[i]), float(slope[i]), curve))
            continue
        first = float(bend - slope[i]) / (2 * (knot - low))
        pieces.append(_piece(low, knot, float(square[i]), float(slope[i]), first))
        middle = pieces[-1].a + pieces[-1].b * knot + pieces[-1].c * knot * knot
        second = float(slope[i + 1] - bend) / (2 * (high - knot))
        pieces.append(_piece(knot, high, middle, float(bend), second))
    return tuple(pieces)


def _end_slope(rise: float, inner: float, *, free: bool) -> float:
    """The slope at an end that leaves one parabola over the last interval, never turning back."""
    slope = 2 * rise - inner if free else rise
    return float(slope if slope * rise > 0 else 0.0)


def _piece(low: float, high: float, square: float, slope: float, bend: float) -> Segment:
    """The quadratic with a value and slope at `low`."""
    a = square - slope * low + bend * low * low
    return Segment(low, high, a, slope - 2 * bend * low, bend, False)


def contents_mm3(shape: Turned, length_mm: float, radius_mm: float) -> float:
    """True contents, mm³: π times the integral of r² over the height, less the bore."""
    total = 0.0
    for piece in segments_of(shape, length_mm, radius_mm):
        low, high = piece.low, piece.high
        total += piece.a * (high - low) + piece.b * (high**2 - low**2) / 2
        total += piece.c * (high**3 - low**3) / 3
        total -= (shape.bore * radius_mm) ** 2 * (high - low)
    return math.pi * total


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
        raise VolumeError("The hub lies inside the rim, and the rim inside the tyre.")
    edge = 1.0 - shoulder
    stations = ((0.0, edge), (shoulder, 1.0), (1 - shoulder, 1.0), (1.0, edge))
    rings = ((0.0, rim), (0.0, hub), (1.0, rim), (1.0, hub))
    return Turned(stations, axis=1, rings=rings, name="wheel")

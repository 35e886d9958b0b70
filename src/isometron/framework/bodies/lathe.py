"""The lathe: a stack of radii by height as pieces of quadrics.

Between two stations the square of the radius is a quadratic in the height, r² = a + b·h + c·h², so
that every piece of a turned form is a piece of a quadric (cone, cylinder, sphere, hyperboloid …)
and its outline and sections are conics. A smooth stack is the quadratic spline through r² of
Schumaker (SIAM J. Numer. Anal. 20, 1983): one slope at every station, one knot between two.
"""

import itertools
import math
from collections.abc import Sequence

import numpy as np

from isometron.framework.bodies.body import Segment

Station = tuple[float, float]
"""Height as a share of the length along the axle, radius as a share of the largest radius."""

LEVEL_WITH = 1e-9
"""Shares that differ by less than this are the same height, radius or slope."""


def segments_of(
    shares: Sequence[Station], join: str, length_mm: float, radius_mm: float
) -> tuple[Segment, ...]:
    """The pieces of a turned form of a length and a largest radius, mm, from its base up; join is
    "straight", "smooth" or "dome" (a quarter round that leaves the wider end upright)."""
    stations = [(h * length_mm, r * radius_mm) for h, r in shares]
    if join == "smooth":
        return _smooth(stations)
    pieces = []
    for (low, first), (high, last) in itertools.pairwise(stations):
        if high - low <= LEVEL_WITH * length_mm:
            continue
        if join == "dome":
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


def contents_mm3(pieces: Sequence[Segment], bore_mm: float) -> float:
    """True contents, mm³: π times the integral of r² over the height, less the bore."""
    total = 0.0
    for piece in pieces:
        low, high = piece.low, piece.high
        total += piece.a * (high - low) + piece.b * (high**2 - low**2) / 2
        total += piece.c * (high**3 - low**3) / 3
        total -= bore_mm**2 * (high - low)
    return math.pi * total

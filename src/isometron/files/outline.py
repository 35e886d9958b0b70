"""SVG outlines for profiles: closed paths as rings of straight lines and arcs of circles."""

import math
from collections.abc import Callable, Sequence
from pathlib import Path

import numpy as np

from isometron.files.disk import read_bytes
from isometron.files.svg_paths import Subpath, closed_paths
from isometron.framework.outlines import (
    Flat,
    Knot,
    Ring,
    area,
    biarc,
    centre_of,
    flat,
    refuse_crossings,
)
from isometron.nearness import SAME
from isometron.perspective.errors import FileError, IsometronError
from isometron.perspective.eye import Array
from isometron.words import _

WITHIN_MM = 0.05
"""Curves that are no arcs of circles are taken as arcs that miss them by less than this."""

MOST_RINGS, MOST_KNOTS = 40, 400
"""What a sheet file holds of one profile."""

LARGEST_BYTES = 16 * 1024 * 1024
_DEEPEST = 10


def read_outline_file(path: Path) -> tuple[Ring, ...]:
    """The closed outlines of an SVG file as rings in mm, y up, the largest first; the others are
    its holes. Raises FileError with the sentence to show."""
    content = read_bytes(path, LARGEST_BYTES, _("an outline"))
    try:
        rings = [ring for sub in closed_paths(content) if len(ring := _ring(sub)) >= 2]
        return _sorted(rings)
    except IsometronError as error:
        raise FileError(
            _("“{path}” gives no outline: {error}").format(path=path, error=error)
        ) from error


def _sorted(rings: Sequence[Ring]) -> tuple[Ring, ...]:
    if not rings:
        raise FileError(_("it holds no closed path; draw one."))
    if len(rings) > MOST_RINGS:
        raise FileError(
            _("it holds {n} closed paths; leave at most {most}.").format(
                n=len(rings), most=MOST_RINGS
            )
        )
    flats = [flat(ring, 1.0, 1.0) for ring in rings]
    order = sorted(range(len(rings)), key=lambda i: -abs(area(flats[i])))
    refuse_crossings([flats[i] for i in order])
    return tuple(rings[i] for i in order)


def _ring(path: Subpath) -> Ring:
    """One closed path as a ring."""
    knots: list[Knot] = []
    for segment in path:
        start, end = segment.start, segment.end
        if segment.turn is None:
            knots += _curve(segment.point, 0.0, 1.0, 0)
        elif segment.turn != 0:
            knots += _circular(start, end, segment.turn)
        elif float(np.abs(end - start).max()) >= SAME:
            knots.append(Knot(float(start[0]), float(start[1])))
        if len(knots) > MOST_KNOTS:
            raise FileError(_("one of its outlines bends too often; bring in a simpler drawing."))
    return tuple(knots)


def _circular(start: Array, end: Array, turn: float) -> list[Knot]:
    """An arc of a circle by a turn in radians, in parts of at most half a turn."""
    if abs(turn) <= math.pi + SAME:
        return [Knot(float(start[0]), float(start[1]), math.tan(turn / 4))]
    if float(np.abs(end - start).max()) < SAME:
        return []
    centre, radius, first, _unused = centre_of(start, end, math.tan(turn / 4))
    middle = centre + radius * np.array([math.cos(first + turn / 2), math.sin(first + turn / 2)])
    return [*_circular(start, middle, turn / 2), *_circular(middle, end, turn / 2)]


def _curve(point: Callable[[float], Array], low: float, high: float, depth: int) -> list[Knot]:
    """A curve from low to high as biarcs that miss it by less than WITHIN_MM."""
    start, end = point(low), point(high)
    step = 1e-5 * (high - low)
    way, onward = point(low + step) - start, end - point(high - step)
    pieces: list[tuple[float, float, float]] = [(float(start[0]), float(start[1]), 0.0)]
    if min(np.hypot(*way), np.hypot(*onward)) > 0 and float(np.hypot(*(end - start))) > 0:
        pieces = biarc(start, end, way / np.hypot(*way), onward / np.hypot(*onward))
    places = [point(low + (high - low) * share) for share in np.linspace(0, 1, 9)[1:-1]]
    off = max(_off(place, pieces, end) for place in places)
    if off <= WITHIN_MM or depth >= _DEEPEST:
        return [Knot(x, y, bulge) for x, y, bulge in pieces]
    middle = (low + high) / 2
    return [*_curve(point, low, middle, depth + 1), *_curve(point, middle, high, depth + 1)]


def _off(place: Array, pieces: Sequence[tuple[float, float, float]], end: Array) -> float:
    """Distance of a place to a run of arcs."""
    table = np.array(pieces)
    ring = Flat(table[:, :2], table[:, 2])
    found = math.inf
    ends = [*table[1:, :2], end]
    for start, stop, bulge in zip(ring.corners, ends, table[:, 2].tolist(), strict=True):
        if bulge == 0:
            run = stop - start
            share = float(np.clip((place - start) @ run / (run @ run), 0, 1))
            found = min(found, float(np.hypot(*(place - start - share * run))))
            continue
        centre, radius, first, turn = centre_of(start, stop, bulge)
        away = place - centre
        angle = math.atan2(away[1], away[0])
        if (angle - first) * math.copysign(1.0, turn) % (2 * math.pi) <= abs(turn):
            found = min(found, abs(float(np.hypot(*away)) - radius))
        found = min(found, *(float(np.hypot(*(place - p))) for p in (start, stop)))
    return found

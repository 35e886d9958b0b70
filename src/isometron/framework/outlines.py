"""Outlines: closed rings of straight lines and arcs of circles, drawn flat.

A ring is a tuple of knots. What runs from one knot to the next is straight, an arc with a bulge
(the tangent of a quarter of its turn, positive to the right of the way), or, where either knot is
smooth, two arcs that meet without a corner (a biarc).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import ROUNDING, SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

BESIDE = 1e-10
"""A line that comes nearer to a corner, of the outline's size, is moved aside from it."""

MOST_KNOTS = 400
"""More knots than this are a picture, not an outline."""

FARTHEST_MM = 1e12
"""No point of an outline lies farther off than this, mm."""

FARTHEST_BULGE = 1e9
"""An arc that bulges by more half chords is no arc that can be drawn."""

CHORD_DEG = 5.0
"""Chords of this turn stand for arcs when an outline is tried for crossings."""

SHORTEST = 1e-9
"""Knots nearer than this share of the outline's size are one."""


@dataclass(frozen=True)
class Knot:
    """A knot: place as shares of the two sides across, the bulge of the arc to the next knot, and
    whether the curve runs through it smoothly."""

    x: float
    y: float
    bulge: float = 0.0
    smooth: bool = False

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (self.x, self.y, self.bulge)):
            raise VolumeError(_("A point of an outline is not measured in numbers: move it."))


Ring = tuple[Knot, ...]
Piece = tuple[float, float, float]
"""x, y in mm and the bulge to the next piece's place."""


def rectangle() -> Ring:
    """The whole box."""
    return (Knot(0.0, 0.0), Knot(1.0, 0.0), Knot(1.0, 1.0), Knot(0.0, 1.0))


def circle(x: float, y: float, half_across: float) -> Ring:
    """A whole circle as two half turns: its middle and its radius as shares of the sides across."""
    return (Knot(x - half_across, y, 1.0), Knot(x + half_across, y, 1.0))


@dataclass(frozen=True, eq=False)
class Flat:
    """A ring in mm: corners (n, 2) in order, and the bulge (n,) of what runs to the next one."""

    corners: Array
    bulges: Array

    @property
    def after(self) -> Array:
        """The corner after each."""
        return np.roll(self.corners, -1, axis=0)


def flat(ring: Ring, across_mm: float, along_mm: float) -> Flat:
    """A ring at its size, smooth knots turned into arcs. Raises VolumeError when it has no room."""
    if not 2 <= len(ring) <= MOST_KNOTS:
        raise VolumeError(
            _("An outline needs 2 to {most_knots} points.").format(most_knots=MOST_KNOTS)
        )
    places = np.array([(k.x * across_mm, k.y * along_mm) for k in ring])
    size = float(np.ptp(places, axis=0).max())
    gaps = np.linalg.norm(np.roll(places, -1, axis=0) - places, axis=1)
    if not size > 0 or float(gaps.min()) <= SHORTEST * size:
        raise VolumeError(_("Two points of that outline lie in one place: move one of them."))
    pieces: list[Piece] = []
    count = len(ring)
    for i, knot in enumerate(ring):
        j = (i + 1) % count
        if knot.bulge == 0 and (knot.smooth or ring[j].smooth):
            pieces += biarc(places[i], places[j], _way(ring, places, i), _way(ring, places, j))
        else:
            pieces.append((float(places[i, 0]), float(places[i, 1]), knot.bulge))
    table = np.array(pieces)
    return Flat(table[:, :2], table[:, 2])


def _way(ring: Ring, places: Array, i: int) -> Array | None:
    """Unit direction in which the curve runs through a knot: along the circle through it and its
    neighbours; None at a corner."""
    if not ring[i].smooth:
        return None
    before, here, after = places[i - 1], places[i], places[(i + 1) % len(ring)]
    into, out = here - before, after - here
    a, b = float(into @ into), float(out @ out)
    way = into * b + out * a
    length = float(np.linalg.norm(way))
    return np.asarray(way / length if length > ROUNDING * (a * b) ** 0.75 else out / math.sqrt(b))


def biarc(start: Array, end: Array, way: Array | None, onward: Array | None) -> list[Piece]:
    """Two arcs from start to end that leave along `way` and arrive along `onward`; one arc when
    only one of them is given (Bolton, Computer-Aided Design 7, 1975)."""
    run = end - start
    if way is None or onward is None:
        given = way if onward is None else onward
        if given is None:
            return [(float(start[0]), float(start[1]), 0.0)]
        half = math.atan2(float(run[0] * given[1] - run[1] * given[0]), float(run @ given))
        turn = -half if onward is None else half
        return [(float(start[0]), float(start[1]), math.tan(turn / 2))]
    both = way + onward
    dot = float(way @ onward)
    a, b, c = 2 * (1 - dot), 2 * float(run @ both), -float(run @ run)
    reach = -c / b if abs(a) < ROUNDING and b else 0.0
    if abs(a) >= ROUNDING:
        reach = (-b + math.sqrt(max(b * b - 4 * a * c, 0.0))) / (2 * a)
    if not reach > 0:
        return [(float(start[0]), float(start[1]), 0.0)]
    joint = (start + reach * way + end - reach * onward) / 2
    first = _bulge(start, joint, way)
    back = _bulge(end, joint, -onward)
    return [(float(start[0]), float(start[1]), first), (float(joint[0]), float(joint[1]), -back)]


def _bulge(start: Array, end: Array, way: Array) -> float:
    """Bulge of the arc that leaves start along a direction and ends at `end`."""
    run = end - start
    half = math.atan2(float(way[0] * run[1] - way[1] * run[0]), float(way @ run))
    return math.tan(half / 2)


def centre_of(start: Array, end: Array, bulge: float) -> tuple[Array, float, float, float]:
    """Centre, radius, start angle and signed turn (radians, counter-clockwise positive) of an arc
    from start to end. A positive bulge turns counter-clockwise."""
    turn = 4.0 * math.atan(bulge)
    run = end - start
    chord = float(np.hypot(*run))
    left = np.array([-run[1], run[0]]) / chord
    sagitta = chord * (1.0 - bulge * bulge) / (4.0 * bulge)
    centre = (start + end) / 2 + left * sagitta
    radius = chord * (1.0 + bulge * bulge) / (4.0 * abs(bulge))
    first = math.atan2(start[1] - centre[1], start[0] - centre[0])
    return centre, radius, first, turn


def curves_of(ring: Flat) -> list[Array]:
    """The pieces of a ring in order, each as its arcs (k, 3, 3) homogeneous: a straight piece is
    one arc, a curved one has arcs of at most a quarter turn."""
    found: list[Array] = []
    for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
        if bulge == 0:
            line = np.ones((1, 3, 3))
            line[0, :, :2] = start, (start + end) / 2, end
            found.append(line)
            continue
        centre, radius, first, turn = centre_of(start, end, bulge)
        count = max(1, math.ceil(abs(turn) / (math.pi / 2) - 1e-9))
        angles = first + turn * np.arange(count + 1) / count
        ends = centre + radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)
        ends[0], ends[-1] = start, end
        weight = math.cos(turn / count / 2)
        middle = (angles[:-1] + angles[1:]) / 2
        arcs = np.ones((count, 3, 3))
        arcs[:, 0, :2], arcs[:, 2, :2] = ends[:-1], ends[1:]
        arcs[:, 1, :2] = weight * centre + radius * np.stack(
            [np.cos(middle), np.sin(middle)], axis=1
        )
        arcs[:, 1, 2] = weight
        found.append(arcs)
    return found


def chorded(ring: Flat, chord_deg: float = CHORD_DEG) -> Array:
    """The ring as a polygon (m, 2): arcs in chords of at most so many degrees."""
    points: list[Array] = []
    for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
        points.append(start)
        if bulge == 0:
            continue
        centre, radius, first, turn = centre_of(start, end, bulge)
        count = max(2, math.ceil(math.degrees(abs(turn)) / chord_deg))
        angles = first + turn * np.arange(1, count) / count
        points += list(centre + radius * np.stack([np.cos(angles), np.sin(angles)], axis=1))
    return np.array(points)


def area(ring: Flat) -> float:
    """Signed area, mm², counter-clockwise positive: the polygon and a segment over each chord."""
    (x, y), (u, v) = ring.corners.T, ring.after.T
    total = float(x @ v - u @ y) / 2
    for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
        if bulge:
            _centre, radius, _start, turn = centre_of(start, end, bulge)
            total += radius * radius * (turn - math.sin(turn)) / 2
    return total


def centroid(ring: Flat) -> Array:
    """The centroid (2,) of what a ring encloses: of its polygon and the segments over its chords,
    weighed by their areas."""
    a, b = ring.corners, ring.after
    cross = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    total, moment = float(cross.sum()) / 2, cross @ (a + b) / 6
    for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
        if bulge:
            centre, radius, first, turn = centre_of(start, end, bulge)
            size = radius * radius * (turn - math.sin(turn)) / 2
            out = (
                4 * radius * math.sin(abs(turn) / 2) ** 3 / (3 * (abs(turn) - math.sin(abs(turn))))
            )
            middle = first + turn / 2
            total += size
            moment = moment + size * (centre + out * np.array([math.cos(middle), math.sin(middle)]))
    return np.asarray(moment / total)


def refuse_crossings(rings: Sequence[Flat]) -> None:
    """Raise VolumeError when rings cross themselves or each other, or a hole leaves the outline.

    Tried on chords of 5°.
    """
    if not all(map(_near_enough, rings)):
        raise VolumeError(_("That outline reaches farther than can be drawn: pull its points in."))
    polygons = [chorded(ring) for ring in rings]
    starts = np.concatenate(polygons)
    ends = np.concatenate([np.roll(one, -1, axis=0) for one in polygons])
    owner = np.repeat(np.arange(len(polygons)), [len(one) for one in polygons])
    place = np.concatenate([np.arange(len(one)) for one in polygons])
    count = np.array([len(one) for one in polygons])[owner]
    if _cross(starts, ends, owner, place, count):
        raise VolumeError(_("That outline crosses itself: pull its points apart."))
    for hole in polygons[1:]:
        if not parity(polygons[0], hole[:1])[0]:
            raise VolumeError(_("That hole lies outside the outline: move it inside."))
    if abs(area(rings[0])) <= ROUNDING * float(np.ptp(starts, axis=0).max()) ** 2:
        raise VolumeError(_("That outline has no area: pull its points apart."))


def _near_enough(ring: Flat) -> bool:
    """Whether a ring can be drawn: its corners, and its arcs, which reach as far beyond two of them
    as their bulge tells."""
    far = float(np.abs(ring.corners).max())
    return far <= FARTHEST_MM and float(np.abs(ring.bulges).max(initial=0.0)) <= FARTHEST_BULGE


def _cross(
    starts: Array,
    ends: Array,
    owner: NDArray[np.intp],
    place: NDArray[np.intp],
    count: NDArray[np.intp],
) -> bool:
    run = ends - starts

    def side(of: Array) -> Array:
        away = of[None] - starts[:, None]
        return np.asarray(run[:, None, 0] * away[..., 1] - run[:, None, 1] * away[..., 0])

    slack = ROUNDING * float(np.ptp(starts, axis=0).max()) ** 2
    a, b = side(starts), side(ends)
    apart = (a * b) < -slack * slack
    cross = apart & apart.T
    same = owner[:, None] == owner[None]
    beside = same & np.isin((place[:, None] - place[None]) % count[:, None], (0, 1))
    beside |= beside.T
    return bool((cross & ~beside).any())


def parity(polygon: Array, points: Array) -> Array:
    """(p,) whether points (p, 2) lie inside a polygon (m, 2), by crossings of a level ray."""
    x, y = points[:, 0, None], points[:, 1, None]
    after = np.roll(polygon, -1, axis=0)
    spans = (polygon[:, 1] > y) != (after[:, 1] > y)
    rise = np.where(after[:, 1] == polygon[:, 1], 1.0, after[:, 1] - polygon[:, 1])
    at = polygon[:, 0] + (y - polygon[:, 1]) / rise * (after[:, 0] - polygon[:, 0])
    return np.asarray((spans & (x < at)).sum(axis=1) % 2 == 1)


def within(rings: Sequence[Flat], points: Array) -> Array:
    """(p,) whether points (p, 2) lie inside the outline and outside its holes: exact, by the parity
    of the polygon of corners and of the circle segments over its chords."""
    inside = np.zeros(len(points), dtype=bool)
    for ring in rings:
        inside ^= parity(ring.corners, points) if len(ring.corners) > 2 else False
        for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
            if bulge == 0:
                continue
            centre, radius, _start, _turn = centre_of(start, end, bulge)
            run, away = end - start, points - start
            right = run[0] * away[:, 1] - run[1] * away[:, 0] < 0
            disc = ((points - centre) ** 2).sum(axis=1) < radius * radius
            inside ^= disc & (right if bulge > 0 else ~right)
    return inside


def crossings(rings: Sequence[Flat], axis: int, at_mm: float) -> list[float]:
    """Where the rings cross the line x = at (axis 0) or y = at (axis 1): the other coordinate of
    every crossing, in order."""
    found: list[float] = []
    corners = np.concatenate([ring.corners for ring in rings])
    size = float(np.ptp(corners, axis=0).max())
    if (np.abs(corners[:, axis] - at_mm) < BESIDE * size).any():
        at_mm += SAME * size  # beside a corner, so that it is not counted twice or not at all
    for ring in rings:
        for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
            if bulge == 0:
                a, b = start[axis] - at_mm, end[axis] - at_mm
                if (a < 0) != (b < 0):
                    found.append(float(start[1 - axis] + a / (a - b) * (end - start)[1 - axis]))
                continue
            centre, radius, first, turn = centre_of(start, end, bulge)
            off = at_mm - float(centre[axis])
            if abs(off) >= radius:
                continue
            reach = math.sqrt(radius * radius - off * off)
            for side in (-reach, reach):
                place = (off, side) if axis == 0 else (side, off)
                angle = math.atan2(place[1], place[0])
                way = (angle - first) * (1 if turn > 0 else -1) % (2 * math.pi)
                if way < abs(turn):
                    found.append(float(centre[1 - axis]) + side)
    return sorted(found)


def mirrored(ring: Ring) -> Ring:
    """The ring with its first direction turned round, run through the other way."""
    return turned_round(tuple(replace(k, x=1.0 - k.x) for k in ring), begin=0)


def turned_round(ring: Ring, begin: int | None = None) -> Ring:
    """A ring whose places have been turned over, run through the other way so that its arcs keep
    their bulges; begun at the knot across, or at one of the last ones."""
    turned, bulges = list(reversed(ring)), [k.bulge for k in reversed(ring)]
    knots = [
        replace(k, bulge=bulge) for k, bulge in zip(turned, [*bulges[1:], bulges[0]], strict=True)
    ]
    first = len(ring) // 2 if begin is None else begin
    return (*knots[first:], *knots[:first])

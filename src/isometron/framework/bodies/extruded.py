"""Extrusions as bodies: an outline with holes carried through a box along one of its own axes."""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body, Circle, Ends, Region, SweptPatch
from isometron.framework.bodies.flat import from_faces
from isometron.framework.bodies.making import Making
from isometron.framework.outlines import (
    Flat,
    Ring,
    area,
    centre_of,
    crossings,
    curves_of,
    flat,
    refuse_crossings,
)
from isometron.nearness import CLOSE, ROUNDING, SAME
from isometron.perspective.conics import between, roots, straight
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides

CROSS = ((1, 2), (0, 2), (0, 1))
"""The two own axes an outline lies along, for an extrusion along width, depth or height."""

Widths = tuple[tuple[float, float], ...]


class Carried(NamedTuple):
    """An outline carried through a box: its rings in mm, the plane they lie in as two directions
    (2, 3), the way from the near end to the far one, where the ends begin and stop, and whether
    each ring runs counter-clockwise about the body."""

    rings: tuple[Flat, ...]
    axis: int
    plane: Array
    way: Array
    ends: Ends

    @property
    def straight(self) -> bool:
        """Whether it is flat all over: no arc in its outline, the same width everywhere."""
        return len(self.ends.breaks) == 2 and not any(ring.bulges.any() for ring in self.rings)

    @property
    def to_flat(self) -> Array:
        """(3, 4) map from own mm to outline u, v (mm) and share of the way."""
        basis = np.stack([self.plane[0], self.plane[1], self.way])
        return np.concatenate([np.linalg.inv(basis.T), np.zeros((3, 1))], axis=1)

    @property
    def handed(self) -> float:
        """1 where plane and way are right-handed, else −1."""
        return math.copysign(1.0, float(np.cross(self.plane[0], self.plane[1]) @ self.way))

    def place(self, u: float, v: float, share: float) -> Array:
        """Own mm (3,) of a place of the outline at a share of the way."""
        return np.asarray(u * self.plane[0] + v * self.plane[1] + share * self.way)


def carried(
    rings: Sequence[Ring], axis: int, sides: Sides, slant: tuple[float, float], widths: Widths
) -> Carried:
    """An outline (first ring) with holes, in shares of the sides, carried along an own axis; slant:
    how far the far end is shifted across, as shares; widths: (place, width) as shares, () straight.

    Raises VolumeError when the rings cross themselves or each other.
    """
    own = np.eye(3)
    first, second = CROSS[axis]
    flats = flats_of(rings, axis, sides)
    way = own[axis] * sides[axis]
    way = way + slant[0] * sides[first] * own[first] + slant[1] * sides[second] * own[second]
    plane = np.stack([own[first], own[second]])
    return Carried(tuple(flats), axis, plane, way, ends_of(widths, sides[first]))


def flats_of(rings: Sequence[Ring], axis: int, sides: Sides) -> list[Flat]:
    """Rings in mm. Raises VolumeError when they cross themselves or each other."""
    first, second = CROSS[axis]
    found = [flat(ring, sides[first], sides[second]) for ring in rings]
    refuse_crossings(found)
    return found


def ends_of(widths: Widths, across: float) -> Ends:
    """Where an extrusion begins and stops along its way, for a first cross side of a length."""
    reach = 1e6 * max(across, 1.0)
    if not widths:
        return Ends(np.array([-reach, reach]), np.zeros(2), np.ones(2))
    places = np.array([place for place, _ in widths]) * across
    half = np.array([width for _, width in widths]) / 2
    return Ends(places, 0.5 - half, 0.5 + half)


def contents_mm3(one: Carried) -> float:
    """True contents, mm³: the outline's area less its holes times the thickness (for a varying one
    by slices, exact to 1e-6)."""
    thickness = float(one.way[one.axis])
    if len(one.ends.breaks) == 2:
        size = abs(area(one.rings[0])) - sum(abs(area(hole)) for hole in one.rings[1:])
        return size * thickness
    across = float(one.ends.breaks[-1])
    count, total = 2000, 0.0
    for i in range(count):
        u = (i + 0.5) / count * across
        cut = crossings(one.rings, 0, u)
        high = sum(b - a for a, b in zip(cut[::2], cut[1::2], strict=False))
        begin, stop = one.ends.at(u)
        total += high * (stop - begin) * across / count
    return total * thickness


def extruded_body(one: Carried, order: Sequence[int] = ()) -> Body:
    """An extrusion as a body: faces 0 and 1 are its near and far end, then its sides in the order
    of the outline. order: its plane surfaces in another order."""
    if one.straight and not order:
        return _straight_body(one)
    return _making(one).done(order)


def _straight_body(one: Carried) -> Body:
    total = sum(len(ring.corners) for ring in one.rings)
    points = [one.place(u, v, 0.0) for ring in one.rings for u, v in ring.corners.tolist()]
    near: list[list[int]] = []
    sides: list[list[list[int]]] = []
    begin = 0
    for number, ring in enumerate(one.rings):
        numbers = list(range(begin, begin + len(ring.corners)))
        begin += len(numbers)
        left = (area(ring) > 0) == (number == 0)
        outward = left == (one.handed > 0)
        for a, b in zip(numbers, [*numbers[1:], numbers[0]], strict=True):
            quad = [a, b, b + total, a + total]
            sides.append([quad if outward else quad[::-1]])
        near.append(numbers[::-1] if outward else numbers)
    far = [[v + total for v in reversed(ring)] for ring in near]
    points += [point + one.way for point in points]
    return from_faces(np.array(points), [near, far, *sides])


def _making(one: Carried) -> Making:
    making = Making()
    intervals = range(len(one.ends.breaks) - 1)
    faces = [[_end_face(making, one, i, far) for i in intervals] for far in (False, True)]
    making.ends = (faces[0][0], faces[1][0])
    for far in (False, True):
        for i in intervals[1:]:
            _rib(making, one, i, far, faces[far])
    for number, ring in enumerate(one.rings):
        skin_over(making, one, ring, (area(ring) > 0) == (number == 0), faces)
    return making


def lifted(flat_arcs: Array, plane: Array, way: Array, share: tuple[float, float]) -> Array:
    """Outline arcs (k, 3, 3) at a share of the way that is share[0] + share[1]·u."""
    u, v, w = flat_arcs[..., 0], flat_arcs[..., 1], flat_arcs[..., 2]
    along = share[0] * w + share[1] * u
    placed = np.empty((*flat_arcs.shape[:2], 4))
    placed[..., :3] = u[..., None] * plane[0] + v[..., None] * plane[1] + along[..., None] * way
    placed[..., 3] = w
    return placed


def _end_face(making: Making, one: Carried, i: int, far: bool) -> int:
    ends, plane, way = one.ends, one.plane, one.way
    share = ends.along(i)[far]
    rise = plane[0] + share[1] * way
    normal = np.cross(rise, plane[1]) * one.handed * (1.0 if far else -1.0)
    normal = normal / np.linalg.norm(normal)
    across = one.to_flat[0]
    within = []
    if len(ends.breaks) > 2 or share[1]:
        low, high = across.copy(), -across
        low[3], high[3] = -ends.breaks[i], ends.breaks[i + 1]
        within = [low, high]
    number = making.plane(normal, share[0] * way, within=within)
    making.regions.append(Region(number, list(one.rings), one.to_flat[:2]))
    return number


def _rib(making: Making, one: Carried, i: int, far: bool, faces: list[int]) -> None:
    """The lines across a face where its slope changes."""
    u = float(one.ends.breaks[i])
    share = one.ends.at(u)[far]
    heights = crossings(one.rings, 0, u)
    for low, high in zip(heights[::2], heights[1::2], strict=False):
        making.line(one.place(u, low, share), one.place(u, high, share), (faces[i - 1], faces[i]))


def skin_over(making: Making, one: Carried, ring: Flat, left: bool, faces: list[list[int]]) -> None:
    """The skin over one ring; left: the body lies to the left of it. faces: near and far ones, by
    interval of its ends."""
    curves = curves_of(ring)
    count = len(curves)
    firsts: list[int] = []
    lasts: list[int] = []
    for number in range(count):
        start, end, bulge = ring.corners[number], ring.after[number], float(ring.bulges[number])
        surfaces: list[int] = []
        for arc in curves[number]:
            for i, part in _by_interval(arc, one.ends):
                surfaces.append(_side(making, one, part, i, (start, end, bulge), left))
                if len(surfaces) > 1:
                    foot = part[0, :2] / part[0, 2]
                    _seam(making, one, foot, (surfaces[-2], surfaces[-1]))
                for far in (0, 1):
                    drawn = lifted(part[None], one.plane, one.way, one.ends.along(i)[far])
                    on = (surfaces[-1], faces[far][i])
                    if bulge:
                        making.draw(drawn, on)
                    else:
                        a, b = drawn[0, 0], drawn[0, 2]
                        making.line(a[:3] / a[3], b[:3] / b[3], on)
        firsts.append(surfaces[0])
        lasts.append(surfaces[-1])
        if bulge and abs(abs(bulge) - 1.0) < ROUNDING and count == 2:
            _hole_circles(making, one, ring)
    for number in range(count):
        on = (lasts[number - 1], firsts[number])
        _seam(making, one, ring.corners[number], on, drawn=not _smooth_at(ring, number))


def _seam(
    making: Making, one: Carried, foot: Array, on: tuple[int, int], *, drawn: bool = False
) -> None:
    """The line along the way over a place of the outline, where two side surfaces meet."""
    u, v = (float(x) for x in foot)
    begin, stop = one.ends.at(u)
    start, end = one.place(u, v, begin), one.place(u, v, stop)
    if drawn:
        making.line(start, end, on)
    else:
        making.bound(straight(start[None], end[None]), on)


def _hole_circles(making: Making, one: Carried, ring: Flat) -> None:
    """The two circles of a round hole or outline, for the record; its arcs are drawn already."""
    if len(one.ends.breaks) > 2:
        return
    middle = (ring.corners[0] + ring.corners[1]) / 2
    radius = float(np.linalg.norm(ring.corners[1] - ring.corners[0])) / 2
    for share, rise in one.ends.along(0):
        if rise:
            continue  # it comes out aslant, as an ellipse
        centre = one.place(float(middle[0]), float(middle[1]), share)
        known = any(
            c.role == "hole" and float(np.abs(c.centre - centre).max()) < SAME * radius
            for c in making.circles
        )
        if not known:
            making.circles.append(Circle(centre, one.plane, radius, "hole", 0, 0, share))


def _smooth_at(ring: Flat, number: int) -> bool:
    """Whether the pieces before and after a corner meet without an angle."""
    before, here, after = ring.corners[number - 1], ring.corners[number], ring.after[number]
    ways = []
    for start, end, bulge, at_end in (
        (before, here, float(ring.bulges[number - 1]), True),
        (here, after, float(ring.bulges[number]), False),
    ):
        if bulge == 0:
            ways.append((end - start) / np.linalg.norm(end - start))
            continue
        _, _, first, turn = centre_of(start, end, bulge)
        angle = first + (turn if at_end else 0.0)
        ways.append(np.array([-math.sin(angle), math.cos(angle)]) * math.copysign(1.0, turn))
    return bool(
        abs(ways[0][0] * ways[1][1] - ways[0][1] * ways[1][0]) < CLOSE and ways[0] @ ways[1] > 0
    )


def _by_interval(arc: Array, ends: Ends) -> list[tuple[int, Array]]:
    """A flat arc cut where the thickness changes its slope: interval number and part."""
    inner = ends.breaks[1:-1]
    cuts = [0.0, 1.0]
    if len(inner):
        form = np.stack([np.ones(len(inner)), np.zeros(len(inner)), -inner], axis=1)
        along = np.einsum("ik,nk->ni", arc, form)
        cuts = sorted({0.0, 1.0, *roots(along)[1].tolist()})
    parts = []
    for a, b in itertools.pairwise(cuts):
        if b - a < ROUNDING:
            continue
        part = between(arc[None], np.array([a]), np.array([b]))[0]
        middle = part[0] + 2 * part[1] + part[2]
        i = int(np.searchsorted(ends.breaks, middle[0] / middle[2])) - 1
        parts.append((min(max(i, 0), len(ends.breaks) - 2), part))
    return parts


def _side(
    making: Making,
    one: Carried,
    part: Array,
    i: int,
    piece: tuple[Array, Array, float],
    left: bool,
) -> int:
    """The side surface over one part of the outline."""
    start, end, bulge = piece
    plane, way, to_flat = one.plane, one.way, one.to_flat
    begin, stop = one.ends.along(i)
    above, below = to_flat[2].copy(), -to_flat[2]
    above[:3] -= begin[1] * to_flat[0, :3]
    above[3] -= begin[0]
    below[:3] += stop[1] * to_flat[0, :3]
    below[3] += stop[0]
    a, b = part[0, :2] / part[0, 2], part[2, :2] / part[2, 2]
    if bulge == 0:
        run = (b - a) / np.linalg.norm(b - a)
        foot = a[0] * plane[0] + a[1] * plane[1]
        line = run[0] * plane[0] + run[1] * plane[1]
        normal = np.cross(line, way) * one.handed * (1.0 if left else -1.0)
        normal = normal / np.linalg.norm(normal)
        low, high = _along(to_flat, run, a), -_along(to_flat, run, b)
        return making.plane(normal, foot, within=[above, below, low, high])
    centre, radius, _, turn = centre_of(start, end, bulge)
    flat_form = np.zeros((3, 3))
    flat_form[:2, :2] = np.eye(2)
    flat_form[:2, 2] = flat_form[2, :2] = -centre
    flat_form[2, 2] = float(centre @ centre) - radius * radius
    mapped = np.concatenate([to_flat[:2], [[0.0, 0.0, 0.0, 1.0]]])
    chord = b - a
    outward = np.array([chord[1], -chord[0]]) * math.copysign(1.0, turn) / np.linalg.norm(chord)
    number = making.surface(
        mapped.T @ flat_form @ mapped,
        within=[above, below, _along(to_flat, outward, a)],
    )
    angles = [math.atan2(*(p - centre)[::-1]) for p in (a, b)]
    swing = (angles[1] - angles[0]) * math.copysign(1.0, turn) % (2 * math.pi)
    making.swept.append(
        SweptPatch(
            number, plane, centre, radius, angles[0], math.copysign(swing, turn), way, one.ends
        )
    )
    return number


def _along(to_flat: Array, run: Array, start: Array) -> Array:
    """The half space of outline places beyond a point along a direction."""
    line = run[0] * to_flat[0] + run[1] * to_flat[1]
    line[3] -= float(run @ start)
    return np.asarray(line)

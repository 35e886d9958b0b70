"""An extrusion as a curved body."""

import itertools
import math

import numpy as np

from isometron.framework.curved import Circle, Ends, Making, Region, Swept, plane_form
from isometron.framework.extruded import Extruded, flats_of
from isometron.framework.outlines import Flat, centre_of, crossings, curves_of
from isometron.perspective.conics import between, roots, straight
from isometron.perspective.eye import Array

Sides = tuple[float, float, float]


def ends_of(shape: Extruded, across: float) -> Ends:
    """Where an extrusion begins and stops along its way, for a first cross side of a length."""
    reach = 1e6 * max(across, 1.0)
    if not shape.widths:
        return Ends(np.array([-reach, reach]), np.zeros(2), np.ones(2))
    places = np.array([place for place, _ in shape.widths]) * across
    half = np.array([width for _, width in shape.widths]) / 2
    return Ends(places, 0.5 - half, 0.5 + half)


def curved_extruded(shape: Extruded, sides: Sides) -> Making:
    """An extrusion of an outline with holes."""
    making = Making()
    own = np.eye(3)
    first, second = shape.cross
    plane = np.stack([own[first], own[second]])
    way = own[shape.axis] * sides[shape.axis]
    way = way + shape.slant[0] * sides[first] * plane[0] + shape.slant[1] * sides[second] * plane[1]
    rings = flats_of(shape, sides)
    ends = ends_of(shape, sides[first])
    to_flat = _to_flat(plane, way)
    intervals = range(len(ends.breaks) - 1)
    faces = [
        [_end_face(making, plane, way, ends, i, far, rings, to_flat) for i in intervals]
        for far in (False, True)
    ]
    making.ends = (faces[0][0], faces[1][0])
    for far in (False, True):
        for i in intervals[1:]:
            _rib(making, plane, way, ends, i, far, rings, faces[far])
    for ring in rings:
        _sides(making, ring, plane, way, ends, faces)
    return making


def _to_flat(plane: Array, way: Array) -> Array:
    """(3, 4) map from own mm to outline u, v (mm) and share of the way."""
    basis = np.stack([plane[0], plane[1], way])
    return np.concatenate([np.linalg.inv(basis.T), np.zeros((3, 1))], axis=1)


def lifted(flat_arcs: Array, plane: Array, way: Array, share: tuple[float, float]) -> Array:
    """Outline arcs (k, 3, 3) at a share of the way that is share[0] + share[1]·u."""
    u, v, w = flat_arcs[..., 0], flat_arcs[..., 1], flat_arcs[..., 2]
    along = share[0] * w + share[1] * u
    placed = np.empty((*flat_arcs.shape[:2], 4))
    placed[..., :3] = u[..., None] * plane[0] + v[..., None] * plane[1] + along[..., None] * way
    placed[..., 3] = w
    return placed


def _end_face(
    making: Making,
    plane: Array,
    way: Array,
    ends: Ends,
    i: int,
    far: bool,
    rings: list[Flat],
    to_flat: Array,
) -> int:
    share = ends.along(i)[far]
    rise = plane[0] + share[1] * way
    normal = np.cross(rise, plane[1])
    normal = normal / np.linalg.norm(normal)
    across = to_flat[0]
    within = []
    if len(ends.breaks) > 2 or share[1]:
        low, high = across.copy(), -across
        low[3], high[3] = -ends.breaks[i], ends.breaks[i + 1]
        within = [low, high]
    number = making.patch(plane_form(normal, share[0] * way), plane=True, within=within)
    making.regions.append(Region(number, rings, to_flat[:2]))
    return number


def _rib(
    making: Making,
    plane: Array,
    way: Array,
    ends: Ends,
    i: int,
    far: bool,
    rings: list[Flat],
    faces: list[int],
) -> None:
    """The lines across a face where its slope changes."""
    u = float(ends.breaks[i])
    begin, stop = ends.at(u)
    share = stop if far else begin
    heights = crossings(rings, 0, u)
    for low, high in zip(heights[::2], heights[1::2], strict=False):
        foot = u * plane[0] + share * way
        line = straight((foot + low * plane[1])[None], (foot + high * plane[1])[None])
        making.draw(line, (faces[i - 1], faces[i]))


def _sides(
    making: Making, ring: Flat, plane: Array, way: Array, ends: Ends, faces: list[list[int]]
) -> None:
    curves = curves_of(ring)
    count = len(curves)
    firsts: list[int] = []
    lasts: list[int] = []
    for number in range(count):
        start, end, bulge = ring.corners[number], ring.after[number], float(ring.bulges[number])
        surfaces = []
        for arc in curves[number]:
            for i, part in _by_interval(arc, ends):
                surfaces.append(_side(making, part, i, start, end, bulge, plane, way, ends))
                for far in (0, 1):
                    drawn = lifted(part[None], plane, way, ends.along(i)[far])
                    making.draw(drawn, (surfaces[-1], faces[far][i]))
        firsts.append(surfaces[0])
        lasts.append(surfaces[-1])
        if bulge and abs(abs(bulge) - 1.0) < 1e-12 and count == 2:
            _hole_circles(making, ring, plane, way, ends)
    for number in range(count):
        if _smooth_at(ring, number):
            continue
        corner = ring.corners[number]
        begin, stop = ends.at(float(corner[0]))
        foot = corner[0] * plane[0] + corner[1] * plane[1]
        line = straight((foot + begin * way)[None], (foot + stop * way)[None])
        making.draw(line, (lasts[number - 1], firsts[number]))


def _hole_circles(making: Making, ring: Flat, plane: Array, way: Array, ends: Ends) -> None:
    """The two circles of a round hole or outline, for the record; its arcs are drawn already."""
    if len(ends.breaks) > 2:
        return
    middle = (ring.corners[0] + ring.corners[1]) / 2
    radius = float(np.linalg.norm(ring.corners[1] - ring.corners[0])) / 2
    for share in (0.0, 1.0):
        centre = middle[0] * plane[0] + middle[1] * plane[1] + share * way
        known = any(
            c.role == "hole" and float(np.abs(c.centre - centre).max()) < 1e-9 * radius
            for c in making.circles
        )
        if not known:
            making.circles.append(Circle(centre, plane, radius, "hole", 0, 0, share))


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
        abs(ways[0][0] * ways[1][1] - ways[0][1] * ways[1][0]) < 1e-7 and ways[0] @ ways[1] > 0
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
        if b - a < 1e-12:
            continue
        part = between(arc[None], np.array([a]), np.array([b]))[0]
        middle = part[0] + 2 * part[1] + part[2]
        i = int(np.searchsorted(ends.breaks, middle[0] / middle[2])) - 1
        parts.append((min(max(i, 0), len(ends.breaks) - 2), part))
    return parts


def _side(
    making: Making,
    part: Array,
    i: int,
    start: Array,
    end: Array,
    bulge: float,
    plane: Array,
    way: Array,
    ends: Ends,
) -> int:
    """The side surface over one part of the outline."""
    to_flat = _to_flat(plane, way)
    begin, stop = ends.along(i)
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
        normal = np.cross(line, way)
        normal = normal / np.linalg.norm(normal)
        low, high = _along(to_flat, run, a), -_along(to_flat, run, b)
        return making.patch(plane_form(normal, foot), plane=True, within=[above, below, low, high])
    centre, radius, _, turn = centre_of(start, end, bulge)
    flat_form = np.zeros((3, 3))
    flat_form[:2, :2] = np.eye(2)
    flat_form[:2, 2] = flat_form[2, :2] = -centre
    flat_form[2, 2] = float(centre @ centre) - radius * radius
    mapped = np.concatenate([to_flat[:2], [[0.0, 0.0, 0.0, 1.0]]])
    chord = b - a
    outward = np.array([chord[1], -chord[0]]) * math.copysign(1.0, turn) / np.linalg.norm(chord)
    number = making.patch(
        mapped.T @ flat_form @ mapped,
        plane=False,
        within=[above, below, _along(to_flat, outward, a)],
    )
    angles = [math.atan2(*(p - centre)[::-1]) for p in (a, b)]
    swing = (angles[1] - angles[0]) * math.copysign(1.0, turn) % (2 * math.pi)
    making.swept.append(
        Swept(
            number,
            plane,
            centre,
            radius,
            angles[0],
            math.copysign(swing, turn),
            way,
            ends,
        )
    )
    return number


def _along(to_flat: Array, run: Array, start: Array) -> Array:
    """The half space of outline places beyond a point along a direction."""
    line = run[0] * to_flat[0] + run[1] * to_flat[1]
    line[3] -= float(run @ start)
    return np.asarray(line)

"""Where a plane cuts a body: cross-contours, centre and section lines, and the lines along which
bodies meet.

A plane cuts a plane face in straight lines and every surface that bends in arcs of conics, all of
them exact.
"""

import itertools
from dataclasses import dataclass

import numpy as np

from isometron.framework.body import Body, SweptPatch, TurnedPatch, flat_loop, is_straight
from isometron.framework.extruded_bodies import lifted
from isometron.framework.turned_bodies import curve_on_round
from isometron.perspective.conics import (
    between,
    circle_arcs,
    linear_along,
    points_at,
    roots,
    straight,
)
from isometron.perspective.eye import Array

SQUARE_TO = 1e-12
"""A plane this square to an axle (squared sine) cuts it in a circle; one this much along the way of
an extrusion cuts it in straight lines."""


WholeCircle = tuple[Array, tuple[Array, Array], float, int]
"""Centre, two directions across, radius, surface."""


@dataclass(frozen=True, eq=False)
class Cutting:
    """Where a plane cuts a body: straight lines as (start, end, surface), arcs as (arcs (k, 3, 4),
    surface), and whole circles as (centre, two directions across, radius, surface)."""

    lines: list[tuple[Array, Array, int]]
    arcs: list[tuple[Array, int]]
    circles: list[WholeCircle]


def cutting(body: Body, normal: Array, offset: float) -> Cutting:
    """Where the plane normal·x = offset (unit normal, own mm) cuts a body."""
    found = Cutting([], [], [])
    if body.surfaces is None:
        _flat(body, normal, offset, found)
        return found
    for face in range(body.faces):
        for start, end in across_face(body, face, normal, offset):
            found.lines.append((start, end, face))
    for turned in body.surfaces.turned:
        _turned(turned, normal, offset, found)
    for swept in body.surfaces.swept:
        _swept(swept, normal, offset, found)
    return found


def _flat(body: Body, normal: Array, offset: float, found: Cutting) -> None:
    """The convex pieces of flat faces, one by one."""
    off = body.vertices @ normal - offset
    for face, ring in body.parts:
        places, side = body.vertices[list(ring)], off[list(ring)]
        cross = (side < 0) != (np.roll(side, -1) < 0)
        if cross.sum() != 2:
            continue
        after, beyond = np.roll(places, -1, axis=0)[cross], np.roll(side, -1)[cross]
        share = side[cross] / (side[cross] - beyond)
        ends = places[cross] + share[:, None] * (after - places[cross])
        if float(np.abs(ends[0] - ends[1]).max()) > 0:
            found.lines.append((ends[0], ends[1], face))


def across_face(body: Body, face: int, normal: Array, offset: float) -> list[tuple[Array, Array]]:
    """The parts of a plane face that lie in the plane normal·x = offset, as lines; none for a face
    that lies in that plane itself."""
    along = np.cross(body.normals[face], normal)
    length = float(np.linalg.norm(along))
    if length <= 1e-12:
        return []
    along = along / length
    crossings: list[Array] = []
    for loop in body.loops(face):
        values = linear_along(loop, np.tile(np.append(normal, -offset), (len(loop), 1)))
        values = _off_the_knots(values, loop)
        number, t = roots(values)
        crossings += list(points_at(loop[number], t))
    places = sorted((float(p @ along), i) for i, p in enumerate(crossings))
    order = [crossings[i] for _, i in places]
    pairs = zip(order[::2], order[1::2], strict=False)
    return [(a, b) for a, b in pairs if float(np.linalg.norm(b - a)) > 0]


def _off_the_knots(values: Array, loop: Array) -> Array:
    """Bernstein values with zeros at the joints of a loop moved aside, so that a plane through a
    corner is crossed once or twice but never lost: a zero counts as positive."""
    size = float(np.abs(values).max(initial=0.0))
    values = values.copy()
    tiny = 1e-13 * size
    for column in (0, 2):
        near = np.abs(values[:, column]) <= tiny
        values[near, column] = tiny
    straightened = is_straight(loop)
    middle = (values[:, 0] + values[:, 2]) / 2
    values[straightened, 1] = np.where(
        loop[straightened, 1, 3] == 1.0, middle[straightened], values[straightened, 1]
    )
    return values


def _turned(one: TurnedPatch, normal: Array, offset: float, found: Cutting) -> None:
    piece, along = one.segment, float(normal @ one.axle)
    across = normal - along * one.axle
    tilt = float(np.linalg.norm(across))
    slack = 1e-12 * max(abs(piece.high), abs(piece.low), piece.high - piece.low)
    if tilt * tilt <= SQUARE_TO:
        height = (offset / along) - float(one.place @ one.axle)
        radius = piece.radius(min(max(height, piece.low), piece.high))
        if not (piece.low - slack <= height <= piece.high and radius > 1e-9 * piece.high):
            return
        axis = int(np.abs(one.axle).argmax())
        own = np.eye(3)
        axes = (own[(axis + 1) % 3], own[(axis + 2) % 3])
        found.circles.append((one.place + height * one.axle, axes, radius, one.surface))
        return
    towards = across / tilt
    # A point place + h·axle + y·towards + z·aside lies in the plane where y = p + q·h.
    p = (offset - float(normal @ one.place)) / tilt
    line = (p, -along / tilt)
    aside = np.cross(one.axle, towards)
    for sign in (1.0, -1.0):
        arcs = curve_on_round(piece, line, one.place, one.axle, towards, sign * aside)
        if len(arcs):
            found.arcs.append((arcs, one.surface))


def _swept(one: SweptPatch, normal: Array, offset: float, found: Cutting) -> None:
    start, swing = np.degrees(one.first), np.degrees(one.turn)
    flat = circle_arcs(
        np.append(one.centre, 0.0),
        np.array([one.radius, 0.0, 0.0]),
        np.array([0.0, one.radius, 0.0]),
        float(start),
        float(swing),
    )[..., [0, 1, 3]]
    down, right, up = float(normal @ one.way), *(float(normal @ d) for d in one.plane)
    if abs(down) <= 1e-9 * float(np.linalg.norm(one.way)):
        values = linear_along(flat, np.tile([right, up, -offset], (len(flat), 1)))
        number, t = roots(values)
        for place in points_at(flat[number], t):
            begin, stop = one.ends.at(float(place[0]))
            foot = place @ one.plane
            found.lines.append((foot + begin * one.way, foot + stop * one.way, one.surface))
        return
    for arc in flat:
        found_arcs = _within_ends(arc, one, (offset, right, up, down))
        if len(found_arcs):
            found.arcs.append((found_arcs, one.surface))


def _within_ends(arc: Array, one: SweptPatch, plane: tuple[float, float, float, float]) -> Array:
    """The parts of a flat arc lifted to a plane (offset, right, up, down) that lie between the
    ends of what is carried, as arcs (k, 3, 4)."""
    offset, right, up, down = plane
    share = (offset * arc[:, 2] - right * arc[:, 0] - up * arc[:, 1]) / down
    cuts = [0.0, 1.0]
    bounds = []
    for i in range(len(one.ends.breaks) - 1):
        for value, rise in one.ends.along(i):
            bounds.append(share - value * arc[:, 2] - rise * arc[:, 0])
    inner = one.ends.breaks[1:-1]
    bounds += [arc[:, 0] - u * arc[:, 2] for u in inner]
    cuts += roots(np.array(bounds))[1].tolist()
    kept = []
    lifted_arc = lifted(arc[None], one.plane, one.way, (0.0, 0.0))[0]
    lifted_arc[:, :3] += share[:, None] * one.way
    for a, b in itertools.pairwise(sorted(set(cuts))):
        if b - a < 1e-12:
            continue
        half = np.array([(a + b) / 2])
        u = float(points_at(arc[None], half)[0, 0])
        at_half = np.concatenate([arc[:, :2], share[:, None], arc[:, 2:]], axis=1)
        along = float(points_at(at_half[None], half)[0, 2])
        begin, stop = one.ends.at(u)
        if begin <= along <= stop:
            kept.append(between(lifted_arc[None], np.array([a]), np.array([b]))[0])
    return np.array(kept).reshape(-1, 3, 4)


def whole_circles(found: Cutting) -> Cutting:
    """The same with its circles turned into arcs."""
    arcs = [
        (circle_arcs(centre, radius * axes[0], radius * axes[1]), surface)
        for centre, axes, radius, surface in found.circles
    ]
    return Cutting(found.lines, [*found.arcs, *arcs], [])


def line_arcs(lines: list[tuple[Array, Array, int]]) -> Array:
    """Straight lines of a cutting as arcs (n, 3, 4)."""
    if not lines:
        return np.empty((0, 3, 4))
    return straight(np.array([a for a, _, _ in lines]), np.array([b for _, b, _ in lines]))


def inside_loops(loops: list[Array], normal: Array, points: Array) -> Array:
    """(p,) whether points (p, 3) of the plane of some loops (k, 3, 4) lie within them, by crossings
    of a ray with every arc."""
    count = np.zeros(len(points), dtype=int)
    flat_points = flat_loop(
        np.concatenate([points, np.ones((len(points), 1))], axis=1)[:, None], normal
    )
    for loop in loops:
        arcs = flat_loop(loop, normal)
        for i, (x, y, _) in enumerate(flat_points[:, 0].tolist()):
            values = arcs[..., 1] - y * arcs[..., 2]
            values = np.where(values == 0, 1e-300, values)
            number, t = roots(values)
            count[i] += int((points_at(arcs[number], t)[:, 0] > x).sum())
    return np.asarray(count % 2 == 1)

"""Where a plane cuts a body: cross-contours, centre and section lines, and the lines along which
bodies meet.

A plane cuts a plane face in straight lines and every surface that bends in arcs of conics, all of
them exact.
"""

import itertools
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body, Indices, SweptPatch, TurnedPatch, is_straight
from isometron.framework.bodies.extruded import lifted
from isometron.framework.bodies.turned import curve_on_round
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.conics import (
    between,
    circle_arcs,
    linear_along,
    points_at,
    roots,
)
from isometron.perspective.eye import Array

ON_KNOT = 1e-13
"""A joint whose height over a plane is smaller, of the largest, lies in it."""

SQUARE_TO = 1e-12
"""A plane this square to an axle (squared sine) cuts it in a circle; one this much along the way of
an extrusion cuts it in straight lines."""


WholeCircle = tuple[Array, tuple[Array, Array], float, int]
"""Centre, two directions across, radius, surface."""


class Cutting(NamedTuple):
    """Where a plane cuts a body: straight lines as (start, end, surface), arcs as (arcs (k, 3, 4),
    surface), and whole circles as (centre, two directions across, radius, surface)."""

    lines: list[tuple[Array, Array, int]]
    arcs: list[tuple[Array, int]]
    circles: list[WholeCircle]


def cutting(
    body: Body, normal: Array, offset: float, some: NDArray[np.bool_] | None = None
) -> Cutting:
    """Where the plane normal·x = offset (unit normal, own mm) cuts a body, or only some (s,) of its
    surfaces."""
    found = Cutting([], [], [])
    if body.surfaces is None:
        _flat(body, normal, offset, found, some)
        return found
    wanted = np.ones(len(body.surfaces.forms), dtype=bool) if some is None else some
    mine = (body.surfaces.rim_surface < body.faces) & wanted[body.surfaces.rim_surface]
    rims, owner = body.surfaces.rims[mine], body.surfaces.rim_surface[mine]
    found.lines.extend(_across(body, rims, owner, normal, offset))
    for turned in body.surfaces.turned:
        if wanted[turned.surface]:
            _turned(turned, normal, offset, found)
    for swept in body.surfaces.swept:
        if wanted[swept.surface]:
            _swept(swept, normal, offset, found)
    return found


def _flat(
    body: Body, normal: Array, offset: float, found: Cutting, some: NDArray[np.bool_] | None
) -> None:
    """The convex pieces of flat faces, one by one."""
    off = body.vertices @ normal - offset
    for face, ring in body.parts:
        if some is not None and not some[face]:
            continue
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
    loops = np.concatenate([np.empty((0, 3, 4)), *body.loops(face)])
    owner = np.full(len(loops), face)
    return [(start, end) for start, end, _ in _across(body, loops, owner, normal, offset)]


def _across(
    body: Body, loops: Array, owner: Indices, normal: Array, offset: float
) -> list[tuple[Array, Array, int]]:
    """The parts of plane faces, with outlines of arcs (k, 3, 4) that belong to faces (k,), that lie
    in the plane normal·x = offset, as lines with their face."""
    plane = np.tile(np.append(normal, -offset), (len(loops), 1))
    number, t = roots(_off_the_knots(linear_along(loops, plane), loops))
    places, face = points_at(loops[number], t), owner[number]
    along = np.cross(body.normals[face], normal)
    order = np.lexsort(((places * along).sum(axis=1), face))
    order = order[np.linalg.norm(along[order], axis=1) > ROUNDING]
    places, face = places[order], face[order]
    lines = []
    i = 0
    while i + 1 < len(face):
        if face[i] != face[i + 1]:
            i += 1
            continue
        if float(np.abs(places[i + 1] - places[i]).max()) > 0:
            lines.append((places[i], places[i + 1], int(face[i])))
        i += 2
    return lines


def _off_the_knots(values: Array, loop: Array) -> Array:
    """Bernstein values with zeros at the joints of a loop moved aside, so that a plane through a
    corner is crossed once or twice but never lost: a zero counts as positive."""
    size = float(np.abs(values).max(initial=0.0))
    values = values.copy()
    tiny = ON_KNOT * size
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
    slack = ROUNDING * max(abs(piece.high), abs(piece.low), piece.high - piece.low)
    if tilt * tilt <= SQUARE_TO:
        height = (offset / along) - float(one.place @ one.axle)
        radius = piece.radius(min(max(height, piece.low), piece.high))
        if not (piece.low - slack <= height <= piece.high and radius > SAME * piece.high):
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
    if abs(down) <= SAME * float(np.linalg.norm(one.way)):
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
        if b - a < ROUNDING:
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

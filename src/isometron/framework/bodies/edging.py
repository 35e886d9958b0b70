"""Chosen edges of flat bodies chamfered or rounded, keeping all else the body has.

A rounded edge is made of chords of 6°, like a rounded plan corner: they miss the arc by 0.14 % of
its radius, and are drawn only where they are the outline.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.bodies.flat import solid_without
from isometron.framework.box import SMALLEST_MM
from isometron.nearness import ROUNDING
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.words import _

ROUND_STEP_DEG = 6.0

BEYOND = 0.5
"""A tool reaches over the faces by this share of what it takes, so that nothing is left standing
there."""

LOOKS_ALIKE = 0.7
"""A face looks the way of another when their normals are within 45° (the cosine)."""

INTO = 1e-5
"""Which side of an edge its face lies on is tried so far from it, as a share of its length."""

ON_LINE = 1e-7
"""Share of a body's size within which an edge lies on a line."""


@dataclass(frozen=True)
class Edging:
    """What is taken off an edge: its number on the body before, how far on one face and (for a
    chamfer) on the other, mm; rounded instead of chamfered."""

    edge: int
    mm: float
    other_mm: float
    rounded: bool = False

    def __post_init__(self) -> None:
        if not all(SMALLEST_MM <= mm <= LARGEST_MM for mm in (self.mm, self.other_mm)):
            raise VolumeError(_("An edge is taken off by a length above 0: type, say, 2 cm."))
        if self.rounded and self.mm != self.other_mm:
            raise VolumeError(_("A round edge reaches as far on both faces: type one length."))


class Wedge(NamedTuple):
    """A tool along an edge: its cross section (n, 2) in two directions (2, 3) from the start (3,)
    of its run (3,), and the points (k, 2) of it whose lines are within a round edge."""

    section: Array
    plane: Array
    start: Array
    run: Array
    smooth: Array


def edged(body: Body, edgings: Sequence[Edging]) -> Body:
    """A flat body with some of its edges taken off. Raises VolumeError for an edge that is gone,
    an inner one, and one that leaves nothing."""
    wedges = [_wedge(body, one) for one in edgings]
    done = solid_without(body, [(w.section, w.plane, w.start, w.run) for w in wedges])
    size = float(np.ptp(body.vertices, axis=0).max())
    smooth = done.smooth.copy()
    ends = done.vertices[done.edges]
    for wedge in wedges:
        along = wedge.run / np.linalg.norm(wedge.run)
        for point in wedge.smooth:
            off = ends - (wedge.start + point @ wedge.plane)
            away = np.linalg.norm(np.cross(off, along), axis=2).max(axis=1)
            smooth |= away <= ON_LINE * size
    return replace(done, smooth=smooth)


def _wedge(body: Body, one: Edging) -> Wedge:
    if not 0 <= one.edge < len(body.edges):
        raise VolumeError(_("That edge is gone: choose one that is there."))
    start, end = body.vertices[body.edges[one.edge]]
    first, second = body.edge_faces[one.edge].tolist()
    along = (end - start) / np.linalg.norm(end - start)
    inward = [inward_in(body, face, (start, end)) for face in (first, second)]
    if not outer(body, one.edge):
        raise VolumeError(_("An inner edge is not taken off: choose an outer one."))
    begin, stop = start.copy(), end.copy()
    reach = one.mm + one.other_mm
    if _ends_at(body, one.edge, 1, along):
        stop = stop + reach * along
    if _ends_at(body, one.edge, 0, -along):
        begin = begin - reach * along
    plane = np.stack([inward[0], np.cross(along, inward[0])])
    a, b = np.array([one.mm, 0.0]), one.other_mm * (plane @ inward[1])
    points = _round(a, b) if one.rounded else np.stack([a, b])
    over = BEYOND * (a - b)
    behind = -BEYOND * (a + b)
    section = np.concatenate([[a + over], points, [b - over], [behind]])
    if _turns_right(section):
        section = section[::-1]
    return Wedge(section, plane, begin, stop - begin, points if one.rounded else points[:0])


def inward_in(body: Body, face: int, ends: tuple[Array, Array]) -> Array:
    """The unit direction in a plane face, square to a straight edge of it, into the face."""
    along = (ends[1] - ends[0]) / np.linalg.norm(ends[1] - ends[0])
    across = np.cross(body.normals[face], along)
    outline = outline_of(body, face)
    beside = INTO * float(np.linalg.norm(ends[1] - ends[0]))
    for share in (0.5, 0.31, 0.73):
        middle = ends[0] + share * (ends[1] - ends[0])
        tried = np.stack([middle + beside * across, middle - beside * across])
        inside = outline.inside((tried - outline.place) @ outline.across.T)
        if inside[0] != inside[1]:
            break
    return np.asarray(across if inside[0] else -across)


def _ends_at(body: Body, edge: int, end: int, onward: Array) -> bool:
    """Whether the body ends at an end of an edge, so that what is beyond may be taken too."""
    corner = int(body.edges[edge, end])
    mine = set(body.edge_faces[edge].tolist())
    others = [
        face
        for face, rings in enumerate(body.rings)
        if face not in mine and any(corner in ring for ring in rings)
    ]
    return all(float(body.normals[face] @ onward) > 0 for face in others)


def _round(a: Array, b: Array) -> Array:
    """Places (n, 2) of the arc that touches both faces at a and b, from a to b: its middle lies
    where the squares to both faces meet."""
    half = (a + b) / np.linalg.norm(a + b)
    middle = half * float(a @ a) / float(a @ half)
    first, last = a - middle, b - middle
    turn = math.atan2(float(first[0] * last[1] - first[1] * last[0]), float(first @ last))
    steps = max(2, math.ceil(abs(math.degrees(turn)) / ROUND_STEP_DEG))
    angles = turn * np.arange(steps + 1) / steps
    c, s = np.cos(angles), np.sin(angles)
    return np.asarray(
        middle + np.stack([c * first[0] - s * first[1], s * first[0] + c * first[1]], axis=1)
    )


def _turns_right(section: Array) -> bool:
    x, y = section.T
    return bool(x @ np.roll(y, -1) < y @ np.roll(x, -1))


def same_edge(before: Body, edge: int, after: Body, flip: Array | None = None) -> int:
    """The edge of a body that lies on an edge of another, or (flip: a sign for each own axis, and
    a shift) on its mirrored twin; −1 when there is none."""
    if not 0 <= edge < len(before.edges) or not len(after.edges):
        return -1
    start, end = before.vertices[before.edges[edge]]
    if flip is not None:
        start, end = start * flip[0] + flip[1], end * flip[0] + flip[1]
    along = (end - start) / np.linalg.norm(end - start)
    ends = after.vertices[after.edges]
    off = np.linalg.norm(np.cross(ends - start, along), axis=2).max(axis=1)
    size = float(np.ptp(after.vertices, axis=0).max())
    middle = np.abs((ends.mean(axis=1) - start) @ along / np.linalg.norm(end - start) - 0.5)
    found = np.flatnonzero((off <= ON_LINE * size) & (middle < 0.5))
    if len(found) or flip is not None:
        return int(found[middle[found].argmin()]) if len(found) else -1
    return _alike(before, edge, after)


def _alike(before: Body, edge: int, after: Body) -> int:
    """The edge nearest to one of another body, between faces that look the ways of its two; −1 when
    there is none."""
    ways = before.normals[before.edge_faces[edge]]
    look = after.normals[after.edge_faces] @ ways.T  # (m, 2, 2)
    straight = np.minimum(look[:, 0, 0], look[:, 1, 1])
    crossed = np.minimum(look[:, 0, 1], look[:, 1, 0])
    found = np.flatnonzero(np.maximum(straight, crossed) > LOOKS_ALIKE)
    if not len(found):
        return -1
    middle = before.vertices[before.edges[edge]].mean(axis=0)
    there = after.vertices[after.edges[found]].mean(axis=1)
    return int(found[np.linalg.norm(there - middle, axis=1).argmin()])


def outer(body: Body, edge: int) -> bool:
    """Whether a straight edge between two plane faces stands out, so that it can be taken off."""
    start, end = body.vertices[body.edges[edge]]
    first, second = body.edge_faces[edge].tolist()
    if not 0 <= min(first, second) <= max(first, second) < body.faces:
        return False
    return float(inward_in(body, second, (start, end)) @ body.normals[first]) < -ROUNDING

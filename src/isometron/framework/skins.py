"""Skins: courses, tiles, boards and ribs over the faces of a volume, by true size.

A skin is told in two lengths of its surface: along it and up it. On a plane face they are those of
its drawing plane; round a turned form the girth and the way along its side; on an arched side the
way it runs and the length of its arc. Lines are clipped at the outline of the face and at openings.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from isometron.framework.bent_sides import bent_numbers, up_the_side
from isometron.framework.bodies.body import (
    DIVISION,
    SKIN,
    Body,
    Indices,
    Segment,
    SweptPatch,
    TurnedPatch,
)
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.bodies.openings import on_plane
from isometron.framework.box import SMALLEST_MM
from isometron.framework.circles import face_at, face_like, flat_plane
from isometron.nearness import NOUGHT, ROUNDING, SAME
from isometron.perspective.conics import between, circle_arcs, points_at, straight
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.remembering import remembered
from isometron.words import _, said

PATTERNS = ("courses", "tiles", "boards", "ribs")
PATTERN_WORDS = {
    "courses": said("courses"),
    "tiles": said("tiles"),
    "boards": said("boards"),
    "ribs": said("ribs"),
}

MOST_LINES = 3000
"""More lines than this are a tone, not a skin."""


@dataclass(frozen=True)
class Skin:
    """A pattern over a surface of a body.

    surface: the number of a plane face, or −1 − n for bent side n (all of a turned form is one
    side, every arch of an extrusion another). high_mm, long_mm: height of a course or tile and its
    length; of boards the breadth; of ribs how far apart and how broad.
    joint_mm: between two of them, drawn as two lines; 0 draws one. upright: it is turned by a
    quarter. object_lines: gone over, else construction.
    """

    surface: int
    pattern: str
    high_mm: float
    long_mm: float
    joint_mm: float = 0.0
    upright: bool = False
    object_lines: bool = False

    def __post_init__(self) -> None:
        if self.pattern not in PATTERNS:
            raise VolumeError(_("A skin is courses, tiles, boards or ribs: choose one of them."))
        sizes = (self.high_mm, self.long_mm)
        if not all(SMALLEST_MM <= mm <= LARGEST_MM for mm in sizes):
            raise VolumeError(_("A skin needs a height and a length above 0: type, say, 20 cm."))
        if not 0 <= self.joint_mm < min(sizes):
            raise VolumeError(_("A joint is narrower than what it joins: type a smaller one."))
        if self.pattern == "ribs" and self.long_mm >= self.high_mm:
            raise VolumeError(_("Ribs are narrower than they stand apart: type others."))


class Net(NamedTuple):
    """Lines of a pattern over so much of a surface: level ones as (v, from u, to u) rows, upright
    ones as (u, from v, to v) rows."""

    level: Array
    upright: Array


def net_of(skin: Skin, wide: float, high: float, *, closed: bool = False) -> Net:
    """The lines of a skin over a surface of a width and height, mm; closed: its width runs round
    and is divided evenly. Raises VolumeError when they are too many."""
    if skin.upright:
        turned = net_of(_laid(skin), high, wide)
        return Net(turned.upright, turned.level)
    rows = _edges(high, skin.high_mm, skin)
    long = skin.long_mm
    if closed:
        long = wide / max(round(wide / long), 1)
    columns = math.ceil(wide / long) if skin.pattern in ("courses", "tiles") else 0
    if len(rows) + columns * (high / skin.high_mm) > MOST_LINES:
        raise VolumeError(_("So many lines are a tone: make the courses or tiles larger."))
    level = np.array([(v, 0.0, wide) for v in rows]).reshape(-1, 3)
    upright = []
    for n in range(math.ceil(high / skin.high_mm - SAME) if columns else 0):
        low = n * skin.high_mm + (skin.joint_mm / 2 if n else 0.0)
        top = min((n + 1) * skin.high_mm - skin.joint_mm / 2, high)
        shift = long / 2 if skin.pattern == "courses" and n % 2 else 0.0
        places = np.arange(columns + 1) * long + shift
        for u in places[(places > SAME) & (places < wide - SAME)] if not closed else places[:-1]:
            for joint in _pair(float(u), skin.joint_mm):
                upright.append((joint, low, top))
    return Net(level, np.array(upright).reshape(-1, 3))


def _laid(skin: Skin) -> Skin:
    return replace(skin, upright=False)


def _edges(high: float, pitch: float, skin: Skin) -> list[float]:
    """Heights of the level lines."""
    found: list[float] = []
    for n in range(1, math.ceil(high / pitch + SAME) + 1):
        at = n * pitch
        wide = skin.long_mm if skin.pattern == "ribs" else skin.joint_mm
        middle = at - pitch / 2 if skin.pattern == "ribs" else at
        found += [v for v in _pair(middle, wide) if SAME < v < high - SAME]
        if len(found) > MOST_LINES:
            break
    return found


def _pair(at: float, apart: float) -> list[float]:
    return [at - apart / 2, at + apart / 2] if apart > 0 else [at]


class Laid(NamedTuple):
    """A skin on a body, own mm: arcs (k, 3, 4), straight ones too, and the surface of each (k,)."""

    arcs: Array
    surfaces: Array


def lay_skin(skin: Skin, body: Body) -> Laid:
    """The lines of a skin where its surface is there; none on one that is gone. Raises VolumeError
    for one of too many lines."""
    if 0 <= skin.surface < body.faces:
        return _on_face(skin, body)
    own, number = body.surfaces, -1 - skin.surface
    if own is None or number < 0:
        return _joined([])
    if own.turned and number == 0:
        return _joined([_round_turned(skin, own.turned)])
    swept = own.swept[number - bool(own.turned) :][:1]
    return _joined([_on_swept(skin, one) for one in swept])


def skin_kept(skin: Skin, before: Body, after: Body, flip: Array | None = None) -> Skin | None:
    """A skin on a face of a body as it lies on what has become of it, or (flip: a sign for each own
    axis, and a shift) on its twin; None when the face is gone."""
    if not 0 <= skin.surface < before.faces:
        return skin if -1 - skin.surface < len(bent_numbers(after)) else None
    middle, normal = before.middle_of(skin.surface), before.normals[skin.surface]
    if flip is not None:
        middle, normal = middle * flip[0] + flip[1], normal * flip[0]
    face = face_at(after, middle, normal)
    if face < 0 and flip is None:
        face = face_like(after, normal)
    return replace(skin, surface=face) if face >= 0 else None


def _joined(parts: Sequence[tuple[list[Array], list[int]]]) -> Laid:
    arcs = [arc for some, _numbers in parts for arc in some]
    numbers = [number for _some, found in parts for number in found]
    return Laid(np.array(arcs).reshape(-1, 3, 4), np.array(numbers, dtype=np.intp))


def _on_face(skin: Skin, body: Body) -> Laid:
    plane = flat_plane(body, skin.surface)
    wide, high = plane.extents
    net = net_of(skin, wide, high)
    starts = np.concatenate([net.level[:, [1, 0]], net.upright[:, [0, 1]]])
    ends = np.concatenate([net.level[:, [2, 0]], net.upright[:, [0, 2]]])
    basis = np.stack([plane.across, plane.along])
    corner = basis @ plane.corner
    lines = np.ones((len(starts), 3, 3))
    lines[:, 0, :2], lines[:, 2, :2] = starts + corner, ends + corner
    lines[:, 1, :2] = (lines[:, 0, :2] + lines[:, 2, :2]) / 2
    normal, offset = body.normals[skin.surface], float(body.offsets[skin.surface])
    placed = on_plane(lines, basis, normal, offset)
    outline = outline_of(body, skin.surface)
    number, low, high_t = outline.parts(outline.flat(placed))
    arcs = between(placed[number], low, high_t)
    return Laid(arcs, np.full(len(arcs), skin.surface, dtype=np.intp))


def _round_turned(skin: Skin, patches: Sequence[TurnedPatch]) -> tuple[list[Array], list[int]]:
    """Circles round a turned form, and lines along its side between them."""
    if any(one.axle is not patches[0].axle for one in patches):
        return [], []  # a bent bar has no one side
    outer = sorted(patches, key=lambda one: float(one.segment.low))
    girth = (
        2
        * math.pi
        * max(
            max(one.segment.radius(one.segment.low), one.segment.radius(one.segment.high))
            for one in outer
        )
    )
    heights, along, _radii = up_the_side(outer)
    net = net_of(skin, girth, float(along[-1]), closed=not skin.upright)
    arcs: list[Array] = []
    numbers: list[int] = []
    for v, _from, _to in net.level:
        height = float(np.interp(v, along, heights))
        one = _at(outer, height)
        across = np.linalg.svd(one.axle[None])[2][1:]
        radius = one.segment.radius(height)
        if radius > 0:
            made = circle_arcs(
                one.place + height * one.axle, radius * across[0], radius * across[1]
            )
            arcs += list(made)
            numbers += [one.surface] * len(made)
    for u, low, high in net.upright:
        span = np.interp([low, high], along, heights)
        for one in outer:
            begin, end = max(span[0], one.segment.low), min(span[1], one.segment.high)
            if end - begin > SAME:
                arcs.append(_up_the_side(one, 2 * math.pi * u / girth, float(begin), float(end)))
                numbers.append(one.surface)
    return arcs, numbers


def _at(patches: Sequence[TurnedPatch], height: float) -> TurnedPatch:
    return next((one for one in patches if height <= one.segment.high), patches[-1])


def _up_the_side(one: TurnedPatch, turn: float, low: float, high: float) -> Array:
    """The line up the side of a turned piece at an angle, an arc of the conic its outline is: its
    middle control point where the tangents at both ends meet."""
    across = np.linalg.svd(one.axle[None])[2][1:]
    out = math.cos(turn) * across[0] + math.sin(turn) * across[1]

    def place(height: float, radius: float) -> Array:
        return np.asarray(one.place + height * one.axle + radius * out)

    first, last = (np.array([h, one.segment.radius(h)]) for h in (low, high))
    meet = np.cross(_tangent(one.segment, *first), _tangent(one.segment, *last))
    if one.segment.straight or abs(meet[2]) <= ROUNDING * float(np.abs(meet).max()):
        return np.asarray(straight(place(*first)[None], place(*last)[None])[0])
    control = meet[:2] / meet[2]
    weight = _weight(one.segment, (first + last) / 2, control)
    arc = np.ones((3, 4))
    arc[0, :3], arc[2, :3] = place(*first), place(*last)
    arc[1, :3], arc[1, 3] = weight * place(*control), weight
    return arc


def _tangent(segment: Segment, height: float, radius: float) -> Array:
    """The line (3,) in height and radius that touches r² = a + b·h + c·h² there: its polar line."""
    a, b, c = segment.a, segment.b, segment.c
    return np.array([-b / 2 - c * height, radius, -a - b * height / 2])


def _weight(segment: Segment, middle: Array, control: Array) -> float:
    """The weight with which the arc over a chord with this middle meets r² = a + b·h + c·h²: where
    the line from the middle to the control point crosses it."""
    way = control - middle
    a = way[1] ** 2 - segment.c * way[0] ** 2
    b = 2 * middle[1] * way[1] - segment.b * way[0] - 2 * segment.c * middle[0] * way[0]
    c = middle[1] ** 2 - segment.squared(float(middle[0]))
    found = np.roots([a, b, c]) if abs(a) > NOUGHT else np.array([-c / b])
    share = next(float(t.real) for t in sorted(found, key=abs) if 0 < t.real < 1)
    return share / (1.0 - share)


def _on_swept(skin: Skin, one: SweptPatch) -> tuple[list[Array], list[int]]:
    """Lines along the way of an arched side, and arcs across it between them."""
    long, high = float(np.linalg.norm(one.way)), one.radius * abs(one.turn)
    net = net_of(skin, long, high)
    arcs: list[Array] = []

    def place(u: float, v: float) -> Array:
        angle = one.first + math.copysign(v / one.radius, one.turn)
        flat = one.centre + one.radius * np.array([math.cos(angle), math.sin(angle)])
        begin, stop = one.ends.at(float(flat[0]))
        share = begin + u / long
        return np.asarray(flat @ one.plane + min(share, stop) * one.way)

    for v, low, end in net.level:
        arcs.append(straight(place(low, v)[None], place(end, v)[None])[0])
    for u, low, end in net.upright:
        begin = one.first + math.copysign(low / one.radius, one.turn)
        turn = math.degrees(math.copysign((end - low) / one.radius, one.turn))
        centre = (
            one.centre @ one.plane + (one.ends.at(float(one.centre[0]))[0] + u / long) * one.way
        )
        across = one.radius * one.plane
        arcs += list(circle_arcs(centre, across[0], across[1], math.degrees(begin), turn))
    return arcs, [one.surface] * len(arcs)


class LaidLines(NamedTuple):
    """The lines of a laid skin, own mm: straight ones as starts and ends (q, 3) with the surface
    (q,) of each, arcs (k, 3, 4) with theirs (k,), and whether they are gone over."""

    starts: Array
    ends: Array
    surfaces: Indices
    arcs: Array
    arc_surfaces: Indices
    object_lines: bool


@remembered(on=1)
def lines_of(skin: Skin, body: Body) -> LaidLines:
    """A skin laid on a body, its straight lines apart from its arcs."""
    laid = lay_skin(skin, body)
    start, middle, end = (points_at(laid.arcs, np.full(len(laid.arcs), t)) for t in (0.0, 0.5, 1.0))
    off = np.linalg.norm(middle - (start + end) / 2, axis=1)
    flat = off <= ROUNDING * (1.0 + np.abs(middle).max(axis=1, initial=0.0))
    return LaidLines(
        start[flat],
        end[flat],
        laid.surfaces[flat],
        laid.arcs[~flat],
        laid.surfaces[~flat],
        skin.object_lines,
    )


def with_skins(body: Body, laid: Sequence[LaidLines]) -> Body:
    """A body with the arcs of its skins among its arcs."""
    kinds = [np.full(len(one.arcs), SKIN if one.object_lines else DIVISION) for one in laid]
    surfaces = np.concatenate([one.arc_surfaces for one in laid])
    on = np.stack([surfaces, np.full(len(surfaces), -1)], axis=1)
    return replace(
        body,
        arcs=np.concatenate([body.arcs, *(one.arcs for one in laid)]),
        arc_kinds=np.concatenate([body.arc_kinds, *kinds]),
        arc_faces=np.concatenate([body.arc_faces, on]),
    )

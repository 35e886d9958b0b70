"""Lines drawn on a volume: division marks, centre lines and section lines."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import SECTION, Body, Circle, Indices
from isometron.framework.bodies.sections import Cutting, WholeCircle, across_face, cutting
from isometron.nearness import SAME
from isometron.perspective.conics import circle_arcs
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.perspective.remembering import remembered
from isometron.words import _

TICK = 0.1
"""A division mark on an edge is this share of the edges beside it."""

MOST_PARTS = 60
"""More parts than this cannot be told apart on a sheet."""


@dataclass(frozen=True)
class Mark:
    """Lines on a volume. kind: "edge" (ticks that divide edge `index`), "face" (lines across face
    `index`, dividing its first direction for axis 0, its second for axis 1), or "section" (where
    planes square to the volume's own `axis` cut its faces). shares: fractions between 0 and 1."""

    kind: str
    index: int
    axis: int
    shares: tuple[float, ...]

    def __post_init__(self) -> None:
        if self.kind not in ("edge", "face", "section"):
            raise VolumeError(
                _("“{kind}” is not a kind of line: use edge, face or section.").format(
                    kind=self.kind
                )
            )
        if not 1 <= len(self.shares) < MOST_PARTS:
            raise VolumeError(
                _("Divide into 2 to {most_parts} parts.").format(most_parts=MOST_PARTS)
            )
        if not all(math.isfinite(s) and 0 < s < 1 for s in self.shares):
            raise VolumeError(
                _("A division lies between the two ends: use shares between 0 and 1.")
            )


class DrawnMarks(NamedTuple):
    """Mark lines in a body's own axes: starts and ends (q, 3) mm, the two surfaces (q, 2) each lies
    on, whether it is a section (else a division) (q,), the number of its mark (q,) and its share
    (q,); section arcs (k, 3, 4) with the surface (k,) each lies on, and the whole circles among
    them, their arcs counted from the first."""

    starts: Array
    ends: Array
    faces: Indices
    section: NDArray[np.bool_]
    mark: Indices
    share: Array
    arcs: Array
    arc_faces: Indices
    circles: tuple[Circle, ...]


def even(parts: int) -> tuple[float, ...]:
    """The shares that divide into equal parts."""
    if not 2 <= parts <= MOST_PARTS:
        raise VolumeError(_("Divide into 2 to {most_parts} parts.").format(most_parts=MOST_PARTS))
    return tuple(i / parts for i in range(1, parts))


Line = tuple[Array, Array, int, float]
"""Start and end (3,), the surface it lies on, the share it divides at."""


@remembered(on=1)
def draw_marks(marks: tuple[Mark, ...], body: Body, sides: Sides) -> DrawnMarks:
    """All mark lines of a volume; a mark on an edge or face that is gone draws nothing."""
    lines: list[Line] = []
    arcs: list[Array] = []
    faces: list[int] = []
    circles: list[Circle] = []
    of: list[int] = []
    for number, mark in enumerate(marks):
        if mark.kind == "section":
            for share in mark.shares:
                found = cutting(body, np.eye(3)[mark.axis], share * sides[mark.axis])
                lines += [(start, end, face, share) for start, end, face in found.lines]
                for some, face in found.arcs:
                    arcs += list(some)
                    faces += [face] * len(some)
                for circle in _fresh(found, circles):
                    centre, axes, radius, face = circle
                    made = circle_arcs(centre, radius * axes[0], radius * axes[1])
                    circles.append(
                        Circle(
                            centre,
                            np.stack(axes),
                            radius,
                            "section",
                            len(arcs),
                            len(arcs) + len(made),
                            share,
                        )
                    )
                    arcs += list(made)
                    faces += [face] * len(made)
        elif mark.kind == "edge" and mark.index < len(body.edges):
            lines += _edge_ticks(body, mark)
        elif mark.kind == "face" and mark.index < body.faces:
            lines += _face_lines(body, mark)
        of += [number] * (len(lines) - len(of))
    count = len(lines)
    on = np.array([line[2] for line in lines], dtype=np.intp)
    return DrawnMarks(
        np.array([line[0] for line in lines]).reshape(count, 3),
        np.array([line[1] for line in lines]).reshape(count, 3),
        np.stack([on, on], axis=1),
        np.array([marks[number].kind == "section" for number in of], dtype=bool),
        np.array(of, dtype=np.intp),
        np.array([line[3] for line in lines]),
        np.array(arcs).reshape(-1, 3, 4),
        np.array(faces, dtype=np.intp),
        tuple(circles),
    )


def _fresh(found: Cutting, known: Sequence[Circle]) -> Iterator[WholeCircle]:
    """The whole circles of a cutting, each once: two pieces of a form share the one between
    them."""
    seen = [(one.centre, one.radius_mm) for one in known]
    for circle in found.circles:
        centre, _axle, radius, _role = circle
        same = any(
            abs(radius - r) <= SAME * radius and float(np.abs(centre - c).max()) <= SAME * radius
            for c, r in seen
        )
        if not same:
            seen.append((centre, radius))
            yield circle


def with_sections(body: Body, drawn: DrawnMarks) -> Body:
    """A body with the section arcs of its marks among its arcs and circles."""
    if not len(drawn.arcs):
        return body
    count = len(body.arcs)
    kinds = np.full(len(drawn.arcs), SECTION)
    on = np.stack([drawn.arc_faces, np.full(len(drawn.arcs), -1)], axis=1)
    moved = [replace(c, first=c.first + count, last=c.last + count) for c in drawn.circles]
    return replace(
        body,
        arcs=np.concatenate([body.arcs, drawn.arcs]),
        arc_kinds=np.concatenate([body.arc_kinds, kinds]),
        arc_faces=np.concatenate([body.arc_faces, on]),
        circles=(*body.circles, *moved),
    )


def _edge_ticks(body: Body, mark: Mark) -> list[Line]:
    start, end = body.vertices[body.edges[mark.index]]
    run = end - start
    length = float(np.linalg.norm(run))
    lines: list[Line] = []
    for face in body.edge_faces[mark.index].tolist():
        if not 0 <= face < body.faces:
            continue
        inward = np.cross(body.normals[face], run / length)
        reach = (body.face_corners(face) - start) @ inward
        deep = float(reach[np.abs(reach).argmax()])
        tick = math.copysign(min(abs(deep), length) * TICK, deep) * inward
        for share in mark.shares:
            at = start + share * run
            lines.append((at, at + tick, face, share))
    return lines


def _face_lines(body: Body, mark: Mark) -> list[Line]:
    """Lines that divide a face: between the sides of the four-cornered outline it fills, where the
    face is there."""
    a, b, c, d = _four_corners(body, mark.index)
    if mark.axis == 1:
        a, b, c, d = b, c, d, a
    whole = [(a + s * (b - a), d + s * (c - d), s) for s in mark.shares]
    if len(body.face_corners(mark.index)) == 4 and len(body.loops(mark.index)) == 1:
        return [(start, end, mark.index, share) for start, end, share in whole]
    normal = body.normals[mark.index]
    lines: list[Line] = []
    for start, end, share in whole:
        across = np.cross(normal, end - start)
        across = across / np.linalg.norm(across)
        parts = across_face(body, mark.index, across, float(across @ start))
        lines += [(low, high, mark.index, share) for low, high in parts]
    return lines


def _four_corners(body: Body, face: int) -> Array:
    """The corners (4, 3) of a face with four; else of the four-cornered outline that its corners
    fill. Raises VolumeError when there is none."""
    corners = body.face_corners(face)
    if len(corners) == 4:
        return corners
    hull = convex_corners(corners, body.normals[face])
    if len(hull) != 4:
        raise VolumeError(
            _("Only a face with four corners can be divided: divide its edges instead.")
        )
    return hull


def convex_corners(points: Array, normal: Array) -> Array:
    """The corners (h, 3) of the convex outline round points (n, 3) of a plane, counter-clockwise
    about its normal, those within a side left out, beginning with the first point that is one
    (Andrew's chain)."""
    if len(points) < 3:
        return points
    across = np.linalg.svd(normal[None])[2][1:]
    if float(np.cross(across[0], across[1]) @ normal) < 0:
        across = across[::-1]
    flat = points @ across.T
    slack = SAME * float(np.ptp(flat, axis=0).max()) ** 2
    order = np.lexsort((flat[:, 1], flat[:, 0])).tolist()

    def chain(numbers: list[int]) -> list[int]:
        kept: list[int] = []
        for i in numbers:
            while len(kept) > 1 and _left_of(flat[kept[-2]], flat[kept[-1]], flat[i]) <= slack:
                kept.pop()
            kept.append(i)
        return kept[:-1]

    ring = [*chain(order), *chain(order[::-1])]
    first = ring.index(min(ring)) if ring else 0
    return np.asarray(points[[*ring[first:], *ring[:first]]])


def _left_of(a: Array, b: Array, p: Array) -> float:
    return float((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]))

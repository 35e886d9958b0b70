"""Lines drawn on a volume: division marks, centre lines and section lines."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.framework.solid import Solid
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array

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
            raise VolumeError(f"“{self.kind}” is not a kind of line: use edge, face or section.")
        if not 1 <= len(self.shares) < MOST_PARTS:
            raise VolumeError(f"Divide into 2 to {MOST_PARTS} parts.")
        if not all(math.isfinite(s) and 0 < s < 1 for s in self.shares):
            raise VolumeError("A division lies between the two ends: use shares between 0 and 1.")


@dataclass(frozen=True, eq=False)
class DrawnMarks:
    """Mark lines in a solid's own axes: starts and ends (q, 3) mm, the two faces (q, 2) each lies
    on, and whether it is a section (else a division) (q,)."""

    starts: Array
    ends: Array
    faces: NDArray[np.intp]
    section: NDArray[np.bool_]


def even(parts: int) -> tuple[float, ...]:
    """The shares that divide into equal parts."""
    if not 2 <= parts <= MOST_PARTS:
        raise VolumeError(f"Divide into 2 to {MOST_PARTS} parts.")
    return tuple(i / parts for i in range(1, parts))


def draw_marks(
    marks: tuple[Mark, ...], solid: Solid, sides: tuple[float, float, float]
) -> DrawnMarks:
    """All mark lines of a volume; a mark on an edge or face that is gone draws nothing."""
    lines: list[tuple[Array, Array, int, int, bool]] = []
    for mark in marks:
        if mark.kind == "section":
            for share in mark.shares:
                lines += _section(solid, mark.axis, share * sides[mark.axis])
        elif mark.kind == "edge" and mark.index < len(solid.edges):
            lines += _edge_ticks(solid, mark)
        elif mark.kind == "face" and mark.index < len(solid.rings):
            lines += _face_lines(solid, mark)
    count = len(lines)
    return DrawnMarks(
        np.array([line[0] for line in lines]).reshape(count, 3),
        np.array([line[1] for line in lines]).reshape(count, 3),
        np.array([(line[2], line[3]) for line in lines], dtype=np.intp).reshape(count, 2),
        np.array([line[4] for line in lines], dtype=bool),
    )


def _edge_ticks(solid: Solid, mark: Mark) -> list[tuple[Array, Array, int, int, bool]]:
    start, end = solid.vertices[solid.edges[mark.index]]
    run = end - start
    length = float(np.linalg.norm(run))
    lines = []
    for face in solid.edge_faces[mark.index].tolist():
        inward = np.cross(solid.normals[face], run / length)
        ring = solid.vertices[list(solid.rings[face][0])]
        reach = (ring - start) @ inward
        deep = float(reach[np.abs(reach).argmax()])
        tick = math.copysign(min(abs(deep), length) * TICK, deep) * inward
        for share in mark.shares:
            at = start + share * run
            lines.append((at, at + tick, face, face, False))
    return lines


def _face_lines(solid: Solid, mark: Mark) -> list[tuple[Array, Array, int, int, bool]]:
    ring = solid.rings[mark.index][0]
    if len(ring) != 4 or len(solid.rings[mark.index]) > 1:
        raise VolumeError("Only a face with four corners can be divided: divide its edges instead.")
    a, b, c, d = solid.vertices[list(ring)]
    if mark.axis == 1:
        a, b, c, d = b, c, d, a
    return [(a + s * (b - a), d + s * (c - d), mark.index, mark.index, False) for s in mark.shares]


def _section(solid: Solid, axis: int, at_mm: float) -> list[tuple[Array, Array, int, int, bool]]:
    lines = []
    for face, ring in solid.parts:
        points = solid.vertices[list(ring)]
        off = points[:, axis] - at_mm
        after, off_after = np.roll(points, -1, axis=0), np.roll(off, -1)
        cuts = [
            p + o / (o - q) * (n - p)
            for p, n, o, q in zip(points, after, off, off_after, strict=True)
            if (o < 0) != (q < 0)
        ]
        if len(cuts) == 2 and float(np.abs(cuts[0] - cuts[1]).max()) > 0:
            lines.append((cuts[0], cuts[1], face, face, True))
    return lines

"""Strokes: lines and arcs on the sheet, each with its role."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.document.edits.proportioning import bounds_of_chosen
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.ellipse_aids import ellipse_aids
from isometron.drawing.measures import directions_of
from isometron.drawing.scene import Scene, VolumePicture
from isometron.framework.bodies.body import DIVISION, SECTION
from isometron.framework.box import EDGES
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.projection import project
from isometron.perspective.sheet import Sheet


class Role(Enum):
    """What a line is for. The value names its layer in files."""

    FAN_LEFT = "fan to the left point"
    FAN_RIGHT = "fan to the right point"
    FAN_CENTRE = "fan to the centre point"
    FAN_THIRD = "fan to the third point"
    EYE_LEVEL = "eye level"
    CENTRE = "centre of vision"
    ELLIPSE_AID = "ellipse aids"
    AID = "floor, shelf and wall"
    GHOST = "ghost lines"
    HIDDEN = "hidden edges"
    DIVISION = "division marks"
    SECTION = "centre and section lines"
    OBJECT = "object lines"


FAN_OF = {
    "left": Role.FAN_LEFT,
    "right": Role.FAN_RIGHT,
    "centre": Role.FAN_CENTRE,
    "third": Role.FAN_THIRD,
}


def _ring(corners: int, first_deg: float) -> Array:
    angle = np.radians(first_deg + 360.0 * np.arange(corners + 1) / corners)
    points = 0.5 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    return np.concatenate([points[:-1], points[1:]], axis=1)


MARKS = {
    Role.FAN_LEFT: _ring(4, 45.0),
    Role.FAN_RIGHT: _ring(12, 0.0),
    Role.FAN_CENTRE: np.array([[-0.5, -0.5, 0.5, 0.5], [-0.5, 0.5, 0.5, -0.5]]),
    Role.FAN_THIRD: _ring(3, 90.0),
}
"""End marks as strokes about (0, 0): square, ring, cross, triangle: families told apart in grey."""

END_MARK_MM = 2.0
"""Size of an end mark on the paper, and how far it stays from the end of its line."""

CENTRE_CROSS_MM = 3.0
"""Half the length of the cross that marks the centre of vision."""

Rectangle = tuple[float, float, float, float]


@dataclass(frozen=True, eq=False)
class Strokes:
    """Lines (n, 4) sheet mm x0, y0, x1, y1 and homogeneous arcs (m, 3, 3), all of one role."""

    role: Role
    lines: Array
    arcs: Array = field(default_factory=lambda: np.empty((0, 3, 3)))


def sheet_strokes(document: Document, scene: Scene) -> tuple[Strokes, ...]:
    """Everything drawn on the paper, light lines first, cut at the paper's edges."""
    sheet = document.sheet
    layers: list[tuple[Role, Array]] = []
    if document.choices.fans and document.lead is not None:
        lead = document.selected or 0
        layers += fans(
            document.eye,
            scene.pictures[lead],
            reach_of(sheet),
            see_through=document.choices.see_through,
        )
    layers.append((Role.ELLIPSE_AID, ellipse_aids(document, scene)))
    layers += [
        (Role.EYE_LEVEL, eye_level_line(document.eye, (0.0, sheet.width_mm))),
        (Role.CENTRE, centre_cross(document.eye)),
    ]
    layers += standing_lines(scene, scene.pictures)
    paper = (0.0, 0.0, sheet.width_mm, sheet.height_mm)
    curves = dict(standing_curves(scene.pictures))
    none = np.empty((0, 3, 3))
    cut = [
        Strokes(role, clipped(lines, paper), clipped_arcs(curves.get(role, none), paper))
        for role, lines in layers
    ]
    cut = [s if s.role not in MARKS else _with_end_marks(s) for s in cut]
    return tuple(strokes for strokes in cut if len(strokes.lines) or len(strokes.arcs))


CURVES_OF = {
    Role.GHOST: "ghost",
    Role.HIDDEN: "hidden",
    Role.SECTION: "section",
    Role.OBJECT: "seen",
}
"""Roles that curves have, and what they are called at a volume's picture."""


def standing_curves(pictures: Sequence[VolumePicture]) -> list[tuple[Role, Array]]:
    """The curves (n, 3, 3) of some volumes by role, light ones first, as sheet arcs."""
    some = [picture for picture in pictures if len(picture.arcs)]
    none = np.empty((0, 3, 3))
    return [
        (role, np.concatenate([none, *(picture.curves_drawn(what) for picture in some)]))
        for role, what in CURVES_OF.items()
    ]


def standing_lines(scene: Scene, pictures: Sequence[VolumePicture]) -> list[tuple[Role, Array]]:
    """The lines (n, 4) of some volumes and the drawing aids by role, light ones first."""
    return [
        (Role.AID, scene.aid_lines),
        (Role.GHOST, _joined([p.ghost_lines for p in pictures if p.volume.ghost])),
        (Role.HIDDEN, _joined([p.hidden_lines for p in pictures])),
        (Role.DIVISION, _joined([p.mark_lines(DIVISION) for p in pictures if p.volume.marks])),
        (Role.SECTION, _joined([p.mark_lines(SECTION) for p in pictures if p.volume.marks])),
        (Role.OBJECT, _joined([p.seen_lines for p in pictures])),
    ]


def bounding_lines(document: Document) -> Array:
    """The twelve edges (k, 4) of the bounding volume of the chosen volumes, sheet mm."""
    bounds = bounds_of_chosen(document)
    corners = bounds.corners()
    seen = project(document.eye, corners)
    lines = seen.sheet[EDGES].reshape(-1, 4)
    return np.asarray(lines[np.isfinite(lines).all(axis=1)])


def end_marks(ends: Array, mark: Array, size: float) -> Array:
    """The strokes (n·k, 4) of an end mark drawn at each of the ends (n, 2).

    mark: (k, 4) of MARKS, in a unit square about its middle; size in the unit of `ends`.
    """
    return np.asarray((mark[None] * size + np.tile(ends, 2)[:, None]).reshape(-1, 4))


def _with_end_marks(strokes: Strokes) -> Strokes:
    lines = strokes.lines
    run = lines[:, :2] - lines[:, 2:]
    length = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-12)[:, None]
    inside = lines[:, 2:] + run / length * np.minimum(END_MARK_MM, length)
    marks = end_marks(inside, MARKS[strokes.role], END_MARK_MM)
    return Strokes(strokes.role, np.concatenate([lines, marks]))


def reach_of(sheet: Sheet) -> float:
    """How far a line must run to leave any view of the sheet, mm."""
    return 100.0 * (sheet.width_mm + sheet.height_mm)


def fans(
    eye: Eye, picture: VolumePicture, reach_mm: float, *, see_through: bool
) -> list[tuple[Role, Array]]:
    """Light lines from the ends of a volume's edges on to each vanishing point.

    Each runs from the far end of its edge to the point, or for `reach_mm` towards a point further
    off than that. Families that stay parallel have no fan; on a solid volume neither have edges
    that are not seen at all.
    """
    layers = []
    drawn = np.array([see_through or bool(spans) for spans in picture.visible], dtype=bool)
    for direction in directions_of(eye, picture):
        point = direction.vanishing.sheet_mm
        if point is None or not direction.family:
            continue
        family = picture.body.edge_axes == direction.axis
        edges = picture.edges[family & drawn]
        depth = picture.depth[edges]
        far = np.where(depth[:, 0] > depth[:, 1], edges[:, 0], edges[:, 1])
        starts = picture.sheet[far]
        starts = starts[np.isfinite(starts).all(axis=1)]
        run = np.array(point) - starts
        length = np.hypot(run[:, 0], run[:, 1])[:, None]
        ends = starts + run * np.minimum(1.0, reach_mm / np.maximum(length, 1e-12))
        layers.append((FAN_OF[direction.family], np.concatenate([starts, ends], axis=1)))
    return layers


def eye_level_line(eye: Eye, between_x: tuple[float, float]) -> Array:
    """The eye level between two places across, (1, 4); (0, 4) when the sight line is vertical."""
    level = eye_level(eye)
    if level is None:
        return np.empty((0, 4))
    return np.array([[between_x[0], level, between_x[1], level]])


def centre_cross(eye: Eye) -> Array:
    """The two strokes (2, 4) that mark the centre of vision."""
    x, y = eye.centre_of_vision_mm
    c = CENTRE_CROSS_MM
    return np.array([[x - c, y, x + c, y], [x, y - c, x, y + c]])


def clipped(lines: Array, rectangle: Rectangle) -> Array:
    """The parts (m, 4) of lines (n, 4) inside a rectangle left, bottom, right, top (Liang-Barsky).

    Lines without a part inside, or with an end that is not a number, are left out.
    """
    return clipped_rows(lines, rectangle)[1]


def clipped_rows(lines: Array, rectangle: Rectangle) -> tuple[NDArray[np.intp], Array]:
    """As `clipped`, with the number (m,) of the line each part is of."""
    rows = np.flatnonzero(np.isfinite(lines).all(axis=1))
    t0, t1 = _span_inside(lines[rows], rectangle)
    keep = t0 < t1
    rows, t0, t1 = rows[keep], t0[keep, None], t1[keep, None]
    lines = lines[rows]
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    first = np.where(t0 > 0, start + t0 * run, start)
    last = np.where(t1 < 1, start + t1 * run, lines[:, 2:])
    return rows, np.concatenate([first, last], axis=1)


def _span_inside(lines: Array, rectangle: Rectangle) -> tuple[Array, Array]:
    """Fractions (n,) at which each line enters and leaves a rectangle; t1 ≤ t0 when it misses."""
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    low, high = np.array(rectangle[:2]), np.array(rectangle[2:])
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        a, b = (low - start) / run, (high - start) / run
    still = run == 0
    missed = (still & ((start < low) | (start > high))).any(axis=1)
    enter = np.where(still, 0.0, np.minimum(a, b))
    leave = np.where(still, 1.0, np.maximum(a, b))
    t0 = np.maximum(enter.max(axis=1, initial=0.0), 0.0)
    t1 = np.minimum(leave.min(axis=1, initial=1.0), 1.0)
    return np.where(missed, 1.0, t0), np.where(missed, 0.0, t1)


def outside(lines: Array, rectangle: Rectangle) -> Array:
    """The parts (m, 4) of lines (n, 4) outside a rectangle left, bottom, right, top."""
    lines = lines[np.isfinite(lines).all(axis=1)]
    t0, t1 = _span_inside(lines, rectangle)
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    hit = t0 < t1
    before, after = hit & (t0 > 0), hit & (t1 < 1)
    first = np.concatenate([start, start + t0[:, None] * run], axis=1)[before]
    last = np.concatenate([start + t1[:, None] * run, lines[:, 2:]], axis=1)[after]
    return np.concatenate([lines[~hit], first, last])


def _joined(lines: list[Array]) -> Array:
    return np.concatenate(lines) if lines else np.empty((0, 4))

"""Shapes: what fills the box of a volume's width, depth and height, and what is cut away."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from isometron.framework.extruded import Extruded
from isometron.framework.solid import Solid, block, from_faces, moved, without
from isometron.framework.turned import Loop, Turned
from isometron.framework.turning import axes_of
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array

ROUND_STEP_DEG = 6.0
"""A rounded plan corner is drawn in chords of this turn; they miss the arc by 0.14 % of its
radius."""

MOST_OUTLINE = 64
"""More corners than this are a curve, not a plan outline."""

Sides = tuple[float, float, float]
Point = tuple[float, float]


@dataclass(frozen=True)
class Block:
    """The whole box."""

    kind = "box"


@dataclass(frozen=True)
class Taper:
    """A box whose upper sides lean: how far, mm, each upper edge lies inside the lower one.

    Negative values lean outward. Two opposite insets that meet make a ridge, all four a tip.
    """

    front_mm: float = 0.0
    back_mm: float = 0.0
    left_mm: float = 0.0
    right_mm: float = 0.0
    kind = "tapered box"

    def __post_init__(self) -> None:
        for value in self.insets:
            if not (math.isfinite(value) and abs(value) <= LARGEST_MM):
                raise VolumeError("A lean must be a length or an angle: type 40 mm or 12°.")

    @property
    def insets(self) -> tuple[float, float, float, float]:
        """Front, back, left, right, mm."""
        return self.front_mm, self.back_mm, self.left_mm, self.right_mm


@dataclass(frozen=True)
class Plan:
    """A prism on a plan outline: corners as shares of width and depth, counter-clockwise from
    above; every corner chamfered or rounded by `corner_mm`."""

    outline: tuple[Point, ...]
    corner_mm: float = 0.0
    rounded: bool = False
    kind = "prism"

    def __post_init__(self) -> None:
        if not 3 <= len(self.outline) <= MOST_OUTLINE:
            raise VolumeError(f"A plan outline needs 3 to {MOST_OUTLINE} corners.")
        if not all(math.isfinite(v) for point in self.outline for v in point):
            raise VolumeError("A plan corner is not a place: give two numbers for each.")
        if not (math.isfinite(self.corner_mm) and self.corner_mm >= 0):
            raise VolumeError("A plan corner is cut by a length of 0 or more.")
        if _area(np.array(self.outline)) <= 0:
            object.__setattr__(self, "outline", tuple(reversed(self.outline)))
        if _crosses_itself(np.array(self.outline)):
            raise VolumeError("That plan outline crosses itself: take its corners in order round.")


RoundShape = Turned | Loop | Extruded
Shape = Block | Taper | Plan | RoundShape
BLOCK = Block()
RECTANGLE = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))


@dataclass(frozen=True)
class Cut:
    """A box taken out of a volume: its lower and upper corner as shares of the volume's sides, its
    turns in degrees about its own lower corner in the volume's axes, and its shape."""

    low: Sides
    high: Sides
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    shape: Shape = BLOCK

    def __post_init__(self) -> None:
        numbers = (*self.low, *self.high, self.yaw_deg, self.pitch_deg, self.roll_deg)
        if not all(math.isfinite(v) for v in numbers):
            raise VolumeError("A cut is not measured in numbers: give its size and place.")
        if not all(a < b for a, b in zip(self.low, self.high, strict=True)):
            raise VolumeError("That cut has no size: give it some width, depth and height.")


@lru_cache(maxsize=4096)
def solid_of(shape: Shape, sides: Sides, cuts: tuple[Cut, ...] = ()) -> Solid:
    """The solid of a shape in a box of the given sides (mm), cuts taken out.

    Raises VolumeError for a lean that folds it, an outline that crosses itself once its corners
    are cut, or a cut that removes everything.
    """
    body = _body(shape, sides)
    if not cuts:
        return body
    return without(body, [_tool(cut, sides) for cut in cuts])


def _tool(cut: Cut, sides: Sides) -> Solid:
    width, depth, height = (
        (high - low) * side for low, high, side in zip(cut.low, cut.high, sides, strict=True)
    )
    tool = _body(cut.shape, (width, depth, height))
    axes = axes_of(cut.yaw_deg, cut.pitch_deg, cut.roll_deg).astype(float)
    return moved(tool, axes, np.array(cut.low) * np.array(sides))


def _body(shape: Shape, sides: Sides) -> Solid:
    if isinstance(shape, Taper):
        return _tapered(shape, sides)
    if isinstance(shape, Plan):
        return _prism(shape, sides)
    return block(sides)


def _tapered(shape: Taper, sides: Sides) -> Solid:
    width, depth, height = sides
    front, back, left, right = shape.insets
    slack = 1e-9 * max(sides)
    if left + right > width + slack or front + back > depth + slack:
        raise VolumeError(
            "That lean folds the volume through itself: the upper sides cross. Lean it less."
        )
    x0, y0 = left, front
    x1, y1 = max(width - right, x0), max(depth - back, y0)
    top = [(x0, y0), (x1, y0), (x0, y1), (x1, y1)]
    base = [(0.0, 0.0), (width, 0.0), (0.0, depth), (width, depth)]
    points = [(*p, 0.0) for p in base] + [(*p, height) for p in top]
    return from_faces(np.array(points), _BOX_FACES)


_BOX_FACES = ((0, 4, 6, 2), (1, 3, 7, 5), (0, 1, 5, 4), (2, 6, 7, 3), (0, 2, 3, 1), (4, 5, 7, 6))


def _prism(shape: Plan, sides: Sides) -> Solid:
    width, depth, height = sides
    outline, arcs = _cut_corners(np.array(shape.outline) * (width, depth), shape)
    n = len(outline)
    points = np.concatenate(
        [np.column_stack([outline, np.zeros(n)]), np.column_stack([outline, np.full(n, height)])]
    )
    faces: list[tuple[int, ...]] = [tuple(range(n - 1, -1, -1)), tuple(range(n, 2 * n))]
    faces += [(i, (i + 1) % n, n + (i + 1) % n, n + i) for i in range(n)]
    smooth = frozenset(frozenset((i, n + i)) for i in arcs)
    return from_faces(points, faces, smooth)


def _cut_corners(corners: Array, shape: Plan) -> tuple[Array, list[int]]:
    """The outline with chamfered or rounded corners, and the numbers of points within an arc."""
    if shape.corner_mm == 0:
        return corners, []
    points: list[Array] = []
    within: list[int] = []
    before, after = np.roll(corners, 1, axis=0), np.roll(corners, -1, axis=0)
    room = np.linalg.norm(after - corners, axis=1)
    for corner, back, on in zip(corners, before, after, strict=True):
        into, out = (back - corner), (on - corner)
        into, out = into / np.linalg.norm(into), out / np.linalg.norm(out)
        turn = math.acos(float(np.clip(into @ out, -1.0, 1.0)))
        reach = shape.corner_mm / math.tan(turn / 2) if shape.rounded else shape.corner_mm
        if 2 * reach > float(room.min()) * (1 + 1e-9):
            raise VolumeError("Those corners meet each other: cut them by less.")
        first, last = corner + reach * into, corner + reach * out
        if not shape.rounded:
            points += [first, last]
            continue
        middle = corner + (into + out) / np.linalg.norm(into + out) * (
            shape.corner_mm / math.sin(turn / 2)
        )
        steps = max(2, math.ceil((180.0 - math.degrees(turn)) / ROUND_STEP_DEG))
        begin, end = first - middle, last - middle
        swing = math.atan2(begin[0] * end[1] - begin[1] * end[0], float(begin @ end))
        for step in range(steps + 1):
            c, s = math.cos(swing * step / steps), math.sin(swing * step / steps)
            within.append(len(points))
            turned = (c * begin[0] - s * begin[1], s * begin[0] + c * begin[1])
            points.append(middle + np.array(turned))
    return np.array(points), within


def _area(outline: Array) -> float:
    x, y = outline.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2


def _crosses_itself(outline: Array) -> bool:
    n = len(outline)
    after = np.roll(outline, -1, axis=0)

    def side(a: Array, b: Array, p: Array) -> float:
        return float((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]))

    for i in range(n):
        for j in range(i + 2, n - (i == 0)):
            a, b, c, d = outline[i], after[i], outline[j], after[j]
            if side(a, b, c) * side(a, b, d) <= 0 and side(c, d, a) * side(c, d, b) <= 0:
                return True
    return abs(_area(outline)) < 1e-9

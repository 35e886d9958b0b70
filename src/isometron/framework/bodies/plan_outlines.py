"""Plan outlines: their area, whether they cross themselves, their corners cut."""

import math

import numpy as np

from isometron.framework.box import SMALLEST_MM
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

ROUND_STEP_DEG = 6.0
"""Where a rounded plan corner is drawn in chords they turn by this; they miss the arc by 0.14 % of
its radius."""

MOST_OUTLINE = 64
"""More corners than this are a curve, not a plan outline."""


def with_cut_corners(corners: Array, cut_mm: float, rounded: bool) -> tuple[Array, list[int]]:
    """An outline (n, 2) mm with chamfered or rounded corners, and the numbers of points within an
    arc. Raises VolumeError when the cuts meet."""
    if cut_mm == 0:
        return corners, []
    points: list[Array] = []
    within: list[int] = []
    before, after = np.roll(corners, 1, axis=0), np.roll(corners, -1, axis=0)
    room = np.linalg.norm(after - corners, axis=1)
    if not float(room.min()) > SMALLEST_MM * SAME:
        raise VolumeError(_("That outline has no area: pull its points apart."))
    for corner, back, on in zip(corners, before, after, strict=True):
        into, out = (back - corner), (on - corner)
        into, out = into / np.linalg.norm(into), out / np.linalg.norm(out)
        turn = math.acos(float(np.clip(into @ out, -1.0, 1.0)))
        reach = cut_mm / math.tan(turn / 2) if rounded else cut_mm
        if 2 * reach > float(room.min()) * (1 + SAME):
            raise VolumeError(_("Those corners meet each other: cut them by less."))
        first, last = corner + reach * into, corner + reach * out
        if not rounded:
            points += [first, last]
            continue
        middle = corner + (into + out) / np.linalg.norm(into + out) * (cut_mm / math.sin(turn / 2))
        steps = max(2, math.ceil((180.0 - math.degrees(turn)) / ROUND_STEP_DEG))
        begin, end = first - middle, last - middle
        swing = math.atan2(begin[0] * end[1] - begin[1] * end[0], float(begin @ end))
        for step in range(steps + 1):
            c, s = math.cos(swing * step / steps), math.sin(swing * step / steps)
            within.append(len(points))
            turned = (c * begin[0] - s * begin[1], s * begin[0] + c * begin[1])
            points.append(middle + np.array(turned))
    return np.array(points), within


def area_of(outline: Array) -> float:
    """Signed area of an outline (n, 2), counter-clockwise positive."""
    x, y = outline.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2


def crosses_itself(outline: Array) -> bool:
    """Whether an outline (n, 2) crosses or touches itself, or has no area."""
    n = len(outline)
    after = np.roll(outline, -1, axis=0)

    def side(a: Array, b: Array, p: Array) -> float:
        return float((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]))

    for i in range(n):
        for j in range(i + 2, n - (i == 0)):
            a, b, c, d = outline[i], after[i], outline[j], after[j]
            if side(a, b, c) * side(a, b, d) <= 0 and side(c, d, a) * side(c, d, b) <= 0:
                return True
    return abs(area_of(outline)) < SAME

"""Pencil strokes on a straightened sheet: doubled and searched lines of one edge count as one, with
their spread."""

import math
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.reading.finding import plainer
from isometron.reading.model import middle_spread

Array = NDArray[np.float64]

ALIKE_DEG, BESIDE_MM, GAP_MM = 3.0, 1.1, 6.0
"""Two pieces belong to one stroke when they run within so many degrees, lie within so many mm of
each other's line, and leave no longer gap along it."""

SHORTEST_MM = 8.0
"""Shorter strokes tell no direction worth a remark."""

ACROSS_MM, EVERY_MM = 1.5, 0.5
"""A stroke's darkness is looked at so far to either side, at places so far apart along it."""

END_SHARE = 0.06
BOWED_SHARE = 0.012
"""A stroke that bows by more than this share of its length is a curve."""

SAME_MM = 0.7
"""A stroke both ends of which lie so near to another's line was found twice."""

BORDER_MM = 3.0
"""What runs so near to the border is the edge of the paper."""

MOST_STROKES = 400


class Stroke(NamedTuple):
    """A straight stroke: both ends, px; how far its pencil lines spread, mm, a standard deviation;
    how dark it is, 0 to 1."""

    start: tuple[float, float]
    end: tuple[float, float]
    spread_mm: float
    dark: float


def strokes_in(
    grey: NDArray[np.uint8], px_per_mm: float, shortest_mm: float = SHORTEST_MM
) -> list[Stroke]:
    """The straight strokes on a straightened sheet, so long at least, the longest first. Pieces are
    found by the line segment detector, which sees both sides of every pencil line; those of one
    edge are put together and laid along the middle of their darkness."""
    import cv2

    found: Any = cv2.createLineSegmentDetector().detect(plainer(grey))[0]
    if found is None:
        return []
    pieces = np.asarray(found, dtype=float).reshape(-1, 2, 2) + 0.5
    lengths = np.hypot(*(pieces[:, 1] - pieces[:, 0]).T)
    order = np.argsort(-lengths, kind="stable")
    order = order[lengths[order] > 1.5 * px_per_mm][: 4 * MOST_STROKES]
    pieces, lengths = pieces[order], lengths[order]
    strokes = []
    for group in _together(pieces, lengths, px_per_mm):
        line = _along(pieces[group], lengths[group])
        if math.dist(*line) >= shortest_mm * px_per_mm:
            laid = _laid(grey, line, px_per_mm)
            if laid is not None and not _at_border(laid, grey.shape, px_per_mm):
                strokes.append(laid)
    strokes.sort(key=lambda one: -math.dist(one.start, one.end))
    kept: list[Stroke] = []
    for one in strokes[:MOST_STROKES]:
        if not any(_lies_on(one, other, SAME_MM * px_per_mm) for other in kept):
            kept.append(one)
    return kept


def _lies_on(one: Stroke, other: Stroke, near: float) -> bool:
    """Whether both ends of a stroke lie on another: it was found twice."""
    start, run = np.array(other.start), np.subtract(other.end, other.start)
    length = float(np.hypot(*run))
    off = np.array([one.start, one.end]) - start
    along, aside = off @ run / length, np.abs(off[:, 0] * run[1] - off[:, 1] * run[0]) / length
    return bool((aside < near).all() and (along > -near).all() and (along < length + near).all())


def _at_border(stroke: Stroke, shape: tuple[int, ...], px_per_mm: float) -> bool:
    """Whether a stroke is the edge of the paper."""
    rows, columns = shape[:2]
    near = BORDER_MM * px_per_mm
    (x0, y0), (x1, y1) = stroke.start, stroke.end
    return any(
        max(one, two) < near or min(one, two) > size - near
        for one, two, size in ((x0, x1, columns), (y0, y1, rows))
    )


def _together(pieces: Array, lengths: Array, px_per_mm: float) -> list[list[int]]:
    """Numbers of pieces that belong to one stroke each: from the longest on, a stroke gathers what
    runs along its line without a gap."""
    left = np.arange(len(pieces))
    groups = []
    while len(left):
        group, left = [int(left[0])], left[1:]
        while len(left):
            line = _along(pieces[group], lengths[group])
            joins = _joins(line, pieces[left], px_per_mm)
            if not joins.any():
                break
            group += left[joins].tolist()
            left = left[~joins]
        groups.append(group)
    return groups


def _joins(line: Array, pieces: Array, px_per_mm: float) -> NDArray[np.bool_]:
    """Which pieces (n, 2, 2) run along a line without a gap."""
    run = line[1] - line[0]
    length = float(np.hypot(*run))
    along = run / length
    own = pieces[:, 1] - pieces[:, 0]
    across = np.abs(along[0] * own[:, 1] - along[1] * own[:, 0])
    alike = np.degrees(np.arctan2(across, np.abs(own @ along))) <= ALIKE_DEG
    off = pieces - line[0]
    beside = np.abs(off[..., 0] * along[1] - off[..., 1] * along[0]).max(axis=1)
    places = off @ along
    gap = GAP_MM * px_per_mm
    near = (places.max(axis=1) > -gap) & (places.min(axis=1) < length + gap)
    return np.asarray(alike & (beside <= BESIDE_MM * px_per_mm) & near)


def _along(pieces: Array, lengths: Array) -> Array:
    """The line (2, 2) nearest to pieces, by their lengths, over all they reach."""
    places = pieces.reshape(-1, 2)
    weights = np.repeat(lengths, 2)
    middle = (places * weights[:, None]).sum(axis=0) / weights.sum()
    off = (places - middle) * np.sqrt(weights)[:, None]
    _u, _s, ways = np.linalg.svd(off, full_matrices=False)
    reach = (places - middle) @ ways[0]
    return np.array([middle + reach.min() * ways[0], middle + reach.max() * ways[0]])


class _Across(NamedTuple):
    """What is seen across a line (2, 2), px from the upper left: lengths along it, and how far to
    its left the middle of the darkness lies there, px (k,); how wide it is, px, and how dark, 0 to
    1 (k,); the line's direction and that to its left (2,)."""

    at: Array
    middle: Array
    wide: Array
    dark: Array
    along: Array
    left: Array


def _across(grey: NDArray[np.uint8], line: Array, px_per_mm: float) -> _Across | None:
    """The darkness across a line, wherever there is some; None where it is not seen."""
    from isometron.reading.finding import between

    run = line[1] - line[0]
    length = float(np.hypot(*run))
    along = run / length
    left = np.array([-along[1], along[0]])
    count = max(int(length / (EVERY_MM * px_per_mm)), 8)
    share = np.linspace(END_SHARE, 1 - END_SHARE, count)
    reach = ACROSS_MM * px_per_mm
    offs = np.arange(-reach, reach + 0.25, 0.5)
    places = line[0] + share[:, None] * run
    profile = between(grey, places[:, None] + offs[None, :, None] * left)
    paper = np.quantile(profile, 0.8, axis=1, keepdims=True)
    ink = np.clip(paper - profile - 0.06 * paper, 0, None)
    weight = ink.sum(axis=1)
    if not (weight > 0).any():
        return None
    seen = weight > 0.25 * float(np.median(weight[weight > 0]))
    if seen.sum() < 6:
        return None
    ink, weight = ink[seen], weight[seen]
    middle = (ink * offs).sum(axis=1) / weight
    wide = np.sqrt((ink * (offs - middle[:, None]) ** 2).sum(axis=1) / weight)
    dark = ink.max(axis=1) / paper[seen, 0]
    return _Across(share[seen] * length, middle, wide, dark, along, left)


def _laid(grey: NDArray[np.uint8], line: Array, px_per_mm: float) -> Stroke | None:
    """A stroke along the middle of its darkness; None for a curve, or where none shows."""
    seen = _across(grey, line, px_per_mm)
    if seen is None:
        return None
    rows, length = grey.shape[0], math.dist(*line)
    at, middle = seen.at, seen.middle
    keep = np.ones(len(at), dtype=bool)
    for _unused in range(3):
        slope, level = np.polyfit(at[keep], middle[keep], 1)
        miss = np.abs(middle - (level + slope * at))
        keep = miss < max(3 * middle_spread(miss[keep]), 0.5)
        if keep.sum() < 6:
            return None
    bow = float(np.polyfit(at[keep], middle[keep], 2)[0]) * float(np.ptp(at[keep])) ** 2 / 4
    if abs(bow) > max(BOWED_SHARE * length, 0.6 * px_per_mm):
        return None
    start, end = line[0] + level * seen.left, line[1] + (level + slope * length) * seen.left
    return Stroke(
        (float(start[0]), rows - float(start[1])),
        (float(end[0]), rows - float(end[1])),
        float(np.median(seen.wide)) / px_per_mm,
        float(np.median(seen.dark)),
    )


ROUND_MM, ROUND_EVERY_DEG = 2.6, 2.0
"""A drawn rim is followed so far to either side of its ellipse, at places so far apart round it."""


def round_stroke(grey: NDArray[np.uint8], points: Array, px_per_mm: float) -> Array:
    """Places (n, 2), px, along the pencil line of a rim, near to the ellipse through some points of
    it: the middle of the darkness across the ellipse, wherever one line alone is seen."""
    from isometron.reading.finding import between
    from isometron.reading.rims import RimError, fit_rim

    try:
        cx, cy, long, short, angle = fit_rim(points).values
    except RimError:
        return points
    rows = grey.shape[0]
    turn = np.radians(np.arange(0, 360, ROUND_EVERY_DEG))
    c, s = math.cos(angle), math.sin(angle)
    turned = np.array([[c, s], [-s, c]])
    ring = np.stack([long * np.cos(turn), short * np.sin(turn)], axis=1) @ turned + (cx, cy)
    out = np.stack([np.cos(turn) / long, np.sin(turn) / short], axis=1) @ turned
    out /= np.hypot(*out.T)[:, None]
    offs = np.arange(-ROUND_MM * px_per_mm, ROUND_MM * px_per_mm + 0.25, 0.5)
    places = ring[:, None] + offs[None, :, None] * out[:, None]
    places[..., 1] = rows - places[..., 1]
    profile = between(grey, places)
    paper = np.quantile(profile, 0.8, axis=1, keepdims=True)
    ink = np.clip(paper - profile - 0.1 * paper, 0, None)
    weight = ink.sum(axis=1)
    if not (weight > 0).any():
        return points
    middle = (ink * offs).sum(axis=1) / np.maximum(weight, 1e-9)
    wide = np.sqrt((ink * (offs - middle[:, None]) ** 2).sum(axis=1) / np.maximum(weight, 1e-9))
    clear = (weight > 0.3 * np.median(weight[weight > 0])) & (wide < 0.7 * px_per_mm)
    if clear.sum() < 24:
        return points
    found: Array = ring[clear] + middle[clear, None] * out[clear]
    return found

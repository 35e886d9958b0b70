"""The curved projection (five-point): a direction t off the sight axis lands at the radius d·t from
the centre of vision, in the direction of its flat picture. Everything is drawn, beside and behind
the eye too; only the one direction exactly behind it lands nowhere (on a circle of radius π·d).

The picture of a straight edge is a curve; it is drawn in quadratic Bézier curves (parabolas) that
miss it by less than CURVE_MM."""

from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import SAME
from isometron.perspective.angles import EXTENDED
from isometron.perspective.eye import Array, Eye, sight_axes

CURVE_MM = 0.005
"""How far a drawn curve may miss the true one, on the sheet."""

DEEPEST = 14
"""Halvings of a curve: what still does not fit runs behind the eye and is left out."""

FIRST = 2
"""A curve is first taken in so many parts: its ends and middles alone could look straight."""


class Placed(NamedTuple):
    """Places (n, 2) of the sheet, mm, NaN in rows that land nowhere; angle (n,) off the sight axis,
    radians."""

    sheet: Array
    off_axis: Array


@lru_cache(maxsize=64)
def _plain_axes(eye: Eye) -> Array:
    return sight_axes(eye).astype(float)


def place_directions(eye: Eye, directions: Array) -> Placed:
    """Where world directions (n, 3) from the eye, of any length, land: worked out as finely as they
    are given. Directions without length, and the one exactly behind the eye, land nowhere."""
    axes = sight_axes(eye) if directions.dtype == EXTENDED else _plain_axes(eye)
    right, up, ahead = axes @ directions.T
    aside = np.hypot(right, up)
    angle = np.arctan2(aside, ahead)
    with np.errstate(divide="ignore", invalid="ignore"):
        radius = np.where(aside > 0, eye.station_distance_mm * angle / aside, 0.0)
    cx, cy = eye.centre_of_vision_mm
    sheet = np.stack([cx + radius * right, cy + radius * up], axis=1).astype(float)
    nowhere = (aside == 0) & (ahead <= 0)
    sheet[nowhere] = np.nan
    return Placed(sheet, angle.astype(float))


def place_points(eye: Eye, points: Array) -> Placed:
    """Where world points (n, 3) land."""
    return place_directions(eye, points.astype(EXTENDED) - np.array(eye.place, dtype=EXTENDED))


def direction_at(eye: Eye, sheet_mm: tuple[float, float]) -> Array:
    """Unit world direction (3,) of the sight line through a place of the sheet."""
    off = np.subtract(sheet_mm, eye.centre_of_vision_mm)
    radius = float(np.hypot(*off))
    axes = sight_axes(eye).astype(float)
    if radius == 0:
        return np.asarray(axes[2])
    angle = radius / eye.station_distance_mm
    x, y = off / radius * np.sin(angle)
    return np.asarray(np.array([x, y, np.cos(angle)]) @ axes)


def to_flat(eye: Eye, sheet: Array) -> Array:
    """Places (n, 2) of the curved sheet where a flat one has the same directions; NaN from 90° off
    the sight axis on."""
    off = sheet - eye.centre_of_vision_mm
    radius = np.hypot(off[:, 0], off[:, 1])
    angle = radius / eye.station_distance_mm
    with np.errstate(divide="ignore", invalid="ignore"):
        grow = np.where(angle > 0, np.tan(angle) / angle, 1.0)
    grow = np.where(angle < np.pi / 2 - SAME, grow, np.nan)
    return np.asarray(eye.centre_of_vision_mm + grow[:, None] * off)


def from_flat(eye: Eye, sheet: Array) -> Array:
    """Places (n, 2) of a flat sheet where the curved one has the same directions."""
    off = sheet - eye.centre_of_vision_mm
    radius = np.hypot(off[:, 0], off[:, 1])
    angle = np.arctan2(radius, eye.station_distance_mm)
    with np.errstate(divide="ignore", invalid="ignore"):
        grow = np.where(radius > 0, eye.station_distance_mm * angle / radius, 1.0)
    return np.asarray(eye.centre_of_vision_mm + grow[:, None] * off)


Along = Callable[[NDArray[np.intp], Array], Array]
"""World directions (n, 3) from the eye of places on curves (n,) at parameters (n,)."""


class Curves(NamedTuple):
    """Quadratic arcs (m, 3, 3) of the sheet, in order: the curve (m,) each is of, and its part
    (m, 2) of that in the curve's parameter."""

    arcs: Array
    number: NDArray[np.intp]
    spans: Array


def curves_along(eye: Eye, along: Along, spans: Array, error_mm: float = CURVE_MM) -> Curves:
    """Pictures of parts (k, 2) of k world curves."""
    count = len(spans)
    share = np.arange(FIRST) / FIRST
    rows = np.repeat(np.arange(count), FIRST)
    width = (spans[:, 1] - spans[:, 0])[rows] / FIRST
    low = spans[rows, 0] + np.tile(share, count) * (spans[:, 1] - spans[:, 0])[rows]
    high = low + width
    done: list[tuple[NDArray[np.intp], Array, Array]] = []  # curve, part, arc
    for deep in range(DEEPEST):
        if not len(rows):
            break
        t = low[:, None] + (high - low)[:, None] * np.array([0.0, 0.25, 0.5, 0.75, 1.0])
        every = np.repeat(rows, 5)
        places = place_directions(eye, along(every, t.ravel())).sheet.reshape(-1, 5, 2)
        a, m, b = places[:, 0], places[:, 2], places[:, 4]
        control = 2 * m - (a + b) / 2
        miss = np.zeros(len(rows))
        for s, true in ((0.25, places[:, 1]), (0.75, places[:, 3])):
            near = (1 - s) ** 2 * a + 2 * s * (1 - s) * control + s * s * b
            miss = np.maximum(miss, np.hypot(*(near - true).T))
        fine = miss <= error_mm
        arcs = np.ones((int(fine.sum()), 3, 3))
        arcs[:, 0, :2], arcs[:, 1, :2], arcs[:, 2, :2] = a[fine], control[fine], b[fine]
        done.append((rows[fine], np.stack([low, high], axis=1)[fine], arcs))
        if deep == DEEPEST - 1:
            break
        rest = ~fine & np.isfinite(places).any(axis=(1, 2))  # what lands nowhere is not halved
        middle = (low + high)[rest] / 2
        rows = np.concatenate([rows[rest], rows[rest]])
        low, high = np.concatenate([low[rest], middle]), np.concatenate([middle, high[rest]])
    if not done:
        return Curves(np.empty((0, 3, 3)), np.empty(0, dtype=np.intp), np.empty((0, 2)))
    number = np.concatenate([one[0] for one in done])
    parts = np.concatenate([one[1] for one in done])
    drawn = np.concatenate([one[2] for one in done])
    order = np.lexsort((parts[:, 0], number))
    return Curves(drawn[order], number[order], parts[order])

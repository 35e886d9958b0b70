"""Sheet arcs made ready for paper and files: clipped, strung together, as ellipses or cubics."""

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import ROUNDING
from isometron.perspective.conics import (
    between,
    bounds_of,
    lengths,
    linear_along,
    roots,
    standard,
)
from isometron.perspective.eye import Array
from isometron.perspective.places import Rectangle

JOINED_MM = 1e-7
"""Arcs whose ends lie this near each other run on."""

FLAT_MM = 1e-9
"""An arc whose control point lies this near its chord is straight."""

PARABOLIC = 1e-9
"""A weight this near 1 makes a parabola."""

MOST_HALVINGS = 13
"""An arc is halved no oftener than this."""


def drawable(arcs: Array) -> NDArray[np.bool_]:
    """(n,) whether sheet arcs (n, 3, 3) can be drawn at all: their numbers are finite, and they do
    not run from before us to behind us, nor through what is infinitely far."""
    finite = np.asarray(np.isfinite(arcs).all(axis=(1, 2)))
    first, middle, last = np.where(finite[:, None], arcs[:, :, 2], 0.0).T
    ends = first * last
    return np.asarray(
        finite & (ends > 0) & (np.sign(first) * middle > -np.sqrt(np.maximum(ends, 0)))
    )


def clipped_arcs(arcs: Array, rectangle: Rectangle) -> Array:
    """The parts (m, 3, 3) of sheet arcs (n, 3, 3) inside a rectangle left, bottom, right, top.

    Those that cannot be drawn at all (`drawable`) are left out."""
    arcs = arcs[drawable(arcs)]
    if not len(arcs):
        return arcs
    left, bottom, right, top = rectangle
    bounds = bounds_of(arcs)
    whole = (bounds[:, 0] >= left) & (bounds[:, 1] >= bottom)
    whole &= (bounds[:, 2] <= right) & (bounds[:, 3] <= top)
    beyond = (bounds[:, 2] < left) | (bounds[:, 3] < bottom)
    beyond |= (bounds[:, 0] > right) | (bounds[:, 1] > top)
    some = np.flatnonzero(~whole & ~beyond)
    if not len(some):
        return np.asarray(arcs[whole])
    sides = np.array([[1, 0, -left], [-1, 0, right], [0, 1, -bottom], [0, -1, top]], dtype=float)
    values = linear_along(np.repeat(arcs[some], 4, axis=0), np.tile(sides, (len(some), 1)))
    number, t = roots(values)
    parts = [arcs[whole]]
    for place, at in enumerate(some.tolist()):
        cuts = np.unique(np.concatenate([[0.0], t[number // 4 == place], [1.0]]))
        a, b = cuts[:-1], cuts[1:]
        pieces = between(np.tile(arcs[at], (len(a), 1, 1)), a, b)
        middle = pieces[:, 0] + 2 * pieces[:, 1] + pieces[:, 2]
        inside = (middle @ sides.T >= 0).all(axis=1) & (b - a > ROUNDING)
        parts.append(pieces[inside])
    return np.concatenate(parts)


def outside_arcs(arcs: Array, rectangle: Rectangle) -> Array:
    """The parts of sheet arcs outside a rectangle."""
    if not len(arcs):
        return arcs
    left, bottom, right, top = rectangle
    bounds = bounds_of(arcs)
    inside = (bounds[:, 0] >= left) & (bounds[:, 1] >= bottom)
    inside &= (bounds[:, 2] <= right) & (bounds[:, 3] <= top)
    some = arcs[~inside]
    far = 1e9
    strips: list[Rectangle] = [
        (-far, -far, left, far),
        (right, -far, far, far),
        (left, -far, right, bottom),
        (left, top, right, far),
    ]
    return np.concatenate([clipped_arcs(some, strip) for strip in strips])


def begins_run(arcs: Array) -> NDArray[np.bool_]:
    """(n,) whether each arc begins anew instead of where the one before ends."""
    fresh = np.ones(len(arcs), dtype=bool)
    ends = arcs[:, 2, :2] / arcs[:, 2, 2:]
    starts = arcs[:, 0, :2] / arcs[:, 0, 2:]
    fresh[1:] = np.abs(starts[1:] - ends[:-1]).max(axis=1, initial=0.0) > JOINED_MM
    return fresh


def chained(arcs: Array) -> list[Array]:
    """Runs (k, 3, 3) of arcs each of which begins where the one before ends, in the order given."""
    return np.split(arcs, np.flatnonzero(begins_run(arcs))[1:]) if len(arcs) else []


def cubics(arcs: Array, error_mm: float) -> tuple[Array, NDArray[np.intp]]:
    """Cubic Bézier curves (m, 4, 2) that miss sheet arcs (n, 3, 3) by less than an error, in order,
    and the number (m,) of the arc each is a part of.

    Arcs that cannot be drawn at all (`drawable`) have none.

    An arc with middle weight w has the cubic with λ = 4·w/(3·(1 + w)); arcs are halved until both
    agree at a quarter of the way (Floater, Computer Aided Geometric Design 14, 1997).
    """
    some = drawable(arcs)
    arcs, order = arcs[some], np.flatnonzero(some).astype(float)
    done: list[tuple[Array, Array]] = []
    for halvings in range(MOST_HALVINGS + 1):
        if not len(arcs):
            break
        places, weight = standard(arcs)
        reach, w = (4 / (3 * (1 + weight)))[:, None], weight[:, None]
        a, m, b = places[:, 0], places[:, 1], places[:, 2]
        curve = np.stack([a, a + reach * (m - w * a), b + reach * (m - w * b), b], axis=1)
        miss = np.zeros(len(arcs))
        for t in (0.25, 0.75):
            s = 1 - t
            true = s * s * a + 2 * s * t * m + t * t * b
            true = true / (s * s + 2 * s * t * weight + t * t)[:, None]
            near = (
                s**3 * curve[:, 0]
                + 3 * s * s * t * curve[:, 1]
                + 3 * s * t * t * curve[:, 2]
                + t**3 * curve[:, 3]
            )
            miss = np.maximum(miss, _off_along(near - true, curve, t))
        # what is no number is not halved any further
        fine = ~(miss > error_mm) | (halvings == MOST_HALVINGS)
        done.append((order[fine], curve[fine]))
        arcs, order = arcs[~fine], order[~fine]
        n = len(arcs)
        half = np.full(n, 0.5)
        arcs = np.concatenate([between(arcs, np.zeros(n), half), between(arcs, half, np.ones(n))])
        order = np.concatenate([order, order + 0.5 ** (halvings + 1)])
    if not done:
        return np.empty((0, 4, 2)), np.empty(0, dtype=np.intp)
    number = np.concatenate([o for o, _ in done])
    in_order = np.argsort(number, kind="stable")
    curves = np.concatenate([c for _, c in done])
    return curves[in_order], number[in_order].astype(np.intp)


def ellipse_cubics(values: Array) -> Array:
    """Eight cubics (8, 4, 2) of an ellipse (centre x and y, half axes, tilt in degrees); they are
    off by less than 5e-6 of its half axis."""
    cx, cy, a, b, tilt = (float(v) for v in values)
    turn = np.radians(np.arange(0.0, 361.0, 45.0))
    places = np.stack([np.cos(turn), np.sin(turn)], axis=1)
    ways = 4 / 3 * math.tan(math.pi / 16) * np.stack([-np.sin(turn), np.cos(turn)], axis=1)
    round_one = np.stack(
        [places[:-1], places[:-1] + ways[:-1], places[1:] - ways[1:], places[1:]], axis=1
    )
    c, s = math.cos(math.radians(tilt)), math.sin(math.radians(tilt))
    placed: Array = round_one * (a, b) @ np.array([[c, s], [-s, c]]) + (cx, cy)
    return placed


def along_cubics(cubics: Array, parts: int = 8) -> Array:
    """Points (parts·k + 1, 2) along cubics (k, 4, 2) that follow each other."""
    runs = np.einsum("tj,kjd->ktd", _weights(parts), cubics)
    return np.concatenate([runs[:, :-1].reshape(-1, 2), cubics[-1, 3:]])


@lru_cache(maxsize=8)
def _weights(parts: int) -> Array:
    """(parts + 1, 4) a cubic's control points weighted at places along it."""
    t = np.linspace(0.0, 1.0, parts + 1)[:, None]
    weights = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t**2 * (1 - t), t**3]
    return np.concatenate(weights, axis=1)


def _off_along(gap: Array, curve: Array, t: float) -> Array:
    """The part of a gap (n, 2) square to a cubic at t."""
    s = 1 - t
    run = (
        s * s * (curve[:, 1] - curve[:, 0])
        + 2 * s * t * (curve[:, 2] - curve[:, 1])
        + t * t * (curve[:, 3] - curve[:, 2])
    )
    length = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-300)
    return np.asarray(np.abs(gap[:, 0] * run[:, 1] - gap[:, 1] * run[:, 0]) / length)


class ArcForm(NamedTuple):
    """What a sheet arc is: "line", "ellipse", "parabola" or "hyperbola"; its start and end, sheet
    mm, and whether it turns to the left of its way, y upward. For a parabola or hyperbola also the
    control point and its weight; for an ellipse the centre, the half axes as vectors (long one
    first), and the eccentric angles (radians) of start and end."""

    kind: str
    start: tuple[float, float]
    end: tuple[float, float]
    left_turning: bool
    control: tuple[float, float] = (0.0, 0.0)
    weight: float = 1.0
    centre: tuple[float, float] = (0.0, 0.0)
    long: tuple[float, float] = (0.0, 0.0)
    short: tuple[float, float] = (0.0, 0.0)
    turns: tuple[float, float] = (0.0, 0.0)


def form_of(arc: Array) -> ArcForm:
    """What one sheet arc (3, 3) is.

    With end weights 1 and middle weight w, an ellipse has its centre at
    ((P₀ + P₂)/2 − w·(w·P₁))/(1 − w²) and the conjugate half diameters S − C and
    (P₂ − P₀)/(2·√(1 − w²)), S being its middle point.
    """
    places, weights = standard(arc[None])
    (a, m, b), w = places[0], float(weights[0])
    chord = b - a
    length = float(np.hypot(*chord))
    bulge = m - w * a
    off = float(chord[0] * bulge[1] - chord[1] * bulge[0])
    ends = (_pair(a), _pair(b), off < 0)
    if abs(off) <= FLAT_MM * length * max(w, 1.0) or length == 0:
        return ArcForm("line", *ends)
    if abs(w - 1.0) <= PARABOLIC:
        return ArcForm("parabola", *ends, _pair(m / w), w)
    if w > 1.0:
        return ArcForm("hyperbola", *ends, _pair(m / w), w)
    centre = ((a + b) / 2 - w * m) / (1 - w * w)
    one = (a + b + 2 * m) / (2 * (1 + w)) - centre
    two = chord / (2 * math.sqrt(1 - w * w))
    turn = 0.5 * math.atan2(2 * float(one @ two), float(one @ one - two @ two))
    long = math.cos(turn) * one + math.sin(turn) * two
    short = -math.sin(turn) * one + math.cos(turn) * two
    half = math.acos(w)
    turns = (-half - turn, half - turn)
    if float(short @ short) > float(long @ long):
        long, short = short, -long
        turns = (turns[0] - math.pi / 2, turns[1] - math.pi / 2)
    return ArcForm(
        "ellipse", *ends, centre=_pair(centre), long=_pair(long), short=_pair(short), turns=turns
    )


def _pair(place: Array) -> tuple[float, float]:
    return float(place[0]), float(place[1])


def length_of(arcs: Array) -> float:
    """Drawn length of sheet arcs, mm."""
    return float(lengths(arcs).sum())

"""Arcs of conics: curves that stay exact under projection.

An arc is a rational quadratic Bézier curve, given by three homogeneous control points: (3, 4) in
the world as w·x, w·y, w·z, w, or (3, 3) on the sheet as w·x, w·y, w. Circles, ellipses, parabolas,
hyperbolas and straight lines are all such arcs, and the picture of one is another (Farin, Curves
and Surfaces for CAGD, ch. 12). A form (linear or quadratic in space) taken along an arc is a
polynomial in Bernstein form, whose roots are found by subdivision.
"""

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import ROUNDING, SAME
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.projection import NEAR_MM

TOUCHING = 1e-13
"""A polynomial smaller than this share of its largest value touches zero there: one root."""

MOST_CHORDS = 256

_DEEPEST = 36
"""Halvings after which two roots this close together are one."""

_NEWTON = 60

PIECES = 8
_GAUSS = np.polynomial.legendre.leggauss(16)
_NODES, _WEIGHTS = 0.5 + 0.5 * _GAUSS[0], 0.5 * _GAUSS[1]

CLOSE = 1e-15
"""A root that moves by less than this is found."""


def straight(starts: Array, ends: Array) -> Array:
    """Straight lines (n, 3) to (n, 3) world mm (or (n, 2) on the sheet) as arcs (n, 3, 4)."""
    controls = np.stack([starts, (starts + ends) / 2, ends], axis=1)
    return np.concatenate([controls, np.ones((*controls.shape[:2], 1))], axis=2)


def circle_arcs(
    centre: Array, across: Array, along: Array, start_deg: float = 0.0, sweep_deg: float = 360.0
) -> Array:
    """Arcs (k, 3, 4) of a circle (or ellipse) centre + across·cos + along·sin, world mm.

    across, along: (3,) with the radius as their length. The arcs turn by at most a quarter each.
    """
    count = max(1, math.ceil(abs(sweep_deg) / 90.0 - 1e-9))
    turns = np.radians(start_deg + sweep_deg * np.arange(count + 1) / count)
    half = math.radians(sweep_deg / count) / 2
    weight = math.cos(half)
    middles = (turns[:-1] + turns[1:]) / 2
    ends = centre + np.cos(turns)[:, None] * across + np.sin(turns)[:, None] * along
    bend = np.cos(middles)[:, None] * across + np.sin(middles)[:, None] * along
    arcs = np.ones((count, 3, 4))
    arcs[:, 0, :3], arcs[:, 2, :3] = ends[:-1], ends[1:]
    arcs[:, 1, :3] = weight * centre + bend
    arcs[:, 1, 3] = weight
    return arcs


def conic_arc(start: Array, end: Array, form: Array, inside: Array) -> Array:
    """The arc (3, 3) of a plane conic xᵀ·form·x = 0 between two of its points.

    start, end, inside: (3,) homogeneous; `inside` lies on the wanted side of the chord. The arc
    must turn by less than half a turn. Its control point is the pole of the chord; its weight
    follows from startᵀ·form·end (docs/numbers.md).
    """
    chord = np.cross(start, end)
    pole = adjugate(form) @ chord
    curve = float(pole @ form @ pole)
    weight = math.sqrt(max(-float(start @ form @ end) / (2.0 * curve), 0.0)) if curve else 0.0
    middle = weight * pole
    if float(chord @ middle) * float(chord @ inside) * float(inside[2]) < 0:
        middle = -middle
    return np.stack([start, middle, end])


def adjugate(matrix: Array) -> Array:
    """The adjugate of 3 × 3 matrices (…, 3, 3): the inverse times the determinant."""
    a, b, c = matrix[..., 0, :], matrix[..., 1, :], matrix[..., 2, :]
    return np.stack([np.cross(b, c), np.cross(c, a), np.cross(a, b)], axis=-1)


def moved(arcs: Array, axes: Array, place: Array) -> Array:
    """World arcs (n, 3, 4) with their own axes turned to the rows of axes and set at a place."""
    turned = np.empty_like(arcs)
    turned[..., :3] = arcs[..., :3] @ axes + arcs[..., 3:] * place
    turned[..., 3] = arcs[..., 3]
    return turned


def at(arcs: Array, t: Array) -> Array:
    """Homogeneous points (n, k) of n arcs at parameters t (n,) in 0 … 1."""
    t = t[..., None]
    s = 1.0 - t
    return np.asarray(
        s * s * arcs[..., 0, :] + 2 * s * t * arcs[..., 1, :] + t * t * arcs[..., 2, :]
    )


def points_at(arcs: Array, t: Array) -> Array:
    """Points (n, k − 1) of n arcs at parameters t (n,)."""
    found = at(arcs, t)
    return np.asarray(found[..., :-1] / found[..., -1:])


def lengths(arcs: Array) -> Array:
    """Lengths (n,) of n arcs, mm: by Gauss's rule over eighths of each.

    Within 1e-9 of the length for arcs of a quarter turn and less."""
    if not len(arcs):
        return np.zeros(0)
    found = np.zeros(len(arcs))
    for start in np.arange(PIECES) / PIECES:
        for node, weight in zip(_NODES, _WEIGHTS, strict=True):
            t = start + node / PIECES
            s = 1.0 - t
            p = s * s * arcs[:, 0] + 2 * s * t * arcs[:, 1] + t * t * arcs[:, 2]
            d = 2 * s * (arcs[:, 1] - arcs[:, 0]) + 2 * t * (arcs[:, 2] - arcs[:, 1])
            w, dw = p[:, -1:], d[:, -1:]
            speed = np.linalg.norm((d[:, :-1] * w - p[:, :-1] * dw) / w**2, axis=1)
            found += weight / PIECES * speed
    return found


def between(arcs: Array, t0: Array, t1: Array) -> Array:
    """The parts of n arcs from t0 (n,) to t1 (n,), as arcs of their own (by blossoming)."""
    a, b = t0[:, None], t1[:, None]
    first, middle, last = arcs[:, 0], arcs[:, 1], arcs[:, 2]
    cross = (1 - a) * (1 - b) * first + (a * (1 - b) + b * (1 - a)) * middle + a * b * last
    return np.stack([at(arcs, t0), cross, at(arcs, t1)], axis=1)


def linear_along(arcs: Array, form: Array) -> Array:
    """Bernstein coefficients (n, 3) of linear forms (n, k) along n arcs."""
    return np.asarray(np.einsum("nik,nk->ni", arcs, form))


def quadratic_along(arcs: Array, form: Array) -> Array:
    """Bernstein coefficients (n, 5) of quadratic forms (n, k, k) along n arcs."""
    b = arcs @ form @ np.swapaxes(arcs, 1, 2)
    return np.stack(
        [b[:, 0, 0], b[:, 0, 1], (b[:, 0, 2] + 2 * b[:, 1, 1]) / 3, b[:, 1, 2], b[:, 2, 2]], axis=1
    )


def _halving(degree: int) -> tuple[Array, Array]:
    left = np.zeros((degree + 1, degree + 1))
    for row in range(degree + 1):
        left[row, : row + 1] = [math.comb(row, i) / 2**row for i in range(row + 1)]
    return left, left[::-1, ::-1].copy()


_HALVES = {degree: _halving(degree) for degree in (2, 4)}


def roots(coefficients: Array) -> tuple[NDArray[np.intp], Array]:
    """Roots in 0 … 1 of polynomials in Bernstein form: row numbers (r,) and roots (r,).

    coefficients: (m, 3) or (m, 5). Rows that are zero everywhere have none; a row that only touches
    zero has one root there. By halving until one sign change is left, then Newton's method kept
    inside its bracket.
    """
    if not len(coefficients):
        return np.empty(0, dtype=np.intp), np.empty(0)
    degree = coefficients.shape[1] - 1
    left, right = _HALVES[degree]
    size = np.abs(coefficients).max(axis=1, initial=0.0)
    rows = np.flatnonzero(size > 0)
    c = coefficients[rows] / size[rows, None]
    low, width = np.zeros(len(rows)), 1.0
    sure: list[tuple[Any, ...]] = []
    touched: list[tuple[Any, ...]] = []
    for _ in range(_DEEPEST):
        mixed = (c.min(axis=1) <= 0) & (c.max(axis=1) >= 0)
        rows, c, low = rows[mixed], c[mixed], low[mixed]
        positive = c > 0
        changes = (positive[:, 1:] != positive[:, :-1]).sum(axis=1)
        one = (changes == 1) & (positive[:, 0] != positive[:, -1])
        if one.any():
            sure.append((rows[one], low[one], np.full(one.sum(), width), c[one]))
        flat = ~one & (np.abs(c).max(axis=1) < TOUCHING)
        if flat.any():
            touched.append((rows[flat], low[flat] + width / 2))
        rest = ~(one | flat)
        if not rest.any():
            rows = rows[:0]
            break
        rows, c, low = rows[rest], c[rest], low[rest]
        width /= 2
        c = np.concatenate([c @ left.T, c @ right.T])
        rows, low = np.tile(rows, 2), np.concatenate([low, low + width])
    if len(rows):
        near = (c.min(axis=1) <= 0) & (c.max(axis=1) >= 0)
        touched.append((rows[near], low[near] + width / 2))
    found_rows, found = [one[0] for one in touched], [one[1] for one in touched]
    if sure:
        base, start, spans, some = (np.concatenate(part) for part in zip(*sure, strict=True))
        found_rows.append(base)
        found.append(start + spans * _bracketed(some))
    if not found:
        return np.empty(0, dtype=np.intp), np.empty(0)
    return np.concatenate(found_rows).astype(np.intp), np.concatenate(found)


def _to_powers(degree: int) -> Array:
    """(d + 1, d + 1): Bernstein coefficients times this are coefficients of 1, t, t², …"""
    change = np.zeros((degree + 1, degree + 1))
    for i in range(degree + 1):
        for k in range(i, degree + 1):
            change[i, k] = math.comb(degree, k) * math.comb(k, i) * (-1.0) ** (k - i)
    return change


_POWERS = {degree: _to_powers(degree) for degree in (2, 4)}


def _of_quadratics(c: Array) -> Array:
    """The one root in 0 … 1 of quadratics (m, 3) in Bernstein form that change their sign once.

    With r = t / (1 − t) they are c₀ + 2·c₁·r + c₂·r²; the root is taken in the form that loses
    nothing by cancelling.
    """
    c0, c1, c2 = c.T
    q = -(c1 + np.copysign(np.sqrt(np.maximum(c1 * c1 - c0 * c2, 0.0)), c1))
    # r = q / c₂ or c₀ / q, and t = r / (1 + r): the one of the two that lies within 0 … 1.
    with np.errstate(divide="ignore", invalid="ignore"):
        one, other = q / (q + c2), c0 / (c0 + q)
    # An end that is itself zero is no change of sign: then the other root is meant.
    inner = (one > 0) & (one < 1)
    return np.asarray(np.clip(np.where(inner, one, np.where(np.isfinite(other), other, 0.5)), 0, 1))


def _bracketed(c: Array) -> Array:
    """The one root in 0 … 1 of each row (m, d + 1) that changes its sign once."""
    degree = c.shape[1] - 1
    if degree == 2:
        return _of_quadratics(c)
    powers = c @ _POWERS[degree]
    rising = c[:, -1] > 0
    low, high = np.zeros(len(c)), np.ones(len(c))
    # Where an end itself is zero the one change of sign lies further in: begin in the middle.
    ended = (c[:, 0] == 0) | (c[:, -1] == 0)
    t = np.where(ended, 0.5, c[:, 0] / np.where(ended, 1.0, c[:, 0] - c[:, -1]))
    found = t.copy()
    left = np.arange(len(c))
    for _ in range(_NEWTON):
        value, slope = powers[:, -1], np.zeros(len(t))
        for k in range(degree - 1, -1, -1):
            slope = slope * t + value
            value = value * t + powers[:, k]
        above = (value > 0) == rising
        high, low = np.where(above, t, high), np.where(above, low, t)
        with np.errstate(divide="ignore", invalid="ignore"):
            step = t - value / slope
        after = np.where((step > low) & (step < high), step, (low + high) / 2)
        open_ = (np.abs(after - t) > CLOSE) & (value != 0)
        found[left] = np.where(value == 0, t, after)
        left, t, low, high = left[open_], after[open_], low[open_], high[open_]
        powers, rising = powers[open_], rising[open_]
        if not len(left):
            break
    return found


def seen_from(eye: Eye, arcs: Array) -> Array:
    """World arcs (n, 3, 4) taken from the eye point: w·(P − eye), w, in world axes."""
    relative = arcs.copy()
    relative[..., :3] -= arcs[..., 3:] * np.array(eye.place)
    return relative


def lens(eye: Eye) -> Array:
    """(3, 3) matrix from world directions at the eye to homogeneous sheet mm."""
    right, up, ahead = sight_axes(eye).astype(float)
    cx, cy = eye.centre_of_vision_mm
    d = eye.station_distance_mm
    return np.stack([d * right + cx * ahead, d * up + cy * ahead, ahead])


def pictures(eye: Eye, relative: Array) -> Array:
    """Pictures (n, 3, 3) on the sheet of arcs taken from the eye point (n, 3, 4)."""
    return np.asarray(relative[..., :3] @ lens(eye).T)


def item_lens(eye: Eye) -> Array:
    """(3, 4) matrix from homogeneous places to homogeneous sheet mm: places are taken from the eye
    point, or from the world's origin when sight lines run parallel."""
    if eye.parallel is None:
        return np.column_stack([lens(eye), np.zeros(3)])
    right, up, _ahead = sight_axes(eye).astype(float)
    rows = np.zeros((3, 4))
    for row, (axis, middle) in enumerate(zip((right, up), eye.centre_of_vision_mm, strict=True)):
        rows[row, :3] = eye.parallel * axis
        rows[row, 3] = middle - eye.parallel * float(axis @ np.array(eye.place))
    rows[2, 3] = 1.0
    return rows


def in_front(eye: Eye, relative: Array) -> tuple[NDArray[np.intp], Array]:
    """The parts of arcs (taken from the eye point) that lie in front of the near plane: arc numbers
    (k,) and their spans (k, 2) in parameters."""
    ahead = np.append(sight_axes(eye)[2].astype(float), -NEAR_MM * (1 + SAME))
    depth = np.asarray(relative @ ahead)
    whole = np.flatnonzero((depth > 0).all(axis=1))
    crossing = np.flatnonzero(~(depth > 0).all(axis=1) & (depth > 0).any(axis=1))
    if not len(crossing):
        return whole, np.tile([0.0, 1.0], (len(whole), 1))
    rows, t = roots(depth[crossing])
    numbers, spans = [whole], [np.tile([0.0, 1.0], (len(whole), 1))]
    for place, number in enumerate(crossing.tolist()):
        cuts = np.concatenate([[0.0], np.sort(t[rows == place]), [1.0]])
        middle = (cuts[:-1] + cuts[1:]) / 2
        there = at(np.tile(relative[number], (len(middle), 1, 1)), middle) @ ahead > 0
        there &= cuts[1:] - cuts[:-1] > ROUNDING
        numbers.append(np.full(int(there.sum()), number))
        spans.append(np.stack([cuts[:-1], cuts[1:]], axis=1)[there])
    return np.concatenate(numbers).astype(np.intp), np.concatenate(spans)


def bounds_of(drawn: Array) -> Array:
    """Bounds (n, 4) left, bottom, right, top of sheet arcs (n, 3, 3), from their control points;
    unbounded for arcs whose control point lies behind us."""
    weight = drawn[..., 2]
    with np.errstate(divide="ignore", invalid="ignore"):
        x, y = drawn[..., 0] / weight, drawn[..., 1] / weight
    bounds = np.stack([x.min(axis=1), y.min(axis=1), x.max(axis=1), y.max(axis=1)], axis=1)
    bounds[(weight <= 0).any(axis=1)] = (-np.inf, -np.inf, np.inf, np.inf)
    return bounds


def standard(drawn: Array) -> tuple[Array, Array]:
    """Sheet arcs (n, 3, 3) with end weights 1: start, control point times its weight, and end
    (n, 3, 2), and that weight (n,), above −1: 0 for half an ellipse, whose control point lies at
    infinity. For arcs before the eye: the weights of their ends are positive."""
    weight = drawn[..., 2]
    places = drawn[..., :2].copy()
    places[:, [0, 2]] /= weight[:, [0, 2], None]
    between_ends = np.sqrt(weight[:, 0] * weight[:, 2])
    places[:, 1] /= between_ends[:, None]
    return places, np.asarray(weight[:, 1] / between_ends)


def chords(drawn: Array, gap_mm: float) -> list[Array]:
    """Points (k, 2) along each sheet arc (n, 3, 3), whose chords miss the arc by less than a gap:
    for screens, which draw in pixels anyway."""
    if not len(drawn):
        return []
    places, weight = standard(drawn)
    across = weight[:, None] * (places[:, 0] + places[:, 2]) - 2 * places[:, 1]
    sagitta = np.linalg.norm(across, axis=1) / 2 / (1 + weight)
    counts = np.clip(np.ceil(1.2 * np.sqrt(sagitta / gap_mm)), 1, MOST_CHORDS).astype(int)
    lines: list[Array] = [np.empty(0)] * len(drawn)
    for count in np.unique(counts).tolist():
        some = np.flatnonzero(counts == count)
        s, w = places[some], weight[some]
        t = np.arange(count + 1) / count
        b0, b1, b2 = (1 - t) ** 2, 2 * t * (1 - t), t * t
        under = b0 + b2 + w[:, None] * b1
        above = (
            b0[None, :, None] * s[:, None, 0]
            + b1[None, :, None] * s[:, None, 1]
            + b2[None, :, None] * s[:, None, 2]
        )
        for row, points in zip(some.tolist(), above / under[..., None], strict=True):
            lines[row] = points
    for row in np.flatnonzero(weight < 0).tolist():  # more than half its conic: in two halves
        halves = between(np.tile(drawn[row], (2, 1, 1)), np.array([0.0, 0.5]), np.array([0.5, 1.0]))
        first, second = chords(halves, gap_mm)
        lines[row] = np.concatenate([first, second[1:]])
    return lines

"""Rims on a straightened sheet, found by what any ellipse has: opposite tangents are parallel, and
the middle between them is its own."""

import math
from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import NEAR
from isometron.perspective.watching import ticking
from isometron.reading.rims import RimError, fit_rim
from isometron.reading.sketch.strokes import Stroke, round_stroke

Array = NDArray[np.float64]

PX_PER_MM = 3.0
"""Rims are looked for in a picture of no more than so many px per mm."""

LINE_MM, DARK = 0.4, 0.02
"""A pencil line is about so wide, and darker than the paper by this share once blurred by that."""

ERASED_MM = 1.2
"""What is drawn so near to a straight stroke belongs to it."""

MOST_POINTS = 3000
PARALLEL_DEG, ASLANT_DEG = 4.0, 12.0
"""Tangents are parallel when they differ by less; the line between two opposite places is aslant to
both by more."""

SMALLEST_MM, LARGEST_MM = 5.0, 260.0
CELL_MM = 1.5
"""Middles are counted in cells of this size."""

LEAST_PAIRS, TRIALS = 16, 80
AT_ONCE = 10
"""So many trials are looked at together before it is asked whether one is good enough."""

ALMOST = 1e-12
"""Keeps the equations of an ellipse solvable where its places say too little."""

MOST_MIDDLES = 110
SWELLS = 0.07
"""What leaves its ellipse swells by no more than this share of its radius."""

PASSES = ((0.0, 25.0), (SWELLS, 60.0))
"""True rims are looked for first, so that a loose one takes no neighbour's ink: by which share of
their radius they may swell, and how long a stroke is no straight part of such a rim, mm."""

ON_MM, ALONG_DEG, MISSES_MM = 0.8, 12.0, 0.5
"""Ink so near to an ellipse that runs along it is on it; a rim misses its ellipse by less,
root mean square."""

SEEN, SECTORS = 0.75, 72
"""A rim shows in this share of so many sectors round its ellipse."""

FLATTEST = 0.08
MOST_RIMS = 60
MOST_INK = 45_000
"""Places along pencil lines, at PX_PER_MM: some fifteen metres of line."""


class Ink(NamedTuple):
    """Places (n, 2) along the middle of pencil lines, mm, y upward, and the direction of the line
    there, radians (n,)."""

    places: Array
    turn: Array

    def less(self, taken: NDArray[np.bool_]) -> "Ink":
        """Without those that are taken (n,)."""
        return Ink(self.places[~taken], self.turn[~taken])


def rims_on(
    grey: NDArray[np.uint8],
    strokes: Sequence[Stroke],
    px_per_mm: float,
) -> list[Array]:
    """Points (n, 2), px from the lower left corner, along each rim that is drawn on a straightened
    sheet and seen most of the way round, the largest first. Strokes too long to be a straight part
    of a rim are taken away first."""
    ink = _ink(grey, px_per_mm)
    if len(ink.places) > MOST_INK:
        return []  # a texture, no drawing
    found: list[Array] = []
    for swells, straight_mm in PASSES:
        long = [one for one in strokes if math.dist(one.start, one.end) > straight_mm * px_per_mm]
        drawn_as = [ellipse for rim in found if (ellipse := _ellipse(rim / px_per_mm)) is not None]
        left = _away_from(ink, long, px_per_mm)
        for ellipse in drawn_as:
            left = left.less(np.abs(_off(left.places, ellipse)) < ON_MM)
        for values in _ellipses(left, swells):
            rim = round_stroke(grey, _ring(values) * px_per_mm, px_per_mm)
            drawn = _ellipse(rim / px_per_mm)
            if drawn is not None and not any(_same(drawn, other) for other in drawn_as):
                found.append(rim)
                drawn_as.append(drawn)
    return sorted(found, key=lambda rim: -float(np.ptp(rim, axis=0).max()))


def _ellipses(ink: Ink, swells: float) -> Iterator[Array]:
    """Ellipses (middle, half axes, angle; mm) that ink lies on most of the way round, within a
    share of their radius; none takes the ink of another."""
    pairs = _opposite(ink)
    free = np.ones(len(ink.places), dtype=bool)
    count = 0
    middles = _middles(pairs)
    for middle in ticking(middles, len(middles)):
        near = pairs.about(middle)
        while count < MOST_RIMS:
            alive = free[near.ends[:, 0]] & free[near.ends[:, 1]]
            values = _rim_about(ink, free, near.only(alive), swells)
            if values is None:
                break
            free &= ~(np.abs(_off(ink.places, values)) < _wide(values, swells))
            count += 1
            yield values


def _same(one: Array, other: Array) -> bool:
    """Whether two ellipses are one that was drawn twice round."""
    return bool(np.abs(_off(_ring(one), other)).max() < 2 * ON_MM)


def _ink(grey: NDArray[np.uint8], px_per_mm: float) -> Ink:
    """The middles of pencil lines: where the second derivative across the line is greatest
    (Steger's ridges, to the pixel)."""
    import cv2

    rows, columns = grey.shape
    smaller = min(PX_PER_MM / px_per_mm, 1.0)
    size = max(round(columns * smaller), 1), max(round(rows * smaller), 1)
    small: Any = cv2.resize(grey, size, interpolation=cv2.INTER_AREA).astype(np.float32)
    scale = px_per_mm * smaller
    sigma = max(LINE_MM * scale, 0.8)
    smooth: Any = cv2.GaussianBlur(small, (0, 0), sigma)
    xx: Any = cv2.Sobel(smooth, cv2.CV_32F, 2, 0, ksize=3) / 4
    yy: Any = cv2.Sobel(smooth, cv2.CV_32F, 0, 2, ksize=3) / 4
    xy: Any = cv2.Sobel(smooth, cv2.CV_32F, 1, 1, ksize=3) / 4
    half, more = (xx + yy) / 2, np.hypot((xx - yy) / 2, xy)
    bent = (half + more) * sigma**2
    dark = bent > DARK * np.maximum(smooth, 1.0)
    dark &= half + more > 2 * np.abs(half - more)  # a line, no blot
    border = math.ceil(3 * scale) + 1
    dark[:border] = dark[-border:] = False
    dark[:, :border] = dark[:, -border:] = False
    r, c = np.nonzero(dark)
    across = np.arctan2(2 * xy[r, c], xx[r, c] - yy[r, c]) / 2  # most bent that way, y downward
    dx, dy = np.round(np.cos(across)).astype(int), np.round(np.sin(across)).astype(int)
    own = bent[r, c]
    ridge = (own >= bent[r + dy, c + dx]) & (own > bent[r - dy, c - dx])
    r, c, across = r[ridge], c[ridge], across[ridge]
    places = np.stack([c + 0.5, size[1] - r - 0.5], axis=1) / scale
    along = np.pi / 2 - across  # y upward
    return Ink(places.astype(float), np.mod(along, np.pi).astype(float))


def _away_from(ink: Ink, strokes: Sequence[Stroke], px_per_mm: float) -> Ink:
    """Without the ink of straight strokes."""
    taken = np.zeros(len(ink.places), dtype=bool)
    for stroke in strokes:
        one, two = (np.array(end) / px_per_mm for end in (stroke.start, stroke.end))
        run = two - one
        length = float(np.hypot(*run))
        off = ink.places - one
        along, across = off @ run / length, np.abs(off[:, 0] * run[1] - off[:, 1] * run[0]) / length
        wide = ERASED_MM + stroke.spread_mm
        alike = np.abs(_turned(ink.turn - math.atan2(run[1], run[0]))) < math.radians(20)
        taken |= (across < wide) & (along > -wide) & (along < length + wide) & alike
    return ink.less(taken)


def _turned(angle: Array) -> Array:
    """Differences of directions, from −90° to 90°, radians."""
    turned: Array = (angle + np.pi / 2) % np.pi - np.pi / 2
    return turned


class Pairs(NamedTuple):
    """Pairs of places with parallel tangents: their numbers (k, 2), and their middles (k, 2)."""

    ends: NDArray[np.int_]
    between: Array

    def about(self, middle: Array) -> "Pairs":
        """Those whose middles lie within CELL_MM of a place; they are in the order of their x."""
        first, last = np.searchsorted(
            self.between[:, 0], [middle[0] - CELL_MM, middle[0] + CELL_MM]
        ).tolist()
        column = Pairs(self.ends[first:last], self.between[first:last])
        return column.only(np.abs(column.between[:, 1] - middle[1]) < CELL_MM)

    def only(self, some: NDArray[np.bool_]) -> "Pairs":
        """Some of them."""
        return Pairs(self.ends[some], self.between[some])


def _opposite(ink: Ink) -> Pairs:
    """Pairs of places that may lie opposite to each other on an ellipse."""
    some = np.random.default_rng(1).permutation(len(ink.places))[:MOST_POINTS]
    places, turn = ink.places[some], ink.turn[some]
    one, two = np.triu_indices(len(some), 1)
    alike = np.abs(_turned(turn[one] - turn[two])) < math.radians(PARALLEL_DEG)
    one, two = one[alike], two[alike]
    run = places[two] - places[one]
    length = np.hypot(*run.T)
    aslant = np.abs(_turned(np.arctan2(run[:, 1], run[:, 0]) - turn[one]))
    fair = (length > SMALLEST_MM / 2) & (length < LARGEST_MM) & (aslant > math.radians(ASLANT_DEG))
    one, two = one[fair], two[fair]
    between = (places[one] + places[two]) / 2
    row = np.argsort(between[:, 0], kind="stable")
    return Pairs(np.stack([some[one], some[two]], axis=1)[row], between[row])


def _middles(pairs: Pairs) -> list[Array]:
    """Where the most middles fall, the most first."""
    import cv2

    if len(pairs.between) < LEAST_PAIRS:
        return []
    low = pairs.between.min(axis=0)
    cell = np.floor((pairs.between - low) / CELL_MM).astype(int)
    count = np.zeros(cell.max(axis=0) + 1, dtype=np.float32)
    np.add.at(count, (cell[:, 0], cell[:, 1]), 1.0)
    count = np.asarray(cv2.GaussianBlur(count, (0, 0), 0.7))
    high = np.asarray(cv2.dilate(count, np.ones((3, 3), np.uint8)))
    x, y = np.nonzero((count >= high) & (count > LEAST_PAIRS / 8))
    order = np.argsort(-count[x, y], kind="stable")[:MOST_MIDDLES]
    return [low + (np.array([x[n], y[n]]) + 0.5) * CELL_MM for n in order]


def _wide(values: Array, swells: float) -> float:
    """How far ink may lie off an ellipse, mm, when the rim swells by a share of its radius."""
    return ON_MM + swells * math.sqrt(float(values[2] * values[3]))


def _rim_about(ink: Ink, free: NDArray[np.bool_], pairs: Pairs, swells: float) -> Array | None:
    """The ellipse that most pairs about one middle lie on, all round; None when none is seen.

    A few places on it with their tangents give more than the three numbers of an ellipse about a
    known middle (of what swells, more are taken): of many such, the one seen in most sectors is
    kept, then fitted to all ink along it."""
    if len(pairs.ends) < LEAST_PAIRS:
        return None
    own = (ink.places[pairs.ends[:, 0]] - ink.places[pairs.ends[:, 1]]) / 2
    turn = ink.turn[pairs.ends[:, 0]]
    some = np.unique(pairs.ends)
    about = Ink(ink.places[some], ink.turn[some])
    picks = np.random.default_rng(2).integers(len(own), size=(TRIALS, 9 if swells else 3))
    best, worth = None, 0
    for some_picks in np.split(picks, [AT_ONCE]):  # the first few are often enough
        half, found = _central(own[some_picks], turn[some_picks])
        middles = pairs.between[some_picks[found]].mean(axis=1)
        tried = np.concatenate([middles, half], axis=1)
        seen = _seen_round(about, tried, swells)
        enough = np.flatnonzero(seen > 0.9 * SECTORS)
        at = int(enough[0]) if len(enough) else int(seen.argmax()) if len(seen) else -1
        if at >= 0 and seen[at] > worth:
            best, worth = tried[at], int(seen[at])
        if len(enough):
            break
    if best is None or worth < LEAST_PAIRS:
        return None
    return _settled(Ink(ink.places[free], ink.turn[free]), best, swells)


def _seen_round(ink: Ink, tried: Array, swells: float) -> NDArray[np.int_]:
    """(t,) in how many sectors ink lies on each of some ellipses (t, 5) and runs along it."""
    axes = np.stack([np.cos(tried[:, 4]), np.sin(tried[:, 4])], axis=1)
    off = ink.places[None] - tried[:, None, :2]
    x = off[..., 0] * axes[:, None, 0] + off[..., 1] * axes[:, None, 1]
    y = off[..., 1] * axes[:, None, 0] - off[..., 0] * axes[:, None, 1]
    u, v = x / tried[:, None, 2], y / tried[:, None, 3]
    p, q = u / tried[:, None, 2], v / tried[:, None, 3]
    away = np.abs(u * u + v * v - 1) / np.maximum(2 * np.hypot(p, q), 1e-12)
    radius = np.sqrt(tried[:, 2] * tried[:, 3])
    wide = 1.5 * ON_MM + swells * radius
    near = away < wide[:, None]
    row, column = np.nonzero(near)
    own, along = (p[near], q[near]), ink.turn[column] - tried[row, 4]
    most = math.radians(ALONG_DEG) + 4 * np.maximum(wide - 2 * ON_MM, 0.0) / radius
    on = np.abs(_turned(along - np.arctan2(own[0], -own[1]))) < most[row]
    sector = np.floor(np.arctan2(v[near], u[near])[on] / (2 * np.pi) * SECTORS).astype(int)
    told = np.zeros((len(tried), SECTORS + 1), dtype=bool)
    told[row[on], sector + SECTORS // 2] = True
    return np.asarray(told.sum(axis=1))


def _settled(ink: Ink, values: Array, swells: float) -> Array | None:
    """An ellipse fitted to all ink along it, when it is seen most of the way round."""
    on = _on(ink, values, ON_MM / 2 + _wide(values, swells))
    for _round in range(5):
        some = ink.places[on]
        told = _ellipse(some[:: max(len(some) // 300, 1)])
        if told is None:
            return None
        values = told
        if values[3] < FLATTEST * values[2] or values[2] > LARGEST_MM:
            return None
        again = _on(ink, values, _wide(values, swells))
        if (again == on).all() or not again.any():
            break
        on = again
    miss = float(np.sqrt(np.mean(_off(ink.places[on], values) ** 2)))
    seen = _sectors(ink.places[on], values)
    return (
        values
        if seen >= SEEN * SECTORS
        and miss < MISSES_MM * _wide(values, swells) / ON_MM
        and on.sum() > 12
        else None
    )


def _on(ink: Ink, values: Array, wide: float) -> NDArray[np.bool_]:
    """Which ink lies on an ellipse and runs along it."""
    swells = max(wide - 2 * ON_MM, 0.0) / math.sqrt(float(values[2] * values[3]))
    most = math.radians(ALONG_DEG) + 4 * swells  # what swells four times round turns by so much
    alike = np.abs(_turned(ink.turn - _tangent(ink.places, values))) < most
    return np.asarray((np.abs(_off(ink.places, values)) < wide) & alike)


def _central(own: Array, turn: Array) -> tuple[Array, NDArray[np.int_]]:
    """Half axes and angle (f, 3) of the ellipses about the origin through places (t, k, 2) with
    tangents (t, k), and which (f,) of them are ellipses of a fair size."""
    scale = np.hypot(own[..., 0], own[..., 1]).max(axis=1)
    x, y = (own[..., n] / scale[:, None] for n in (0, 1))
    c, s = np.cos(turn), np.sin(turn)
    on = np.stack([x * x, 2 * x * y, y * y], axis=-1)
    along = np.stack([x * c, x * s + y * c, y * s], axis=-1)
    square = np.concatenate([on, along], axis=1)
    goal = np.concatenate([np.ones_like(x), np.zeros_like(x)], axis=1)
    turned_round = square.swapaxes(1, 2)
    normal = turned_round @ square + ALMOST * np.eye(3)
    told = np.linalg.solve(normal, turned_round @ goal[..., None])[..., 0]
    values, ways = np.linalg.eigh(told[:, [[0, 1], [1, 2]]])
    with np.errstate(divide="ignore", invalid="ignore"):
        long, short = scale / np.sqrt(values[:, 0]), scale / np.sqrt(values[:, 1])
        fair = (values[:, 0] > NEAR) & (short >= FLATTEST * long)
        fair &= (long > SMALLEST_MM / 2) & (long < LARGEST_MM)
    found = np.flatnonzero(fair)
    angle = np.arctan2(ways[:, 1, 0], ways[:, 0, 0])
    return np.stack([long, short, angle], axis=1)[found], found


def _ellipse(places: Array) -> Array | None:
    """Middle, half axes and angle of the ellipse through places; None where none goes."""
    try:
        return np.asarray(fit_rim(places).values)
    except RimError:
        return None


def _own_frame(places: Array, values: Array) -> Array:
    """Places in the frame of an ellipse's axes."""
    cx, cy, _long, _short, angle = values
    c, s = math.cos(angle), math.sin(angle)
    own: Array = (places - (cx, cy)) @ np.array([[c, -s], [s, c]])
    return own


def _off(places: Array, values: Array) -> Array:
    """How far places lie outside an ellipse, to first order."""
    own, half = _own_frame(places, values), values[2:4]
    value = ((own / half) ** 2).sum(axis=1) - 1
    off: Array = value / np.maximum(2 * np.hypot(*(own / half**2).T), 1e-12)
    return off


def _tangent(places: Array, values: Array) -> Array:
    """Directions of an ellipse's tangents beside places, radians."""
    x, y = (_own_frame(places, values) / values[2:4] ** 2).T
    turn: Array = np.arctan2(x, -y) + values[4]
    return turn


def _sectors(places: Array, values: Array) -> int:
    """In how many sectors places lie round an ellipse."""
    own = _own_frame(places, values) / values[2:4]
    turn = np.arctan2(own[:, 1], own[:, 0])
    return len(np.unique(np.floor(turn / (2 * np.pi) * SECTORS).astype(int)))


def _ring(values: Array) -> Array:
    """Places round an ellipse."""
    cx, cy, long, short, angle = values
    turn = np.radians(np.arange(0, 360, 6.0))
    c, s = math.cos(angle), math.sin(angle)
    own = np.stack([long * np.cos(turn), short * np.sin(turn)], axis=1)
    ring: Array = own @ np.array([[c, s], [-s, c]]) + (cx, cy)
    return ring


def off_rims(strokes: Sequence[Stroke], rims: Sequence[Array], px_per_mm: float) -> list[Stroke]:
    """Strokes that are not but a straight part of a rim."""
    drawn = [ellipse for rim in rims if (ellipse := _ellipse(rim / px_per_mm)) is not None]
    kept = []
    for stroke in strokes:
        places = np.linspace(stroke.start, stroke.end, 5) / px_per_mm
        if not any((np.abs(_off(places, one)) < _wide(one, SWELLS)).all() for one in drawn):
            kept.append(stroke)
    return kept

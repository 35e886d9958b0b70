"""A sketch as it was meant: the two points on an eye level and the uprights that its strokes agree
on best, and which of these each stroke was drawn for.

Every stroke is drawn for one of the points, or for none, with a hand's error or with a mistake (a
mixture). Points are tried where two strokes cross; pairs of them are weighed by how likely all
strokes are, by how level the line through both lies, and by strokes that meet in a corner, which
are drawn for different points."""

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import SAME
from isometron.reading.model import Array

HAND_MM, HAND_DEG = 0.6, 0.25
"""How far one end of a stroke lies off the other's line by a good hand, and how far its direction
is off besides."""

LOOSER = (1.0, 2.0, 3.5)
"""Hands that are tried, as times a good one."""

MISTAKE_DEG, MISTAKEN = 5.0, 0.08
"""A mistake turns a stroke by so much; so many strokes are mistaken."""

DRAWN_LEVEL_DEG, LEVEL_TURN_DEG = 1.0, 14.0
"""A stroke that climbs by less was drawn level, and may have been turned by so much."""

NONE = np.array([0.25, 0.08, 0.03])
"""So many strokes run to no point: of those with no end in a corner, with one, with both."""

LOOKED_AT, POINTS, TOGETHER = 26, 44, 12
"""So many strokes, the longest, are crossed with each other; so many of their crossings are
weighed in pairs, and so many pairs looked into."""

LONG_MM, ALONE = 30.0, 0.3
"""Shorter strokes count less; those that meet no other, as hatching does, so much."""

STEEP_DEG = 30.0
"""Uprights lean by less."""

LEVEL_SCALE_DEG, MOST_SLOPE_DEG = 0.6, 8.0
"""An eye level lies aslant by so much, and never by more."""

APART_SHARE = 0.5
"""Two points lie farther apart than this share of the sheet's width."""

MEETS_MM, ON_DEG = 4.5, 6.0
"""Ends so near to each other meet in a corner; a stroke that goes on in another's line does not
turn there."""

CORNER = 3.0
"""Two strokes that meet in a corner are drawn for one point so much less often (natural units)."""

SURE = 0.6
"""A stroke belongs to a family when that is more likely."""

LEAST_TAKEN = 0.5
"""Two points and the uprights that explain less of a sketch, by how much each stroke counts, were
not meant."""

LEAST_STROKES, LEAST_GAIN = 3, 7.0
"""A further point on the eye level has so many strokes, and explains so much more."""

LONG_SHARE, LEVEL_DEG, FREE_MM = 0.45, 2.0, 4.0
"""A drawn eye level is longer than this share of the sheet's width, climbs by less, and ends in no
corner."""

EYE_LEVEL = "eye level"
"""What a stroke is called that was drawn as the eye level."""

OTHERS = ("third", "fourth")


class Meant(NamedTuple):
    """The family of each stroke, "" for none, EYE_LEVEL for a drawn eye level; how loose the hand
    is, as times a good one."""

    names: list[str]
    looser: float


class _Strokes(NamedTuple):
    """Strokes: their ends (n, 2, 2), middles and directions (n, 2), lengths (n,), all mm; how
    likely each is (n,) when it was drawn for no point; how much each counts (n,)."""

    ends: Array
    middles: Array
    ways: Array
    lengths: Array
    none: Array
    counts: Array


class _Sketch(NamedTuple):
    """What is tried: points (k, 3), the upright one first; how loose the hand is; how much of each
    stroke (n, k + 1) belongs to each, to none last; how likely all of it is (natural units)."""

    points: Array
    looser: float
    shares: Array
    worth: float


def meant(lines: Array, mm_per_px: float, wide_mm: float) -> Meant:
    """What the strokes (n, 2, 2), px, of a sheet were drawn for."""
    strokes = _strokes(lines * mm_per_px)
    level = _drawn_level(strokes, wide_mm)
    some = np.flatnonzero(np.arange(len(lines)) != level)
    names = [""] * len(lines)
    if level is not None:
        names[level] = EYE_LEVEL
    judged = _Strokes(*(one[some] for one in strokes))
    best = _best(judged, wide_mm) if len(some) else None
    if best is None or not _explains(judged, best):
        return Meant(names, 1.0)
    called = _called(strokes.lengths[some], best.shares)
    for at, number in enumerate(some.tolist()):
        share: Array = best.shares[at]
        likely = int(share.argmax())
        if likely < len(called) and share[likely] >= SURE:
            names[number] = called[likely]
    return Meant(names, best.looser)


def _explains(strokes: _Strokes, best: _Sketch) -> bool:
    """Whether the uprights and the two points explain most of a sketch: a scribble has none."""
    off, width = _off(strokes, best.points[:3]), _width(strokes, best.looser)[:, None]
    near = ((off < 2 * width) & (best.shares[:, :3] >= SURE)).any(axis=1)
    return bool(strokes.counts @ near >= LEAST_TAKEN * strokes.counts.sum())


def _strokes(ends: Array) -> _Strokes:
    run = ends[:, 1] - ends[:, 0]
    lengths = np.hypot(*run.T)
    ways = run / np.maximum(lengths, SAME)[:, None]
    met = _met(ends, ways).any(axis=2).sum(axis=1)
    level = np.abs(ways[:, 1]) < math.sin(math.radians(DRAWN_LEVEL_DEG))
    met[level & (met > 0)] = 2  # what is drawn level on a thing was meant for something
    counts = np.minimum(lengths / LONG_MM, 1.0) * np.where(met > 0, 1.0, ALONE)
    return _Strokes(ends, ends.mean(axis=1), ways, lengths, NONE[met] * 2 / math.pi, counts)


def _met(ends: Array, ways: Array) -> NDArray[np.bool_]:
    """Whether each stroke (n) meets with each of its two ends each other stroke, (n, 2, n), in a
    corner."""
    count = len(ends)
    places = ends.reshape(-1, 2)
    apart = np.hypot(*(places[:, None] - places[None]).transpose(2, 0, 1))
    turn = np.abs(ways[:, :1] * ways[:, 1] - ways[:, 1:] * ways[:, 0])
    near = (apart < MEETS_MM).reshape(count, 2, count, 2).any(axis=3)
    turns = turn > math.sin(math.radians(ON_DEG))
    np.fill_diagonal(turns, False)
    return np.asarray(near & turns[:, None])


def _called(lengths: Array, shares: Array) -> list[str]:
    """What the points are called: of the level ones the one with most length is the width."""
    drawn = [float((lengths * shares[:, k]).sum()) for k in range(1, shares.shape[1] - 1)]
    order = [0, 1] if drawn[0] >= drawn[1] else [1, 0]
    level = {order[0]: "width", order[1]: "depth"}
    level |= {2 + n: name for n, name in enumerate(OTHERS)}
    return ["height", *(level[k] for k in range(len(drawn)))]


def _drawn_level(strokes: _Strokes, wide_mm: float) -> int | None:
    """The number of a stroke drawn as the eye level: long, level, its ends in no corner."""
    climb = np.degrees(np.arctan2(np.abs(strokes.ways[:, 1]), np.abs(strokes.ways[:, 0])))
    fit = (strokes.lengths > LONG_SHARE * wide_mm) & (climb < LEVEL_DEG)
    places = strokes.ends.reshape(-1, 2)
    for number in np.flatnonzero(fit)[np.argsort(-strokes.lengths[fit])].tolist():
        others = np.repeat(np.arange(len(strokes.lengths)) != number, 2)
        away = np.hypot(*(places[others][:, None] - strokes.ends[number]).transpose(2, 0, 1))
        if not len(away) or float(away.min()) > FREE_MM:
            return int(number)
    return None


def _best(strokes: _Strokes, wide_mm: float) -> _Sketch | None:
    """The points that most likely were meant."""
    upright = _upright_point(strokes)
    points = _crossings(strokes, upright)
    if len(points) < 2:
        return None
    beside = _beside(strokes)
    tried = []
    for looser in LOOSER:
        likely = _likely(strokes, np.concatenate([upright[None], points]), looser)
        one, two = np.triu_indices(len(points), 1)
        prior = _prior(points[one], points[two], wide_mm)
        both = likely[:, 1 + one] + likely[:, 1 + two] + likely[:, :1] + strokes.none[:, None]
        worth = strokes.counts @ np.log(both) + prior
        for number in np.argsort(-worth)[:TOGETHER].tolist():
            pair = np.stack([upright, points[one[number]], points[two[number]]])
            tried.append(_settled(strokes, pair, looser, beside, float(prior[number])))
    best = max(tried, key=lambda one: one.worth)
    return _with_others(strokes, best, points, beside)


def _upright_point(strokes: _Strokes) -> Array:
    """The point that strokes which lean little run to: right up or down, unless a nearer one, or
    one aslant, explains clearly more."""
    lean = np.degrees(np.arctan2(np.abs(strokes.ways[:, 0]), np.abs(strokes.ways[:, 1])))
    steep = np.flatnonzero(lean < STEEP_DEG)
    straight = np.array([0.0, 1.0, 0.0])
    if len(steep) < LEAST_STROKES:
        return straight
    some = _Strokes(*(one[steep] for one in strokes))
    points = np.concatenate([straight[None], _crossed(some)])
    explained = some.counts @ np.log(_likely(some, points, 1.5) + some.none[:, None])
    explained[0] += 2.0
    return np.asarray(points[int(explained.argmax())])


def _crossed(strokes: _Strokes) -> Array:
    """Where the longest strokes cross, unit homogeneous (m, 3), mm."""
    order = np.argsort(-strokes.lengths)[:LOOKED_AT]
    ones = np.ones((len(order), 1))
    flat = np.cross(
        np.concatenate([strokes.middles[order], ones], axis=1),
        np.concatenate([strokes.ways[order], 0 * ones], axis=1),
    )
    one, two = np.triu_indices(len(order), 1)
    points = np.cross(flat[one], flat[two])
    sizes = np.linalg.norm(points, axis=1)
    points = points[sizes > SAME]
    return np.asarray(points / np.linalg.norm(points, axis=1, keepdims=True))


def _crossings(strokes: _Strokes, upright: Array) -> Array:
    """Places (k, 3) that several strokes run to, beside the uprights, those with most first; the
    level direction among them."""
    points = np.concatenate([_crossed(strokes), [[1.0, 0.0, 0.0]]])
    off = _off(strokes, points)
    width = np.hypot(HAND_MM * 2 / np.maximum(strokes.lengths, 1.0), math.radians(2 * HAND_DEG))[
        :, None
    ]
    steep = _off(strokes, upright[None]) < math.radians(MISTAKE_DEG)
    weigh = np.where(steep, 0.1, 1.0) * strokes.counts[:, None]
    agree = (np.exp(-0.5 * (off / width) ** 2) * weigh).sum(axis=0)
    kept: list[int] = []
    for number in np.argsort(-agree).tolist():
        alike = off[:, kept] - off[:, [number]] if kept else np.ones((len(off), 1))
        if np.abs(alike).max(axis=0).min() > math.radians(0.15):
            kept.append(number)
        if len(kept) == POINTS:
            break
    return np.asarray(points[kept])


def _off(strokes: _Strokes, points: Array) -> Array:
    """By what angle (n, k) each stroke misses each point, radians."""
    away = points[None, :, :2] - points[None, :, 2:] * strokes.middles[:, None]
    x, y = strokes.ways[:, :1], strokes.ways[:, 1:]
    across = np.abs(x * away[..., 1] - y * away[..., 0])
    return np.asarray(np.arctan2(across, np.abs(x * away[..., 0] + y * away[..., 1])))


def _width(strokes: _Strokes, looser: float) -> Array:
    """How far off each stroke's direction is by the hand (n,), radians."""
    own = np.hypot(HAND_MM / np.maximum(strokes.lengths, 1.0), math.radians(HAND_DEG))
    return np.asarray(looser * own)


def _mistake(strokes: _Strokes) -> Array:
    """By how much a mistake turns each stroke (n,), radians: more where it was drawn level, which
    the hand likes to do."""
    climb = np.degrees(np.arctan2(np.abs(strokes.ways[:, 1]), np.abs(strokes.ways[:, 0])))
    return np.asarray(np.radians(np.where(climb < DRAWN_LEVEL_DEG, LEVEL_TURN_DEG, MISTAKE_DEG)))


def _likely(strokes: _Strokes, points: Array, looser: float) -> Array:
    """How likely each stroke (n, k) is when it was drawn for each point."""
    right, wrong = _right_and_wrong(strokes, points, looser)
    return np.asarray((right + wrong) * math.sqrt(2 / math.pi) / 3)


def _right_and_wrong(strokes: _Strokes, points: Array, looser: float) -> tuple[Array, Array]:
    """The same, to a factor, of the hand alone and of a mistake, (n, k) each."""
    off, width = _off(strokes, points), _width(strokes, looser)[:, None]
    wide = np.hypot(width, _mistake(strokes)[:, None])
    right = (1 - MISTAKEN) * np.exp(-0.5 * (off / width) ** 2) / width
    return np.asarray(right), np.asarray(MISTAKEN * np.exp(-0.5 * (off / wide) ** 2) / wide)


def _prior(one: Array, two: Array, wide_mm: float) -> Array:
    """How likely pairs of points (m, 3) are before a stroke is looked at (natural units): both lie
    on a level line, apart from each other, beyond both sides of the thing."""
    line = np.cross(one, two)
    slope = np.degrees(np.arctan2(np.abs(line[:, 0]), np.abs(line[:, 1])))
    found = -slope / LEVEL_SCALE_DEG - np.where(slope > MOST_SLOPE_DEG, 1e3, 0.0)
    flat = np.abs(one[:, 2] * two[:, 2]) > 1e-9
    with np.errstate(divide="ignore", invalid="ignore"):
        apart = np.abs(one[:, 0] / one[:, 2] - two[:, 0] / two[:, 2])
    return np.asarray(found - np.where(flat & (apart < APART_SHARE * wide_mm), 8.0, 0.0))


def _beside(strokes: _Strokes) -> list[list[int]]:
    """The strokes each stroke meets in a corner, by number."""
    met: NDArray[np.bool_] = np.asarray(_met(strokes.ends, strokes.ways).any(axis=1))
    return [np.flatnonzero(row).tolist() for row in met]


def _shares(likely: Array, none: Array, beside: list[list[int]]) -> Array:
    """How much of each stroke belongs to each point, to none last, (n, k + 1): by its direction,
    then by what meets it in its corners."""
    whole = np.concatenate([likely, none[:, None]], axis=1)
    shares = whole / whole.sum(axis=1, keepdims=True)
    for _round in range(2):
        met = np.zeros_like(likely)
        for number, others in enumerate(beside):
            if others:
                met[number] = np.minimum(shares[others, :-1].sum(axis=0), 1.0)
        told = whole.copy()
        told[:, :-1] *= np.exp(-CORNER * met)
        shares = told / told.sum(axis=1, keepdims=True)
    return np.asarray(shares)


def _settled(
    strokes: _Strokes, points: Array, looser: float, beside: list[list[int]], prior: float
) -> _Sketch:
    """Points moved to where the strokes drawn for them run, and what all of it is worth."""
    points = points.copy()
    for _round in range(3):
        shares = _shares(_likely(strokes, points, looser), strokes.none, beside)
        for k in range(1 if not points[0, 2] else 0, len(points)):
            moved = _point_of(strokes, shares[:, k], points[k], looser)
            points[k] = points[k] if moved is None else moved
    likely = _likely(strokes, points, looser)
    shares = _shares(likely, strokes.none, beside)
    worth = float(strokes.counts @ np.log(likely.sum(axis=1) + strokes.none)) + prior
    worth -= CORNER * _clashes(shares, beside)
    return _Sketch(points, looser, shares, worth)


def _clashes(shares: Array, beside: list[list[int]]) -> float:
    """How many corners join strokes of one point."""
    return 0.5 * sum(
        float(shares[number, :-1] @ shares[others, :-1].sum(axis=0))
        for number, others in enumerate(beside)
        if others
    )


def _point_of(strokes: _Strokes, shares: Array, point: Array, looser: float) -> Array | None:
    """The point that strokes run to, by their shares and by how near to it they run."""
    off, width = _off(strokes, point[None])[:, 0], _width(strokes, looser)
    weigh = shares / (1 + (off / (2 * width)) ** 2)
    if (weigh > 0.2).sum() < 2:
        return None
    middle, scale = strokes.middles.mean(axis=0), 100.0
    own = (strokes.middles - middle) / scale
    flat = np.cross(
        np.concatenate([own, np.ones((len(own), 1))], axis=1),
        np.concatenate([strokes.ways, np.zeros((len(own), 1))], axis=1),
    )
    # a stroke passes a far point by its distance times its angle: weigh by that of the last round
    away = np.linalg.norm(point[:2] - point[2] * strokes.middles, axis=1) / np.linalg.norm(point)
    flat *= (np.sqrt(weigh) / (width * np.maximum(away, 1e-6)))[:, None]
    x, y, w = np.linalg.svd(flat)[2][-1]
    found = np.array([x * scale + w * middle[0], y * scale + w * middle[1], w])
    return np.asarray(found / np.linalg.norm(found))


def _with_others(
    strokes: _Strokes, best: _Sketch, points: Array, beside: list[list[int]]
) -> _Sketch:
    """With further points on the eye level for things that are turned another way."""
    line = np.cross(best.points[1], best.points[2])
    line = line / max(float(np.linalg.norm(line[:2])), SAME)
    for _name in OTHERS:
        flat = np.abs(points[:, 2]) > 1e-9
        with np.errstate(divide="ignore", invalid="ignore"):
            beyond = np.abs(points @ line / points[:, 2])
            away = np.hypot(*(points[:, :2] / points[:, 2:] - strokes.middles.mean(axis=0)).T)
        on_level = flat & (beyond < 4.0 + 0.04 * away)
        left = best.shares[:, -1] + _mistaken(strokes, best)
        gains = []
        now = np.log(_likely(strokes, best.points, best.looser).sum(axis=1) + strokes.none)
        for number in np.flatnonzero(on_level).tolist():
            tried = np.concatenate([best.points, points[[number]]])
            then = np.log(_likely(strokes, tried, best.looser).sum(axis=1) + strokes.none)
            close = _off(strokes, points[[number]])[:, 0] < 2.5 * _width(strokes, best.looser)
            if (close & (left > 0.5)).sum() >= LEAST_STROKES:
                gains.append((float(strokes.counts @ (then - now)), number))
        if not gains or max(gains)[0] < LEAST_GAIN:
            return best
        more = np.concatenate([best.points, points[[max(gains)[1]]]])
        best = _settled(strokes, more, best.looser, beside, 0.0)
    return best


def _mistaken(strokes: _Strokes, best: _Sketch) -> Array:
    """How much of each stroke (n,) is a mistake on the way to a point."""
    right, wrong = _right_and_wrong(strokes, best.points, best.looser)
    return np.asarray((best.shares[:, :-1] * wrong / (right + wrong)).sum(axis=1))

"""Rival eyes for the lines of a picture: three families at right angles, or none, for each line.

Points that lines run to are proposed by crossings of pairs; any two of them at right angles give an
eye. Each eye is weighed by what it explains: a mixture, for every line, of its three families and
of a stray that runs anywhere (as in Košecká and Zhang, 2002), with how a camera is held and what
lenses there are. Several eyes are carried and compared, so that a doubt between them is told.
"""

import itertools
import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize
from scipy.spatial.transform import Rotation

Array = NDArray[np.float64]

END_PX = 0.3
"""The ends of a line that was found lie off by so much, px."""

BENT_DEG = 0.07
"""What lenses and rounded edges turn a line by besides."""

LOOSE, LOOSER = 0.35, 4.0
"""Of the lines of the thing this share runs so many times less truly: in pieces, or rounded."""

TRULY = 2.5
"""A line whose ends meet no other is taken in only where it runs as truly as that."""

PROPOSED = 2.5
"""Points are proposed by lines that miss them by so many times what is usual."""

BELONGS, ALONE = 0.55, 0.2
"""How likely a line is one of the thing: where its ends meet others, and where they meet none."""

MEETS_PX, MEETS_SHARE = 4.0, 0.03
"""Ends of two lines meet when they lie nearer than that many px and that share of the shorter."""

CROSSING_DEG = 8.0
"""Lines that cross at less are pieces of one."""

FULL = 0.12
"""A line of this share of the longer side counts whole, a shorter one less."""

MOST_PAIRED, MOST_POINTS, MOST_TRIED, MOST_REFINED = 70, 18, 40, 5
"""Lines whose crossings are tried, points and eyes looked into, eyes that are carried."""

SHARED = 0.7
"""Two points with this share of their lines in common are one."""

USUAL, LENSES = 1.35, 0.5
"""Station distances of pictures, in longer sides: the usual one, and how its logarithm spreads."""

HELD_DEG, DOWN_DEG, UP_DEG = 5.0, 35.0, 15.0
"""How far cameras are rolled, and tilted down and up."""

DISTANCES = (0.8, 1.1, 1.5, 2.1, 3.0)
"""Tried where two points tell none."""

NEAREST, FARTHEST = 0.4, 9.0

CORNER = 1.5
"""What an end of two lines of different families weighs, as much as so many units of likelihood."""

BEHIND = 30.0
"""An eye that explains less by so much, before it is refined, is not looked into."""

MOST_THREE = 9
"""Points of which any three are tried."""

APART_DEG, APART_SHARE = 3.0, 0.15
"""Eyes that differ by less are one."""


CUT, CUT_BY = 8.0, 0.18
"""What speaks against a picture that is a part of another, and how far from its middle such are
looked at, in longer sides."""

HARDLY_CUT = 0.08
"""Less beside the middle, in longer sides, tells no cut."""

SAME_LINES = 0.8
"""Eyes that share so many of the lines they explain take them for the same."""

LEAST_EXPLAINED = 0.33
"""Where the best explains less of all length of line, any rival is a doubt."""

CLOSE, CLOSER = 4.0, 16.0
"""A rival comes close whose worth is less by no more than that, and by so much more for the share
of all length of line that the best leaves unexplained: among much clutter chance does more."""

MIDDLE = (0.0, 0.0)


class Eye(NamedTuple):
    """One way to see the lines: directions of three families (rows of (3, 3), right, up, away), the
    second of them upward, station distance and centre of vision (from the middle) in longer sides,
    the family of each line (0 to 2, −1 for none), what speaks for it, and which share of their
    length it explains."""

    axes: Array
    distance: float
    centre: tuple[float, float]
    families: NDArray[np.intp]
    worth: float
    explained: float

    @property
    def whole(self) -> bool:
        """Whether it looks at the middle of the picture."""
        return self.centre == MIDDLE

    def doubts(self, best: "Eye") -> bool:
        """Whether it comes close to the best of them, and says something else."""
        if _alike(self.axes, self.distance, best):
            return False
        if best.whole and not self.whole:
            taken = best.families >= 0
            same = float((self.families == best.families)[taken].mean()) if taken.any() else 0.0
            if same > SAME_LINES or math.hypot(*self.centre) < HARDLY_CUT:
                return False  # the same lines: what they say of the middle is for their fit to say
        if best.explained < LEAST_EXPLAINED:
            return True
        near = CLOSE + CLOSER * (1.0 - best.explained) + (0.0 if best.whole else CUT)
        return self.worth > best.worth - near


class _Begun(NamedTuple):
    """An eye to begin with."""

    worth: float
    turn: Rotation
    distance: float
    centre: tuple[float, float] = MIDDLE


class _Seen(NamedTuple):
    """Lines about the middle of the picture, in longer sides: middles (n, 2), ways (n, 2), half
    lengths, how surely each runs so (radians), its weight, how likely it belongs, pairs of lines
    whose ends meet."""

    middles: Array
    ways: Array
    halves: Array
    spread: Array
    weight: Array
    belongs: Array
    corners: NDArray[np.intp]


def rivals(lines: Array, size: tuple[float, float], distance: float | None = None) -> list[Eye]:
    """Eyes that may have seen lines (n, 2, 2), px, in a whole picture of a size, the likeliest
    first; distance: the station distance, px, where the file tells it."""
    if len(lines) < 4:
        return []
    seen = _seen(lines, size)
    known = None if distance is None else distance / max(size)
    points = _points(seen)
    found = _carried(seen, _of_pairs(seen, points, known), known)
    least = max((eye.worth for eye in found), default=0.0) - BEHIND
    cut = [one for one in _of_three(seen, points[:MOST_THREE]) if one.worth > least]
    found += _carried(seen, cut, None)
    found.sort(key=lambda one: -one.worth)
    return found


def _carried(seen: _Seen, tried: list[_Begun], known: float | None) -> list[Eye]:
    """The likeliest of some eyes, each refined, no two alike."""
    found: list[Eye] = []
    tried = sorted(tried, key=lambda one: -one.worth)[:MOST_TRIED]
    for one in tried:
        if one.worth < tried[0].worth - BEHIND:
            break
        if any(_alike(one.turn.as_matrix(), one.distance, other) for other in found):
            continue
        eye = _refined(seen, one, known)
        if not any(_alike(eye.axes, eye.distance, other) for other in found):
            found.append(eye)
        if len(found) == MOST_REFINED:
            break
    return found


def _seen(lines: Array, size: tuple[float, float]) -> _Seen:
    own = (lines - np.array(size) / 2) / max(size)
    run = own[:, 1] - own[:, 0]
    lengths = np.hypot(*run.T)
    spread = np.hypot(END_PX * math.sqrt(2) / (lengths * max(size)), math.radians(BENT_DEG))
    ways = run / lengths[:, None]
    corners = _corners(own, ways, lengths, max(size))
    meets = np.zeros(len(lines), dtype=bool)
    meets[corners.ravel()] = True
    return _Seen(
        own.mean(axis=1),
        ways,
        lengths / 2,
        spread,
        np.clip(lengths / FULL, 0.25, 1.5),
        np.where(meets, BELONGS, ALONE),
        corners,
    )


def _corners(own: Array, ways: Array, lengths: Array, longer: float) -> NDArray[np.intp]:
    """Pairs (k, 2) of lines whose ends meet at an angle."""
    count = len(own)
    gaps = np.full((count, count), np.inf)
    for one in (0, 1):
        for other in (0, 1):
            off = own[:, None, one] - own[None, :, other]
            gaps = np.minimum(gaps, np.hypot(off[..., 0], off[..., 1]))
    near = np.maximum(MEETS_PX / longer, MEETS_SHARE * np.minimum(lengths[:, None], lengths))
    crossing = np.abs(ways[:, None, 0] * ways[None, :, 1] - ways[:, None, 1] * ways[None, :, 0])
    met = (gaps < near) & (crossing > math.sin(math.radians(CROSSING_DEG)))
    pairs: NDArray[np.intp] = np.argwhere(np.triu(met, 1))
    return pairs


def _points(seen: _Seen) -> Array:
    """Points (m, 3), homogeneous, of unit length, that most lines run to, no two to the same."""
    count = len(seen.middles)
    flat = np.cross(
        np.column_stack([seen.middles, np.ones(count)]),
        np.column_stack([seen.middles + seen.ways, np.ones(count)]),
    )
    order = np.argsort(-seen.weight * seen.belongs, kind="stable")[:MOST_PAIRED]
    one, two = np.triu_indices(len(order), 1)
    points = np.cross(flat[order[one]], flat[order[two]])
    lengths = np.linalg.norm(points, axis=1)
    points = points[lengths > 1e-9] / lengths[lengths > 1e-9, None]
    agrees = _agrees(seen, points)
    worth = agrees @ (seen.weight * seen.belongs)
    kept: list[int] = []
    rows: list[Array] = []
    for number in np.argsort(-worth, kind="stable"):
        row = agrees[number] > 0.3
        if row.sum() < 2:
            continue
        if any((row & other).sum() > SHARED * min(row.sum(), other.sum()) for other in rows):
            continue
        kept.append(int(number))
        rows.append(row)
        if len(kept) == MOST_POINTS:
            break
    several: Array = points[kept]
    return several


def _agrees(seen: _Seen, points: Array) -> Array:
    """How well lines run to points (m, 3): exp(−½ misses²), (m, n)."""
    off = _off(seen, points)
    agrees: Array = np.exp(-0.5 * (off / (PROPOSED * seen.spread)) ** 2)
    return agrees


def _off(seen: _Seen, points: Array) -> Array:
    """By how much each line misses each point, radians, (m, n); a right angle where the point lies
    on the line itself."""
    away = points[:, None, :2] - points[:, None, 2:] * seen.middles
    far = np.maximum(np.hypot(away[..., 0], away[..., 1]), 1e-12)
    across = np.abs(away[..., 0] * seen.ways[:, 1] - away[..., 1] * seen.ways[:, 0]) / far
    off = np.arcsin(np.minimum(across, 1.0))
    on = far < 1.1 * seen.halves * np.abs(points[:, 2:])
    return np.where(on, math.pi / 2, off)


def _of_pairs(seen: _Seen, points: Array, known: float | None) -> list[_Begun]:
    """Eyes in the middle of the picture that see any two points at right angles."""
    found = []
    for one in range(len(points)):
        for two in range(one + 1, len(points)):
            p, q = points[one], points[two]
            flat, deep = float(p[:2] @ q[:2]), float(p[2] * q[2])
            told = -flat / deep if abs(deep) > 1e-12 else -1.0
            if known is not None:
                distances: tuple[float, ...] = (known,)
            elif NEAREST**2 < told < FARTHEST**2:
                distances = (math.sqrt(told), *((2.0, 1.2) if told > 9.0 else ()))
            else:
                distances = DISTANCES
            for distance in distances:
                a, b = (np.array([v[0], v[1], v[2] * distance]) for v in (p, q))
                a, b = a / np.linalg.norm(a), b / np.linalg.norm(b)
                if abs(float(a @ b)) > 0.1:
                    continue
                b = b - float(a @ b) * a
                b /= np.linalg.norm(b)
                turn = Rotation.from_matrix(np.stack([a, b, np.cross(a, b)]))
                worth = _worth(seen, turn.as_matrix(), distance)
                found.append(_Begun(worth, turn, distance))
    return found


def _of_three(seen: _Seen, points: Array) -> list[_Begun]:
    """Eyes that look elsewhere than at the middle: three points at right angles to each other lie
    about the centre of vision as the corners of a triangle about the meeting of its heights."""
    found = []
    for three in itertools.combinations(points, 3):
        if min(abs(float(one[2])) for one in three) < 0.02:
            continue
        a, b, c = (one[:2] / one[2] for one in three)
        both = np.stack([c - b, c - a])
        if abs(float(np.linalg.det(both))) < 1e-3:
            continue
        centre = np.linalg.solve(both, np.array([a @ (c - b), b @ (c - a)]))
        square = -float((a - centre) @ (b - centre))
        far = np.hypot(*centre)
        if not (NEAREST**2 < square < FARTHEST**2 and far < 3.5 * CUT_BY):
            continue
        distance = math.sqrt(square)
        axes = np.array([[*(one - centre), distance] for one in (a, b, c)])
        left, _sizes, right = np.linalg.svd(axes / np.linalg.norm(axes, axis=1)[:, None])
        axes = left @ right  # the nearest three at right angles
        axes[2] = np.cross(axes[0], axes[1])
        x, y = (float(v) for v in centre)
        worth = _worth(_shifted(seen, (x, y)), axes, distance) - _cut(centre)
        found.append(_Begun(worth, Rotation.from_matrix(axes), distance, (x, y)))
    return found


def _shifted(seen: _Seen, centre: tuple[float, float]) -> _Seen:
    return seen._replace(middles=seen.middles - np.array(centre))


def _cut(centre: Array) -> float:
    """What speaks against an eye that looks so far beside the middle."""
    return CUT + 0.5 * float(centre @ centre) / CUT_BY**2


def _worth(seen: _Seen, axes: Array, distance: float) -> float:
    """What speaks for an eye: how much likelier the lines are than strays, how it is held, what
    lens it has. Nothing that lies behind the lines is asked of it."""
    ratio = _ratios(seen, axes, distance)
    lines = np.log1p(seen.belongs * (ratio.mean(axis=0) - 1.0))
    return float(seen.weight @ lines) + _prior(axes, distance)


def _ratios(seen: _Seen, axes: Array, distance: float) -> Array:
    """How much likelier each line is in each family than as a stray, (3, n)."""
    points = axes * np.array([1.0, 1.0, 1.0 / distance])
    off = _off(seen, points)
    density = np.zeros_like(off)
    for share, wider in ((1.0 - LOOSE, 1.0), (LOOSE, LOOSER)):
        spread = wider * seen.spread
        density += share * np.exp(-0.5 * (off / spread) ** 2) / spread
    return np.asarray(density * math.sqrt(math.pi / 8))


def _prior(axes: Array, distance: float) -> float:
    up = axes[int(np.abs(axes[:, 1]).argmax())]
    roll = math.degrees(math.atan2(abs(up[0]), abs(up[1])))
    tilt = math.degrees(math.asin(max(-1.0, min(float(up[2]) * math.copysign(1.0, up[1]), 1.0))))
    lens = math.log(distance / USUAL) / LENSES
    return -0.5 * (
        (roll / HELD_DEG) ** 2 + (tilt / (UP_DEG if tilt > 0 else DOWN_DEG)) ** 2 + lens**2
    )


def _refined(seen: _Seen, begun: _Begun, known: float | None) -> Eye:
    """The eye near one that is tried that most speaks for."""
    whole = begun.centre == MIDDLE
    one = seen if whole else _shifted(seen, begun.centre)

    def at(step: Array) -> tuple[Array, float]:
        axes = (begun.turn * Rotation.from_rotvec(step[:3])).as_matrix()
        return axes, known if known is not None else begun.distance * math.exp(float(step[3]))

    def cost(step: Array) -> float:
        axes, far = at(step)
        if whole:
            return -_worth(seen, axes, far)
        there = np.array(begun.centre) + step[4:]
        return _cut(there) - _worth(_shifted(one, tuple(step[4:])), axes, far)

    begin = np.zeros(4 if whole else 6)
    simplex = np.vstack([begin, np.diag([0.03, 0.03, 0.03, 0.1, 0.03, 0.03][: len(begin)])])
    done = minimize(
        cost,
        begin,
        method="Nelder-Mead",
        options={
            "initial_simplex": simplex,
            "maxfev": 150 if whole else 240,
            "xatol": 1e-5,
            "fatol": 1e-3,
        },
    )
    if not whole:
        x, y = (float(v) for v in np.array(begun.centre) + done.x[4:])
        seen = _shifted(seen, (x, y))
    axes, far = at(done.x)
    ratio = _ratios(seen, axes, far)
    best = ratio.argmax(axis=0)
    inside = seen.belongs * ratio.max(axis=0) / 3 > 1.0 - seen.belongs
    off = _off(seen, axes * np.array([1.0, 1.0, 1.0 / far])).min(axis=0)
    inside &= (seen.belongs > ALONE) | (off < TRULY * seen.spread)
    families = np.where(inside, best, -1)
    first, second = families[seen.corners[:, 0]], families[seen.corners[:, 1]]
    met = int(((first >= 0) & (second >= 0) & (first != second)).sum())
    order = _order(seen, axes, families)
    named = np.array([*np.argsort(order), -1])[families]
    centre = MIDDLE if whole else (x, y)
    share = float(seen.halves[families >= 0].sum() / seen.halves.sum())
    return Eye(axes[order], far, centre, named, -float(done.fun) + CORNER * met, share)


def _order(seen: _Seen, axes: Array, families: NDArray[np.intp]) -> NDArray[np.intp]:
    """The axes as width, height and depth: the most upright second, more length of line first."""
    up = int(np.abs(axes[:, 1]).argmax())
    level = [axis for axis in range(3) if axis != up]
    level.sort(key=lambda axis: -float(seen.halves[families == axis].sum()))
    return np.array([level[0], up, level[1]])


def _alike(axes: Array, distance: float, other: Eye) -> bool:
    """Whether an eye says the same as another."""
    turned = np.abs(axes @ other.axes.T)
    least = math.cos(math.radians(APART_DEG))
    alike = bool((turned.max(axis=1) > least).all())
    return alike and abs(math.log(distance / other.distance)) < APART_SHARE

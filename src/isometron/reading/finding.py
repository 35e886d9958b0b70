"""Finding marks in a picture: straight lines to a part of a pixel, and the families they make."""

import itertools
import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.document.marks import Edge, Lens, Marks, Picture
from isometron.document.picture import LEAST_NOISE_PX
from isometron.nearness import ROUNDING, SAME
from isometron.reading.fit import fit_all, of_edges
from isometron.reading.pictures import FOCAL_ERROR, GreyPicture

Array = NDArray[np.float64]
Pixels = NDArray[np.uint8] | NDArray[np.float64]

SMOOTHED_PX = 1.0
"""The picture is smoothed by so much, a standard deviation, before lines are looked for."""

BOWED_PX, BOWED_SHARE = 0.35, 0.006
"""A line that bows by more than so many px and this share of its length is a piece of a rim, which
no lens makes of a straight edge."""

FEWEST = 6
"""Fewer lines that run together may do so by chance."""

SHORTEST = 0.03
"""Lines shorter than this share of the picture's diagonal are not looked at."""

DETECTED_PX = 12_000_000
"""A larger picture is made smaller for the detector; lines are then laid in all its pixels."""

MOST_LINES = 160
"""The longest lines are taken."""

BESIDE_PX = 3
"""An edge is looked for so far beside where the detector saw a line."""

END_SHARE = 0.08
"""The ends of a line, where corners round it, do not count for where it lies."""

AGREES_DEG = 1.2
"""A line runs to a point when it points at it within so many degrees."""

UPRIGHT_DEG = 20.0
"""Lines within so many degrees of upright may be uprights."""

LEAST_LINES = 3
"""A family is at least so many lines."""

LEAST_OF = {3: LEAST_LINES, 2: LEAST_LINES + 1}
"""Of two families alone each is one line more: any two lines meet, and a third may by chance."""

MOST_GROUPS = 4
"""So many groups of lines are looked for besides uprights."""

LONG, LEAST_LONG = 0.15, 5
"""Lines of this share of the diagonal are long; so many show how a lens bends them."""

CLEARLY = 3.0
"""A bend of so many standard errors is taken out."""

HELD_DEG = 6.0
"""A camera is held level to about so many degrees: of two ways to name the groups the one with less
roll is likelier."""

FITS_PX = 2.0
"""A line that misses its family by less fits."""


def lines_in(grey: NDArray[np.uint8]) -> tuple[Array, list[Array]]:
    """Straight lines (n, 2, 2) in a picture: both ends, px from its lower left corner, y upward,
    the longest first; and the places (k, 2) along each where it was seen.

    Found by a line segment detector (von Gioi and others, 2010), then laid where the grey values
    change fastest, to a part of a pixel."""
    import cv2

    rows, columns = grey.shape
    detector = cv2.createLineSegmentDetector()
    grown = max(math.sqrt(rows * columns / DETECTED_PX), 1.0)
    looked_at = np.ascontiguousarray(grey)
    if grown > 1.0:  # the detector takes twenty bytes for a pixel
        size = round(columns / grown), round(rows / grown)
        looked_at = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    found: Any = detector.detect(plainer(looked_at))[0]
    if found is None:
        return np.empty((0, 2, 2)), []
    high, wide = looked_at.shape
    ends = (np.asarray(found, dtype=float).reshape(-1, 2, 2) + 0.5) * (columns / wide, rows / high)
    lengths = np.hypot(*(ends[:, 1] - ends[:, 0]).T)
    order = np.argsort(-lengths, kind="stable")
    order = order[lengths[order] >= SHORTEST * math.hypot(rows, columns)][:MOST_LINES]
    beside = math.ceil(BESIDE_PX * grown)
    both = [_laid(grey, ends[i], beside) for i in order]
    both = [(line, places) for line, places in both if len(places)]
    laid = np.array([line for line, _places in both]).reshape(-1, 2, 2)
    places = [seen for _line, seen in both]
    for some in (laid, *places):
        some[..., 1] = rows - some[..., 1]
    return laid, places


def plainer(grey: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """Grey values as the detector likes them: grain smoothed, darkest and lightest far apart."""
    import cv2

    smooth = np.asarray(cv2.GaussianBlur(grey, (0, 0), SMOOTHED_PX), dtype=np.uint8)
    low, high = np.percentile(smooth[::4, ::4], (0.5, 99.5))
    if high - low < 8:
        return smooth
    levels = np.clip((np.arange(256) - low) * (255 / (high - low)), 0, 255)
    return np.asarray(cv2.LUT(smooth, levels.astype(np.uint8)), dtype=np.uint8)


def laid_along(grey: NDArray[np.uint8], ends: Array, beside: float) -> Array:
    """A line (2, 2), px from the picture's lower left corner, laid to the edge that runs within
    `beside` px of it; as it was where none does."""
    rows, columns = grey.shape
    reach = int(beside) + BESIDE_PX + 4
    own = np.stack([ends[:, 0], rows - ends[:, 1]], axis=1)
    low = np.maximum(own.min(axis=0).astype(int) - reach, 0)
    high = np.minimum(own.max(axis=0).astype(int) + reach, (columns, rows))
    length = float(np.hypot(*(ends[1] - ends[0])))
    if (high - low < 4).any() or not 4 <= length <= 2 * math.hypot(rows, columns):
        return ends
    part = grey[low[1] : high[1], low[0] : high[0]].astype(float)
    first, _seen = _laid(part, own - low, max(int(beside), BESIDE_PX))
    line, seen = _laid(part, first)
    if not len(seen):
        return ends
    laid: Array = line + low
    laid[:, 1] = rows - laid[:, 1]
    return laid


def _laid(values: Pixels, ends: Array, beside: int = BESIDE_PX) -> tuple[Array, Array]:
    """A line (2, 2) and the places (k, 2) where it was seen, laid where the grey values change
    fastest across it: at places along it the steepest place of the profile, between pixels by a
    parabola, then the line nearest to those."""
    run = ends[1] - ends[0]
    length = float(np.hypot(*run))
    along = run / length
    across = np.array([-along[1], along[0]])
    share = np.linspace(END_SHARE, 1 - END_SHARE, max(int(length), 8))
    places = ends[0] + share[:, None] * run
    offs = np.arange(-beside - 1, beside + 2)
    profile = between(values, places[:, None] + offs[None, :, None] * across)
    steep = np.abs(profile[:, 2:] - profile[:, :-2]) / 2
    best = steep.argmax(axis=1)
    inner = (best > 0) & (best < steep.shape[1] - 1)
    rows = np.flatnonzero(inner & (steep.max(axis=1) > 1.0))
    if len(rows) < 4:
        return ends, np.empty((0, 2))
    one, two, three = (steep[rows, best[rows] + i] for i in (-1, 0, 1))
    bend = one - 2 * two + three
    shift = np.where(bend < -SAME, 0.5 * (one - three) / np.where(bend < -SAME, bend, -1.0), 0.0)
    off = offs[1:-1][best[rows]] + np.clip(shift, -0.5, 0.5)
    at = share[rows] * length
    keep = np.ones(len(rows), dtype=bool)
    for _unused in range(3):
        bowed = np.polyfit(at[keep], off[keep], 2)  # a lens may bow it
        miss = np.abs(off - np.polyval(bowed, at))
        spread = max(1.4826 * float(np.median(miss[keep])), 0.05)
        keep = miss < 3 * spread
        if keep.sum() < 4:
            return ends, np.empty((0, 2))
    bow = float(np.polyfit(at[keep], off[keep], 2)[0]) * float(np.ptp(at[keep])) ** 2 / 4
    if abs(bow) > BOWED_PX and abs(bow) > BOWED_SHARE * length:
        return ends, np.empty((0, 2))
    slope, level = np.polyfit(at[keep], off[keep], 1)
    seen = ends[0] + at[keep, None] * along + off[keep, None] * across
    line = np.array([ends[0] + level * across, ends[1] + (level + slope * length) * across])
    return line, seen


def between(values: Pixels, places: Array) -> Array:
    """Grey values at places (…, 2), px from the upper left corner, between the pixels' middles."""
    rows, columns = values.shape
    x = np.clip(places[..., 0] - 0.5, 0, columns - 1.001)
    y = np.clip(places[..., 1] - 0.5, 0, rows - 1.001)
    left, low = x.astype(int), y.astype(int)
    u, v = x - left, y - low
    found: Array = (values[low, left] * (1 - u) + values[low, left + 1] * u) * (1 - v) + (
        values[low + 1, left] * (1 - u) + values[low + 1, left + 1] * u
    ) * v
    return found


@dataclass(frozen=True)
class Bend:
    """How a lens bends straight lines: p_ideal − c = (p − c)(1 + k r²), c the middle of the
    picture, r in longer sides of it; k with its standard error, and how many long lines show it."""

    k: float
    standard_error: float
    lines: int

    @property
    def told(self) -> bool:
        """Whether enough long lines show it."""
        return self.lines >= LEAST_LONG


def bend_of(lines: Array, places: list[Array], size: tuple[float, float]) -> Bend:
    """How the lens bends lines: the k that makes the places of all long ones lie straightest, by
    least squares."""
    width, height = size
    middle, scale = np.array(size) / 2, max(size)
    long = [
        seen
        for line, seen in zip(lines, places, strict=True)
        if len(seen) > 20 and math.dist(*line) >= LONG * math.hypot(width, height)
    ]
    k, error = 0.0, math.inf
    for _unused in range(4):
        bends, misses = [], []
        for seen in long:
            off = seen - middle
            swell = off * (off**2).sum(axis=1, keepdims=True) / scale**2
            straight = off + k * swell
            run = straight[-1] - straight[0]
            normal = np.array([-run[1], run[0]]) / np.hypot(*run)
            along = (straight @ run) / float(run @ run)
            flat = np.stack([np.ones_like(along), along], axis=1)
            both = np.stack([straight @ normal, swell @ normal], axis=1)
            both -= flat @ np.linalg.lstsq(flat, both, rcond=None)[0]
            misses.append(both[:, 0])
            bends.append(both[:, 1])
        if not long:
            break
        miss, bend = np.concatenate(misses), np.concatenate(bends)
        weight = float(bend @ bend)
        step = -float(miss @ bend) / weight
        k += step
        left = miss + step * bend
        # neighbours along a line see the same pixels: only every other one counts
        error = math.sqrt(2 * float(left @ left) / max(len(left) - 1, 1) / weight)
        if abs(step) < SAME:
            break
    return Bend(k, error, len(long))


def straightened(lines: Array, bend: Bend, size: tuple[float, float]) -> Array:
    """Lines (n, 2, 2) as a lens without bend would show them, when the bend is clear."""
    if not bend.told or abs(bend.k) < CLEARLY * bend.standard_error:
        return lines
    off = lines - np.array(size) / 2
    square = (off**2).sum(axis=2, keepdims=True) / max(size) ** 2
    straight: Array = off * (1 + bend.k * square) + np.array(size) / 2
    return straight


def groups_of(
    lines: Array, size: tuple[float, float], agrees_deg: float = AGREES_DEG
) -> list[NDArray[np.bool_]]:
    """Groups of lines (n, 2, 2) that point at one place each, those with most length first;
    uprights are looked for by themselves, so that they do not lose a line to others. agrees_deg: by
    how much a line may miss the place."""
    if not len(lines):
        return []
    own = (lines - np.array(size) / 2) / max(size)
    run = own[:, 1] - own[:, 0]
    lengths = np.hypot(*run.T)
    lean = np.degrees(np.arctan2(np.abs(run[:, 0]), np.abs(run[:, 1])))
    found = []
    left = np.ones(len(lines), dtype=bool)
    for among in (lean < UPRIGHT_DEG, *([lean < 360.0] * MOST_GROUPS)):
        some = _agreeing(own, lengths, left & among, agrees_deg)
        if some.sum() >= LEAST_LINES:
            found.append(some)
            left &= ~some
    return found


def families_of(lines: Array, size: tuple[float, float], lens: Lens | None) -> list[str]:
    """The family of each line (n, 2, 2), "" for those of none: the two or three groups that fit an
    eye with right angles between them, its centre of vision in the middle of the picture, for most
    length of line. The most upright is "height"; of the others the one with more length "width"."""
    lengths = np.hypot(*(lines[:, 1] - lines[:, 0]).T) if len(lines) else np.empty(0)
    groups = groups_of(lines, size)
    best, worth = [""] * len(lines), 0.0
    for count in (3, 2):
        for some in itertools.combinations(groups, count):
            if min(int(group.sum()) for group in some) < LEAST_OF[count]:
                continue
            names = _named(lines, list(some))
            marks = _marks(lines, names, size, lens)
            told = fit_all(marks)
            misses = of_edges(told, len(marks.edges))
            numbers = [i for i, name in enumerate(names) if name]
            total = sum(
                float(lengths[i])
                for i, miss in zip(numbers, misses, strict=True)
                if float(np.abs(miss).max(initial=0.0)) < FITS_PX
            )
            turned = told.state.turned
            roll = math.degrees(math.atan2(-turned[0, 2], turned[1, 2]))
            total *= math.exp(-0.5 * (roll / HELD_DEG) ** 2)
            if total > worth:
                best, worth = names, total
    return best if sum(map(bool, best)) >= FEWEST else [""] * len(lines)


def _named(lines: Array, groups: list[NDArray[np.bool_]]) -> list[str]:
    """Names of the lines of two or three groups."""
    run = np.abs(lines[:, 1] - lines[:, 0])
    lengths = np.hypot(*run.T)

    def lean(group: NDArray[np.bool_]) -> float:
        return math.degrees(math.atan2(*run[group].sum(axis=0)))

    groups = sorted(groups, key=lean)
    upright = groups[:1] if lean(groups[0]) < UPRIGHT_DEG or len(groups) == 3 else []
    level = sorted(groups[len(upright) :], key=lambda group: -float(lengths[group].sum()))
    names = [""] * len(lines)
    for name, group in zip(
        ("height", "width", "depth") if upright else ("width", "depth"),
        upright + level,
        strict=False,
    ):
        for number in np.flatnonzero(group):
            names[number] = name
    return names


def _marks(lines: Array, names: list[str], size: tuple[float, float], lens: Lens | None) -> Marks:
    edges = tuple(
        Edge((x0, y0), (x1, y1), name)
        for ((x0, y0), (x1, y1)), name in zip(lines.tolist(), names, strict=True)
        if name
    )
    width, height = size
    picture = Picture(width, height, (width / 2, height / 2))
    return Marks(picture, edges, lens=lens, least_noise=LEAST_NOISE_PX)


def _agreeing(
    own: Array, lengths: Array, among: NDArray[np.bool_], agrees_deg: float
) -> NDArray[np.bool_]:
    """The lines among some that point at the place most length points at: every crossing of two of
    the longest is tried."""
    numbers = np.flatnonzero(among)
    best, worth = np.zeros(len(own), dtype=bool), 0.0
    if len(numbers) < LEAST_LINES:
        return best
    ones = np.ones((len(own), 1))
    flat = np.cross(
        np.concatenate([own[:, 0], ones], axis=1), np.concatenate([own[:, 1], ones], axis=1)
    )
    middles = own.mean(axis=1)
    ways = (own[:, 1] - own[:, 0]) / lengths[:, None]
    limit = math.sin(math.radians(agrees_deg))
    for one, two in itertools.combinations(numbers[:60], 2):
        point = np.cross(flat[one], flat[two])
        away = point[:2] - point[2] * middles
        far = np.hypot(*away.T)
        if not (far > ROUNDING).all():
            continue
        off = np.abs(away[:, 0] * ways[:, 1] - away[:, 1] * ways[:, 0]) / far
        runs = among & (off < limit)
        total = float((lengths * (1 - off / limit))[runs].sum())
        if total > worth:
            best, worth = runs, total
    return best


def marks_in_picture(picture: GreyPicture) -> tuple[Marks, Bend]:
    """The lines of a picture as marks: their families, the picture uncropped, and the lens as EXIF
    tells it; straightened when they show clearly how the lens bends them, which is given too. Noise
    is left for the marks to tell."""
    lens = None
    if picture.station_distance is not None:
        lens = Lens(picture.station_distance, FOCAL_ERROR * picture.station_distance)
    lines, places = lines_in(picture.grey)
    bend = bend_of(lines, places, picture.size)
    lines = straightened(lines, bend, picture.size)
    return _marks(lines, families_of(lines, picture.size, lens), picture.size, lens), bend

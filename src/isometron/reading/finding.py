"""Finding marks in a picture: straight lines to a part of a pixel, and the families they make."""

import math
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.document.marks import FAMILIES, Edge, Lens, Marks, Picture
from isometron.document.picture import CUT, LEAST_NOISE_PX, WAYS
from isometron.nearness import SAME
from isometron.reading.model import middle_spread
from isometron.reading.pictures import FOCAL_ERROR, GreyPicture
from isometron.reading.reading import read_marks
from isometron.reading.rivals import rivals

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

FEW, COARSER, SMALLEST_PX = 14, 3.0, 300
"""Where fewer are found, a picture no smaller than that is looked at so many times smaller."""

BESIDE_PX = 3
"""An edge is looked for so far beside where the detector saw a line."""

END_SHARE = 0.08
"""The ends of a line, where corners round it, do not count for where it lies."""

LEAST_LINES = 3
"""A family is at least so many lines."""

LONG, LEAST_LONG = 0.15, 5
"""Lines of this share of the diagonal are long; so many show how a lens bends them."""

OUT_BY = 4.0
"""A line whose own bend lies so many times the usual off the others' does not count."""

CLEARLY = 3.0
"""A bend of so many standard errors is taken out."""

LEAST_WORTH = 16.0
"""An eye that explains less than so much (natural units of likelihood) explains nothing."""

ASIDE, ASIDE_SHARE = 4.5, 0.03
"""A centre of vision that many standard errors, and that share of the longer side, off the middle
lies clearly aside: the picture is a part of another."""

MOSTLY = 0.5
"""Where less of all length of line is explained, much else lies about."""

SOFT_SHARE = 0.12
"""A centre of vision told to no more than this share of the longer side is not told."""


def lines_in(grey: NDArray[np.uint8]) -> tuple[Array, list[Array]]:
    """Straight lines (n, 2, 2) in a picture: both ends, px from its lower left corner, y upward,
    the longest first; and the places (k, 2) along each where it was seen.

    Found by a line segment detector (von Gioi and others, 2010), then laid where the grey values
    change fastest, to a part of a pixel."""
    rows, columns = grey.shape
    grown = max(math.sqrt(rows * columns / DETECTED_PX), 1.0)
    both = _lines_at(grey, grown)
    if (
        len(both) < FEW and min(rows, columns) > SMALLEST_PX
    ):  # a blurred one shows more made smaller
        coarse = _lines_at(grey, COARSER * grown)
        both = max(both, coarse, key=_length_of)
    laid = np.array([line for line, _places in both]).reshape(-1, 2, 2)
    places = [seen for _line, seen in both]
    for some in (laid, *places):
        some[..., 1] = rows - some[..., 1]
    return laid, places


def _length_of(lines: list[tuple[Array, Array]]) -> float:
    return sum(math.dist(*line) for line, _places in lines)


def _lines_at(grey: NDArray[np.uint8], smaller: float) -> list[tuple[Array, Array]]:
    """Lines found on a picture made so many times smaller, and laid in all its pixels: both ends
    and the places along each, px from its upper left corner, the longest first."""
    import cv2

    rows, columns = grey.shape
    looked_at = np.ascontiguousarray(grey)
    if smaller > 1.0:  # the detector takes twenty bytes for a pixel
        size = round(columns / smaller), round(rows / smaller)
        looked_at = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    found: Any = cv2.createLineSegmentDetector().detect(plainer(looked_at))[0]
    if found is None:
        return []
    high, wide = looked_at.shape
    ends = (np.asarray(found, dtype=float).reshape(-1, 2, 2) + 0.5) * (columns / wide, rows / high)
    lengths = np.hypot(*(ends[:, 1] - ends[:, 0]).T)
    order = np.argsort(-lengths, kind="stable")
    order = order[lengths[order] >= SHORTEST * math.hypot(rows, columns)][:MOST_LINES]
    beside = math.ceil(BESIDE_PX * smaller)
    values: Pixels = grey
    if smaller > 1.0:
        values = np.asarray(cv2.GaussianBlur(grey, (0, 0), smaller / 2), dtype=np.uint8)
    both = [_laid(values, ends[i], beside, smaller) for i in order]
    return [(line, places) for line, places in both if len(places)]


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


def _laid(
    values: Pixels, ends: Array, beside: int = BESIDE_PX, softer: float = 1.0
) -> tuple[Array, Array]:
    """A line (2, 2) and the places (k, 2) where it was seen, laid where the grey values change
    fastest across it: at places along it the steepest place of the profile, between pixels by a
    parabola, then the line nearest to those. softer: so many times less sharp edges are."""
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
        spread = max(middle_spread(miss[keep]), 0.05)
        keep = miss < 3 * spread
        if keep.sum() < 4:
            return ends, np.empty((0, 2))
    bow = float(np.polyfit(at[keep], off[keep], 2)[0]) * float(np.ptp(at[keep])) ** 2 / 4
    if abs(bow) > BOWED_PX * softer and abs(bow) > BOWED_SHARE * length:
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
    """How the lens bends lines: the k that makes the places of most long ones lie straightest, by
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
        if not long:
            break
        own, weights, noises = np.array([_bend_of_one(seen, middle, scale, k) for seen in long]).T
        usual = float(np.median(own))
        spread = max(middle_spread(own - usual), 1e-9)
        fair = np.abs(own - usual) <= OUT_BY * spread  # a rim, or a line found in two steps
        share = weights * fair / float((weights * fair).sum())
        step = float(share @ own)
        k += step
        # neighbours along a line see the same pixels: only every other one counts; lines that
        # disagree say more of the error than the places along each of them
        alone = math.sqrt(2 * float((share**2 * noises / weights).sum()))
        several = max(int(fair.sum()), 2)
        apart = math.sqrt(float((share**2 * (own - step) ** 2).sum()) * several / (several - 1))
        error = max(alone, apart) if fair.sum() >= 2 else math.inf
        if abs(step) < SAME:
            break
    return Bend(k, error, len(long))


def _bend_of_one(seen: Array, middle: Array, scale: float, k: float) -> tuple[float, float, float]:
    """By how much one line says k is to be changed, how much it weighs, and the mean square of how
    far its places (n, 2) then lie off a line."""
    off = seen - middle
    swell = off * (off**2).sum(axis=1, keepdims=True) / scale**2
    straight = off + k * swell
    run = straight[-1] - straight[0]
    normal = np.array([-run[1], run[0]]) / np.hypot(*run)
    along = (straight @ run) / float(run @ run)
    flat = np.stack([np.ones_like(along), along], axis=1)
    both = np.stack([straight @ normal, swell @ normal], axis=1)
    both -= flat @ np.linalg.lstsq(flat, both, rcond=None)[0]
    weight = max(float(both[:, 1] @ both[:, 1]), 1e-12)
    step = -float(both[:, 0] @ both[:, 1]) / weight
    left = both[:, 0] + step * both[:, 1]
    return step, weight, float(left @ left) / max(len(left) - 3, 1)


def straightened(lines: Array, bend: Bend, size: tuple[float, float]) -> Array:
    """Lines (n, 2, 2) as a lens without bend would show them, when the bend is clear."""
    if not bend.told or abs(bend.k) < CLEARLY * bend.standard_error:
        return lines
    off = lines - np.array(size) / 2
    square = (off**2).sum(axis=2, keepdims=True) / max(size) ** 2
    straight: Array = off * (1 + bend.k * square) + np.array(size) / 2
    return straight


class Found(NamedTuple):
    """The family of each line, "" for those of none; whether the picture is a part of what the
    camera saw; and what is in doubt, so that nothing is told: WAYS, whether other eyes explain the
    lines about as well, or CUT, whether the picture is whole."""

    names: list[str]
    cropped: bool = False
    doubt: str = ""


def families_of(
    lines: Array, size: tuple[float, float], lens: Lens | None, whole: bool | None = None
) -> Found:
    """The families of lines (n, 2, 2): those of the eye that explains most of them
    (`isometron.reading.rivals`). The most upright is "height"; of the others the one with more
    length "width". None where nothing explains enough of them. whole: whether the picture is all
    that the camera saw, where somebody says so."""
    nothing = Found([""] * len(lines))
    eyes = rivals(lines, size, None if lens is None else lens.station_distance)
    if whole is not None:
        eyes = [eye for eye in eyes if eye.whole is whole] or eyes
    if not eyes or eyes[0].worth < LEAST_WORTH:
        return nothing
    best = eyes[0]
    names = [("width", "height", "depth")[n] if n >= 0 else "" for n in best.families]
    counts = [names.count(name) for name in FAMILIES]
    if sum(counts) < FEWEST or sorted(counts)[1] < LEAST_LINES:
        return nothing
    rival = next((eye for eye in eyes[1:] if eye.doubts(best)), None)
    asks = CUT if best.explained > MOSTLY else WAYS  # among clutter the thing is asked for first
    doubt = "" if rival is None else WAYS if rival.whole is best.whole else asks
    cropped: bool | None = whole is False
    if whole is None and not doubt:
        cropped = not best.whole or _looks_aside(_marks(lines, names, size, lens))
    if cropped is None:
        doubt = asks
    return Found(names, bool(cropped), doubt)


def _looks_aside(marks: Marks) -> bool | None:
    """Whether lines say clearly that the centre of vision is not the middle; None where they do not
    tell."""
    if marks.lens is not None:
        return False
    names = [edge.family for edge in marks.edges]
    if min(map(names.count, FAMILIES)) < LEAST_LINES:
        return None
    free = replace(marks, picture=replace(marks.picture, centre_of_vision=None))
    view = read_marks(free).view
    if view is None or view.centre_of_vision is None:
        return None
    width, height = marks.picture.width, marks.picture.height
    longer, worst, found = max(width, height), 0.0, False
    for one, middle in zip(view.centre_of_vision, (width / 2, height / 2), strict=True):
        off = abs(one.value - middle)
        found |= off > ASIDE * one.standard_error and off > ASIDE_SHARE * longer
        worst = max(worst, one.standard_error)
    return True if found else None if worst > SOFT_SHARE * longer else False


def _marks(lines: Array, names: list[str], size: tuple[float, float], lens: Lens | None) -> Marks:
    edges = tuple(
        Edge((x0, y0), (x1, y1), name)
        for ((x0, y0), (x1, y1)), name in zip(lines.tolist(), names, strict=True)
        if name
    )
    width, height = size
    picture = Picture(width, height, (width / 2, height / 2))
    return Marks(picture, edges, lens=lens, least_noise=LEAST_NOISE_PX)


class InPicture(NamedTuple):
    """What a picture shows: its lines as marks, how its lens bends them, and what of them is in
    doubt, so that none is marked."""

    marks: Marks
    bend: Bend
    doubt: str


def marks_in_picture(
    picture: GreyPicture,
    box: tuple[float, float, float, float] | None = None,
    whole: bool | None = None,
) -> InPicture:
    """The lines of a picture as marks: their families, whether it is cropped, and the lens as EXIF
    tells it; straightened when they show clearly how the lens bends them, which is given too. Noise
    is left for the marks to tell. box: where the thing lies (left, lower, right, upper, px): lines
    beside it are left out; whole: whether the picture is all that the camera saw, where somebody
    says so."""
    lens = None
    if picture.station_distance is not None:
        lens = Lens(picture.station_distance, FOCAL_ERROR * picture.station_distance)
    lines, places = lines_in(picture.grey)
    bend = bend_of(lines, places, picture.size)
    if box is not None and len(lines):
        corners = np.array(box).reshape(2, 2)
        low, high = corners.min(axis=0), corners.max(axis=0)
        lines = lines[((lines >= low) & (lines <= high)).all(axis=(1, 2))]
    lines = straightened(lines, bend, picture.size)
    found = families_of(lines, picture.size, lens, whole)
    names = [""] * len(lines) if found.doubt else found.names
    marks = _marks(lines, names, picture.size, lens)
    if found.cropped:
        marks = replace(marks, picture=replace(marks.picture, centre_of_vision=None))
    return InPicture(marks, bend, found.doubt)

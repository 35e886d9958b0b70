"""Exact central projection of points and line pieces onto the sheet."""

import functools
import itertools
import os
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from concurrent.futures import ThreadPoolExecutor

from isometron.perspective.angles import EXTENDED
from isometron.perspective.curved import direction_at, place_points
from isometron.perspective.eye import Array, Eye, sight_axes

LEAST_DEPTH = 1e-6
NEAR_MM = 1.0
"""Points nearer to the eye's own plane than this (along the sight line) are clipped."""

EXACT_MM = 1e-10
"""What rounding may cost on the sheet before a point is computed again in extended precision."""

_ROUNDING = 8 * np.finfo(float).eps
_BLOCK = 16384
"""Points worked on at once: what fits the processor's nearer memory."""

MOST_HANDS = 4
"""More cores than this only wait for the same memory."""

_SEVERAL_HANDS = 4 * _BLOCK
"""From this many points on the work is shared between the processor's cores."""


class Picture(NamedTuple):
    """Projected points: sheet (n, 2) in mm, NaN in rows that are not `seen`; depth (n,) in mm
    along the sight line; seen (n,) true where the point lies in front of the near plane."""

    sheet: Array
    depth: Array
    seen: NDArray[np.bool_]


def project(eye: Eye, points: Array) -> Picture:
    """Picture of world points (n, 3) mm: (cx + d·(v·r)/(v·f), cy + d·(v·u)/(v·f)), v = P − eye.

    Points with depth ≤ NEAR_MM are never mirrored: their rows are NaN and not `seen`. Error on
    the sheet below 1e-9 mm for coordinates up to 10⁶ mm: double precision where a bound on its
    rounding allows, extended precision for the points where it does not.
    """
    points = np.ascontiguousarray(points, dtype=float)
    if eye.parallel is not None:
        return _parallel(eye, points)
    if eye.curved:
        return _curved(eye, points)
    n = len(points)
    seen = np.empty((3, n))
    lens = _lens_of(eye)

    def work(span: slice) -> list[slice]:
        """Project a span block by block; gives the blocks that need working over."""
        starts = range(span.start, span.stop, _BLOCK)
        blocks = [slice(start, min(start + _BLOCK, span.stop)) for start in starts]
        return [b for b in blocks if not _project_block(lens, points[b], seen[:, b])]

    picture = Picture(seen[:2].T, seen[2], np.ones(n, dtype=bool))
    for block in _shared(work, n):
        _work_over(eye, lens, points, picture, block)
    return picture


def _parallel(eye: Eye, points: Array) -> Picture:
    """Every point along its own sight line, none behind the eye: cx + s·v·r, cy + s·v·u."""
    right, up, ahead = sight_axes(eye).astype(float)
    off = points - np.array(eye.place)
    assert eye.parallel is not None
    sheet = eye.parallel * (off @ np.stack([right, up], axis=1)) + eye.centre_of_vision_mm
    return Picture(sheet, off @ ahead, np.ones(len(points), dtype=bool))


def _curved(eye: Eye, points: Array) -> Picture:
    """Every point where it lands on a curved sheet, also beside and behind the eye."""
    sheet = place_points(eye, points).sheet
    seen = np.asarray(np.isfinite(sheet).all(axis=1))
    return Picture(sheet, depths(eye, points), seen)


@functools.cache
def _hands(count: int) -> "ThreadPoolExecutor":
    from concurrent.futures import ThreadPoolExecutor

    return ThreadPoolExecutor(count, thread_name_prefix="projection")


def _shared(work: Callable[[slice], list[slice]], n: int) -> list[slice]:
    """The work on n points, done by one hand or, when they are many, by one per core."""
    hands = min(os.cpu_count() or 1, MOST_HANDS) if n >= _SEVERAL_HANDS else 1
    if hands == 1:
        return work(slice(0, n))
    borders = [n * hand // hands for hand in range(hands + 1)]
    own, *others = [slice(a, b) for a, b in itertools.pairwise(borders)]
    lent = [_hands(hands - 1).submit(work, span) for span in others]
    return work(own) + [block for span in lent for block in span.result()]


class _Lens(NamedTuple):
    """An eye as one matrix: v·(d·r + cx·f), v·(d·u + cy·f), v·f as columns (3, 3), the eye's own
    share of each (3, 1), the eye's largest coordinate and the rounding of the sheet per unit."""

    columns: Array
    share: Array
    reach: float
    rounding: float


@functools.lru_cache(maxsize=64)
def _lens_of(eye: Eye) -> _Lens:
    right, up, forward = sight_axes(eye)
    d, (cx, cy) = EXTENDED(eye.station_distance_mm), eye.centre_of_vision_mm
    rows = np.stack([d * right + cx * forward, d * up + cy * forward, forward])
    share = -(rows @ np.array(eye.place, dtype=EXTENDED))
    size = eye.station_distance_mm + abs(cx) + abs(cy)
    reach = max(abs(v) for v in eye.place)
    return _Lens(rows.astype(float), share.astype(float)[:, None], reach, _ROUNDING * size)


def _project_block(lens: _Lens, points: Array, seen: Array) -> bool:
    """Project a block in double precision into seen (3, k): across, up, depth.

    Gives whether that is all there is to do: every point in front, and rounding out of sight.
    """
    np.matmul(lens.columns, points.T, out=seen)
    seen += lens.share
    nearest = float(seen[2].min())
    if nearest <= NEAR_MM:
        return False
    np.divide(seen[:2], seen[2], out=seen[:2])
    reach = lens.reach + max(float(points.max()), -float(points.min()))
    return lens.rounding * (reach / nearest) ** 2 <= EXACT_MM


def _work_over(eye: Eye, lens: _Lens, points: Array, picture: Picture, block: slice) -> None:
    """Bring a block right that has points behind the eye or points that need extended precision."""
    world = points[block]
    depth = (world - np.array(eye.place)) @ lens.columns[2]
    reach = lens.reach + np.abs(world).max(axis=1)
    bound = lens.rounding * (reach / np.maximum(np.abs(depth), NEAR_MM)) ** 2
    rows = block.start + np.flatnonzero((bound > EXACT_MM) | (np.abs(depth - NEAR_MM) < NEAR_MM))
    right, up, ahead = (
        (points[rows].astype(EXTENDED) - np.array(eye.place, dtype=EXTENDED)) @ sight_axes(eye).T
    ).T
    picture.depth[rows] = ahead.astype(float)
    picture.seen[block] = picture.depth[block] > NEAR_MM
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        picture.sheet[block] = (lens.columns[:2] @ world.T + lens.share[:2]).T / (
            picture.depth[block][:, None]
        )
        scale = EXTENDED(eye.station_distance_mm) / ahead
        cx, cy = eye.centre_of_vision_mm
        picture.sheet[rows, 0] = (cx + scale * right).astype(float)
        picture.sheet[rows, 1] = (cy + scale * up).astype(float)
    picture.sheet[block][~picture.seen[block]] = np.nan


def depths(eye: Eye, points: Array) -> Array:
    """Depth (n,) of world points (n, 3) along the sight line, mm; negative behind the eye."""
    forward = sight_axes(eye)[2].astype(float)
    return np.asarray((np.asarray(points, dtype=float) - np.array(eye.place)) @ forward)


def scale_at(eye: Eye, depth: Any) -> Any:
    """Drawn mm per true mm at a depth (mm, a number or an array) before the eye: station distance
    over depth; beyond all numbers in the eye's own plane."""
    with np.errstate(divide="ignore"):
        return np.float64(eye.station_distance_mm) / depth


def sight_ray(eye: Eye, sheet_mm: tuple[float, float]) -> Array:
    """World direction (3,) through a point of the sheet, of depth 1 (its v·f is 1); on a curved
    sheet of length 1 from 90° off the sight axis on."""
    if eye.curved:
        way = direction_at(eye, sheet_mm)
        deep = float(way @ sight_axes(eye)[2].astype(float))
        return way / deep if deep > LEAST_DEPTH else way
    cx, cy = eye.centre_of_vision_mm
    d = eye.station_distance_mm
    seen = np.array([(sheet_mm[0] - cx) / d, (sheet_mm[1] - cy) / d, 1.0])
    return np.asarray(seen @ sight_axes(eye).astype(float))


def sight_line(eye: Eye, sheet_mm: tuple[float, float]) -> Array:
    """Unit world direction (3,) of the sight line through a place of the sheet."""
    ray = sight_ray(eye, sheet_mm)
    return np.asarray(ray / np.linalg.norm(ray))


def on_level(eye: Eye, sheet_mm: tuple[float, float], height_mm: float) -> Array | None:
    """World point (3,) where the sight ray meets the level plane at `height_mm`.

    None when it never does in front of the eye.
    """
    ray = sight_ray(eye, sheet_mm)
    drop = height_mm - eye.height_mm
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        depth = np.float64(drop) / ray[2]
    if not NEAR_MM < depth < np.inf:
        return None
    return np.asarray(np.array(eye.place) + depth * ray)

"""Exact central projection of points and line pieces onto the sheet."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.perspective.angles import EXTENDED
from isometron.perspective.eye import Array, Eye, frame

NEAR_MM = 1.0
"""Points nearer to the eye's own plane than this (along the sight line) are clipped."""

EXACT_MM = 1e-10
"""What rounding may cost on the sheet before a point is computed again in extended precision."""

_ROUNDING = 8 * np.finfo(float).eps
_BLOCK = 4096


@dataclass(frozen=True)
class Picture:
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
    points = np.asarray(points, dtype=float)
    n = len(points)
    if n == 0:
        return Picture(np.empty((0, 2)), np.empty(0), np.empty(0, dtype=bool))
    axes = frame(eye)
    turn = np.ascontiguousarray(axes.astype(float).T)
    place, d = np.array(eye.place), eye.station_distance_mm
    centre = np.array(eye.centre_of_vision_mm)
    sheet, depth = np.empty((n, 2)), np.empty(n)
    careful: list[NDArray[np.intp]] = []
    clipped = False
    for start in range(0, n, _BLOCK):
        block = slice(start, start + _BLOCK)
        v = points[block] - place
        seen = v @ turn
        z = seen[:, 2]
        depth[block] = z
        nearest = float(z.min())
        if nearest <= NEAR_MM:
            clipped = True
            nearest = NEAR_MM
        scale = d / np.where(z > NEAR_MM, z, np.nan) if clipped else d / z
        np.multiply(seen[:, :2], scale[:, None], out=sheet[block])
        reach = max(float(v.max()), -float(v.min()))
        if d * _ROUNDING * (reach / nearest) ** 2 > EXACT_MM:
            size = np.abs(v).max(axis=1)
            bound = d * _ROUNDING * (size / np.maximum(z, NEAR_MM)) ** 2
            careful.append(start + np.flatnonzero(bound > EXACT_MM))
    sheet += centre
    if careful:
        rows = np.concatenate(careful)
        sheet[rows], depth[rows] = _in_extended_precision(eye, axes, points[rows])
        clipped = True
    if not clipped:
        return Picture(sheet, depth, np.ones(n, dtype=bool))
    in_front = depth > NEAR_MM
    sheet[~in_front] = np.nan
    return Picture(sheet, depth, in_front)


def _in_extended_precision(eye: Eye, axes: Array, points: Array) -> tuple[Array, Array]:
    v = points.astype(EXTENDED) - np.array(eye.place, dtype=EXTENDED)
    right, up, depth = (v @ axes.T).T
    safe = np.where(depth > NEAR_MM, depth, EXTENDED("nan"))
    d = EXTENDED(eye.station_distance_mm)
    cx, cy = eye.centre_of_vision_mm
    sheet = np.stack([cx + d * right / safe, cy + d * up / safe], axis=1)
    return sheet.astype(float), depth.astype(float)


def depths(eye: Eye, points: Array) -> Array:
    """Depth (n,) of world points (n, 3) along the sight line, mm; negative behind the eye."""
    forward = frame(eye)[2].astype(float)
    return np.asarray((np.asarray(points, dtype=float) - np.array(eye.place)) @ forward)


def clip_pieces(eye: Eye, starts: Array, ends: Array) -> tuple[Array, Array]:
    """The part of each straight piece that lies in front of the near plane.

    starts, ends: (n, 3) world mm. Gives t0, t1: (n,) fractions from start to end; t1 < t0 where
    nothing of the piece is in front.
    """
    a, b = depths(eye, starts) - NEAR_MM, depths(eye, ends) - NEAR_MM
    t0, t1 = np.zeros(len(a)), np.ones(len(a))
    crossing = (a > 0) != (b > 0)
    cut = a[crossing] / (a[crossing] - b[crossing])
    t0[crossing] = np.where(a[crossing] > 0, 0.0, cut)
    t1[crossing] = np.where(a[crossing] > 0, cut, 1.0)
    t1[(a <= 0) & (b <= 0)] = -1.0
    return t0, t1


def sight_ray(eye: Eye, sheet_mm: tuple[float, float]) -> Array:
    """World direction (3,) through a point of the sheet, of depth 1 (its v·f is 1)."""
    cx, cy = eye.centre_of_vision_mm
    d = eye.station_distance_mm
    seen = np.array([(sheet_mm[0] - cx) / d, (sheet_mm[1] - cy) / d, 1.0])
    return np.asarray(seen @ frame(eye).astype(float))


def on_level(eye: Eye, sheet_mm: tuple[float, float], height_mm: float) -> Array | None:
    """World point (3,) where the sight ray meets the level plane at `height_mm`.

    None when it never does in front of the eye.
    """
    ray = sight_ray(eye, sheet_mm)
    drop = height_mm - eye.height_mm
    if ray[2] == 0 or drop / ray[2] <= NEAR_MM:
        return None
    return np.asarray(np.array(eye.place) + drop / ray[2] * ray)

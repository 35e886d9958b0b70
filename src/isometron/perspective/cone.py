"""Cone of vision, off-axis angle and stretch."""

import math

import numpy as np

from isometron.perspective.eye import Array, Eye, sight_axes


def cone_radius(eye: Eye, full_angle_deg: float) -> float:
    """Radius on the sheet, mm, of a cone of vision of that full angle: d·tan(a/2); d·a/2 on a
    curved one."""
    half = math.radians(full_angle_deg / 2)
    return eye.station_distance_mm * (half if eye.curved else math.tan(half))


def off_axis(eye: Eye, sheet: Array) -> Array:
    """Degrees (n,) off the centre of vision of sheet points (n, 2) mm: atan(|p − CV| / d); on a
    curved sheet |p − CV| / d."""
    away = np.asarray(sheet, dtype=float) - np.array(eye.centre_of_vision_mm)
    distance = np.hypot(away[..., 0], away[..., 1])
    if eye.curved:
        return np.asarray(np.degrees(distance / eye.station_distance_mm))
    return np.asarray(np.degrees(np.arctan2(distance, eye.station_distance_mm)))


def off_sight_line(eye: Eye, points: Array) -> Array:
    """Degrees (n,) from the sight line of world points (n, 3) mm, 0 to 180: more than 90 behind the
    eye; NaN at the eye itself."""
    run = np.asarray(points, dtype=float) - np.array(eye.place)
    right, up, ahead = (run @ sight_axes(eye).astype(float).T).T
    found = np.degrees(np.arctan2(np.hypot(right, up), ahead))
    return np.asarray(np.where((run == 0).all(axis=1), np.nan, found))


def stretch(off_axis_deg: Array, *, curved: bool = False) -> Array:
    """How much longer than wide a small round ball is drawn at that angle: 1 / cos t; on a curved
    sheet t / sin t."""
    t = np.radians(off_axis_deg)
    if not curved:
        return np.asarray(1.0 / np.cos(t))
    sine = np.sin(t)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(np.where(sine > 0, t / sine, 1.0))

"""Cone of vision, off-axis angle and stretch."""

import math

import numpy as np

from isometron.perspective.eye import Array, Eye


def cone_radius(station_distance_mm: float, full_angle_deg: float) -> float:
    """Radius on the sheet, mm, of a cone of vision of that full angle: d·tan(a/2)."""
    return station_distance_mm * math.tan(math.radians(full_angle_deg / 2))


def off_axis(eye: Eye, sheet: Array) -> Array:
    """Degrees (n,) off the centre of vision of sheet points (n, 2) mm: atan(|p − CV| / d)."""
    away = np.asarray(sheet, dtype=float) - np.array(eye.centre_of_vision_mm)
    distance = np.hypot(away[..., 0], away[..., 1])
    return np.asarray(np.degrees(np.arctan2(distance, eye.station_distance_mm)))


def stretch(off_axis_deg: Array) -> Array:
    """How much longer than wide a small round ball is drawn at that angle: 1 / cos t."""
    return np.asarray(1.0 / np.cos(np.radians(off_axis_deg)))

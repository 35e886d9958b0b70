"""Turns in space: yaw, pitch and roll, and the axes they give."""

import math

import numpy as np

from isometron.nearness import ROUNDING
from isometron.perspective.angles import EXTENDED, cosine_sine, wrapped
from isometron.perspective.eye import Array

UPRIGHT = 1e-12
"""A pitch this close to a right angle leaves yaw and roll one turn between them."""


def axes_of(yaw_deg: float, pitch_deg: float = 0.0, roll_deg: float = 0.0) -> Array:
    """Own x, y and z as rows (3, 3), extended precision: the columns of Rz(yaw)·Rx(pitch)·Ry(roll).

    Exact at quarter turns.
    """
    (cy, sy), (cp, sp), (cr, sr) = (cosine_sine(a) for a in (yaw_deg, pitch_deg, roll_deg))
    zero = EXTENDED(0)
    one = EXTENDED(1)
    turn = np.array([[cy, -sy, zero], [sy, cy, zero], [zero, zero, one]], dtype=EXTENDED)
    if pitch_deg == 0 and roll_deg == 0:
        return np.asarray(turn.T)
    pitch = np.array([[one, zero, zero], [zero, cp, -sp], [zero, sp, cp]], dtype=EXTENDED)
    roll = np.array([[cr, zero, sr], [zero, one, zero], [-sr, zero, cr]], dtype=EXTENDED)
    return np.asarray((turn @ pitch @ roll).T)


def turns_of(axes: Array) -> tuple[float, float, float]:
    """Yaw, pitch and roll in degrees of right-handed axes given as rows (3, 3).

    The inverse of `axes_of`: with R = axesᵀ, sin pitch = R₂₁, yaw = atan2(−R₀₁, R₁₁) and
    roll = atan2(−R₂₀, R₂₂). Straight up or down the roll is 0.
    """
    r = np.asarray(axes, dtype=float).T
    level = math.hypot(r[0, 1], r[1, 1])
    pitch = math.degrees(math.atan2(r[2, 1], level))
    if level <= UPRIGHT:
        return wrapped(math.degrees(math.atan2(r[1, 0], r[0, 0]))), math.copysign(90.0, pitch), 0.0
    yaw = math.degrees(math.atan2(-r[0, 1], r[1, 1]))
    roll = math.degrees(math.atan2(-r[2, 0], r[2, 2]))
    return tuple(_clean(v) for v in (yaw, pitch, roll))  # type: ignore[return-value]


def _clean(degrees: float) -> float:
    """Whole degrees that rounding has just missed."""
    whole = round(degrees, 9)
    return wrapped(whole if abs(whole - degrees) < ROUNDING * max(abs(degrees), 1.0) else degrees)

"""Degrees at the boundary, extended precision inside.

Sines and cosines are exact at every quarter turn, so that a face turned square to us has
parallel families in the picture, not vanishing points a light year away.
"""

import numpy as np

EXTENDED = np.longdouble
"""64-bit mantissa on x86-64, 113-bit on other 64-bit Linux machines: room to round once."""

PI = EXTENDED("3.14159265358979323846264338327950288")
DEGREE = PI / 180
_QUARTERS = ((1, 0), (0, 1), (-1, 0), (0, -1))


def cosine_sine(degrees: float | np.longdouble) -> tuple[np.longdouble, np.longdouble]:
    """Cosine and sine of an angle in degrees, exact at multiples of 90°.

    The angle is first reduced to ±45° by whole quarter turns (the subtraction is exact), so
    complementary angles give the very same digits.
    """
    angle = EXTENDED(degrees)
    quarters = np.rint(angle / 90)
    rest = (angle - 90 * quarters) * DEGREE
    cosine, sine = np.cos(rest), np.sin(rest)
    c, s = _QUARTERS[int(quarters) % 4]
    return c * cosine - s * sine, s * cosine + c * sine


def wrapped(degrees: float) -> float:
    """The same direction as an angle in (−180°, 180°]."""
    rest = float(np.fmod(degrees, 360.0))
    if rest > 180.0:
        return rest - 360.0
    return rest + 360.0 if rest <= -180.0 else rest


def from_quarter(degrees: float) -> float:
    """Signed angle in degrees from the nearest quarter turn, in [−45°, 45°]."""
    return float(degrees - 90.0 * np.rint(degrees / 90.0))

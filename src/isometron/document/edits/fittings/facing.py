"""How a fitting stands on a face of the box of its carrier."""

import numpy as np

from isometron.framework.bodies.extruded import CROSS
from isometron.framework.placing import Anchor
from isometron.framework.turning import turns_of
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides

OUTWARD = 2
"""The row of `facing_axes` that leads out of the face."""


def facing_axes(face: int, *, upright: bool = False) -> Array:
    """Three directions (rows of (3, 3), right-handed) on a face of a box (x=0, x=1, y=0, y=1, base,
    top), in its own directions: along the first side of the face, square to that on it, outward.
    upright: along the second side first."""
    axis, positive = divmod(face, 2)
    own = np.eye(3)
    outward = own[axis] * (1.0 if positive else -1.0)
    along = own[CROSS[axis][1 if upright else 0]]
    return np.stack([along, np.cross(outward, along), outward])


def place_on(carrier: Volume, face: int, shares: tuple[float, float]) -> Array:
    """The place (3,) on a face of the box of a carrier, at shares of its two sides, own mm."""
    axis, positive = divmod(face, 2)
    first, second = CROSS[axis]
    place = np.zeros(3)
    place[axis], place[first], place[second] = float(positive), *shares
    return np.asarray(place * np.array(carrier.sides))


def face_extents(carrier: Volume, face: int) -> tuple[float, float]:
    """How long a face of the box of a carrier is along its two sides, mm."""
    first, second = CROSS[face // 2]
    return carrier.sides[first], carrier.sides[second]


def standing_on(
    carrier: Volume, face: int, shares: tuple[float, float], sides: Sides, axes: Array
) -> Anchor:
    """The anchor of something of sides whose middle of the base stands on a face at shares of it,
    with axes (rows) in the carrier's own directions; it keeps those shares."""
    axis, positive = divmod(face, 2)
    first, second = CROSS[axis]
    at = [0.0, 0.0, 0.0]
    at[axis], at[first], at[second] = float(positive), *shares
    x, y, z = (float(v) for v in -sides[0] / 2 * axes[0] - sides[1] / 2 * axes[1])
    return Anchor(carrier.key, (at[0], at[1], at[2]), (x, y, z), turns_of(axes))

"""What is cut away: boxes, or other flat kinds, taken out of a volume."""

import math
from dataclasses import dataclass

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.flat import block, moved, without
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind, Sides
from isometron.framework.turning import axes_of
from isometron.perspective.errors import VolumeError
from isometron.words import _


@dataclass(frozen=True)
class Cut:
    """A box taken out of a volume: its lower and upper corner as shares of the volume's sides, its
    turns in degrees about its own lower corner in the volume's axes, and what fills it."""

    low: Sides
    high: Sides
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    shape: Kind = BLOCK

    def __post_init__(self) -> None:
        numbers = (*self.low, *self.high, self.yaw_deg, self.pitch_deg, self.roll_deg)
        if not all(math.isfinite(v) for v in numbers):
            raise VolumeError(_("A cut is not measured in numbers: give its size and place."))
        if not all(a < b for a, b in zip(self.low, self.high, strict=True)):
            raise VolumeError(_("That cut has no size: give it some width, depth and height."))

    @property
    def turned(self) -> bool:
        """Whether it is turned in the volume's axes."""
        return bool(self.yaw_deg or self.pitch_deg or self.roll_deg)

    def mirrored(self) -> "Cut":
        """The cut mirrored left to right in the volume's own box.

        Raises VolumeError for a cut turned in space, which has no twin of the same kind.
        """
        if self.turned:
            raise VolumeError(
                _("A volume with a turned cut has no twin: cut it square, or copy it.")
            )
        (x0, y0, z0), (x1, y1, z1) = self.low, self.high
        return Cut((1 - x1, y0, z0), (1 - x0, y1, z1), shape=self.shape.mirrored())


def cut_body(body: Body, cuts: tuple[Cut, ...], sides: Sides) -> Body:
    """A flat body with cuts taken out. Raises VolumeError for a cut that removes everything."""
    return without(body, [_tool(cut, sides) for cut in cuts])


def _tool(cut: Cut, sides: Sides) -> Body:
    width, depth, height = (
        (high - low) * side for low, high, side in zip(cut.low, cut.high, sides, strict=True)
    )
    size = (width, depth, height)
    tool = cut.shape.faceted(size) or block(size)
    axes = axes_of(cut.yaw_deg, cut.pitch_deg, cut.roll_deg).astype(float)
    return moved(tool, axes, np.array(cut.low) * np.array(sides))

"""What is cut away: boxes, or other flat kinds, taken out of a volume."""

import contextlib
import math
from dataclasses import dataclass, replace

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.flat import FilmError, block, moved, without
from isometron.framework.box import CORNERS
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.turning import axes_of
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _

SAME_LEVEL = 1e-9
"""Share of a body's longest side within which two cutters end in one plane."""

BEYOND = 0.125
"""Share of a side by which a cutter that comes to the skin goes on beyond it."""


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

    def across(self, axis: int) -> "Cut":
        """A square cut on the other side of the centre plane across an own axis of the volume."""
        low, high = list(self.low), list(self.high)
        low[axis], high[axis] = 1 - self.high[axis], 1 - self.low[axis]
        return replace(self, low=(low[0], low[1], low[2]), high=(high[0], high[1], high[2]))

    def mirrored(self) -> "Cut":
        """The cut mirrored left to right in the volume's own box.

        Raises VolumeError for a cut turned in space, which has no twin of the same kind.
        """
        if self.turned:
            raise VolumeError(
                _("A volume with a turned cut has no twin: cut it square, or copy it.")
            )
        return replace(self.across(0), shape=self.shape.mirrored())


def cut_body(body: Body, cuts: tuple[Cut, ...], sides: Sides) -> Body:
    """A flat body with cuts taken out. Raises VolumeError for a cut that removes everything.

    Faces and edges are numbered by what the cutters are taken out of in their order; only where
    cutters that end in one plane would leave a film, they are made anew to end in it exactly.
    """
    with contextlib.suppress(FilmError):
        return without(body, [_tool(one, sides, None) for one in cuts])
    levels = [_levels(axis, cuts, sides) for axis in range(3)]
    return without(body, [_tool(one, sides, levels) for one in cuts])


Levels = dict[float, float]
"""Places along an axis, mm, as they are told, and where each is taken to be."""


def _levels(axis: int, cuts: tuple[Cut, ...], sides: Sides) -> Levels:
    """Where the cuts that lie square begin and end along an axis. Places nearer to each other, or
    to the skin, than SAME_LEVEL are one, so that no film is left between two cutters; a cutter that
    comes to the skin goes on beyond it."""
    side = sides[axis]
    told = {share * side for cut in cuts for share in (cut.low[axis], cut.high[axis])}
    slack, beyond = SAME_LEVEL * max(sides), BEYOND * side
    found: Levels = {}
    last = -math.inf
    for place in sorted(told):
        if place <= slack:
            found[place] = min(place, 0.0) - beyond
        elif place >= side - slack:
            found[place] = max(place, side) + beyond
        else:
            last = found[place] = last if place - last <= slack else place
    return found


def _tool(cut: Cut, sides: Sides, levels: list[Levels] | None) -> Body:
    """What is taken out, in own mm of the volume."""
    low, high = (np.array(corner) * np.array(sides) for corner in (cut.low, cut.high))
    if levels is not None and not cut.turned and cut.shape == BLOCK:
        begin, end = (
            np.array([level[float(place)] for level, place in zip(levels, corner, strict=True)])
            for corner in (low, high)
        )
        vertices = np.where(CORNERS > 0, end, begin)
        planes = np.stack([-begin, end], axis=1).ravel()
        return replace(block(_sides_of(end - begin)), vertices=vertices, offsets=planes)
    size = _sides_of((np.array(cut.high) - np.array(cut.low)) * np.array(sides))
    tool = cut.shape.faceted(size) or block(size)
    axes = axes_of(cut.yaw_deg, cut.pitch_deg, cut.roll_deg).astype(float)
    return moved(tool, axes, low)


def _sides_of(size: Array) -> Sides:
    width, depth, height = size.tolist()
    return width, depth, height

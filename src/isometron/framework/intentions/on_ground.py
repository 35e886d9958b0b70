"""On the ground: a leg, a post, a wheel whose foot stays at height 0, whatever it carries."""

from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np

from isometron.framework.box import SMALLEST_MM
from isometron.framework.intentions.intention import (
    Edited,
    Intention,
    Mark,
    Parts,
    Way,
    moved_by,
)
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

UP = np.array([0.0, 0.0, 1.0])


@dataclass(frozen=True)
class OnGround(Intention):
    """A part whose lowest place lies on the ground."""

    part: int
    word: ClassVar[str] = "on the ground"
    rank: ClassVar[int] = 4
    ties: ClassVar[tuple[str, ...]] = ("part",)

    def _foot(self, parts: Parts) -> float:
        return float(parts[self.part].corners()[:, 2].min())

    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm."""
        return abs(self._foot(parts))

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again: its height, its upper end staying; else it
        is moved."""
        return self._lengthened, self._moved

    def _lengthened(self, parts: Parts) -> tuple[Volume, ...]:
        part = parts[self.part]
        axis: Array = part.pose[1][2]
        if abs(float(axis @ UP)) < 1.0 - SAME or part.shape.axle in (0, 1):
            raise VolumeError(_("It leans: there is no height to give."))
        high = part.height_mm + self._foot(parts)
        if high < max(SMALLEST_MM, 0.05 * part.height_mm):
            raise VolumeError(_("Nothing of it would be left."))
        longer = replace(part, height_mm=high)
        return (moved_by(longer, -self._foot(parts) * axis) if axis[2] > 0 else longer,)

    def _moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.part], -self._foot(parts) * UP),)

    def marked(self, parts: Parts) -> Mark:
        """A cross under it, on the ground."""
        corners = parts[self.part].corners()[:, :2]
        (low_x, low_y), (far_x, far_y) = corners.min(axis=0), corners.max(axis=0)
        cross = [[[low_x, low_y], [far_x, far_y]], [[low_x, far_y], [far_x, low_y]]]
        lines = np.pad(np.array(cross), ((0, 0), (0, 0), (0, 1)))
        return Mark(lines, lines.mean(axis=(0, 1)), _("on the ground"), hangs=True)

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        return _("{part} stands on the ground").format(part=parts[self.part].name)

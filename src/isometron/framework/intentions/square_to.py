"""Square to: a part whose sides run along those of another, or at right angles to them, seen from
above."""

import math
from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np

from isometron.framework.intentions.intention import (
    Edited,
    Intention,
    Mark,
    Parts,
    Way,
    middle_of,
    moved_by,
)
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

QUARTER_DEG = 90.0


def off_square_deg(part: Volume, on: Volume) -> float:
    """How far a part is turned off square to another, seen from above, degrees, at most 45 either
    way; not a number where one of them is tipped."""
    if part.tipped or on.tipped:
        return math.nan
    return math.remainder(part.yaw_deg - on.yaw_deg, QUARTER_DEG)


def turned_about_middle(part: Volume, by_deg: float) -> Volume:
    """A part turned on the ground about its middle."""
    turned = replace(part, yaw_deg=part.yaw_deg + by_deg)
    return moved_by(turned, middle_of(part) - middle_of(turned))


@dataclass(frozen=True)
class SquareTo(Intention):
    """Part `part` square to part `on`, seen from above."""

    part: int
    on: int
    word: ClassVar[str] = "square to"
    rank: ClassVar[int] = 8
    ties: ClassVar[tuple[str, ...]] = ("part", "on")

    def miss_mm(self, parts: Parts) -> float:
        """How far its corners lie off, mm."""
        part = parts[self.part]
        off = math.radians(off_square_deg(part, parts[self.on]))
        return abs(off) * float(np.hypot(part.width_mm, part.depth_mm)) / 2

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be turned so that it is true again: the part, unless the hand has turned it."""
        if self.part in edited.by_hand and self.on not in edited.by_hand:
            return self._other_turned, self._part_turned
        return self._part_turned, self._other_turned

    def _part_turned(self, parts: Parts) -> tuple[Volume, ...]:
        return (turned_about_middle(parts[self.part], -self._off(parts)),)

    def _other_turned(self, parts: Parts) -> tuple[Volume, ...]:
        return (turned_about_middle(parts[self.on], self._off(parts)),)

    def _off(self, parts: Parts) -> float:
        """How far it is off. Raises VolumeError where that cannot be told."""
        off = off_square_deg(parts[self.part], parts[self.on])
        if math.isnan(off):
            raise VolumeError(_("One of them is tipped: nothing is square to it from above."))
        return off

    def marked(self, parts: Parts) -> Mark:
        """A right angle at its corner nearest to the other, on its base."""
        part, middle = parts[self.part], middle_of(parts[self.on])
        place, axes = part.pose
        corners = (
            place + np.array([[x, y, 0.0] for x in (0, 1) for y in (0, 1)]) * part.sides @ axes
        )
        at = int(np.linalg.norm(corners - middle, axis=1).argmin())
        inward = np.array([-1.0 if at // 2 else 1.0, -1.0 if at % 2 else 1.0])
        leg = 0.2 * min(part.width_mm, part.depth_mm)
        one, other = inward[0] * leg * axes[0], inward[1] * leg * axes[1]
        corner = corners[at]
        lines = np.array(
            [[corner + one, corner + one + other], [corner + one + other, corner + other]]
        )
        return Mark(lines, corner + one + other, _("square to"))

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        return _("{part} stays square to {on}").format(
            part=parts[self.part].name, on=parts[self.on].name
        )

"""Flush: a side of a part in one plane with a side of another."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from isometron.framework.box import AXES
from isometron.framework.intentions.intention import (
    Intention,
    Mark,
    MovedAlong,
    Parts,
    middle_of,
    own_place,
)
from isometron.words import _


@dataclass(frozen=True)
class Flush(MovedAlong, Intention):
    """The begin (or the far end) of part `part` in one plane with that of part `on`, along that
    one's own axis (0 width, 1 depth, 2 height)."""

    part: int
    on: int
    axis: int
    far: bool = False
    word: ClassVar[str] = "flush"
    rank: ClassVar[int] = 3
    ties: ClassVar[tuple[str, ...]] = ("part", "on")

    def off_mm(self, parts: Parts) -> float:
        """How far the part lies beyond its place, mm."""
        on = parts[self.on]
        places = [own_place(on, one)[self.axis] for one in parts[self.part].corners()]
        return float(max(places) - on.sides[self.axis] if self.far else min(places))

    def marked(self, parts: Parts) -> Mark:
        """From the middle of its own side to that of the other's, in their plane."""
        on = parts[self.on]
        place, axes = on.pose
        own = np.array([own_place(on, middle_of(one)) for one in (parts[self.part], on)])
        own[:, self.axis] = on.sides[self.axis] if self.far else 0.0
        ends = place + own @ axes
        return Mark(ends[None], ends.mean(axis=0), _("in line"))

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        words = (
            _("{part} ends with the {side} of {on}")
            if self.far
            else _("{part} begins with the {side} of {on}")
        )
        return words.format(
            part=parts[self.part].name, side=_(AXES[self.axis]), on=parts[self.on].name
        )

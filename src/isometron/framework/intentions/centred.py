"""Centred: the middle of a part on the middle of another along one of its axes."""

from dataclasses import dataclass
from typing import ClassVar

from isometron.framework.box import AXES
from isometron.framework.intentions.intention import (
    Intention,
    Mark,
    MovedAlong,
    Parts,
    line_along,
    middle_of,
    own_place,
)
from isometron.words import _


@dataclass(frozen=True)
class Centred(MovedAlong, Intention):
    """Part `part` in the middle of part `on` along that one's own axis (0 width, 1 depth, 2
    height)."""

    part: int
    on: int
    axis: int
    word: ClassVar[str] = "centred"
    rank: ClassVar[int] = 2
    ties: ClassVar[tuple[str, ...]] = ("part", "on")

    def off_mm(self, parts: Parts) -> float:
        """How far the part lies beyond its place, mm."""
        on = parts[self.on]
        own = own_place(on, middle_of(parts[self.part]))
        return float(own[self.axis]) - on.sides[self.axis] / 2

    def marked(self, parts: Parts) -> Mark:
        """From end to end of what it is centred on, through its middle."""
        ends = 0.0, parts[self.on].sides[self.axis]
        return Mark(*line_along(parts, self.part, self.on, self.axis, ends), _("middle"))

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        return _("{part} stays in the middle of the {side} of {on}").format(
            part=parts[self.part].name, side=_(AXES[self.axis]), on=parts[self.on].name
        )

"""Apart: an end or the middle of a part at so many sides of a part from another part."""

from dataclasses import dataclass
from typing import ClassVar

from isometron.framework.box import AXES
from isometron.framework.intentions.intention import (
    Intention,
    Mark,
    MovedAlong,
    Parts,
    line_along,
    own_place,
)
from isometron.perspective.lengths import write_length
from isometron.words import _, said

PLACES = said("begin"), said("middle"), said("far end")
"""Places along a side: where a distance begins or ends."""


@dataclass(frozen=True)
class Apart(MovedAlong, Intention):
    """Place `at` of part `part` (0 begin, 1 middle, 2 far end) `times` the side `side` of part `of`
    and `mm` beyond place `start` of part `on`, along that one's own axis (0 width, 1 depth, 2
    height); below 0 before it. A module is the side of a part: a wheel's diameter is its width."""

    part: int
    on: int
    of: int
    axis: int
    side: int
    times: float
    mm: float = 0.0
    at: int = 0
    start: int = 1
    word: ClassVar[str] = "apart"
    rank: ClassVar[int] = 6
    ties: ClassVar[tuple[str, ...]] = ("part", "on", "of")

    def _begin(self, parts: Parts) -> float:
        """Where the distance begins, mm from the begin of `on`."""
        return self.start / 2 * parts[self.on].sides[self.axis]

    def _place(self, parts: Parts) -> float:
        """Where the part lies, mm from the begin of `on`."""
        own = [own_place(parts[self.on], one)[self.axis] for one in parts[self.part].corners()]
        return float(min(own) + self.at / 2 * (max(own) - min(own)))

    def _wanted(self, parts: Parts) -> float:
        """How far it should lie, mm; below 0 before the other."""
        return self.times * parts[self.of].sides[self.side] + self.mm

    def off_mm(self, parts: Parts) -> float:
        """How far the part lies beyond its place, mm."""
        return self._place(parts) - self._begin(parts) - self._wanted(parts)

    def _far(self, parts: Parts) -> str:
        """How far, in words."""
        way = -1.0 if self._wanted(parts) < 0 else 1.0
        if not self.times:
            return write_length(way * self.mm, "cm")
        told = _("{n} × {side} of {name}").format(
            n=f"{way * self.times:.4g}".replace("-", "−"),
            side=_(AXES[self.side]),
            name=parts[self.of].name,
        )
        if not self.mm:
            return told
        sign = "−" if way * self.mm < 0 else "+"
        return f"{told} {sign} {write_length(abs(self.mm), 'cm')}"

    def marked(self, parts: Parts) -> Mark:
        """From where the distance begins to where it ends, beside the part."""
        places = self._begin(parts), self._place(parts)
        return Mark(*line_along(parts, self.part, self.on, self.axis, places), self._far(parts))

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        words = (
            _("the {at} of {part} stays {far} beyond the {start} of {on}, along its {side}")
            if self._wanted(parts) >= 0
            else _("the {at} of {part} stays {far} before the {start} of {on}, along its {side}")
        )
        return words.format(
            at=_(PLACES[self.at]),
            part=parts[self.part].name,
            far=self._far(parts),
            start=_(PLACES[self.start]),
            on=parts[self.on].name,
            side=_(AXES[self.axis]),
        )

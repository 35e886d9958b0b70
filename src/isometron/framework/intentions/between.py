"""Between: the middle of a part at a share of the way from one part to another."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from isometron.framework.intentions.intention import (
    Intention,
    Mark,
    MovedAlong,
    Parts,
    Way,
    middle_of,
    moved_by,
    own_place,
)
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

HALF = 0.5


@dataclass(frozen=True)
class Between(MovedAlong, Intention):
    """Part `part` between the middles of parts `on` and `other`, along an axis of `on` (0 width, 1
    depth, 2 height), after `share` of the way. Several of them spread evenly."""

    part: int
    on: int
    other: int
    axis: int
    share: float = HALF
    word: ClassVar[str] = "between"
    rank: ClassVar[int] = 5
    ties: ClassVar[tuple[str, ...]] = ("part", "on", "other")

    @property
    def pulls(self) -> dict[int, float]:
        """By how much it is off more when a part is moved by one along the axis, by keys."""
        return {self.part: 1.0, self.on: self.share - 1.0, self.other: -self.share}

    def _way(self, parts: Parts) -> tuple[float, float]:
        """Where the middles of both lie along the axis, mm from the begin of `on`."""
        on = parts[self.on]
        far = own_place(on, middle_of(parts[self.other]))[self.axis]
        return on.sides[self.axis] / 2, float(far)

    def off_mm(self, parts: Parts) -> float:
        """How far the part lies beyond its place, mm."""
        begin, end = self._way(parts)
        own = own_place(parts[self.on], middle_of(parts[self.part]))
        return float(own[self.axis]) - begin - self.share * (end - begin)

    def _other_moved(self, parts: Parts) -> tuple[Volume, ...]:
        if not self.share:
            raise VolumeError(_("It lies where the first of them does."))
        return (moved_by(parts[self.other], self._step(parts) / self.share),)

    def _first_moved(self, parts: Parts) -> tuple[Volume, ...]:
        if self.share == 1:
            raise VolumeError(_("It lies where the second of them does."))
        return (moved_by(parts[self.on], self._step(parts) / (1 - self.share)),)

    def others_moved(self) -> tuple[Way, ...]:
        """What is moved instead of the part, that which moves the least first."""
        ways: tuple[Way, ...] = self._other_moved, self._first_moved
        return ways if self.share >= HALF else ways[::-1]

    def marked(self, parts: Parts) -> Mark:
        """From the middle of the one to that of the other, through its own."""
        ends = np.array([middle_of(parts[self.on]), middle_of(parts[self.other])])
        own = middle_of(parts[self.part])
        return Mark(np.array([[ends[0], own], [own, ends[1]]]), own, _("between"))

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        words = (
            _("{part} stays half-way between {on} and {other}")
            if self.share == HALF
            else _("{part} stays at {share} of the way from {on} to {other}")
        )
        return words.format(
            part=parts[self.part].name,
            on=parts[self.on].name,
            other=parts[self.other].name,
            share=f"{self.share:.3g}",
        )

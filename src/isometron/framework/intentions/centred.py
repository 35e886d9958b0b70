"""Centred: the middle of a part on the middle of another along one of its axes."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Self

import numpy as np

from isometron.framework.box import AXES
from isometron.framework.intentions.intention import (
    Edited,
    Intention,
    Parts,
    Way,
    middle_of,
    moved_by,
    own_place,
    with_keys,
)
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array
from isometron.words import _


@dataclass(frozen=True)
class Centred(Intention):
    """Part `part` in the middle of part `on` along that one's own axis (0 width, 1 depth, 2
    height)."""

    part: int
    on: int
    axis: int
    word: ClassVar[str] = "centred"
    rank: ClassVar[int] = 2

    @property
    def keys(self) -> tuple[int, ...]:
        """Keys of the volumes it ties."""
        return self.part, self.on

    def rekeyed(self, keys: Mapping[int, int]) -> Self:
        """The same between other volumes."""
        return replace(self, **with_keys(self, keys, "part", "on"))

    def _off(self, parts: Parts) -> float:
        on = parts[self.on]
        own = own_place(on, middle_of(parts[self.part]))
        return float(own[self.axis]) - on.sides[self.axis] / 2

    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm."""
        return abs(self._off(parts))

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again: the part, unless the hand has moved it."""
        moved = self._part_moved, self._other_moved
        return moved[::-1] if self.part in edited.by_hand else moved

    def _part_moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.part], -self._step(parts)),)

    def _other_moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.on], self._step(parts)),)

    def _step(self, parts: Parts) -> Array:
        """How far the part lies off the middle, (3,) world mm."""
        return np.asarray(self._off(parts) * parts[self.on].pose[1][self.axis])

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        return _("{part} stays in the middle of the {side} of {on}").format(
            part=parts[self.part].name, side=_(AXES[self.axis]), on=parts[self.on].name
        )

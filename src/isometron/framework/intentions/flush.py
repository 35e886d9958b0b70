"""Flush: a side of a part in one plane with a side of another."""

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
    moved_by,
    own_place,
    with_keys,
)
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array
from isometron.words import _


@dataclass(frozen=True)
class Flush(Intention):
    """The begin (or the far end) of part `part` in one plane with that of part `on`, along that
    one's own axis (0 width, 1 depth, 2 height)."""

    part: int
    on: int
    axis: int
    far: bool = False
    word: ClassVar[str] = "flush"
    rank: ClassVar[int] = 3

    @property
    def keys(self) -> tuple[int, ...]:
        """Keys of the volumes it ties."""
        return self.part, self.on

    def rekeyed(self, keys: Mapping[int, int]) -> Self:
        """The same between other volumes."""
        return replace(self, **with_keys(self, keys, "part", "on"))

    def _off(self, parts: Parts) -> float:
        on = parts[self.on]
        places = [own_place(on, one)[self.axis] for one in parts[self.part].corners()]
        return float(max(places) - on.sides[self.axis] if self.far else min(places))

    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm."""
        return abs(self._off(parts))

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again."""
        moved = self._part_moved, self._other_moved
        return moved[::-1] if self.part in edited.by_hand else moved

    def _part_moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.part], -self._step(parts)),)

    def _other_moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.on], self._step(parts)),)

    def _step(self, parts: Parts) -> Array:
        """How far the part lies off, (3,) world mm."""
        return np.asarray(self._off(parts) * parts[self.on].pose[1][self.axis])

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

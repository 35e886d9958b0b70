"""What an intention answers: what it ties, how far it is from true, and how it is made true.

It is a small value that names volumes by their keys. What a volume stands on, what it is counted in
and what it copies are ties too: they are worked out by `framework.settling`, intentions after it.
"""

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, ClassVar, NamedTuple, Self

import numpy as np

from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

Parts = Mapping[int, Volume]
"""Volumes by their keys."""

Way = Callable[[Parts], tuple[Volume, ...]]
"""A way to make an intention true: the parts → those of them that are changed. It raises
VolumeError where it leads nowhere."""

TRUE_MM = 1e-6
"""An intention that misses by less is true."""


@dataclass(frozen=True)
class Edited:
    """What a hand has just done: the parts as they were before, those it changed as it left them,
    and the parts as they are now."""

    before: Parts
    by_hand: Parts
    now: Parts

    def reshaped(self, key: int) -> bool:
        """Whether the hand gave a part another shape."""
        there = key in self.before and key in self.by_hand
        return there and self.before[key].shape != self.by_hand[key].shape


class Mark(NamedTuple):
    """What shows it on the sheet: lines (k, 2, 3) world mm, and a word above a place (3,), or hung
    below it."""

    lines: Array
    place: Array
    word: str
    hangs: bool = False


class Intention(ABC):
    """One tie between parts. A kind registers by standing in its folder."""

    word: ClassVar[str]
    """What files call its kind."""
    rank: ClassVar[int]
    """Its place in lists."""

    ties: ClassVar[tuple[str, ...]]
    """Its fields that are keys of volumes."""

    @property
    def keys(self) -> tuple[int, ...]:
        """Keys of the volumes it ties."""
        return tuple(getattr(self, name) for name in self.ties)

    def rekeyed(self, keys: Mapping[int, int]) -> Self:
        """The same between other volumes, by what their keys become."""
        others: dict[str, Any] = {
            name: keys.get(key, key) for name, key in zip(self.ties, self.keys, strict=True)
        }
        return replace(self, **others)  # type: ignore[type-var]

    @abstractmethod
    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm; not a number where it cannot be told."""

    @abstractmethod
    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again, the least change first."""

    @abstractmethod
    def told(self, parts: Parts) -> str:
        """It in a sentence."""

    @abstractmethod
    def marked(self, parts: Parts) -> Mark:
        """What shows it on the sheet."""

    def together(self, others: "Sequence[Intention]", edited: Edited) -> tuple[Volume, ...]:
        """Parts changed so that it and others of a sheet that pull at the same part are true at
        once, by the least change. Raises VolumeError where there is nothing of the kind."""
        raise VolumeError(_("That cannot be with the others."))

    def followed(self, before: Parts, now: Parts) -> Self:
        """The same after an edit, where it names something of a part by its number."""
        return self


def middle_of(volume: Volume) -> Array:
    """The middle (3,) of the box it fills, world mm."""
    place, axes = volume.pose
    return np.asarray(place + np.array(volume.sides) / 2 @ axes)


def own_place(volume: Volume, world: Array) -> Array:
    """A world point (3,) mm in the volume's own axes, from its corner 0."""
    place, axes = volume.pose
    return np.asarray(axes @ (world - place))


def moved_by(volume: Volume, world: Array) -> Volume:
    """The volume shifted by (3,) world mm."""
    x, y, z = (float(v) for v in np.array(volume.place) + world)
    return replace(volume, x_mm=x, y_mm=y, z_mm=z)


def line_along(
    parts: Parts, part: int, on: int, axis: int, places: tuple[float, float]
) -> tuple[Array, Array]:
    """A line (1, 2, 3) along an axis of part `on` through the middle of part `part`, between two
    places in mm from the begin of `on`, and its own middle (3,)."""
    place, axes = parts[on].pose
    own = np.tile(own_place(parts[on], middle_of(parts[part])), (2, 1))
    own[:, axis] = places
    ends = place + own @ axes
    return ends[None], np.asarray(ends.mean(axis=0))


class MovedAlong(ABC):
    """What keeps part `part` at a place along an axis of part `on`, whichever of them is moved."""

    part: int
    on: int
    axis: int

    @property
    def pulls(self) -> dict[int, float]:
        """By how much it is off more when a part is moved by one along the axis, by keys."""
        return {self.part: 1.0, self.on: -1.0}

    @abstractmethod
    def off_mm(self, parts: Parts) -> float:
        """How far the part lies beyond its place along that axis, mm."""

    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm."""
        return abs(self.off_mm(parts))

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again: the part, unless the hand has moved it."""
        if self.part in edited.by_hand:
            return *self.others_moved(), self._part_moved
        return self._part_moved, *self.others_moved()

    def others_moved(self) -> tuple[Way, ...]:
        """What is moved instead of the part."""
        return (self._other_moved,)

    def _part_moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.part], -self._step(parts)),)

    def _other_moved(self, parts: Parts) -> tuple[Volume, ...]:
        return (moved_by(parts[self.on], self._step(parts)),)

    def _step(self, parts: Parts) -> Array:
        """How far the part lies off, (3,) world mm."""
        return np.asarray(self.off_mm(parts) * parts[self.on].pose[1][self.axis])

"""Dimension marks: a true length between two places, each held to the volume it was taken from."""

import math
from dataclasses import dataclass

import numpy as np

from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _

FURTHEST_SHARE = 1e5
"""A place held to a volume lies within so many of its sides."""

FURTHEST_OFF_MM = 1000.0
"""A mark is drawn no further than this beside what it measures, sheet mm."""


@dataclass(frozen=True)
class Held:
    """A place held to a volume: its key, and where in its box as shares of width, depth, height, so
    that the place follows when the volume is moved, turned or resized."""

    key: int
    shares: Sides

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) and abs(v) <= FURTHEST_SHARE for v in self.shares):
            raise VolumeError(_("That place is out of reach of its volume: take a nearer one."))

    def world(self, volume: Volume) -> Array:
        """The place (3,) in the world, mm."""
        place, axes = volume.pose
        return np.asarray(place + (np.array(self.shares) * np.array(volume.sides)) @ axes)


def held_to(volume: Volume, world: Array) -> Held:
    """A world place (3,), mm, held to a volume."""
    place, axes = volume.pose
    width, depth, height = ((axes @ (world - place)) / np.array(volume.sides)).tolist()
    return Held(volume.key, (width, depth, height))


@dataclass(frozen=True)
class Dimension:
    """A dimension mark. off_mm: how far beside the two places it is drawn, sheet mm, to the left of
    the way from the first to the second."""

    one: Held
    two: Held
    off_mm: float = 8.0

    def __post_init__(self) -> None:
        if not (math.isfinite(self.off_mm) and abs(self.off_mm) <= FURTHEST_OFF_MM):
            raise VolumeError(_("That measure would lie off the sheet: keep it within a metre."))

    @property
    def keys(self) -> tuple[int, int]:
        """The volumes it hangs on."""
        return self.one.key, self.two.key

"""What a person has pointed at: where it lies, how it is marked, and what it reads."""

from abc import ABC, abstractmethod
from dataclasses import dataclass, field
from enum import Enum
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_angle, write_length, write_percent, write_place

Value = float | str | tuple[float, float]


class Quantity(Enum):
    """What the value of a row is: a length in mm, degrees, per cent, words, or a sheet point."""

    MM = "mm"
    DEG = "deg"
    PERCENT = "percent"
    TEXT = "text"
    PLACE = "place"


class Row(NamedTuple):
    """One line of a reading: label, value, and what the value is."""

    label: str
    value: Value
    quantity: Quantity

    def words(self, unit: str) -> str:
        """The value as a person reads it, lengths in a unit."""
        if isinstance(self.value, str):
            return self.value
        if isinstance(self.value, tuple):
            return write_place(self.value, unit, with_unit=False)
        if self.quantity is Quantity.DEG:
            return write_angle(self.value)
        if self.quantity is Quantity.PERCENT:
            return write_percent(self.value)
        return write_length(self.value, unit)


class Reading(NamedTuple):
    """A titled list of rows."""

    title: str
    rows: tuple[Row, ...]


@dataclass(frozen=True, eq=False)
class Swipe:
    """What of the sheet is marked: lines (k, 4) mm, arcs (m, 3, 3) homogeneous, and the loops of
    arcs round a filled part."""

    lines: Array = field(default_factory=lambda: np.empty((0, 4)))
    arcs: Array = field(default_factory=lambda: np.empty((0, 3, 3)))
    loops: tuple[Array, ...] = ()


@dataclass(frozen=True)
class Pick(ABC):
    """Something of a volume, both by their numbers."""

    volume: int
    index: int = 0

    def is_there(self, scene: Scene) -> bool:
        """Whether it is still there: an edit may have taken it away."""
        if self.volume >= len(scene.pictures):
            return False
        count = self.count(scene.pictures[self.volume])
        return count is None or self.index < count

    @abstractmethod
    def count(self, picture: VolumePicture) -> int | None:
        """How many of its kind a volume has; None where they are not counted."""

    @abstractmethod
    def reading(self, document: Document, scene: Scene) -> Reading | None:
        """What it measures; None when there is nothing to say."""

    @abstractmethod
    def swipe(self, scene: Scene) -> Swipe:
        """How it is marked on the sheet."""

    def tag(self, scene: Scene) -> tuple[Array, float] | None:
        """A place (2,) on the sheet and a true length, mm, to be shown beside it; None without."""
        return None


def place_row(label: str, picture: VolumePicture, corner: int) -> list[Row]:
    """Where a corner is drawn, when it is."""
    x, y = picture.sheet[corner].tolist()
    return [Row(label, (x, y), Quantity.PLACE)] if np.isfinite([x, y]).all() else []

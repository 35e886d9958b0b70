"""What a person has pointed at: where it lies, how it is marked, and what it reads."""

from abc import ABC, abstractmethod
from dataclasses import dataclass, field, replace
from enum import Enum
from typing import ClassVar, NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.bodies.body import Body
from isometron.perspective.eye import Array
from isometron.perspective.lengths import (
    write_angle,
    write_length,
    write_percent,
    write_place,
    write_short_count,
)

SAME_SHARE = 1e-6
"""Parts whose places differ by less than this share of the sides are the same one."""

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


OF = " of "


class Reading(NamedTuple):
    """A titled list of rows."""

    title: str
    rows: tuple[Row, ...]

    @property
    def parts(self) -> tuple[str, str]:
        """What is read, and of which volume ("" where that is not said)."""
        what, of, name = self.title.partition(OF)
        return (what, name) if of else (self.title, "")


@dataclass(frozen=True, eq=False)
class Swipe:
    """What of the sheet is marked: lines (k, 4) mm, arcs (m, 3, 3) homogeneous, the loops of arcs
    round a filled part, and places (n, 2) mm."""

    lines: Array = field(default_factory=lambda: np.empty((0, 4)))
    arcs: Array = field(default_factory=lambda: np.empty((0, 3, 3)))
    loops: tuple[Array, ...] = ()
    places: Array = field(default_factory=lambda: np.empty((0, 2)))
    pushes: Array = field(default_factory=lambda: np.empty((0, 2, 2)))
    """Where something can be pushed: a place of the sheet, and one further out (n, 2, 2) mm."""


@dataclass(frozen=True)
class Pick(ABC):
    """Something of a volume, both by their numbers."""

    volume: int
    index: int = 0

    of_volume: ClassVar[bool] = True
    """Whether it is a part of its volume: picked only while that is in work."""

    broad: ClassVar[bool] = False
    """Whether it fills a part of the sheet, so that what runs across it is taken first."""

    def is_there(self, scene: Scene) -> bool:
        """Whether it is still there: an edit may have taken it away."""
        if self.volume >= len(scene.pictures):
            return False
        count = self.count(scene.pictures[self.volume])
        return count is None or self.index < count

    def carried(self, before: Scene, after: Scene) -> "Pick | None":
        """The same thing in another scene, whatever number it has there; None where it has gone.

        A volume is known by its key. In a body built as before a part keeps its number; in one
        built otherwise it is the part at the same place, in shares of the sides.
        """
        if self.volume >= len(before.pictures):
            return None
        old = before.pictures[self.volume]
        key = old.volume.key
        found = [i for i, one in enumerate(after.pictures) if one.volume.key == key]
        if not found:
            return None
        moved, new = replace(self, volume=found[0]), after.pictures[found[0]]
        if self.count(old) is None or _built_alike(old.body, new.body):
            return moved if moved.is_there(after) else None
        place, many = self.place(old, self.index), self.count(new) or 0
        if place is None:
            return None
        for number in range(many):
            there = self.place(new, number)
            if there is None or there.shape != place.shape:
                continue
            if float(np.abs(there - place).max()) <= SAME_SHARE:
                return replace(moved, index=number)
        return None

    def place(self, picture: VolumePicture, number: int) -> Array | None:
        """What tells one of its kind from another: its place in shares of the sides of its volume
        (p,); None for what has none of its own."""
        return None

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


def _built_alike(old: Body, new: Body) -> bool:
    """Whether two bodies have the same parts under the same numbers."""
    if old is new:
        return True
    return (
        np.array_equal(old.edges, new.edges)
        and np.array_equal(old.edge_faces, new.edge_faces)
        and np.array_equal(old.arc_faces, new.arc_faces)
        and len(old.normals) == len(new.normals)
        and [one.role for one in old.circles] == [one.role for one in new.circles]
    )


def in_shares(picture: VolumePicture, places: Array) -> Array:
    """Places (k, 3) in own mm of a volume as shares of its sides."""
    return np.asarray(places / np.array(picture.volume.sides))


def in_modules(document: Document, label: str, mm: float) -> Row:
    """A length, in the first module too when the sheet has one."""
    if not document.modules:
        return Row(label, mm, Quantity.MM)
    module = document.modules[0]
    length, count = write_length(mm, document.choices.unit), write_short_count(mm / module.mm)
    words = f"{length} = {count} {module.name}"
    return Row(label, words, Quantity.TEXT)


def place_row(label: str, picture: VolumePicture, corner: int) -> list[Row]:
    """Where a corner is drawn, when it is."""
    x, y = picture.sheet[corner].tolist()
    return [Row(label, (x, y), Quantity.PLACE)] if np.isfinite([x, y]).all() else []

"""A lamp: its rays run from a place."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from isometron.document.document import Document
from isometron.document.errors import ChoiceError
from isometron.document.light import LESS, Grip, Light, LightNumber, Switching, within_reach
from isometron.perspective.eye import LARGEST_MM
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place, WorldPlace
from isometron.perspective.projection import on_level, sight_line
from isometron.words import _, said

OVER_MM = 800.0
"""A lamp put on hangs so far over the highest place, to one side."""

STRAIGHT_UP = 1e-9


@dataclass(frozen=True)
class Lamp(Light):
    """A lamp at a place of the world, mm."""

    place_mm: WorldPlace

    word = "lamp"
    rank = 1
    called = _("lamp")
    put_on = Switching(
        _("Lamp"), _("Put a lamp on at a place: its rays run from there."), _("put a lamp on")
    )
    fields = {"place_mm": (-LARGEST_MM, LARGEST_MM, 3)}
    points = (_("the foot of the lamp"), _("the lamp"))

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.place_mm):
            raise ChoiceError(_("The lamp is out of reach: keep it within a kilometre."))

    @property
    def source(self) -> tuple[float, float, float, float]:
        return (*self.place_mm, 1.0)

    @classmethod
    def usual(cls, heading_deg: float, corners: Sequence[WorldPlace]) -> Self:
        """One over everything, to the left of it."""
        if not corners:
            return cls((-OVER_MM, 0.0, 2 * OVER_MM))
        left, right = (f(place[0] for place in corners) for f in (min, max))
        near = min(place[1] for place in corners)
        high = max(place[2] for place in corners)
        return cls((left - (right - left), near, high + OVER_MM))

    def beside(self, hair: float) -> Self:
        x, y, z = self.place_mm
        return replace(self, place_mm=(x + hair, y + LESS * hair, z + LESS * LESS * hair))

    def turned(self, deg: float) -> None:
        return None  # its place is where it is meant to be

    def lifted(self, mm: float) -> Self:
        return self.moved(2, mm)

    def casting(self, corner: WorldPlace, ground: WorldPlace) -> Self:
        """Moved at its own height."""
        high, way = self.place_mm[2], np.array(corner) - np.array(ground)
        x, y, _z = (np.array(corner) + way * (high - corner[2]) / corner[2]).tolist()
        return replace(self, place_mm=(within_reach(x), within_reach(y), high))

    def in_words(self, unit: str) -> str:
        return _("lamp {high} high").format(high=write_length(self.place_mm[2], unit))

    def building_in_words(self, shadows_at: str, rays_at: str) -> str:
        return _(
            "Shadows run from the lamp's foot at {foot}; rays from the lamp at {lamp}."
        ).format(foot=shadows_at, lamp=rays_at)

    def moved(self, axis: int, mm: float) -> Self:
        """Moved along a world axis to a place."""
        x, y, z = (mm if n == axis else own for n, own in enumerate(self.place_mm))
        return replace(self, place_mm=(x, y, z))


def lamp_of(document: Document) -> Lamp:
    """The lamp of the sheet. Raises ChoiceError when another light is on, or none."""
    if not isinstance(document.light, Lamp):
        raise ChoiceError(_("No lamp is on: put it on first."))
    return document.light


def drag_lamp_foot(document: Document, sheet_mm: Place) -> Document:
    """The lamp carried over the ground, so that its foot is drawn at a place of the sheet. Raises
    ChoiceError when no lamp is on."""
    before, ground = lamp_of(document), on_level(document.eye, sheet_mm, 0.0)
    if ground is None:
        return document  # at or beyond the eye level there is none
    x, y, _z = (float(v) for v in ground)
    place = (within_reach(x), within_reach(y), before.place_mm[2])
    return replace(document, light=Lamp(place))


def drag_lamp(document: Document, sheet_mm: Place) -> Document:
    """The lamp raised or lowered over its foot, to where the sight line through a place of the
    sheet passes it nearest. Raises ChoiceError when no lamp is on."""
    before, way = lamp_of(document), sight_line(document.eye, sheet_mm)
    x, y, z = before.place_mm
    off = np.array([x, y, 0.0]) - np.array(document.eye.place)
    level = 1.0 - float(way[2]) ** 2
    if level < STRAIGHT_UP:
        return document
    high = float(way[2] * (off @ way) - off[2]) / level
    return replace(document, light=Lamp((x, y, within_reach(high) if math.isfinite(high) else z)))


def _along(axis: int, key: str, words: str, caption: str) -> LightNumber:
    return LightNumber(
        key,
        words,
        caption,
        _("Where the lamp hangs in the world: right, depth and height."),
        False,
        lambda lamp: lamp.place_mm[axis],
        lambda lamp, mm: lamp.moved(axis, mm),
    )


Lamp.grips = (
    Grip("lamp", _("Lamp"), True, drag_lamp, _("its foot stays")),
    Grip("lamp foot", _("Foot of the lamp"), False, drag_lamp_foot, _("its height stays")),
)
Lamp.numbers = (
    _along(0, said("lamp right"), _("lamp, right"), _("r")),
    _along(1, said("lamp depth"), _("lamp, depth"), _("d")),
    _along(2, said("lamp height"), _("lamp, height"), _("h")),
)

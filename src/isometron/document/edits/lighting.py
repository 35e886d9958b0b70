"""Edits of the light: put on, turned, taken off, and how its values are shown."""

from dataclasses import replace
from typing import Any

from isometron.document.document import Document
from isometron.document.errors import ChoiceError
from isometron.document.light import Lamp, Light, Sun
from isometron.words import _

BESIDE_US_DEG, USUAL_ELEVATION_DEG = 125.0, 40.0
"""A light put on stands behind us, to the left, so high."""

LAMP_OVER_MM = 800.0
"""A lamp put on hangs so far over the highest place, to one side."""


def usual_sun(document: Document) -> Sun:
    """A sun that lights one of two faces that we see: behind our left shoulder."""
    return Sun((document.eye.heading_deg - BESIDE_US_DEG) % 360.0, USUAL_ELEVATION_DEG)


def usual_lamp(document: Document) -> Lamp:
    """A lamp over everything, to the left of it."""
    places = [place for volume in document.volumes for place in volume.world().tolist()]
    if not places:
        return Lamp((-LAMP_OVER_MM, 0.0, 2 * LAMP_OVER_MM))
    left = min(place[0] for place in places)
    near = min(place[1] for place in places)
    high = max(place[2] for place in places)
    return Lamp((left, near, high + LAMP_OVER_MM))


def set_light(document: Document, light: Light | None) -> Document:
    """Another light, or none."""
    return replace(document, light=light)


def sun_of(document: Document) -> Sun:
    """The sun of the sheet. Raises ChoiceError when another light is on, or none."""
    if not isinstance(document.light, Sun):
        raise ChoiceError(_("No sun is on: put it on first."))
    return document.light


def lamp_of(document: Document) -> Lamp:
    """The lamp of the sheet. Raises ChoiceError when another light is on, or none."""
    if not isinstance(document.light, Lamp):
        raise ChoiceError(_("No lamp is on: put it on first."))
    return document.light


def turn_sun(document: Document, **angles: float) -> Document:
    """The sun elsewhere: azimuth_deg, elevation_deg. Raises ChoiceError."""
    return set_light(document, replace(sun_of(document), **angles))


def move_lamp(document: Document, axis: int, mm: float) -> Document:
    """The lamp moved along a world axis to a place. Raises ChoiceError."""
    place = list(lamp_of(document).place_mm)
    place[axis] = mm
    return set_light(document, Lamp((place[0], place[1], place[2])))


def set_shading(document: Document, **choices: Any) -> Document:
    """Values shown another way: way, steps, shadows. Raises ChoiceError."""
    return replace(document, shading=replace(document.shading, **choices))


def set_step(document: Document, volume: int, face: int, step: int | None) -> Document:
    """The step of a face given by hand, or told by the light again (None)."""
    key, shading = document.volumes[volume].key, document.shading
    others = tuple(one for one in shading.by_hand if one[:2] != (key, face))
    mine = () if step is None else ((key, face, step),)
    return replace(document, shading=replace(shading, by_hand=(*others, *mine)))

"""Edits of any light: put on, its shadow dragged, taken off, and how its values are shown."""

from dataclasses import replace
from typing import Any

from isometron.document.document import Document
from isometron.document.light import Light, LightNumber
from isometron.perspective.places import Place, WorldPlace
from isometron.perspective.projection import on_level


def set_light(document: Document, light: Light | None) -> Document:
    """Another light, or none."""
    return replace(document, light=light)


def usual(document: Document, light: type[Light]) -> Light:
    """The light of a kind that is put on."""
    corners = [place for volume in document.volumes for place in volume.world().tolist()]
    return light.usual(document.eye.heading_deg, corners)


def put_on(document: Document, light: type[Light]) -> Document:
    """The light of a kind put on."""
    return set_light(document, usual(document, light))


def set_number(document: Document, number: LightNumber, value: float) -> Document:
    """One of the numbers of the light that is on."""
    light = document.light
    return document if light is None else set_light(document, number.changed(light, value))


def set_shading(document: Document, **choices: Any) -> Document:
    """Values shown another way: way, steps, shadows. Raises ChoiceError."""
    return replace(document, shading=replace(document.shading, **choices))


def set_step(document: Document, volume: int, face: int, step: int | None) -> Document:
    """The step of a face given by hand, or told by the light again (None)."""
    key, shading = document.volumes[volume].key, document.shading
    others = tuple(one for one in shading.by_hand if one[:2] != (key, face))
    mine = () if step is None else ((key, face, step),)
    return replace(document, shading=replace(shading, by_hand=(*others, *mine)))


def drag_shadow_tip(document: Document, sheet_mm: Place, corner: WorldPlace) -> Document:
    """The light so that the shadow of a world corner falls on the ground at a place of the sheet.
    As it was above the eye level, or for a corner on the ground."""
    light, ground = document.light, on_level(document.eye, sheet_mm, 0.0)
    if light is None or ground is None or corner[2] <= 0:
        return document
    x, y, z = (float(v) for v in ground)
    return set_light(document, light.casting(corner, (x, y, z)))

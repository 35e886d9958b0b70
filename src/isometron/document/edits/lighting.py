"""Edits of the light: put on, turned, taken off, and how its values are shown."""

import math
from dataclasses import replace
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.errors import ChoiceError
from isometron.document.light import Lamp, Light, Sun
from isometron.perspective.eye import LARGEST_MM, Array, sight_axes
from isometron.perspective.projection import on_level
from isometron.words import _

BESIDE_US_DEG, USUAL_ELEVATION_DEG = 135.0, 40.0
"""A light put on stands behind us, to the left, so high."""

OVERHEAD = 1e-9
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
    left, right = (f(place[0] for place in places) for f in (min, max))
    near = min(place[1] for place in places)
    high = max(place[2] for place in places)
    return Lamp((left - (right - left), near, high + LAMP_OVER_MM))


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


def _way(document: Document, sheet_mm: tuple[float, float]) -> Array:
    """Unit world direction (3,) of the sight line through a place of the sheet."""
    eye = document.eye
    right, up, away = (np.asarray(axis, dtype=float) for axis in sight_axes(eye))
    x, y = np.subtract(sheet_mm, eye.centre_of_vision_mm) / eye.station_distance_mm
    way = away + x * right + y * up
    return np.asarray(way / np.linalg.norm(way))


def _stands_at(toward: Array, before: Sun) -> Sun:
    """The sun in a direction (3,); its azimuth stays where it is straight overhead."""
    high = math.degrees(math.asin(min(max(float(toward[2]), 0.0), 1.0)))
    if np.hypot(*toward[:2]) < OVERHEAD:
        return Sun(before.azimuth_deg, high)
    return Sun(math.degrees(math.atan2(toward[0], toward[1])) % 360.0, high)


def drag_ray_point(document: Document, sheet_mm: tuple[float, float]) -> Document:
    """The sun so that its rays run to a place of the sheet: above the eye level it stands there
    itself, ahead of us; below, behind us. Raises ChoiceError when no sun is on."""
    before, way = sun_of(document), _way(document, sheet_mm)
    return set_light(document, _stands_at(way if way[2] >= 0 else -way, before))


def drag_shadow_point(document: Document, sheet_mm: tuple[float, float]) -> Document:
    """The sun turned so that shadows on the ground run to a place of the eye level; its elevation
    and the side it stands on stay. Raises ChoiceError when no sun is on."""
    before = sun_of(document)
    way = _way(document, sheet_mm)[:2]
    if np.hypot(*way) < OVERHEAD:
        return document
    we = _way(document, document.eye.centre_of_vision_mm)[:2]
    ahead = float(np.array(before.toward[:2]) @ we)
    x, y = way if ahead > 0 else -way
    azimuth = math.degrees(math.atan2(x, y)) % 360.0
    return set_light(document, Sun(azimuth, before.elevation_deg))


def drag_shadow_tip(
    document: Document, sheet_mm: tuple[float, float], corner: tuple[float, float, float]
) -> Document:
    """The light so that the shadow of a world corner falls on the ground at a place of the sheet:
    the sun turns and rises, a lamp moves over the ground. As it was above the eye level, or for a
    corner on the ground."""
    light, ground = document.light, on_level(document.eye, sheet_mm, 0.0)
    if light is None or ground is None or corner[2] <= 0:
        return document
    way = np.array(corner) - np.array([float(v) for v in ground])
    if isinstance(light, Sun):
        return set_light(document, _stands_at(way / np.linalg.norm(way), light))
    x, y, _z = (np.array(corner) + way * (light.place_mm[2] - corner[2]) / corner[2]).tolist()
    return set_light(document, Lamp((_near(x), _near(y), light.place_mm[2])))


def drag_lamp_foot(document: Document, sheet_mm: tuple[float, float]) -> Document:
    """The lamp carried over the ground, so that its foot is drawn at a place of the sheet. Raises
    ChoiceError when no lamp is on."""
    before, ground = lamp_of(document), on_level(document.eye, sheet_mm, 0.0)
    if ground is None:
        return document  # at or beyond the eye level there is none
    x, y, _z = (float(v) for v in ground)
    return set_light(document, Lamp((_near(x), _near(y), before.place_mm[2])))


def drag_lamp(document: Document, sheet_mm: tuple[float, float]) -> Document:
    """The lamp raised or lowered over its foot, to where the sight line through a place of the
    sheet passes it nearest. Raises ChoiceError when no lamp is on."""
    before, way = lamp_of(document), _way(document, sheet_mm)
    x, y, z = before.place_mm
    off = np.array([x, y, 0.0]) - np.array(document.eye.place)
    level = 1.0 - float(way[2]) ** 2
    if level < OVERHEAD:
        return document
    high = float(way[2] * (off @ way) - off[2]) / level
    return set_light(document, Lamp((x, y, _near(high) if math.isfinite(high) else z)))


def _near(mm: float) -> float:
    return min(max(mm, -LARGEST_MM), LARGEST_MM)

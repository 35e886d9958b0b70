"""The sun: all its rays run alike."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from isometron.document.document import Document
from isometron.document.errors import ChoiceError
from isometron.document.light import LESS, Grip, Light, LightNumber, Switching
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_number
from isometron.perspective.places import Place, WorldPlace
from isometron.perspective.projection import sight_line
from isometron.words import _, said

HIGHEST_DEG = 90.0
BESIDE_US_DEG, USUAL_ELEVATION_DEG = 135.0, 40.0
"""A sun put on stands behind us, to the left, so high."""

OVERHEAD = 1e-9


@dataclass(frozen=True)
class Sun(Light):
    """The sun: where it stands, measured like a heading (0 along world depth, to the right), and
    how high. Degrees."""

    azimuth_deg: float
    elevation_deg: float

    word = "sun"
    rank = 0
    called = _("sun")
    put_on = Switching(_("Sun"), _("Put the sun on: all its rays run alike."), _("put the sun on"))
    fields = {"azimuth_deg": (-36000, 36000, 1), "elevation_deg": (0, 90, 1)}
    points = (_("the point of the shadows"), _("the point of the rays"))

    def __post_init__(self) -> None:
        if not math.isfinite(self.azimuth_deg) or abs(self.azimuth_deg) > 36_000:
            raise ChoiceError(_("The sun stands in no such direction: type an angle, say 135°."))
        if not 0 <= self.elevation_deg <= HIGHEST_DEG:
            raise ChoiceError(_("The sun stands between 0° (level) and 90° (overhead)."))

    @property
    def toward(self) -> WorldPlace:
        """Unit direction to the sun."""
        a, e = math.radians(self.azimuth_deg), math.radians(self.elevation_deg)
        return math.cos(e) * math.sin(a), math.cos(e) * math.cos(a), math.sin(e)

    @property
    def source(self) -> tuple[float, float, float, float]:
        return (*self.toward, 0.0)

    @classmethod
    def usual(cls, heading_deg: float, corners: Sequence[WorldPlace]) -> Self:
        """One that lights one of two faces that we see: behind our left shoulder."""
        return cls((heading_deg - BESIDE_US_DEG) % 360.0, USUAL_ELEVATION_DEG)

    def beside(self, hair: float) -> Self:
        inward = LESS * abs(hair) * (1.0 if self.elevation_deg < 45.0 else -1.0)
        turned = (self.azimuth_deg + hair) % 360.0
        return replace(self, azimuth_deg=turned, elevation_deg=self.elevation_deg + inward)

    def turned(self, deg: float) -> Self:
        return replace(self, azimuth_deg=(self.azimuth_deg + deg) % 360.0)

    def lifted(self, mm: float) -> None:
        return None  # it stands beyond everything

    def casting(self, corner: WorldPlace, ground: WorldPlace) -> Self:
        way = np.array(corner) - np.array(ground)
        return self.standing_at(way / np.linalg.norm(way))

    def standing_at(self, toward: Array) -> Self:
        """In a direction (3,); its azimuth stays where that is straight overhead."""
        high = math.degrees(math.asin(min(max(float(toward[2]), 0.0), 1.0)))
        if np.hypot(*toward[:2]) < OVERHEAD:
            return replace(self, elevation_deg=high)
        azimuth = math.degrees(math.atan2(toward[0], toward[1])) % 360.0
        return replace(self, azimuth_deg=azimuth, elevation_deg=high)

    def in_words(self, unit: str) -> str:
        return _("sun at {azimuth}°, {elevation}° high").format(
            azimuth=write_number(round(self.azimuth_deg, 1)),
            elevation=write_number(round(self.elevation_deg, 1)),
        )

    def building_in_words(self, shadows_at: str, rays_at: str) -> str:
        if self.elevation_deg <= 0:
            return _("The sun is level: its shadows on the ground never end.")
        return _("Shadows on the ground run to {ground}; rays run to {rays}.").format(
            ground=shadows_at, rays=rays_at
        )


def sun_of(document: Document) -> Sun:
    """The sun of the sheet. Raises ChoiceError when another light is on, or none."""
    if not isinstance(document.light, Sun):
        raise ChoiceError(_("No sun is on: put it on first."))
    return document.light


def turn_sun(document: Document, **angles: float) -> Document:
    """The sun elsewhere: azimuth_deg, elevation_deg. Raises ChoiceError."""
    return replace(document, light=replace(sun_of(document), **angles))


def drag_ray_point(document: Document, sheet_mm: Place) -> Document:
    """The sun so that its rays run to a place of the sheet: above the eye level it stands there
    itself, ahead of us; below, behind us. Raises ChoiceError when no sun is on."""
    before, way = sun_of(document), sight_line(document.eye, sheet_mm)
    return replace(document, light=before.standing_at(way if way[2] >= 0 else -way))


def drag_shadow_point(document: Document, sheet_mm: Place) -> Document:
    """The sun turned so that shadows on the ground run to a place of the eye level; its elevation
    and the side it stands on stay. Raises ChoiceError when no sun is on."""
    before = sun_of(document)
    way = sight_line(document.eye, sheet_mm)[:2]
    if np.hypot(*way) < OVERHEAD:
        return document
    we = sight_line(document.eye, document.eye.centre_of_vision_mm)[:2]
    ahead = float(np.array(before.toward[:2]) @ we)
    x, y = way if ahead > 0 else -way
    return turn_sun(document, azimuth_deg=math.degrees(math.atan2(x, y)) % 360.0)


Sun.grips = (
    Grip("rays", _("Point of the rays"), True, drag_ray_point, _("the framework stays")),
    Grip(
        "shadows",
        _("Point of the shadows"),
        False,
        drag_shadow_point,
        _("the height of the sun stays"),
    ),
)
Sun.numbers = (
    LightNumber(
        said("azimuth of the sun"),
        _("azimuth of the sun"),
        _("at"),
        _("Where the sun stands: 0° straight along world depth, 90° to the right."),
        True,
        lambda sun: sun.azimuth_deg,
        lambda sun, deg: replace(sun, azimuth_deg=deg),
    ),
    LightNumber(
        said("elevation of the sun"),
        _("elevation of the sun"),
        _("height"),
        _("How high the sun stands: 0° level, 90° overhead."),
        True,
        lambda sun: sun.elevation_deg,
        lambda sun, deg: replace(sun, elevation_deg=deg),
    ),
)

"""Vanishing, measuring and diagonal points."""

import math
from typing import NamedTuple

import numpy as np

from isometron.perspective.angles import EXTENDED
from isometron.perspective.curved import place_directions
from isometron.perspective.errors import SetupError
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.words import _

PARALLEL = 1e-12
"""A direction this close to the picture plane (sine of the angle) keeps its family parallel."""


class VanishingPoint(NamedTuple):
    """Where a family of parallel lines meets on the sheet.

    `sheet_mm` is None at infinity: then the family stays parallel on the paper along
    `paper_direction`, a unit vector on the sheet (a legal value, not an error).
    """

    sheet_mm: tuple[float, float] | None
    paper_direction: tuple[float, float]

    @property
    def at_infinity(self) -> bool:
        """Whether the family stays parallel on the paper."""
        return self.sheet_mm is None


def vanishing_point(eye: Eye, direction: Array) -> VanishingPoint:
    """Vanishing point of a world direction (3,): (cx + d·(D·r)/(D·f), cy + d·(D·u)/(D·f)).

    `paper_direction` points from the centre of vision towards it. On a curved sheet it is where the
    end of the direction that lies ahead lands: at a place for every direction. Raises SetupError
    for a direction without length.
    """
    along = np.asarray(direction, dtype=EXTENDED)
    length = np.sqrt((along * along).sum())
    if not (np.isfinite(length) and length > 0):
        raise SetupError(_("A direction needs a length: give it two different ends."))
    right, up, ahead = sight_axes(eye) @ (along / length)
    sign = -1 if ahead < 0 else 1
    right, up, ahead = sign * right, sign * up, sign * ahead
    size = np.hypot(right, up)
    paper = (float(right / size), float(up / size)) if size > 0 else (0.0, 0.0)
    if eye.curved:
        x, y = place_directions(eye, (along if sign > 0 else -along)[None]).sheet[0].tolist()
        return VanishingPoint((x, y), paper)
    if ahead < PARALLEL:
        return VanishingPoint(None, paper)
    cx, cy = eye.centre_of_vision_mm
    d = EXTENDED(eye.station_distance_mm)
    return VanishingPoint((float(cx + d * right / ahead), float(cy + d * up / ahead)), paper)


def vanishing_line(eye: Eye, normal: Array) -> tuple[float, float, float] | None:
    """Where planes square to a world direction (3,) vanish: a, b, c of the line a·x + b·y + c = 0
    on the sheet (mm), a² + b² = 1; None for planes that lie parallel to the picture plane.

    A sight ray r·(x − cx)/d + u·(y − cy)/d + f lies in such a plane through the eye when it is
    square to the normal. Raises SetupError for a direction without length.
    """
    along = np.asarray(normal, dtype=EXTENDED)
    length = np.sqrt((along * along).sum())
    if not (np.isfinite(length) and length > 0):
        raise SetupError(_("A direction needs a length: give it two different ends."))
    right, up, ahead = sight_axes(eye) @ (along / length)
    size = np.hypot(right, up)
    if size < PARALLEL:
        return None
    cx, cy = eye.centre_of_vision_mm
    rest = eye.station_distance_mm * ahead - right * cx - up * cy
    return float(right / size), float(up / size), float(rest / size)


def third_point(eye: Eye) -> VanishingPoint:
    """Vanishing point of uprights: y = cy + d / tan T; at infinity for a level eye."""
    return vanishing_point(eye, np.array([0.0, 0.0, 1.0]))


def from_eye(eye: Eye, sheet_mm: tuple[float, float]) -> float:
    """Distance on the sheet's scale from the eye to a point of the sheet, mm."""
    cx, cy = eye.centre_of_vision_mm
    return math.hypot(sheet_mm[0] - cx, sheet_mm[1] - cy, eye.station_distance_mm)


def measuring_point(eye: Eye, direction: Array, across: Array) -> tuple[float, float] | None:
    """Measuring point of `direction` in the plane it spans with `across` (world directions).

    It lies on the plane's vanishing line at the distance √(|VP − CV|² + d²) from the VP of
    `direction`: the station point swung onto that line. Of the two such points this is the one
    on the side of the centre of vision (for a level direction, towards the other level VP).
    None when the VP lies at infinity: such lengths are measured directly.
    """
    vp = vanishing_point(eye, direction)
    if vp.sheet_mm is None:
        return None
    along = _unit(direction)
    beside = _unit(np.asarray(across, dtype=EXTENDED) - along * (along @ np.asarray(across)))
    right, up, ahead = sight_axes(eye) @ beside
    vr, vu, va = sight_axes(eye) @ along
    # A step along the plane's vanishing line: the plane direction with no component ahead.
    line = np.array([right * va - vr * ahead, up * va - vu * ahead])
    line = line / np.hypot(line[0], line[1])
    towards = np.array(eye.centre_of_vision_mm) - np.array(vp.sheet_mm)
    if float(line @ towards) < 0:
        line = -line
    reach = from_eye(eye, vp.sheet_mm)
    return float(vp.sheet_mm[0] + reach * line[0]), float(vp.sheet_mm[1] + reach * line[1])


def diagonal_point(eye: Eye, first: Array, second: Array) -> VanishingPoint:
    """VP of the bisector of two directions taken equally long (the 45° point of a square).

    Raises SetupError when the two are opposite and have no bisector.
    """
    return vanishing_point(eye, _unit(first) + _unit(second))


def _unit(direction: Array) -> Array:
    along = np.asarray(direction, dtype=EXTENDED)
    return np.asarray(along / np.sqrt((along * along).sum()))

"""What a hand builds shadows with: the two vanishing points of the light, and shadow places."""

from typing import NamedTuple

import numpy as np

from isometron.document.light import Light
from isometron.perspective.curved import place_directions
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.projection import project

OVERHEAD = 1e-9
"""A light overhead throws no shadow of an upright."""

LEVEL = 1e-12
"""A direction that runs along the picture plane has its vanishing point at infinity."""


class VanishingPoint(NamedTuple):
    """Where parallel lines run: on the sheet, mm, or None at infinity; their world direction."""

    sheet_mm: tuple[float, float] | None
    direction: tuple[float, float, float]


def point_of_direction(eye: Eye, direction: Array) -> VanishingPoint:
    """The vanishing point of a world direction D: (cx + d·(D·r)/(D·f), cy + d·(D·u)/(D·f)); on a
    curved sheet where it lands, or the opposite one when it runs behind us."""
    right, up, away = (np.asarray(axis, dtype=float) for axis in sight_axes(eye))
    deep = float(direction @ away)
    x, y, z = (float(v) for v in direction)
    if eye.parallel is not None:
        return VanishingPoint(None, (x, y, z))
    if eye.curved:
        way = direction if deep >= 0 else -direction
        across, along = place_directions(eye, way[None]).sheet[0].tolist()
        return VanishingPoint((across, along), (x, y, z))
    if abs(deep) <= LEVEL * max(float(np.linalg.norm(direction)), LEVEL):
        return VanishingPoint(None, (x, y, z))
    d, (cx, cy) = eye.station_distance_mm, eye.centre_of_vision_mm
    at = (cx + d * float(direction @ right) / deep, cy + d * float(direction @ up) / deep)
    return VanishingPoint(at, (x, y, z))


def shadow_point(eye: Eye, light: Light) -> VanishingPoint | None:
    """Where shadows of uprights on the ground run: the vanishing point of the ground direction of
    the sun's rays, on the eye level. None for a sun overhead. Of a lamp: its foot on the ground,
    from which they run."""
    x, y, _z, near = light.source
    if light.far and np.hypot(x, y) < OVERHEAD:
        return None
    return _point(eye, np.array([x, y, 0.0, near]))


def ray_point(eye: Eye, light: Light) -> VanishingPoint | None:
    """Where the rays run: the vanishing point of the sun's rays (its own picture when it stands
    ahead of us). Of a lamp: the lamp itself."""
    return _point(eye, np.array(light.source))


def _point(eye: Eye, source: Array) -> VanishingPoint:
    """Where what comes from a source (4,) runs to: the source itself when it is near."""
    place = source[:3]
    if source[3] == 0:
        return point_of_direction(eye, -place)
    seen = project(eye, place[None])
    drawn = (float(seen.sheet[0, 0]), float(seen.sheet[0, 1])) if seen.seen[0] else None
    x, y, z = place.tolist()
    return VanishingPoint(drawn, (x, y, z))


def ground_shadows(light: Light, places: Array) -> Array:
    """(n, 3) where the rays through world places (n, 3) meet the ground; NaN where they never do:
    above a lamp or as high as it, under a level sun, below the ground."""
    shadows = np.full(places.shape, np.nan)
    high = places[:, 2]
    with np.errstate(divide="ignore", invalid="ignore"):
        *place, near = light.source
        above = place[2] - near * high
        found = places + (high / above)[:, None] * (near * places - place)
        fair = (high >= 0) & (above > (LEVEL if light.far else 0.0))
    shadows[fair] = found[fair]
    shadows[fair, 2] = 0.0
    return shadows

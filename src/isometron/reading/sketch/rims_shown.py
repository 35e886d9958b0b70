"""A rim as it is drawn beside the circle that is nearest to it, from where the fans put the eye."""

import math
from typing import NamedTuple

import numpy as np

from isometron.document.marks import FAMILIES
from isometron.perspective.places import Place
from isometron.reading.fit import Fit, rim_beside
from isometron.reading.model import Array, cone_of
from isometron.reading.rims import RimError, fit_rim

LEAST_OPEN = 0.97
"""An ellipse rounder than this share of its axes has no axis to speak of."""


class ShownRim(NamedTuple):
    """How a drawn rim differs from the nearest circle about its axle: its long axis by degrees
    (counter-clockwise), its degree, how far the two curves lie apart at most, its middle, px."""

    lean_deg: float
    drawn_deg: float
    wider_deg: float
    apart: float
    centre: Place


def shown_rim(fit: Fit, points: Array, axle: str) -> ShownRim | None:
    """A rim (points (n, 2) px) against the circle about the axle that fits it best; None where no
    ellipse goes through it."""
    try:
        drawn = fit_rim(points)
    except RimError:
        return None
    state = rim_beside(fit.state, points - fit.seen.origin, FAMILIES.index(axle))
    x, y, radius = state.rims[0]
    middle = np.array([x - state.centre[0], y - state.centre[1], state.distance])
    cone = cone_of(state.turned[:, FAMILIES.index(axle)], middle, float(radius))
    true = ellipse_of_cone(cone, state.distance)
    if true is None:
        return None
    cx, cy, long, short, angle = drawn.values
    _x, _y, true_long, true_short, true_angle = true
    round_enough = min(short / long, true_short / true_long) > LEAST_OPEN
    lean = (
        0.0
        if round_enough
        else math.degrees((angle - true_angle + math.pi / 2) % math.pi - math.pi / 2)
    )
    turn = np.linspace(0, 2 * np.pi, 90, endpoint=False)
    c, s = math.cos(angle), math.sin(angle)
    own = np.stack([long * np.cos(turn), short * np.sin(turn)], axis=1)
    places = own @ np.array([[c, s], [-s, c]]) + (cx, cy) - fit.seen.origin - state.centre
    rays = np.concatenate([places, np.full((90, 1), state.distance)], axis=1)
    value = np.einsum("ni,ij,nj->n", rays, cone, rays)
    slope = np.hypot(*(2 * (rays @ cone)[:, :2]).T)
    apart = float(np.abs(value / np.maximum(slope, 1e-12)).max())
    true_deg = math.degrees(math.asin(min(true_short / true_long, 1.0)))
    wider, centre = drawn.degree_deg - true_deg, (float(cx), float(cy))
    return ShownRim(lean, drawn.degree_deg, wider, apart, centre)


def ellipse_of_cone(
    cone: Array, distance: float
) -> tuple[float, float, float, float, float] | None:
    """The ellipse where a cone of sight cuts the picture plane: middle from the centre of vision,
    half axes, angle of the long one (radians); None for another conic."""
    square, mixed = cone[:2, :2], cone[:2, 2] * distance
    if np.linalg.det(square) <= 0:
        return None
    middle = -np.linalg.solve(square, mixed)
    level = float(cone[2, 2] * distance**2 + mixed @ middle)
    values, ways = np.linalg.eigh(square / -level)
    if (values <= 0).any():
        return None
    long, short = 1 / math.sqrt(values[0]), 1 / math.sqrt(values[1])
    angle = math.atan2(float(ways[1, 0]), float(ways[0, 0]))
    return float(middle[0]), float(middle[1]), long, short, angle

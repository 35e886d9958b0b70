"""Values: which step of grey a face gets by its angle to the light."""

import math

import numpy as np
from numpy.typing import NDArray

from isometron.document.light import Lamp, Light
from isometron.perspective.eye import Array

UNDERSIDE = -0.5
"""A face whose normal points down by more is an underside."""


def toward_light(light: Light, places: Array) -> Array:
    """(n, 3) unit directions from world places (n, 3) to the light."""
    if isinstance(light, Lamp):
        way = np.array(light.place_mm) - places
        length = np.linalg.norm(way, axis=1, keepdims=True)
        return np.asarray(way / np.maximum(length, 1e-9))
    return np.broadcast_to(np.array(light.toward), places.shape)


def lightness(light: Light, normals: Array, places: Array) -> Array:
    """(n,) the cosine between outward normals and the light: below 0 where a face turns away."""
    cosine: Array = (normals * toward_light(light, places)).sum(axis=1)
    return cosine


def steps_of(cosines: Array, normals: Array, count: int) -> NDArray[np.intp]:
    """(n,) steps, 0 the lightest, of count: what turns to the light shares all but the two last by
    its angle (what is square to it is lightest), what turns away gets the last but one, and
    undersides that turn away the last."""
    lit = max(count - 2, 1)
    angle = np.degrees(np.arccos(np.clip(cosines, -1.0, 1.0)))
    steps = np.floor(angle / 90.0 * lit + 1e-9).astype(np.intp)
    steps = np.minimum(steps, lit - 1)
    away = cosines <= 1e-9
    steps[away] = count - 2
    steps[away & (normals[:, 2] < UNDERSIDE)] = count - 1
    return steps


def value_of(step: int, count: int) -> float:
    """How dark a step is: 0 paper, 1 darkest."""
    return step / max(count - 1, 1)


def turn_that_parts(cosine: float, other: float, count: int) -> float:
    """By how many degrees a light must turn, at least, so that two faces that fall on one step fall
    on two: to the nearer border between steps."""
    lit = max(count - 2, 1)
    wide = 90.0 / lit
    angles = [math.degrees(math.acos(min(max(c, -1.0), 1.0))) for c in (cosine, other)]
    return min(min(a % wide, wide - a % wide) for a in angles)

"""Values: which step of grey a face gets by its angle to the light."""

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from isometron.document.light import Lamp, Light
from isometron.drawing.measures import face_middle
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Array

LIT = 1e-9
"""A face turns to the light when the cosine between them is more."""

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


Span = tuple[float, float]

WHOLE: Span = (0.0, 90.0)
"""Angles to the light, degrees, that share the lit steps, where nothing else is told."""

NARROWEST_DEG = 6.0


def span_of(pictures: Sequence[VolumePicture], light: Light) -> Span:
    """The plan of values: from which to which angle to the light the lit steps are shared, so that
    the planes that are turned to us and to the light lie as far apart as they can. WHOLE where all
    of them are alike, or there are none."""
    angles: list[float] = []
    for picture in pictures:
        if not picture.volume.shown or picture.volume.ghost:
            continue
        faces = np.flatnonzero(picture.shown[: picture.body.faces])
        if len(faces):
            middles = np.array([face_middle(picture, face) for face in faces.tolist()])
            cosines = lightness(light, picture.figure.normals[faces], middles)
            angles += np.degrees(np.arccos(np.clip(cosines[cosines > LIT], -1, 1))).tolist()
    if not angles or max(angles) - min(angles) < NARROWEST_DEG:
        return WHOLE
    return min(angles), max(angles)


def bounds_of_steps(count: int, span: Span = WHOLE) -> list[float]:
    """The cosines between surface and light at which one step gives way to the next: where light
    turns to shade first, then from step to step of what is lit."""
    lit, (low, high) = max(count - 2, 1), span
    angles = [low + (high - low) * n / lit for n in range(1, lit)]
    return [0.0, *(math.cos(math.radians(angle)) for angle in angles)]


def steps_of(cosines: Array, rises: Array, count: int, span: Span = WHOLE) -> NDArray[np.intp]:
    """(n,) steps, 0 the lightest, of count, of faces by their cosines to the light and how far
    their unit normals rise: what turns to the light shares all but the two last by its angle, over
    a span of angles (what is most square to the light is lightest), what turns away gets the last
    but one, and undersides that turn away the last."""
    lit = max(count - 2, 1)
    angle = np.degrees(np.arccos(np.clip(cosines, -1.0, 1.0)))
    low, high = span
    steps = np.floor((angle - low) / (high - low) * lit + 1e-9).astype(np.intp)
    steps = np.clip(steps, 0, lit - 1)
    away = cosines <= LIT
    steps[away] = count - 2
    steps[away & (rises < UNDERSIDE)] = count - 1
    return steps


def value_of(step: int, count: int) -> float:
    """How dark a step is: 0 paper, 1 darkest."""
    return step / max(count - 1, 1)

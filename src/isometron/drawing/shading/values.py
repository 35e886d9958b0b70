"""Values: which step of grey a face gets by its angle to the light."""

import itertools
import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from isometron.document.light import Light
from isometron.drawing.measures import face_middle
from isometron.drawing.volume_picture import VolumePicture
from isometron.nearness import SAME
from isometron.perspective.eye import Array

LIT = 1e-9
"""A face turns to the light when the cosine between them is more."""

UNDERSIDE = -0.5
"""A face whose normal points down by more is an underside."""


def toward_light(light: Light, places: Array) -> Array:
    """(n, 3) unit directions from world places (n, 3) to the light."""
    place = np.array(light.source[:3])
    if light.far:
        return np.broadcast_to(place, places.shape)
    length = np.linalg.norm(place - places, axis=1, keepdims=True)
    return np.asarray((place - places) / np.maximum(length, 1e-9))


def lightness(light: Light, normals: Array, places: Array) -> Array:
    """(n,) the cosine between outward normals and the light: below 0 where a face turns away."""
    cosine: Array = (normals * toward_light(light, places)).sum(axis=1)
    return cosine


Span = tuple[float, ...]
"""Angles to the light, degrees, rising, of the planes that lit steps are shared among."""

WHOLE: Span = (0.0, 90.0)
"""Where nothing is told of any planes, the lit steps are shared over all angles."""

NARROWEST_DEG = 6.0
"""Planes no farther apart share what is lit with all angles round them."""

ALIKE_DEG = 0.5
"""Planes whose angles to the light differ by less are of one value."""


def span_of(pictures: Sequence[VolumePicture], light: Light) -> Span:
    """The plan of values: the angles to the light of the planes that are turned to us and to it, so
    that these lie as far apart in value as they can. WHOLE where all of them are alike, or there
    are none."""
    angles: list[float] = []
    for picture in pictures:
        if not picture.volume.shown or picture.volume.ghost:
            continue
        faces = np.flatnonzero(picture.shown[: picture.body.faces])
        if len(faces):
            middles = np.array([face_middle(picture, face) for face in faces.tolist()])
            cosines = lightness(light, picture.figure.normals[faces], middles)
            angles += np.degrees(np.arccos(np.clip(cosines[cosines > LIT], -1, 1))).tolist()
    told = sorted(angles)
    if not told or told[-1] - told[0] < ALIKE_DEG:
        return WHOLE
    apart = [b for a, b in itertools.pairwise(told) if b - a >= ALIKE_DEG]
    return told[0], *apart  # one of each value


def _angles_between(count: int, span: Span) -> list[float]:
    """The angles to the light at which one lit step gives way to the next. As many planes as there
    are lit steps, or fewer, have one each; of more the widest gaps part them."""
    lit, planes = max(count - 2, 1), len(span)
    if span[-1] - span[0] < NARROWEST_DEG:
        return _moved_into(span, [WHOLE[1] * n / lit for n in range(1, lit)])
    if planes > lit:
        gaps = sorted(itertools.pairwise(span), key=lambda gap: gap[0] - gap[1])[: lit - 1]
        return sorted((a + b) / 2 for a, b in gaps)
    steps = [round(n * (lit - 1) / (planes - 1)) for n in range(planes)]
    return [
        a + (b - a) * n / (high - low + 1)
        for (a, b), (low, high) in zip(
            itertools.pairwise(span), itertools.pairwise(steps), strict=True
        )
        for n in range(1, high - low + 1)
    ]


def _moved_into(span: Span, angles: list[float]) -> list[float]:
    """Angles shared evenly, those nearest to planes that lie close together moved between them."""
    gaps = [gap for gap in itertools.pairwise(span) if gap[1] - gap[0] >= ALIKE_DEG]
    free = [angle for angle in angles if not any(a < angle <= b for a, b in gaps)]
    for a, b in gaps:
        if free and not any(a < angle <= b for angle in angles):
            nearest = min(free, key=lambda angle: abs(angle - (a + b) / 2))
            free.remove(nearest)
            angles[angles.index(nearest)] = (a + b) / 2
    return sorted(angles)


def bounds_of_steps(count: int, span: Span = WHOLE) -> list[float]:
    """The cosines between surface and light at which one step gives way to the next: where light
    turns to shade first, then from step to step of what is lit."""
    return [0.0, *(math.cos(math.radians(angle)) for angle in _angles_between(count, span))]


def steps_of(cosines: Array, rises: Array, count: int, span: Span = WHOLE) -> NDArray[np.intp]:
    """(n,) steps, 0 the lightest, of count, of faces by their cosines to the light and how far
    their unit normals rise: what turns to the light shares all but the two last by its angle (what
    is most square to the light is lightest), what turns away gets the last but one, and undersides
    that turn away the last."""
    angle = np.degrees(np.arccos(np.clip(cosines, -1.0, 1.0)))
    steps = np.searchsorted(_angles_between(count, span), angle + SAME, side="right")
    away = cosines <= LIT
    steps[away] = count - 2
    steps[away & (rises < UNDERSIDE)] = count - 1
    return steps.astype(np.intp)


def value_of(step: int, count: int) -> float:
    """How dark a step is: 0 paper, 1 darkest."""
    return step / max(count - 1, 1)

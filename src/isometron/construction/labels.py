"""Where the letters of points go, so that they do not cover each other or a point."""

import numpy as np

from isometron.nearness import SAME
from isometron.perspective.eye import Array

CORNERS = np.array(
    [
        (1.0, 1.0),
        (-1.0, 1.0),
        (1.0, -1.0),
        (-1.0, -1.0),
        (1.0, 0.0),
        (-1.0, 0.0),
        (0.0, 1.0),
        (0.0, -1.0),
    ]
)
"""Ways a label can lie from its point, best first."""

RINGS = (1.0, 2.2, 3.6)
"""How far out a label is tried, in reaches."""


def label_centres(places: Array, sizes: Array, reach: float, within: Array) -> Array:
    """Centres (n, 2) of the labels of points: each in the first free place about its point, earlier
    points first; where none is free, where it covers least.

    places (n, 2), sizes (n, 2) width and height of each label, reach: the gap between a point and
    its label, within: left, bottom, right, top that labels keep inside if they can; all in the
    units of the picture.
    """
    from scipy.spatial import cKDTree

    count = len(places)
    if not count:
        return np.empty((0, 2))
    centres, taken = np.zeros((count, 2)), np.zeros((count, 4))
    points = np.concatenate([places - reach / 2, places + reach / 2], axis=1)
    # beyond this neither a point nor its label can touch the label of another
    far = np.sqrt(2) * (2 * float(sizes.max()) + 2 * RINGS[-1] * reach + reach)
    near = cKDTree(places).query_ball_point(places, far)
    for number, (place, size) in enumerate(zip(places, sizes, strict=True)):
        tries = np.concatenate(
            [place + CORNERS * (size / 2 + reach * (ring - 0.4)) for ring in RINGS]
        )
        beside = np.array(sorted(near[number]))
        others = np.concatenate([points[beside[beside != number]], taken[beside[beside < number]]])
        boxes = np.concatenate([tries - size / 2, tries + size / 2], axis=1)
        cost = _covered(boxes, others) + _outside(boxes, within)
        best = int(np.argmax(cost <= SAME)) if (cost <= SAME).any() else int(np.argmin(cost))
        centres[number], taken[number] = tries[best], boxes[best]
    return centres


def _covered(boxes: Array, others: Array) -> Array:
    """Area (n,) of each box that other boxes cover."""
    low = np.maximum(boxes[:, None, :2], others[None, :, :2])
    high = np.minimum(boxes[:, None, 2:], others[None, :, 2:])
    covered: Array = np.prod(np.maximum(high - low, 0.0), axis=2).sum(axis=1)
    return covered


def _outside(boxes: Array, within: Array) -> Array:
    """Area (n,) of each box outside a rectangle."""
    area: Array = np.prod(boxes[:, 2:] - boxes[:, :2], axis=1)
    return area - _covered(boxes, np.asarray(within)[None])

"""The aids of one ellipse: its square with diagonals and middles, touching points, axes, axle."""

import numpy as np

from isometron.document.document import Document
from isometron.drawing.rounds import circle_in_work
from isometron.drawing.scene import Scene
from isometron.perspective.eye import Array

TICK_MM = 1.2
"""Half the length of the ticks at touching points and at the points on the diagonals."""

AXLE_BEYOND = 1.35
"""The axle is drawn this many half long axes to either side."""


def ellipse_aids(document: Document, scene: Scene) -> Array:
    """Lines (k, 4) sheet mm of the aids of the circle in work; (0, 4) without one, or when its
    square reaches behind us."""
    circle = circle_in_work(document, scene)
    if not document.choices.ellipse_aids or circle is None or circle.ellipse is None:
        return np.empty((0, 4))
    square = circle.square(document.eye)
    if not np.isfinite(square).all():
        return np.empty((0, 4))
    pairs = [(0, 1), (1, 2), (2, 3), (3, 0), (0, 2), (1, 3), (4, 6), (5, 7)]
    lines = [np.concatenate([square[a], square[b]]) for a, b in pairs]
    ends = circle.ellipse.point(np.array([0.0, 180.0, 90.0, 270.0]))
    lines += [np.concatenate([ends[0], ends[1]]), np.concatenate([ends[2], ends[3]])]
    for place in (*square[4:8], *square[9:]):
        lines += _tick(place)
    if circle.picture.axle_deg is not None and circle.picture.centre_mm is not None:
        angle = np.radians(circle.picture.axle_deg)
        run = AXLE_BEYOND * circle.ellipse.semi_major_mm * np.array([np.cos(angle), np.sin(angle)])
        centre = np.array(circle.picture.centre_mm)
        lines.append(np.concatenate([centre - run, centre + run]))
    return np.array(lines)


def _tick(place: Array) -> list[Array]:
    x, y = place
    return [
        np.array([x - TICK_MM, y - TICK_MM, x + TICK_MM, y + TICK_MM]),
        np.array([x - TICK_MM, y + TICK_MM, x + TICK_MM, y - TICK_MM]),
    ]

"""Fans: the light lines from the ends of a volume's edges on to a vanishing point."""

import numpy as np

from isometron.drawing.measures import directions_of
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Array, Eye


def fan(
    eye: Eye, picture: VolumePicture, family: str, reach_mm: float, *, see_through: bool
) -> Array:
    """Light lines (n, 4) sheet mm of one family ("left", "right", "centre" or "third").

    Each runs from the far end of its edge to the point, or for `reach_mm` towards a point further
    off than that. A family that stays parallel has no fan; on a solid volume neither have edges
    that are not seen at all.
    """
    found = [
        _lines(picture, direction.axis, direction.vanishing.sheet_mm, reach_mm, see_through)
        for direction in directions_of(eye, picture)
        if direction.family == family and direction.vanishing.sheet_mm is not None
    ]
    return np.concatenate([np.empty((0, 4)), *found])


def _lines(
    picture: VolumePicture, axis: int, point: tuple[float, float], reach_mm: float, hidden: bool
) -> Array:
    drawn = np.array([hidden or bool(spans) for spans in picture.visible], dtype=bool)
    edges = picture.edges[(picture.body.edge_axes == axis) & drawn]
    depth = picture.depth[edges]
    far = np.where(depth[:, 0] > depth[:, 1], edges[:, 0], edges[:, 1])
    starts = picture.sheet[far]
    starts = starts[np.isfinite(starts).all(axis=1)]
    run = np.array(point) - starts
    length = np.hypot(run[:, 0], run[:, 1])[:, None]
    ends = starts + run * np.minimum(1.0, reach_mm / np.maximum(length, 1e-12))
    return np.concatenate([starts, ends], axis=1)

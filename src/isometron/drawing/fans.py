"""Fans: the light lines from the ends of a volume's edges on to a vanishing point."""

import numpy as np

from isometron.document.near_edge import near_place
from isometron.drawing.measures import diagonal_of, directions_of
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project


def fan(
    eye: Eye, picture: VolumePicture, family: str, reach_mm: float, *, see_through: bool
) -> Array:
    """Light lines (n, 4) sheet mm of one family ("left", "right", "centre" or "third").

    Each runs from the far end of its edge to the point, or for `reach_mm` towards a point further
    off than that. A family that stays parallel has no fan; on a solid volume neither have edges
    whose far end is not seen.
    """
    found = [
        _lines(picture, direction.axis, direction.vanishing.sheet_mm, reach_mm, see_through)
        for direction in directions_of(eye, picture)
        if direction.family == family and direction.vanishing.sheet_mm is not None
    ]
    return np.concatenate([np.empty((0, 4)), *found])


def to_diagonal_point(eye: Eye, picture: VolumePicture, reach_mm: float) -> tuple[Array, Array]:
    """The diagonal of the ground square at the near corner of a volume, on to its 45° point: the
    line (1, 4), for `reach_mm` at most, and the place (1, 2) of the point, sheet mm; (0, …) where
    there is none."""
    none = np.empty((0, 4)), np.empty((0, 2))
    foot = project(eye, near_place(eye, picture.volume)[None]).sheet[0]
    point = diagonal_of(eye, picture.volume).sheet_mm
    if point is None or not np.isfinite(foot).all():
        return none
    run = np.array(point) - foot
    length = float(np.hypot(*run))
    end = foot + run * min(1.0, reach_mm / max(length, 1e-12))
    return np.concatenate([foot, end])[None], np.array([point])


def _lines(
    picture: VolumePicture, axis: int, point: tuple[float, float], reach_mm: float, hidden: bool
) -> Array:
    edges = picture.edges[(picture.body.edge_axes == axis) & picture.body.plain]
    depth = picture.depth[edges]
    far = np.where(depth[:, 0] > depth[:, 1], edges[:, 0], edges[:, 1])
    starts = picture.sheet[far if hidden else far[np.isin(far, picture.seen_corners)]]
    starts = starts[np.isfinite(starts).all(axis=1)]
    run = np.array(point) - starts
    length = np.hypot(run[:, 0], run[:, 1])[:, None]
    ends = starts + run * np.minimum(1.0, reach_mm / np.maximum(length, 1e-12))
    return np.concatenate([starts, ends], axis=1)

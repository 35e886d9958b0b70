"""Fans: the light lines from the ends of a volume's edges on to a vanishing point."""

import numpy as np
from numpy.typing import NDArray

from isometron.document.near_edge import near_place
from isometron.drawing.measures import diagonal_of, directions_of
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.curved import curves_along
from isometron.perspective.eye import Array, Eye, sight_axes
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


def curved_fan(eye: Eye, picture: VolumePicture, family: str, *, see_through: bool) -> Array:
    """The light curves (n, 3, 3) of one family on a curved sheet: from the far end of every edge on
    to where its direction vanishes, at a place of the sheet for every direction."""
    found: list[Array] = [np.empty((0, 3, 3))]
    ahead = sight_axes(eye)[2].astype(float)
    for direction in directions_of(eye, picture):
        if direction.family != family:
            continue
        way = picture.axes[direction.axis]
        way = way if float(way @ ahead) >= 0 else -way
        edges = picture.edges[(picture.body.edge_axes == direction.axis) & picture.body.plain]
        along = picture.world[edges] @ way
        far = np.where(along[:, 0] > along[:, 1], edges[:, 0], edges[:, 1])
        far = far if see_through else far[np.isin(far, picture.seen_corners)]
        starts = picture.world[far] - np.array(eye.place)
        starts = starts / np.maximum(np.linalg.norm(starts, axis=1), 1e-12)[:, None]
        found.append(_great_circles(eye, starts, way))
    return np.concatenate(found)


def _great_circles(eye: Eye, starts: Array, end: Array) -> Array:
    """Pictures of the ways from directions (n, 3) round to another, the short way."""

    def along(row: NDArray[np.intp], t: Array) -> Array:
        return np.asarray((1 - t)[:, None] * starts[row] + t[:, None] * end)

    return curves_along(eye, along, np.tile([0.0, 1.0], (len(starts), 1))).arcs


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

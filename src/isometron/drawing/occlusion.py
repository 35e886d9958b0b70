"""Which parts of each edge are hidden by which boxes: exact, in true fractions of the edge.

What a convex volume hides from the eye is itself convex: the points behind all of its faces that
turn to us and inside the pyramid from the eye over its outline. An edge enters and leaves that
region at most once, so the hidden part is one interval, found by cutting the edge with at most
nine planes (derivation in docs/numbers.md).
"""

import numpy as np
from numpy.typing import NDArray

from isometron.framework.box import EDGE_FACES, EDGES, FACE_NORMALS, FACES
from isometron.perspective.eye import Array, Eye

TOUCH = 1e-9
"""Share of the distance from the eye within which two surfaces count as touching, not covering."""

SHORTEST = 1e-9
"""A hidden part shorter than this share of its edge is a rounding, not a part."""

_MOST_PLANES = 9  # three faces turned to us and an outline of six edges


def facing(eye: Eye, sides: Array, places: Array, axes: Array) -> NDArray[np.bool_]:
    """(n, 6) which faces turn to us, in the order of FACES.

    sides and places (n, 3) mm, axes (n, 3, 3) of the boxes. A face seen exactly edge-on does not
    turn to us. All false when the eye is inside the box.
    """
    own = np.matmul(axes, (np.array(eye.place) - places)[:, :, None])[:, :, 0]
    size = np.abs(own).max(axis=1, initial=0.0) + sides.max(axis=1, initial=0.0)
    slack = TOUCH * size[:, None]
    shown = np.empty((len(sides), 6), dtype=bool)
    shown[:, 0::2] = own < -slack
    shown[:, 1::2] = own > sides + slack
    return shown


def hiding_planes(eye: Eye, corners: Array, axes: Array, shown: NDArray[np.bool_]) -> Array:
    """(n, 9, 4) planes (normal, offset) round what each box hides, relative to the eye.

    A point v (from the eye) is hidden where normal·v − offset > 0 for all nine; planes not needed
    are (0, 0, 0, −1). corners (n, 8, 3) world mm, axes (n, 3, 3), shown (n, 6).
    """
    n = len(corners)
    v = corners - np.array(eye.place)
    planes = np.zeros((n, 18, 4))
    active = np.zeros((n, 18), dtype=bool)
    inward = -np.matmul(FACE_NORMALS[None], axes)
    planes[:, :6, :3] = inward
    planes[:, :6, 3] = (inward * v[:, FACES[:, 0]]).sum(axis=2)
    active[:, :6] = shown
    start, end = v[:, EDGES[:, 0]], v[:, EDGES[:, 1]]
    normal = np.cross(start, end)
    size = np.linalg.norm(normal, axis=2, keepdims=True)
    normal = normal / np.where(size > 0, size, 1.0)
    middle = v.mean(axis=1)[:, None]
    normal *= np.where((normal * middle).sum(axis=2, keepdims=True) < 0, -1.0, 1.0)
    planes[:, 6:, :3] = normal
    active[:, 6:] = shown[:, EDGE_FACES[:, 0]] != shown[:, EDGE_FACES[:, 1]]
    planes[~active] = (0.0, 0.0, 0.0, -1.0)
    order = np.argsort(~active, axis=1, kind="stable")[:, :_MOST_PLANES]
    return np.take_along_axis(planes, order[:, :, None], axis=1)


def hidden_spans(from_eye: Array, pairs: NDArray[np.intp], planes: Array) -> Array:
    """Hidden part of every edge of box a behind box b, for pairs (p, 2) of (a, b).

    from_eye (n, 8, 3) corners relative to the eye, mm; planes (p, 9, 4) those of `hiding_planes`
    for each pair's b. Gives (p, 12, 2) fractions of the true edge length; end < start where nothing
    is hidden.
    """
    normals, offsets = planes[:, :, :3], planes[:, :, 3]
    at_corner = np.matmul(from_eye[pairs[:, 0]], normals.transpose(0, 2, 1))
    at_corner -= offsets[:, None, :]
    begin, finish = at_corner[:, EDGES[:, 0]], at_corner[:, EDGES[:, 1]]
    run = finish - begin
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        cut = -begin / run
    lower = np.where(run > 0, cut, np.where((run == 0) & (begin <= 0), np.inf, -np.inf))
    upper = np.where(run < 0, cut, np.inf)
    spans = np.empty((len(pairs), 12, 2))
    spans[:, :, 0] = np.maximum(lower.max(axis=2), 0.0)
    spans[:, :, 1] = np.minimum(upper.min(axis=2), 1.0)
    nothing = spans[:, :, 1] - spans[:, :, 0] <= SHORTEST
    spans[nothing] = (0.0, -1.0)
    # What is hidden must lie truly inside: an edge in a face's own plane only touches it.
    reach = np.abs(from_eye[pairs]).max(axis=(1, 2, 3))
    touch = TOUCH * reach[:, None]
    inside = (begin + spans.mean(axis=2, keepdims=True) * run).min(axis=2)
    spans[inside <= touch] = (0.0, -1.0)
    return spans


def uncovered(
    whole: tuple[float, float], covers: list[tuple[float, float]]
) -> tuple[list[tuple[float, float]], list[tuple[float, float]]]:
    """An interval split into the parts free of all covers and the parts under any of them."""
    free: list[tuple[float, float]] = []
    covered: list[tuple[float, float]] = []
    at, end = whole
    for start, stop in sorted(covers):
        low, high = max(start, at), min(stop, end)
        if high <= at:
            continue
        if low - at > SHORTEST:
            free.append((at, low))
        if covered and low - covered[-1][1] <= SHORTEST:
            covered[-1] = (covered[-1][0], high)
        else:
            covered.append((low, high))
        at = high
    if end - at > SHORTEST:
        free.append((at, end))
    return free, covered

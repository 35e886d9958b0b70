"""Which parts of a line are hidden: exact, in true fractions of the line.

What a convex body hides from the eye is itself convex: the points behind all of its faces that
turn to us and inside the pyramid from the eye over its outline. A line enters and leaves that
region at most once, so the hidden part is one interval, found by cutting the line with a handful of
planes (derivation in docs/numbers.md). A body that is not convex hides what any of its flat convex
pieces hides.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.built import Built
from isometron.framework.box import EDGE_FACES, EDGES, FACES
from isometron.perspective.eye import Array, Eye

TOUCH = 1e-9
"""Share of the distance from the eye within which two surfaces count as touching, not covering."""

SHORTEST = 1e-9
"""A hidden part shorter than this share of its line is a rounding, not a part."""

BOX_PLANES = 9
"""A box hides with at most three faces turned to us and an outline of six edges."""

PLANES = (5, BOX_PLANES, 16, 32, 64, 128)
"""Regions are padded to one of these numbers of planes, so that many are worked on at once."""

UNUSED = (0.0, 0.0, 0.0, -1.0)
"""A plane that everything lies behind."""


def facing(eye: Eye, built: Sequence[Built]) -> list[NDArray[np.bool_]]:
    """For each volume (k,) which of its faces turn to us. One seen exactly edge-on does not."""
    normals = np.concatenate([one.normals for one in built])
    offsets = np.concatenate([one.offsets for one in built])
    height = normals @ np.array(eye.place) - offsets
    ends = np.cumsum([len(one.offsets) for one in built])
    begin = np.concatenate([[0], ends[:-1]])
    size = np.maximum.reduceat(np.abs(offsets), begin) + np.maximum.reduceat(np.abs(height), begin)
    shown = height > TOUCH * np.repeat(size, ends - begin)
    return [
        shown[a:b] & one.volume.shown
        for one, a, b in zip(built, begin.tolist(), ends.tolist(), strict=True)
    ]


def hiding_planes(eye: Eye, corners: Array, normals: Array, shown: NDArray[np.bool_]) -> Array:
    """(n, 9, 4) planes (normal, offset) round what each of n boxes hides, relative to the eye.

    A point v (from the eye) is hidden where normal·v − offset > 0 for all nine. corners (n, 8, 3)
    world mm, normals (n, 6, 3) outward, shown (n, 6) faces turned to us.
    """
    n = len(corners)
    v = corners - np.array(eye.place)
    planes = np.zeros((n, 18, 4))
    active = np.zeros((n, 18), dtype=bool)
    planes[:, :6, :3] = -normals
    planes[:, :6, 3] = -(normals * v[:, FACES[:, 0]]).sum(axis=2)
    active[:, :6] = shown
    planes[:, 6:, :3] = _sight_planes(v[:, EDGES[:, 0]], v[:, EDGES[:, 1]], v.mean(axis=1)[:, None])
    active[:, 6:] = shown[:, EDGE_FACES[:, 0]] != shown[:, EDGE_FACES[:, 1]]
    planes[~active] = UNUSED
    order = np.argsort(~active, axis=1, kind="stable")[:, :BOX_PLANES]
    return np.take_along_axis(planes, order[:, :, None], axis=1)


def hiding_planes_of(eye: Eye, built: Built, shown: NDArray[np.bool_]) -> list[Array]:
    """Planes (k, 4) round each convex region that a volume of any shape hides; see above."""
    if not shown.any():
        return []
    v = built.world - np.array(eye.place)
    solid = built.solid
    offsets = built.offsets - built.normals @ np.array(eye.place)
    if solid.convex:
        outline = shown[solid.edge_faces[:, 0]] != shown[solid.edge_faces[:, 1]]
        ends = v[solid.edges[outline]]
        sides = _sight_planes(ends[:, 0], ends[:, 1], v.mean(axis=0))
        front = np.column_stack([-built.normals[shown], -offsets[shown]])
        return [np.concatenate([front, np.column_stack([sides, np.zeros(len(sides))])])]
    regions: list[Array] = []
    for face, ring in solid.parts:
        if shown[face]:
            corner = v[list(ring)]
            middle = np.asarray(corner.sum(axis=0), dtype=float)
            sides = _sight_planes(corner, np.roll(corner, -1, axis=0), middle)
            front = np.append(-built.normals[face], -offsets[face])
            regions.append(
                np.concatenate([front[None], np.column_stack([sides, np.zeros(len(sides))])])
            )
    return regions


def _sight_planes(starts: Array, ends: Array, inside: Array) -> Array:
    """Unit normals of the planes through the eye and each line, turned towards a point inside."""
    normal: Array = np.cross(starts, ends)
    size: Array = np.linalg.norm(normal, axis=-1, keepdims=True)
    normal = normal / np.where(size > 0, size, 1.0)
    turned = (normal * inside).sum(axis=-1, keepdims=True) < 0
    return np.asarray(normal * np.where(turned, -1.0, 1.0))


def hidden_spans(starts: Array, ends: Array, planes: Array) -> Array:
    """The hidden part of each of p lines behind its own convex region.

    starts, ends (p, 3) relative to the eye, mm; planes (p, k, 4). Gives (p, 2) fractions of the
    true length; end < start where nothing is hidden.
    """
    less = np.full((len(starts), 1), -1.0)
    begin = np.einsum("pki,pi->pk", planes, np.concatenate([starts, less], axis=1))
    finish = np.einsum("pki,pi->pk", planes, np.concatenate([ends, less], axis=1))
    run = finish - begin
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        cut = -begin / run
    lower = np.where(run > 0, cut, np.where((run == 0) & (begin <= 0), np.inf, -np.inf))
    upper = np.where(run < 0, cut, np.inf)
    spans = np.empty((len(starts), 2))
    spans[:, 0] = np.maximum(lower.max(axis=1), 0.0)
    spans[:, 1] = np.minimum(upper.min(axis=1), 1.0)
    nothing = spans[:, 1] - spans[:, 0] <= SHORTEST
    spans[nothing] = (0.0, -1.0)
    # What is hidden must lie truly inside: a line in a face's own plane only touches it.
    reach = np.maximum(np.abs(starts).max(axis=1), np.abs(ends).max(axis=1))
    inside = (begin + spans.mean(axis=1)[:, None] * run).min(axis=1)
    spans[inside <= TOUCH * reach] = (0.0, -1.0)
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

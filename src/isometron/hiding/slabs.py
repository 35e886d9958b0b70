"""Slabs: what flat bodies hide, as convex regions between planes.

What a convex body hides is itself convex: the places behind all of its faces that turn to the
viewpoint and inside the sight lines round its outline. A line enters and leaves such a slab at most
once, so what is hidden of it is one interval, found by cutting it with a handful of planes
(derivation in docs/numbers.md). A flat body that is not convex hides what any convex piece of its
faces hides.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from isometron.framework.box import EDGE_FACES, EDGES
from isometron.framework.figures import Figure, Hides
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.eye import Array

TOUCH = 1e-9
"""Share of the distance from the viewpoint within which two surfaces count as touching, not
covering."""

SHORTEST = 1e-9
"""A hidden part shorter than this share of its line is a rounding, not a part."""

BOX_PLANES = 9
"""A box hides with at most three faces turned to us and an outline of six edges."""

PLANES = (5, BOX_PLANES, 16, 32, 64, 128)
"""Slabs are padded to one of these numbers of planes, so that many are worked on at once."""

WHOLE = np.array([-1])
"""The number of the face that the slab of a convex figure stands behind: none, it is all of it."""

UNUSED = (0.0, 0.0, 0.0, -1.0)
"""A plane that everything lies behind."""


def facing(
    viewpoint: Viewpoint, figures: Sequence[Figure]
) -> tuple[list[NDArray[np.bool_]], list[NDArray[np.bool_]]]:
    """For each figure (k,) which of its faces turn to the viewpoint, and which do not turn away
    from it: those, and what is seen exactly edge-on."""
    counts = [len(one.offsets) for one in figures]
    if not sum(counts):
        none = [np.zeros(0, dtype=bool) for _ in figures]
        return none, none
    normals = np.concatenate([one.normals for one in figures])
    offsets = np.concatenate([one.offsets for one in figures])
    height = normals @ viewpoint.place - (0.0 if viewpoint.far else 1.0) * offsets
    ends = np.cumsum(counts)
    begin = np.concatenate([[0], ends[:-1]])
    some = np.array(counts) > 0
    size = np.ones(len(figures))
    if not viewpoint.far:
        largest = np.maximum.reduceat(np.abs(offsets), begin[some])
        size[some] = largest + np.maximum.reduceat(np.abs(height), begin[some])
    touch = TOUCH * np.repeat(size, counts)
    spans = list(zip(begin.tolist(), ends.tolist(), strict=True))
    turned, faced = height > touch, height > -touch
    return [turned[a:b] for a, b in spans], [faced[a:b] for a, b in spans]


def slabs_of(
    viewpoint: Viewpoint, figures: Sequence[Figure], turned: Sequence[NDArray[np.bool_]]
) -> list[Array]:
    """What each flat figure hides: (h, p, 4) planes (normal, offset) taken from the viewpoint's
    origin; a place is hidden where normal·v − offset > 0 for all of one slab. Boxes all at once,
    others one by one; none for what hides nothing or bends."""
    slabs: list[Array] = [np.empty((0, BOX_PLANES, 4))] * len(figures)
    boxes = []
    for i, one in enumerate(figures):
        if one.hides is not Hides.ALL or not one.body.parts:
            continue
        if one.body.boxed and one.body.convex:
            boxes.append(i)
        elif turned[i].any():
            slabs[i] = _padded(_slabs(viewpoint, one, turned[i]))
    if boxes:
        to_us = np.concatenate([turned[i] for i in boxes]).reshape(-1, 6)
        found = _box_slabs(
            viewpoint,
            np.concatenate([figures[i].world for i in boxes]).reshape(-1, 8, 3),
            np.concatenate([figures[i].normals for i in boxes]).reshape(-1, 6, 3),
            np.concatenate([figures[i].offsets for i in boxes]).reshape(-1, 6),
            to_us,
        )
        for at, i in enumerate(boxes):
            slabs[i] = found[at : at + 1]
        for at in np.flatnonzero(~to_us.any(axis=1)).tolist():
            slabs[boxes[at]] = found[:0]
    return slabs


def _padded(found: list[Array]) -> Array:
    longest = max((len(planes) for planes in found), default=1)
    most = next((size for size in PLANES if size >= longest), longest)
    padded = np.tile(np.array(UNUSED), (len(found), most, 1))
    for at, planes in enumerate(found):
        padded[at, : len(planes)] = planes
    return padded


def _box_slabs(
    viewpoint: Viewpoint, corners: Array, normals: Array, offsets: Array, turned: Array
) -> Array:
    """(n, 9, 4) planes round what each of n boxes hides: corners (n, 8, 3), normals (n, 6, 3),
    offsets (n, 6), turned (n, 6)."""
    n = len(corners)
    v = corners - viewpoint.origin
    planes = np.zeros((n, 18, 4))
    active = np.zeros((n, 18), dtype=bool)
    planes[:, :6, :3] = -normals
    planes[:, :6, 3] = normals @ viewpoint.origin - offsets
    active[:, :6] = turned
    planes[:, 6:] = sight_planes(
        viewpoint, v[:, EDGES[:, 0]], v[:, EDGES[:, 1]], v.mean(axis=1)[:, None]
    )
    active[:, 6:] = turned[:, EDGE_FACES[:, 0]] != turned[:, EDGE_FACES[:, 1]]
    planes[~active] = UNUSED
    order = np.argsort(~active, axis=1, kind="stable")[:, :BOX_PLANES]
    return np.take_along_axis(planes, order[:, :, None], axis=1)


def _slabs(viewpoint: Viewpoint, one: Figure, turned: NDArray[np.bool_]) -> list[Array]:
    """Planes (k, 4) round each convex region that a flat figure of any shape hides."""
    v, body = one.world - viewpoint.origin, one.body
    fronts = np.column_stack([-one.normals, one.normals @ viewpoint.origin - one.offsets])
    if body.convex:
        outline = turned[body.edge_faces[:, 0]] != turned[body.edge_faces[:, 1]]
        ends = v[body.edges[outline]]
        sides = sight_planes(viewpoint, ends[:, 0], ends[:, 1], v.mean(axis=0))
        return [np.concatenate([fronts[turned], sides])]
    slabs: list[Array] = []
    for face, ring in body.parts:
        if turned[face]:
            corner = v[list(ring)]
            middle = np.asarray(corner.mean(axis=0), dtype=float)
            sides = sight_planes(viewpoint, corner, np.roll(corner, -1, axis=0), middle)
            slabs.append(np.concatenate([fronts[face][None], sides]))
    return slabs


def slab_faces(one: Figure, turned: NDArray[np.bool_]) -> NDArray[np.intp]:
    """(h,) the face that each slab of a figure stands behind; −1 for that of a whole convex one."""
    if one.body.convex:
        return WHOLE
    return np.array([face for face, _ in one.body.parts if turned[face]], dtype=np.intp)


def sight_planes(viewpoint: Viewpoint, starts: Array, ends: Array, inside: Array) -> Array:
    """Planes (…, 4) (unit normal, offset) through the viewpoint and each line, turned towards a
    point inside; everything taken from the origin."""
    normal: Array = (
        np.cross(ends - starts, viewpoint.place) if viewpoint.far else np.cross(starts, ends)
    )
    size: Array = np.linalg.norm(normal, axis=-1, keepdims=True)
    normal = normal / np.where(size > 0, size, 1.0)
    offset = np.zeros_like(size)
    if viewpoint.far:
        offset = (normal * starts).sum(axis=-1, keepdims=True)
    turned = (normal * inside).sum(axis=-1, keepdims=True) - offset < 0
    sign = np.where(turned, -1.0, 1.0)
    return np.concatenate([normal * sign, offset * sign], axis=-1)


def hidden_spans(starts: Array, ends: Array, planes: Array) -> Array:
    """The hidden part of each of p lines behind its own slab.

    starts, ends (p, 3) taken from the origin, mm; planes (p, k, 4). Gives (p, 2) fractions of the
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
    low, high = np.maximum(lower.max(axis=1), 0.0), np.minimum(upper.min(axis=1), 1.0)
    spans = np.tile([0.0, -1.0], (len(starts), 1))
    some = np.flatnonzero(high - low > SHORTEST)
    # What is hidden must lie truly inside: a line in a face's own plane only touches it.
    reach = np.maximum(np.abs(starts[some]).max(axis=1), np.abs(ends[some]).max(axis=1))
    middle = (low[some] + high[some])[:, None] / 2
    inside = (begin[some] + middle * run[some]).min(axis=1)
    some = some[inside > TOUCH * reach]
    spans[some, 0], spans[some, 1] = low[some], high[some]
    return spans

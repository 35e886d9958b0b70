"""Where arcs may begin or cease to be hidden: at cones and planes of sight, surfaces, regions."""

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.surfaces import Together, crossing_cones, form_scale
from isometron.perspective.conics import linear_along, quadratic_along, roots
from isometron.perspective.eye import Array

APART = 1e-9
"""Cuts nearer to each other than this share of an arc are one."""

DEGENERATE = 1e-11
"""A form smaller than this all along an arc is zero there: the arc lies on it."""


def overlapping(a: Array, b: Array) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Pairs of rectangles (n, 4) and (m, 4) that overlap, worked on in strips."""
    firsts, seconds = [], []
    for start in range(0, len(a), 512):
        some = a[start : start + 512, None]
        both = (some[..., 0] <= b[:, 2]) & (b[:, 0] <= some[..., 2])
        both &= (some[..., 1] <= b[:, 3]) & (b[:, 1] <= some[..., 3])
        one, other = np.nonzero(both)
        firsts.append(one + start)
        seconds.append(other)
    empty = np.empty(0, dtype=np.intp)
    return np.concatenate([empty, *firsts]), np.concatenate([empty, *seconds])


def patch_cuts(
    row: Together,
    arcs: Array,
    arc: NDArray[np.intp],
    patch: NDArray[np.intp],
    foreign: NDArray[np.bool_],
) -> tuple[NDArray[np.intp], Array]:
    """Where each arc may begin or cease to be hidden by its patch: arc (r,) and parameter (r,).

    foreign (q,): the arc belongs to another body, so that it may pierce the patch itself.
    """
    which, cone = crossing_cones(row, patch)
    pairs = np.unique(arc[which] * np.intp(len(row.cones)) + row.same_cone[cone])
    by_cone, number = np.divmod(pairs, len(row.cones))
    through = arc[foreign]
    flat = (row.straight[number] != 0).any(axis=1)
    found = [
        _form_cuts(arcs[..., :3], by_cone[~flat], row.cones[number[~flat]]),
        _plane_cuts(arcs[..., :3], by_cone[flat], row.straight[number[flat]]),
        _form_cuts(arcs, through, row.forms[patch[foreign]]),
    ]
    return np.concatenate([f[0] for f in found]), np.concatenate([f[1] for f in found])


def _form_cuts(arcs: Array, arc: NDArray[np.intp], forms: Array) -> tuple[NDArray[np.intp], Array]:
    """Where arcs (numbers) cross quadratic forms."""
    some = arcs[arc]
    values = quadratic_along(some, forms)
    low, high = values.min(axis=1), values.max(axis=1)
    mixed = np.flatnonzero((low <= 0) & (high >= 0))
    size = np.maximum(-low[mixed], high[mixed])
    mixed = mixed[size > DEGENERATE * form_scale(some[mixed], forms[mixed])]
    number, t = roots(values[mixed])
    return arc[mixed[number]], t


def _plane_cuts(
    arcs: Array, arc: NDArray[np.intp], normals: Array
) -> tuple[NDArray[np.intp], Array]:
    """Where arcs (numbers) cross planes of sight (unit normals)."""
    some = arcs[arc]
    values = linear_along(some, normals)
    mixed = (values.min(axis=1) <= 0) & (values.max(axis=1) >= 0)
    mixed &= np.abs(values).max(axis=1) > APART * np.abs(some).max(axis=(1, 2))
    number, t = roots(values[mixed])
    return arc[np.flatnonzero(mixed)[number]], t


def turning_cuts(
    row: Together, arcs: Array, arc: NDArray[np.intp], patch: NDArray[np.intp]
) -> tuple[NDArray[np.intp], Array]:
    """Where the patch an arc lies on turns away from us: on the polar plane of the eye."""
    values = linear_along(arcs[arc], row.forms[patch, 3])
    mixed = (values.min(axis=1) <= 0) & (values.max(axis=1) >= 0)
    number, t = roots(values[mixed])
    return arc[np.flatnonzero(mixed)[number]], t


def forms_of(arcs: Array) -> Array:
    """Control points (n, 3, 4) against which a plane (normal, offset) gives normal·x − offset·w."""
    turned = arcs.copy()
    turned[..., 3] *= -1.0
    return turned


def slab_cuts(arcs: Array, arc: NDArray[np.intp], slab: Array) -> tuple[NDArray[np.intp], Array]:
    """Where arcs (numbers) cross the planes of the regions (q, p, 4) that flat volumes hide."""
    count = slab.shape[1]
    some = np.repeat(forms_of(arcs[arc]), count, axis=0)
    values = linear_along(some, slab.reshape(-1, 4))
    mixed = (values.min(axis=1) <= 0) & (values.max(axis=1) >= 0)
    size = np.abs(some).max(axis=(1, 2))
    mixed &= np.abs(values).max(axis=1) > DEGENERATE * size
    number, t = roots(values[mixed])
    return np.repeat(arc, count)[np.flatnonzero(mixed)[number]], t


def parts_between(
    count: int, cut_arc: NDArray[np.intp], cut: Array
) -> tuple[NDArray[np.intp], Array, Array]:
    """Every arc from 0 to 1 in the parts between its cuts: arc (k,), from (k,), to (k,)."""
    every = np.arange(count)
    arc = np.concatenate([every, cut_arc, every])
    t = np.concatenate([np.zeros(count), cut, np.ones(count)])
    order = np.lexsort((t, arc))
    arc, t = arc[order], t[order]
    fresh = np.ones(len(arc), dtype=bool)
    fresh[1:] = (arc[1:] != arc[:-1]) | (t[1:] - t[:-1] > APART)
    arc, t = arc[fresh], t[fresh]
    inner = arc[1:] == arc[:-1]
    high = np.where(t[1:] > 1 - APART, 1.0, t[1:])
    return arc[:-1][inner], t[:-1][inner], high[inner]

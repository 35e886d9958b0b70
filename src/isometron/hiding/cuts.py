"""Where arcs may begin or cease to be hidden: at cones and planes of sight, surfaces, slabs."""

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Indices
from isometron.hiding.surfaces import Row, cones_of, form_scale
from isometron.perspective.conics import linear_along, quadratic_along, roots
from isometron.perspective.eye import Array

APART = 1e-9
"""Cuts nearer to each other than this share of an arc are one."""

DEGENERATE = 1e-11
"""A form smaller than this all along an arc is zero there: the arc lies on it."""

Cuts = tuple[Indices, Array]
"""Numbers of pairs (r,) and the parameters (r,) at which their arcs are cut."""


def may_meet(a: Array, b: Array) -> NDArray[np.bool_]:
    """(q,) whether rectangles (q, 4) overlap, each with its own."""
    return np.asarray(
        (a[:, 0] <= b[:, 2]) & (b[:, 0] <= a[:, 2]) & (a[:, 1] <= b[:, 3]) & (b[:, 1] <= a[:, 3])
    )


def sight_cuts(row: Row, sighted: Array, bounds: Array, arc: Indices, surface: Indices) -> Cuts:
    """Where each pair's arc, in sight coordinates (n, 3, 3) with bounds (n, 4) in the picture,
    meets the sight lines through the rims and the outlines of its surface."""
    pair, cone = cones_of(row, surface)
    near = may_meet(bounds[arc[pair]], row.cone_bounds[cone])
    pair, cone = pair[near], cone[near]
    key = arc[pair] * np.intp(len(row.cones)) + row.same_cone[cone]
    each, back = np.unique(key, return_inverse=True)
    by_cone, number = np.divmod(each, len(row.cones))
    flat = (row.straight[number] != 0).any(axis=1)
    found = np.zeros(0, dtype=np.intp)
    at = np.zeros(0)
    for some, cuts in (
        (np.flatnonzero(~flat), form_cuts(sighted, by_cone[~flat], row.cones[number[~flat]])),
        (np.flatnonzero(flat), _plane_cuts(sighted, by_cone[flat], row.straight[number[flat]])),
    ):
        found = np.concatenate([found, some[cuts[0]]])
        at = np.concatenate([at, cuts[1]])
    return _spread(pair, back.reshape(-1), found, at)


def _spread(pair: Indices, key: Indices, found: Indices, at: Array) -> Cuts:
    """Cuts of keys given to every pair that has the key: key (k,) of each (pair, cone), found (r,)
    key and at (r,) parameter of each cut."""
    order = np.argsort(found, kind="stable")
    found, at = found[order], at[order]
    begin = np.searchsorted(found, key, side="left")
    counts = np.searchsorted(found, key, side="right") - begin
    which = np.repeat(np.arange(len(key)), counts)
    place = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    return pair[which], at[begin[which] + place]


def form_cuts(arcs: Array, arc: Indices, forms: Array) -> Cuts:
    """Where arcs (numbers) cross quadratic forms, each its own."""
    some = arcs[arc]
    values = quadratic_along(some, forms)
    low, high = values.min(axis=1), values.max(axis=1)
    mixed = np.flatnonzero((low <= 0) & (high >= 0))
    size = np.maximum(-low[mixed], high[mixed])
    mixed = mixed[size > DEGENERATE * form_scale(some[mixed], forms[mixed])]
    number, t = roots(values[mixed])
    return mixed[number], t


def _plane_cuts(arcs: Array, arc: Indices, normals: Array) -> Cuts:
    """Where arcs (numbers) cross planes of sight (unit normals)."""
    some = arcs[arc]
    values = linear_along(some, normals)
    mixed = (values.min(axis=1) <= 0) & (values.max(axis=1) >= 0)
    mixed &= np.abs(values).max(axis=1) > APART * np.abs(some).max(axis=(1, 2))
    number, t = roots(values[mixed])
    return np.flatnonzero(mixed)[number], t


def turning_cuts(row: Row, eye: Array, arcs: Array, arc: Indices, surface: Indices) -> Cuts:
    """Where the surface an arc lies on turns away: on the polar plane of the viewpoint (4,)."""
    values = linear_along(arcs[arc], row.forms[surface] @ eye)
    mixed = (values.min(axis=1) <= 0) & (values.max(axis=1) >= 0)
    number, t = roots(values[mixed])
    return np.flatnonzero(mixed)[number], t


def signed(arcs: Array) -> Array:
    """Control points (n, 3, 4) against which a plane (normal, offset) gives normal·x − offset·w."""
    turned = arcs.copy()
    turned[..., 3] *= -1.0
    return turned


def slab_cuts(arcs: Array, arc: Indices, slab: Array) -> Cuts:
    """Where arcs (numbers) cross the planes of their slabs (q, p, 4)."""
    count = slab.shape[1]
    some = np.repeat(signed(arcs[arc]), count, axis=0)
    values = linear_along(some, slab.reshape(-1, 4))
    mixed = (values.min(axis=1) <= 0) & (values.max(axis=1) >= 0)
    size = np.abs(some).max(axis=(1, 2))
    mixed &= np.abs(values).max(axis=1) > DEGENERATE * size
    number, t = roots(values[mixed])
    return np.flatnonzero(mixed)[number] // count, t


def parts_between(count: int, cuts: Cuts) -> tuple[Indices, Array, Array]:
    """Every pair from 0 to 1 in the parts between its cuts: pair (k,), from (k,), to (k,)."""
    every = np.arange(count)
    pair = np.concatenate([every, cuts[0], every])
    t = np.concatenate([np.zeros(count), cuts[1], np.ones(count)])
    order = np.lexsort((t, pair))
    pair, t = pair[order], t[order]
    fresh = np.ones(len(pair), dtype=bool)
    fresh[1:] = (pair[1:] != pair[:-1]) | (t[1:] - t[:-1] > APART)
    pair, t = pair[fresh], t[fresh]
    inner = pair[1:] == pair[:-1]
    high = np.where(t[1:] > 1 - APART, 1.0, t[1:])
    return pair[:-1][inner], t[:-1][inner], high[inner]

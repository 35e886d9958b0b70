"""Curves cut into parts that are wholly seen or wholly hidden, and what curved bodies hide of
straight lines."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.curve_cuts import (
    forms_of,
    overlapping,
    parts_between,
    patch_cuts,
    slab_cuts,
    turning_cuts,
)
from isometron.drawing.splitting import Covers
from isometron.drawing.stage import Stage
from isometron.drawing.surfaces import Together, meets, together
from isometron.perspective.conics import (
    at,
    between,
    bounds_of,
    in_front,
    pictures,
    straight,
)
from isometron.perspective.eye import Array, frame

OUTLINE = 3
"""Kind of a curve where a surface turns away from us."""

INSIDE = 1e-9
"""What is hidden by a flat body lies behind it by more than this share of its distance."""


@dataclass(frozen=True, eq=False)
class CurvePieces:
    """k parts of the curves of a volume: which curve (k,) (−1 − n: outline n), its kind (k,), span
    (k, 2) in its parameter, whether it is seen and whether drawn at all (k,), and its picture
    (k, 3, 3) on the sheet as homogeneous control points."""

    curve: NDArray[np.intp]
    kind: NDArray[np.intp]
    span: Array
    seen: NDArray[np.bool_]
    drawn: NDArray[np.bool_]
    arcs: Array


NO_CURVES = CurvePieces(
    np.empty(0, dtype=np.intp),
    np.empty(0, dtype=np.intp),
    np.empty((0, 2)),
    np.empty(0, dtype=bool),
    np.empty(0, dtype=bool),
    np.empty((0, 3, 3)),
)


@dataclass(frozen=True, eq=False)
class _Curves:
    """Arcs from the eye point (n, 3, 4) in front of it, the curve (n,) and span (n, 2) each is a
    part of, its volume (n,), the patches (n, 2) or the face it lies on (numbered within its
    volume), kinds (n,), and whether the face it lies on turns to us (n,)."""

    arcs: Array
    curve: NDArray[np.intp]
    span: Array
    owner: NDArray[np.intp]
    patches: NDArray[np.intp]
    kind: NDArray[np.intp]
    turned: NDArray[np.bool_]


def cut_curves(
    stage: Stage, which: NDArray[np.intp], opaque: NDArray[np.bool_]
) -> list[CurvePieces]:
    """The parts of the curves of every volume in `which`, hidden behind any volume of the stage."""
    curves = _gather(stage, which)
    if not len(curves.arcs):
        return [NO_CURVES] * len(which)
    drawn_at = pictures(stage.eye, curves.arcs)
    bounds = bounds_of(drawn_at)
    row = _all_surfaces(stage, ghosts=True)
    arc, patch, own = _patch_pairs(stage, curves, bounds, row)
    slab_arc, slab, slab_owner = _slab_pairs(stage, curves, bounds)
    cut_arc: list[NDArray[np.intp]] = [arc[:0]]
    cut: list[Array] = [np.empty(0)]
    if row is not None and len(arc):
        for some, t in (
            patch_cuts(row, curves.arcs, arc, patch, curves.owner[arc] != row.owner[patch]),
            turning_cuts(row, curves.arcs, arc[own], patch[own]),
        ):
            cut_arc.append(some)
            cut.append(t)
    if len(slab_arc):
        some, t = slab_cuts(curves.arcs, slab_arc, slab)
        cut_arc.append(some)
        cut.append(t)
    part_arc, low, high = parts_between(
        len(curves.arcs), np.concatenate(cut_arc), np.concatenate(cut)
    )
    middle = at(curves.arcs[part_arc], (low + high) / 2)
    points = middle[:, :3] / middle[:, 3:]
    flat = at(drawn_at[part_arc], (low + high) / 2)
    places = flat[:, :2] / flat[:, 2:]
    noted = _Noted(curves.owner[part_arc], opaque)
    if row is not None and len(arc):
        part, pair = _each(part_arc, arc)
        near = _inside(places[part], row.bounds[patch[pair]])
        part, pair = part[near], pair[near]
        hit = meets(row, points[part], patch[pair], own[pair])
        noted.note(part[hit], row.owner[patch[pair[hit]]])
    if len(slab_arc):
        part, pair = _each(part_arc, slab_arc)
        hit = _behind(points[part], slab[pair])
        noted.note(part[hit], slab_owner[pair[hit]])
    turned = curves.turned[part_arc]
    seen = turned & ~noted.covered
    solid = opaque[curves.owner[part_arc]]
    drawn = seen | ~(noted.dense | (solid & (noted.by_own | ~turned)))
    return _shared_out(curves, which, part_arc, low, high, seen, drawn, drawn_at)


class _Noted:
    """Which parts are covered, covered by another volume that nothing shows through, and covered by
    their own."""

    def __init__(self, owner: NDArray[np.intp], opaque: NDArray[np.bool_]) -> None:
        self.owner, self.opaque = owner, opaque
        self.covered = np.zeros(len(owner), dtype=bool)
        self.dense, self.by_own = self.covered.copy(), self.covered.copy()

    def note(self, part: NDArray[np.intp], hider: NDArray[np.intp]) -> None:
        """Parts (k,) are covered by volumes (k,)."""
        self.covered[part] = True
        mine = self.owner[part] == hider
        self.by_own[part[mine]] = True
        self.dense[part[~mine & self.opaque[hider]]] = True


def _gather(stage: Stage, which: NDArray[np.intp]) -> _Curves:
    arcs, curve, owner, patches, kind, turned = [], [], [], [], [], []
    for number in which.tolist():
        one = stage.standing[number]
        built = one.built
        if built.curved is None or not built.volume.shown or one.curve_arcs is None:
            continue
        count = len(one.curve_arcs)
        arcs.append(one.curve_arcs)
        curve.append(np.arange(count))
        owner.append(np.full(count, number))
        patches.append(built.curved.patches)
        kind.append(built.curved.kinds)
        round_body = one.surfaces is not None
        faces = built.curved.patches[:, 0]
        flat = np.ones(count, dtype=bool)
        if not round_body and len(one.shown) and count:
            flat = np.where(faces >= 0, one.shown[np.maximum(faces, 0)], True)
        turned.append(flat)
        if one.surfaces is not None and len(one.surfaces.outlines):
            found = len(one.surfaces.outlines)
            arcs.append(one.surfaces.outlines)
            curve.append(-1 - np.arange(found))
            owner.append(np.full(found, number))
            on = one.surfaces.outline_patch
            patches.append(np.stack([on, on], axis=1))
            kind.append(np.full(found, OUTLINE))
            turned.append(np.ones(found, dtype=bool))
    if not arcs:
        empty = np.empty(0, dtype=np.intp)
        return _Curves(
            np.empty((0, 3, 4)),
            empty,
            np.empty((0, 2)),
            empty,
            np.empty((0, 2), dtype=np.intp),
            empty,
            np.empty(0, dtype=bool),
        )
    whole = np.concatenate(arcs)
    rows, span = in_front(stage.eye, whole)
    return _Curves(
        between(whole[rows], span[:, 0], span[:, 1]),
        np.concatenate(curve)[rows],
        span,
        np.concatenate(owner)[rows].astype(np.intp),
        np.concatenate(patches)[rows],
        np.concatenate(kind)[rows],
        np.concatenate(turned)[rows],
    )


def _all_surfaces(stage: Stage, *, ghosts: bool) -> Together | None:
    """All curved bodies in one row; None when there is none."""
    found = {
        i: one.surfaces
        for i, one in enumerate(stage.standing)
        if one.surfaces is not None and (ghosts or not one.built.volume.ghost)
    }
    return together(list(found), list(found.values())) if found else None


def _patch_pairs(
    stage: Stage, curves: _Curves, bounds: Array, row: Together | None
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.bool_]]:
    """Every arc with every patch that may hide it: arc (q,), patch (q,), and whether the arc lies
    on that patch. Flat patches do not hide what lies on them, nor bent ones their own outline."""
    none = np.empty(0, dtype=np.intp)
    if row is None:
        return none, none, np.empty(0, dtype=bool)
    arc, patch = overlapping(bounds, row.bounds)
    ahead = frame(stage.eye)[2].astype(float)
    depth = (curves.arcs[..., :3] @ ahead / np.maximum(curves.arcs[..., 3], 1e-9)).max(axis=1)
    before = stage.nearest[row.owner[patch]] < depth[arc] * (1 + 1e-9)
    arc, patch = arc[before], patch[before]
    start = np.array([row.first.get(i, 0) for i in range(len(stage.standing))], dtype=np.intp)
    lies = np.where(curves.patches >= 0, curves.patches + start[curves.owner][:, None], -1)
    same = curves.owner[arc] == row.owner[patch]
    own = same & (lies[arc] == patch[:, None]).any(axis=1)
    keep = ~(own & (row.plane[patch] | (curves.kind[arc] == OUTLINE)))
    ghost = np.array([one.built.volume.ghost for one in stage.standing], dtype=bool)
    keep &= same | ~ghost[row.owner[patch]]
    return arc[keep], patch[keep], own[keep]


def _inside(places: Array, bounds: Array) -> NDArray[np.bool_]:
    """(q,) whether places (q, 2) of the sheet lie within bounds (q, 4)."""
    return np.asarray((places >= bounds[:, :2]).all(axis=1) & (places <= bounds[:, 2:]).all(axis=1))


def _slab_pairs(
    stage: Stage, curves: _Curves, bounds: Array
) -> tuple[NDArray[np.intp], Array, NDArray[np.intp]]:
    """Every arc with every region a flat volume hides: arc (q,), planes (q, p, 4), owner (q,)."""
    hiding = np.flatnonzero(stage.hides)
    none = np.empty(0, dtype=np.intp), np.empty((0, 1, 4)), np.empty(0, dtype=np.intp)
    if not len(hiding):
        return none
    arc, column = overlapping(bounds, stage.bounds[hiding])
    owner = hiding[column]
    keep = (curves.owner[arc] != owner) | stage.bent[owner]
    arc, owner = arc[keep], owner[keep]
    if not len(arc):
        return none
    most = max(stage.standing[i].regions.shape[1] for i in set(owner.tolist()))
    arcs, slabs, owners = [], [], []
    for number in np.unique(owner).tolist():
        mine = arc[owner == number]
        regions = stage.standing[number].regions
        padded = np.tile(np.array((0.0, 0.0, 0.0, -1.0)), (len(regions), most, 1))
        padded[:, : regions.shape[1]] = regions
        arcs.append(np.repeat(mine, len(regions)))
        slabs.append(np.tile(padded, (len(mine), 1, 1)))
        owners.append(np.full(len(mine) * len(regions), number))
    all_arcs, all_slabs, all_owners = (np.concatenate(x) for x in (arcs, slabs, owners))
    values = np.einsum("qik,qpk->qpi", forms_of(curves.arcs[all_arcs]), all_slabs)
    may = ~(values.max(axis=2) <= 0).any(axis=1)
    return all_arcs[may], all_slabs[may], all_owners[may]


def _behind(points: Array, slab: Array) -> NDArray[np.bool_]:
    """(q,) whether each point (q, 3) lies truly inside its region (q, p, 4)."""
    depth = np.einsum("qpk,qk->qp", slab[..., :3], points) - slab[..., 3]
    return np.asarray(depth.min(axis=1) > INSIDE * np.abs(points).max(axis=1))


def _each(
    part_arc: NDArray[np.intp], pair_arc: NDArray[np.intp]
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Every part with every pair of its arc: part (m,) and pair (m,)."""
    order = np.argsort(pair_arc, kind="stable")
    begin = np.searchsorted(pair_arc[order], part_arc, side="left")
    end = np.searchsorted(pair_arc[order], part_arc, side="right")
    counts = end - begin
    part = np.repeat(np.arange(len(part_arc)), counts)
    place = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    return part, order[np.repeat(begin, counts) + place]


def _shared_out(
    curves: _Curves,
    which: NDArray[np.intp],
    part_arc: NDArray[np.intp],
    low: Array,
    high: Array,
    seen: NDArray[np.bool_],
    drawn: NDArray[np.bool_],
    drawn_at: Array,
) -> list[CurvePieces]:
    """Parts of one arc with one state joined again, and given to their volumes."""
    same = np.zeros(len(part_arc), dtype=bool)
    same[1:] = (part_arc[1:] == part_arc[:-1]) & (seen[1:] == seen[:-1]) & (drawn[1:] == drawn[:-1])
    begins = np.flatnonzero(~same)
    ends = np.append(begins[1:], len(part_arc)) - 1
    arc, a, b = part_arc[begins], low[begins], high[ends]
    seen, drawn = seen[begins], drawn[begins]
    whole = curves.span[arc]
    span = whole[:, :1] + np.stack([a, b], axis=1) * (whole[:, 1:] - whole[:, :1])
    picture = between(drawn_at[arc], a, b)
    owner = curves.owner[arc]
    found = []
    for number in which.tolist():
        mine = np.flatnonzero(owner == number)
        found.append(
            CurvePieces(
                curves.curve[arc[mine]],
                curves.kind[arc[mine]],
                span[mine],
                seen[mine],
                drawn[mine],
                picture[mine],
            )
            if len(mine)
            else NO_CURVES
        )
    return found


def curved_covers(
    stage: Stage,
    starts: Array,
    ends: Array,
    line_bounds: Array,
    asked: NDArray[np.bool_],
    opaque: NDArray[np.bool_],
) -> Covers | None:
    """What curved bodies hide of straight lines from starts to ends (m, 3) world mm, in fractions
    of their true length; None when there is no curved body."""
    row = _all_surfaces(stage, ghosts=False)
    if row is None or not len(starts):
        return None
    some = np.flatnonzero(asked)
    line, patch = overlapping(line_bounds[some], row.bounds)
    if not len(line):
        return None
    used, line = np.unique(line, return_inverse=True)
    place = np.array(stage.eye.place)
    arcs = straight(starts[some[used]] - place, ends[some[used]] - place)
    rows, span = in_front(stage.eye, arcs)
    ahead = between(arcs[rows], span[:, 0], span[:, 1])
    part_of, pair_of = _each(rows, line)
    line, patch = part_of, patch[pair_of]
    foreign = np.ones(len(line), dtype=bool)
    cut_arc, cut = patch_cuts(row, ahead, line, patch, foreign)
    part_arc, low, high = parts_between(len(ahead), cut_arc, cut)
    middle = at(ahead[part_arc], (low + high) / 2)
    part, pair = _each(part_arc, line)
    hit = meets(row, middle[part, :3] / middle[part, 3:], patch[pair], np.zeros(len(pair), bool))
    covers: dict[int, bool] = {}
    for one, hider in zip(part[hit].tolist(), row.owner[patch[pair[hit]]].tolist(), strict=True):
        covers[one] = covers.get(one, False) or bool(opaque[hider])
    parts = np.array(sorted(covers), dtype=np.intp)
    if not len(parts):
        return None
    own = span[part_arc[parts]]
    share = np.stack([low[parts], high[parts]], axis=1)
    return Covers(
        some[used[rows[part_arc[parts]]]],
        own[:, :1] + share * (own[:, 1:] - own[:, :1]),
        np.array([covers[one] for one in parts.tolist()], dtype=bool),
    )

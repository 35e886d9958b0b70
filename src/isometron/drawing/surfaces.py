"""Curved surfaces before the eye: what may hide something, and their true outlines.

Everything is taken from the eye point in world axes, so that a cone of sight through a curve is a
quadratic form in three directions. What such a surface hides begins and ends, along any arc, where
the arc crosses the cone of sight through a rim of the surface, the cone of sight that touches it,
or the surface itself; between two such places it is hidden wholly or not at all.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.framework.curved import Curved, Region, Round, Swept
from isometron.framework.outlines import within
from isometron.framework.turned_body import Flat, flat_curve, lifted_curves
from isometron.perspective.conics import (
    adjugate,
    bounds_of,
    moved,
    pictures,
    seen_from,
    straight,
)
from isometron.perspective.eye import Array, Eye

THROUGH = 1.0 - 1e-8
"""A surface met by a sight line before this share of the way to a point hides it."""


@dataclass(frozen=True, eq=False)
class Surfaces:
    """p patches of one volume before an eye.

    forms (p, 4, 4), plane (p,), half spaces within (p, k, 4) and limits (p, 2, 4, 4) from the eye
    point; regions by patch, each with its map (2, 4) from there; cones (c, 3, 3) of sight through
    rims and touching surfaces with the patch (c,) they belong to, and where the rim is straight the
    normal (c, 3) of its plane of sight, else 0; bounds (p, 4) on the sheet;
    outlines: arcs (o, 3, 4) with the patch (o,) each lies on.
    """

    forms: Array
    plane: NDArray[np.bool_]
    within: Array
    limits: Array
    regions: dict[int, tuple[Region, Array]]
    cones: Array
    straight: Array
    cone_patch: NDArray[np.intp]
    bounds: Array
    outlines: Array
    outline_patch: NDArray[np.intp]


def surfaces_of(eye: Eye, curved: Curved, axes: Array, place: Array) -> Surfaces:
    """The surfaces of a curved body, its own axes (3, 3) set at a place (3,) of the world."""
    to_own = np.eye(4)
    to_own[:3, :3] = axes
    to_own[:3, 3] = axes @ (np.array(eye.place) - place)
    forms = to_own.T @ curved.forms @ to_own
    rims = seen_from(eye, moved(curved.rims, axes, place))
    cones, lines, patch = _rim_cones(rims, curved.rim_patch)
    bent = np.flatnonzero(~curved.plane)
    touching = _touching_cones(forms[bent])
    outlines, on = _outlines(curved, to_own, axes)
    return Surfaces(
        forms,
        curved.plane,
        curved.within @ to_own,
        to_own.T @ curved.limits @ to_own,
        {region.patch: (region, region.to_flat @ to_own) for region in curved.regions},
        np.concatenate([cones, touching]),
        np.concatenate([lines, np.zeros((len(touching), 3))]),
        np.concatenate([patch, bent]),
        _bounds(eye, len(forms), rims, curved.rim_patch, outlines, on),
        outlines,
        on,
    )


def _rim_cones(rims: Array, patch: NDArray[np.intp]) -> tuple[Array, Array, NDArray[np.intp]]:
    """Cones (c, 3, 3) of sight through the rims, one for all arcs of one conic, with the normals
    (c, 3) of the planes of sight through straight ones (else 0) and their patches (c,). The form of
    a plane is its square, which only tells planes apart: its roots are double."""
    if not len(rims):
        return np.empty((0, 3, 3)), np.empty((0, 3)), np.empty(0, dtype=np.intp)
    a, m, b = rims[:, 0, :3], rims[:, 1, :3], rims[:, 2, :3]
    # A point x = s·a + t·m' + r·b of the arc has t² = 4·s·r in its control points' coordinates.
    basis = np.stack([a, m, b], axis=1)
    size = np.linalg.norm(basis, axis=2).max(axis=1)
    inverse = adjugate(np.swapaxes(basis, 1, 2) / size[:, None, None])
    form = np.array([[0.0, 0.0, -2.0], [0.0, 1.0, 0.0], [-2.0, 0.0, 0.0]])
    cones = np.swapaxes(inverse, 1, 2) @ form @ inverse
    across = np.cross(a, b)
    length = np.linalg.norm(across, axis=1)
    ends = np.linalg.norm(a, axis=1) * np.linalg.norm(b, axis=1)
    volume = np.abs((across * m).sum(axis=1))
    flat = volume <= 1e-12 * length * np.linalg.norm(m, axis=1)
    seen = length > 1e-14 * ends
    unit = across / np.where(seen, length, 1.0)[:, None]
    cones[flat] = unit[flat, :, None] * unit[flat, None, :]
    lines = np.where(flat[:, None], unit, 0.0)
    scale = np.abs(cones).max(axis=(1, 2))
    keep = (scale > 0) & (seen | ~flat)
    cones = cones / np.where(scale > 0, scale, 1.0)[:, None, None]
    key = np.concatenate([np.round(np.abs(cones.reshape(-1, 9)), 9), patch[:, None]], axis=1)
    _, first = np.unique(key[keep], axis=0, return_index=True)
    some = np.flatnonzero(keep)[np.sort(first)]
    return cones[some], lines[some], patch[some]


def _touching_cones(forms: Array) -> Array:
    """Cones of sight that touch quadrics: q·qᵀ − F₀·Q for a form with blocks Q, q, F₀."""
    q, at_eye = forms[:, :3, 3], forms[:, 3, 3]
    cones = q[:, :, None] * q[:, None, :] - at_eye[:, None, None] * forms[:, :3, :3]
    size = np.abs(cones).max(axis=(1, 2))
    return np.asarray(cones / np.where(size > 0, size, 1.0)[:, None, None])


def _outlines(curved: Curved, to_own: Array, axes: Array) -> tuple[Array, NDArray[np.intp]]:
    """The true outlines of all bent patches, as arcs from the eye point."""
    eye = to_own[:3, 3]
    found, on = _round_outlines(curved.rounds, eye)
    arcs, patch = list(found), list(on)
    for sweep in curved.swept:
        lines = _swept_outline(sweep, eye)
        arcs += list(lines)
        patch += [sweep.patch] * len(lines)
    own = np.array(arcs).reshape(-1, 3, 4)
    relative = own.copy()
    relative[..., :3] = (own[..., :3] - own[..., 3:] * eye) @ axes
    return relative, np.array(patch, dtype=np.intp)


def _round_outlines(rounds: Sequence[Round], eye: Array) -> tuple[Array, list[int]]:
    """Where turned surfaces of one axle are touched by sight lines, as arcs with their patches:
    r·cos φ = (a + b/2·(h + e) + c·h·e)/ρ for an eye at height e and distance ρ from the axle. None
    for an eye inside a quadric or on its axle."""
    none = np.empty((0, 3, 4))
    if not rounds:
        return none, []
    place, axle = rounds[0].place, rounds[0].axle
    away = eye - place
    height = float(away @ axle)
    across = away - height * axle
    distance = float(np.linalg.norm(across))
    if distance <= 1e-9 * float(np.linalg.norm(away)):
        return none, []
    flat: list[Flat] = []
    lines: list[tuple[float, float]] = []
    patch: list[int] = []
    for one in rounds:
        piece = one.segment
        if distance**2 <= piece.a + piece.b * height + piece.c * height**2:
            continue
        line = (
            (piece.a + piece.b / 2 * height) / distance,
            (piece.b / 2 + piece.c * height) / distance,
        )
        curve = flat_curve(piece, line)
        flat += curve
        lines += [line] * (len(curve) // 3)
        patch += [one.patch] * (len(curve) // 3)
    towards = across / distance
    aside = np.cross(axle, towards)
    both = [lifted_curves(flat, lines, place, axle, towards, sign * aside) for sign in (1.0, -1.0)]
    return np.concatenate(both), patch * 2


def _swept_outline(one: Swept, eye: Array) -> Array:
    """Where a swept arc is touched by sight lines: at most two straight lines along its way."""
    basis = np.stack([one.plane[0], one.plane[1], one.way])
    flat_eye = (np.linalg.inv(basis.T) @ eye)[:2] - one.centre
    distance = float(np.hypot(*flat_eye))
    if distance <= one.radius * (1 + 1e-12):
        return np.empty((0, 3, 4))
    middle = np.arctan2(flat_eye[1], flat_eye[0])
    swing = np.arccos(one.radius / distance)
    starts, ends = [], []
    for angle in (middle - swing, middle + swing):
        way = (angle - one.first) * np.sign(one.turn) % (2 * np.pi)
        if way > abs(one.turn):
            continue
        place = one.centre + one.radius * np.array([np.cos(angle), np.sin(angle)])
        begin, stop = one.ends.at(float(place[0]))
        foot = place @ one.plane
        starts.append(foot + begin * one.way)
        ends.append(foot + stop * one.way)
    if not starts:
        return np.empty((0, 3, 4))
    return straight(np.array(starts), np.array(ends))


def _bounds(
    eye: Eye,
    count: int,
    rims: Array,
    rim_patch: NDArray[np.intp],
    outlines: Array,
    outline_patch: NDArray[np.intp],
) -> Array:
    """Bounds (p, 4) on the sheet of each patch: of its rims and its outlines."""
    bounds = np.tile([np.inf, np.inf, -np.inf, -np.inf], (count, 1))
    arcs, patch = np.concatenate([rims, outlines]), np.concatenate([rim_patch, outline_patch])
    if not len(arcs):
        return bounds
    drawn = bounds_of(pictures(eye, arcs))
    np.minimum.at(bounds[:, 0], patch, drawn[:, 0])
    np.minimum.at(bounds[:, 1], patch, drawn[:, 1])
    np.maximum.at(bounds[:, 2], patch, drawn[:, 2])
    np.maximum.at(bounds[:, 3], patch, drawn[:, 3])
    return bounds


@dataclass(frozen=True, eq=False)
class Together:
    """The patches of several volumes in one row, numbered on; `first` where each volume's begin."""

    forms: Array
    plane: NDArray[np.bool_]
    within: Array
    limits: Array
    limited: NDArray[np.bool_]
    """(p,) patches that have limits besides their half spaces."""
    regions: dict[int, tuple[Region, Array]]
    cones: Array
    straight: Array
    cone_first: NDArray[np.intp]
    """(p + 1,) where each patch's cones begin."""
    same_cone: NDArray[np.intp]
    """(c,) the first cone that is the same as each: neighbours share the one through their rim."""
    bounds: Array
    owner: NDArray[np.intp]
    first: dict[int, int]


def together(numbers: Sequence[int], surfaces: Sequence[Surfaces]) -> Together:
    """The surfaces of some volumes (numbered) in one row."""
    counts = [len(one.forms) for one in surfaces]
    starts = np.concatenate([[0], np.cumsum(counts)]).astype(int)
    regions = {
        int(starts[i]) + patch: region
        for i, one in enumerate(surfaces)
        for patch, region in one.regions.items()
    }
    cone_patch = np.concatenate(
        [one.cone_patch + start for one, start in zip(surfaces, starts, strict=False)]
    )
    order = np.argsort(cone_patch, kind="stable")
    cones = np.concatenate([one.cones for one in surfaces])[order]
    lines = np.concatenate([one.straight for one in surfaces])[order]
    total = int(starts[-1])
    cone_first = np.searchsorted(cone_patch[order], np.arange(total + 1))
    limits = np.concatenate([one.limits for one in surfaces])
    return Together(
        np.concatenate([one.forms for one in surfaces]),
        np.concatenate([one.plane for one in surfaces]),
        np.concatenate([one.within for one in surfaces]),
        limits,
        (limits[:, :, :3, :3] != 0).any(axis=(1, 2, 3)),
        regions,
        cones,
        lines,
        cone_first.astype(np.intp),
        _first_of_kind(cones),
        np.concatenate([one.bounds for one in surfaces]),
        np.repeat(np.array(numbers, dtype=np.intp), counts),
        {number: int(starts[i]) for i, number in enumerate(numbers)},
    )


def _first_of_kind(cones: Array) -> NDArray[np.intp]:
    """(c,) the number of the first cone like each (their largest entry is 1, so rounding tells)."""
    rounded = np.round(cones.reshape(len(cones), 9), 10)
    _, first, back = np.unique(rounded, axis=0, return_index=True, return_inverse=True)
    return np.asarray(first[back.reshape(-1)], dtype=np.intp)


def meets(
    row: Together, points: Array, patch: NDArray[np.intp], own: NDArray[np.bool_]
) -> NDArray[np.bool_]:
    """(q,) whether the sight line to each point (q, 3) from the eye meets its patch on the way.

    own: the point lies on that patch itself, so that one of the two crossings is the point.
    """
    form = row.forms[patch]
    hit = np.zeros(len(points), dtype=bool)
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        flat = np.flatnonzero(row.plane[patch] & ~own)
        line = 2 * form[flat, 3, :3]
        share = -form[flat, 3, 3] / (line * points[flat]).sum(axis=1)
        hit[flat] = _there(row, points[flat], patch[flat], share)
        bent = np.flatnonzero(~row.plane[patch])
        v, f = points[bent], form[bent]
        a = ((f[:, :3, :3] @ v[:, :, None])[..., 0] * v).sum(axis=1)
        b = (f[:, 3, :3] * v).sum(axis=1)
        c = f[:, 3, 3]
        on = own[bent]
        other = c / a
        hit[bent[on]] = _there(row, v[on], patch[bent[on]], other[on])
        off = ~on
        square = b * b - a * c
        q = -(b + np.copysign(np.sqrt(np.maximum(square, 0.0)), b))
        touching = square <= 1e-14 * b * b
        for root in (q / a, c / q):
            met = np.where(touching, np.nan, root)[off]
            hit[bent[off]] |= _there(row, v[off], patch[bent[off]], met)
    return hit


def _there(
    row: Together, points: Array, patch: NDArray[np.intp], share: Array
) -> NDArray[np.bool_]:
    """(q,) whether the sight line to each point meets its patch at a share of the way."""
    found = (share > 0) & (share < THROUGH)
    some = np.flatnonzero(found)
    if not len(some):
        return found
    place = np.append(points[some] * share[some, None], np.ones((len(some), 1)), axis=1)
    deep = (row.within[patch[some]] @ place[:, :, None])[..., 0]
    inside = np.asarray((deep >= 0).all(axis=1), dtype=bool)
    flat = np.flatnonzero(inside & row.limited[patch[some]])
    image = row.limits[patch[some[flat]]] @ place[flat, None, :, None]
    inside[flat] = ((image[..., 0] * place[flat, None]).sum(axis=2) >= 0).all(axis=1)
    for number in np.unique(patch[some]).tolist():
        region = row.regions.get(number)
        if region is None:
            continue
        mine = np.flatnonzero(inside & (patch[some] == number))
        if len(mine):
            inside[mine] = within(region[0].rings, place[mine] @ region[1].T)
    found[some] = inside
    return found


def crossing_cones(
    row: Together, patch: NDArray[np.intp]
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """For each of some patches its cones of sight, at which what it hides may change: which of them
    (k,) and the cone's number (k,)."""
    counts = row.cone_first[patch + 1] - row.cone_first[patch]
    which = np.repeat(np.arange(len(patch)), counts)
    at = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    return which, row.cone_first[patch[which]] + at


def form_scale(arcs: Array, forms: Array) -> Array:
    """(n,) how large a form (k, k) may be along an arc: smaller values are measured by it."""
    reach = np.abs(arcs).max(axis=1)
    return np.asarray((reach[:, :, None] * np.abs(forms) * reach[:, None, :]).max(axis=(1, 2)))

"""Surfaces that bend before a viewpoint: what may hide something, and their true outlines.

Everything is taken from the viewpoint's origin, so that a cone of sight through a curve is a
quadratic form in three sight coordinates. What such a surface hides begins and ends, along any arc,
where the arc crosses the cone of sight through a rim of the surface, the cone of sight that touches
it, or the surface itself; between two such places it is hidden wholly or not at all.
"""

import itertools
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Indices, Region, Surfaces, SweptPatch, TurnedPatch
from isometron.framework.bodies.turned import FlatPoint, flat_curve, lifted_curves
from isometron.framework.figures import Figure
from isometron.framework.outlines import within
from isometron.hiding.viewpoint import Viewpoint
from isometron.nearness import LAST_BITS, ROUNDING, SAME
from isometron.perspective.conics import (
    adjugate,
    between,
    linear_along,
    moved,
    roots,
    straight,
)
from isometron.perspective.eye import Array

THROUGH = 1e-8
"""A surface met by a sight line hides what lies behind it by more than this share of the way."""


class Seen(NamedTuple):
    """p surfaces of one figure before a viewpoint.

    forms (p, 4, 4), plane (p,), half spaces within (p, k, 4) and limits (p, 2, 4, 4), taken from
    the origin; regions by surface, each with its map (2, 4) from there; cones (c, 3, 3) of sight
    through rims and touching surfaces, with the surface (c,) they belong to, the bounds (c, 4) in
    the picture of what they go through, and where the rim is straight the normal (c, 3) of its
    plane of sight, else 0; bounds (p, 4) and nearest depth (p,) of each surface; outlines: arcs
    (o, 3, 4) with the surface (o,) each lies on.
    """

    forms: Array
    plane: NDArray[np.bool_]
    within: Array
    limits: Array
    regions: dict[int, tuple[Region, Array]]
    cones: Array
    straight: Array
    cone_surface: Indices
    cone_bounds: Array
    bounds: Array
    nearest: Array
    outlines: Array
    outline_surface: Indices


def seen_surfaces(viewpoint: Viewpoint, figure: Figure) -> Seen | None:
    """The surfaces of a figure that bends before a viewpoint; None for a flat one."""
    own = figure.body.surfaces
    if own is None:
        return None
    to_own = np.eye(4)
    to_own[:3, :3] = figure.axes
    to_own[:3, 3] = figure.axes @ (viewpoint.origin - figure.place)
    forms = to_own.T @ own.forms @ to_own
    rims = viewpoint.taken(moved(own.rims, figure.axes, figure.place))
    rim_bounds = viewpoint.bounds(rims)
    cones, lines, surface, cone_bounds = _rim_cones(
        rims @ viewpoint.sight.T, own.rim_surface, rim_bounds
    )
    outlines, on = _outlines(own, to_own, viewpoint)
    outline_bounds = viewpoint.bounds(outlines)
    bent = np.flatnonzero(~own.plane)
    touching = _touching_cones(forms[bent], viewpoint)
    around = gathered(len(forms), outline_bounds, on)[bent]
    nearest, _ = viewpoint.depths(np.concatenate([rims, outlines]))
    near = np.full(len(forms), np.inf)
    np.minimum.at(near, np.concatenate([own.rim_surface, on]), nearest)
    return Seen(
        forms,
        own.plane,
        own.within @ to_own,
        to_own.T @ own.limits @ to_own,
        {region.surface: (region, region.to_flat @ to_own) for region in own.regions},
        np.concatenate([cones, touching]),
        np.concatenate([lines, np.zeros((len(touching), 3))]),
        np.concatenate([surface, bent]),
        np.concatenate([cone_bounds, around]),
        gathered(
            len(forms),
            np.concatenate([rim_bounds, outline_bounds]),
            np.concatenate([own.rim_surface, on]),
        ),
        near,
        outlines,
        on,
    )


def gathered(count: int, bounds: Array, owner: Indices) -> Array:
    """(count, 4) bounds round all that each owner has; empty ones (∞, −∞) for none."""
    found = np.tile([np.inf, np.inf, -np.inf, -np.inf], (count, 1))
    np.minimum.at(found[:, 0], owner, bounds[:, 0])
    np.minimum.at(found[:, 1], owner, bounds[:, 1])
    np.maximum.at(found[:, 2], owner, bounds[:, 2])
    np.maximum.at(found[:, 3], owner, bounds[:, 3])
    return found


def _rim_cones(rims: Array, surface: Indices, bounds: Array) -> tuple[Array, Array, Indices, Array]:
    """Cones (c, 3, 3) of sight through the rims (n, 3, 3) in sight coordinates, one for all arcs of
    one conic, with the normals (c, 3) of the planes of sight through straight ones (else 0), their
    surfaces (c,) and bounds (c, 4). The form of a plane is its square, which only tells planes
    apart: its roots are double."""
    if not len(rims):
        none = np.empty(0, dtype=np.intp)
        return np.empty((0, 3, 3)), np.empty((0, 3)), none, np.empty((0, 4))
    a, m, b = rims[:, 0], rims[:, 1], rims[:, 2]
    # A point x = s·a + t·m' + r·b of the arc has t² = 4·s·r in its control points' coordinates.
    size = np.linalg.norm(rims, axis=2).max(axis=1)
    inverse = adjugate(np.swapaxes(rims, 1, 2) / size[:, None, None])
    form = np.array([[0.0, 0.0, -2.0], [0.0, 1.0, 0.0], [-2.0, 0.0, 0.0]])
    cones = np.swapaxes(inverse, 1, 2) @ form @ inverse
    across = np.cross(a, b)
    length = np.linalg.norm(across, axis=1)
    ends = np.linalg.norm(a, axis=1) * np.linalg.norm(b, axis=1)
    volume = np.abs((across * m).sum(axis=1))
    flat = volume <= ROUNDING * length * np.linalg.norm(m, axis=1)
    seen = length > LAST_BITS * ends
    unit = across / np.where(seen, length, 1.0)[:, None]
    cones[flat] = unit[flat, :, None] * unit[flat, None, :]
    lines = np.where(flat[:, None], unit, 0.0)
    scale = np.abs(cones).max(axis=(1, 2))
    keep = (scale > 0) & (seen | ~flat)
    cones = cones / np.where(scale > 0, scale, 1.0)[:, None, None]
    key = np.concatenate([np.round(np.abs(cones.reshape(-1, 9)), 9), surface[:, None]], axis=1)
    _, first, back = np.unique(key[keep], axis=0, return_index=True, return_inverse=True)
    some = np.flatnonzero(keep)[first]
    around = gathered(len(first), bounds[keep], back.reshape(-1))
    return cones[some], lines[some], surface[some], around


def _touching_cones(forms: Array, viewpoint: Viewpoint) -> Array:
    """Cones of sight that touch quadrics: (F·V)(F·V)ᵀ − (VᵀF·V)·F in sight coordinates."""
    eye, lifted = viewpoint.homogeneous, viewpoint.lifted
    polar = forms @ eye
    at_eye = polar @ eye
    cones = polar[:, :, None] * polar[:, None, :] - at_eye[:, None, None] * forms
    cones = lifted.T @ cones @ lifted
    size = np.abs(cones).max(axis=(1, 2), initial=0.0)
    return np.asarray(cones / np.where(size > 0, size, 1.0)[:, None, None])


def _outlines(own: Surfaces, to_own: Array, viewpoint: Viewpoint) -> tuple[Array, Indices]:
    """The true outlines of all surfaces that bend, as arcs taken from the origin."""
    eye = to_own @ viewpoint.homogeneous
    arcs: list[Array] = []
    surface: list[int] = []
    axles = _by_axle(own.turned)
    for patches in axles:
        found, on = _turned_outlines(patches, eye)
        if len(axles) > 1:  # mitred pieces end aslant
            found, on = _cut_within(found, on, own.within)
        arcs += list(found)
        surface += on
    if len(axles) > 1:
        found, on = _along_mitres(own, eye)
        arcs += list(found)
        surface += on
    for sweep in own.swept:
        lines = _swept_outline(sweep, eye)
        arcs += list(lines)
        surface += [sweep.surface] * len(lines)
    every = np.array(arcs).reshape(-1, 3, 4)
    relative = every.copy()
    relative[..., :3] = (every[..., :3] - every[..., 3:] * to_own[:3, 3]) @ to_own[:3, :3]
    return relative, np.array(surface, dtype=np.intp)


def _by_axle(turned: Sequence[TurnedPatch]) -> list[list[TurnedPatch]]:
    """Turned pieces with one axle together."""
    groups: list[list[TurnedPatch]] = []
    for one in turned:
        if groups and groups[-1][0].axle is one.axle and groups[-1][0].place is one.place:
            groups[-1].append(one)
            continue
        known = next(
            (
                group
                for group in groups
                if np.array_equal(group[0].axle, one.axle)
                and np.array_equal(group[0].place, one.place)
            ),
            None,
        )
        if known is None:
            groups.append([one])
        else:
            known.append(one)
    return groups


def _cut_within(arcs: Array, on: list[int], within: Array) -> tuple[Array, list[int]]:
    """Arcs (k, 3, 4) of surfaces where they lie within their half spaces."""
    low, high = np.zeros(len(arcs)), np.ones(len(arcs))
    for side in range(within.shape[1]):
        planes = within[on, side].reshape(-1, 4)
        ends = [(arcs[:, i] * planes).sum(axis=1) / arcs[:, i, 3] for i in (0, 2)]
        run = ends[1] - ends[0]
        cross = np.where(run != 0, -ends[0] / np.where(run != 0, run, 1.0), 0.0)
        low = np.where((ends[0] < 0) & (ends[1] > 0), np.maximum(low, cross), low)
        high = np.where((ends[0] > 0) & (ends[1] < 0), np.minimum(high, cross), high)
        high = np.where((ends[0] < 0) & (ends[1] <= 0), low, high)
    kept = np.flatnonzero(high > low + ROUNDING)
    return between(arcs[kept], low[kept], high[kept]), [on[i] for i in kept.tolist()]


def _along_mitres(own: Surfaces, eye: Array) -> tuple[Array, list[int]]:
    """The parts of the arcs (k, 3, 4) in which mitred pieces meet where one of both turns to us and
    the other does not, with the one that does: there the outline goes from piece to piece. A
    surface turns to us where the eye lies before its tangent plane, a quadratic along an arc."""
    bent = np.flatnonzero(~own.plane[own.rim_surface])
    keys = np.round(own.rims[bent].reshape(len(bent), -1), 9)
    _unused, number, counts = np.unique(keys, axis=0, return_inverse=True, return_counts=True)
    number = number.reshape(-1)
    order = np.argsort(number, kind="stable")
    order = order[counts[number[order]] == 2]
    pairs = bent[order].reshape(-1, 2)
    if not len(pairs):
        return np.empty((0, 3, 4)), []
    arcs, both = own.rims[pairs[:, 0]], own.rim_surface[pairs]
    facing = [linear_along(arcs, own.forms[both[:, side]] @ eye) for side in (0, 1)]
    found: list[Array] = []
    on: list[int] = []
    for i, arc in enumerate(arcs):
        cuts = {0.0, 1.0}
        for values in facing:
            cuts |= {float(t) for t in roots(values[i][None])[1]}
        for low, high in itertools.pairwise(sorted(cuts)):
            middle = (low + high) / 2
            weights = np.array([(1 - middle) ** 2, 2 * middle * (1 - middle), middle**2])
            first, second = (float(weights @ values[i]) > 0 for values in facing)
            if first != second and high - low > SAME:
                found.append(between(arc[None], np.array([low]), np.array([high]))[0])
                on.append(int(both[i, 0 if first else 1]))
    return np.array(found).reshape(-1, 3, 4), on


def _turned_outlines(turned: Sequence[TurnedPatch], eye: Array) -> tuple[Array, list[int]]:
    """Where turned surfaces of one axle are touched by sight lines, as arcs with their surfaces:
    r·cos φ = (a·w + b/2·(h·w + e) + c·h·e)/ρ for a viewpoint of weight w at height e and distance ρ
    from the axle. None for a viewpoint inside a quadric or on its axle."""
    none = np.empty((0, 3, 4))
    if not turned:
        return none, []
    place, axle, w = turned[0].place, turned[0].axle, float(eye[3])
    away = eye[:3] - w * place
    height = float(away @ axle)
    across = away - height * axle
    distance = float(np.linalg.norm(across))
    if distance <= SAME * float(np.linalg.norm(away)):
        return none, []
    flat: list[FlatPoint] = []
    lines: list[tuple[float, float]] = []
    surface: list[int] = []
    for one in turned:
        piece = one.segment
        if distance**2 <= piece.a * w * w + piece.b * height * w + piece.c * height**2:
            continue
        line = (
            (piece.a * w + piece.b / 2 * height) / distance,
            (piece.b / 2 * w + piece.c * height) / distance,
        )
        curve = flat_curve(piece, line)
        flat += curve
        lines += [line] * (len(curve) // 3)
        surface += [one.surface] * (len(curve) // 3)
    towards = across / distance
    aside = np.cross(axle, towards)
    both = [lifted_curves(flat, lines, place, axle, towards, sign * aside) for sign in (1.0, -1.0)]
    return np.concatenate(both), surface * 2


def _swept_outline(one: SweptPatch, eye: Array) -> Array:
    """Where a carried arc is touched by sight lines: at most two straight lines along its way."""
    basis = np.stack([one.plane[0], one.plane[1], one.way])
    w = float(eye[3])
    flat_eye = (np.linalg.inv(basis.T) @ eye[:3])[:2] - w * one.centre
    distance = float(np.hypot(*flat_eye))
    if distance <= w * one.radius * (1 + ROUNDING):
        return np.empty((0, 3, 4))
    middle = np.arctan2(flat_eye[1], flat_eye[0])
    swing = np.arccos(w * one.radius / distance)
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


class Row(NamedTuple):
    """The surfaces of several figures in one row, numbered on."""

    forms: Array
    plane: NDArray[np.bool_]
    within: Array
    limits: Array
    limited: NDArray[np.bool_]
    """(p,) surfaces that have limits besides their half spaces."""
    regions: dict[int, tuple[Region, Array]]
    cones: Array
    straight: Array
    cone_bounds: Array
    cone_first: Indices
    """(p + 1,) where each surface's cones begin."""
    same_cone: Indices
    """(c,) the first cone that is the same as each: neighbours share the one through their rim."""
    bounds: Array
    nearest: Array
    owner: Indices
    local: Indices
    """(p,) the number of each within its figure."""
    first: Indices
    """(n,) where each figure's surfaces begin; meaningless for one that has none."""


def row_of(seen: Sequence[Seen | None]) -> Row | None:
    """The surfaces of all figures (numbered by their place) in one row; None without any."""
    some = [(i, one) for i, one in enumerate(seen) if one is not None and len(one.forms)]
    if not some:
        return None
    counts = [len(one.forms) for _, one in some]
    starts = np.concatenate([[0], np.cumsum(counts)]).astype(np.intp)
    regions = {
        int(start) + number: region
        for (_, one), start in zip(some, starts, strict=False)
        for number, region in one.regions.items()
    }
    cone_surface = np.concatenate(
        [one.cone_surface + start for (_, one), start in zip(some, starts, strict=False)]
    )
    order = np.argsort(cone_surface, kind="stable")
    cones = np.concatenate([one.cones for _, one in some])[order]
    total = int(starts[-1])
    limits = np.concatenate([one.limits for _, one in some])
    first = np.zeros(len(seen), dtype=np.intp)
    first[[i for i, _ in some]] = starts[:-1]
    return Row(
        np.concatenate([one.forms for _, one in some]),
        np.concatenate([one.plane for _, one in some]),
        np.concatenate([one.within for _, one in some]),
        limits,
        (limits[:, :, :3, :3] != 0).any(axis=(1, 2, 3)),
        regions,
        cones,
        np.concatenate([one.straight for _, one in some])[order],
        np.concatenate([one.cone_bounds for _, one in some])[order],
        np.searchsorted(cone_surface[order], np.arange(total + 1)).astype(np.intp),
        _first_of_kind(cones),
        np.concatenate([one.bounds for _, one in some]),
        np.concatenate([one.nearest for _, one in some]),
        np.repeat(np.array([i for i, _ in some], dtype=np.intp), counts),
        np.arange(total) - np.repeat(starts[:-1], counts),
        first,
    )


def _first_of_kind(cones: Array) -> Indices:
    """(c,) the number of the first cone like each (their largest entry is 1, so rounding tells)."""
    rounded = np.round(cones.reshape(len(cones), 9), 10)
    _, first, back = np.unique(rounded, axis=0, return_index=True, return_inverse=True)
    return np.asarray(first[back.reshape(-1)], dtype=np.intp)


def meets(
    row: Row, viewpoint: Viewpoint, points: Array, surface: Indices, own: NDArray[np.bool_]
) -> NDArray[np.bool_]:
    """(q,) whether the sight line from each point (q, 3) to the viewpoint meets its surface.

    own: the point lies on that surface itself, so that one of the two crossings is the point.
    """
    form, eye = row.forms[surface], viewpoint.homogeneous
    size = np.abs(points).max(axis=1, initial=0.0)
    least = THROUGH * (size if viewpoint.far else np.ones(len(points)))
    place = np.concatenate([points, np.ones((len(points), 1))], axis=1)
    hit = np.zeros(len(points), dtype=bool)
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        flat = np.flatnonzero(row.plane[surface] & ~own)
        line = 2 * form[flat, 3]
        line[:, 3] = form[flat, 3, 3]
        share = -(line * place[flat]).sum(axis=1) / (line @ eye)
        hit[flat] = _there(row, eye, place[flat], surface[flat], share, least[flat])
        bent = np.flatnonzero(~row.plane[surface])
        x, f = place[bent], form[bent]
        polar = f @ eye
        a, b = polar @ eye, (polar * x).sum(axis=1)
        c = ((f @ x[:, :, None])[..., 0] * x).sum(axis=1)
        on = own[bent]
        mine, others = bent[on], bent[~on]
        other = -2 * b[on] / a[on]
        hit[mine] = _there(row, eye, place[mine], surface[mine], other, least[mine])
        a, b, c = a[~on], b[~on], c[~on]
        square = b * b - a * c
        q = -(b + np.copysign(np.sqrt(np.maximum(square, 0.0)), b))
        touching = square <= LAST_BITS * b * b
        for root in (q / a, c / q):
            met = np.where(touching, np.nan, root)
            hit[others] |= _there(row, eye, place[others], surface[others], met, least[others])
    return hit


def _there(
    row: Row, eye: Array, places: Array, surface: Indices, share: Array, least: Array
) -> NDArray[np.bool_]:
    """(q,) whether the sight line from each place (q, 4) meets its surface at X + share·V."""
    found = share > least
    found &= np.isfinite(share)
    some = np.flatnonzero(found)
    if not len(some):
        return found
    met = places[some] + share[some, None] * eye
    met = met / met[:, 3:]
    deep = (row.within[surface[some]] @ met[:, :, None])[..., 0]
    inside = np.asarray((deep >= 0).all(axis=1), dtype=bool)
    flat = np.flatnonzero(inside & row.limited[surface[some]])
    image = row.limits[surface[some[flat]]] @ met[flat, None, :, None]
    inside[flat] = ((image[..., 0] * met[flat, None]).sum(axis=2) >= 0).all(axis=1)
    for number in np.unique(surface[some]).tolist():
        region = row.regions.get(number)
        if region is None:
            continue
        mine = np.flatnonzero(inside & (surface[some] == number))
        if len(mine):
            inside[mine] = within(region[0].rings, met[mine] @ region[1].T)
    found[some] = inside
    return found


def cones_of(row: Row, surface: Indices) -> tuple[Indices, Indices]:
    """For each of some surfaces its cones of sight, at which what it hides may change: which of
    them (k,) and the cone's number (k,)."""
    counts = row.cone_first[surface + 1] - row.cone_first[surface]
    which = np.repeat(np.arange(len(surface)), counts)
    at = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    return which, row.cone_first[surface[which]] + at


def form_scale(arcs: Array, forms: Array) -> Array:
    """(n,) how large a form (k, k) may be along an arc: smaller values are measured by it."""
    reach = np.abs(arcs).max(axis=1)
    return np.asarray((reach[:, :, None] * np.abs(forms) * reach[:, None, :]).max(axis=(1, 2)))

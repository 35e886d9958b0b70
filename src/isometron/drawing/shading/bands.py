"""Curved forms cut along their curves of equal light: where light turns to shade, where one step
ends and the next begins, where an underside begins.

The cosine between the true surface and the light is known at the corners of every facet and taken
as even along its sides, so that a curve runs straight across a facet; it misses the true one by no
more than the facets miss the surface (CHORD of the radius)."""

from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.document.light import Light
from isometron.drawing.shading.values import (
    UNDERSIDE,
    Span,
    bounds_of_steps,
    lightness,
    steps_of,
)
from isometron.hiding.areas import Skin
from isometron.perspective.eye import Array

SAME = 1e-9
"""A facet is cut only where the light on its corners differs by more."""


class Lit(NamedTuple):
    """A skin under a light: its facets, bent ones cut to bands, and of each (n,) the cosine between
    the true surface and the light, and the step."""

    skin: Skin
    cosines: Array
    steps: NDArray[np.intp]


def lit_skin(skin: Skin, light: Light, count: int, span: Span) -> Lit:
    """A skin in count steps of grey over a span of angles to the light."""
    cosines = lightness(light, skin.normals, skin.middles)
    rises = skin.normals[:, 2].copy()
    bent = [n for n, bends in enumerate(skin.bends) if bends is not None]
    if not bent:
        return Lit(skin, cosines, steps_of(cosines, rises, count, span))
    rings = np.concatenate([skin.rings[n][0] for n in bent])
    square = np.concatenate([skin.bends[n] for n in bent])
    lengths = np.array([len(skin.rings[n][0]) for n in bent])
    begins = np.concatenate([[0], np.cumsum(lengths)[:-1]])
    corners = np.column_stack([rings, lightness(light, square, rings), square[:, 2]])
    means = np.add.reduceat(corners[:, 3:], begins) / lengths[:, None]
    cosines[bent], rises[bent] = means.T
    bounds = bounds_of_steps(count, span)
    split = _straddling(corners, begins, bounds)
    if not split.any():
        return Lit(skin, cosines, steps_of(cosines, rises, count, span))
    kept = np.ones(len(skin.face), dtype=bool)
    parts: list[Array] = []
    owner: list[int] = []
    for row in np.flatnonzero(split).tolist():
        kept[bent[row]] = False
        one = corners[begins[row] : begins[row] + lengths[row]]
        for part in _bands(one, bounds):
            parts.append(part)
            owner.append(bent[row])
    cut = _with_parts(skin, kept, parts, owner)
    added = np.array([part[:, 3:].mean(axis=0) for part in parts]).reshape(-1, 2)
    cosines = np.concatenate([cosines[kept], added[:, 0]])
    rises = np.concatenate([rises[kept], added[:, 1]])
    return Lit(cut, cosines, steps_of(cosines, rises, count, span))


def _straddling(
    corners: Array, begins: NDArray[np.intp], bounds: Sequence[float]
) -> NDArray[np.bool_]:
    """(m,) facets over which the light passes a bound, or which begin to face down in shade."""
    low = np.minimum.reduceat(corners[:, 3:], begins)
    high = np.maximum.reduceat(corners[:, 3:], begins)
    split = (low[:, 0] < -SAME) & (low[:, 1] < UNDERSIDE - SAME) & (high[:, 1] > UNDERSIDE + SAME)
    for bound in bounds:
        split |= (low[:, 0] < bound - SAME) & (high[:, 0] > bound + SAME)
    return np.asarray(split)


def _bands(corners: Array, bounds: Sequence[float]) -> list[Array]:
    """A facet, rows (k, 5) place, cosine, rise, cut at the bounds of the cosine and, in shade,
    where undersides begin."""
    parts = [corners]
    for column, bound in [(3, one) for one in bounds] + [(4, UNDERSIDE)]:
        cut: list[Array] = []
        for part in parts:
            off = part[:, column] - bound
            if (column == 4 and part[:, 3].max() > SAME) or off.min() >= -SAME or off.max() <= SAME:
                cut.append(part)
                continue
            cut += [half for half in (_above(part, off), _above(part, -off)) if len(half) > 2]
        parts = cut
    return parts


def _above(rows: Array, off: Array) -> Array:
    """The part of a ring of rows (k, d) where `off` (k,) is 0 or more, the cuts included."""
    found = []
    for i in range(len(rows)):
        before, here = float(off[i - 1]), float(off[i])
        if (before > 0 > here) or (before < 0 < here):
            share = before / (before - here)
            found.append(rows[i - 1] + share * (rows[i] - rows[i - 1]))
        if here >= 0:
            found.append(rows[i])
    return np.array(found).reshape(-1, rows.shape[1])


def _with_parts(
    skin: Skin, kept: NDArray[np.bool_], parts: Sequence[Array], owner: Sequence[int]
) -> Skin:
    """The skin with some of its facets replaced by parts of them."""
    left = np.flatnonzero(kept).tolist()
    return replace(
        skin,
        rings=(*(skin.rings[n] for n in left), *((part[:, :3],) for part in parts)),
        bends=(*(skin.bends[n] for n in left), *(None for _part in parts)),
        figure=np.concatenate([skin.figure[kept], skin.figure[list(owner)]]),
        face=np.concatenate([skin.face[kept], skin.face[list(owner)]]),
        middles=np.concatenate([skin.middles[kept], [part[:, :3].mean(axis=0) for part in parts]]),
        normals=np.concatenate([skin.normals[kept], skin.normals[list(owner)]]),
        offsets=np.concatenate([skin.offsets[kept], skin.offsets[list(owner)]]),
    )

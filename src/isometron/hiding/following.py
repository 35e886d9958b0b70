"""Where two surfaces that bend meet: a curve of the fourth order, followed step by step.

The curve is found where curves drawn on one surface (its profile at many angles, the lines along
its way, its rims) pierce the other, and followed from there along the cross product of both
normals, each step brought back onto both surfaces by Newton's method. Between two steps lies an arc
of a conic with the true tangents at its ends and a true place between them; steps are halved until
the arc misses the curve by less than OFF of the figure's size."""

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Surfaces, SweptPatch, TurnedPatch
from isometron.framework.bodies.turned import curve_on_round
from isometron.framework.figures import Figure
from isometron.hiding.walking import Patch, arc_of, quadric_of, walk
from isometron.nearness import CLOSE, NEAR, ROUNDING, SAME
from isometron.perspective.conics import moved, points_at, quadratic_along, roots, straight
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

NEARBY = 1e-3
"""A place no further from a chord than this share of its arc's reach may lie on the arc."""

ANGLES = 48
"""Profiles of a turned surface that are tried for places where the curve runs."""

CHORDS = 32
"""Chords of an arc that has been followed, to tell which places it has passed."""

LINES = 12
"""Lines along the way of a carried arc that are tried."""


class _Skin(NamedTuple):
    """One surface in the world: its number, form (4, 4), half spaces (k, 4), limits (l, 4, 4),
    itself again as numbers, and curves (n, 3, 4) on it that between them cross whatever runs across
    it."""

    number: int
    form: Array
    within: Array
    limits: Array
    patch: Patch
    curves: Array

    def holds(self, places: Array, slack: float) -> NDArray[np.bool_]:
        """(p,) whether places (p, 3) on the quadric lie on this piece of it."""
        every = np.concatenate([places, np.ones((len(places), 1))], axis=1)
        inside = (every @ self.within.T >= -slack).all(axis=1)
        for limit in self.limits:
            inside &= ((every @ limit) * every).sum(axis=1) >= -slack
        return np.asarray(inside)


def follow(
    a: Figure, b: Figure, near: NDArray[np.bool_], size: float
) -> list[tuple[Array, int, int]]:
    """Arcs (3, 4) of the curves in which the bent surfaces of two figures meet, with the number of
    the surface of each; world mm. near (s, t): which may meet at all."""
    found: list[tuple[Array, int, int]] = []
    if not near[a.body.faces :, b.body.faces :].any():
        return found
    ours, theirs = _skins(a), _skins(b)
    for one in ours:
        for other in theirs:
            if not near[one.number, other.number] or _coincide(one, other):
                continue
            seeds = np.concatenate(
                [_piercing(one.curves, other, size), _piercing(other.curves, one, size)]
            )
            found += [(arc, one.number, other.number) for arc in _runs(one, other, seeds, size)]
    return found


def _coincide(one: _Skin, other: _Skin) -> bool:
    """Whether two surfaces are pieces of one quadric: they meet in no curve."""
    a, b = one.form / np.abs(one.form).max(), other.form / np.abs(other.form).max()
    return float(min(np.abs(a - b).max(), np.abs(a + b).max())) < ROUNDING


@remembered()
def _skins(figure: Figure) -> list[_Skin]:
    surfaces = figure.body.surfaces
    assert surfaces is not None
    to_own = np.eye(4)
    to_own[:3, :3] = figure.axes
    to_own[:3, 3] = -figure.axes @ figure.place
    skins = []
    patches: list[TurnedPatch | SweptPatch] = [*surfaces.turned, *surfaces.swept]
    for patch in patches:
        number = patch.surface
        form = to_own.T @ surfaces.forms[number] @ to_own
        curves = np.concatenate([_across(patch), surfaces.rims[surfaces.rim_surface == number]])
        within = surfaces.within[number] @ to_own
        within = within[(within[:, :3] != 0).any(axis=1)]
        limits = to_own.T @ _real_limits(surfaces, number) @ to_own
        planes = tuple((a, b, c, d) for a, b, c, d in within.tolist())
        found = Patch(quadric_of(form), planes, tuple(quadric_of(one) for one in limits))
        curves = moved(curves, figure.axes, figure.place)
        skins.append(_Skin(number, form, within, limits, found, curves))
    return skins


def _real_limits(surfaces: Surfaces, number: int) -> Array:
    limits = surfaces.limits[number]
    return np.asarray(limits[(limits[:, :3, :3] != 0).any(axis=(1, 2))])


def _across(patch: TurnedPatch | SweptPatch) -> Array:
    """Curves on a surface close enough together that nothing of any size passes between them."""
    if isinstance(patch, TurnedPatch):
        across = np.linalg.svd(patch.axle[None])[2][1:]
        found = []
        for turn in 2 * math.pi * np.arange(ANGLES) / ANGLES:
            aside = math.cos(turn) * across[0] + math.sin(turn) * across[1]
            towards = np.cross(patch.axle, aside)
            found.append(
                curve_on_round(patch.segment, (0.0, 0.0), patch.place, patch.axle, towards, aside)
            )
        return np.concatenate(found)
    angles = patch.first + patch.turn * (np.arange(LINES) + 0.5) / LINES
    feet = patch.centre + patch.radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    ends = [patch.ends.at(float(foot[0])) for foot in feet]
    places = feet @ patch.plane
    begin, stop = (np.array([end[i] for end in ends])[:, None] for i in (0, 1))
    return straight(places + begin * patch.way, places + stop * patch.way)


def _piercing(curves: Array, skin: _Skin, size: float) -> Array:
    """Places (k, 3) where curves pierce a surface."""
    values = quadratic_along(curves, np.tile(skin.form, (len(curves), 1, 1)))
    number, t = roots(values)
    places = points_at(curves[number], t)
    return places[skin.holds(places, SAME * size)]


def _runs(one: _Skin, other: _Skin, seeds: Array, size: float) -> list[Array]:
    """Arcs along every curve that runs through one of the seeds (k, 3), each curve once."""
    left = seeds[one.holds(seeds, CLOSE * size) & other.holds(seeds, CLOSE * size)]
    arcs: list[Array] = []
    while len(left):
        x, y, z = left[0].tolist()
        run = walk(one.patch, other.patch, (x, y, z), 1.0, size)
        if not run or math.dist(run[-1][2], (x, y, z)) > NEAR * size:
            back = walk(one.patch, other.patch, (x, y, z), -1.0, size)
            run = [(end, middle, start) for start, middle, end in reversed(back)] + run
        made = [arc_of(one.patch, other.patch, step) for step in run]
        arcs += made
        left = left[1:]
        if made:
            left = left[~_passed(np.array(made), left, size)]
    return arcs


def _passed(arcs: Array, places: Array, size: float) -> NDArray[np.bool_]:
    """(k,) whether places (k, 3) lie on one of some arcs (n, 3, 4)."""
    count = len(arcs)
    t = np.tile(np.linspace(0, 1, CHORDS + 1), count)
    near = points_at(np.repeat(arcs, CHORDS + 1, axis=0), t).reshape(count, -1, 3)
    start, run = near[:, :-1].reshape(-1, 3), np.diff(near, axis=1).reshape(-1, 3)
    reach = np.repeat(np.linalg.norm(near[:, -1] - near[:, 0], axis=1), CHORDS)
    square = np.maximum((run * run).sum(axis=1), 1e-300)
    off = places[:, None] - start
    share = np.clip((off * run).sum(axis=2) / square, 0.0, 1.0)
    gap = np.linalg.norm(off - share[..., None] * run, axis=2)
    return np.asarray((gap <= NEARBY * reach + NEAR * size).any(axis=1))

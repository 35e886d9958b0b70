"""Where two surfaces that bend meet: a curve of the fourth order, followed step by step.

The curve is found where curves drawn on one surface (its profile at many angles, the lines along
its way, its rims) pierce the other, and followed from there along the cross product of both
normals, each step brought back onto both surfaces by Newton's method. Between two steps lies an arc
of a conic with the true tangents at its ends and a true place between them; steps are halved until
the arc misses the curve by less than OFF of the figure's size."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.framework.body import Surfaces, SweptPatch, TurnedPatch
from isometron.framework.figures import Figure
from isometron.framework.turned_bodies import curve_on_round
from isometron.perspective.conics import moved, points_at, quadratic_along, roots, straight
from isometron.perspective.eye import Array

OFF = 2e-6
"""Share of a figure's size by which an arc may miss the curve it stands for."""

STEP = 0.12
"""First step, as a share of the smaller figure's size."""

ANGLES = 48
"""Profiles of a turned surface that are tried for places where the curve runs."""

LINES = 12
"""Lines along the way of a carried arc that are tried."""

MOST_STEPS = 400
MOST_HALVINGS = 12


@dataclass(frozen=True, eq=False)
class _Skin:
    """One surface in the world: its number, form (4, 4), half spaces (k, 4), limits (2, 4, 4), and
    curves (n, 3, 4) on it that between them cross whatever runs across it."""

    number: int
    form: Array
    within: Array
    limits: Array
    curves: Array

    def gradient(self, place: Array) -> Array:
        """Normal (3,) at a place, not of unit length."""
        return np.asarray((self.form @ np.append(place, 1.0))[:3])

    def off(self, place: Array) -> float:
        """The value of its form at a place."""
        one = np.append(place, 1.0)
        return float(one @ self.form @ one)

    def holds(self, place: Array, slack: float) -> bool:
        """Whether a place on the quadric lies on this piece of it."""
        one = np.append(place, 1.0)
        inside = bool((self.within @ one >= -slack).all())
        return inside and all(float(one @ limit @ one) >= -slack for limit in self.limits)


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
            if not near[one.number, other.number]:
                continue
            seeds = [*_piercing(one.curves, other, size), *_piercing(other.curves, one, size)]
            found += [(arc, one.number, other.number) for arc in _runs(one, other, seeds, size)]
    return found


@lru_cache(maxsize=256)
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
        skins.append(
            _Skin(
                number,
                form,
                surfaces.within[number] @ to_own,
                to_own.T @ _real_limits(surfaces, number) @ to_own,
                moved(curves, figure.axes, figure.place),
            )
        )
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


def _piercing(curves: Array, skin: _Skin, size: float) -> list[Array]:
    """Places (3,) where curves pierce a surface."""
    values = quadratic_along(curves, np.tile(skin.form, (len(curves), 1, 1)))
    number, t = roots(values)
    places = points_at(curves[number], t)
    return [place for place in places if skin.holds(place, 1e-9 * size)]


def _runs(one: _Skin, other: _Skin, seeds: list[Array], size: float) -> list[Array]:
    """Arcs along every curve that runs through one of the seeds, each curve once."""
    left = [
        place
        for place in seeds
        if one.holds(place, 1e-7 * size) and other.holds(place, 1e-7 * size)
    ]
    arcs: list[Array] = []
    while left:
        start = left.pop(0)
        run = _walk(one, other, start, 1.0, size)
        if not run or float(np.linalg.norm(run[-1][2] - start)) > 1e-6 * size:
            run = [arc[::-1] for arc in reversed(_walk(one, other, start, -1.0, size))] + run
        made = [_arc(one, other, *step) for step in run]
        arcs += made
        left = [place for place in left if not _passed(made, place, size)]
    return arcs


Step = tuple[Array, Array, Array]
"""Start, a place between, end of one step along the curve."""


def _walk(one: _Skin, other: _Skin, start: Array, sense: float, size: float) -> list[Step]:
    """Steps from a place on until the curve closes or leaves either surface."""
    steps: list[Step] = []
    at, step = start, STEP * size
    way = _way(one, other, at, None)
    if way is None:
        return []
    way = sense * way
    for _ in range(MOST_STEPS):
        taken = _step(one, other, at, way, step, size)
        if taken is None:
            break
        middle, end, length = taken
        step = min(2 * length, STEP * size)
        if not (one.holds(end, 0.0) and other.holds(end, 0.0)):
            last = _up_to_the_rim(one, other, at, way, length)
            if last is not None:
                steps.append((at, last[0], last[1]))
            break
        home = len(steps) > 1 and float(np.linalg.norm(end - start)) < 0.75 * length
        if home and float((start - at) @ way) > 0:
            half = _onto(one, other, (at + start) / 2)
            steps.append((at, half if half is not None else (at + start) / 2, start))
            break
        steps.append((at, middle, end))
        forward = _way(one, other, end, way)
        if forward is None:
            break
        at, way = end, forward
    return steps


def _way(one: _Skin, other: _Skin, place: Array, before: Array | None) -> Array | None:
    """Unit direction of the curve at a place, going on as before; None where the surfaces touch."""
    a, b = one.gradient(place), other.gradient(place)
    way = np.cross(a, b)
    length = float(np.linalg.norm(way))
    if length <= 1e-9 * float(np.linalg.norm(a)) * float(np.linalg.norm(b)):
        return None
    way = way / length
    return np.asarray(-way if before is not None and float(way @ before) < 0 else way)


def _onto(one: _Skin, other: _Skin, place: Array) -> Array | None:
    """The place of the curve near a place: the least move that puts it on both surfaces, repeated
    (Newton's method); None when it leads nowhere."""
    for _ in range(20):
        off = np.array([one.off(place), other.off(place)])
        slopes = 2 * np.stack([one.gradient(place), other.gradient(place)])
        square = slopes @ slopes.T
        if abs(float(np.linalg.det(square))) < 1e-300:
            return None
        move = -slopes.T @ np.linalg.solve(square, off)
        place = place + move
        if float(np.abs(move).max()) <= 1e-14 * (1.0 + float(np.abs(place).max())):
            return place
    return place if float(np.abs(move).max()) <= 1e-10 * (1 + np.abs(place).max()) else None


def _step(
    one: _Skin, other: _Skin, at: Array, way: Array, length: float, size: float
) -> tuple[Array, Array, float] | None:
    """A step short enough that its arc runs along the curve: a place between, its end, its
    length."""
    for _ in range(MOST_HALVINGS):
        end = _onto(one, other, at + length * way)
        middle = None if end is None else _onto(one, other, (at + end) / 2)
        if end is not None and middle is not None:
            forward = _way(one, other, end, way)
            straightened = forward is not None and float(forward @ way) > 0.8
            if straightened and _misses(one, other, (at, middle, end)) <= OFF * size:
                return middle, end, length
        length /= 2
    return None


def _misses(one: _Skin, other: _Skin, step: Step) -> float:
    """How far the arc of a step lies off the surfaces at its quarters, mm."""
    arc = _arc(one, other, *step)
    worst = 0.0
    for place in points_at(np.tile(arc, (2, 1, 1)), np.array([0.25, 0.75])):
        for skin in (one, other):
            slope = 2 * float(np.linalg.norm(skin.gradient(place)))
            worst = max(worst, abs(skin.off(place)) / max(slope, 1e-300))
    return worst


def _arc(one: _Skin, other: _Skin, start: Array, middle: Array, end: Array) -> Array:
    """The arc (3, 4) of a conic from start to end whose middle place is given: its control point is
    where the tangents at the ends come nearest each other."""
    a, b = _way(one, other, start, end - start), _way(one, other, end, end - start)
    chord = end - start
    control = (start + end) / 2
    if a is not None and b is not None:
        square = 1.0 - float(a @ b) ** 2
        if square > 1e-10:
            s = (float(chord @ a) - float(chord @ b) * float(a @ b)) / square
            t = (float(chord @ a) * float(a @ b) - float(chord @ b)) / square
            control = (start + s * a + end + t * b) / 2
    bulge = control - (start + end) / 2
    rise = middle - (start + end) / 2
    length = float(bulge @ bulge)
    share = float(rise @ bulge) / length if length > 1e-24 * float(chord @ chord) else 0.5
    share = min(max(share, 1e-3), 0.999)
    weight = share / (1.0 - share)
    arc = np.ones((3, 4))
    arc[0, :3], arc[2, :3] = start, end
    arc[1, :3], arc[1, 3] = weight * control, weight
    return arc


def _up_to_the_rim(
    one: _Skin, other: _Skin, at: Array, way: Array, length: float
) -> tuple[Array, Array] | None:
    """The last step, to where the curve leaves either surface: a place between, and its end."""
    low, high = 0.0, length
    for _ in range(60):
        half = (low + high) / 2
        place = _onto(one, other, at + half * way)
        if place is not None and one.holds(place, 0.0) and other.holds(place, 0.0):
            low = half
        else:
            high = half
    end = _onto(one, other, at + low * way)
    middle = None if end is None else _onto(one, other, (at + end) / 2)
    if end is None or middle is None or low <= 1e-9 * length:
        return None
    return middle, end


def _passed(arcs: list[Array], place: Array, size: float) -> bool:
    """Whether a place lies on one of some arcs."""
    for arc in arcs:
        ends = arc[[0, 2], :3] / arc[[0, 2], 3:]
        reach = float(np.linalg.norm(ends[1] - ends[0]))
        if float(np.linalg.norm(ends - place, axis=1).min()) > reach + 1e-6 * size:
            continue
        near = points_at(np.tile(arc, (33, 1, 1)), np.linspace(0, 1, 33))
        start, run = near[:-1], np.diff(near, axis=0)
        square = np.maximum((run * run).sum(axis=1), 1e-300)
        share = np.clip(((place - start) * run).sum(axis=1) / square, 0.0, 1.0)
        off = np.linalg.norm(start + share[:, None] * run - place, axis=1).min()
        if float(off) <= 1e-3 * reach + 1e-6 * size:
            return True
    return False

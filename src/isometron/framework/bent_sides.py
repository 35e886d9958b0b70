"""Bent sides of a volume as drawing planes: unrolled, round the girth and up the side.

Bent side −1 is all of a turned form, or else the first arch of an extrusion; −2 and so on the
others. What is drawn there is carried onto the surface in arcs so short that they lie on it within
a millionth of its radius.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from isometron.framework.bodies.body import Body, Indices, SweptPatch, TurnedPatch, is_straight
from isometron.framework.circles import FacePlane, flat_plane
from isometron.framework.outlines import Flat, curves_of
from isometron.perspective.conics import points_at
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

STEP_DEG = 2.0
"""One short arc turns by no more than this round the side."""

SIDE_STEPS = 200
"""Into so many steps a bent side is measured along."""

ROUND_PIECES = 12
"""A curved piece of an outline is carried in so many at least."""

PIECES = 48
"""And goes no farther up the side than this part of it."""


@dataclass(frozen=True, eq=False)
class BentSide:
    """A bent side unrolled: its girth and the way up it, mm. Seen from the front it runs from left
    to right: the front of a turned form lies at half its girth."""

    extents: tuple[float, float]
    turned: tuple[TurnedPatch, ...]
    heights: Array
    along: Array
    swept: SweptPatch | None = None

    def place(self, u: float, v: float) -> Array:
        """The place (3,), own mm, of a place of the unrolled side."""
        if self.swept is not None:
            return self._on_arch(self.swept, u, v)
        height = float(np.interp(v, self.along, self.heights))
        one = self._patch(height)
        right, front = _front(one.axle)
        turn = 2 * math.pi * u / self.extents[0]  # from the back over the left to the front
        out = -math.cos(turn) * front - math.sin(turn) * right
        return np.asarray(one.place + height * one.axle + one.segment.radius(height) * out)

    def surface(self, v: float) -> int:
        """The number of the surface at a way up the side."""
        if self.swept is not None:
            return self.swept.surface
        return self._patch(float(np.interp(v, self.along, self.heights))).surface

    def _patch(self, height: float) -> TurnedPatch:
        last = self.turned[-1]
        return next((one for one in self.turned if height <= one.segment.high), last)

    def _on_arch(self, one: SweptPatch, u: float, v: float) -> Array:
        angle = one.first + math.copysign(v / one.radius, one.turn)
        flat = one.centre + one.radius * np.array([math.cos(angle), math.sin(angle)])
        begin, stop = one.ends.at(float(flat[0]))
        share = begin + (stop - begin) * u / self.extents[0]
        return np.asarray(flat @ one.plane + share * one.way)

    def carried(self, ring: Flat) -> tuple[Array, Indices]:
        """A ring of the unrolled side as short arcs (k, 3, 4) on it, and the surface (k,) of
        each."""
        arcs, surfaces = [], []
        for curve in np.concatenate(curves_of(ring)):
            flat = curve[:, :2] / curve[:, 2:]
            run, rise = (float(v) for v in np.abs(np.diff(flat, axis=0)).sum(axis=0))
            turn = 360.0 * run / self.extents[0]
            least = 1 if is_straight(curve[None])[0] else ROUND_PIECES
            steps = max(
                least, math.ceil(turn / STEP_DEG), math.ceil(PIECES * rise / self.extents[1])
            )
            t = np.linspace(0.0, 1.0, 2 * steps + 1)
            places = points_at(np.tile(curve, (len(t), 1, 1)), t)
            world = [self.place(float(u), float(v)) for u, v in places]
            for n in range(steps):
                first, middle, last = world[2 * n : 2 * n + 3]
                arc = np.ones((3, 4))
                arc[0, :3], arc[2, :3] = first, last
                arc[1, :3] = 2 * middle - (first + last) / 2
                arcs.append(arc)
                surfaces.append(self.surface(float(places[2 * n + 1, 1])))
        return np.array(arcs), np.array(surfaces, dtype=np.intp)


def _front(axle: Array) -> tuple[Array, Array]:
    """Two directions across an axle: to the right as one looks at the front, and the way the front
    looks."""
    front = np.array([0.0, -1.0, 0.0])
    if abs(float(axle @ front)) > 0.9:
        front = np.array([0.0, 0.0, 1.0])
    front = front - float(front @ axle) * axle
    front = front / np.linalg.norm(front)
    return np.cross(axle, front), front


def side_of(body: Body, face: int) -> BentSide:
    """A bent side (−1 − n) of a body. Raises VolumeError when it is gone, or has no one side."""
    own, number = body.surfaces, -1 - face
    if own is not None and own.turned and number == 0:
        if any(one.axle is not own.turned[0].axle for one in own.turned):
            raise VolumeError(_("A bent bar has no one side to draw on: choose its ends."))
        return _unrolled(sorted(own.turned, key=lambda one: float(one.segment.low)))
    first = 0 if own is None else number - bool(own.turned)
    if own is None or not 0 <= first < len(own.swept):
        raise VolumeError(_("That round side is gone: choose one that is there."))
    swept = own.swept[first]
    long = float(np.linalg.norm(swept.way))
    empty = np.empty(0)
    return BentSide((long, swept.radius * abs(swept.turn)), (), empty, empty, swept)


def _unrolled(patches: list[TurnedPatch]) -> BentSide:
    outer = [one for one in patches if one.segment.radius(one.segment.high) >= 0]
    heights, along, radii = up_the_side(outer)
    extents = (2 * math.pi * max(0.0, float(radii.max())), float(along[-1]))
    return BentSide(extents, tuple(outer), heights, along)


def up_the_side(patches: Sequence[TurnedPatch]) -> tuple[Array, Array, Array]:
    """Heights (n,) along the axle of a turned side, how far along the side each lies, and its
    radius there, mm. The pieces follow each other from below."""
    heights, along, radii, total = [], [], [], 0.0
    for one in patches:
        places = np.linspace(one.segment.low, one.segment.high, SIDE_STEPS + 1)
        wide = np.array([one.segment.radius(float(h)) for h in places])
        steps = np.hypot(np.diff(places), np.diff(wide))
        heights.append(places)
        radii.append(wide)
        along.append(total + np.concatenate([[0.0], np.cumsum(steps)]))
        total += float(steps.sum())
    return np.concatenate(heights), np.concatenate(along), np.concatenate(radii)


def bent_numbers(body: Body) -> dict[int, int]:
    """The bent surfaces of a body by their number, and the number −1 − n of the side each is of."""
    own = body.surfaces
    if own is None:
        return {}
    sides = {one.surface: -1 for one in own.turned}
    first = bool(own.turned)
    return sides | {one.surface: -1 - first - n for n, one in enumerate(own.swept)}


def drawing_plane(body: Body, face: int) -> FacePlane | BentSide:
    """A flat face, or (below 0) a bent side, to draw on. Raises VolumeError when it is gone."""
    return side_of(body, face) if face < 0 else flat_plane(body, face)

"""The outline of a plane face in its own plane: which parts of lines and arcs lie on the face."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import MOST_FACES, Body, Indices, flat_loop, is_straight
from isometron.nearness import SAME
from isometron.perspective.conics import (
    adjugate,
    linear_along,
    points_at,
    quadratic_along,
    roots,
)
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

APART = 1e-9
"""Parts shorter than this share of their arc are none."""

ON_THE_RAY = 1e-13
"""Ends of arcs nearer to a ray than this share of the face lie on it, and count as above it: the
two arcs that meet there must be told alike."""

SAME_CONIC = 1e-10
"""An arc along which the form of another is smaller than this lies on it all along."""

PARABOLA = np.array([[0.0, 0.0, -2.0], [0.0, 1.0, 0.0], [-2.0, 0.0, 0.0]])
"""The conic of every quadratic arc in coordinates of its three control points: m² = 4·a·b."""


class FaceOutline(NamedTuple):
    """The outline of a face, own mm.

    place (3,) of its plane and two directions across (2, 3) in it; arcs (k, 3, 3) of all its loops
    in that plane; straight ones as lines (l, 3) and the others as conics (c, 3, 3), with bounds
    (l, 4) and (c, 4).
    """

    place: Array
    across: Array
    arcs: Array
    lines: Array
    line_bounds: Array
    conics: Array
    conic_bounds: Array

    def flat(self, arcs: Array) -> Array:
        """Arcs (n, 3, 4) of the face's plane as arcs (n, 3, 3) in it."""
        off = arcs[..., :3] - arcs[..., 3:] * self.place
        return np.concatenate([off @ self.across.T, arcs[..., 3:]], axis=2)

    def inside(self, points: Array) -> NDArray[np.bool_]:
        """(p,) whether points (p, 2) of the plane lie on the face: by crossings of a ray along the
        first direction with every arc."""
        k = len(self.arcs)
        values = self.arcs[None, :, :, 1] - points[:, 1][:, None, None] * self.arcs[None, :, :, 2]
        least = ON_THE_RAY * (1.0 + float(np.abs(self.arcs[..., 1]).max(initial=0.0)))
        values = np.where(np.abs(values) <= least, least, values).reshape(-1, 3)
        number, t = roots(values)
        beyond = points_at(self.arcs[number % k], t)[:, 0] > points[number // k, 0]
        return np.asarray(np.bincount(number[beyond] // k, minlength=len(points)) % 2 == 1)

    def parts(self, arcs: Array) -> tuple[Indices, Array, Array]:
        """The parts of flat arcs (n, 3, 3) that lie on the face: number (k,), from (k,), to (k,) in
        their parameter."""
        count = len(arcs)
        bounds = flat_bounds(arcs)
        number, t = np.concatenate([np.arange(count)] * 2), np.repeat([0.0, 1.0], count)
        arc, line = np.nonzero(_overlap(bounds, self.line_bounds))
        found, at = roots(linear_along(arcs[arc], self.lines[line]))
        number, t = np.concatenate([number, arc[found]]), np.concatenate([t, at])
        arc, conic = np.nonzero(_overlap(bounds, self.conic_bounds))
        values = quadratic_along(arcs[arc], self.conics[conic])
        scale = np.abs(arcs[arc]).max(axis=(1, 2), initial=0.0) ** 2
        values[np.abs(values).max(axis=1, initial=0.0) <= SAME_CONIC * scale] = 0.0
        found, at = roots(values)
        number, t = np.concatenate([number, arc[found]]), np.concatenate([t, at])
        order = np.lexsort((t, number))
        number, t = number[order], t[order]
        some = np.flatnonzero((number[1:] == number[:-1]) & (t[1:] - t[:-1] > APART))
        number, low, high = number[some], t[some], t[some + 1]
        on = self.inside(points_at(arcs[number], (low + high) / 2))
        return number[on], low[on], high[on]


def flat_bounds(arcs: Array) -> Array:
    """Bounds (n, 4) left, bottom, right, top of flat arcs (n, 3, k) with weights above 0."""
    places = arcs[..., :2] / np.maximum(arcs[..., -1:], 1e-300)
    return np.concatenate([places.min(axis=1), places.max(axis=1)], axis=1)


def _overlap(a: Array, b: Array) -> NDArray[np.bool_]:
    """(n, m) whether bounds (n, 4) and (m, 4) overlap or touch."""
    slack = SAME * max(float(np.abs(a).max(initial=0.0)), float(np.abs(b).max(initial=0.0)))
    one, two = a[:, None], b[None]
    low, high = np.maximum(one[..., :2], two[..., :2]), np.minimum(one[..., 2:], two[..., 2:])
    return np.asarray((low <= high + slack).all(axis=2))


@remembered(most=MOST_FACES)
def outline_of(body: Body, face: int) -> FaceOutline:
    """The outline of a plane face of a body."""
    loops = np.concatenate([np.empty((0, 3, 4)), *body.loops(face)])
    normal = body.normals[face]
    place = normal * body.offsets[face]
    across = flat_loop(np.eye(3, 4)[None], normal)[0, :, :2].T
    off = loops[..., :3] - loops[..., 3:] * place
    arcs = np.concatenate([off @ across.T, loops[..., 3:]], axis=2)
    level = is_straight(arcs)
    ends = arcs[level][:, [0, 2]]
    ends = ends[..., :2] / ends[..., 2:]
    run = ends[:, 1] - ends[:, 0]
    run = run / np.maximum(np.linalg.norm(run, axis=1, keepdims=True), 1e-300)
    aside = np.stack([-run[:, 1], run[:, 0]], axis=1)
    lines = np.concatenate([aside, -(aside * ends[:, 0]).sum(axis=1)[:, None]], axis=1)
    bent = arcs[~level]
    size = np.abs(bent).max(axis=(1, 2), initial=0.0)[:, None, None]
    inverse = adjugate(np.swapaxes(bent, 1, 2) / np.where(size > 0, size, 1.0))
    conics = np.swapaxes(inverse, 1, 2) @ PARABOLA @ inverse
    largest = np.abs(conics).max(axis=(1, 2), initial=0.0)[:, None, None]
    bounds = flat_bounds(arcs)
    return FaceOutline(
        place,
        across,
        arcs,
        lines,
        bounds[level],
        conics / np.where(largest > 0, largest, 1.0),
        bounds[~level],
    )

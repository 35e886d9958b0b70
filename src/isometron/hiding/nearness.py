"""Which surfaces of two figures can meet at all: sorted out before anything is cut."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Indices
from isometron.framework.bodies.hulls import hulls_of
from isometron.framework.figures import Figure
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

SURE = 1e-9
"""Share of the sizes within which nothing is sorted out."""


class _Held(NamedTuple):
    """The surfaces of a figure in the world: points (p, 3) round each, from first (s,) on; the
    upright extents low, high (s, 3); round ones (q,) as forms (q, 4, 4) below 0 in the convex space
    they bound."""

    points: Array
    first: Indices
    low: Array
    high: Array
    round_ones: Indices
    forms: Array


@remembered()
def _held(figure: Figure) -> _Held:
    hulls, own = hulls_of(figure.body), figure.body.surfaces
    points = hulls.points @ figure.axes + figure.place
    first = hulls.first[:-1]
    low, high = np.minimum.reduceat(points, first), np.maximum.reduceat(points, first)
    numbers = np.empty(0, dtype=np.intp)
    forms = np.empty((0, 4, 4))
    if own is not None:
        to_own = np.eye(4)
        to_own[:3, :3] = figure.axes
        to_own[:3, 3] = -figure.axes @ figure.place
        bent = np.flatnonzero(~own.plane)
        every = to_own.T @ own.forms[bent] @ to_own
        bends = np.linalg.eigvalsh(every[:, :3, :3])
        slack = SURE * np.abs(bends).max(axis=1, initial=0.0)
        outward, inward = bends[:, 0] >= -slack, bends[:, -1] <= slack
        convex = outward | inward
        numbers = bent[convex]
        forms = np.where(outward, 1.0, -1.0)[convex, None, None] * every[convex]
    return _Held(points, first, low, high, numbers, forms)


def may_meet(a: Figure, b: Figure) -> NDArray[np.bool_]:
    """(s, t) whether each surface of a may meet each of b: their upright extents overlap, neither
    lies on one side of the other's plane, nor wholly within the other's round."""
    if not (len(hulls_of(a.body).points) and len(hulls_of(b.body).points)):
        return np.zeros((len(hulls_of(a.body).first) - 1, len(hulls_of(b.body).first) - 1), bool)
    one, two = _held(a), _held(b)
    slack = SURE * max(float(np.abs(one.points).max()), float(np.abs(two.points).max()))
    low = np.maximum(one.low[:, None], two.low[None])
    high = np.minimum(one.high[:, None], two.high[None])
    near: NDArray[np.bool_] = np.asarray((low <= high + slack).all(axis=2))
    near[: a.body.faces] &= ~_aside(a, two, slack)
    near[:, : b.body.faces] &= ~_aside(b, one, slack).T
    near[one.round_ones] &= ~_within(one, two)
    near[:, two.round_ones] &= ~_within(two, one).T
    return near


def _aside(figure: Figure, held: _Held, slack: float) -> NDArray[np.bool_]:
    """(k, t) whether all of a surface lies on one side of the plane of a face."""
    off = held.points @ figure.normals.T - figure.offsets
    low, high = np.minimum.reduceat(off, held.first), np.maximum.reduceat(off, held.first)
    return np.asarray(((low > slack) | (high < -slack)).T)


def _within(one: _Held, two: _Held) -> NDArray[np.bool_]:
    """(q, t) whether all of a surface lies within the convex space that a round one bounds."""
    place = np.concatenate([two.points, np.ones((len(two.points), 1))], axis=1)
    far = np.abs(place)
    value = ((place @ one.forms) * place).sum(axis=2)
    size = ((far @ np.abs(one.forms)) * far).sum(axis=2)
    return np.asarray(np.maximum.reduceat(value + SURE * size, two.first, axis=1) < 0)

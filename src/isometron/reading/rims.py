"""Rims: the ellipse whose distances to the marked points are least, and how surely."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import CLOSE
from isometron.perspective.errors import IsometronError
from isometron.words import _

SETTLED = 1e-13
"""Angles, radians, that a step changes by less have been found."""

Array = NDArray[np.float64]

LEAST_POINTS = 6
"""An ellipse has five numbers: fewer points say nothing of their own noise."""

MOST_ROUNDS = 80
ENOUGH = 1e-12
"""A round that lessens the sum of squares by less than this share ends the fit."""


class RimError(IsometronError):
    """Points that are no rim."""


@dataclass(frozen=True, eq=False)
class RimFit:
    """An ellipse (cx, cy, long half axis, short half axis, angle of the long one in radians) fitted
    to points; covariance (5, 5) of these for noise 1; misses (n,): signed distances of the points,
    outward."""

    values: Array
    covariance: Array
    misses: Array

    @property
    def degree_deg(self) -> float:
        """How far the circle opens."""
        return math.degrees(math.asin(min(self.values[3] / self.values[2], 1.0)))

    @property
    def degree_row(self) -> Array:
        """How the degree (radians) changes with the five values, (5,)."""
        a, b = self.values[2:4]
        slope = 1.0 / math.sqrt(max(a * a - b * b, 1e-18))
        return np.array([0.0, 0.0, -b / a * slope, slope, 0.0])


def fit_rim(points: Array) -> RimFit:
    """The ellipse nearest to points (n, 2), in the sense of the sum of squared distances at right
    angles: the maximum-likelihood one when every point errs alike in all directions.

    Begun with the direct algebraic fit (Halíř and Flusser, 1998), then Gauss–Newton on the true
    distances, less what that leans to one side. Raises RimError for fewer than six points, points
    in a line, and points that lie on no ellipse.
    """
    if len(points) < LEAST_POINTS:
        raise RimError(_("A rim needs at least six points: mark more along it."))
    middle = points.mean(axis=0)
    size = float(np.sqrt(((points - middle) ** 2).sum(axis=1).mean()))
    if size == 0 or np.linalg.svd(points - middle, compute_uv=False)[1] < CLOSE * size:
        raise RimError(_("These points lie in a line: it is a rim seen edge-on, or no rim."))
    own = (points - middle) / size
    values = _direct(own)
    if values is None:
        raise RimError(_("These points lie on no ellipse: mark more of the rim."))
    values, misses, slopes = _nearest(own, values)
    values = values - _lean(own, values, misses, slopes)
    if values[2] < values[3]:
        values = np.array([*values[:2], values[3], values[2], values[4] + math.pi / 2])
        slopes = slopes[:, [0, 1, 3, 2, 4]]
    values[4] = (values[4] + math.pi / 2) % math.pi - math.pi / 2
    scale = np.array([size, size, size, size, 1.0])
    slopes = slopes / scale * size  # of true distances by true values
    covariance = np.linalg.pinv(slopes.T @ slopes)
    values = values * scale + np.array([*middle, 0.0, 0.0, 0.0])
    return RimFit(values, covariance, misses * size)


def _direct(points: Array) -> Array | None:
    """An ellipse by the direct algebraic fit, or None."""
    x, y = points.T
    quadratic = np.stack([x * x, x * y, y * y], axis=1)
    linear = np.stack([x, y, np.ones_like(x)], axis=1)
    s1, s2, s3 = quadratic.T @ quadratic, quadratic.T @ linear, linear.T @ linear
    try:
        t = -np.linalg.solve(s3, s2.T)
    except np.linalg.LinAlgError:
        return None
    m = s1 + s2 @ t
    m = np.array([m[2] / 2, -m[1], m[0] / 2])
    _unused, vectors = np.linalg.eig(m)
    vectors = np.real(vectors)
    inside = 4 * vectors[0] * vectors[2] - vectors[1] ** 2
    if not (inside > 0).any():
        return None
    first = vectors[:, int(np.argmax(inside))]
    return ellipse_of(np.concatenate([first, t @ first]))


def ellipse_of(conic: Array) -> Array | None:
    """Centre, half axes and angle of a conic a x² + b xy + c y² + d x + e y + f = 0; None when it
    is no ellipse."""
    a, b, c, d, e, f = (float(v) for v in conic)
    quadratic = np.array([[a, b / 2], [b / 2, c]])
    if np.linalg.det(quadratic) <= 0:
        return None
    centre = np.linalg.solve(-2 * quadratic, [d, e])
    level = -(f + (d * centre[0] + e * centre[1]) / 2)
    curves, ways = np.linalg.eigh(quadratic)
    squares = level / curves
    if not (squares > 0).all():
        return None
    half = np.sqrt(squares)
    long = int(half.argmax())
    angle = math.atan2(ways[1, long], ways[0, long])
    return np.array([*centre, half[long], half[1 - long], angle])


def _lean(points: Array, values: Array, misses: Array, slopes: Array) -> Array:
    """How far the most likely ellipse leans off the true one on the average, (5,), to second order
    in the noise (Box, 1971): a short arc makes it too long. The noise is that of the misses."""
    freedom = len(misses) - 5
    if freedom < 1:
        return np.zeros(5)
    covariance = np.linalg.pinv(slopes.T @ slopes) * float(misses @ misses) / freedom
    bend = np.zeros(len(points))
    for i in range(5):
        size = 1e-4 * (1.0 if i == 4 else float(values[2]))
        step = np.where(np.arange(5) == i, size, 0.0)
        change = _misses(points, values + step)[1] - _misses(points, values - step)[1]
        bend += change @ covariance[i] / (2 * size)
    lean: Array = -0.5 * np.linalg.pinv(slopes.T @ slopes) @ (slopes.T @ bend)
    within: Array = np.clip(lean, -0.2 * values[3], 0.2 * values[3])
    return within


def _nearest(points: Array, values: Array) -> tuple[Array, Array, Array]:
    """Gauss–Newton on the distances: values, misses (n,), slopes (n, 5) of the misses."""
    misses, slopes = _misses(points, values)
    cost, damping = float(misses @ misses), 1e-4
    for _unused in range(MOST_ROUNDS):
        square = slopes.T @ slopes
        step = np.linalg.solve(
            square + damping * np.diag(np.diag(square) + 1e-15), -slopes.T @ misses
        )
        tried = values + step
        tried[2:4] = values[2:4] * np.exp(np.clip(step[2:4] / values[2:4], -0.5, 0.5))
        missed, sloped = _misses(points, tried)
        if float(missed @ missed) <= cost:
            small = cost - float(missed @ missed) <= ENOUGH * cost
            values, misses, slopes, cost = tried, missed, sloped, float(missed @ missed)
            damping = max(damping / 10, 1e-14)
            if small:
                break
        else:
            damping *= 10
            if damping > 1e8:
                break
    return values, misses, slopes


def _misses(points: Array, values: Array) -> tuple[Array, Array]:
    """Signed distances (n,) of points outward from an ellipse, and how they change with its
    values (n, 5): the foot of a distance moves along the ellipse, which changes nothing."""
    cx, cy, a, b, angle = values
    cos, sin = math.cos(angle), math.sin(angle)
    turned = np.array([[cos, sin], [-sin, cos]])
    own = (points - (cx, cy)) @ turned.T
    t = feet(own, a, b)
    foot = np.stack([a * np.cos(t), b * np.sin(t)], axis=1)
    outward = np.stack([b * np.cos(t), a * np.sin(t)], axis=1)
    outward /= np.hypot(*outward.T)[:, None]
    misses = ((own - foot) * outward).sum(axis=1)
    world = outward @ turned
    along = np.stack([-foot[:, 1], foot[:, 0]], axis=1)
    slopes = -np.stack(
        [
            world[:, 0],
            world[:, 1],
            outward[:, 0] * np.cos(t),
            outward[:, 1] * np.sin(t),
            (outward * along).sum(axis=1),
        ],
        axis=1,
    )
    return misses, slopes


def feet(own: Array, a: float, b: float) -> Array:
    """Where on an ellipse about the origin (half axes a along x, b along y), as its parameter t,
    lie the feet of points (n, 2): Newton on the derivative of the distance, in each point's own
    quarter and kept inside it."""
    x, y = np.abs(own).T
    low, high = np.zeros(len(x)), np.full(len(x), math.pi / 2)
    # on an axis the derivative vanishes where the distance may be greatest: begin beside it
    t = np.clip(np.arctan2(a * y, b * x), 1e-6, math.pi / 2 - 1e-6)
    for _unused in range(60):
        cos, sin = np.cos(t), np.sin(t)
        slope = (a * a - b * b) * cos * sin - x * a * sin + y * b * cos
        low, high = np.where(slope > 0, t, low), np.where(slope > 0, high, t)
        bend = (a * a - b * b) * (cos * cos - sin * sin) - x * a * cos - y * b * sin
        step = np.where(bend < 0, t - slope / np.where(bend < 0, bend, -1.0), (low + high) / 2)
        inside = (step >= low) & (step <= high)
        new = np.where(inside, step, (low + high) / 2)
        change, t = float(np.abs(new - t).max()), new
        if change < SETTLED:
            break
    signs = np.where(own < 0, -1.0, 1.0)
    turned: Array = np.arctan2(signs[:, 1] * np.sin(t), signs[:, 0] * np.cos(t))
    return turned

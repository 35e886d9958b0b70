"""Where one looks from: a point of the world or a direction.

Hiding asks nothing else. A sight line runs from a place X to the viewpoint V, in homogeneous
coordinates through X + τ·V for τ > 0; a viewpoint in a direction is simply one of weight 0. What a
caller knows of the picture it wants (a surface the sight lines are drawn on, a plane before which
nothing is asked) only saves work.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from isometron.perspective.eye import Array


@dataclass(frozen=True, eq=False)
class Viewpoint:
    """A place to look from: world (3,) mm; or, when `far`, the unit direction (3,) towards it.

    chart: (3, 3) from sight coordinates to homogeneous places of a picture, only to tell which
    things cannot meet in it; None when there is none. ahead: (4,) a half space of the world outside
    of which nothing is asked; None for everywhere.
    """

    place: Array
    far: bool = False
    chart: Array | None = None
    ahead: Array | None = None

    def same(self, other: "Viewpoint") -> bool:
        """Whether two viewpoints see the same."""
        return (
            self.far == other.far
            and np.array_equal(self.place, other.place)
            and _alike(self.chart, other.chart)
            and _alike(self.ahead, other.ahead)
        )

    @cached_property
    def origin(self) -> Array:
        """World point (3,) from which places are taken: the viewpoint itself when it is a point, so
        that nothing is lost by rounding."""
        return np.zeros(3) if self.far else self.place

    @cached_property
    def homogeneous(self) -> Array:
        """(4,) the viewpoint from the origin."""
        return np.append(self.place, 0.0) if self.far else np.array([0.0, 0.0, 0.0, 1.0])

    @cached_property
    def sight(self) -> Array:
        """(3, 4) from places taken from the origin to sight coordinates: all places of one sight
        line have the same ones, up to a factor."""
        if not self.far:
            return np.eye(3, 4)
        across = np.linalg.svd(self.place[None])[2][1:]
        rows = np.zeros((3, 4))
        rows[:2, :3] = across
        rows[2, 3] = 1.0
        return rows

    @cached_property
    def lifted(self) -> Array:
        """(4, 3) from sight coordinates back to some place of their sight line."""
        return np.asarray(self.sight.T)

    @cached_property
    def _picture(self) -> Array | None:
        """(3, 4) from places taken from the origin to homogeneous places of the picture."""
        if self.chart is None:
            return self.sight if self.far else None
        # of a direction it leads from its own picture to another one
        return np.asarray(self.chart @ self.sight)

    @cached_property
    def depth_form(self) -> Array | None:
        """(4,) how far a place lies from the viewpoint, to tell nearer from farther along any one
        sight line; None when no one form does."""
        if self.far:
            return np.append(-self.place, 0.0)
        if self.ahead is None:
            return None
        return np.append(self.ahead[:3], 0.0)

    def taken(self, arcs: Array) -> Array:
        """World arcs (n, 3, 4) taken from the origin."""
        if self.far:
            return arcs
        relative = arcs.copy()
        relative[..., :3] -= arcs[..., 3:] * self.place
        return relative

    def drawn(self, arcs: Array) -> Array | None:
        """Pictures (n, 3, 3) of arcs taken from the origin; None without a picture."""
        return None if self._picture is None else np.asarray(arcs @ self._picture.T)

    def bounds(self, controls: Array) -> Array:
        """Bounds (n, 4) left, bottom, right, top in the picture of the hulls of control points
        (n, k, 4) taken from the origin; unbounded without a picture, and for hulls not wholly on
        the near side of it."""
        n = len(controls)
        everywhere = np.array([-np.inf, -np.inf, np.inf, np.inf])
        if self._picture is None:
            return np.tile(everywhere, (n, 1))
        q = controls @ self._picture.T
        weight = q[..., 2]
        with np.errstate(divide="ignore", invalid="ignore"):
            x, y = q[..., 0] / weight, q[..., 1] / weight
        bounds = np.stack([x.min(axis=1), y.min(axis=1), x.max(axis=1), y.max(axis=1)], axis=1)
        bounds[(weight <= 0).any(axis=1)] = everywhere
        return bounds

    def depths(self, controls: Array) -> tuple[Array, Array]:
        """Least and greatest depth (n,) of the hulls of control points (n, k, 4)."""
        n = len(controls)
        if self.depth_form is None:
            return np.full(n, -np.inf), np.full(n, np.inf)
        weight = np.maximum(controls[..., 3], 1e-9)
        deep = controls @ self.depth_form / weight
        return deep.min(axis=1), deep.max(axis=1)


def _alike(one: Array | None, other: Array | None) -> bool:
    if one is None or other is None:
        return one is other
    return np.array_equal(one, other)

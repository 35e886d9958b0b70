"""Numbers made from a fit, each with its standard error, and whether the marks tell it."""

import math
from collections.abc import Callable

import numpy as np

from isometron.nearness import NEAR
from isometron.reading.fit import Fit
from isometron.reading.model import Array, State
from isometron.reading.results import Quantity

OPEN = 1e-6
"""A number that changes by more than this share along what the marks do not tell is not told."""


class Told:
    """Numbers made from a fit's state, each with its standard error, or None."""

    def __init__(self, best: Fit) -> None:
        self.best = best
        ways = best.open_ways
        lengths = np.linalg.norm(ways, axis=0)
        self._open: Array = ways / np.where(lengths > 0, lengths, 1.0)

    def slopes(self, made: Callable[[State], Array]) -> Array:
        """How numbers made from a state change with a step in it, (k, p)."""
        state = self.best.state
        rows = []
        for place in range(state.count):
            size = NEAR * (1.0 if place < 4 or 8 <= place < 11 else state.distance)
            step = np.zeros(state.count)
            step[place] = size
            rows.append((made(state.moved(step)) - made(state.moved(-step))) / (2 * size))
        return np.stack(rows, axis=1)

    def of(self, made: Callable[[State], Array]) -> list[Quantity | None]:
        """Numbers made from the state."""
        values, slopes = made(self.best.state), self.slopes(made)
        spread = self.spread(slopes)
        return [
            Quantity(float(value), math.sqrt(max(float(spread[i, i]), 0.0)))
            if self.told(slopes[i])
            else None
            for i, value in enumerate(values)
        ]

    def spread(self, slopes: Array) -> Array:
        """The covariance (k, k) of numbers that change so."""
        covariance: Array = slopes @ self.best.covariance @ slopes.T
        return covariance

    def told(self, slope: Array) -> bool:
        """Whether the marks tell a number that changes so (p,)."""
        along = np.linalg.norm(slope @ self._open)
        return bool(along <= OPEN * max(float(np.linalg.norm(slope)), 1e-12))

"""How hard the next exercise is, and which drill it is of.

Difficulty follows a weighted staircase (Kaernbach, Perception & Psychophysics 49, 1991): up by
STEP·(1 − p) after an answer within the hand's tolerance, down by STEP·p after one beyond it; it
comes to rest where p of the answers lie within."""

from collections.abc import Mapping

import numpy as np

RATE = 0.75
"""The share of answers that lie within the tolerance at rest."""

STEP = 0.12
FIRST = 0.3
SERIES = 10
"""Exercises of a series: about five minutes."""

DRAWN_TO = 3.0
"""A drill with a known bias is drawn up to so many times as often as one without."""


def next_difficulty(difficulty: float, *, within: bool) -> float:
    """The difficulty after an answer, 0 to 1."""
    moved = difficulty + (STEP * (1 - RATE) if within else -STEP * RATE)
    return min(max(moved, 0.0), 1.0)


def next_drill(weights: Mapping[str, float], seed: int) -> str:
    """The drill of the next exercise, drawn by weight: 1 for a drill without a bias, more where
    the person is biased (`weight_of`)."""
    keys = list(weights)
    shares = np.array([weights[key] for key in keys])
    rng = np.random.default_rng([seed, 77])
    return keys[int(rng.choice(len(keys), p=shares / shares.sum()))]


def weight_of(bias: float, spread: float) -> float:
    """How often a drill is drawn, by a person's bias in it against the spread of the errors."""
    return 1.0 + (DRAWN_TO - 1.0) * min(abs(bias) / max(spread, 1e-9), 1.0)

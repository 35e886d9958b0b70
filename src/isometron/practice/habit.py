"""What a person's errors say of the person: bias apart from spread, and whether to call it a habit.

A bias is named only when a sequential test allows it: for each measure the Bayes factor of a
normal effect against none with an unknown spread, which no way of stopping can make larger than
1/α with probability above α while there is no bias (Lai, Annals of Statistics 4, 1976; Rouder and
others, Psychonomic Bulletin & Review 16, 2009). One bound of 5 % is shared out over all measures of
a person."""

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from isometron.perspective.eye import Array

ALL_PER_PERSON = 0.05
"""At most this share of persons without any bias is ever told of one."""

MEASURES = 60
"""The bound is shared out over so many measures: all that the drills have, with room for more."""

EFFECT = 0.5
"""The bias looked for, in spreads."""

CLIP = 3.0
"""Errors count at most so many times their median size: one slip of the hand is no habit."""

LEAST = 8
"""Fewer answers say nothing of a habit."""


class Habit(NamedTuple):
    """What the errors of one measure say: how many, their mean and half the width of its 95 %
    interval, their standard deviation, and whether the mean may be called a habit."""

    answers: int
    bias: float
    within: float
    spread: float
    named: bool


def habit_of(errors: Sequence[float], *, hands: Sequence[float] | None = None) -> Habit | None:
    """What errors say, in the order they were made; hands: what a practised hand makes of itself in
    each exercise, by which they are weighed in the test. None for fewer than two."""
    given = np.asarray(errors, dtype=float)
    if len(given) < 2:
        return None
    spread = float(given.std(ddof=1))
    within = t_95(len(given) - 1) * spread / math.sqrt(len(given))
    scale = np.ones(len(given)) if hands is None else np.maximum(np.asarray(hands), 1e-9)
    return Habit(len(given), float(given.mean()), within, spread, _named(given / scale))


def _named(errors: Array) -> bool:
    """Whether the test allows to speak of a bias now. It may be asked at the end of every series:
    no way of stopping makes it err oftener."""
    if len(errors) < LEAST:
        return False
    size = float(np.median(np.abs(errors)))
    clipped = np.clip(errors, -CLIP * size, CLIP * size) if size > 0 else errors
    return evidence(clipped) >= MEASURES / ALL_PER_PERSON


def evidence(errors: Array) -> float:
    """How many times likelier the errors are with a bias than without: the Bayes factor of
    N(0, EFFECT²) for the mean in spreads, with t² = n·mean²/variance and ν = n − 1:
    (1 + n·g)^(−1/2) · ((1 + t²/((1 + n·g)·ν)) / (1 + t²/ν))^(−(ν + 1)/2), g = EFFECT²."""
    n = len(errors)
    if n < 2:
        return 1.0
    variance = float(errors.var(ddof=1))
    if variance <= 0:
        return math.inf if errors.any() else 1.0
    nu, wide = n - 1, 1 + n * EFFECT**2
    t2 = n * float(errors.mean()) ** 2 / variance
    log = -0.5 * math.log(wide)
    log -= (nu + 1) / 2 * (math.log1p(t2 / (wide * nu)) - math.log1p(t2 / nu))
    return math.exp(min(log, 700.0))


def t_95(freedom: int) -> float:
    """The half width of a 95 % interval in standard errors (Student)."""
    from scipy.special import stdtrit

    return float(stdtrit(freedom, 0.975))


def habits(by_measure: Mapping[str, Sequence[float]]) -> dict[str, Habit]:
    """What the errors of every measure say."""
    told = {name: habit_of(errors) for name, errors in by_measure.items()}
    return {name: habit for name, habit in told.items() if habit is not None}

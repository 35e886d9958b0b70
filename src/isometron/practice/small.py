"""A small drawing of a drill: what is given, and over it what is asked for."""

from functools import lru_cache

import numpy as np

from isometron.deeds.drawing import Drawing
from isometron.drawing.layers import NO_ARCS, NO_LINES
from isometron.drawing.strokes import clipped
from isometron.practice.drill import HIGH_MM, WIDE_MM, drill_of

SEED, DIFFICULTY = 7, 0.3
"""The exercise that stands for its drill."""

AROUND = 0.06
"""Room round it, as a share of its longer side."""

MOST_KEPT = 256


@lru_cache(maxsize=MOST_KEPT)
def drawing_of_drill(key: str) -> Drawing:
    """One exercise of a drill, sheet mm, its answer as what is new."""
    exercise = drill_of(key).exercise(SEED, DIFFICULTY)
    sheet = (0.0, 0.0, WIDE_MM, HIGH_MM)
    given, answer = clipped(exercise.lines, sheet), clipped(exercise.drawn, sheet)
    ends = np.concatenate([given, answer]).reshape(-1, 2)
    low, high = ends.min(axis=0), ends.max(axis=0)
    off = AROUND * float((high - low).max()) + 1.0
    (left, bottom), (right, top) = low - off, high + off
    part = float(left), float(bottom), float(right), float(top)
    nothing = NO_LINES, NO_ARCS
    return Drawing((given, NO_ARCS), (answer, NO_ARCS), nothing, nothing, part)

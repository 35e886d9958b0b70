"""What a fault of a sketch is, and what a rule over a sketch sees."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from isometron.document.kit import Hand
from isometron.document.marks import Marks, Place
from isometron.document.picture import Mark, SheetPicture
from isometron.reading.fit import Fit
from isometron.reading.model import Array
from isometron.reading.results import Reading
from isometron.reading.told import Told

LEAST_MM = 1.0
"""A fault whose worst place is off by less is not said: twice what a ruler and a hand can do."""

CLEARLY = 3.0
"""A fault is said when it is so many of its standard errors."""

MEANT_DEG = 8.0
"""A stroke that misses its point by more was meant for another."""

LEAST_RIM_SHARE = 0.02
"""A rim is flat or pointed when it swells by more than this share of its radius."""

LEAST_AXIS_DEG, LEAST_DEGREE_DEG = 3.0, 3.0


class Fault(NamedTuple):
    """One fault of a sketch: its rule, the mark it is about, a title and a sentence, how far the
    worst place is off (mm), by how many degrees or per cent where that says more, where it is (px),
    and the two marks on the paper's edges (mm) that a corrected line joins."""

    rule: str
    mark: Mark
    title: str
    text: str
    by_mm: float
    by_deg: float | None
    by_percent: float | None
    at: Place
    redraw: tuple[Place, Place] | None


class Sketch(NamedTuple):
    """What a rule looks at."""

    picture: SheetPicture
    reading: Reading
    fit: Fit
    told: Told
    mm_per_px: float
    hand: Hand
    fit_marks: Marks


Rule = Callable[[Sketch], list[Fault]]
RULES: list[Rule] = []


def rule(function: Rule) -> Rule:
    """Makes a function a rule over a sketch."""
    RULES.append(function)
    return function


def across_paper(place: Array, way: Array, size: tuple[float, float]) -> tuple[Place, Place] | None:
    """Where the line through a place along a way crosses the edges of a paper, mm."""
    length = float(np.hypot(*way))
    if length < 1e-9:
        return None
    along = way / length
    shares = []
    for axis, side in enumerate(size):
        for border in (0.0, side):
            if abs(along[axis]) > 1e-12:
                share = (border - place[axis]) / along[axis]
                other = place[1 - axis] + share * along[1 - axis]
                if -1e-6 <= other <= size[1 - axis] + 1e-6:
                    shares.append(float(share))
    if len(shares) < 2:
        return None
    one, two = (place + share * along for share in (min(shares), max(shares)))
    return (float(one[0]), float(one[1])), (float(two[0]), float(two[1]))

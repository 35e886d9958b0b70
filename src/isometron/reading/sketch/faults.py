"""What a fault of a sketch is, and what a rule over a sketch sees."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import NamedTuple

import numpy as np

from isometron.document.kit import Hand
from isometron.document.marks import FAMILIES, Marks
from isometron.document.picture import Mark, SheetPicture
from isometron.folders import modules_of
from isometron.nearness import NEAR, ROUNDING, SAME
from isometron.perspective.places import Place
from isometron.reading.fit import Fit
from isometron.reading.model import Array
from isometron.reading.results import Reading
from isometron.reading.told import Told

LEAST_MM = 1.0
"""A fault whose worst place is off by less is not said: twice what a ruler and a hand can do."""

STEADIEST_MM = 0.35
"""No hand is steadier, whatever the strokes of one sheet seem to tell."""

CLEARLY = 3.0
"""A fault is said when it is so many of its standard errors."""

COVERED = 0.7
"""Where less of the strokes runs in three families there are others, turned another way."""

LEVEL_DEG, LEVEL_NEAR_DEG = 1.0, 18.0
"""A stroke that climbs by less was drawn level, and may miss the point it was meant for by more."""

MEANT_DEG = 8.0
"""A stroke that misses its point by more was meant for another."""

LEAST_RIM_SHARE = 0.02
"""A rim leaves its ellipse when it swells by more than this share of its radius."""

LEAST_AXIS_DEG, LEAST_DEGREE_DEG = 3.0, 3.0


def is_level(line: Array) -> bool:
    """Whether a line (2, 2) was drawn level."""
    run = np.abs(line[1] - line[0])
    return bool(math.degrees(math.atan2(run[1], run[0])) < LEVEL_DEG)


class Fault(NamedTuple):
    """One fault of a sketch: its rule, the mark it is about, a title and a sentence, how far the
    worst place is off (mm), by how many degrees or per cent where that says more, where it is (px),
    and the two marks on the paper's edges (mm) that a corrected line joins; whether
    it has been ticked off."""

    rule: str
    mark: Mark
    title: str
    text: str
    by_mm: float
    by_deg: float | None
    by_percent: float | None
    at: Place
    redraw: tuple[Place, Place] | None = None
    mended: bool = False


@dataclass(frozen=True, eq=False)
class Sketch:
    """What a rule looks at."""

    picture: SheetPicture
    reading: Reading
    fit: Fit
    told: Told
    mm_per_px: float
    hand: Hand
    fit_marks: Marks
    seen_error_mm: float = 0.0
    """How far the ends of its own strokes lie off, a standard deviation; 0 when too few tell it."""
    known: bool = False
    """Whether the framework it was meant to be is known."""

    @property
    def families(self) -> tuple[str, ...]:
        """Names of the families, by the columns of the fit."""
        return (*FAMILIES, *self.fit.seen.names)

    @property
    def one_box(self) -> bool:
        """Whether the strokes run with the three sides of one box: most of their length does."""
        edges = [one for one in self.picture.edges if one.found]
        lengths = [math.dist(one.start, one.end) for one in edges]
        taken = sum(length for one, length in zip(edges, lengths, strict=True) if not one.left)
        return taken >= COVERED * sum(lengths)

    def strokes(self, family: str) -> tuple[list[int], Array]:
        """Numbers of the strokes of a family that are judged, and their ends (n, 2, 2), px."""
        edges = self.picture.edges
        numbers = [
            n
            for n, one in enumerate(edges)
            if one.family == family and not one.left and not one.faint
        ]
        lines = np.array([(edges[n].start, edges[n].end) for n in numbers])
        return numbers, lines.reshape(-1, 2, 2)

    @property
    def own_error_mm(self) -> float:
        """How far the end of one stroke lies off by the hand alone, a standard deviation: as its
        strokes tell it, or by the hand of the kit where they are too few."""
        if self.seen_error_mm > 0:
            return max(self.seen_error_mm, STEADIEST_MM)
        return self.hand.line_mm * math.sqrt(2.0) + self.hand.mark_mm


Rule = Callable[[Sketch], list[Fault]]
RULES: list[Rule] = []


def rule(function: Rule) -> Rule:
    """Makes a function a rule over a sketch."""
    RULES.append(function)
    return function


@cache
def rules() -> tuple[Rule, ...]:
    """Every rule: every file of this folder adds those it knows."""
    from isometron.reading import sketch as folder

    modules_of(folder)
    return tuple(sorted(RULES, key=lambda one: one.__module__))


def across_paper(place: Array, way: Array, size: tuple[float, float]) -> tuple[Place, Place] | None:
    """Where the line through a place along a way crosses the edges of a paper, mm."""
    length = float(np.hypot(*way))
    if length < SAME:
        return None
    along = way / length
    shares = []
    for axis, side in enumerate(size):
        for border in (0.0, side):
            if abs(along[axis]) > ROUNDING:
                share = (border - place[axis]) / along[axis]
                other = place[1 - axis] + share * along[1 - axis]
                if -NEAR <= other <= size[1 - axis] + NEAR:
                    shares.append(float(share))
    if len(shares) < 2:
        return None
    one, two = (place + share * along for share in (min(shares), max(shares)))
    return (float(one[0]), float(one[1])), (float(two[0]), float(two[1]))

"""Dimension marks as they are drawn: beside what they measure, with lines out to both its ends,
ticks where they meet, and the true length along them."""

import math
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.framework.dimensions import Dimension
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.perspective.projection import project

TICK_MM, CLEAR_MM, BEYOND_MM = 1.8, 1.2, 1.2
"""Length of a tick; how far a line out stays clear of what is measured, and runs beyond the mark.
"""

CAPITALS = 0.73
"""How high capital letters of the type family stand, as a share of its size."""

WORDS_OFF_MM, LETTERS_MM = 0.9, 2.4


class Label(NamedTuple):
    """Words on the sheet: the middle of their foot (x, y) mm, how they run (degrees to the level),
    and how high capital letters stand, mm."""

    words: str
    place: tuple[float, float]
    angle_deg: float = 0.0
    size_mm: float = LETTERS_MM
    hangs: bool = False
    """Whether the place is the middle of their head instead: they hang below it."""

    def foot(self, size_mm: float | None = None) -> tuple[float, float]:
        """The middle of their foot, sheet mm, when capital letters stand so high, mm."""
        if not self.hangs:
            return self.place
        high, angle = self.size_mm if size_mm is None else size_mm, math.radians(self.angle_deg)
        return self.place[0] + high * math.sin(angle), self.place[1] - high * math.cos(angle)


class Mark(NamedTuple):
    """One mark: its number among the sheet's, its lines (k, 4) sheet mm, its words."""

    number: int
    lines: Array
    label: Label


def ends_of(document: Document, dimension: Dimension) -> tuple[Array, float] | None:
    """Where both ends of a mark are drawn (2, 2) sheet mm, and the true length, mm; None when its
    volume has gone, or an end lies behind the eye or at the same place as the other."""
    volumes = [document.by_key(key) for key in dimension.keys]
    if volumes[0] is None or volumes[1] is None:
        return None
    one, two = dimension.one.world(volumes[0]), dimension.two.world(volumes[1])
    drawn = project(document.eye, np.array([one, two])).sheet
    if not np.isfinite(drawn).all() or float(np.hypot(*(drawn[1] - drawn[0]))) < TICK_MM / 10:
        return None
    return drawn, float(np.linalg.norm(two - one))


def mark_of(document: Document, dimension: Dimension, number: int = -1) -> Mark | None:
    """A dimension mark; None where it cannot be drawn."""
    ends = ends_of(document, dimension)
    if ends is None:
        return None
    return _mark(number, dimension.off_mm, ends[0], write_length(ends[1], document.choices.unit))


def marks_of(document: Document) -> list[Mark]:
    """Every dimension mark of a sheet that can be drawn."""
    made = [mark_of(document, one, number) for number, one in enumerate(document.dimensions)]
    return [mark for mark in made if mark is not None]


def _mark(number: int, off: float, ends: Array, words: str) -> Mark:
    run = (ends[1] - ends[0]) / np.hypot(*(ends[1] - ends[0]))
    left = np.array([-run[1], run[0]])
    side = math.copysign(1.0, off)
    line = ends + off * left
    tick = (run + left) / math.sqrt(2) * TICK_MM / 2
    lines = [np.concatenate([line[0], line[1]])]
    for end, there in zip(ends, line, strict=True):
        lines.append(np.concatenate([there - tick, there + tick]))
        if abs(off) > CLEAR_MM:
            out = (end + side * CLEAR_MM * left, there + side * BEYOND_MM * left)
            lines.append(np.concatenate(out))
    angle = math.degrees(math.atan2(run[1], run[0]))
    if not -90 < angle <= 90:
        angle -= math.copysign(180.0, angle)
    up = np.array([-math.sin(math.radians(angle)), math.cos(math.radians(angle))])
    outward = float(up @ (side * left)) >= 0
    x, y = (line.mean(axis=0) + (WORDS_OFF_MM if outward else -WORDS_OFF_MM) * up).tolist()
    return Mark(number, np.array(lines), Label(words, (x, y), angle, hangs=not outward))


def off_at(document: Document, dimension: Dimension, place_mm: tuple[float, float]) -> float:
    """How far beside what it measures a mark goes through a place of the sheet, mm, as
    `Dimension.off_mm`; as it is for one that is not drawn."""
    ends = ends_of(document, dimension)
    if ends is None:
        return dimension.off_mm
    (x0, y0), (x1, y1) = ends[0].tolist()
    run = math.hypot(x1 - x0, y1 - y0)
    return float(((x1 - x0) * (place_mm[1] - y0) - (y1 - y0) * (place_mm[0] - x0)) / run)


def dimension_lines(document: Document) -> Array:
    """The lines (k, 4) of every mark, sheet mm."""
    return np.concatenate([np.empty((0, 4)), *(mark.lines for mark in marks_of(document))])


def dimension_labels(document: Document) -> list[Label]:
    """The words of every mark."""
    return [mark.label for mark in marks_of(document)]

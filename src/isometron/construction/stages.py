"""Stages: what lies on the sheet after some steps of an order, ready to be drawn."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from isometron.construction.machine import Drawn
from isometron.construction.moves import (
    LINES,
    Cross,
    Curve,
    Ellipse,
    Join,
    Level,
    Move,
    Parallel,
    StepOff,
    Upright,
    needs,
)
from isometron.construction.steps import Order, Step
from isometron.drawing.strokes import clipped_rows
from isometron.perspective.eye import Array
from isometron.perspective.sheet import Sheet

NEW, OLD, RUB, KEPT, PAST = "new", "old", "rub", "kept", "past"
"""Ages of a line: of the step in work, of earlier steps of its chapter, to be rubbed out now, kept
by the finished drawing, and of earlier chapters."""

BEYOND = 0.04
"""A line runs on past its outermost points by this share of its length."""

CLOSER_SPARE = 1.5
"""A closer look shows this many times the extent of a step's points."""

CLOSER_SHARE = 0.55
"""A closer look is given when it shows less than this share of the paper's height."""

LEAST_CLOSER_MM = 30.0

Rectangle = tuple[float, float, float, float]


@dataclass(frozen=True, eq=False)
class Stroke:
    """One line, ellipse or curve of a stage: its name, the age it has, and on the sheet, mm, either
    the two ends of a line (2, 2) or the cubics (k, 4, 2) of a curve that follow each other."""

    name: str
    age: str
    ends: Array | None = None
    cubics: Array | None = None

    @property
    def points(self) -> Array:
        """The ends, or points (8·k + 1, 2) along the curve."""
        if self.cubics is None:
            return np.empty((0, 2)) if self.ends is None else self.ends
        runs = np.einsum("tj,kjd->ktd", _ALONG, self.cubics)
        return np.concatenate([runs[:, :-1].reshape(-1, 2), self.cubics[-1, 3:]])


@dataclass(frozen=True)
class Spot:
    """A point of a stage: name, place, label ("" for none; only points that the step makes or
    needs have one) and whether it is new."""

    name: str
    place: tuple[float, float]
    label: str
    new: bool


@dataclass(frozen=True, eq=False)
class Stage:
    """What lies on the sheet after a step."""

    strokes: tuple[Stroke, ...]
    spots: tuple[Spot, ...]


class Stages:
    """All stages of an order; the sheet is drawn once."""

    def __init__(self, order: Order, sheet: Sheet) -> None:
        self.order, self.sheet = order, sheet
        self.steps: tuple[Step, ...] = order.steps
        self.drawn: Drawn = order.drawn
        self._moves = order.moves()
        self._ends = {move.name: needs(move) for move in self._moves if isinstance(move, LINES)}
        counts = [len(chapter.steps) for chapter in order.chapters]
        firsts = np.concatenate([[0], np.cumsum(counts)[:-1]])
        self._begins: list[int] = np.repeat(firsts, counts).tolist()
        self.kept = {name for step in self.steps for name in step.objects}
        self.reaches: dict[str, tuple[float, float]] = {}

    def after(self, number: int, within: Rectangle) -> Stage:
        """The sheet after step `number` (from 0), cut to a rectangle of the sheet."""
        strokes: list[Stroke] = []
        spots: list[Spot] = []
        count = sum(len(step.moves) for step in self.steps[: number + 1])
        self.reaches = _reaches(self._moves[:count], self.drawn)
        rubbed = {name for step in self.steps[:number] for name in step.rubs}
        now = set(self.steps[number].rubs)
        begun = self._begins[number]
        called = {name for move in self.steps[number].moves for name in (move.name, *needs(move))}
        called |= {end for name in called for end in self._ends.get(name, ())}
        lines: list[tuple[str, str]] = []
        for place, step in enumerate(self.steps[: number + 1]):
            fresh = place == number
            for move in step.moves:
                if move.name in rubbed:
                    continue
                age = NEW if fresh else RUB if move.name in now else OLD if place >= begun else PAST
                if age in (OLD, PAST) and move.name in self.kept:
                    age = KEPT
                if isinstance(move, LINES):
                    lines.append((move.name, age))
                elif isinstance(move, Ellipse | Curve):
                    strokes.append(Stroke(move.name, age, cubics=self._cubics(move)))
                elif fresh or move.name in called:
                    label = self.order.labels.get(move.name, move.name.removeprefix("p"))
                    spots.append(Spot(move.name, self.drawn.place(move.name), label, fresh))
        if lines:
            rows, cut = clipped_rows(np.array([self.segment(name) for name, _ in lines]), within)
            for row, part in zip(rows.tolist(), cut.reshape(-1, 2, 2), strict=True):
                name, age = lines[row]
                strokes.append(Stroke(name, age, part))
        if rubbed:
            spots = [spot for spot in spots if spot.new]
        return Stage(tuple(strokes), tuple(spots))

    def closer(self, stage: Stage, shape: float) -> Rectangle | None:
        """The part of the paper, as wide as high times `shape`, in which a stage's points lie; None
        when it is not much smaller than the paper, or no point lies on it."""
        width, height = self.sheet.width_mm, self.sheet.height_mm
        places = [
            spot.place
            for spot in stage.spots
            if 0 <= spot.place[0] <= width and 0 <= spot.place[1] <= height
        ]
        if not places:
            return None
        low, high = np.min(places, axis=0), np.max(places, axis=0)
        x, y = ((low + high) / 2).tolist()
        tall = max(CLOSER_SPARE * (high[1] - low[1]), CLOSER_SPARE * (high[0] - low[0]) / shape)
        tall = max(float(tall), LEAST_CLOSER_MM)
        if tall > CLOSER_SHARE * height:
            return None
        return (x - shape * tall / 2, y - tall / 2, x + shape * tall / 2, y + tall / 2)

    def _cubics(self, move: Ellipse | Curve) -> Array:
        if isinstance(move, Curve):
            return smooth([self.drawn.place(p) for p in move.points])
        return ellipse_cubics(self.drawn.ellipses[move.name][:, 0])

    def segment(self, name: str) -> Array:
        """The part (4,) of a line that is drawn: between the outermost points made on it so far,
        and a little on."""
        point, along = (v[:, 0].astype(float) for v in self.drawn.lines[name])
        low, high = self.reaches[name]
        if not math.isfinite(low):
            reach = self.sheet.width_mm + self.sheet.height_mm
            low, high = -reach, reach
        spare = BEYOND * (high - low)
        a, b = point + (low - spare) * along, point + (high + spare) * along
        return np.concatenate([a, b])


_T = np.linspace(0.0, 1.0, 9)[:, None]
_ALONG = np.concatenate(
    [(1 - _T) ** 3, 3 * _T * (1 - _T) ** 2, 3 * _T**2 * (1 - _T), _T**3], axis=1
)
"""(9, 4) a cubic's control points weighted at nine places along it."""


def _reaches(moves: Sequence[Move], drawn: Drawn) -> dict[str, tuple[float, float]]:
    """How far each line runs, mm either way from its own point: to the points made on it. Level and
    upright lines that carry no second point run right across."""
    reach: dict[str, list[float]] = {}

    def carry(line: str, point: str) -> None:
        start, along = (v[:, 0].astype(float) for v in drawn.lines[line])
        at = drawn.points[point][:, 0].astype(float)
        reach[line].append(float((at - start) @ along))

    for move in moves:
        if isinstance(move, LINES):
            reach[move.name] = [0.0]
            if isinstance(move, Join):
                carry(move.name, move.second)
        elif isinstance(move, Cross):
            carry(move.first, move.name)
            carry(move.second, move.name)
        elif isinstance(move, StepOff):
            carry(move.line, move.name)
    across = {m.name for m in moves if isinstance(m, Level | Upright | Parallel)}
    return {
        name: (-math.inf, math.inf)
        if name in across and max(values) - min(values) < 1e-9
        else (min(values), max(values))
        for name, values in reach.items()
    }


def ellipse_cubics(values: Array) -> Array:
    """Eight cubics (8, 4, 2) of an ellipse (centre x and y, half axes, tilt in degrees); they are
    off by less than 5e-6 of its half axis."""
    cx, cy, a, b, tilt = (float(v) for v in values)
    turn = np.radians(np.arange(0.0, 361.0, 45.0))
    places = np.stack([np.cos(turn), np.sin(turn)], axis=1)
    ways = 4 / 3 * math.tan(math.pi / 16) * np.stack([-np.sin(turn), np.cos(turn)], axis=1)
    round_one = np.stack(
        [places[:-1], places[:-1] + ways[:-1], places[1:] - ways[1:], places[1:]], axis=1
    )
    c, s = math.cos(math.radians(tilt)), math.sin(math.radians(tilt))
    placed: Array = round_one * (a, b) @ np.array([[c, s], [-s, c]]) + (cx, cy)
    return placed


def smooth(places: Sequence[tuple[float, float]]) -> Array:
    """A smooth curve through n places as n − 1 cubics (n − 1, 4, 2), as a hand draws it: the ends
    of each run point along the neighbours' chord (Catmull and Rom, 1974)."""
    p = np.array(places)
    ways = np.gradient(p, axis=0) / 3
    return np.stack([p[:-1], p[:-1] + ways[:-1], p[1:] - ways[1:], p[1:]], axis=1)

"""Stages: what lies on the sheet after some steps of an order, ready to be drawn."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

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
    is_laid,
    needs,
)
from isometron.construction.steps import Order, Step
from isometron.construction.strokes import (
    KEPT,
    LAID,
    NEW,
    OLD,
    PAST,
    RUB,
    Stroke,
    ellipse_cubics,
    smooth,
)
from isometron.drawing.strokes import clipped_rows
from isometron.perspective.eye import Array
from isometron.perspective.sheet import Sheet

BEYOND = 0.04
"""A line runs on past its outermost points by this share of its length."""

CLOSER_SPARE = 1.5
"""A closer look shows this many times the extent of a step's points."""

CLOSER_SHARE = 0.55
"""A closer look is given when it shows less than this share of the paper's height."""

LEAST_CLOSER_MM = 30.0

EDGE_MM = 1.0
"""Marks so near the paper's edge only guide a ruler, and are not looked at closer."""

Rectangle = tuple[float, float, float, float]


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
        self.trim = self._number("finish.trim")
        self.inked = self._number("finish.object") if order.finished else len(self.steps)
        self.kept = {name for step in self.steps for name in step.objects}
        self.reaches: dict[str, tuple[float, float]] = {}

    def after(self, number: int, within: Rectangle) -> Stage:
        """The sheet after step `number` (from 0), cut to a rectangle of the sheet. When the object
        lines are gone over it is the finished drawing."""
        if number >= self.inked:
            return Stage(self.order.finished, ())
        strokes: list[Stroke] = []
        spots: list[Spot] = []
        count = sum(len(step.moves) for step in self.steps[: number + 1])
        self.reaches = _reaches(self._moves[:count], self.drawn)
        rubbed = {name for step in self.steps[:number] for name in step.rubs}
        now = set(self.steps[number].rubs)
        called = {name for move in self.steps[number].moves for name in (move.name, *needs(move))}
        called |= {end for name in called for end in self._ends.get(name, ())}
        lines: list[tuple[str, str]] = []
        trims = number == self.trim
        for place, step in enumerate(self.steps[: number + 1]):
            fresh = place == number
            for move in step.moves:
                if move.name in rubbed:
                    continue
                age = self._age(move, number, place, now)
                if not age:
                    continue
                if isinstance(move, LINES):
                    lines.append((move.name, age))
                elif isinstance(move, Ellipse | Curve):
                    strokes.append(Stroke(move.name, age, cubics=self._cubics(move)))
                elif fresh or move.name in called:
                    label = self.order.label_of(move.name)
                    spots.append(Spot(move.name, self.drawn.place(move.name), label, fresh))
        if lines:
            rows, cut = clipped_rows(np.array([self.segment(name) for name, _ in lines]), within)
            for row, part in zip(rows.tolist(), cut.reshape(-1, 2, 2), strict=True):
                name, age = lines[row]
                strokes.append(Stroke(name, age, part))
        spots += [
            Spot(f"{move.name}.by", move.by, "", True)
            for move in self.steps[number].moves
            if isinstance(move, Join) and move.by is not None
        ]
        if rubbed:
            spots = [spot for spot in spots if spot.new]
        if trims:
            strokes += [replace(one, age=KEPT) for one in self.order.finished]
        return Stage(tuple(strokes), tuple(spots))

    def _age(self, move: Move, number: int, place: int, now: set[str]) -> str:
        """The age that a move of step `place` has after step `number`, which rubs out `now`; ""
        when nothing of it stays."""
        if place == number:
            return LAID if is_laid(move) else NEW
        if is_laid(move):
            return ""
        if move.name in now:
            return RUB
        if move.name in self.kept:
            return RUB if number == self.trim else KEPT
        return OLD if place >= self._begins[number] else PAST

    def _number(self, key: str) -> int:
        """The number of a step by its key; beyond the last when there is none."""
        return next((i for i, s in enumerate(self.steps) if s.key == key), len(self.steps))

    def closer(self, stage: Stage, shape: float) -> Rectangle | None:
        """The part of the paper, as wide as high times `shape`, in which the points and new curves
        of a stage lie that are not on its edges; None when it is not much smaller than the paper,
        or there are none."""
        width, height = self.sheet.width_mm, self.sheet.height_mm
        places = [
            (x, y)
            for x, y in (*(spot.place for spot in stage.spots), *_new_curves(stage))
            if EDGE_MM < x < width - EDGE_MM and EDGE_MM < y < height - EDGE_MM
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


def _new_curves(stage: Stage) -> list[list[float]]:
    """Places along the ellipses and curves that a step draws."""
    drawn = [s.points for s in stage.strokes if s.age == NEW and s.cubics is not None]
    places: list[list[float]] = np.concatenate(drawn).tolist() if drawn else []
    return places


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
            if isinstance(move, Join) and move.second:
                carry(move.name, move.second)
            elif isinstance(move, Join) and move.by is not None:
                reach[move.name].append(math.dist(move.by, drawn.place(move.first)))
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

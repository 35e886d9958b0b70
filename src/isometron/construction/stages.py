"""Stages: what lies on the sheet after some steps of an order, ready to be drawn."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

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
    smooth,
)
from isometron.construction.table import off_paper
from isometron.drawing.curves import ellipse_cubics
from isometron.drawing.strokes import clipped_rows
from isometron.nearness import SAME
from isometron.perspective.eye import Array
from isometron.perspective.places import Rectangle
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

STRIP_MM = 15.0
"""Taped paper reaches so far round a point."""


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
        self._made = {move.name: place for place, move in enumerate(self._moves)}
        self._ends = {move.name: needs(move) for move in self._moves if isinstance(move, LINES)}
        counts = [len(chapter.steps) for chapter in order.chapters]
        firsts = np.concatenate([[0], np.cumsum(counts)[:-1]])
        self.chapter_of: list[int] = np.repeat(np.arange(len(counts)), counts).tolist()
        self._firsts: list[int] = [*firsts.tolist(), len(self.steps)]
        self.trim = self._number("finish.trim")
        self.inked = self._number("finish.object") if order.finished else len(self.steps)
        rubs = (i for i, step in enumerate(self.steps) if step.rubs)
        self.rubs_from = next(rubs, len(self.steps))
        self.kept = {name for step in self.steps for name in step.objects}
        self._reaches = _reaches(self._moves, self.drawn)
        self._bare: dict[Rectangle, list[list[Stroke]]] = {}
        self._by_name: dict[Rectangle, dict[str, Stroke]] = {}

    def after(self, number: int, within: Rectangle) -> Stage:
        """The sheet after step `number` (from 0), cut to a rectangle of the sheet. When the object
        lines are gone over it is the finished drawing."""
        if number >= self.inked:
            return Stage(self.order.finished, ())
        chapters = range(self.chapter_of[number])
        own = self.own(number, within)
        drawn = {stroke.name for stroke in own.strokes}
        past = [
            stroke
            for chapter in chapters
            for stroke in self.behind(chapter, within)
            if stroke.name not in drawn
        ]
        if number < self.rubs_from:
            return Stage((*past, *own.strokes), own.spots)
        rubbed = {name for step in self.steps[:number] for name in step.rubs}
        now = set(self.steps[number].rubs)
        strokes = []
        for stroke in (*past, *own.strokes):
            age = RUB if stroke.name in now else stroke.age
            if age == KEPT and number == self.trim:
                age = RUB
            if stroke.name not in rubbed:
                strokes.append(replace(stroke, age=age))
        if number == self.trim:
            strokes += [replace(one, age=KEPT) for one in self.order.finished]
        spots = [spot for spot in own.spots if spot.new] if rubbed else own.spots
        return Stage(tuple(strokes), tuple(spots))

    def behind(self, chapter: int, within: Rectangle) -> list[Stroke]:
        """What a chapter leaves on the sheet for those after it."""
        steps = self._strokes(within)[self._firsts[chapter] : self._firsts[chapter + 1]]
        return [
            replace(stroke, age=KEPT if stroke.name in self.kept else PAST)
            for step in steps
            for stroke in step
            if stroke.age != LAID
        ]

    def own(self, number: int, within: Rectangle) -> Stage:
        """What the chapter of a step has drawn when the step is done, with the lines of earlier
        chapters that it speaks of, and the step's points."""
        first = self._firsts[self.chapter_of[number]]
        steps = self._strokes(within)
        strokes = [
            replace(stroke, age=KEPT if stroke.name in self.kept else OLD)
            for step in steps[first:number]
            for stroke in step
            if stroke.age != LAID
        ]
        own = {move.name for step in self.steps[first : number + 1] for move in step.moves}
        called = {name for move in self.steps[number].moves for name in needs(move)} - own
        strokes += [
            replace(stroke, age=KEPT if name in self.kept else PAST)
            for name in sorted(called)
            if (stroke := self._by_name[within].get(name)) is not None and stroke.age != LAID
        ]
        return Stage((*strokes, *steps[number]), tuple(self._spots(number)))

    def _strokes(self, within: Rectangle) -> list[list[Stroke]]:
        """The strokes of every step as it draws them, cut to a rectangle."""
        if within not in self._bare:
            moves = [move for move in self._moves if isinstance(move, LINES)]
            segments = np.array([self.segment(move.name) for move in moves]).reshape(-1, 4)
            rows, cut = clipped_rows(segments, within)
            ends = dict(zip(rows.tolist(), cut.reshape(-1, 2, 2), strict=True))
            cuts = {move.name: ends[row] for row, move in enumerate(moves) if row in ends}
            self._bare[within] = [self._of(step, cuts) for step in self.steps]
            strokes = (stroke for step in self._bare[within] for stroke in step)
            self._by_name[within] = {stroke.name: stroke for stroke in strokes}
        return self._bare[within]

    def _of(self, step: Step, cuts: dict[str, Array]) -> list[Stroke]:
        found = []
        for move in step.moves:
            if isinstance(move, Ellipse | Curve):
                found.append(Stroke(move.name, NEW, cubics=self._cubics(move)))
            elif move.name in cuts:
                found.append(Stroke(move.name, LAID if is_laid(move) else NEW, cuts[move.name]))
        return found

    def _spots(self, number: int) -> list[Spot]:
        """The points that a step makes, and those that it and its lines stand on."""
        moves = self.steps[number].moves
        new = {move.name for move in moves}
        called = {name for move in moves for name in (move.name, *needs(move))}
        called |= {end for name in called for end in self._ends.get(name, ())}
        found = [
            Spot(name, self.drawn.place(name), self.order.label_of(name), name in new)
            for name in sorted(called, key=self._made.__getitem__)
            if name in self.drawn.points
        ]
        for move in moves:
            if isinstance(move, Join) and move.by is not None:
                found.append(Spot(f"{move.name}.by", move.by, "", True))
        return found

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

    def beside(self, stage: Stage, shape: float) -> Rectangle | None:
        """The paper with the new points of a stage that lie off it, as wide as high times `shape`;
        None when there are none."""
        places = [
            s.place for s in stage.spots if s.new and off_paper(self.sheet, s.place) > EDGE_MM
        ]
        if not places:
            return None
        paper = [(0.0, 0.0), (self.sheet.width_mm, self.sheet.height_mm)]
        low, high = np.min([*paper, *places], axis=0), np.max([*paper, *places], axis=0)
        x, y = ((low + high) / 2).tolist()
        spare = 1.0 + 4 * BEYOND
        tall = spare * max(float(high[1] - low[1]), float(high[0] - low[0]) / shape)
        return (x - shape * tall / 2, y - tall / 2, x + shape * tall / 2, y + tall / 2)

    def strips(self, stage: Stage) -> list[Stroke]:
        """The paper taped on for the new points of a stage that lie off the sheet, as its edges."""
        found = []
        for spot in stage.spots:
            if not spot.new or off_paper(self.sheet, spot.place) <= EDGE_MM:
                continue
            x, y = spot.place
            near = (min(max(x, 0.0), self.sheet.width_mm), min(max(y, 0.0), self.sheet.height_mm))
            low = np.minimum(near, (x, y)) - STRIP_MM
            high = np.maximum(near, (x, y)) + STRIP_MM
            corners = np.array([low, (high[0], low[1]), high, (low[0], high[1]), low])
            found += [
                Stroke(f"{spot.name}.strip", RUB, np.array(ends)) for ends in pairwise(corners)
            ]
        return found

    def _cubics(self, move: Ellipse | Curve) -> Array:
        if isinstance(move, Curve):
            return smooth([self.drawn.place(p) for p in move.points])
        return ellipse_cubics(self.drawn.ellipses[move.name][:, 0])

    def segment(self, name: str) -> Array:
        """The part (4,) of a line that is drawn: between the outermost points made on it, and a
        little on."""
        point, along = (v[:, 0].astype(float) for v in self.drawn.lines[name])
        low, high = self._reaches[name]
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
        if name in across and max(values) - min(values) < SAME
        else (min(values), max(values))
        for name, values in reach.items()
    }

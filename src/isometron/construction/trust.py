"""How far from its place a point can come to lie: at most, when every measure is rounded to the
ruler, and as a rule, when a hand draws it."""

from collections.abc import Iterable, Sequence

import numpy as np

from isometron.construction.machine import Drawn, Machine
from isometron.construction.moves import (
    LINES,
    Join,
    Mark,
    Move,
    StepOff,
    needs,
)
from isometron.document.kit import Hand
from isometron.perspective.eye import Array
from isometron.perspective.watching import ticking

SAFETY = 1.25
"""Stated bounds are this much wider than what the first order of rounding gives."""

TRIALS = 1000
"""Drawings by hand from which an expectation is read."""

OFTEN = 0.95
"""The share of drawings in which a point lies nearer than expected."""


def rounding_bounds(groups: Iterable[Sequence[Move]], step_mm: float) -> dict[str, float]:
    """How far, mm, rounding all measures to the ruler can move each point: the sum of what every
    single measure off by half a step moves it (first order), widened by SAFETY.

    Each group of moves (a chapter) is looked at with what it stands on and nothing else, so that
    the work grows with the drawing and not with its square.
    """
    made: dict[str, Move] = {}
    found: dict[str, float] = {}
    every = list(groups)
    for group in ticking(every, len(every)):
        made |= {move.name: move for move in group}
        found |= _bounds_of(group, _stands_on(group, made), step_mm)
    return found


def _stands_on(group: Sequence[Move], made: dict[str, Move]) -> list[Move]:
    """The moves of a group and all that they refer to, in the order they were made."""
    wanted = {move.name for move in group}
    open_names = list(wanted)
    while open_names:
        for name in needs(made[open_names.pop()]):
            if name not in wanted:
                wanted.add(name)
                open_names.append(name)
    return [move for name, move in made.items() if name in wanted]


def _bounds_of(group: Sequence[Move], moves: Sequence[Move], step_mm: float) -> dict[str, float]:
    total, half = sum(measures(move) for move in moves), step_mm / 2

    def off(number: int, values: Array) -> Array:
        changed = np.repeat(values[:, None], total + 1, axis=1)
        for k in range(len(values)):
            changed[k, 1 + number + k] += half
        return changed

    drawn = Machine(total + 1, off).run(moves)
    own = {move.name for move in group}
    return {
        name: SAFETY * float(np.hypot(*(places[:, 1:] - places[:, :1])).sum())
        for name, places in drawn.points.items()
        if name in own
    }


def measures(move: Move) -> int:
    """How many measures are taken in a move."""
    if isinstance(move, Join):
        return 0 if move.by is None else 2
    return 2 if isinstance(move, Mark) else 1 if isinstance(move, StepOff) else 0


class HandMachine(Machine):
    """Draws n sheets as a hand does: every measure is rounded to the ruler, a mark lands a little
    off it, a ruled line passes its points a little off, a length carried errs, and so does a set
    square. All errors are normal, and independent of each other; a seed gives the same sheets."""

    number = float

    def __init__(self, sheets: int, hand: Hand, step_mm: float, seed: int) -> None:
        super().__init__(sheets, self._measured)
        self.hand, self.step_mm = hand, step_mm
        self._random = np.random.default_rng(seed)

    def _errors(self, spread: float, count: int = 1) -> Array:
        errors = self._random.standard_normal((count, self.sheets)) * spread
        return np.asarray(errors, dtype=float)

    def _measured(self, _number: int, values: Array) -> Array:
        spread = self.hand.mark_mm if len(values) == 2 else self.hand.carry_mm
        rounded = np.rint(values.astype(float) / self.step_mm) * self.step_mm
        return np.asarray(rounded[:, None] + self._errors(spread, len(values)))

    def make(self, move: Move) -> None:
        """Make one move, as well as a hand does. Raises MoveError."""
        super().make(move)
        if isinstance(move, LINES):
            point, along = self.drawn.lines[move.name]
            across = np.stack([-along[1], along[0]])
            here = self._errors(self.hand.line_mm)[0]
            if isinstance(move, Join):
                turn = (self._errors(self.hand.line_mm)[0] - here) / self._length(move)
            else:
                turn = self._errors(np.radians(self.hand.square_deg))[0]
            along = along + turn * across
            self.drawn.lines[move.name] = point + here * across, along / np.hypot(*along)

    def _length(self, move: Join) -> Array:
        """How far apart on each sheet the two points lie that a line is ruled by."""
        first = self.drawn.points[move.first]
        if move.by is not None:
            second = np.array(move.by, dtype=float)[:, None]
        else:
            second = self.drawn.points[move.second]
        return np.asarray(np.hypot(*(second - first)))


def by_hand(
    moves: Sequence[Move], hand: Hand, step_mm: float, *, trials: int = TRIALS, seed: int = 1
) -> Drawn:
    """The sheet drawn by a hand, so many times. Raises MoveError."""
    return HandMachine(trials, hand, step_mm, seed).run(moves)


def expected(drawn: Drawn, exact: Drawn, names: Iterable[str]) -> dict[str, float]:
    """How far, mm, points of sheets drawn by hand lie from their exact places in OFTEN of all."""
    return {
        name: float(np.quantile(np.hypot(*(drawn.points[name] - exact.points[name][:, :1])), OFTEN))
        for name in names
    }

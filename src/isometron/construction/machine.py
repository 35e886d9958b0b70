"""The ruler machine: it knows the listed moves only, and says where everything lands.

It works on many sheets at once: one drawn with the exact measures, or, to see how far rounding can
move a point, one more for every measure that is off by a little.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from isometron.construction.moves import (
    Cross,
    Curve,
    Ellipse,
    Join,
    Level,
    Mark,
    Move,
    Parallel,
    StepOff,
    Upright,
)
from isometron.perspective.angles import EXTENDED
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.watching import tick
from isometron.words import _

FLAT = 1e-9
"""Lines whose directions differ by less than this (sine of the angle) never cross."""


class MoveError(IsometronError):
    """A move that no ruler can make."""


@dataclass
class Drawn:
    """Where everything lies on n sheets: points (2, n), lines as a point and a unit direction
    (2, n) each, ellipses (5, n): centre, half axes, tilt in degrees; curves as names of points."""

    points: dict[str, Array] = field(default_factory=dict)
    lines: dict[str, tuple[Array, Array]] = field(default_factory=dict)
    ellipses: dict[str, Array] = field(default_factory=dict)
    curves: dict[str, tuple[str, ...]] = field(default_factory=dict)

    def place(self, name: str) -> tuple[float, float]:
        """A point on the first sheet, mm."""
        x, y = self.points[name][:, 0]
        return float(x), float(y)


Off = Callable[[int, Array], Array]
"""How a measure (number, values (k,)) is changed: gives (k, n) for n sheets."""


def execute(moves: Sequence[Move]) -> Drawn:
    """The sheet drawn with the exact measures. Raises MoveError for a move that cannot be made."""
    return Machine(1, exact_measures).run(moves)


def exact_measures(_number: int, values: Array) -> Array:
    """Every measure as it is."""
    return values[:, None]


class Machine:
    """Executes moves one by one on n sheets; `drawn` is what there is so far."""

    number: type = EXTENDED
    """The numbers it reckons with."""

    def __init__(self, sheets: int, off: Off) -> None:
        self.sheets, self.off = sheets, off
        self.drawn = Drawn()
        self.known: Drawn | None = None
        self.measured = 0

    def run(self, moves: Sequence[Move]) -> Drawn:
        """Make all moves. Raises MoveError for one that cannot be made."""
        for move in moves:
            self.make(move)
        return self.drawn

    def make(self, move: Move) -> None:
        """Make one move. Raises MoveError."""
        tick()
        drawn = self.drawn
        if isinstance(move, Mark):
            drawn.points[move.name] = self._measure(np.array(move.place, dtype=self.number))
        elif isinstance(move, Join):
            drawn.lines[move.name] = self._joined(move)
        elif isinstance(move, Upright):
            drawn.lines[move.name] = (self._point(move.through), self._fixed(0.0, 1.0))
        elif isinstance(move, Level):
            drawn.lines[move.name] = (self._point(move.through), self._fixed(1.0, 0.0))
        elif isinstance(move, Parallel):
            drawn.lines[move.name] = (self._point(move.through), self._line(move.line)[1])
        elif isinstance(move, Cross):
            drawn.points[move.name] = _crossing(
                self._line(move.first), self._line(move.second), move.name
            )
        elif isinstance(move, StepOff):
            _unused, along = self._line(move.line)
            mm = self._measure(np.array([move.mm], dtype=self.number))[0]
            exact = along if self.known is None else self.known.lines[move.line][1]
            drawn.points[move.name] = self._point(move.start) + mm * counted_way(exact) * along
        elif isinstance(move, Ellipse):
            centre = self._point(move.centre)
            rest = np.array([move.semi_major_mm, move.semi_minor_mm, move.tilt_deg])
            drawn.ellipses[move.name] = np.concatenate(
                [centre, np.repeat(rest[:, None], self.sheets, axis=1)]
            )
        elif isinstance(move, Curve):
            for name in move.points:
                self._point(name)
            drawn.curves[move.name] = move.points

    def _joined(self, move: Join) -> tuple[Array, Array]:
        """The line through a point and the mark it is ruled by, or the second point."""
        first = self._point(move.first)
        if move.second:
            self._point(move.second)
        if move.by is not None:
            second = self._measure(np.array(move.by, dtype=self.number))
        else:
            second = self._point(move.second)
        if self.known is not None and not np.hypot(*(second - first)).all():
            return first, self.known.lines[move.name][1]
        return first, _unit(second - first, move.name)

    def _measure(self, values: Array) -> Array:
        changed = self.off(self.measured, values)
        self.measured += len(values)
        return np.asarray(changed, dtype=self.number)

    def _fixed(self, x: float, y: float) -> Array:
        return np.repeat(np.array([[x], [y]], dtype=self.number), self.sheets, axis=1)

    def _point(self, name: str) -> Array:
        if name not in self.drawn.points:
            raise MoveError(
                _("Point {name} is used before it is made: make it first.").format(name=name)
            )
        return self.drawn.points[name]

    def _line(self, name: str) -> tuple[Array, Array]:
        if name not in self.drawn.lines:
            raise MoveError(
                _("Line {name} is used before it is drawn: draw it first.").format(name=name)
            )
        return self.drawn.lines[name]


def _unit(run: Array, name: str) -> Array:
    length = np.hypot(run[0], run[1])
    if not (length > 0).all():
        raise MoveError(
            _("Line {name} would join two points in one place: take another one.").format(name=name)
        )
    return np.asarray(run / length)


def counted_way(along: Array) -> float:
    """1 or −1: which way lengths count along a line of a direction (2, n) on n sheets: to the
    right, or upward on a line steeper than 45°. The first sheet decides for all, so that a line
    that a measure tilts past 45° is still stepped along the same way."""
    x, y = float(along[0, 0]), float(along[1, 0])
    return math.copysign(1.0, y if steep(x, y) else x)


def steep(x: float, y: float) -> bool:
    """Whether a direction is steeper than 45°."""
    return abs(y) > abs(x)


def _crossing(first: tuple[Array, Array], second: tuple[Array, Array], name: str) -> Array:
    (p, d), (q, e) = first, second
    bend = d[0] * e[1] - d[1] * e[0]
    if (np.abs(bend) < FLAT).any():
        raise MoveError(_("The two lines for {name} never cross: choose others.").format(name=name))
    away = q - p
    t = (away[0] * e[1] - away[1] * e[0]) / bend
    return np.asarray(p + t * d)

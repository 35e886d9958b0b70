"""The moves a hand makes with pencil, ruler and ellipse guide: all that a build order may use."""

from dataclasses import dataclass

from isometron.perspective.places import Place


@dataclass(frozen=True)
class Mark:
    """A point at a measured place, sheet mm from the paper's lower left corner."""

    name: str
    place: Place


@dataclass(frozen=True)
class Join:
    """The line through two points; laid: the ruler is laid along it for one tick, and no line is
    drawn; by: a measured mark on the way, where the ruler does not reach the second point: the line
    runs through the first point and this mark; toward: where it runs when that point cannot be
    marked (then `second` is empty)."""

    name: str
    first: str
    second: str
    laid: bool = False
    by: Place | None = None
    toward: str = ""


@dataclass(frozen=True)
class Upright:
    """The upright line through a point."""

    name: str
    through: str


@dataclass(frozen=True)
class Level:
    """The level line through a point."""

    name: str
    through: str


@dataclass(frozen=True)
class Parallel:
    """The line through a point parallel to another line."""

    name: str
    line: str
    through: str


@dataclass(frozen=True)
class Cross:
    """The point where two lines cross."""

    name: str
    first: str
    second: str


@dataclass(frozen=True)
class StepOff:
    """The point on a line at a measured length, mm, from a point of it: to the right along it, or
    up on a line steeper than 45°; to the left or down when negative; by_eye: placed where it looks
    right, and then measured."""

    name: str
    line: str
    start: str
    mm: float
    by_eye: bool = False


@dataclass(frozen=True)
class Ellipse:
    """An ellipse about a point: half axes in mm and the tilt of the long one in degrees."""

    name: str
    centre: str
    semi_major_mm: float
    semi_minor_mm: float
    tilt_deg: float


@dataclass(frozen=True)
class Curve:
    """A smooth curve through points, in order."""

    name: str
    points: tuple[str, ...]


Move = Mark | Join | Upright | Level | Parallel | Cross | StepOff | Ellipse | Curve
LINES = (Join, Upright, Level, Parallel)
"""Moves that draw a line (a laid ruler stands for one)."""


def draws(move: Move) -> bool:
    """Whether the pencil draws a line, an ellipse or a curve in a move."""
    return isinstance(move, (*LINES, Ellipse, Curve)) and not is_laid(move)


def is_laid(move: Move) -> bool:
    """Whether a move only lays the ruler."""
    return isinstance(move, Join) and move.laid


def needs(move: Move) -> tuple[str, ...]:
    """The names of points and lines that a move refers to."""
    if isinstance(move, Join | Cross):
        return (move.first, move.second) if move.second else (move.first,)
    if isinstance(move, Upright | Level):
        return (move.through,)
    if isinstance(move, Parallel):
        return move.line, move.through
    if isinstance(move, StepOff):
        return move.line, move.start
    if isinstance(move, Ellipse):
        return (move.centre,)
    return move.points if isinstance(move, Curve) else ()

"""A drill: what it asks, what an answer is, and what is told of it.

Adding one means adding a file to `drills/`: a function that makes an exercise from a seed and a
difficulty and names itself with `@drill`. The exercise knows its exact answer from the same core as
the bench, and judges any other."""

import importlib
import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cache
from pathlib import Path
from typing import NamedTuple

import numpy as np

from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.words import _

Point = tuple[float, float]

WIDE_MM, HIGH_MM = 200.0, 140.0
"""The sheet of an exercise: two of them, or four, fit on a printed page."""

MOST_SEED = 2**31 - 1


class PracticeError(IsometronError):
    """What cannot be practised so."""


class Held(NamedTuple):
    """A point of the answer: what it is, where it stands at first, and the line it is kept on (a
    place and a unit direction), None for anywhere; the place a line is drawn from to it, and the
    direction of a line that is drawn through it, where there is one."""

    what: str
    start: Point
    along: tuple[Point, Point] | None = None
    tied: Point | None = None
    through: Point | None = None

    def kept(self, place: Point) -> Point:
        """The place nearest to another that it may take."""
        if self.along is None:
            return place
        (x, y), (dx, dy) = self.along
        share = (place[0] - x) * dx + (place[1] - y) * dy
        return x + share * dx, y + share * dy


@dataclass(frozen=True)
class Answer:
    """What a person answers: places of the held points, a choice by number, a typed number, or a
    stroke (n, 2), sheet mm."""

    places: tuple[Point, ...] = ()
    choice: int | None = None
    number: float | None = None
    stroke: tuple[Point, ...] = ()


class Miss(NamedTuple):
    """One error: of what, with its sign, in which unit ("%", "mm", "°" or "" for right or wrong: 0
    or 1), how large a hand's own unsteadiness makes it, and in words."""

    measure: str
    error: float
    unit: str
    hand: float
    words: str


@dataclass(frozen=True, eq=False)
class Exercise:
    """One exercise, made from a seed and a difficulty of 0 to 1.

    task: one sentence; lines (n, 4) and words that are given. What is asked: held points, a choice,
    a number (`between` which it may lie; `unit` of it, "" for a ratio) or a stroke. helps (n, 4):
    light lines that a person may ask for. truth: the exact answer; drawn (n, 4): what is drawn once
    it is told."""

    drill: str
    seed: int
    difficulty: float
    task: str
    lines: Array
    truth: Answer
    judge: Callable[[Answer], tuple[Miss, ...]]
    drawn: Array
    held: tuple[Held, ...] = ()
    choices: tuple[str, ...] = ()
    between: tuple[float, float] | None = None
    unit: str = ""
    asks_stroke: bool = False
    helps: Array = field(default_factory=lambda: np.empty((0, 4)))
    labels: tuple[tuple[str, Point], ...] = ()

    @property
    def asks_number(self) -> bool:
        """Whether the answer is a typed number."""
        return self.between is not None

    def first_answer(self) -> Answer:
        """The held points where they stand at first."""
        return Answer(places=tuple(one.start for one in self.held))

    def told(self, answer: Answer) -> "Verdict":
        """What is said of an answer. Raises PracticeError for one of another kind."""
        if len(answer.places) != len(self.held):
            raise PracticeError(_("This exercise asks for other points: answer it anew."))
        numbers = [*(v for place in answer.places for v in place), answer.number or 0.0]
        if not all(math.isfinite(v) and abs(v) < 1e6 for v in numbers):
            raise PracticeError(_("This answer lies nowhere: keep it on the sheet."))
        if self.choices and answer.choice not in range(len(self.choices)):
            raise PracticeError(_("Choose one of the answers."))
        if self.between is not None:
            least, most = self.between
            if answer.number is None or not least <= answer.number <= most:
                raise PracticeError(
                    _("Type a number from {least} to {most}.").format(
                        least=f"{least:g}{self.unit}", most=f"{most:g}{self.unit}"
                    )
                )
        if self.asks_stroke and len(answer.stroke) < 2:
            raise PracticeError(_("Draw the line from one point to the other."))
        return Verdict(self.judge(answer))


class Verdict(NamedTuple):
    """What is said of an answer: its errors, the worst first."""

    misses: tuple[Miss, ...]

    @property
    def within(self) -> bool:
        """Whether every error lies within what a steady hand makes of itself (two of its standard
        deviations)."""
        return all(abs(miss.error) <= 2 * miss.hand + 1e-9 for miss in self.misses)

    @property
    def sentence(self) -> str:
        """All of it in one sentence."""
        return "; ".join(miss.words for miss in self.misses)


Makes = Callable[[np.random.Generator, float], Exercise | None]


@dataclass(frozen=True)
class Drill:
    """A drill: its key, title, what it trains in a sentence, and how an exercise is tried; None
    where a draw makes none that is fair, and the next one is drawn."""

    key: str
    title: str
    about: str
    tries: Makes

    def exercise(self, seed: int, difficulty: float = 0.4) -> Exercise:
        """The exercise of a seed. Raises PracticeError for a seed or difficulty out of range."""
        if not 0 <= seed <= MOST_SEED or not 0.0 <= difficulty <= 1.0:
            raise PracticeError(
                _("An exercise has a whole seed from 0 and a difficulty of 0 to 1: change these.")
            )
        rng = np.random.default_rng([seed, sum(map(ord, self.key))])
        for _n in range(MOST_TRIES):
            made = self.tries(rng, difficulty)
            if made is not None:
                return _numbered(made, self.key, seed, difficulty)
        raise PracticeError(_("This seed makes no fair exercise: take the next one."))


MOST_TRIES = 4000


def _numbered(made: Exercise, key: str, seed: int, difficulty: float) -> Exercise:
    return replace(made, drill=key, seed=seed, difficulty=difficulty)


_DRILLS: dict[str, Drill] = {}


def drill(key: str, title: str, about: str) -> Callable[[Makes], Makes]:
    """Makes a function that tries exercises a drill."""

    def add(tries: Makes) -> Makes:
        _DRILLS[key] = Drill(key, title, about, tries)
        return tries

    return add


@cache
def drills() -> dict[str, Drill]:
    """All drills by key, in the order of their files, whichever was loaded before."""
    from isometron.practice import drills as folder

    for path in sorted(Path(folder.__path__[0]).glob("[a-z]*.py")):
        importlib.import_module(f"{folder.__name__}.{path.stem}")
    return dict(sorted(_DRILLS.items(), key=lambda one: one[1].tries.__module__))


def drill_of(key: str) -> Drill:
    """A drill by its key. Raises PracticeError for an unknown one."""
    found = drills().get(key)
    if found is None:
        raise PracticeError(
            _("There is no drill “{key}”: use one of {keys}.").format(
                key=key, keys=", ".join(drills())
            )
        )
    return found

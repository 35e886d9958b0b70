"""A drill: what it asks, what an answer is, and what is told of it.

Adding one means adding a file to `drills/`: a function that makes an exercise from a seed and a
difficulty and names itself with `@drill`. The exercise knows its exact answer from the same core as
the bench, and judges any other."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cache
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np

from isometron.folders import modules_of
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.kept import FORMER_DRILLS
from isometron.words import _

if TYPE_CHECKING:
    from isometron.document.document import Document


WIDE_MM, HIGH_MM = 190.0, 125.0
"""The sheet of an exercise: two of them fit on a printed page, with their heads and marks."""

WRONG_CHOICE = 3.0

MOST_SEED = 2**31 - 1


class PracticeError(IsometronError):
    """What cannot be practised so."""


class Held(NamedTuple):
    """A point of the answer: what it is, where it stands at first, and the line it is kept on (its
    beginning and unit direction), None for anywhere."""

    what: str
    start: Place
    along: tuple[Place, Place] | None = None

    def kept(self, place: Place) -> Place:
        """The place nearest to another that it may take."""
        if self.along is None:
            return place
        (x, y), (dx, dy) = self.along
        share = max((place[0] - x) * dx + (place[1] - y) * dy, 0.0)
        return x + share * dx, y + share * dy


class Asked(NamedTuple):
    """A number that is asked: the least and the most it may be, what it is counted in ("" for
    heights), and what a field shows before it is typed."""

    least: float
    most: float
    unit: str = ""
    first: float = 1.0

    def allows(self, number: float | None) -> bool:
        """Whether a number may be meant."""
        return number is not None and self.least <= number <= self.most


class Aid(NamedTuple):
    """A help: its name, and its light lines (n, 4)."""

    name: str
    lines: Array


@dataclass(frozen=True)
class Answer:
    """What a person answers: places of the held points, a choice by number, a typed number, or a
    stroke (n, 2), sheet mm."""

    places: tuple[Place, ...] = ()
    choice: int | None = None
    number: float | None = None
    stroke: tuple[Place, ...] = ()


class Miss(NamedTuple):
    """One error: of what, with its sign, in which unit ("%", "mm", "°" or "" for right or wrong: 0
    or 1), how large a practised hand and eye make it, and in words."""

    measure: str
    error: float
    unit: str
    hand: float
    words: str

    @property
    def hands(self) -> float:
        """How many times what a practised hand makes of itself it is; a wrong choice counts as
        WRONG_CHOICE."""
        return abs(self.error) * (1 / max(self.hand, 1e-9) if self.unit else WRONG_CHOICE)


WHOLE_WAY = _("the build order")


def miss_of(kept: Mapping[str, Any]) -> Miss:
    """An error as the log keeps it."""
    told = (str(kept["measure"]), float(kept["error"]), str(kept["unit"]), float(kept["hand"]))
    return Miss(*told, str(kept["words"]))


def nothing_traced(places: Sequence[Place]) -> Array:
    """What an answer draws where it draws nothing."""
    return np.empty((0, 4))


def counted_in(unit: str) -> str:
    """A unit as it stands behind its number."""
    return unit if unit == "°" else f" {unit}"


@dataclass(frozen=True, eq=False)
class Exercise:
    """One exercise, made from a seed and a difficulty of 0 to 1.

    task: one sentence; lines (n, 4) that are given; truth: the exact answer; drawn (n, 4): what is
    drawn once it is told. What is asked: held points and the lines (n, 4) that they trace, a
    choice, a number, or a stroke. words stand at places of the sheet. aids: helps that a person may
    ask for; framework: the document whose build order is the whole way to the answer, where there
    is one. photo: gives a picture (PNG) that fills the sheet."""

    task: str
    lines: Array
    truth: Answer
    judge: Callable[[Answer], tuple[Miss, ...]]
    drawn: Array = field(default_factory=lambda: np.empty((0, 4)))
    held: tuple[Held, ...] = ()
    traced: Callable[[Sequence[Place]], Array] = nothing_traced
    choices: tuple[str, ...] = ()
    asked: Asked | None = None
    asks_stroke: bool = False
    words: tuple[tuple[str, Place], ...] = ()
    aids: tuple[Aid, ...] = ()
    framework: "Document | None" = None
    photo: Callable[[], bytes] | None = None
    drill: str = ""
    seed: int = 0
    difficulty: float = 0.0

    @property
    def closed(self) -> bool:
        """Whether the stroke that is asked for goes once round."""
        stroke = self.truth.stroke
        return len(stroke) > 2 and math.dist(stroke[0], stroke[-1]) < 1e-6

    @property
    def helps(self) -> tuple[str, ...]:
        """The helps that a person may ask for, by name, the whole way last."""
        whole = () if self.framework is None else (WHOLE_WAY,)
        return (*(aid.name for aid in self.aids), *whole)

    @property
    def lettered(self) -> list[str]:
        """The answers to choose from, each with its letter."""
        named = [(chr(ord("a") + n), one) for n, one in enumerate(self.choices)]
        return [words if words == letter else f"{letter}  {words}" for letter, words in named]

    def first_answer(self) -> Answer:
        """The held points where they stand at first."""
        return Answer(places=tuple(one.start for one in self.held))

    def told(self, answer: Answer) -> "Verdict":
        """What is said of an answer. Raises PracticeError for one of another kind."""
        if len(answer.places) != len(self.held):
            raise PracticeError(_("This exercise asks for other points: answer it anew."))
        numbers = [*(v for place in answer.places for v in place), answer.number or 0.0]
        numbers += [v for place in answer.stroke for v in place]
        if not all(math.isfinite(v) and abs(v) < 1e6 for v in numbers):
            raise PracticeError(_("This answer lies nowhere: keep it on the sheet."))
        if self.choices and answer.choice not in range(len(self.choices)):
            raise PracticeError(_("Choose one of the answers."))
        if self.asked is not None and not self.asked.allows(answer.number):
            raise PracticeError(
                _("Type a number from {least} to {most}.").format(
                    least=f"{self.asked.least:g}{self.asked.unit}",
                    most=f"{self.asked.most:g}{self.asked.unit}",
                )
            )
        if self.asks_stroke and len(answer.stroke) < 2:
            raise PracticeError(
                _("Draw the circle once round, in one stroke.")
                if self.closed
                else _("Draw the line from one point to the other.")
            )
        return Verdict(self.judge(answer))


def right_or_not(
    measure: str, truth: int, no: Sequence[str]
) -> Callable[[Answer], tuple[Miss, ...]]:
    """Judges a choice: what is said when it is wrong, for every true answer."""

    def judge(answer: Answer) -> tuple[Miss, ...]:
        right = answer.choice == truth
        return (Miss(measure, float(not right), "", 0.0, _("right") if right else no[truth]),)

    return judge


def worst_first(misses: Sequence[Miss]) -> tuple[Miss, ...]:
    """Errors by their size for a practised hand."""
    return tuple(sorted(misses, key=lambda miss: -abs(miss.error) / max(miss.hand, 1e-9)))


class Verdict(NamedTuple):
    """What is said of an answer: its errors, the worst first."""

    misses: tuple[Miss, ...]

    @property
    def within(self) -> bool:
        """Whether every error lies within what a practised hand and eye make of themselves (two of
        their standard deviations)."""
        return all(abs(miss.error) <= 2 * miss.hand + 1e-9 for miss in self.misses)

    @property
    def sentence(self) -> str:
        """All of it in one sentence."""
        return "; ".join(miss.words for miss in self.misses if miss.words)


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
        rng = np.random.default_rng([seed, sum(map(ord, first_key(self.key)))])
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

    modules_of(folder)
    return dict(sorted(_DRILLS.items(), key=lambda one: one[1].tries.__module__))


def first_key(key: str) -> str:
    """The name a drill had at first: seeds and codes on paper stay what they were."""
    return next((former for former, now in FORMER_DRILLS.items() if now == key), key)


def drill_of(key: str) -> Drill:
    """A drill by its key. Raises PracticeError for an unknown one."""
    found = drills().get(FORMER_DRILLS.get(key, key))
    if found is None:
        raise PracticeError(
            _("There is no drill “{key}”: use one of {keys}.").format(
                key=key, keys=", ".join(drills())
            )
        )
    return found

"""What an exercise asks for: places, a choice, a number, or a stroke. Each says what of an answer
is its own, and what is wrong with one."""

import math
from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.words import _

NO_LINES: Array = np.empty((0, 4))


@dataclass(frozen=True)
class Answer:
    """What a person answers: places of the held points, a choice by number, a typed number, or a
    stroke (n, 2), sheet mm."""

    places: tuple[Place, ...] = ()
    choice: int | None = None
    number: float | None = None
    stroke: tuple[Place, ...] = ()


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


class Asks(ABC):
    """What is asked for."""

    held: tuple[Held, ...]
    """The points that a hand holds; () where it holds none."""
    lettered: list[str]
    """The answers to choose from, each with its letter; [] where there is nothing to choose."""
    by_hand: bool
    """Whether it is answered by the hand on the sheet, so that a photograph can show it."""

    @abstractmethod
    def refusal(self, answer: Answer) -> str:
        """What is wrong with an answer, whatever it says; "" for one that can be judged."""

    @abstractmethod
    def in_words(self, truth: Answer) -> str:
        """The exact answer."""

    @abstractmethod
    def drawn(self, answer: Answer) -> Array:
        """The lines (n, 4) that an answer draws."""


def nothing_traced(places: Sequence[Place]) -> Array:
    """What held points draw where they draw nothing."""
    return NO_LINES


@dataclass(frozen=True)
class Places(Asks):
    """Points to be put where they belong, and the lines (n, 4) that they trace."""

    held: tuple[Held, ...]
    traced: Callable[[Sequence[Place]], Array] = nothing_traced
    lettered, by_hand = [], True

    def refusal(self, answer: Answer) -> str:
        """Other points than these."""
        if len(answer.places) == len(self.held):
            return ""
        return _("This exercise asks for other points: answer it anew.")

    def in_words(self, truth: Answer) -> str:
        """It is drawn."""
        return _("the exact answer")

    def drawn(self, answer: Answer) -> Array:
        """What the points trace."""
        return self.traced(answer.places) if answer.places else NO_LINES


@dataclass(frozen=True)
class Choice(Asks):
    """One of some answers."""

    choices: tuple[str, ...]
    held, by_hand = (), False

    @property
    def lettered(self) -> list[str]:  # type: ignore[override]
        """Each with its letter; letters alone as they are."""
        named = [(chr(ord("a") + n), one) for n, one in enumerate(self.choices)]
        return [words if words == letter else f"{letter}  {words}" for letter, words in named]

    def refusal(self, answer: Answer) -> str:
        """None of these."""
        known = answer.choice in range(len(self.choices))
        return "" if known else _("Choose one of the answers.")

    def in_words(self, truth: Answer) -> str:
        """Its letter and its words."""
        number = truth.choice or 0
        return f"{chr(97 + number)}  {self.choices[number]}"

    def drawn(self, answer: Answer) -> Array:
        """Nothing."""
        return NO_LINES


@dataclass(frozen=True)
class Number(Asks):
    """A number: the least and the most it may be, what it is counted in ("" for heights), and what
    a field shows before it is typed."""

    least: float
    most: float
    unit: str = ""
    first: float = 1.0
    held, lettered, by_hand = (), [], False

    def refusal(self, answer: Answer) -> str:
        """A number out of these bounds, or none."""
        if answer.number is not None and self.least <= answer.number <= self.most:
            return ""
        return _("Type a number from {least} to {most}.").format(
            least=f"{self.least:g}{self.unit}", most=f"{self.most:g}{self.unit}"
        )

    def in_words(self, truth: Answer) -> str:
        """To four digits."""
        return f"{truth.number or 0.0:.4g}{self.unit or ' : 1'}"

    def drawn(self, answer: Answer) -> Array:
        """Nothing."""
        return NO_LINES


@dataclass(frozen=True)
class Stroke(Asks):
    """One stroke, drawn freehand; closed: once round."""

    closed: bool = False
    held, lettered, by_hand = (), [], True

    def refusal(self, answer: Answer) -> str:
        """No stroke."""
        if len(answer.stroke) > 1:
            return ""
        if self.closed:
            return _("Draw the circle once round, in one stroke.")
        return _("Draw the line from one point to the other.")

    def in_words(self, truth: Answer) -> str:
        """It is drawn."""
        return _("the exact answer")

    def drawn(self, answer: Answer) -> Array:
        """Nothing besides itself."""
        return NO_LINES


def is_fair(answer: Answer) -> bool:
    """Whether all numbers of an answer lie somewhere near a sheet."""
    numbers = [v for place in (*answer.places, *answer.stroke) for v in place]
    numbers.append(answer.number or 0.0)
    return all(math.isfinite(v) and abs(v) < 1e6 for v in numbers)

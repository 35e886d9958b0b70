"""What a starter is: what it asks, and how the answers become modules and volumes."""

from collections.abc import Callable, Mapping
from typing import NamedTuple

from isometron.framework.modules import Count, Module
from isometron.framework.placing import Counts
from isometron.framework.volume import Volume
from isometron.words import _

CAUTION = _(
    "Proportions for sketching only: not engineering, safety or ergonomic "
    "data. What is built or sat on follows local codes and a licensed "
    "professional."
)

Values = Mapping[str, float]


Made = tuple[tuple[Module, ...], list[Volume]]
"""What a starter makes: modules and volumes."""


class Question(NamedTuple):
    """One number a starter asks for: its words, kind ("length" in mm, "ratio" in modules, "angle",
    "count", "yes": 0 or 1, or "choice": the number, from 1, of one of its choices), what is
    proposed, and whether it may be none at all (0)."""

    name: str
    kind: str
    proposed: float
    tip: str
    none: bool = False
    choices: tuple[str, ...] = ()


class Starter(NamedTuple):
    """A starter: what it asks, and how the answers become modules and volumes."""

    name: str
    module: str
    questions: tuple[Question, ...]
    make: Callable[[Values], Made]

    @property
    def counts(self) -> bool:
        """Whether any of its numbers are counted in its module."""
        return any(question.kind == "ratio" for question in self.questions)

    @property
    def proposal(self) -> dict[str, float]:
        """The proposed answers."""
        return {question.name: question.proposed for question in self.questions}


def counted(*numbers: float, of: str) -> Counts:
    """Sides counted in a module: so many times of it each."""
    width, depth, height = (Count(number, of) for number in numbers)
    return width, depth, height

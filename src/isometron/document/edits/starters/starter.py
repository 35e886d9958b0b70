"""What a starter is: what it asks, and how the answers become modules and volumes."""

from collections.abc import Callable, Mapping
from typing import NamedTuple

import numpy as np

from isometron.framework.intentions.intention import Intention, own_place
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


class Made(NamedTuple):
    """What a starter makes: modules, volumes, and what they were meant to be to each other. Keys
    are the starter's own."""

    modules: tuple[Module, ...]
    volumes: list[Volume]
    meant: tuple[Intention, ...] = ()


class Read:
    """A framework that a starter has set down, measured as it stands now: its volumes by the
    starter's own keys, along the axes of one of them."""

    def __init__(self, parts: Mapping[int, Volume], frame: int) -> None:
        self.parts, self._frame = parts, parts[frame]

    def side(self, key: int, axis: int) -> float:
        """The width (0), depth (1) or height (2) of a part, mm. Raises KeyError for one that is
        gone."""
        return self.parts[key].sides[axis]

    def at(self, key: int, axis: int, share: float) -> float:
        """Where the middle of a part lies along an axis of the frame, mm from its corner 0; with a
        share of its own side along that axis: at its begin 0, at its end 1."""
        part = self.parts[key]
        shares = np.full(3, 0.5)
        shares[axis] = share
        place, axes = part.pose
        return float(own_place(self._frame, place + shares * np.array(part.sides) @ axes)[axis])

    def unit(self, key: int | None) -> float:
        """The width of a part, mm; 1 for none."""
        return 1.0 if key is None else self.side(key, 0)


Measure = Callable[[Read, Values], float]
"""What the measure that a question sets is now; KeyError where its part is gone."""


def side(key: int, axis: int, per: int | None = None) -> Measure:
    """The measure of a side of a part, in widths of another (per) or mm."""
    return lambda now, told: now.side(key, axis) / now.unit(per)


def span(
    one: int, share: float, other: int, to: float, axis: int, per: int | None = None, times: int = 1
) -> Measure:
    """The measure from a share of one part to a share of another along an axis, so many times, in
    widths of a part (per) or mm."""
    return lambda now, told: (
        times * (now.at(other, axis, to) - now.at(one, axis, share)) / now.unit(per)
    )


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
    measure: Measure | None = None
    """The measure it sets, read on the framework; None for what is only remembered."""


class Starter(NamedTuple):
    """A starter: what it asks, and how the answers become modules and volumes."""

    name: str
    module: str
    questions: tuple[Question, ...]
    make: Callable[[Values], Made]
    frame: int = 0
    """Its own key of the part along whose axes it is measured."""

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

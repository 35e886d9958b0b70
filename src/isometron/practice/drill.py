"""A drill: what it asks, what an answer is, and what is told of it.

Adding one means adding a file to `drills/`: a function that makes an exercise from a seed and a
difficulty and names itself with `@drill`. The exercise knows its exact answer from the same core as
the bench, and judges any other."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import KW_ONLY, dataclass, field, replace
from functools import cache
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np

from isometron.folders import modules_of
from isometron.nearness import SAME
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.asks import Answer, Asks, is_fair
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


class Aid(NamedTuple):
    """A help: its name, and its light lines (n, 4)."""

    name: str
    lines: Array


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


def counted_in(unit: str) -> str:
    """A unit as it stands behind its number."""
    return unit if unit == "°" else f" {unit}"


@dataclass(frozen=True, eq=False)
class Exercise:
    """One exercise, made from a seed and a difficulty of 0 to 1.

    task: one sentence; lines (n, 4) that are given; truth: the exact answer; drawn (n, 4): what is
    drawn once it is told; asks: what is asked for. words stand at places of the sheet. aids: helps
    that a person may ask for; framework: the document whose build order is the whole way to the
    answer, where there is one. photo: gives a picture (PNG) that fills the sheet."""

    task: str
    lines: Array
    truth: Answer
    judge: Callable[[Answer], tuple[Miss, ...]]
    drawn: Array = field(default_factory=lambda: np.empty((0, 4)))
    _: KW_ONLY
    asks: Asks
    words: tuple[tuple[str, Place], ...] = ()
    aids: tuple[Aid, ...] = ()
    framework: "Document | None" = None
    photo: Callable[[], bytes] | None = None
    drill: str = ""
    seed: int = 0
    difficulty: float = 0.0

    @property
    def helps(self) -> tuple[str, ...]:
        """The helps that a person may ask for, by name, the whole way last."""
        whole = () if self.framework is None else (WHOLE_WAY,)
        return (*(aid.name for aid in self.aids), *whole)

    def first_answer(self) -> Answer:
        """The held points where they stand at first."""
        return Answer(places=tuple(one.start for one in self.asks.held))

    def told(self, answer: Answer) -> "Verdict":
        """What is said of an answer. Raises PracticeError for one of another kind."""
        refusal = self.asks.refusal(answer)
        if refusal:
            raise PracticeError(refusal)
        if not is_fair(answer):
            raise PracticeError(_("This answer lies nowhere: keep it on the sheet."))
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
        return all(abs(miss.error) <= 2 * miss.hand + SAME for miss in self.misses)

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

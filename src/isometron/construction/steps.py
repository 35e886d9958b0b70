"""Steps, chapters and orders: moves with the sentence that tells them."""

import math
from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from isometron.construction.machine import Drawn
from isometron.construction.moves import Move, draws, needs
from isometron.construction.strokes import Stroke
from isometron.document.edits.places.by_eye import Closing
from isometron.perspective.errors import IsometronError
from isometron.words import _


class OrderError(IsometronError):
    """An order that cannot be written or arranged."""


@dataclass(frozen=True)
class Step:
    """One step. key: stays the same while the framework changes; text: its sentence; moves; object:
    names of lines and curves in it that the finished drawing keeps; borrowed: the method it borrows
    when the chosen one cannot do it, or ""."""

    key: str
    text: str
    moves: tuple[Move, ...] = ()
    objects: tuple[str, ...] = ()
    rubs: tuple[str, ...] = ()
    borrowed: str = ""


@dataclass(frozen=True)
class Chapter:
    """A chapter: its key, title and steps."""

    key: str
    title: str
    steps: tuple[Step, ...]

    def makes(self) -> set[str]:
        """Names of everything it makes."""
        return {move.name for step in self.steps for move in step.moves}

    def uses(self) -> set[str]:
        """Names of everything it refers to that it does not make itself."""
        return {name for step in self.steps for move in step.moves for name in needs(move)} - (
            self.makes()
        )


@dataclass(frozen=True)
class Landing:
    """Where a point must land: its name, exact sheet place, and what it is in words."""

    name: str
    place: tuple[float, float]
    what: str


@dataclass(frozen=True)
class Order:
    """A build order: method, chapters, where its points land, ellipses by name with their exact
    values (centre x, y, half axes, tilt), how far rounding can move the worst corner (mm) and which
    one that is, the ruler's step, labels, bounds of all points, where everything lies when its
    moves are made exactly; how far (mm) each landing lies off in 95 of 100 drawings by hand, and
    which lies off farthest; what is placed by eye, by the key of its step; the finished drawing
    (empty when the object is left to the hand); the paper's size and the length of the ruler that
    places are told by."""

    method: str
    chapters: tuple[Chapter, ...]
    landings: tuple[Landing, ...]
    ellipses: dict[str, tuple[float, float, float, float, float]]
    worst_mm: float
    worst: str
    step_mm: float
    labels: dict[str, str]
    bounds: dict[str, float]
    drawn: Drawn
    hand: dict[str, float] = field(default_factory=dict)
    farthest: str = ""
    closings: dict[str, Closing] = field(default_factory=dict)
    finished: tuple[Stroke, ...] = ()
    paper_mm: tuple[float, float] = (math.inf, math.inf)
    ruler_mm: float = math.inf

    @property
    def steps(self) -> tuple[Step, ...]:
        """All steps in order."""
        return tuple(step for chapter in self.chapters for step in chapter.steps)

    def moves(self, steps: Iterable[Step] | None = None) -> tuple[Move, ...]:
        """All moves in order."""
        return tuple(move for step in (steps or self.steps) for move in step.moves)

    @property
    def by_hand_mm(self) -> float:
        """How far the farthest corner lies off in 95 of 100 drawings by hand."""
        return max(self.hand.values(), default=0.0)

    @property
    def lines_drawn(self) -> int:
        """How many lines, ellipses and curves the pencil draws."""
        return sum(draws(move) for move in self.moves())

    def label_of(self, name: str) -> str:
        """What a point is called."""
        return self.labels.get(name, name.removeprefix("p"))

    def step_of(self, name: str) -> str | None:
        """The key of the step that makes a point or line."""
        return next((s.key for s in self.steps if any(m.name == name for m in s.moves)), None)


def arranged(order: Order, keys: tuple[str, ...]) -> Order:
    """The order with its chapters in another sequence (keys; those not named keep their place at
    the end, and what rubs out is always last). Raises OrderError when a chapter would use what a
    later one makes."""
    known = {chapter.key: chapter for chapter in order.chapters}
    named = [known[key] for key in keys if key in known]
    rest = [chapter for chapter in order.chapters if chapter.key not in keys]
    chapters = sorted([*named, *rest], key=lambda one: any(step.rubs for step in one.steps))
    made: set[str] = set()
    for chapter in chapters:
        missing = chapter.uses() - made
        if missing:
            owner = next(c for c in chapters if missing & c.makes())
            raise OrderError(
                _("“{title}” needs what “{title2}” draws: leave it behind that chapter.").format(
                    title=chapter.title, title2=owner.title
                )
            )
        made |= chapter.makes()
    return replace(order, chapters=tuple(chapters))

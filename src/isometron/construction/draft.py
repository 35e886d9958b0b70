"""The draft: an order while it is being written. Every move is made at once on a sheet of its own,
so that the next one can be chosen by where things truly lie."""

import math
from dataclasses import dataclass, replace

import numpy as np

from isometron.construction.machine import Machine, MoveError, counted_way, exact_measures
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
from isometron.construction.steps import Chapter, Landing, Step
from isometron.construction.table import MOST_GOES, off_paper
from isometron.construction.telling import where_in_words
from isometron.document.document import Document
from isometron.document.edits.places.by_eye import Closing
from isometron.perspective.eye import Array, Eye
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.perspective.sheet import Sheet
from isometron.words import _

FLATTEST_DEG = 8.0
"""Lines that cross flatter than this are not trusted: another way is taken."""

LEAST_GUIDE_MM = 20.0
"""A mark nearer to where a line starts guides no ruler."""

GUIDE_SHARE = 0.5
"""A mark that gives a direction lies off by this share of the paper's smaller side."""

SAME_MM = 1e-7
"""Points nearer than this are one."""


@dataclass(frozen=True)
class Target:
    """A point that lines run to. name: the point, when it is on the board or on a strip, else None:
    then every line to it is ruled by a mark on the paper's edge. words: what it is called."""

    name: str | None
    place: Place
    words: str


class Draft:
    """Writes moves into steps and chapters."""

    def __init__(self, document: Document, step_mm: float) -> None:
        self.document, self.step_mm = document, step_mm
        self.eye: Eye = document.eye
        self.sheet: Sheet = document.sheet
        self.machine = Machine(1, exact_measures)
        self.chapters: list[Chapter] = []
        self.landings: list[Landing] = []
        self.ellipses: dict[str, tuple[float, float, float, float, float]] = {}
        self.labels: dict[str, str] = {}
        self._steps: list[Step] = []
        self._moves: list[Move] = []
        self._objects: list[str] = []
        self._counts: dict[str, int] = {}
        self.drawn: set[str] = set()
        self.closings: dict[str, Closing] = {}
        self._lettered = 0
        self._borrowed = ""
        self._notes: list[str] = []

    # Moves

    def make(self, move: Move) -> str:
        """Make a move now; gives its name."""
        self.machine.make(move)
        self._moves.append(move)
        return move.name

    def name(self, kind: str) -> str:
        """A name that nothing has yet."""
        self._counts[kind] = self._counts.get(kind, 0) + 1
        return f"{kind}{self._counts[kind]}"

    def mark(self, place: Place, label: str = "") -> str:
        """Mark a point at a measured place."""
        name = self.make(Mark(self.name("p"), (float(place[0]), float(place[1]))))
        return self._labelled(name, label)

    def join(self, first: str, second: str) -> str:
        """Join two points."""
        way = self._third_mark(self.place(first), self.place(second))
        return self.make(Join(self.name("l"), first, second, by=way))

    def upright(self, through: str) -> str:
        """An upright through a point; without a set square by a second mark."""
        if not self.document.kit.set_square:
            return self.by_mark(through, (0.0, 1.0))
        return self.make(Upright(self.name("l"), through))

    def level(self, through: str) -> str:
        """A level line through a point; without a set square by a second mark."""
        if not self.document.kit.set_square:
            return self.by_mark(through, (1.0, 0.0))
        return self.make(Level(self.name("l"), through))

    def parallel(self, line: str, through: str) -> str:
        """A parallel to a line through a point; without a set square by a second mark."""
        if not self.document.kit.set_square:
            _unused, along = self.line(line)
            return self.by_mark(through, (float(along[0]), float(along[1])))
        return self.make(Parallel(self.name("l"), line, through))

    def by_mark(self, through: str, along: Place) -> str:
        """The line through a point in a direction of the paper (unit), by a mark toward the middle
        of the paper, no farther off it than a mark may lie."""
        x, y = self.place(through)
        middle = self.sheet.width_mm / 2 - x, self.sheet.height_mm / 2 - y
        way = math.copysign(1.0, along[0] * middle[0] + along[1] * middle[1])
        kit = self.document.kit
        side = min(self.sheet.width_mm, self.sheet.height_mm)
        reach = min(kit.ruler_mm, GUIDE_SHARE * side)
        place = x, y
        while reach >= LEAST_GUIDE_MM:
            place = x + way * reach * along[0], y + way * reach * along[1]
            if off_paper(self.sheet, place) <= min(kit.spare_paper_mm, kit.ruler_mm):
                break
            reach /= 2
        return self.join(through, self.mark(place))

    def cross(self, first: str, second: str, label: str = "") -> str:
        """The point where two lines cross."""
        return self._labelled(self.make(Cross(self.name("p"), first, second)), label)

    def step_off(
        self, line: str, start: str, mm: float, label: str = "", *, by_eye: bool = False
    ) -> str:
        """A point at a measured length along a line."""
        goes = max(math.ceil(abs(mm) / self.document.kit.ruler_mm - 1e-9), 1)
        if goes > MOST_GOES:
            goes = 1  # no kit does that: the order says so at its head
        for _unused in range(goes):  # a length longer than the ruler is laid off in equal goes
            start = self.make(StepOff(self.name("p"), line, start, float(mm) / goes, by_eye))
        return self._labelled(start, label)

    def ellipse(self, centre: str, half: tuple[float, float], tilt_deg: float) -> str:
        """An ellipse about a point."""
        return self.make(Ellipse(self.name("e"), centre, half[0], half[1], tilt_deg))

    def curve(self, points: tuple[str, ...]) -> str:
        """A smooth curve through points."""
        return self.make(Curve(self.name("c"), points))

    def _labelled(self, name: str, label: str) -> str:
        if label:
            self.call(name, label)
        return name

    def call(self, name: str, label: str) -> None:
        """Label a point; a label that another point has already is numbered."""
        taken, wanted, number = set(self.labels.values()), label, 1
        while label in taken:
            number += 1
            label = f"{wanted} {number}"
        self.labels[name] = label

    def letter(self, name: str) -> str:
        """The label of a point: a letter, given when it is first spoken of."""
        if name not in self.labels:
            tens, ones = divmod(self._lettered, 24)
            self.labels[name] = "ABCDEFGHJKLMNOPQRSTUVWXY"[ones] + (str(tens) if tens else "")
            self._lettered += 1
        return self.labels[name]

    # Where things lie

    def place(self, name: str) -> Place:
        """Where a point lies."""
        return self.machine.drawn.place(name)

    def line(self, name: str) -> tuple[Array, Array]:
        """A point of a line and its unit direction, (2,) each."""
        point, along = self.machine.drawn.lines[name]
        return point[:, 0].astype(float), along[:, 0].astype(float)

    def crossing_deg(self, first: str, second: str) -> float:
        """The angle at which two lines cross, 0 … 90."""
        (_unused, d), (_unused, e) = self.line(first), self.line(second)
        return math.degrees(math.asin(min(abs(float(d[0] * e[1] - d[1] * e[0])), 1.0)))

    def crosses_well(self, first: str, second: str) -> bool:
        """Whether two lines cross steeply enough to be trusted."""
        return self.crossing_deg(first, second) >= FLATTEST_DEG

    def signed(self, line: str, start: str, place: Place) -> float:
        """The measure that steps off from a point of a line to a place on it."""
        _unused, along = self.line(line)
        along = along * counted_way(along[:, None])
        return float(np.array(place) @ along - np.array(self.place(start)) @ along)

    # Lines to points

    def line_to(self, point: str, target: Target) -> str:
        """The line from a point to a target: through it, or by a mark on the paper's edge."""
        if target.name is not None:
            return self.join(point, target.name)
        by = self.edge_place(self.place(point), target.place)
        return self.make(Join(self.name("l"), point, "", by=by, toward=target.words))

    def edge_place(self, start: Place, towards: Place) -> Place:
        """Where a ruler laid from a place to another is marked on the paper: of the two edges the
        line crosses the one farther from the start, so that the mark guides it well, and never
        beyond what it runs to. The place half way where the line misses the paper. Raises MoveError
        where both are one place."""
        (x, y), (tx, ty) = start, towards
        w, h = self.sheet.width_mm, self.sheet.height_mm
        shares = []
        for at, to, edges in ((x, tx, (0.0, w)), (y, ty, (0.0, h))):
            for edge in edges:
                if to != at:
                    share = (edge - at) / (to - at)
                    place = x + share * (tx - x), y + share * (ty - y)
                    on = -SAME_MM <= place[0] <= w + SAME_MM and -SAME_MM <= place[1] <= h + SAME_MM
                    if on and share < 1:
                        shares.append(share)
        length, ruler = math.hypot(tx - x, ty - y), self.document.kit.ruler_mm
        if length == 0:
            raise MoveError(_("A line runs from a point to itself: move the eye a little."))
        shares = [share for share in shares if abs(share) * length >= LEAST_GUIDE_MM]
        share = max(shares, key=abs) if shares else 0.5
        share = max(min(share, ruler / length), -ruler / length)
        return x + share * (tx - x), y + share * (ty - y)

    def _third_mark(self, start: Place, end: Place) -> Place | None:
        """A mark on the way for a line longer than the ruler: as far as the ruler reaches, and on
        the paper while that guides it well."""
        length, ruler = math.dist(start, end), self.document.kit.ruler_mm
        if length <= ruler:
            return None
        run = (end[0] - start[0]) / length, (end[1] - start[1]) / length
        reach = ruler
        for at, along, size in zip(
            start, run, (self.sheet.width_mm, self.sheet.height_mm), strict=True
        ):
            if along:
                edge = ((size if along > 0 else 0.0) - at) / along
                if LEAST_GUIDE_MM <= edge < reach:
                    reach = edge
        return start[0] + reach * run[0], start[1] + reach * run[1]

    # Words

    def length(self, mm: float) -> str:
        """A measure as the ruler is read, with its unit."""
        return write_length(round(mm / self.step_mm) * self.step_mm, self.document.choices.unit)

    def where(self, place: Place, ruler_mm: float | None = None) -> str:
        """A measured place in words: from the paper's edges, by the person's ruler or another."""
        paper = self.sheet.width_mm, self.sheet.height_mm
        return where_in_words(place, self.length, paper, ruler_mm or self.document.kit.ruler_mm)

    # Steps and chapters

    @property
    def borrowed(self) -> str:
        """The method that the step in work borrows, or ""."""
        return self._borrowed

    @property
    def idle(self) -> bool:
        """Whether the step in work has no move yet."""
        return not self._moves

    def borrow(self, method: str) -> None:
        """Note that the step in work borrows another method."""
        self._borrowed = method

    def keep(self, *names: str) -> None:
        """Note lines or curves of the step in work that the finished drawing keeps."""
        self._objects += names

    def draw(self, *names: str) -> None:
        """Note lines that are wanted for themselves, and not for a tick alone."""
        self.drawn.update(names)

    def land(self, name: str, place: Array, what: str) -> None:
        """Note where a point must land."""
        self.landings.append(Landing(name, (float(place[0]), float(place[1])), what))

    def note(self, words: str) -> None:
        """One more sentence for the step in work."""
        self._notes.append(words)

    def step(self, key: str, text: str, rubs: tuple[str, ...] = ()) -> None:
        """Close the step in work; one without moves and without words is left out."""
        if self._moves or text:
            text = " ".join([text, *self._notes]).strip()
            self._steps.append(
                Step(key, text, tuple(self._moves), tuple(self._objects), rubs, self._borrowed)
            )
        self._moves, self._objects, self._borrowed = [], [], ""
        self._notes = []

    def first(self, key: str, text: str, names: list[str]) -> None:
        """A step before all others of the chapter in work, with the moves that make some points;
        they stand on nothing that the chapter makes itself, but on each other."""
        made = {m.name: m for step in self._steps for m in step.moves}
        moves = tuple(made[name] for name in names if name in made)
        if not moves:
            return
        taken = {move.name for move in moves}
        rest = [
            replace(step, moves=tuple(m for m in step.moves if m.name not in taken))
            for step in self._steps
        ]
        self._steps = [Step(key, text, moves), *rest]

    def chapter(self, key: str, title: str) -> None:
        """Close the chapter in work."""
        if self._moves:
            raise AssertionError(_("a step was left open"))
        if self._steps:
            self.chapters.append(Chapter(key, title, tuple(self._steps)))
        self._steps = []

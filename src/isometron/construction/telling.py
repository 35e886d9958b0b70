"""Moves told in the words of the drawing board, with their measures."""

import math
from collections.abc import Callable

from isometron.construction.machine import steep
from isometron.construction.moves import (
    LINES,
    Cross,
    Ellipse,
    Join,
    Level,
    Mark,
    Move,
    Parallel,
    StepOff,
    Upright,
    is_laid,
)
from isometron.construction.steps import Order, Step
from isometron.nearness import SAME
from isometron.perspective.lengths import write_length
from isometron.words import _, said

WAYS = (
    (
        said("{length} right"),
        said("{length} left of the paper"),
        said("{length} right of the paper"),
        said("{length} from the right edge"),
        said("at the left edge"),
        said("at the right edge"),
    ),
    (
        said("{length} up"),
        said("{length} below the paper"),
        said("{length} above the paper"),
        said("{length} down"),
        said("at the lower edge"),
        said("at the upper edge"),
    ),
)
"""How a place is told across and up: from the left or lower edge, off the paper before it and
beyond it, from the other edge, and on either."""

NOTHING_MM = 0.05
"""Less than this off an edge of the paper is on it."""


def where_in_words(
    place: tuple[float, float],
    length: Callable[[float], str],
    paper: tuple[float, float] = (math.inf, math.inf),
    ruler_mm: float = math.inf,
) -> str:
    """A place (mm from the paper's left and lower edges) in words, also off the paper; what lies
    farther from those edges than the ruler reaches is told from the others."""
    told = []
    for at, size, ways in zip(place, paper, WAYS, strict=True):
        own = at
        if min(abs(at), abs(at - size)) < NOTHING_MM:
            told.append(_(ways[4 + (abs(at) >= NOTHING_MM)]))
        elif own < 0:
            told.append(_(ways[1]).format(length=length(-own)))
        elif own > size:
            told.append(_(ways[2]).format(length=length(own - size)))
        elif own > ruler_mm and size - own < own:
            told.append(_(ways[3]).format(length=length(size - own)))
        else:
            told.append(_(ways[0]).format(length=length(own)))
        goes = math.ceil(min(abs(at), abs(size - at)) / ruler_mm - SAME)
        if goes > 1:
            told[-1] += _(" in {goes} goes").format(goes=goes)
    return ", ".join(told)


def tilt_in_words(degrees: float) -> str:
    """How the long axis of an ellipse lies, its tilt counted from level."""
    tilt = f"{degrees:.1f}".replace("-", "−")
    return (
        _("long axis level")
        if abs(degrees) < 0.05
        else _("long axis tilted {tilt}°").format(tilt=tilt)
    )


class Teller:
    """Tells the moves of an order in a unit."""

    def __init__(self, order: Order, unit: str) -> None:
        self.order, self.unit = order, unit
        self._lines: dict[str, str] = {}
        self._laid: dict[str, Join] = {}
        said: set[str] = set()
        for move in order.moves():
            words = self._line(move)
            if words in said and isinstance(move, Parallel):
                along, through = self._lines[move.line], self.point(move.through)
                words = _("the parallel to {along} through {through}").format(
                    along=along, through=through
                )
            if isinstance(move, Join) and move.laid:
                self._laid[move.name] = move
            else:
                said.add(words)
            self._lines[move.name] = words

    def point(self, name: str) -> str:
        """What a point is called: its letter, else its number."""
        return self.order.labels.get(name, name.removeprefix("p"))

    def length(self, mm: float) -> str:
        """A measure as the ruler is read."""
        step = self.order.step_mm
        return write_length(round(mm / step) * step, self.unit)

    def where(self, place: tuple[float, float]) -> str:
        """A measured place in words."""
        return where_in_words(place, self.length, self.order.paper_mm, self.order.ruler_mm)

    def _steep(self, line: str) -> bool:
        along = self.order.drawn.lines[line][1]
        return steep(float(along[0, 0]), float(along[1, 0]))

    def _line(self, move: Move) -> str:
        if isinstance(move, Join):
            return f"{self.point(move.first)}–{move.toward or self.point(move.second)}"
        if isinstance(move, Upright):
            return _("the upright through {through}").format(through=self.point(move.through))
        if isinstance(move, Level):
            return _("the level line through {through}").format(through=self.point(move.through))
        if isinstance(move, Parallel):
            return _("the parallel through {through}").format(through=self.point(move.through))
        return ""

    def tell(self, move: Move) -> str:
        """One move in words."""
        if isinstance(move, LINES):
            return self._drawn(move)
        if isinstance(move, Mark):
            return _("Mark {name}: {place}.").format(
                name=self.point(move.name), place=self.where(move.place)
            )
        if isinstance(move, Cross):
            return self._crossed(move)
        if isinstance(move, StepOff):
            return self._stepped(move)
        if isinstance(move, Ellipse):
            long, short = (self.length(2 * v) for v in (move.semi_major_mm, move.semi_minor_mm))
            return _("Ellipse about {centre}: {long} by {short}, {tilt}.").format(
                centre=self.point(move.centre),
                long=long,
                short=short,
                tilt=tilt_in_words(move.tilt_deg),
            )
        return _("Curve through {value}.").format(
            value=", ".join(self.point(p) for p in move.points)
        )

    def _crossed(self, move: Cross) -> str:
        name = self.point(move.name)
        for laid, other in ((move.first, move.second), (move.second, move.first)):
            if laid in self._laid:
                return self._tick(self._laid[laid], self._lines[other], name)
        return _("{name} is where {value} meets {value2}.").format(
            name=name, value=self._lines[move.first], value2=self._lines[move.second]
        )

    def _stepped(self, move: StepOff) -> str:
        level = not self._steep(move.line)
        number = 2 * level + (move.mm < 0)
        ways = (_("up"), _("down"), _("to the right"), _("to the left"))
        told = _("Step {length} {way} from {start} along {value}: {name}.")
        if move.by_eye:
            ways = (_("above"), _("below"), _("right of"), _("left of"))
            told = _("Place {name} by eye {way} {start} along {value}, and measure it: {length}.")
        return told.format(
            length=self.length(abs(move.mm)),
            way=ways[number],
            start=self.point(move.start),
            value=self._lines[move.line],
            name=self.point(move.name),
        )

    def _tick(self, ruler: Join, line: str, name: str) -> str:
        """A tick where a laid ruler meets a line."""
        told = _("Lay the ruler from {first} to {second}: it meets {line} in {name}.")
        if ruler.by is not None:
            told = _("Lay the ruler from {first} to {second}, {by}: it meets {line} in {name}.")
        return told.format(
            first=self.point(ruler.first),
            second=ruler.toward or self.point(ruler.second),
            by=self._by(ruler),
            line=line,
            name=name,
        )

    def _by(self, line: Join) -> str:
        """The mark a line is ruled by, in words."""
        if line.by is None:
            return ""
        told = _("by a mark {place}") if line.toward else _("by a third mark {place}")
        return told.format(place=self.where(line.by))

    def _drawn(self, move: Move) -> str:
        if isinstance(move, Join):
            told = (
                _("Join {first} and {second}, {by}.")
                if move.by
                else _("Join {first} and {second}.")
            )
            return told.format(
                first=self.point(move.first),
                second=move.toward or self.point(move.second),
                by=self._by(move),
            )
        if isinstance(move, Upright | Level):
            kind = _("an upright") if isinstance(move, Upright) else _("a level line")
            return _("Draw {kind} through {through}.").format(
                kind=kind, through=self.point(move.through)
            )
        if isinstance(move, Parallel):
            line = self._lines[move.line]
            return _("Draw a parallel to {line} through {through}.").format(
                line=line, through=self.point(move.through)
            )
        return ""

    def step(self, step: Step) -> list[str]:
        """All moves of a step in words; a laid ruler is told with its tick."""
        return [self.tell(move) for move in step.moves if not is_laid(move)]

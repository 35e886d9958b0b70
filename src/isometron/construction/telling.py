"""Moves told in the words of the drawing board, with their measures."""

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
)
from isometron.construction.steps import Order, Step
from isometron.perspective.lengths import write_length
from isometron.words import _

NOTHING_MM = 0.05
"""Less than this off an edge of the paper is on it."""


def where_in_words(place: tuple[float, float], length: Callable[[float], str]) -> str:
    """A place (mm from the paper's left and lower edges) in words, also off the paper."""
    x, y = (0.0 if abs(v) < NOTHING_MM else v for v in place)
    across = (
        _("{length} right").format(length=length(x))
        if x >= 0
        else _("{length} left of the paper").format(length=length(-x))
    )
    told = _("{length} up") if y >= 0 else _("{length} below the paper")
    up = told.format(length=length(abs(y)))
    return f"{across}, {up}"


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
        said: set[str] = set()
        for move in order.moves():
            words = self._line(move)
            if words in said and isinstance(move, Parallel):
                along, through = self._lines[move.line], self.point(move.through)
                words = _("the parallel to {along} through {through}").format(
                    along=along, through=through
                )
            said.add(words)
            self._lines[move.name] = words

    def point(self, name: str) -> str:
        """What a point is called: its letter, else its number."""
        return self.order.labels.get(name, name.removeprefix("p"))

    def length(self, mm: float) -> str:
        """A measure as the ruler is read."""
        step = self.order.step_mm
        return write_length(round(mm / step) * step, self.unit)

    def _steep(self, line: str) -> bool:
        along = self.order.drawn.lines[line][1]
        return steep(float(along[0, 0]), float(along[1, 0]))

    def _line(self, move: Move) -> str:
        if isinstance(move, Join):
            return f"{self.point(move.first)}–{self.point(move.second)}"
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
        name = self.point(move.name)
        if isinstance(move, Mark):
            return _("Mark {name}: {place}.").format(
                name=name, place=where_in_words(move.place, self.length)
            )
        if isinstance(move, Cross):
            return _("{name} is where {value} meets {value2}.").format(
                name=name, value=self._lines[move.first], value2=self._lines[move.second]
            )
        if isinstance(move, StepOff):
            ways = (
                (_("up"), _("down"))
                if self._steep(move.line)
                else (_("to the right"), _("to the left"))
            )
            way = ways[move.mm < 0]
            return _("Step {length} {way} from {start} along {value}: {name}.").format(
                length=self.length(abs(move.mm)),
                way=way,
                start=self.point(move.start),
                value=self._lines[move.line],
                name=name,
            )
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

    def _drawn(self, move: Move) -> str:
        if isinstance(move, Join):
            return _("Join {first} and {second}.").format(
                first=self.point(move.first), second=self.point(move.second)
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
        """All moves of a step in words."""
        return [self.tell(move) for move in step.moves]

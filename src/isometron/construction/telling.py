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


def where_in_words(place: tuple[float, float], length: Callable[[float], str]) -> str:
    """A place (mm from the paper's left and lower edges) in words, also off the paper."""
    x, y = place
    across = f"{length(x)} right" if x >= 0 else f"{length(-x)} left of the paper"
    up = f"{length(y)} up" if y >= 0 else f"{length(-y)} below the paper"
    return f"{across}, {up}"


def tilt_in_words(degrees: float) -> str:
    """How the long axis of an ellipse lies, its tilt counted from level."""
    tilt = f"{degrees:.1f}".replace("-", "−")
    return "long axis level" if abs(degrees) < 0.05 else f"long axis tilted {tilt}°"


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
                words = f"the parallel to {along} through {through}"
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
            return f"the upright through {self.point(move.through)}"
        if isinstance(move, Level):
            return f"the level line through {self.point(move.through)}"
        if isinstance(move, Parallel):
            return f"the parallel through {self.point(move.through)}"
        return ""

    def tell(self, move: Move) -> str:
        """One move in words."""
        if isinstance(move, LINES):
            return self._drawn(move)
        name = self.point(move.name)
        if isinstance(move, Mark):
            return f"Mark {name}: {where_in_words(move.place, self.length)}."
        if isinstance(move, Cross):
            return f"{name} is where {self._lines[move.first]} meets {self._lines[move.second]}."
        if isinstance(move, StepOff):
            ways = ("up", "down") if self._steep(move.line) else ("to the right", "to the left")
            way = ways[move.mm < 0]
            return (
                f"Step {self.length(abs(move.mm))} {way} from {self.point(move.start)} along "
                f"{self._lines[move.line]}: {name}."
            )
        if isinstance(move, Ellipse):
            long, short = (self.length(2 * v) for v in (move.semi_major_mm, move.semi_minor_mm))
            return (
                f"Ellipse about {self.point(move.centre)}: {long} by {short}, "
                f"{tilt_in_words(move.tilt_deg)}."
            )
        return f"Curve through {', '.join(self.point(p) for p in move.points)}."

    def _drawn(self, move: Move) -> str:
        if isinstance(move, Join):
            return f"Join {self.point(move.first)} and {self.point(move.second)}."
        if isinstance(move, Upright | Level):
            kind = "an upright" if isinstance(move, Upright) else "a level line"
            return f"Draw {kind} through {self.point(move.through)}."
        if isinstance(move, Parallel):
            line = self._lines[move.line]
            return f"Draw a parallel to {line} through {self.point(move.through)}."
        return ""

    def step(self, step: Step) -> list[str]:
        """All moves of a step in words."""
        return [self.tell(move) for move in step.moves]

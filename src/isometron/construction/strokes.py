"""Strokes: lines and curves as they lie on the sheet at a stage of an order, each with its age."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from isometron.drawing.curves import along_cubics
from isometron.perspective.eye import Array

NEW, OLD, RUB, KEPT, PAST, LAID = "new", "old", "rub", "kept", "past", "laid"
"""Ages of a line: of the step in work, of earlier steps of its chapter, to be rubbed out now, kept
by the finished drawing, of earlier chapters; and a ruler laid in the step in work, no line."""

OBJECT, DASHED, THIN = "object", "dashed", "thin"
"""Ages of a line of the finished drawing: an object line, a hidden edge in short dashes, and what
is drawn thin (eye level, room, centre lines)."""

FINISHED = (THIN, DASHED, OBJECT)

AGES = (PAST, OLD, RUB, THIN, DASHED, KEPT, OBJECT, LAID, NEW)
"""All ages as they lie over each other, the lowest first."""

BROKEN = (RUB, DASHED, LAID)
"""Ages that are drawn in dashes."""


@dataclass(frozen=True, eq=False)
class Stroke:
    """One line, ellipse or curve of a stage: its name, the age it has, and on the sheet, mm, either
    the two ends of a line (2, 2) or the cubics (k, 4, 2) of a curve that follow each other."""

    name: str
    age: str
    ends: Array | None = None
    cubics: Array | None = None

    @property
    def points(self) -> Array:
        """The ends, or points (8·k + 1, 2) along the curve."""
        if self.cubics is None:
            return np.empty((0, 2)) if self.ends is None else self.ends
        return along_cubics(self.cubics)


def smooth(places: Sequence[tuple[float, float]]) -> Array:
    """A smooth curve through n places as n − 1 cubics (n − 1, 4, 2), as a hand draws it: the ends
    of each run point along the neighbours' chord (Catmull and Rom, 1974)."""
    p = np.array(places)
    ways = np.gradient(p, axis=0) / 3
    return np.stack([p[:-1], p[:-1] + ways[:-1], p[1:] - ways[1:], p[1:]], axis=1)

"""Lines split at what covers them, all at once."""

from collections import defaultdict
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.occlusion import SHORTEST
from isometron.perspective.eye import Array

Span = tuple[float, float]
Cover = tuple[float, float, bool]


@dataclass(frozen=True, eq=False)
class Covers:
    """c covers: which line (c,) each lies on, its span (c, 2) in fractions of the line, and whether
    nothing shows through it (c,)."""

    line: NDArray[np.intp]
    span: Array
    solid: NDArray[np.bool_]

    def by_line(self) -> dict[int, list[Cover]]:
        """The covers of each line that has any."""
        found: dict[int, list[Cover]] = defaultdict(list)
        for line, (a, b), solid in zip(
            self.line.tolist(), self.span.tolist(), self.solid.tolist(), strict=True
        ):
            found[line].append((a, b, solid))
        return found


@dataclass(frozen=True, eq=False)
class Split:
    """k parts of lines: which line (k,), span (k, 2), whether free of every cover (k,)."""

    line: NDArray[np.intp]
    span: Array
    free: NDArray[np.bool_]


def split(line: NDArray[np.intp], spans: Array, t0: Array, t1: Array) -> Split:
    """Every line that has a cover, from t0 to t1 (m,), as its covered and its free parts.

    line (c,), spans (c, 2) of the covers, in any order, overlapping as they may. Touching covers
    become one; a part shorter than SHORTEST is a rounding and is left out.
    """
    bare_of = np.zeros(len(t0), dtype=bool)
    bare_of[line] = True
    a, b = np.maximum(spans[:, 0], t0[line]), np.minimum(spans[:, 1], t1[line])
    keep = b > a
    line, a, b = line[keep], a[keep], b[keep]
    order = np.lexsort((a, line))
    line, a, b = line[order], a[order], b[order]
    furthest = _furthest_so_far(line, b)
    first = np.ones(len(line), dtype=bool)
    first[1:] = line[1:] != line[:-1]
    begins = first.copy()
    begins[1:] |= a[1:] > b[furthest[:-1]] + SHORTEST
    ends = np.ones(len(line), dtype=bool)
    ends[:-1] = begins[1:]
    which, low, high = line[begins], a[begins], b[furthest[ends]]
    starts_line = np.ones(len(which), dtype=bool)
    starts_line[1:] = which[1:] != which[:-1]
    before = np.where(starts_line, t0[which], np.concatenate([[0.0], high[:-1]]))
    last = np.ones(len(which), dtype=bool)
    last[:-1] = starts_line[1:]
    gap, tail = low - before > SHORTEST, last & (t1[which] - high > SHORTEST)
    bare_of[which] = False
    bare = np.flatnonzero(bare_of)
    lines = np.concatenate([which, which[gap], which[tail], bare])
    parts = np.concatenate(
        [
            np.stack([low, high], axis=1),
            np.stack([before, low], axis=1)[gap],
            np.stack([high, t1[which]], axis=1)[tail],
            np.stack([t0[bare], t1[bare]], axis=1),
        ]
    )
    free = np.arange(len(lines)) >= len(which)
    return Split(lines, parts, free)


def _furthest_so_far(line: NDArray[np.intp], ends: Array) -> NDArray[np.intp]:
    """(c,) index, within each line's run, of the cover that reaches furthest up to each."""
    shifted = ends + 2.0 * line
    running = np.maximum.accumulate(shifted)
    return np.maximum.accumulate(np.where(shifted >= running, np.arange(len(line)), 0))

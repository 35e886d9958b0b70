"""What a deed's drawing shows: its example, and over it what the deed makes of it."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from isometron.deeds.deed import Given
from isometron.deeds.table import deed
from isometron.document.document import Document
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.layers import (
    AID,
    DIVISIONS,
    ELLIPSE_AID,
    GHOST,
    GRID,
    HIDDEN,
    NO_ARCS,
    NO_LINES,
    OBJECT,
    SECTIONS,
    Drawn,
)
from isometron.drawing.scene import scene_of
from isometron.drawing.small import small_of
from isometron.drawing.strokes import clipped, sheet_strokes
from isometron.perspective.eye import Array
from isometron.perspective.places import Rectangle

SHOWN = (OBJECT, DIVISIONS, SECTIONS, AID, GRID, GHOST, ELLIPSE_AID)
"""Layers that a deed may add to."""

SAME_DIGITS = 6
"""What is the same to so many digits of a mm was there before."""

MOST_KEPT = 256
"""Drawings that are kept: more than there are deeds."""

AROUND = 0.15
"""So much room is left round the framework, as a share of its longer side."""


@dataclass(frozen=True, eq=False)
class Drawing:
    """Lines (n, 4) and arcs (m, 3, 3), sheet mm, that stay, those that are new, and those that
    go; what is hidden now; the part of the sheet that is shown."""

    stays: Drawn
    new: Drawn
    gone: Drawn
    hidden: Drawn
    part: Rectangle

    @property
    def says_something(self) -> bool:
        """Whether the deed changes what is drawn."""
        return any(len(some) for some in (*self.new, *self.gone))


@lru_cache(maxsize=MOST_KEPT)
def drawing_of(key: str) -> Drawing:
    """What a deed makes of its example, where it is."""
    one = deed(key)
    example = one.shows()
    done = one.with_given(Given(example.values, example.pick))(example.document)
    boxes = np.array([small_of(document).part for document in (example.document, done)])
    (left, bottom), (right, top) = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    if not example.document.volumes:
        left, bottom, right, top = boxes[1]
    off = AROUND * max(right - left, top - bottom)
    part = float(left - off), float(bottom - off), float(right + off), float(top + off)
    before, after = _shown(example.document), _shown(done)
    lines, arcs = (_told_apart(now, was) for now, was in zip(after[:2], before[:2], strict=True))
    stays, new, gone = (
        (clipped(some, part), clipped_arcs(bows, part))
        for some, bows in zip(lines, arcs, strict=True)
    )
    hidden = clipped(after[2], part), clipped_arcs(after[3], part)
    return Drawing(stays, new, gone, hidden, part)


def _shown(document: Document) -> tuple[Array, Array, Array, Array]:
    """Lines and arcs of what is seen, then of what is hidden."""
    found: dict[bool, list[Drawn]] = {seen: [(NO_LINES, NO_ARCS)] for seen in (True, False)}
    for one in sheet_strokes(document, scene_of(document), lambda layer: id(layer) in _WANTED):
        found[one.layer.name != HIDDEN.name].append((one.lines, one.arcs))
    seen, hidden = found[True], found[False]
    return (
        np.concatenate([lines for lines, _arcs in seen]),
        np.concatenate([arcs for _lines, arcs in seen]),
        np.concatenate([lines for lines, _arcs in hidden]),
        np.concatenate([arcs for _lines, arcs in hidden]),
    )


_WANTED = frozenset(id(layer) for layer in (*SHOWN, HIDDEN))


def _told_apart(now: Array, was: Array) -> tuple[Array, Array, Array]:
    """Those of some lines or arcs that stay, those that are new, and those that go."""
    before, after = [_key(one) for one in was], [_key(one) for one in now]
    old = np.isin(after, before) if before else np.zeros(len(after), dtype=bool)
    left = ~np.isin(before, after) if after else np.ones(len(before), dtype=bool)
    return now[old], now[~old], was[left]


def _key(one: Array) -> str:
    """What a line or an arc is known by, whichever way it runs and whatever its scale."""
    if one.shape == (4,):
        ends = sorted(np.round(one.reshape(2, 2), SAME_DIGITS).tolist())
        return repr(ends)
    scale = np.abs(one).max() or 1.0
    return repr((np.round(one / scale, SAME_DIGITS) + 0.0).tolist())

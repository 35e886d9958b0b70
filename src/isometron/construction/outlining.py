"""Free curves as a hand takes them over: arcs that follow each other are one curve, drawn through
as few measured marks as keep to it, and straight parts by a ruler."""

from itertools import pairwise

import numpy as np
from shapely import MultiLineString, line_merge

from isometron.construction.draft import Draft
from isometron.construction.strokes import smooth
from isometron.drawing.curves import along_cubics
from isometron.nearness import SAME
from isometron.perspective.conics import points_at
from isometron.perspective.eye import Array
from isometron.perspective.projection import project

SAMPLES_OF_ARC = 17
"""Places along one arc at which its picture is known."""

KINK_DEG = 12.0
"""A curve that turns more than this in one place has a corner there."""

CORNER_SHARE = 2.5
"""And so many times more than it turns just before and after."""

STRAIGHT_MM = 0.1
"""What bends less than this is drawn with the ruler."""

MISS_MM = 0.25
"""A smooth curve through the marks stays this near the true one: half a step of the ruler."""

MOST_MARKS = 40
"""No curve is drawn through more."""

LEAST_MM = 0.3
"""Curves shorter than this are not drawn."""


def mark_curves(draft: Draft, arcs: list[Array], what: str) -> None:
    """Marks and draws curves: rational arcs (3, 4) of the world; those partly behind us are left
    out."""
    pictures = [p for p in (_picture(draft, arc) for arc in arcs) if p is not None]
    marks: dict[tuple[float, float], str] = {}
    for chain in chained(pictures):
        for piece in _pieces(chain):
            if _length(piece)[-1] >= LEAST_MM:
                _draw(draft, _marks_of(piece), what, marks)


def _picture(draft: Draft, arc: Array) -> Array | None:
    """Places (k, 2) along an arc on the sheet; None when part of it lies behind us."""
    along = np.linspace(0.0, 1.0, SAMPLES_OF_ARC)
    places = project(
        draft.eye, np.concatenate([points_at(arc[None], np.array([t])) for t in along])
    )
    if not places.seen.all():
        return None
    sheet: Array = places.sheet
    return sheet


def chained(runs: list[Array]) -> list[Array]:
    """Runs of places (k, 2) put end to end where two of them meet, either way round."""
    runs = [run.copy() for run in runs]
    known: dict[tuple[float, float], Array] = {}
    for run in runs:
        for end in (0, -1):
            run[end] = known.setdefault((round(run[end, 0], 4), round(run[end, 1], 4)), run[end])
    merged = line_merge(MultiLineString(runs))
    return [np.array(one.coords) for one in getattr(merged, "geoms", (merged,)) if len(one.coords)]


def _length(run: Array) -> Array:
    """Lengths (k,) along a run."""
    return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])


def _turns(run: Array) -> Array:
    """How far, degrees, a run turns at each of its inner places."""
    ways = np.diff(run, axis=0)
    angle = np.degrees(np.arctan2(ways[:, 1], ways[:, 0]))
    turned: Array = np.abs((np.diff(angle) + 180.0) % 360.0 - 180.0)
    return turned


def _pieces(run: Array) -> list[Array]:
    """A run cut at its corners; places that fall together are one."""
    apart = np.hypot(*np.diff(run, axis=0).T) > SAME
    run = run[np.concatenate([[True], apart])]
    if len(run) < 3:
        return [run]
    turned = _turns(run)
    # a tight bend is no corner: there its neighbours turn as well
    beside = np.maximum(np.append(0.0, turned[:-1]), np.append(turned[1:], 0.0))
    sharp = (turned > KINK_DEG) & (turned > CORNER_SHARE * beside)
    cuts = [0, *(np.flatnonzero(sharp) + 1).tolist(), len(run) - 1]
    return [run[a : b + 1] for a, b in pairwise(cuts)]


def _marks_of(run: Array) -> Array:
    """The fewest places of a run through which a smooth curve keeps to it; two for a straight
    one."""
    if float(_away(run, run[[0, -1]]).max()) < STRAIGHT_MM:
        return run[[0, -1]]
    length = _length(run)
    turned = np.concatenate([[0.0], np.cumsum(np.append(_turns(run), 0.0))])
    measure = length / length[-1] + turned / max(float(turned[-1]), 1e-9)
    for count in range(3, MOST_MARKS):
        at = np.linspace(0.0, measure[-1], count)
        places = np.stack([np.interp(at, measure, run[:, k]) for k in (0, 1)], axis=1)
        if float(_away(along_cubics(smooth(places.tolist())), run).max()) < MISS_MM:
            break
    return places


def _away(places: Array, run: Array) -> Array:
    """How far places (n, 2) lie from a run of straight parts (k, 2)."""
    start, way = run[:-1], np.diff(run, axis=0)
    square = np.maximum((way**2).sum(axis=1), 1e-18)
    share = np.clip(((places[:, None] - start) * way).sum(axis=2) / square, 0.0, 1.0)
    gap = places[:, None] - start - share[:, :, None] * way
    away: Array = np.hypot(gap[..., 0], gap[..., 1]).min(axis=1)
    return away


def _draw(draft: Draft, places: Array, what: str, marks: dict[tuple[float, float], str]) -> None:
    names = []
    for x, y in places.tolist():
        key = (round(x, 4), round(y, 4))
        if key not in marks:
            marks[key] = draft.mark((x, y))
            draft.land(marks[key], np.array([x, y]), what)
        names.append(marks[key])
    draft.keep(draft.join(*names) if len(names) == 2 else draft.curve(tuple(names)))

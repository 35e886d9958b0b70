"""The rules over the strokes of a sketch: those that miss their point."""

import itertools
import math
from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from isometron.document.marks import FAMILIES, Edge
from isometron.document.picture import EDGE, Mark
from isometron.nearness import ROUNDING
from isometron.perspective.lengths import write_angle, write_mm
from isometron.perspective.places import Place
from isometron.reading.model import Array, vanishing
from isometron.reading.of_picture import STRAY
from isometron.reading.sketch.fans import (
    near_and_far,
    off_line,
    off_line_slopes,
    scattered,
    state_point,
    way_words,
)
from isometron.reading.sketch.faults import (
    LEAST_MM,
    LEVEL_DEG,
    LEVEL_NEAR_DEG,
    MEANT_DEG,
    Fault,
    Sketch,
    across_paper,
    is_level,
    rule,
)
from isometron.words import _

SURELY = 4.0
"""A stroke is told to miss when it does by so many of its errors: a sheet has many strokes."""

MEETS_MM = 8.0
"""Strokes whose far ends lie nearer to each other meet in a corner."""

NEAR_BY_MM, BESIDE_MM = 25.0, 3.5
"""A stroke lies near by when its middle lies nearer than a stroke's length and so much; nearer to
its line it may be the same edge, drawn twice."""

ALIKE, ALIKE_DEG = 0.4, 1.2
"""Strokes that miss by this share of each other's angle, and by so much, are turned alike."""

UPRIGHT = FAMILIES.index("height")


class Missed(NamedTuple):
    """A stroke that misses its point: its number, its family's column, the end farther from the
    point and the other, px; by how much the far end lies to the left of its line, px, and that in
    mm without its sign."""

    number: int
    column: int
    near: Array
    far: Array
    off: float
    mm: float


@lru_cache(maxsize=1)
def missed_strokes(sketch: Sketch) -> list[Missed]:
    """The strokes that miss the point of their family clearly, but were meant for it."""
    state, told, origin = sketch.fit.state, sketch.told, sketch.fit.seen.origin
    names, (points, changes) = sketch.families, vanishing(state)
    found = []
    for number, edge in enumerate(sketch.picture.edges):
        if edge.left or edge.family not in names or edge.family == STRAY or edge.faint:
            continue
        column = names.index(edge.family)
        near, far = near_and_far(edge, state_point(sketch.fit, column))

        place, ends = points[column], (near - origin, far - origin)
        miss = off_line(place, *ends)
        mm = abs(miss) * sketch.mm_per_px
        slopes = off_line_slopes(place, changes[column], *ends)[None]
        point = math.sqrt(max(float(told.spread(slopes)[0, 0]), 0.0)) * sketch.mm_per_px
        error = math.hypot(point, sketch.own_error_mm)
        turned = math.degrees(math.atan2(abs(miss), math.dist(near, far)))
        most = LEVEL_NEAR_DEG if is_level(np.array([near, far])) else MEANT_DEG
        if mm >= max(LEAST_MM, SURELY * error) and turned <= most:
            found.append(Missed(number, column, near, far, miss, mm))
    return found


@rule
def misses_its_point(sketch: Sketch) -> list[Fault]:
    """A stroke that does not run to the vanishing point of its family: how far its far end lies off
    the line from its near end to the point. An upright that leans, and a stroke drawn level where
    it runs to a point, are told so."""
    missed = missed_strokes(sketch)
    elsewhere = scattered(sketch)
    at_corner = {n for one, two, _at in missed_corners(sketch, missed) for n in (one, two)}
    found = []
    for one in missed:
        edge = sketch.picture.edges[one.number]
        if edge.family in elsewhere or one.number in at_corner or _turned_thing(sketch, one):
            continue
        deg = math.degrees(math.atan2(abs(one.off), math.dist(one.near, one.far)))
        point = state_point(sketch.fit, one.column)
        key, title, text = _how_it_misses(edge, one, point, deg)
        found.append(
            Fault(
                key,
                Mark(EDGE, one.number),
                title,
                text,
                one.mm,
                deg,
                None,
                (float(one.far[0]), float(one.far[1])),
                edge_marks(one.near, point, sketch),
            )
        )
    return found


def _turned_thing(sketch: Sketch, one: Missed) -> bool:
    """Whether another stroke near by misses the same point to the same side: then both belong to a
    thing that is turned another way, and no single one is a mistake."""
    if sketch.known:
        return False
    point, mm = state_point(sketch.fit, one.column), sketch.mm_per_px
    own = math.atan2(one.off, math.dist(one.near, one.far))
    along = (one.far - one.near) / math.dist(one.near, one.far)
    reach = (math.dist(one.near, one.far) * mm + NEAR_BY_MM) / mm
    numbers, lines = sketch.strokes(sketch.families[one.column])
    for number, line in zip(numbers, lines, strict=True):
        off = line.mean(axis=0) - (one.near + one.far) / 2
        aside = abs(float(along[0] * off[1] - along[1] * off[0])) * mm
        if number == one.number or aside < BESIDE_MM or float(np.hypot(*off)) > reach:
            continue  # a stroke drawn twice says nothing of another
        near, far = near_and_far(sketch.picture.edges[number], point)
        turn = math.atan2(off_line(point, near, far), math.dist(near, far))
        if turn * own > 0 and abs(turn) > max(ALIKE * abs(own), math.radians(ALIKE_DEG)):
            return True
    return False


def _how_it_misses(edge: Edge, one: Missed, point: Array, deg: float) -> tuple[str, str, str]:
    """Rule, title and sentence of a stroke that misses its point."""
    told = {"mm": write_mm(one.mm), "deg": write_angle(round(deg, 1))}
    again = _("Its far end lies {mm} off, {deg}: draw it anew from its near end.").format(**told)
    away = np.abs(point[:2] - point[2] * one.near)
    if edge.family == "height":
        title = _("An upright leans")
        return "upright leans", title, again
    level = is_level(np.array([one.near, one.far]))
    if level and math.degrees(math.atan2(away[1], away[0])) > LEVEL_DEG:
        text = _("It runs to a point; its far end lies {mm} off, {deg}: draw it anew.")
        return (
            "drawn level",
            _("A {family} stroke is drawn level").format(family=_(edge.family)),
            text.format(**told),
        )
    title = _("A {family} stroke misses its point").format(family=_(edge.family))
    return "misses its point", title, again


@rule
def far_corner_aside(sketch: Sketch) -> list[Fault]:
    """A corner where two strokes meet that both miss their points: it belongs where the lines from
    their near ends to the points cross."""
    missed = missed_strokes(sketch)
    by_number = {one.number: one for one in missed}
    found = []
    for number, other, true in missed_corners(sketch, missed):
        one, two = by_number[number], by_number[other]
        at = (one.far + two.far) / 2
        mm = math.dist(at, true) * sketch.mm_per_px
        way = true - at
        found.append(
            Fault(
                "far corner",
                Mark(EDGE, number),
                _("A far corner lies aside"),
                _(
                    "The two fans cross {mm} {way}: mark the corner there, draw both edges to it."
                ).format(mm=write_mm(mm), way=way_words(way)),
                mm,
                None,
                None,
                (float(at[0]), float(at[1])),
                edge_marks(one.near, state_point(sketch.fit, one.column), sketch),
            )
        )
    return found


def missed_corners(sketch: Sketch, missed: Sequence[Missed]) -> list[tuple[int, int, Array]]:
    """Pairs of strokes of two level families that miss their points and meet at their far ends, and
    where they should meet, px."""
    reach = MEETS_MM / sketch.mm_per_px
    found = []
    for one, two in itertools.combinations(missed, 2):
        if one.column == two.column or UPRIGHT in (one.column, two.column):
            continue
        if math.dist(one.far, two.far) > reach:
            continue
        true = _crossing_of(
            one.near,
            state_point(sketch.fit, one.column),
            two.near,
            state_point(sketch.fit, two.column),
        )
        if true is not None and math.dist(true, one.far) < 4 * reach:
            found.append((one.number, two.number, true))
    return found


def _crossing_of(one: Array, to_one: Array, two: Array, to_two: Array) -> Array | None:
    """Where the lines from two places (2,) to two homogeneous points cross."""
    lines = [
        np.cross(np.array([*place, 1.0]), point) for place, point in ((one, to_one), (two, to_two))
    ]
    crossed = np.cross(lines[0], lines[1])
    if abs(crossed[2]) < ROUNDING * float(np.abs(crossed).max()):
        return None
    found: Array = crossed[:2] / crossed[2]
    return found


def edge_marks(near: Array, point: Array, sketch: Sketch) -> tuple[Place, Place] | None:
    """Where the line from a place to a vanishing point crosses the paper's edges, mm."""
    assert sketch.picture.paper_mm is not None
    mm = sketch.mm_per_px
    away = point[:2] - point[2] * near
    return across_paper(near * mm, away, sketch.picture.paper_mm)

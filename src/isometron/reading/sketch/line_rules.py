"""The rules over the strokes of a sketch: those that miss their point."""

import math

import numpy as np

from isometron.document.marks import Edge, Place
from isometron.document.picture import EDGE, Mark
from isometron.perspective.lengths import write_angle, write_mm
from isometron.reading.fit import Fit
from isometron.reading.model import Array, State, vanishing
from isometron.reading.of_picture import STRAY
from isometron.reading.sketch.faults import (
    CLEARLY,
    LEAST_MM,
    MEANT_DEG,
    Fault,
    Sketch,
    across_paper,
    rule,
)
from isometron.words import _


@rule
def misses_its_point(sketch: Sketch) -> list[Fault]:
    """A stroke that does not run to the vanishing point of its family: how far its far end lies off
    the line from its near end to the point."""
    state, told, origin = sketch.fit.state, sketch.told, sketch.fit.seen.origin
    names = ("width", "depth", "height", *sketch.fit.seen.names)
    found = []
    for number, edge in enumerate(sketch.picture.edges):
        if edge.left or edge.family not in names or edge.family == STRAY:
            continue
        column = names.index(edge.family)
        near, far = _near_and_far(edge, state_point(sketch.fit, column))

        def off(other: State, near: Array = near, far: Array = far, column: int = column) -> Array:
            return np.array([_off(vanishing(other)[0][column], near - origin, far - origin)])

        miss = float(off(state)[0]) * sketch.mm_per_px
        length = math.dist(near, far) * sketch.mm_per_px
        point = float(np.sqrt(max(told.spread(told.slopes(off))[0, 0], 0.0))) * sketch.mm_per_px
        own = sketch.hand.line_mm * math.sqrt(2.0) + sketch.hand.mark_mm
        error = math.hypot(point, own)
        if abs(miss) < max(LEAST_MM, CLEARLY * error):
            continue
        deg = math.degrees(math.atan2(abs(miss), length))
        if deg > MEANT_DEG:
            continue
        where = state_point(sketch.fit, column)
        found.append(
            Fault(
                "misses its point",
                Mark(EDGE, number),
                _("A {family} stroke misses its point").format(family=_(edge.family)),
                _("Its far end lies {mm} off, {deg}: draw it anew from its near end.").format(
                    mm=write_mm(abs(miss)), deg=write_angle(round(deg, 1))
                ),
                abs(miss),
                deg,
                None,
                (float(far[0]), float(far[1])),
                edge_marks(near, where, sketch),
            )
        )
    return found


def state_point(fit: Fit, column: int) -> Array:
    """The vanishing point of a family, homogeneous (3,), px from the picture's lower left."""
    point: Array = vanishing(fit.state)[0][column].copy()
    point[:2] += point[2] * fit.seen.origin
    return point


def _near_and_far(edge: Edge, point: Array) -> tuple[Array, Array]:
    """The ends of a stroke: the one farther from the point first."""
    ends = [np.array(edge.start), np.array(edge.end)]
    if abs(point[2]) < 1e-12:
        return ends[0], ends[1]
    at = point[:2] / point[2]
    ends.sort(key=lambda end: -float(np.hypot(*(at - end))))
    return ends[0], ends[1]


def _off(point: Array, near: Array, far: Array) -> float:
    """How far a place lies off the line from another to a homogeneous point, to its left."""
    away = point[:2] - point[2] * near
    away = away / max(float(np.hypot(*away)), 1e-12)
    run = far - near
    if float(run @ away) < 0:
        away = -away
    return float(away[0] * run[1] - away[1] * run[0])


def edge_marks(near: Array, point: Array, sketch: Sketch) -> tuple[Place, Place] | None:
    """Where the line from a place to a vanishing point crosses the paper's edges, mm."""
    assert sketch.picture.paper_mm is not None
    mm = sketch.mm_per_px
    away = point[:2] - point[2] * near
    return across_paper(near * mm, away, sketch.picture.paper_mm)

"""The rules over a sketch: strokes that miss, sides not as meant, rims out of shape."""

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from isometron.document.marks import FAMILIES, Edge, Place
from isometron.document.picture import EDGE, ROUND, Mark
from isometron.perspective.lengths import write_angle, write_mm
from isometron.reading.fit import Fit, fit
from isometron.reading.model import Array, State, corners, vanishing
from isometron.reading.of_picture import STRAY
from isometron.reading.reading import tells_distance
from isometron.reading.rims import RimError, fit_rim
from isometron.reading.sketch.faults import (
    CLEARLY,
    LEAST_AXIS_DEG,
    LEAST_DEGREE_DEG,
    LEAST_MM,
    LEAST_RIM_SHARE,
    MEANT_DEG,
    Fault,
    Sketch,
    across_paper,
)
from isometron.reading.sketch.rims_shown import shown_rim
from isometron.reading.told import Told
from isometron.words import _

Rule = Callable[[Sketch], list[Fault]]
RULES: list[Rule] = []


def rule(function: Rule) -> Rule:
    """Makes a function a rule over a sketch."""
    RULES.append(function)
    return function


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


@rule
def sides_not_as_meant(sketch: Sketch) -> list[Fault]:
    """Two sides of the marked box that are not in the ratio they were meant to have: how far the
    end of the first must move along it."""
    marks = sketch.fit_marks
    if not sketch.picture.known or not any(edge.corners for edge in marks.edges):
        return []
    best = fit(replace(marks, known=(), rounds=()))
    told = Told(best)
    if not best.seen.boxed or not tells_distance(replace(marks, known=()), told):
        return []
    found = []
    for known in sketch.picture.known:
        edges = [marks.edges[number] for number in known.edges]
        if known.kind == "length" or any(edge.corners is None for edge in edges):
            continue
        one, two = (FAMILIES.index(edge.family) for edge in edges)
        if one == two:
            continue
        meant = known.value if known.kind == "ratio" and known.value else 1.0
        (ratio,) = told.of(lambda other, a=one, b=two: np.array([other.sides[a] / other.sides[b]]))  # type: ignore[misc]
        if ratio is None:
            continue
        share = ratio.value / meant - 1
        moved, at = _far_end(best, edges[0], one, 1 / (1 + share))
        mm = moved * sketch.mm_per_px
        error = ratio.standard_error / ratio.value
        if mm < LEAST_MM or abs(share) < max(CLEARLY * error, LEAST_RIM_SHARE):
            continue
        percent = 100 * abs(share)
        long = share > 0
        found.append(
            Fault(
                "not as meant",
                Mark(EDGE, known.edges[0]),
                _("A {side} is too long") if long else _("A {side} is too short"),
                _("It is {percent} % ± {error} {way}: move its far end {mm} {to}.").format(
                    percent=f"{percent:.0f}",
                    error=f"{100 * error:.1f}",
                    way=_("too long") if long else _("too short"),
                    mm=write_mm(mm),
                    to=_("in") if long else _("out"),
                ),
                mm,
                None,
                percent,
                at,
                None,
            )
        )
        title = found[-1].title.format(side=_(edges[0].family))
        found[-1] = found[-1]._replace(title=title)
    return found


def _far_end(best: Fit, edge: Edge, axis: int, grown: float) -> tuple[float, Place]:
    """How far the far end of an edge of the box moves, px, when its side grows so many times, and
    where it is drawn."""
    assert edge.corners is not None
    first = best.seen.first
    bits = np.array(
        [[(corner >> a & 1) - (first >> a & 1) for a in range(3)] for corner in edge.corners],
        dtype=float,
    )
    drawn, _slopes = corners(bits, best.state)
    away = (best.state.turned @ (bits * best.state.sides).T)[2]
    far = int(np.argmax(away))
    near = 1 - far
    sides = best.state.sides.copy()
    sides[axis] *= grown
    meant, _more = corners(bits, State(**{**vars(best.state), "sides": sides}))
    shift = (meant[far] - meant[near]) - (drawn[far] - drawn[near])
    place = drawn[far] + best.seen.origin
    return float(np.hypot(*shift)), (float(place[0]), float(place[1]))


@rule
def rims_out_of_shape(sketch: Sketch) -> list[Fault]:
    """A rim that is pointed or flat: by what swells four times round its ellipse."""
    found = []
    for number, rim in enumerate(sketch.picture.rounds):
        if rim.left:
            continue
        points = np.array(rim.points, dtype=float)
        try:
            told = fit_rim(points)
        except RimError:
            continue
        cx, cy, long, short, angle = told.values
        c, s = math.cos(angle), math.sin(angle)
        own = (points - (cx, cy)) @ np.array([[c, -s], [s, c]])
        turn = np.arctan2(own[:, 1] / short, own[:, 0] / long)
        waves = np.stack([np.ones_like(turn), np.cos(4 * turn), np.sin(4 * turn)], axis=1)
        share, _miss, _rank, _s = np.linalg.lstsq(waves, told.misses, rcond=None)
        left = told.misses - waves @ share
        sigma = float(np.sqrt(left @ left / max(len(left) - 8, 1)))
        # neighbours along a pencil line err together: about one in six says something new
        error = sigma * math.sqrt(2 * 6 / len(points))
        swell = float(share[1])
        radius = math.sqrt(long * short)
        mm = abs(swell) * sketch.mm_per_px
        if mm < LEAST_MM / 2 or abs(swell) < max(CLEARLY * error, LEAST_RIM_SHARE * radius):
            continue
        kind = _("pointed") if swell > 0 else _("flat")
        found.append(
            Fault(
                "pointed" if swell > 0 else "flat",
                Mark(ROUND, number),
                _("A rim is {kind}").format(kind=kind),
                _("It {does} by {mm} at the ends of its axes.").format(
                    does=_("runs out") if swell > 0 else _("falls in"), mm=write_mm(mm)
                ),
                mm,
                None,
                100 * abs(swell) / radius,
                (float(cx), float(cy)),
                None,
            )
        )
    return found


@rule
def rims_off_their_axle(sketch: Sketch) -> list[Fault]:
    """A rim whose axes or degree are not those of a circle about its axle, from where the fans put
    our eye."""
    found: list[Fault] = []
    if not tells_distance(sketch.fit_marks, sketch.told):
        return found  # how open a circle looks is not told
    for number, rim in enumerate(sketch.picture.rounds):
        if rim.left or rim.axle not in ("width", "depth", "height"):
            continue
        shown = shown_rim(sketch.fit, np.array(rim.points, dtype=float), rim.axle)
        if shown is None:
            continue
        lean = shown.lean_deg
        mm = shown.apart * sketch.mm_per_px
        if mm < max(LEAST_MM, CLEARLY * sketch.hand.line_mm):
            continue
        axis = abs(lean) >= LEAST_AXIS_DEG
        if not axis and abs(shown.wider_deg) < LEAST_DEGREE_DEG:
            continue
        if axis:
            title = _("A rim leans off its axle")
            text = _("Its long axis is {deg} off: turn it {way}.").format(
                deg=write_angle(round(abs(lean), 1)),
                way=_("clockwise") if lean > 0 else _("counter-clockwise"),
            )
        else:
            title = _("A rim is too open") if shown.wider_deg > 0 else _("A rim is too narrow")
            text = _("It opens to {drawn}, a circle there to {true}.").format(
                drawn=write_angle(round(shown.drawn_deg, 1)),
                true=write_angle(round(shown.drawn_deg - shown.wider_deg, 1)),
            )
        found.append(
            Fault(
                "rim off its axle" if axis else "rim off its degree",
                Mark(ROUND, number),
                title,
                text,
                mm,
                abs(lean) if axis else abs(shown.wider_deg),
                None,
                shown.centre,
                None,
            )
        )
    return found

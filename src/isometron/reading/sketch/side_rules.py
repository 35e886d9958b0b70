"""The rule over the sides of a sketch's box: a side that is not as it was meant."""

from dataclasses import replace

import numpy as np

from isometron.document.marks import FAMILIES, Edge
from isometron.document.picture import EDGE, Mark
from isometron.perspective.lengths import write_mm
from isometron.perspective.places import Place
from isometron.reading.fit import Fit, fit
from isometron.reading.model import State, corners
from isometron.reading.reading import tells_distance
from isometron.reading.sketch.faults import CLEARLY, LEAST_MM, LEAST_RIM_SHARE, Fault, Sketch, rule
from isometron.reading.told import Told
from isometron.words import _


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

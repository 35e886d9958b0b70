"""Proportions without a box: how far apart places lie on one straight line of the thing, told from
where that line runs."""

import math

import numpy as np

from isometron.document.marks import FAMILIES, Marks
from isometron.nearness import SAME
from isometron.reading.fit import Fit
from isometron.reading.model import Array, State, vanishing
from isometron.reading.results import HeightTold, Quantity, Refused, RowTold
from isometron.reading.told import Told
from isometron.words import _

TOO_SOFT = 0.7
"""A length whose standard error is more than this share of it is not told."""


def rows_of(marks: Marks, best: Fit, told: Told, refused: list[Refused]) -> tuple[RowTold, ...]:
    """The lengths between neighbouring places of every row, counted in the first of them. The
    errors are those of the places along the line and of the vanishing point."""
    names = (*FAMILIES, *best.seen.names)
    marked = {edge.family for edge in marks.edges}
    found = []
    for number, row in enumerate(marks.rows):
        name = row.name or str(number)
        if row.family not in marked:
            refused.append(
                Refused(
                    f"rows.{name}",
                    _("No edge of its family is marked, so nothing tells where it runs."),
                    _("Mark two edges that run along with it."),
                )
            )
            continue
        points = np.array(row.points) - best.seen.origin
        column = names.index(row.family)

        def made(state: State, column: int = column, points: Array = points) -> Array:
            return lengths_along(vanishing(state)[0][column], points)

        values = made(best.state)
        spread = told.spread(told.slopes(made)) + best.noise**2 * _of_places(
            vanishing(best.state)[0][column], points
        )
        errors = np.sqrt(np.maximum(np.diag(spread), 0.0))
        sure = errors <= TOO_SOFT * np.abs(values)  # false where either is no number
        if not sure.all() or not np.isfinite(values).all():
            refused.append(
                Refused(
                    f"rows.{name}",
                    _("The places lie too near the vanishing point, or on both sides of it."),
                    _("Mark places nearer to us, or more edges of the family."),
                )
            )
            continue
        quantities = (Quantity(float(v), float(e)) for v, e in zip(values, errors, strict=True))
        found.append(RowTold(name, row.family, (Quantity(1.0, 0.0), *quantities)))
    return tuple(found)


def heights_of(marks: Marks, best: Fit, told: Told) -> tuple[HeightTold, ...]:
    """How tall named upright edges are, counted in the height of the eye: their feet, their tops
    and the eye level lie on one line to the third vanishing point. They stand on common ground, so
    that heights at different depths are carried to one another."""
    found = []
    for number, edge in enumerate(marks.edges):
        if edge.family != "height" or edge.left or not edge.name:
            continue
        ends = np.array(sorted((edge.start, edge.end), key=lambda place: place[1]))
        ends = ends - best.seen.origin

        def made(state: State, ends: Array = ends) -> Array:
            return np.array([in_eye_heights(state, ends)])

        value = float(made(best.state)[0])
        spread = float(told.spread(told.slopes(made))[0, 0])
        size = 1e-5 * max(float(np.ptp(ends, axis=0).max()), 1e-9)
        for place in range(4):
            step = np.zeros(4)
            step[place] = size
            moved = [in_eye_heights(best.state, ends + way * step.reshape(2, 2)) for way in (1, -1)]
            spread += (best.noise * (moved[0] - moved[1]) / (2 * size)) ** 2
        error = math.sqrt(max(spread, 0.0)) if math.isfinite(spread) else math.inf
        if math.isfinite(value) and value > 0 and error <= TOO_SOFT * value:
            found.append(HeightTold(number, edge.name, Quantity(value, error)))
    return tuple(found)


def in_eye_heights(state: State, ends: Array) -> float:
    """The height of an upright edge whose foot and top (2, 2) are drawn so, the eye's own being 1;
    NaN where the line does not cross the eye level."""
    point, foot = vanishing(state)[0][2], ends[0]
    away = point[:2] - point[2] * foot
    along = away / math.hypot(*away)
    up = state.turned[:, 2]
    slope = float(up[:2] @ along)
    if abs(slope) < SAME:
        return math.nan
    sunk = float(up[:2] @ (foot - state.centre) + up[2] * state.distance)
    both = np.array([(ends[1] - foot) @ along, -sunk / slope])
    room = math.hypot(*away) - both * point[2]
    if (np.abs(room) < SAME).any() or both[1] == 0:
        return math.nan
    true = both / room
    return float(true[0] / true[1])


def lengths_along(point: Array, places: Array) -> Array:
    """True lengths (n − 2,) between neighbours of places (n, 2) on a line that runs to a
    homogeneous point, in the first of them. A place at true length t from the first is drawn at
    x = t a / (1 + t w) along the line, w the point's weight and a its way: so t = x / (a − x w).
    NaN when places lie on both sides of the point."""
    away = point[:2] - point[2] * places[0]
    scale = math.hypot(*away)
    along = away / scale
    x = (places - places[0]) @ along
    room = scale - x * point[2]
    if (room <= SAME * scale).any():
        return np.full(len(places) - 2, np.nan)
    t = x / room
    steps = np.diff(t)
    if steps[0] == 0:
        return np.full(len(places) - 2, np.nan)
    lengths: Array = np.abs(steps[1:] / steps[0])
    return lengths


def _of_places(point: Array, places: Array) -> Array:
    """The covariance (n − 2, n − 2) that a noise of 1 in every place gives the lengths."""
    rows = []
    size = 1e-5 * max(float(np.ptp(places, axis=0).max()), 1e-9)
    for number in range(places.size):
        step = np.zeros(places.size)
        step[number] = size
        moved = step.reshape(places.shape)
        ahead, behind = (lengths_along(point, p) for p in (places + moved, places - moved))
        rows.append((ahead - behind) / (2 * size))
    slopes = np.array(rows)
    return np.asarray(slopes.T @ slopes)

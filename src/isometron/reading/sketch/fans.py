"""The fans of a sketch: where its families point, and the rules over a whole family."""

import math
from functools import lru_cache

import numpy as np

from isometron.document.marks import Edge
from isometron.document.picture import EDGE, Mark
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.lengths import write_angle, write_mm
from isometron.reading.fit import Fit
from isometron.reading.model import Array, middle_spread, vanishing
from isometron.reading.of_picture import STRAY
from isometron.reading.reading import eye_level_of
from isometron.reading.sketch.families import point_of
from isometron.reading.sketch.faults import (
    CLEARLY,
    LEAST_MM,
    LEVEL_DEG,
    MEANT_DEG,
    Fault,
    Sketch,
    rule,
)
from isometron.reading.sketch.meant import EYE_LEVEL
from isometron.words import _

FEWEST, MOST_ALONE = 4, 0.5
"""A family of so many strokes shares no point when more than this share of them misses it."""

LEAST_TOLD, FREE = 8, 5
"""So many strokes tell the hand's own error; so many numbers were fitted to them."""

LEAST_ASIDE_MM, SURELY = 5.0, 4.0
"""A drawn eye level off the points by less is not told, nor by less than so many errors: the points
lie far off, and a small thing tells them poorly."""

LEAST_LEAN_DEG = 1.0
BESIDE_SHARE = 0.25
"""A point so far beside the sheet, in widths of it, is not where we look."""


def state_point(fit: Fit, column: int) -> Array:
    """The vanishing point of a family, homogeneous (3,), px from the picture's lower left."""
    point: Array = vanishing(fit.state)[0][column].copy()
    point[:2] += point[2] * fit.seen.origin
    return point


def near_and_far(edge: Edge, point: Array) -> tuple[Array, Array]:
    """The ends of a stroke: the one farther from the point first."""
    ends = [np.array(edge.start), np.array(edge.end)]
    if abs(point[2]) < ROUNDING:
        return ends[0], ends[1]
    at = point[:2] / point[2]
    ends.sort(key=lambda end: -float(np.hypot(*(at - end))))
    return ends[0], ends[1]


def off_line(point: Array, near: Array, far: Array) -> float:
    """How far a place lies off the line from another to a homogeneous point, to its left."""
    away = point[:2] - point[2] * near
    away = away / max(float(np.hypot(*away)), 1e-12)
    run = far - near
    if float(run @ away) < 0:
        away = -away
    return float(away[0] * run[1] - away[1] * run[0])


def off_line_slopes(point: Array, changes: Array, near: Array, far: Array) -> Array:
    """How that changes (p,) with what the point changes with by (3, p)."""
    away, moves = point[:2] - point[2] * near, changes[:2] - changes[2] * near[:, None]
    length, run = max(float(np.hypot(*away)), 1e-12), far - near
    area = float(away[0] * run[1] - away[1] * run[0])
    slopes = (moves[0] * run[1] - moves[1] * run[0]) - area * (away @ moves) / length**2
    return np.asarray(slopes / (-length if float(run @ away) < 0 else length))


def way_words(way: Array) -> str:
    """Which way on the paper, in words."""
    names = (
        _("to the right"),
        _("up and to the right"),
        _("up"),
        _("up and to the left"),
        _("to the left"),
        _("down and to the left"),
        _("down"),
        _("down and to the right"),
    )
    return names[round(math.degrees(math.atan2(way[1], way[0])) / 45) % 8]


def seen_error_mm(sketch: Sketch) -> float:
    """How far the far ends of a sketch's strokes lie off the lines to their points, mm, a standard
    deviation by the middle one of them, so that mistakes count little; 0 where too few tell it."""
    misses = []
    for column, family in enumerate(sketch.families):
        point = state_point(sketch.fit, column)
        for number in sketch.strokes(family)[0] if family != STRAY else []:
            near, far = near_and_far(sketch.picture.edges[number], point)
            misses.append(abs(off_line(point, near, far)) * sketch.mm_per_px)
    count = len(misses)
    if count < LEAST_TOLD:
        return 0.0
    return middle_spread(np.array(misses)) * math.sqrt(count / (count - FREE))


@rule
def eye_level_aside(sketch: Sketch) -> list[Fault]:
    """An eye level that is drawn where the points do not lie: how far it must be moved."""
    drawn = [n for n, one in enumerate(sketch.picture.edges) if one.family == EYE_LEVEL]
    told = eye_level_of(sketch.fit_marks, sketch.told, [])
    if told is None or len(drawn) != 1:
        return []
    edge, wide = sketch.picture.edges[drawn[0]], sketch.picture.width
    share = _middle(edge)[0] / wide
    left, right = told
    true = left.value + share * (right.value - left.value)
    error = math.hypot((1 - share) * left.standard_error, share * right.standard_error)
    off = _middle(edge)[1] - true
    mm = abs(off) * sketch.mm_per_px
    if mm < max(LEAST_ASIDE_MM, SURELY * math.hypot(error * sketch.mm_per_px, sketch.own_error_mm)):
        return []
    text = _("The points of the fans lie {mm} {side}: move it there, or turn both fans to it.")
    return [
        Fault(
            "eye level aside",
            Mark(EDGE, drawn[0]),
            _("The eye level lies off the points"),
            text.format(mm=write_mm(mm), side=_("below it") if off > 0 else _("above it")),
            mm,
            None,
            None,
            _middle(edge),
        )
    ]


@rule
def shares_no_point(sketch: Sketch) -> list[Fault]:
    """A family whose strokes share no point: most miss even the place they come nearest to."""
    found = []
    for family, misses in scattered(sketch).items():
        worst = max(misses, key=lambda n: misses[n])
        typical = float(np.sqrt(np.mean(np.square(list(misses.values())))))
        text = _("They miss the nearest one by {mm}, this by {worst}: lay down one point for all.")
        found.append(
            Fault(
                "shares no point",
                Mark(EDGE, worst),
                _("The {family} strokes share no point").format(family=_(family)),
                text.format(mm=write_mm(typical), worst=write_mm(misses[worst])),
                misses[worst],
                None,
                None,
                _middle(sketch.picture.edges[worst]),
            )
        )
    return found


def _middle(edge: Edge) -> tuple[float, float]:
    return (edge.start[0] + edge.end[0]) / 2, (edge.start[1] + edge.end[1]) / 2


@lru_cache(maxsize=1)
def scattered(sketch: Sketch) -> dict[str, dict[int, float]]:
    """Families whose strokes share no point, with how far each misses the place nearest to all, mm
    at its end, by number."""
    found = {}
    for family in sketch.families:
        numbers, lines = sketch.strokes(family)
        if family == STRAY or len(numbers) < FEWEST:
            continue
        point = point_of(lines)
        misses = {}
        for number in numbers:
            near, far = near_and_far(sketch.picture.edges[number], point)
            misses[number] = abs(off_line(point, near, far)) * sketch.mm_per_px
        least = max(LEAST_MM, CLEARLY * sketch.own_error_mm)
        fitted = state_point(sketch.fit, sketch.families.index(family))
        beside = [
            abs(off_line(fitted, *near_and_far(sketch.picture.edges[number], fitted)))
            for number in numbers
        ]
        off = min(
            sum(mm > least for mm in misses.values()),
            sum(px * sketch.mm_per_px > least for px in beside),
        )
        if off > MOST_ALONE * len(numbers):
            found[family] = misses
    return found


@rule
def uprights_lean(sketch: Sketch) -> list[Fault]:
    """Uprights that run alike but not upright: all lean by as much."""
    numbers, lines = sketch.strokes("height")
    if len(numbers) < FEWEST:
        return []
    run = lines[:, 1] - lines[:, 0]
    run = run * np.where(run[:, 1] < 0, -1.0, 1.0)[:, None]
    lengths = np.hypot(*run.T) * sketch.mm_per_px
    lean = np.degrees(np.arctan2(run[:, 0], run[:, 1]))
    level, slope, sure, turning = _leaning(
        lines[:, :, 0].mean(axis=1), lean, sketch.own_error_mm / lengths
    )
    alike = abs(slope) < max(CLEARLY * turning, 0.5 * abs(level))
    if not alike or abs(level) < max(LEAST_LEAN_DEG, CLEARLY * sure):
        return []
    told = level
    worst = int(np.argmax(lengths))
    far = lines[worst][int(np.argmax(lines[worst][:, 1]))]
    text = _("They lean {deg} to the {side}: check the corners of the paper, or draw them upright.")
    return [
        Fault(
            "uprights lean",
            Mark(EDGE, numbers[worst]),
            _("All uprights lean"),
            text.format(
                deg=write_angle(round(abs(told), 1)), side=_("right") if told > 0 else _("left")
            ),
            math.tan(math.radians(abs(told))) * float(lengths[worst]),
            abs(told),
            None,
            (float(far[0]), float(far[1])),
        )
    ]


def _leaning(places: Array, lean: Array, errors: Array) -> tuple[float, float, float, float]:
    """By how many degrees uprights at places (n,) across the sheet lean (n,) in the middle, and how
    much more from one end of them to the other, with the errors of both; errors (n,) in radians.
    Zeros where the places do not tell it."""
    across = (places - places.mean()) / max(float(np.ptp(places)), 1e-9)
    off = np.abs(lean - np.median(lean))
    keep = off < np.maximum(LEAST_LEAN_DEG, CLEARLY * np.degrees(errors))  # no single one
    if keep.sum() < FEWEST - 1:
        return 0.0, 0.0, 0.0, 0.0
    weigh = 1 / np.degrees(errors[keep])
    base = np.stack([np.ones_like(weigh), across[keep]], axis=1) * weigh[:, None]
    square = base.T @ base
    if np.linalg.cond(square) > 1e8:
        return 0.0, 0.0, 0.0, 0.0
    level, slope = np.linalg.solve(square, base.T @ (lean[keep] * weigh)).tolist()
    sure, turning = np.sqrt(np.diag(np.linalg.inv(square))).tolist()
    return level, slope, sure, turning


@rule
def eye_level_climbs(sketch: Sketch) -> list[Fault]:
    """An eye level that is not level on the paper: the two level families tell it together."""
    told = eye_level_of(sketch.fit_marks, sketch.told, [])
    numbers, _lines = sketch.strokes("width")
    if told is None or not numbers or not sketch.strokes("depth")[0] or not sketch.one_box:
        return []
    left, right = told
    rise, wide = right.value - left.value, sketch.picture.width
    deg = math.degrees(math.atan2(rise, wide))
    error = math.degrees(math.hypot(left.standard_error, right.standard_error) / wide)
    if not max(LEAST_LEAN_DEG, CLEARLY * error) <= abs(deg) <= 3 * MEANT_DEG:
        return []
    return [
        Fault(
            "eye level climbs",
            Mark(EDGE, numbers[0]),
            _("The eye level is not level"),
            _("It climbs {deg} to the {side}: check the corners of the paper first.").format(
                deg=write_angle(round(abs(deg), 1)), side=_("right") if rise > 0 else _("left")
            ),
            abs(rise) * sketch.mm_per_px,
            abs(deg),
            None,
            (wide / 2, (left.value + right.value) / 2),
        )
    ]


@rule
def square_where_it_cannot_be(sketch: Sketch) -> list[Fault]:
    """A face drawn square to us whose third family runs to a point beside the sheet: seen square,
    it runs to where we look."""
    found = []
    for flat, other in (("width", "depth"), ("depth", "width")):
        numbers, lines = sketch.strokes(flat)
        others, away = sketch.strokes(other)
        if min(len(numbers), len(others)) < FEWEST - 1 or not _level(lines, sketch):
            continue
        point, wide = point_of(away), sketch.picture.width
        if abs(point[2]) < SAME:
            continue
        x = float(point[0] / point[2])
        beside = max(-x, x - wide)
        if beside < BESIDE_SHARE * wide:
            continue
        text = _("Its {other} strokes run to a point {mm} beside the sheet: give {flat} a point.")
        found.append(
            Fault(
                "square to us",
                Mark(EDGE, numbers[0]),
                _("A face is square to us where it cannot be"),
                text.format(other=_(other), flat=_(flat), mm=write_mm(beside * sketch.mm_per_px)),
                beside * sketch.mm_per_px,
                None,
                None,
                _middle(sketch.picture.edges[numbers[0]]),
            )
        )
    return found


def _level(lines: Array, sketch: Sketch) -> bool:
    """Whether all lines (n, 2, 2) were drawn level."""
    run = lines[:, 1] - lines[:, 0]
    climb = (np.degrees(np.arctan2(run[:, 1], run[:, 0])) + 90) % 180 - 90
    error = np.degrees(sketch.own_error_mm / sketch.mm_per_px / np.hypot(*run.T))
    return bool((np.abs(climb) <= np.maximum(CLEARLY * error, LEVEL_DEG)).all())

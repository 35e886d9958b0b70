"""The rules over things of one kind: wheels of one side, repeats along a line."""

import itertools
import math
from typing import NamedTuple

import numpy as np

from isometron.document.picture import ROUND, ROW, Mark
from isometron.perspective.lengths import write_mm, write_number
from isometron.perspective.places import Place
from isometron.reading.model import Array, State, vanishing
from isometron.reading.rims import RimError, fit_rim
from isometron.reading.rows import lengths_along
from isometron.reading.sketch.fans import off_line, way_words
from isometron.reading.sketch.faults import CLEARLY, LEAST_MM, Fault, Sketch, rule
from isometron.words import _

LIKE = 0.3
"""Wheels whose sizes, carried along their side, differ by a smaller share were meant to be of one
size."""

ASIDE_DEG = 12.0
"""Wheels of one side lie along a family when the line through their middles misses its point by
less."""

LEAST_SIZE = 0.03

EVEN = 1.3
"""Repeats whose steps differ by less were meant to be even."""


class Wheel(NamedTuple):
    """A rim about a level axle: its number, its axle, its dual conic (3, 3), px from the origin of
    the fit."""

    number: int
    axle: str
    dual: Array


@rule
def wheels_disagree(sketch: Sketch) -> list[Fault]:
    """Two wheels of one side that differ in size, or do not stand in line with the fan along it."""
    pairs = itertools.combinations(_wheels(sketch), 2)
    faults = [_differ(sketch, one, two) for one, two in pairs if one.axle == two.axle]
    return [fault for fault in faults if fault is not None]


def _wheels(sketch: Sketch) -> list[Wheel]:
    found = []
    for number, rim in enumerate(sketch.picture.rounds):
        if rim.left or rim.axle not in ("width", "depth"):
            continue
        try:
            told = fit_rim(np.array(rim.points, dtype=float) - sketch.fit.seen.origin)
        except RimError:
            continue
        cx, cy, long, short, angle = told.values
        c, s = math.cos(angle), math.sin(angle)
        way = np.array([[long * c, -short * s, cx], [long * s, short * c, cy], [0, 0, 1.0]])
        found.append(Wheel(number, rim.axle, way @ np.diag([1.0, 1.0, -1.0]) @ way.T))
    return found


def _differ(sketch: Sketch, one: Wheel, two: Wheel) -> Fault | None:
    """What is off between two wheels, the nearer of which is taken as right.

    The vanishing line l of their side alone tells it: a conic with the dual D has, on that plane,
    its middle at D l and an area that goes with √(det D / (l D l)³), wherever our eye is."""
    along = 1 if one.axle == "width" else 0

    def line(state: State) -> Array:
        points = vanishing(state)[0]
        found = np.cross(points[along], points[2])
        return np.asarray(found / np.linalg.norm(found[:2]))

    def told(state: State) -> Array:
        edge = line(state)
        levels = [float(edge @ wheel.dual @ edge) for wheel in (one, two)]
        dets = [abs(float(np.linalg.det(wheel.dual))) for wheel in (one, two)]
        size = [(det / abs(level) ** 3) ** 0.25 for det, level in zip(dets, levels, strict=True)]
        a, b = (_middle_on(wheel, edge) for wheel in (one, two))
        return np.array([math.log(size[1] / size[0]), off_line(vanishing(state)[0][along], a, b)])

    state = sketch.fit.state
    edge = line(state)
    heights = [edge @ np.array([*_middle_on(wheel, edge), 1.0]) for wheel in (one, two)]
    if heights[0] * heights[1] <= 0 or abs(heights[1]) > abs(heights[0]):
        return None if heights[0] * heights[1] <= 0 else _differ(sketch, two, one)
    grown, off = told(state).tolist()
    spread = np.sqrt(np.maximum(np.diag(sketch.told.spread(sketch.told.slopes(told))), 0.0))
    near, far = (_middle_on(wheel, edge) for wheel in (one, two))
    across = math.dist(near, far)
    if abs(grown) > LIKE or math.degrees(math.atan2(abs(off), across)) > ASIDE_DEG:
        return None  # not of one size, or not along one side
    own = max(LEAST_MM, CLEARLY * sketch.own_error_mm)
    place = far + sketch.fit.seen.origin
    at = (float(place[0]), float(place[1]))
    radius = float(abs(np.linalg.det(two.dual)) ** 0.25)
    wider = abs(math.expm1(grown)) * radius * sketch.mm_per_px
    if wider >= own and abs(grown) >= max(LEAST_SIZE, CLEARLY * spread[0]):
        return _of_other_size(two.number, at, grown, wider)
    aside = abs(off) * sketch.mm_per_px
    if aside >= max(own, CLEARLY * spread[1] * sketch.mm_per_px):
        run = far - near
        way = np.array([run[1], -run[0]]) * np.sign(off)
        return _out_of_line(two.number, at, aside, way)
    return None


def _of_other_size(number: int, at: Place, grown: float, wider: float) -> Fault:
    """A far wheel larger or smaller than the near one: by the logarithm of its size, mm at its
    rim."""
    percent = 100 * abs(math.expm1(grown))
    text = _("The far one is {percent} % too {size} for the near one: {mm} at its rim.")
    return Fault(
        "wheels disagree",
        Mark(ROUND, number),
        _("Wheels of one side disagree"),
        text.format(
            percent=write_number(round(percent, 1)),
            size=_("large") if grown > 0 else _("small"),
            mm=write_mm(wider),
        ),
        wider,
        None,
        percent,
        at,
    )


def _out_of_line(number: int, at: Place, aside: float, way: Array) -> Fault:
    """A far wheel whose middle lies aside from the fan, mm, and which way it must go."""
    text = _("The middle of the far one lies {mm} off the fan: move it {way}.")
    return Fault(
        "wheels out of line",
        Mark(ROUND, number),
        _("Wheels of one side are out of line"),
        text.format(mm=write_mm(aside), way=way_words(way)),
        aside,
        None,
        None,
        at,
    )


def _middle_on(wheel: Wheel, edge: Array) -> Array:
    """Where the middle of a circle is drawn, (2,): the pole of its plane's vanishing line."""
    pole = wheel.dual @ edge
    middle: Array = pole[:2] / pole[2]
    return middle


@rule
def repeats_do_not_shrink(sketch: Sketch) -> list[Fault]:
    """Repeats along a line that were meant to be even: a place that lies aside from where equal
    steps to the vanishing point of the line put it."""
    found = []
    for number, row in enumerate(sketch.picture.rows):
        if row.family not in sketch.families or len(row.points) < 4:
            continue
        point = vanishing(sketch.fit.state)[0][sketch.families.index(row.family)]
        places = np.array(row.points, dtype=float) - sketch.fit.seen.origin
        lengths = np.append(1.0, lengths_along(point, places))
        if not np.isfinite(lengths).all() or lengths.max() > EVEN**2 * lengths.min():
            continue
        meant = _even(point, places, np.cumsum(np.append(0.0, lengths)))
        off = np.hypot(*(meant - places).T) * sketch.mm_per_px
        worst = int(np.argmax(off))
        if off[worst] < max(LEAST_MM, CLEARLY * sketch.own_error_mm):
            continue
        place = row.points[worst]
        found.append(
            Fault(
                "repeats do not shrink by rule",
                Mark(ROW, number),
                _("Repeats do not shrink by rule"),
                _("Place {n} lies {mm} off even steps: move it {way}.").format(
                    n=worst + 1,
                    mm=write_mm(float(off[worst])),
                    way=way_words(meant[worst] - places[worst]),
                ),
                float(off[worst]),
                None,
                None,
                place,
            )
        )
    return found


def _even(point: Array, places: Array, true: Array) -> Array:
    """Where places (n, 2) on a line to a homogeneous point would lie if their true distances (n,)
    grew by even steps, by least squares without the one that is farthest off."""
    count = np.arange(len(true), dtype=float)
    keep = np.ones(len(true), dtype=bool)
    for _round in range(2):
        step, start = np.polyfit(count[keep], true[keep], 1)
        miss = np.abs(start + step * count - true)
        keep = np.arange(len(true)) != int(np.argmax(miss))
    goal = start + step * count
    away = point[:2] - point[2] * places[0]
    scale = math.hypot(*away)
    first = float((places[1] - places[0]) @ away) / scale
    unit = first / (scale - first * point[2])  # what a true length of 1 is
    t = goal * unit
    x = t * scale / (1 + t * point[2])
    even: Array = places[0] + x[:, None] * away / scale
    return even

"""A grid: three directions from one near corner, and how any point in them is found by ruler.

Lengths along a direction are closed by the method of the order. A point off the axes is where two
fans cross; of several ways the one that crosses most steeply is taken.
"""

import itertools
import math
from collections.abc import Callable

import numpy as np

from isometron.construction.draft import FLATTEST_DEG, SAME_MM, Draft
from isometron.construction.targets import Plan, Targets, within_reach
from isometron.document.near_edge import drawn_place
from isometron.nearness import NEAR, ROUNDING
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import depths, scale_at
from isometron.perspective.vanishing import (
    PARALLEL,
    diagonal_point,
    measuring_point,
    vanishing_point,
)
from isometron.words import _, said

LEVEL = 1e-9
"""What bends or leans by less, of its length, is straight or level."""

Coordinates = tuple[float, float, float]

Way = tuple[int, Coordinates]
"""A line: along which direction, and through which coordinates."""

MEASURED = 1.5
"""A length carried over by a method is worth so many lines."""

FLAT_PRICES = ((15.0, 2.0), (25.0, 0.5))
"""Crossings flatter than so many degrees are worth so many more lines."""

PARTS = (1.0, 0.5, 0.25)
"""Of a length so much is laid off: all of it where that can be."""

FEET = (0.0,)
"""Where a line may begin that is only thought of: in the planes of the near corner."""

DEEPEST = 2
"""So many points may have to be made before the one that is wanted."""

SAME = 1e-10
"""Coordinates that differ by less than this share of the grid's size are one."""


def _key(axis: int, at: Coordinates) -> tuple[int, float, float]:
    """What the line along a direction through some coordinates is known by."""
    first, second = (at[i] for i in range(3) if i != axis)
    return axis, first, second


def _toward(start: Place, end: Place, share: float) -> Place:
    """The place at a share of the way from one to another."""
    return start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])


def _moved(at: Coordinates, axis: int, value: float) -> Coordinates:
    """Coordinates with one of them changed."""
    own = list(at)
    own[axis] = value
    return own[0], own[1], own[2]


class Grid:
    """Directions from a near corner. axes (3, 3): unit world directions away from it; the third is
    that of the near edge."""

    def __init__(
        self, draft: Draft, targets: Targets, corner: Array, axes: Array, method: str
    ) -> None:
        self.draft, self.targets, self.method = draft, targets, method
        self.corner, self.axes = corner, axes
        self.scale = float(scale_at(draft.eye, depths(draft.eye, corner[None])[0]))
        self.vanishing = [vanishing_point(draft.eye, axis) for axis in axes]
        self.size = 1.0
        self.part = 1.0
        self._plan_sides: dict[int, str] = {}
        self._corner_in_plan = ""
        self._parts: dict[int, float] = {}
        self.origin = ""
        self._values: list[list[float]] = [[0.0], [0.0], [0.0]]
        self._points: dict[Coordinates, str] = {}
        self._places: dict[Coordinates, Place] = {}
        self._on: dict[tuple[int, float, float], list[Coordinates]] = {}
        self._lines: dict[tuple[int, float, float], str] = {}
        self._measuring: dict[tuple[int, int], str] = {}

    # Places

    def world(self, at: Coordinates) -> Array:
        """World place (3,) of coordinates, mm."""
        return np.asarray(self.corner + np.array(at) @ self.axes)

    def sheet(self, at: Coordinates) -> Place:
        """Where coordinates are drawn. Raises SetupError behind the eye."""
        if at not in self._places:
            self._places[at] = drawn_place(self.draft.eye, self.world(at))
        return self._places[at]

    def coordinates(self, world: Array) -> Coordinates:
        """Coordinates of a world point, small differences taken away."""
        own = self.axes @ (world - self.corner)
        x, y, z = (self._seen_before(axis, float(v)) for axis, v in enumerate(own))
        return x, y, z

    def _seen_before(self, axis: int, value: float) -> float:
        """A coordinate, or the one already met that differs from it by rounding only."""
        for known in self._values[axis]:
            if abs(known - value) < SAME * self.size:
                return known
        self._values[axis].append(value)
        return value

    def shared(self, corners: Array) -> int:
        """How many of the six planes of a box (8, 3) world mm are planes of the grid already."""
        own = (corners - self.corner) @ self.axes.T
        found = 0
        for axis, known in enumerate(self._values):
            for value in (own[:, axis].min(), own[:, axis].max()):
                found += any(abs(value - one) < NEAR * self.size for one in known)
        return found

    def begin(self) -> str:
        """Mark the near corner."""
        place = self.sheet((0.0, 0.0, 0.0))
        self.origin = self.draft.mark(place)
        self.adopt((0.0, 0.0, 0.0), self.origin)
        return self.origin

    def adopt(self, at: Coordinates, name: str) -> None:
        """Take a point as the one at some coordinates."""
        if at not in self._points:
            for axis in range(3):
                self._on.setdefault(_key(axis, at), []).append(at)
        self._points[at] = name

    def known(self, at: Coordinates) -> str | None:
        """The point at some coordinates, when it is made already."""
        return self._points.get(at)

    # Lines along the directions

    def line(self, axis: int, at: Coordinates, through: str) -> str:
        """The line along a direction through a point at some coordinates."""
        key = _key(axis, at)
        if key not in self._lines:
            self._lines[key] = self._ruled(axis, through)
        return self._lines[key]

    def _ruled(self, axis: int, through: str) -> str:
        point = self.vanishing[axis]
        if point.sheet_mm is not None:
            return self.draft.line_to(through, self.targets.of(self.axes[axis]))
        return self.targets.parallel(point.paper_direction, through)

    # Lengths along the directions

    def along(self, axis: int, mm: float) -> str:
        """The point at a true length along a direction from the near corner."""
        at = [0.0, 0.0, 0.0]
        at[axis] = mm
        key = (at[0], at[1], at[2])
        if key not in self._points:
            line = self.line(axis, (0.0, 0.0, 0.0), self.origin)
            self.adopt(key, self._closed(axis, mm, line, self.sheet(key)))
        return self._points[key]

    def drawn_along(self, axis: int, mm: float) -> float:
        """How long a true length along a direction from the near corner is drawn, mm."""
        at = _moved((0.0, 0.0, 0.0), axis, mm)
        return math.dist(self.sheet((0.0, 0.0, 0.0)), self.sheet(at))

    def _closed(self, axis: int, mm: float, line: str, place: Place) -> str:
        ways: dict[str, Callable[[int, float, str, Place], str | None]] = {
            "by eye": self._by_drawn_length,
            "plan projection": self._by_plan,
            "measuring points": self._by_measuring_point,
            "diagonal point": self._by_diagonal,
        }
        if self.vanishing[axis].at_infinity or self.method == "by eye":
            return self._by_drawn_length(axis, mm, line, place) or self.draft.mark(place)
        for method in (self.method, "measuring points"):
            made = ways[method](axis, mm, line, place)
            if made is not None:
                if method != self.method:
                    self.draft.borrow(method)
                return made
        self.draft.borrow(said("a measured place"))
        return self._by_drawn_length(axis, mm, line, place) or self.draft.mark(place)

    def _by_drawn_length(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """Stepped off along the line: true for lines that stay parallel, by eye for others."""
        by_eye = self.method == "by eye" and not self.vanishing[axis].at_infinity
        mm = self.draft.signed(line, self.origin, place)
        return self.draft.step_off(line, self.origin, mm, by_eye=by_eye)

    def _by_measuring_point(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """The true length laid off on a measuring line, carried to the fan by its measuring point.
        Of the planes that hold the direction the one whose lines cross most steeply is taken."""
        vanishing = self.vanishing[axis].sheet_mm
        best: tuple[float, int, Place] | None = None
        for partner in (0, 1, 2):
            if partner == axis:
                continue
            point = measuring_point(self.draft.eye, self.axes[axis], self.axes[partner])
            if point is None or math.dist(point, place) < 1.0:
                continue
            steep = self._steepness(line, place, point)
            level = 10.0 if abs(self.axes[axis][2]) + abs(self.axes[partner][2]) < LEVEL else 0.0
            if best is None or steep + level > best[0]:
                best = (steep + level, partner, point)
        if best is None or vanishing is None:
            return None
        _unused, partner, point = best
        part = self._part_for(axis, abs(mm) * self.scale, point, vanishing)
        point = _toward(vanishing, point, part)
        if self._steepness(line, place, point) < FLATTEST_DEG:
            return None
        rule = self._measuring_line(axis, partner)
        laid = self._laid_off(rule, mm, place, point)
        if laid is None:
            return None
        target = self.targets.measuring(axis, point, vanishing, self.axes[axis], part)
        start = self.draft.step_off(rule, self.origin, laid * part)
        self.part = part
        return self.draft.cross(self.draft.line_to(start, target), line)

    def _part_for(self, axis: int, laid_mm: float, point: Place, vanishing: Place) -> float:
        """The share of a length that is laid off, with the measuring point drawn as much nearer to
        the vanishing point: all of it, or a half or a quarter where the ruler is too short or the
        point too far off."""
        document = self.draft.document
        stands = [p for p in PARTS if self.targets.stands(_toward(vanishing, point, p))]
        for part in (*filter(None, [self._parts.get(axis)]), *stands, *PARTS):
            near = within_reach(document, _toward(vanishing, point, part))
            if laid_mm * part <= document.kit.ruler_mm and near:
                self._parts[axis] = part
                return part
        return 1.0

    def _steepness(self, line: str, place: Place, point: Place) -> float:
        """The angle in degrees at which the line from a point through a place crosses a line."""
        _unused, along = self.draft.line(line)
        run = np.array(place) - np.array(point)
        run = run / np.hypot(*run)
        return math.degrees(math.asin(min(abs(float(along[0] * run[1] - along[1] * run[0])), 1.0)))

    def _measuring_line(self, axis: int, partner: int) -> str:
        """The line through the near corner parallel to the vanishing line of the plane of two
        directions."""
        key = (min(axis, partner), max(axis, partner))
        if key not in self._measuring:
            normal = np.cross(self.axes[axis], self.axes[partner])
            self._measuring[key] = self.targets.trace(normal, self.origin)
        return self._measuring[key]

    def _laid_off(self, rule: str, mm: float, place: Place, point: Place) -> float | None:
        """The measure on a measuring line whose line to the measuring point meets a place."""
        start, along = self.draft.line(rule)
        run = np.array(place) - np.array(point)
        bend = along[0] * run[1] - along[1] * run[0]
        if abs(bend) < LEVEL * np.hypot(*run):
            return None
        away = np.array(point) - start
        met = start + (away[0] * run[1] - away[1] * run[0]) / bend * along
        found = self.draft.signed(rule, self.origin, (float(met[0]), float(met[1])))
        return math.copysign(abs(mm) * self.scale, found)

    def _by_plan(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """The side drawn in the plan at its true angle, a sight line that cuts the picture plane,
        and an upright that brings the cut down."""
        if abs(self.axes[axis][2]) > ROUNDING or abs(abs(self.axes[2][2]) - 1) > ROUNDING:
            return None
        plan = self.targets.plan(self.scale)
        _unused, along = self.draft.line(line)
        if plan is None or abs(along[0]) < math.sin(math.radians(FLATTEST_DEG)):
            return None
        at = _moved((0.0, 0.0, 0.0), axis, mm)
        ends = [self.targets.in_plan(plan, self.world(one)) for one in ((0.0, 0.0, 0.0), at)]
        document = self.draft.document
        if not all(within_reach(document, end) for end in ends):
            return None
        corner = self._plan_corner(plan, ends[0])
        run = ends[1][0] - ends[0][0], ends[1][1] - ends[0][1]
        if axis not in self._plan_sides:
            self._plan_sides[axis] = self.targets.parallel(run, corner)
        side = self._plan_sides[axis]
        seen = self.draft.step_off(side, corner, self.draft.signed(side, corner, ends[1]))
        sight = self.draft.join(plan.station, seen)
        if not self.draft.crosses_well(sight, plan.picture_plane):
            return None
        cut = self.draft.cross(sight, plan.picture_plane)
        drop = self.draft.upright(cut)
        self._lines.setdefault(_key(2, at), drop)  # it is the far upright as well
        return self.draft.cross(drop, line)

    def _plan_corner(self, plan: Plan, place: Place) -> str:
        """The near corner in the plan: above the near edge, on its sight line."""
        if not self._corner_in_plan:
            edge = self.line(2, (0.0, 0.0, 0.0), self.origin)
            foot = self.draft.cross(edge, plan.picture_plane)
            if math.dist(self.draft.place(foot), place) > SAME_MM:
                sight = self.draft.join(plan.station, foot)
                foot = self.draft.step_off(sight, foot, self.draft.signed(sight, foot, place))
            self._corner_in_plan = foot
        return self._corner_in_plan

    def _by_diagonal(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """By the diagonal of a square: from a true height on the near edge for the first level
        direction, stepped round through the ground's diagonal point for the second."""
        if axis == 2:
            return None
        if axis == 0:
            return self._by_upright_diagonal(axis, mm, line, place)
        diagonal = diagonal_point(self.draft.eye, self.axes[0], self.axes[1])
        try:
            side = self.along(0, mm)
            self.sheet((mm, mm, 0.0))
        except IsometronError:  # the square would reach behind us
            return self._by_upright_diagonal(axis, mm, line, place)
        corner = self._points.get((mm, mm, 0.0))
        if corner is None:
            across = self.line(1, (mm, 0.0, 0.0), side)
            run = self._diagonal_line(diagonal.sheet_mm, diagonal.paper_direction)
            if not self.draft.crosses_well(run, across):
                return self._by_upright_diagonal(axis, mm, line, place)
            corner = self.draft.cross(run, across)
            self.adopt((mm, mm, 0.0), corner)
        back = self.line(0, (0.0, mm, 0.0), corner)
        return self.draft.cross(back, line) if self.draft.crosses_well(back, line) else None

    def _diagonal_line(self, point: Place | None, paper: Place) -> str:
        key = (-1, -1)
        if key not in self._measuring:
            if point is None:
                self._measuring[key] = self.targets.parallel(paper, self.origin)
            else:
                target = self.targets.point(point, _("the 45° point of the ground"))
                self._measuring[key] = self.draft.line_to(self.origin, target)
        return self._measuring[key]

    def _by_upright_diagonal(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """The true length up (or down) the near edge, carried to the fan along the diagonal of an
        upright square."""
        if self.vanishing[2].sheet_mm is not None:
            return None  # in three-point no height is measured truly
        sign = 1.0 if mm > 0 else -1.0
        slope = vanishing_point(self.draft.eye, self.axes[axis] * sign - self.axes[2])
        height = self.along(2, abs(mm))
        words = (_("the 45° point over the width"), _("the 45° point over the depth"))[axis]
        if slope.sheet_mm is None:
            run = self.targets.parallel(slope.paper_direction, height)
        else:
            if self._steepness(line, place, slope.sheet_mm) < FLATTEST_DEG:
                return None
            run = self.draft.line_to(height, self.targets.point(slope.sheet_mm, words))
        return self.draft.cross(run, line) if self.draft.crosses_well(run, line) else None

    # Points

    def point(self, at: Coordinates) -> str:
        """The point at some coordinates, made if it is not there yet."""
        if at in self._points:
            return self._points[at]
        out = [axis for axis in range(3) if at[axis] != 0.0]
        price, ways = self._cheapest(at, 0)
        if len(out) == 1 and price >= MEASURED:
            return self.along(out[0], at[out[0]])
        self.adopt(at, self._crossed(at, ways))
        return self._points[at]

    def _crossed(self, at: Coordinates, ways: list[Way]) -> str:
        """Where two lines cross that are drawn from points that stand, or are made first."""
        lines = [
            self._lines.get(_key(axis, start)) or self.line(axis, start, self.point(start))
            for axis, start in ways
        ]
        if lines and self.draft.crosses_well(*lines):
            return self.draft.cross(*lines)
        self.draft.borrow(said("a measured place"))
        return self.draft.mark(self.sheet(at))

    def _cheapest(self, at: Coordinates, deep: int) -> tuple[float, list[Way]]:
        """What a point costs that is made where two lines cross, in lines to be drawn and what a
        flat crossing is worth; and those two: along which direction, and from where. No lines when
        it can not be made so."""
        if at in self._points:
            return 0.0, []
        priced = [self._line_price(axis, at, deep) for axis in range(3)]
        best: tuple[float, float, list[Way]] = (math.inf, 0.0, [])
        for pair in itertools.combinations(range(3), 2):
            price = sum(priced[axis][0] for axis in pair)
            if price >= best[0] + FLAT_PRICES[0][1]:
                continue
            angle = self._angle(at, pair)
            price += next((worth for steep, worth in FLAT_PRICES if angle < steep), 0.0)
            if angle >= FLATTEST_DEG and (price, -angle) < best[:2]:
                best = (price, -angle, [(axis, priced[axis][1]) for axis in pair])
        return best[0], best[2]

    def _line_price(self, axis: int, at: Coordinates, deep: int) -> tuple[float, Coordinates]:
        """What the line along a direction through some coordinates costs, and where it begins:
        nothing when it is drawn, one when a point of it stands, else that point besides."""
        key = _key(axis, at)
        known = self._on.get(key)
        if key in self._lines:
            return 0.0, known[0] if known else at
        if known:
            return 1.0, known[0]
        best = (math.inf, at)
        if deep < DEEPEST:
            for value in self._values[axis] if deep == 0 else FEET:
                start = _moved(at, axis, value)
                if value != at[axis] and best[0] > 1.0:
                    best = min(best, (1.0 + self._point_price(start, deep + 1), start))
        return best

    def _point_price(self, at: Coordinates, deep: int) -> float:
        """What a point costs, measured or crossed."""
        crossed = self._cheapest(at, deep)[0]
        return min(crossed, MEASURED) if sum(value != 0.0 for value in at) == 1 else crossed

    def _angle(self, at: Coordinates, pair: tuple[int, int]) -> float:
        """How steeply the lines along two directions cross at some coordinates, degrees; 0 when a
        point on the way lies behind us."""
        try:
            place = self.sheet(at)
            runs_to = [self.vanishing[axis].sheet_mm for axis in pair]
            if any(point is not None and math.dist(point, place) < SAME_MM for point in runs_to):
                return 0.0
        except IsometronError:
            return 0.0
        (a, b), (c, d) = (self._way(axis, place) for axis in pair)
        return math.degrees(math.asin(min(abs(a * d - b * c), 1.0)))

    def _way(self, axis: int, place: Place) -> Place:
        """Unit direction on the paper of the line along a direction through a place."""
        point = self.vanishing[axis]
        if point.sheet_mm is None:
            return point.paper_direction
        x, y = point.sheet_mm[0] - place[0], point.sheet_mm[1] - place[1]
        length = math.hypot(x, y)
        return (x / length, y / length) if length > PARALLEL else (1.0, 0.0)

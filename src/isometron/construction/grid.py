"""A grid: three directions from one near corner, and how any point in them is found by ruler.

Lengths along a direction are closed by the method of the order. A point off the axes is where two
fans cross; of several ways the one that crosses most steeply is taken.
"""

import itertools
import math
from collections.abc import Callable

import numpy as np

from isometron.construction.draft import FLATTEST_DEG, SAME_MM, Draft, Place
from isometron.construction.targets import Targets
from isometron.document.near_edge import drawn_place
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.projection import depths, scale_at
from isometron.perspective.vanishing import (
    PARALLEL,
    diagonal_point,
    measuring_point,
    vanishing_point,
)
from isometron.words import _, said

Coordinates = tuple[float, float, float]

SAME = 1e-10
"""Coordinates that differ by less than this share of the grid's size are one."""


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
        self.origin = ""
        self._values: list[list[float]] = [[0.0], [0.0], [0.0]]
        self._points: dict[Coordinates, str] = {}
        self._lines: dict[tuple[int, float, float], str] = {}
        self._measuring: dict[tuple[int, int], str] = {}

    # Places

    def world(self, at: Coordinates) -> Array:
        """World place (3,) of coordinates, mm."""
        return np.asarray(self.corner + np.array(at) @ self.axes)

    def sheet(self, at: Coordinates) -> Place:
        """Where coordinates are drawn. Raises SetupError behind the eye."""
        return drawn_place(self.draft.eye, self.world(at))

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
                found += any(abs(value - one) < 1e-6 * self.size for one in known)
        return found

    def begin(self) -> str:
        """Mark the near corner."""
        place = self.sheet((0.0, 0.0, 0.0))
        self.origin = self.draft.mark(place)
        self._points[0.0, 0.0, 0.0] = self.origin
        return self.origin

    def adopt(self, at: Coordinates, name: str) -> None:
        """Take a point made otherwise as the one at some coordinates."""
        self._points[at] = name

    def known(self, at: Coordinates) -> str | None:
        """The point at some coordinates, when it is made already."""
        return self._points.get(at)

    # Lines along the directions

    def line(self, axis: int, at: Coordinates, through: str) -> str:
        """The line along a direction through a point at some coordinates."""
        first, second = (at[i] for i in range(3) if i != axis)
        key = (axis, first, second)
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
            self._points[key] = self._closed(axis, mm, line, self.sheet(key))
        return self._points[key]

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
        return self.draft.step_off(line, self.origin, self.draft.signed(line, self.origin, place))

    def _by_measuring_point(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """The true length laid off on a measuring line, carried to the fan by its measuring point.
        Of the planes that hold the direction the one whose lines cross most steeply is taken."""
        best: tuple[float, int, Place] | None = None
        for partner in (0, 1, 2):
            if partner == axis:
                continue
            point = measuring_point(self.draft.eye, self.axes[axis], self.axes[partner])
            if point is None or math.dist(point, place) < 1.0:
                continue
            steep = self._steepness(line, place, point)
            level = 10.0 if abs(self.axes[axis][2]) + abs(self.axes[partner][2]) < 1e-9 else 0.0
            if best is None or steep + level > best[0]:
                best = (steep + level, partner, point)
        if best is None or self._steepness(line, place, best[2]) < FLATTEST_DEG:
            return None
        _unused, partner, point = best
        rule = self._measuring_line(axis, partner)
        laid = self._laid_off(rule, mm, place, point)
        if laid is None:
            return None
        target = self.targets.measuring(axis, point, self.vanishing[axis].sheet_mm, self.axes[axis])
        start = self.draft.step_off(rule, self.origin, laid)
        return self.draft.cross(self.draft.line_to(start, target), line)

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
        if abs(bend) < 1e-9 * np.hypot(*run):
            return None
        away = np.array(point) - start
        met = start + (away[0] * run[1] - away[1] * run[0]) / bend * along
        found = self.draft.signed(rule, self.origin, (float(met[0]), float(met[1])))
        return math.copysign(abs(mm) * self.scale, found)

    def _by_plan(self, axis: int, mm: float, line: str, place: Place) -> str | None:
        """A sight line in the plan cuts the picture plane; an upright brings the cut down."""
        plan = self.targets.plan(self.scale)
        if plan is None or abs(self.axes[axis][2]) > 1e-12:
            return None
        _unused, along = self.draft.line(line)
        if abs(along[0]) < math.sin(math.radians(FLATTEST_DEG)):
            return None
        at = [0.0, 0.0, 0.0]
        at[axis] = mm
        seen = self.draft.mark(self.targets.in_plan(self.world((at[0], at[1], at[2]))))
        cut = self.draft.cross(self.draft.join(plan[0], seen), plan[1])
        drop = self.draft.upright(cut)
        if self.vanishing[2].at_infinity and abs(abs(self.axes[2][2]) - 1) < 1e-12:
            self._lines.setdefault((2, at[0], at[1]), drop)  # it is the far upright as well
        return self.draft.cross(drop, line)

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
            self._points[mm, mm, 0.0] = corner
        back = self.line(0, (0.0, mm, 0.0), corner)
        return self.draft.cross(back, line) if self.draft.crosses_well(back, line) else None

    def _diagonal_line(self, point: Place | None, paper: Place) -> str:
        key = (-1, -1)
        if key not in self._measuring:
            if point is None:
                self._measuring[key] = self.targets.parallel(paper, self.origin)
            else:
                target = self.targets.point(point, _("the 45° point"))
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
        if slope.sheet_mm is None:
            run = self.targets.parallel(slope.paper_direction, height)
        else:
            if self._steepness(line, place, slope.sheet_mm) < FLATTEST_DEG:
                return None
            run = self.draft.line_to(height, self.targets.point(slope.sheet_mm, _("the 45° point")))
        return self.draft.cross(run, line) if self.draft.crosses_well(run, line) else None

    # Points

    def point(self, at: Coordinates) -> str:
        """The point at some coordinates, made if it is not there yet."""
        if at in self._points:
            return self._points[at]
        out = [axis for axis in range(3) if at[axis] != 0.0]
        if not out:
            return self.origin
        made = self.along(out[0], at[out[0]]) if len(out) == 1 else self._crossed(at, out)
        self._points[at] = made
        return made

    def _crossed(self, at: Coordinates, out: list[int]) -> str:
        """Where two fans cross that are drawn from points nearer to the near corner."""
        place = self.sheet(at)
        pairs = sorted(itertools.combinations(out, 2), key=lambda pair: -self._angle(at, pair))
        for first, second in pairs:
            if self._angle(at, (first, second)) < FLATTEST_DEG:
                break
            lines = []
            for axis in (first, second):
                foot = [0.0 if i == axis else at[i] for i in range(3)]
                start = (foot[0], foot[1], foot[2])
                lines.append(self.line(axis, start, self.point(start)))
            if self.draft.crosses_well(*lines):
                return self.draft.cross(*lines)
        self.draft.borrow(said("a measured place"))
        return self.draft.mark(place)

    def _angle(self, at: Coordinates, pair: tuple[int, int]) -> float:
        """How steeply the lines along two directions cross at some coordinates, degrees; 0 when a
        point on the way lies behind us."""
        try:
            place = self.sheet(at)
            for axis in pair:
                foot = [0.0 if i == axis else at[i] for i in range(3)]
                if math.dist(self.sheet((foot[0], foot[1], foot[2])), place) < SAME_MM:
                    return 0.0
        except IsometronError:
            return 0.0
        ways = [self._way(axis, place) for axis in pair]
        bend = float(ways[0][0] * ways[1][1] - ways[0][1] * ways[1][0])
        return math.degrees(math.asin(min(abs(bend), 1.0)))

    def _way(self, axis: int, place: Place) -> Array:
        """Unit direction on the paper of the line along a direction through a place."""
        point = self.vanishing[axis]
        if point.sheet_mm is None:
            return np.array(point.paper_direction)
        run = np.array(point.sheet_mm) - np.array(place)
        length = float(np.hypot(*run))
        return run / length if length > PARALLEL else np.array([1.0, 0.0])

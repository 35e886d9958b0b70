"""The points an order works with: eye level, vanishing, measuring and diagonal points, the station
point, and the aids for those off the paper."""

import math

import numpy as np

from isometron.construction.draft import Draft, Place, Target
from isometron.document.document import Document
from isometron.perspective.eye import Array, eye_level, sight_axes
from isometron.perspective.vanishing import from_eye, vanishing_point
from isometron.words import _, said

EDGE_MM = 2500.0
"""Points this near the paper are reached by marks on its edges, line by line; lines to points
further off are ruled by evenly divided edges."""

DIVISIONS = 8
"""Parts of a divided edge."""

PLAN_GAP_MM = 15.0
"""The picture plane is drawn this far above the paper's upper edge, on a strip."""

SAME_MM = 1e-6
"""Targets nearer than this are one."""

ALIKE = 1e-12
"""Directions whose angle has a smaller sine than this share a point."""

WORDS = {
    "left": said("VP left"),
    "right": said("VP right"),
    "centre": said("the VP"),
    "third": said("the third point"),
}


def beyond(document: Document, place: Place) -> float:
    """How far a place lies off the paper, mm."""
    x, y = place
    across = max(-x, x - document.sheet.width_mm, 0.0)
    along = max(-y, y - document.sheet.height_mm, 0.0)
    return math.hypot(across, along)


def aid_for(document: Document, place: Place) -> str:
    """The aid by which a point is reached: "on the board", "strip", "edge marks", "divided
    edges"."""
    off = beyond(document, place)
    if off == 0:
        return "on the board"
    if off <= document.kit.spare_paper_mm:
        return "strip"
    return "edge marks" if off <= EDGE_MM else "divided edges"


def within_reach(document: Document, place: Place) -> bool:
    """Whether a place lies on the paper or on a strip taped to it."""
    return beyond(document, place) <= document.kit.spare_paper_mm


def strip_words(draft: Draft, place: Place) -> str:
    """Where a strip is taped, and how long it must be."""
    x, y = place
    width, height = draft.sheet.width_mm, draft.sheet.height_mm
    if x < 0 or x > width:
        edge, reach, at = (_("left") if x < 0 else _("right")), max(-x, x - width), y
        where = f"{draft.length(at)} up"
    else:
        edge, reach, at = (_("lower") if y < 0 else _("upper")), max(-y, y - height), x
        where = _("{at} from the left").format(at=draft.length(at))
    return _("Tape a strip {length} long to the {edge} edge, {where}.").format(
        length=draft.length(reach + 20.0), edge=edge, where=where
    )


class Directions:
    """Directions of the world in the order they came, found again by how they run."""

    def __init__(self) -> None:
        self._rows, self._count = np.empty((8, 3)), 0

    def add(self, along: Array) -> None:
        """One more."""
        if self._count == len(self._rows):
            self._rows = np.concatenate([self._rows, np.empty_like(self._rows)])
        self._rows[self._count] = along
        self._count += 1

    def find(self, along: Array) -> int | None:
        """The number of the first that runs alike, either way."""
        (a, b, c), (x, y, z) = self._rows[: self._count].T, along
        apart = (b * z - c * y) ** 2 + (c * x - a * z) ** 2 + (a * y - b * x) ** 2
        alike = np.flatnonzero(apart < ALIKE**2)
        return int(alike[0]) if len(alike) else None


class Targets:
    """Points that lines run to, each made once."""

    def __init__(self, draft: Draft) -> None:
        self.draft = draft
        self.level_line = ""
        self._directions = Directions()
        self.vanishing: list[Target] = []
        self._points: list[Target] = []
        self._parallels: list[tuple[Array, str]] = []
        self._plan: tuple[str, str] | None = None
        self._plan_scale = 1.0
        self.top = 0.0

    @property
    def measures(self) -> list[Target]:
        """The measuring and 45° points that lines run to."""
        vanishing = set(self.vanishing)
        return [target for target in self._points if target not in vanishing]

    # Points

    def add(self, direction: Array, target: Target) -> Target:
        """Note where a direction vanishes."""
        self._directions.add(direction)
        self.vanishing.append(target)
        return target

    def of(self, direction: Array) -> Target:
        """The vanishing point of a direction, made when it is first asked for."""
        along = np.asarray(direction, dtype=float)
        known = self._directions.find(along)
        if known is not None:
            return self.vanishing[known]
        point = vanishing_point(self.draft.eye, along)
        assert point.sheet_mm is not None
        return self.add(along, self.point(point.sheet_mm, _("its vanishing point")))

    def point(self, place: Place, words: str) -> Target:
        """A target at a place: marked when it can be reached, else ruled by edge marks."""
        known = self._at(place)
        if known is not None:
            return known
        reached = aid_for(self.draft.document, place) in ("on the board", "strip")
        name = self.draft.mark(place, words) if reached else None
        if name is not None and beyond(self.draft.document, place) > 0:
            self.draft.note(strip_words(self.draft, place))
        target = Target(name, place, words)
        self._points.append(target)
        return target

    def _at(self, place: Place) -> Target | None:
        """The target that lies at a place."""
        return next((t for t in self._points if math.dist(t.place, place) < SAME_MM), None)

    def measuring(
        self, axis: int, place: Place, vanishing: Place | None, direction: Array
    ) -> Target:
        """A measuring point: stepped off along the eye level from its vanishing point when both can
        be reached, by the distance of the eye from that point."""
        known = self._at(place)
        if known is not None:
            return known
        level = eye_level(self.draft.eye)
        words = (_("MP of the width"), _("MP of the depth"), _("MP of the uprights"))[axis]
        home = self.of(direction)
        reached = aid_for(self.draft.document, place) in ("on the board", "strip")
        on_level = level is not None and abs(place[1] - level) < 1e-9 and bool(self.level_line)
        if reached and on_level and home.name is not None and vanishing is not None:
            mm = math.copysign(from_eye(self.draft.eye, vanishing), place[0] - vanishing[0])
            name = self.draft.step_off(self.level_line, home.name, mm, words)
            if beyond(self.draft.document, place) > 0:
                self.draft.note(strip_words(self.draft, place))
            target = Target(name, place, words)
            self._points.append(target)
            return target
        return self.point(place, words)

    # Directions

    def parallel(self, paper: Place, through: str) -> str:
        """A line through a point in a direction of the paper: level, upright, or parallel to one
        drawn before (the first of its kind by a measured mark)."""
        way = np.array(paper) / math.hypot(*paper)
        if abs(way[0]) < 1e-12:
            return self.draft.upright(through)
        if abs(way[1]) < 1e-12:
            return self.draft.level(through)
        for known, line in self._parallels:
            if abs(float(known[0] * way[1] - known[1] * way[0])) < 1e-12:
                return self.draft.parallel(line, through)
        x, y = self.draft.place(through)
        reach = 0.5 * min(self.draft.sheet.width_mm, self.draft.sheet.height_mm)
        if way[1] < 0:
            way = -way
        mark = self.draft.mark((x + reach * float(way[0]), y + reach * float(way[1])))
        line = self.draft.join(through, mark)
        self._parallels.append((way, line))
        return line

    def trace(self, normal: Array, through: str) -> str:
        """The line through a point parallel to the vanishing line of the planes with a normal."""
        right, up, _unused = sight_axes(self.draft.eye).astype(float) @ normal
        return self.parallel((-float(up), float(right)), through)

    # The plan

    def plan(self, scale: float) -> tuple[str, str] | None:
        """Station point and picture plane of the plan; None for a tilted eye."""
        eye = self.draft.eye
        if eye.tilt_deg != 0:
            return None
        if self._plan is None:
            cx = eye.centre_of_vision_mm[0]
            self.top = self.draft.sheet.height_mm + PLAN_GAP_MM
            station = self.draft.mark((cx, self.top - eye.station_distance_mm), "SP")
            begin = self.draft.mark((0.0, self.top), "PP")
            self._plan = (station, self.draft.level(begin))
            self._plan_scale = scale
        return self._plan

    def in_plan(self, world: Array) -> Place:
        """Where a world point lies in the plan, sheet mm."""
        eye = self.draft.eye
        right, _unused, ahead = sight_axes(eye).astype(float) @ (world - np.array(eye.place))
        cx = eye.centre_of_vision_mm[0]
        x = cx + float(right) * self._plan_scale
        return x, self.top - eye.station_distance_mm + float(ahead) * self._plan_scale

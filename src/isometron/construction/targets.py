"""The points an order works with: eye level, vanishing, measuring and diagonal points, the station
point, and the aids for those off the paper."""

import math
from dataclasses import dataclass

import numpy as np

from isometron.construction.draft import Draft, Target
from isometron.construction.table import off_paper
from isometron.document.document import Document
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.eye import Array, eye_level, sight_axes
from isometron.perspective.places import Place
from isometron.perspective.vanishing import from_eye, vanishing_point
from isometron.words import _, said

EDGE_MM = 2500.0
"""Points this near the paper are reached by marks on its edges, line by line; lines to points
further off are ruled by evenly divided edges."""

DIVISIONS = 8
"""Parts of a divided edge."""

SPARE_MM = 20.0
"""A strip is so much longer than what is marked on it."""

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
    return off_paper(document.sheet, place)


def aid_for(document: Document, place: Place) -> str:
    """The aid by which a point is reached: "on the board", "strip", "edge marks", "divided
    edges"."""
    off = beyond(document, place)
    if off == 0:
        return "on the board"
    if off <= arm_mm(document):
        return "strip"
    return "edge marks" if off <= EDGE_MM else "divided edges"


def within_reach(document: Document, place: Place) -> bool:
    """Whether a place lies on the paper or on a strip taped to it."""
    return beyond(document, place) <= arm_mm(document)


def arm_mm(document: Document) -> float:
    """How far off the paper a mark may lie: as far as spare paper and the ruler reach."""
    return min(document.kit.spare_paper_mm, document.kit.ruler_mm)


def strip_words(draft: Draft, place: Place) -> str:
    """Where a strip is taped, and how long it must be."""
    x, y = place
    width, height = draft.sheet.width_mm, draft.sheet.height_mm
    beside, over = max(-x, x - width), max(-y, y - height)
    upright, level = (_("left") if x < 0 else _("right")), (_("lower") if y < 0 else _("upper"))
    if beside > 0 and over > 0:
        return _(
            "Tape paper to the {level} {upright} corner: it reaches {across} beside the sheet and "
            "{up} {where} it."
        ).format(
            level=level,
            upright=upright,
            across=draft.length(beside + SPARE_MM),
            up=draft.length(over + SPARE_MM),
            where=_("below") if y < 0 else _("above"),
        )
    where = _("{at} up") if beside > 0 else _("{at} from the left")
    return _("Tape a strip {length} long to the {edge} edge, {where}.").format(
        length=draft.length(max(beside, over) + SPARE_MM),
        edge=upright if beside > 0 else level,
        where=where.format(at=draft.length(y if beside > 0 else x)),
    )


@dataclass(frozen=True)
class Plan:
    """The plan: its station point, the line of its picture plane and how high that lies, and its
    scale."""

    station: str
    picture_plane: str
    top: float
    scale: float


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
        self._plan: Plan | None = None
        self._fresh: list[tuple[str, str]] = []

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
        return self._located(Target(name, place, words), words)

    def stands(self, place: Place) -> bool:
        """Whether a point has been marked at a place."""
        known = self._at(place)
        return known is not None and known.name is not None

    def _located(self, target: Target, words: str) -> Target:
        """Note a point that the volume in work asks for: it is told of before it is used."""
        self._points.append(target)
        if target.name is not None:
            strip = ""
            if beyond(self.draft.document, target.place) > 0:
                strip = f" {strip_words(self.draft, target.place)}"
            self._fresh.append((target.name, f"{words[:1].upper()}{words[1:]}.{strip}"))
        return target

    def locate_first(self, key: str) -> None:
        """Tell of the points that the steps since the last chapter have asked for before those
        steps, with what to check them by."""
        if self._fresh:
            names = [name for name, _words in self._fresh]
            told = " ".join(words for _name, words in self._fresh)
            text = _("First mark what lengths and lines are carried by. {points}")
            self.draft.first(
                f"{key}.measures", text.format(points=told + self._apart(names)), names
            )
        self._fresh = []

    def _apart(self, names: list[str]) -> str:
        """How far apart the first two of some points lie, to check them by, when one ruler reaches
        from one to the other."""
        if len(names) < 2:
            return ""
        mm = math.dist(self.draft.place(names[0]), self.draft.place(names[1]))
        if mm > self.draft.document.kit.ruler_mm:
            return ""
        return _(" Check: from the first to the second it measures {length}.").format(
            length=self.draft.length(mm)
        )

    def _at(self, place: Place) -> Target | None:
        """The target that lies at a place."""
        return next((t for t in self._points if math.dist(t.place, place) < SAME_MM), None)

    def measuring(
        self, axis: int, place: Place, vanishing: Place, direction: Array, part: float = 1.0
    ) -> Target:
        """A measuring point: stepped off along the eye level from its vanishing point when both can
        be reached and the ruler is long enough, by the distance of the eye from that point (`part`
        of it for a measuring point that carries that part of every length)."""
        known = self._at(place)
        if known is not None:
            return known
        level = eye_level(self.draft.eye)
        words = (_("MP of the width"), _("MP of the depth"), _("MP of the uprights"))[axis]
        if part < 1.0:
            words = (_("{point}, a half"), _("{point}, a quarter"))[part < 0.5].format(point=words)
        home = self.of(direction)
        reached = aid_for(self.draft.document, place) in ("on the board", "strip")
        on_level = level is not None and abs(place[1] - level) < SAME and bool(self.level_line)
        far = part * from_eye(self.draft.eye, vanishing)
        measured = home.name is not None and far <= self.draft.document.kit.ruler_mm
        if reached and on_level and measured and home.name is not None:
            mm = math.copysign(far, place[0] - vanishing[0])
            name = self.draft.step_off(self.level_line, home.name, mm, words)
            told = _("{point}, {length} from {home} as the eye is").format(
                point=words, length=self.draft.length(abs(mm)), home=home.words
            )
            if part < 1.0:
                told = _("{point}, {length} from {home}").format(
                    point=words, length=self.draft.length(abs(mm)), home=home.words
                )
            return self._located(Target(name, place, words), told)
        return self.point(place, words)

    # Directions

    def parallel(self, paper: Place, through: str) -> str:
        """A line through a point in a direction of the paper: level, upright, or parallel to one
        drawn before (the first of its kind by a measured mark)."""
        way = np.array(paper) / math.hypot(*paper)
        if abs(way[0]) < ROUNDING:
            return self.draft.upright(through)
        if abs(way[1]) < ROUNDING:
            return self.draft.level(through)
        for known, line in self._parallels:
            if abs(float(known[0] * way[1] - known[1] * way[0])) < ROUNDING:
                return self.draft.parallel(line, through)
        line = self.draft.by_mark(through, (float(way[0]), float(way[1])))
        self._parallels.append((way, line))
        return line

    def trace(self, normal: Array, through: str) -> str:
        """The line through a point parallel to the vanishing line of the planes with a normal."""
        right, up, _unused = sight_axes(self.draft.eye).astype(float) @ normal
        return self.parallel((-float(up), float(right)), through)

    # The plan

    def plan(self, scale: float) -> Plan | None:
        """Station point and picture plane of the plan, above the paper on a strip as low as the
        station point allows; None for a tilted eye, and where one of both cannot be reached."""
        eye, document = self.draft.eye, self.draft.document
        if eye.tilt_deg != 0:
            return None
        if self._plan is None:
            cx, away = eye.centre_of_vision_mm[0], eye.station_distance_mm
            least = self.draft.sheet.height_mm + PLAN_GAP_MM
            top = max(least, away - arm_mm(document))
            places = (cx, top - away), (cx, top)
            if not all(within_reach(document, place) for place in places):
                return None
            station, foot = (
                self.draft.mark(place, label)
                for place, label in zip(places, ("SP", "PP"), strict=True)
            )
            self.draft.note(
                _(
                    "The plan: tape paper above the sheet; the picture plane PP lies {up} above it."
                ).format(up=self.draft.length(top - self.draft.sheet.height_mm))
            )
            if beyond(document, places[0]) > 0:
                self.draft.note(strip_words(self.draft, places[0]))
            self._plan = Plan(station, self.draft.level(foot), top, scale)
        return self._plan

    def in_plan(self, plan: Plan, world: Array) -> Place:
        """Where a world point lies in the plan, sheet mm."""
        eye = self.draft.eye
        right, _unused, ahead = sight_axes(eye).astype(float) @ (world - np.array(eye.place))
        x = eye.centre_of_vision_mm[0] + float(right) * plan.scale
        return x, plan.top - eye.station_distance_mm + float(ahead) * plan.scale

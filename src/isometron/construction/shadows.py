"""Shadows by ruler: from the foot a line to the point of the shadows, from the top one to the point
of the rays, and edges that run to the points of those that cast them."""

import itertools

import numpy as np

from isometron.construction.draft import Draft, Target
from isometron.construction.machine import MoveError
from isometron.construction.steps import OrderError
from isometron.construction.targets import Targets
from isometron.document.building import FRAMEWORK
from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.drawing.shading.light_points import (
    VanishingPoint,
    ground_shadows,
    ray_point,
    shadow_point,
)
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Array, sight_axes
from isometron.perspective.projection import project
from isometron.words import _

ON_MM = 1e-6
"""Points nearer than this are one, and a corner so near to the ground stands on it."""


def lay_shadows(
    draft: Draft, targets: Targets, document: Document, scene: Scene, shown: list[int]
) -> None:
    """A chapter with the cast shadow of every flat convex volume on the ground all of whose upper
    corners stand over corners on the ground (boxes, columns); others are said, also where there are
    only such.
    Raises OrderError when two lines that should cross fall together."""
    light = document.light
    if light is None or not document.shading.shadows or document.building.reach == FRAMEWORK:
        return
    if document.eye.height_mm <= 0:
        return
    drawn: list[int] = []
    boxes = [i for i in shown if _stands(scene.pictures[i])]
    if boxes:
        by = _Light(draft, targets, document)
        try:
            drawn = [i for i in boxes if _shadow(draft, targets, by, scene.pictures[i])]
        except MoveError as error:
            raise OrderError(
                _("Two lines of a shadow fall together from here: turn the light a little.")
            ) from error
    others = [document.volumes[i].name for i in shown if i not in drawn]
    if others and (drawn or not boxes):
        draft.step(
            "shadow.others",
            _("Shadows of {names}: lay in what the sheet shows.").format(names=", ".join(others)),
        )
    draft.chapter("shadow", _("Shadow"))


def _stands(picture: VolumePicture) -> bool:
    """Whether a volume is a box or a column on the ground, before us."""
    volume, world = picture.volume, picture.world
    if not len(world) or not np.isfinite(picture.sheet).all():
        return False
    if abs(float(world[:, 2].min())) >= ON_MM:
        return False
    if volume.unopened.boxed and not volume.unopened.bent:
        return len(world) >= 8
    body = picture.body
    if body.bent or not body.convex:
        return False
    return all(any(_under(foot, top) for foot in world) for top in world[world[:, 2] > ON_MM])


class _Light:
    """The two points of the light as targets, or the ways of lines where they run to none."""

    def __init__(self, draft: Draft, targets: Targets, document: Document) -> None:
        self.draft, self.light = draft, document.light
        assert document.light is not None
        words = document.light.points
        points = (shadow_point(draft.eye, document.light), ray_point(draft.eye, document.light))
        self.shadow, self.ray = (
            self._target(targets, point, word) for point, word in zip(points, words, strict=True)
        )
        alike = (_("the way of all shadows"), _("the way of all rays"))
        self.words = tuple(
            word if isinstance(target, Target) else other
            for word, other, target in zip(words, alike, (self.shadow, self.ray), strict=True)
        )
        where = [
            _("{point} {where}").format(point=word, where=draft.where(target.place))
            for word, target in zip(words, (self.shadow, self.ray), strict=True)
            if isinstance(target, Target)
        ]
        if where:
            text = _("The light: {points}.").format(points=_(" and ").join(where))
            draft.step("shadow.points", text)

    def _target(
        self, targets: Targets, point: VanishingPoint | None, words: str
    ) -> Target | Array | None:
        if point is None:
            return None
        if point.sheet_mm is not None:
            return targets.point(point.sheet_mm, words)
        right, up, _away = (np.asarray(axis, dtype=float) for axis in sight_axes(self.draft.eye))
        way = np.array(point.direction)
        along = np.array([float(way @ right), float(way @ up)])
        long = float(np.hypot(*along))
        return np.asarray(along / long) if long > 0 else None

    def line(self, through: str, target: Target | Array) -> str:
        """The line from a point to a target, or alike where there is none."""
        if isinstance(target, Target):
            return self.draft.line_to(through, target)
        return self.draft.by_mark(through, (float(target[0]), float(target[1])))


def _shadow(draft: Draft, targets: Targets, by: _Light, picture: VolumePicture) -> bool:
    """The shadow of one box; gives whether any corner of it could be laid."""
    assert by.light is not None
    world = np.asarray(picture.world, dtype=float)
    places = ground_shadows(by.light, world)
    names = {i: name for i in range(len(world)) if (name := _at(draft, picture.sheet[i]))}
    tops = [i for i in names if world[i, 2] > ON_MM and np.isfinite(places[i]).all()]
    laid: dict[int, str] = {}
    for top in tops:
        foot = next((i for i in names if _under(world[i], world[top])), None)
        if foot is None or by.shadow is None or by.ray is None:
            continue
        lines = by.line(names[foot], by.shadow), by.line(names[top], by.ray)
        _cross(draft, picture, laid, top, lines, places[top])
    for top in tops:
        if top in laid or by.ray is None:
            continue
        beside = next((i for i in laid if _level_edge(picture, i, top)), None)
        if beside is not None:
            edge = targets.of(world[top] - world[beside])
            lines = draft.line_to(laid[beside], edge), by.line(names[top], by.ray)
            _cross(draft, picture, laid, top, lines, places[top])
    if not laid:
        draft.step("", "")
        return False
    told = _(
        "Shadow of {name}: from each foot a line to {shadow}, from the corner over it one to "
        "{ray}; where they cross, its shadow falls. Its edges run to the points of those above."
    )
    key = f"v{picture.volume.key}.shadow"
    draft.step(key, told.format(name=picture.volume.name, shadow=by.words[0], ray=by.words[1]))
    _outline(draft, world, places, names, laid)
    draft.step(f"{key}.outline", _("Join the shadow's corners with each other and with its feet."))
    return True


def _cross(
    draft: Draft,
    picture: VolumePicture,
    laid: dict[int, str],
    top: int,
    lines: tuple[str, str],
    place: Array,
) -> None:
    """Where two lines cross, the shadow of a corner falls, if they cross well."""
    if not draft.crosses_well(*lines):
        return
    name = draft.cross(*lines)
    draft.letter(name)
    drawn = project(draft.eye, place[None]).sheet[0]
    draft.land(name, drawn, _("shadow of a corner of {name}").format(name=picture.volume.name))
    laid[top] = name


def _outline(
    draft: Draft,
    world: Array,
    places: Array,
    names: dict[int, str],
    laid: dict[int, str],
) -> None:
    """The edges of the shadow that do not lie under the box."""
    import shapely

    on_ground = [(world[i, :2], names[i]) for i in names if abs(world[i, 2]) < ON_MM]
    on_ground += [(places[i, :2], name) for i, name in laid.items()]
    hull = shapely.convex_hull(shapely.multipoints(np.array([at for at, _name in on_ground])))
    ring = shapely.get_coordinates(hull)
    around = [
        next(name for at, name in on_ground if np.hypot(*(at - place)) < ON_MM) for place in ring
    ]
    shadows = set(laid.values())
    for one, two in itertools.pairwise(around):
        if one != two and (one in shadows or two in shadows):
            line = draft.join(one, two)
            draft.keep(line)
            draft.draw(line)


def _at(draft: Draft, place: Array) -> str | None:
    """The point of the order that lies at a place of the sheet."""
    for landing in draft.landings:
        if np.hypot(landing.place[0] - place[0], landing.place[1] - place[1]) < ON_MM:
            return landing.name
    return None


def _under(foot: Array, top: Array) -> bool:
    """Whether a corner stands on the ground under another."""
    return abs(foot[2]) < ON_MM and float(np.hypot(*(foot[:2] - top[:2]))) < ON_MM


def _level_edge(picture: VolumePicture, one: int, two: int) -> bool:
    """Whether a level edge joins two corners."""
    level = abs(float(picture.world[one, 2] - picture.world[two, 2])) < ON_MM
    return level and bool((np.sort(picture.edges, axis=1) == sorted((one, two))).all(axis=1).any())

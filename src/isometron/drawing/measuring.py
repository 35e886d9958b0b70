"""Measuring between two things that were pointed at: corners, edges, axles, faces.

Each is a place, a line or a plane; what lies between them is the shortest way, told truly, as it is
drawn, and along the directions of the first one's volume.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.curve import CirclePick, CurvePick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, in_modules
from isometron.drawing.picks.surface import SurfacePick
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.box import AXES
from isometron.framework.dimensions import Dimension, held_to
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.projection import project
from isometron.words import _

PARALLEL = 1e-9
"""Directions whose angle has a smaller sine than this are parallel."""

NEAR_DIMENSION_MM = 8.0
"""So far beside what it measures a mark is drawn at first, sheet mm."""


FAR_DIMENSION_MM = 30.0
"""It goes no further away to be clear of what it measures."""

CLEAR_OF_MM = 4.0


class Form(Enum):
    """What something is to a measure."""

    PLACE = "place"
    LINE = "line"
    PLANE = "plane"


class Thing(NamedTuple):
    """Something to measure from, in the world: a place (3,) on it, the unit direction (3,) of a
    line or normal of a plane, and how far (mm) a line runs either way of its place (an axle: as far
    as one likes)."""

    form: Form
    place: Array
    way: Array
    reach: float = np.inf


@dataclass(frozen=True, eq=False)
class Between:
    """The shortest way between two things: its ends (3,) on the first and on the second, world mm,
    and the angle between them in degrees where they are not parallel."""

    one: Array
    two: Array
    angle_deg: float | None = None

    @property
    def mm(self) -> float:
        """How long it is."""
        return float(np.linalg.norm(self.two - self.one))


def thing_of(picture: VolumePicture, pick: Pick) -> Thing:
    """What a pick is to a measure. Raises VolumeError for what cannot be measured from."""
    body, place, axes = picture.body, picture.figure.place, picture.axes
    if isinstance(pick, CornerPick):
        return Thing(Form.PLACE, picture.world[pick.index], np.zeros(3))
    if isinstance(pick, EdgePick):
        start, end = picture.world[picture.edges[pick.index]]
        half = float(np.linalg.norm(end - start)) / 2
        return Thing(Form.LINE, (start + end) / 2, (end - start) / (2 * half), half)
    if isinstance(pick, FacePick):
        middle = body.middle_of(pick.index) @ axes + place
        return Thing(Form.PLANE, middle, body.normals[pick.index] @ axes)
    if isinstance(pick, CirclePick):
        circle = body.circles[pick.index]
        return Thing(Form.LINE, circle.centre @ axes + place, circle.normal @ axes)
    if isinstance(pick, CurvePick) and pick.index >= 0:
        ends = body.arcs[pick.index][[0, 2]]
        return Thing(Form.PLACE, (ends[0, :3] / ends[0, 3]) @ axes + place, np.zeros(3))
    axle = picture.volume.shape.axle
    if isinstance(pick, (SurfacePick, CurvePick)) and axle is not None:
        corners = picture.box_world
        return Thing(Form.LINE, (corners[0] + corners[7]) / 2, axes[axle])
    raise VolumeError(_("There is nothing to measure from: click a corner, an edge or a face."))


def between_things(one: Thing, two: Thing) -> Between:
    """The shortest way between two things.

    A place to a plane goes square to it; parallel lines and planes are told by how far they lie
    apart, from the middle of what they have beside each other; lines that are not parallel by their
    nearest places, planes that are not by their middles.
    """
    if one.form is Form.PLANE and two.form is not Form.PLANE:
        back = between_things(two, one)
        return Between(back.two, back.one, back.angle_deg)
    if Form.PLACE in (one.form, two.form):
        return Between(_nearest(one, two.place), _nearest(two, one.place))
    if one.form is two.form:
        return _alike(one, two)
    return _line_and_plane(one, two)


def _alike(one: Thing, two: Thing) -> Between:
    """Between two lines, or two planes."""
    across = float(np.linalg.norm(np.cross(one.way, two.way)))
    if across <= PARALLEL:
        return _beside(one, two)
    angle = float(np.degrees(np.arctan2(across, abs(float(one.way @ two.way)))))
    if one.form is Form.PLANE:
        return Between(one.place, two.place, angle)
    return _crossing(one, two, angle)


def _line_and_plane(line: Thing, plane: Thing) -> Between:
    """Between a line and a plane: square to the plane from the middle of a line beside it or of an
    axle, from the nearest place of an edge that runs at it."""
    along = float(line.way @ plane.way)
    across = float(np.linalg.norm(np.cross(line.way, plane.way)))
    angle = None if abs(along) <= PARALLEL else float(np.degrees(np.arctan2(abs(along), across)))
    start = line.place
    if angle is not None and np.isfinite(line.reach):
        pierced = float((plane.place - line.place) @ plane.way) / along
        start = line.place + np.clip(pierced, -line.reach, line.reach) * line.way
    return Between(start, _nearest(plane, start), angle)


def _nearest(thing: Thing, place: Array) -> Array:
    """The place of a thing nearest to another place."""
    off = place - thing.place
    if thing.form is Form.PLACE:
        return thing.place
    run = float(off @ thing.way)
    if thing.form is Form.PLANE:
        return np.asarray(place - run * thing.way)
    return np.asarray(thing.place + np.clip(run, -thing.reach, thing.reach) * thing.way)


def _beside(one: Thing, two: Thing) -> Between:
    """Between parallel planes, or parallel lines: at the middle of what they have beside each
    other, else at their nearest ends."""
    if one.form is Form.PLANE:
        return Between(one.place, _nearest(two, one.place))
    gap = two.place - one.place
    if np.isinf(one.reach) and np.isinf(two.reach):  # wheels on one axle: how far along it
        off_axle = float(np.linalg.norm(gap - float(gap @ one.way) * one.way))
        if off_axle <= PARALLEL * float(np.linalg.norm(gap)):
            return Between(one.place, two.place)
    off = float((two.place - one.place) @ one.way)
    low = max(-one.reach, off - two.reach)
    high = min(one.reach, off + two.reach)
    middle = (low + high) / 2 if np.isfinite(low) else 0.0  # two axles: from the middle of one
    start = one.place + np.clip(middle, -one.reach, one.reach) * one.way
    return Between(start, _nearest(two, start))


def _crossing(one: Thing, two: Thing, angle: float) -> Between:
    """Between lines that are not parallel: their nearest places, within their reach.

    The two places are the least squares of one + s·d − (two + t·e); where one lies beyond an end
    the nearest place from that end is taken (the distance is convex in both).
    """
    gap, cosine = two.place - one.place, float(one.way @ two.way)
    s = float(gap @ (one.way - cosine * two.way)) / (1 - cosine * cosine)
    starts = [one.place + np.clip(s, -one.reach, one.reach) * one.way]
    if np.isfinite(two.reach):
        starts += [_nearest(one, two.place + t * two.way) for t in (-two.reach, two.reach)]
    found = [Between(start, _nearest(two, start), angle) for start in starts]
    return min(found, key=lambda one: one.mm)


def measure(scene: Scene, one: Pick, two: Pick) -> Between:
    """What lies between two picks. Raises VolumeError for what cannot be measured from."""
    pictures = scene.pictures
    return between_things(thing_of(pictures[one.volume], one), thing_of(pictures[two.volume], two))


def reading_between(document: Document, scene: Scene, one: Pick, two: Pick) -> Reading:
    """The reading of what lies between two picks. Raises VolumeError."""
    found = measure(scene, one, two)
    first, second = (_called(document, scene, pick) for pick in (one, two))
    rows = [in_modules(document, _("true length"), found.mm)]
    if found.angle_deg is not None:
        rows.append(Row(_("at an angle of"), found.angle_deg, Quantity.DEG))
    run = found.two - found.one
    for name, along in zip(AXES, scene.pictures[one.volume].axes, strict=True):
        words = _("in {side}").format(side=_(name))
        rows.append(in_modules(document, words, abs(float(run @ along))))
    drawn = project(document.eye, np.array([found.one, found.two])).sheet
    if np.isfinite(drawn).all():
        paper = float(np.hypot(*(drawn[1] - drawn[0])))
        rows.append(Row(_("on the paper"), paper, Quantity.MM))
    title = _("From {one} to {two}").format(one=first, two=second)
    return Reading(title, tuple(rows))


def _called(document: Document, scene: Scene, pick: Pick) -> str:
    reading = pick.reading(document, scene)
    title = _("a place") if reading is None else reading.title
    return title[:1].lower() + title[1:]


def _off_mm(ends: Array, drawn: Sequence[Array]) -> float:
    """How far beside the way between two places on the sheet (2, 2) its mark is drawn: on the side
    away from the middle of what is drawn of the two volumes, clear of it when that is near."""
    places = np.concatenate([one for one in drawn if len(one)] or [ends])
    run = ends[1] - ends[0]
    size = float(np.hypot(*run))
    if not np.isfinite(ends).all() or size < SAME or not np.isfinite(places).all():
        return NEAR_DIMENSION_MM
    beside = ((places - ends[0]) @ np.array([-run[1], run[0]])) / size
    side = -1.0 if (beside.max() + beside.min()) > 0 else 1.0
    clear = float((side * beside).max()) + CLEAR_OF_MM
    return side * min(max(clear, NEAR_DIMENSION_MM), FAR_DIMENSION_MM)


def pinned(document: Document, scene: Scene, one: Pick, two: Pick) -> Dimension:
    """What lies between two picks as a dimension mark, on the side of the two away from the middle
    of their volumes as drawn. Raises VolumeError."""
    found = measure(scene, one, two)
    pictures = [scene.pictures[pick.volume] for pick in (one, two)]
    ends = project(document.eye, np.array([found.one, found.two])).sheet
    off = _off_mm(ends, [picture.drawn_places for picture in pictures])
    one_held, two_held = (
        held_to(picture.volume, world)
        for picture, world in zip(pictures, (found.one, found.two), strict=True)
    )
    return Dimension(one_held, two_held, off)

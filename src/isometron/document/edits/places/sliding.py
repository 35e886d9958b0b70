"""Edits made with the pointer: faces slid along their own direction, volumes slid about."""

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import chosen_volumes, in_work
from isometron.document.edits.places.snapping import (
    NOWHERE,
    Stops,
    Target,
    middles_along,
    nearest,
    nearest_number,
    still,
    stops_along,
    whole_modules,
)
from isometron.document.edits.volume_edits import least_dragged, true_length_to
from isometron.document.near_edge import drawn_place, near_edge_world
from isometron.framework.bodies.cuts import Cut
from isometron.framework.volume import Volume
from isometron.nearness import NEAR, SAME
from isometron.perspective.errors import SetupError, VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.places import Place, Sides
from isometron.perspective.projection import on_level, project, sight_ray
from isometron.words import _

UP = np.array([0.0, 0.0, 1.0])


class Slid(NamedTuple):
    """What sliding gave: the document, and in words what it stopped at (empty when nothing)."""

    document: Document
    words: str


@dataclass(frozen=True)
class FaceGrip:
    """A face taken hold of: the volume's number, the own axis it slides along, which side of the
    box it is (or which cut, and which end of it), the world point (3,) held, and what it may snap
    to, as distances from that point."""

    index: int
    axis: int
    positive: bool
    cut: int | None
    held: Array
    targets: Stops = NOWHERE


def side_of(volume: Volume, face: int) -> int:
    """The side of its box (x=0, x=1, y=0, y=1, base, top) a face looks to most nearly."""
    normal = volume.bare.normals[face]
    axis = int(np.abs(normal).argmax())
    return 2 * axis + int(normal[axis] > 0)


def _cut_behind(volume: Volume, face: int) -> int | None:
    """The cut a face belongs to; None for a face of the volume itself."""
    normal, (axis, positive) = volume.bare.normals[face], divmod(side_of(volume, face), 2)
    at = float(volume.bare.middle_of(face)[axis]) / volume.sides[axis]
    if volume.cuts and SAME < at < 1 - SAME and abs(normal[axis]) > 1 - SAME:
        return _cut_with(volume, axis, at, positive=bool(positive))
    return None


def side_across(document: Document, index: int, face: int) -> float:
    """The side that changes when a face is pushed, true mm."""
    volume = document.volumes[index]
    axis, positive = divmod(side_of(volume, face), 2)
    grip = FaceGrip(index, axis, bool(positive), _cut_behind(volume, face), np.zeros(3))
    return gripped_mm(document, grip)


def push_face(document: Document, index: int, face: int, mm: float) -> Document:
    """A face pushed outward by true mm (inward below nought); the opposite side stays.

    Raises VolumeError when nothing would be left, or for a face of a turned cut.
    """
    volume = document.volumes[index]
    axis, positive = divmod(side_of(volume, face), 2)
    cut = _cut_behind(volume, face)
    if cut is not None:
        grip = FaceGrip(index, axis, bool(positive), cut, np.zeros(3))
        return _cut_moved(document, grip, mm)
    corner = 0 if positive else 1 << axis
    grown = volume.resized(axis, volume.sides[axis] + mm, fixed_corner=corner)
    return document.with_volume(index, grown)


def grip_face(document: Document, index: int, face: int, place_mm: Place) -> FaceGrip:
    """Take hold of a face of a volume where it is drawn at a place of the sheet.

    A face slides along the own axis its normal lies nearest to. Raises VolumeError for the faces of
    a turned cut, which slide along none.
    """
    volume = document.volumes[index]
    axis, is_far = divmod(side_of(volume, face), 2)
    positive, cut = bool(is_far), _cut_behind(volume, face)
    held = _held(document, volume, face, place_mm)
    outward = volume.pose[1][axis] * (1.0 if positive else -1.0)
    base, side = float(held @ outward), volume.sides[axis]
    there = stops_along(still(document, [index]), outward)
    stops = Stops(there.mm - base, there.words)
    if cut is None:
        own = [Target(mm - side, words) for mm, words in whole_modules(document, 3 * side)]
        stops = stops + Stops.of([*own, Target(0.0, _("as it was"))])
    return FaceGrip(index, axis, positive, cut, held, stops)


def _cut_with(volume: Volume, axis: int, at: float, *, positive: bool) -> int:
    for number, cut in enumerate(volume.cuts):
        end = cut.low[axis] if positive else cut.high[axis]
        if abs(end - at) < NEAR and not (cut.yaw_deg or cut.pitch_deg or cut.roll_deg):
            return number
    raise VolumeError(_("The face of a turned cut has no direction of its own: turn or resize it."))


def gripped_mm(document: Document, grip: FaceGrip) -> float:
    """The side that a face in the hand changes, true mm: of the volume, or of the part of a cut
    that lies within it."""
    volume = document.volumes[grip.index]
    side = volume.sides[grip.axis]
    if grip.cut is None:
        return side
    cut = volume.cuts[grip.cut]
    return side * (min(cut.high[grip.axis], 1.0) - max(cut.low[grip.axis], 0.0))


def _held(document: Document, volume: Volume, face: int, place_mm: Place) -> Array:
    """Where the sight ray through a place of the sheet meets the plane of a face."""
    place, axes = volume.pose
    normal = volume.bare.normals[face] @ axes
    middle = volume.bare.middle_of(face) @ axes + place
    ray = sight_ray(document.eye, place_mm)
    run = float(ray @ normal)
    eye = np.array(document.eye.place)
    if abs(run) < SAME:
        return np.asarray(middle)
    depth = float((middle - eye) @ normal) / run
    return np.asarray(eye + depth * ray) if depth > 0 else np.asarray(middle)


def slide_face(document: Document, grip: FaceGrip, place_mm: Place, *, snap: bool = True) -> Slid:
    """A face slid along its own direction until its held point is drawn nearest a sheet place.

    The opposite side stays; the true dimension follows, snapping to the other volumes and to whole
    modules unless held off. Raises IsometronError when no size gives that.
    """
    volume = document.volumes[grip.index]
    outward = volume.pose[1][grip.axis] * (1.0 if grip.positive else -1.0)
    mm = true_length_to(document.eye, grip.held, outward, place_mm)
    side = volume.sides[grip.axis]
    words = ""
    if snap:
        found = nearest(document.eye, grip.held, outward, mm, grip.targets)
        if found is not None:
            mm, words = found.mm, found.words
    if grip.cut is not None:
        return Slid(_cut_moved(document, grip, mm), words)
    corner = 0 if grip.positive else 1 << grip.axis
    if side + mm < (least := least_dragged(volume)):
        mm, words = least - side, _("least size")
    grown = volume.resized(grip.axis, side + mm, fixed_corner=corner)
    return Slid(document.with_volume(grip.index, grown), words)


def _cut_moved(document: Document, grip: FaceGrip, mm: float) -> Document:
    volume = document.volumes[grip.index]
    assert grip.cut is not None
    cut = volume.cuts[grip.cut]
    shift = mm / volume.sides[grip.axis] * (1.0 if grip.positive else -1.0)
    low, high = list(cut.low), list(cut.high)
    (low if grip.positive else high)[grip.axis] += shift
    moved: Cut = replace(cut, low=_three(low), high=_three(high))
    cuts = (*volume.cuts[: grip.cut], moved, *volume.cuts[grip.cut + 1 :])
    return document.with_volume(grip.index, replace(volume, cuts=cuts))


def _three(values: list[float]) -> Sides:
    return values[0], values[1], values[2]


def face_led(document: Document, index: int, edge: int, run_mm: Place) -> int:
    """Of the two faces that meet in an edge of a volume the one a drag on the sheet (mm) leads: it
    runs most nearly the way that face looks. Raises VolumeError for an edge of one face only."""
    volume = document.volumes[index]
    body, (place, axes) = volume.bare, volume.pose
    faces = [int(face) for face in body.edge_faces[edge] if face >= 0]
    if not faces:
        raise VolumeError(_("That edge belongs to no flat face: drag a face instead."))
    middle = body.vertices[body.edges[edge]].mean(axis=0)
    out = OUT_SHARE * max(volume.sides) * body.normals[faces]
    drawn = project(document.eye, np.vstack([middle[None], middle + out]) @ axes + place).sheet
    ways = drawn[1:] - drawn[0]
    long = np.hypot(*ways.T)
    along = ways @ np.array(run_mm) / np.where(long > 0, long, np.inf)
    return faces[int(np.nan_to_num(np.abs(along)).argmax())]


def pull_corner(document: Document, index: int, corner: int, place_mm: Place) -> Document:
    """A corner of a box pulled level to where a place of the sheet (mm) shows it: width and depth
    follow, the opposite corner and the height stay. Raises IsometronError where no box gives
    that."""
    volume = document.volumes[index]
    world, axes = volume.corners()[corner], volume.pose[1]
    ray, eye = sight_ray(document.eye, place_mm), np.array(document.eye.place)
    up = axes[2]
    run = float(ray @ up)
    deep = float((world - eye) @ up) / run if abs(run) > LEVEL_RAY else -1.0
    if deep <= 0:
        raise VolumeError(_("From here its level is not seen there: pull the other way."))
    off = eye + deep * ray - world
    for axis in (0, 1):
        positive = bool(corner >> axis & 1)
        mm = float(off @ axes[axis]) * (1.0 if positive else -1.0)
        side = max(volume.sides[axis] + mm, least_dragged(volume))
        volume = volume.resized(axis, side, fixed_corner=0 if positive else 1 << axis)
    return document.with_volume(index, volume)


OUT_SHARE = 0.01
"""How far outward, as a share of the longest side, the way a face looks is drawn."""

LEVEL_RAY = 1e-9
"""A sight line flatter than this meets no level."""


def slide_over_ground(
    document: Document, held: Array, place_mm: Place, *, snap: bool = True
) -> Slid:
    """The chosen volumes slid level so that the world point `held` (3,) of them is drawn at a place
    of the sheet, the volume in work snapping into line with the others.

    Raises SetupError when the place is at or beyond the eye level for that height.
    """
    target = on_level(document.eye, place_mm, float(held[2]))
    if target is None or float(np.abs(target).max()) > LARGEST_MM:
        raise SetupError(
            _("There is no ground in that place of the sheet: stay off the eye level.")
        )
    run = target - held
    words: list[str] = []
    if snap:
        _unused, volume = in_work(document)
        for along in _level_directions(volume):
            stop = _stop(document, volume, along, run, held)
            if stop is not None:
                run = run + (stop.mm - float(run @ along)) * along
                words.append(stop.words)
    return Slid(moved_by(document, run), ", ".join(words))


def _level_directions(volume: Volume) -> list[Array]:
    axes = volume.pose[1]
    return [axis for axis in axes if abs(axis[2]) < SAME][:2]


def _stop(
    document: Document, volume: Volume, along: Array, run: Array, held: Array
) -> Target | None:
    """Where the low or high side of a volume, moved by `run`, comes near a target, or its middle
    near that of another: the distance to move along a direction so that it lies there."""
    others = still(document, document.chosen)
    stops, middles = stops_along(others, along), middles_along(others, along)
    low, high = volume.reach_along(along)
    places = np.concatenate([stops.mm - low, stops.mm - high, middles.mm - (low + high) / 2])
    number = nearest_number(document.eye, held, along, float(run @ along), places)
    if number is None:
        return None
    ends = 2 * len(stops.mm)
    words = stops.words[number % len(stops.mm)] if number < ends else middles.words[number - ends]
    return Target(float(places[number]), words())


def lift(document: Document, held: Array, place_mm: Place, *, snap: bool = True) -> Slid:
    """The chosen volumes slid straight up or down until the world point `held` (3,) is drawn
    nearest a sheet place."""
    mm = true_length_to(document.eye, held, UP, place_mm)
    words = ""
    if snap:
        _unused, volume = in_work(document)
        stop = _stop(document, volume, UP, mm * UP, held)
        if stop is not None:
            mm, words = stop.mm, stop.words
    return Slid(moved_by(document, mm * UP), words)


def moved_by(document: Document, run_mm: Array) -> Document:
    """The chosen volumes moved by a run (3,) in world mm. What follows one of them is not moved
    twice."""
    chosen_volumes(document)
    keys = {document.volumes[i].key for i in document.chosen}
    changed = {}
    for i in document.chosen:
        volume = document.volumes[i]
        if volume.like is not None or (volume.on is not None and volume.on.parent in keys):
            continue
        x, y, z = (float(v) for v in np.array(volume.place) + run_mm)
        changed[i] = replace(volume, x_mm=x, y_mm=y, z_mm=z)
    if not changed:
        in_work_name = chosen_volumes(document)[0].name
        raise VolumeError(
            _("{in_work_name} follows its source: move the source, or let it go.").format(
                in_work_name=in_work_name
            )
        )
    return document.with_each(changed)


def nudge_on_paper(document: Document, right_mm: float, up_mm: float) -> Document:
    """The chosen volumes moved level so that the near corner of the one in work moves so far on the
    paper."""
    _unused, volume = in_work(document)
    foot = near_edge_world(document.eye, volume)[0]
    x, y = drawn_place(document.eye, foot)
    place = (x + right_mm, y + up_mm)
    return slide_over_ground(document, foot, place, snap=False).document


def nudge_truly(document: Document, across_mm: float, away_mm: float) -> Document:
    """The chosen volumes moved by true mm, to the right and away as the eye looks."""
    heading = np.radians(document.eye.heading_deg)
    right = np.array([np.cos(heading), -np.sin(heading), 0.0])
    ahead = np.array([np.sin(heading), np.cos(heading), 0.0])
    return moved_by(document, across_mm * right + away_mm * ahead)

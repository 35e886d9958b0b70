"""Edits that lay down new volumes: a near edge or a face drawn or typed, a box added."""

import math
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, in_work, with_new_volume
from isometron.document.edits.places.free_places import Standing, feet
from isometron.document.edits.places.sliding import Slid
from isometron.document.edits.viewing import frame_of
from isometron.document.edits.volume_edits import least_dragged, true_length_to
from isometron.document.near_edge import near_edge_world
from isometron.framework.settling import anchored
from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.perspective.angles import wrapped
from isometron.perspective.errors import IsometronError, SetupError, VolumeError
from isometron.perspective.eye import Array, Eye
from isometron.perspective.hand_setup import right_going_yaw
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.perspective.projection import depths, on_level, project, scale_at, sight_ray
from isometron.words import _

MARK_MM, INCH_MARK_MM = 5.0, 25.4 / 8
"""What laying down keeps to: half centimetres, or eighths of an inch."""

ROUND_SCALES = ((1.5, 1.0), (0.75, 0.5), (0.0, 0.1))
"""From which scale on (true over drawn) it goes in which steps."""

FLOATING_DEPTH = 4.0
"""A first edge that does not stand on the ground hangs this many station distances away."""

FAR, FURTHEST = 4.0, 50.0
"""So many times further away than the volume in work the ground is no place that is meant: above
what is there a foot near the eye level floats beside it; and no place at all."""

LEAST_MM = 1.0
"""Shorter drags, mm on the paper, draw nothing."""

UP = np.array([0.0, 0.0, 1.0])

SHRINKING = (1.0, 0.5, 0.25)
"""A box that finds no room is tried so much smaller."""


def first_edge(document: Document) -> tuple[Place, Place]:
    """Foot and top (sheet mm) of a near edge to begin with: on whole half centimetres, in the lower
    middle of the frame one works in, a fifth of its height long."""
    frame = frame_of(document, document.view)
    low, high = frame.bottom_mm, frame.height_mm
    x, foot, top = (
        MARK_MM * round(v / MARK_MM)
        for v in (frame.left_mm + 0.5 * frame.width_mm, low + 0.25 * high, low + 0.45 * high)
    )
    return (x, foot), (x, top)


def snapped(document: Document, place_mm: Place) -> Place:
    """The nearest place of the sheet that a ruler has marks for: half centimetres, or eighths of an
    inch."""
    step = INCH_MARK_MM if document.choices.unit == "in" else MARK_MM
    return step * round(place_mm[0] / step), step * round(place_mm[1] / step)


def _with_round_eye(document: Document, foot_mm: Place) -> Document:
    """A blank sheet seen by the eye it came with, whose height is changed so that what is drawn at
    a foot on the ground is true to a round scale: first numbers are round ones. Nothing drawn
    changes; an eye the person has set is left alone."""
    eye = document.eye
    drop = eye.centre_of_vision_mm[1] - foot_mm[1]
    own = eye.height_mm != Document().eye.height_mm
    if document.volumes or own or eye.tilt_deg or drop < MARK_MM:
        return document
    scale = eye.height_mm / drop
    step = next(step for least, step in ROUND_SCALES if scale >= least)
    height = max(round(scale / step), 1) * step * drop
    x, y, z = document.origin_mm
    share = height / eye.height_mm  # the origin keeps its place on the paper
    origin = (eye.x_mm + share * (x - eye.x_mm), eye.y_mm + share * (y - eye.y_mm), z)
    return replace(document.with_eye(replace(eye, height_mm=height)), origin_mm=origin)


def lay_near_edge(document: Document, foot_mm: Place, top_mm: Place, how: str = "") -> Document:
    """A new cube on a near edge drawn from `foot_mm` to `top_mm` on the sheet, standing as
    `standing_place` says. The cube takes the lie of the set-up. Raises IsometronError when the two
    ends give no edge."""
    return edge_laid(document, foot_mm, top_mm, how).document


def edge_laid(document: Document, foot_mm: Place, top_mm: Place, how: str = "") -> Slid:
    """As `lay_near_edge`, and in words where it stands."""
    if math.dist(foot_mm, top_mm) < LEAST_MM:
        raise VolumeError(_("Those two ends give no edge: drag from its foot to its top."))
    document = _with_round_eye(document, min(foot_mm, top_mm, key=lambda place: place[1]))
    for start, end in ((foot_mm, top_mm), (top_mm, foot_mm)):
        stands = standing_place(document, start, how)
        mm = true_length_to(document.eye, stands.place, UP, end)
        if mm > 0:
            done = _with_cube(document, stands.place, mm)
            return Slid(_hung(done, stands), _told(done, stands))
    raise SetupError(
        _("That edge runs across the point all uprights run to: lay it on one side of it.")
    )


def lay_face(document: Document, start_mm: Place, end_mm: Place, how: str = "") -> Slid:
    """A new box square to us by its front face, drawn from one corner to the opposite one on the
    sheet, standing as `standing_place` says; as deep as the shorter side of the face until its
    depth is drawn (`draw_depth`). In words: where it stands, and which of its faces show.

    With a tilted eye the lower edge and the left upright are as drawn. Raises IsometronError when
    the corners give no face.
    """
    (left, right), (low, high) = (sorted(pair) for pair in zip(start_mm, end_mm, strict=True))
    if min(right - left, high - low) < LEAST_MM:
        raise VolumeError(_("Those two corners give no face: drag from one to the opposite one."))
    document = _with_round_eye(document, (left, low))
    eye = document.eye
    stands = standing_place(document, (left, low), how)
    yaw = wrapped(-eye.heading_deg)
    along = axes_of(yaw).astype(float)[0]
    width = true_length_to(eye, stands.place, along, (right, low))
    height = true_length_to(eye, stands.place, UP, (left, high))
    if min(width, height) <= 0:
        raise SetupError(_("That face runs across the horizon: draw it on one side of it."))
    x, y, z = (float(v) for v in stands.place)
    name = free_name(document, _("Box"))
    box = Volume(name, width, min(width, height), height, x, y, z, yaw)
    done = with_new_volume(document, box)
    return Slid(_hung(done, stands), _told(done, stands))


def draw_depth(document: Document, start_mm: Place, place_mm: Place) -> Slid:
    """The depth of the volume in work drawn: the line that goes back from the corner of its front
    nearest to where the drag began ends nearest to a place of the sheet; the front stays. In words:
    how deep it is, and which faces show."""
    index, box = in_work(document)
    front = box.corners()[[0, 1, 4, 5]]
    off = np.hypot(*(project(document.eye, front).sheet - np.array(start_mm)).T)
    corner = front[int(np.where(np.isfinite(off), off, np.inf).argmin())]
    mm = true_length_to(document.eye, corner, box.pose[1][1], place_mm)
    deep_one = replace(box, depth_mm=max(mm, least_dragged(box)))
    done = document.with_volume(index, deep_one)
    volume = done.volumes[index]
    deep = _("{depth} deep").format(depth=write_length(volume.depth_mm, done.choices.unit))
    return Slid(done, f"{deep}, {faces_told(done.eye, volume)}")


class Stands(NamedTuple):
    """Where something new stands: the place (3,) of its foot, world mm, in words, and the number of
    the volume it stands on."""

    place: Array
    words: str
    on: int | None = None


def standing_place(document: Document, foot_mm: Place, how: str = "") -> Stands:
    """Where something new stands whose foot is drawn at a place of the sheet.

    how: "ground", "floating" at the depth of the picked volume, or "": on top of what is under the
    foot, else on the ground where that is not further than `FAR` times the volume in work, else
    floating. Without a volume it floats `FLOATING_DEPTH` station distances away.
    """
    eye, lead = document.eye, document.lead
    known = FLOATING_DEPTH * eye.station_distance_mm
    if lead is not None:
        known = max(float(depths(eye, near_edge_world(eye, lead)[0][None])[0]), 1.0)
    floats = np.asarray(np.array(eye.place) + known * sight_ray(eye, foot_mm))
    ground = on_level(eye, foot_mm, 0.0)
    if not how and (found := _top_under(document, foot_mm)) is not None:
        name = document.volumes[found[0]].name
        return Stands(found[1], _("on {name}").format(name=name), found[0])
    limit = FURTHEST if lead is None or how else FAR
    if ground is None or how == "floating":
        near = False
    else:
        near = float(depths(eye, ground[None])[0]) <= limit * known
    if ground is not None and near:
        return Stands(ground, _("on the ground"))
    away = write_length(known, document.choices.unit)
    return Stands(floats, _("floating, {away} off").format(away=away))


def _top_under(document: Document, foot_mm: Place) -> tuple[int, Array] | None:
    """The volume whose upright top is under a place of the sheet, the nearest, and where (3,)."""
    eye = document.eye
    best: tuple[float, int, Array] | None = None
    for number, volume in enumerate(document.volumes):
        top = volume.reach_along(UP)[1]
        if not volume.shown or volume.ghost or volume.tipped or top >= eye.height_mm:
            continue
        place = on_level(eye, foot_mm, top)
        if place is None:
            continue
        x, y, _z = (volume.pose[1] @ (place - volume.pose[0])).tolist()
        if not (0 <= x <= volume.width_mm and 0 <= y <= volume.depth_mm):
            continue
        depth = float(depths(eye, place[None])[0])
        if best is None or depth < best[0]:
            best = depth, number, place
    return None if best is None else best[1:]


def _hung(document: Document, stands: Stands) -> Document:
    """The new volume in work, held to what it stands on."""
    if stands.on is None or document.selected is None:
        return document
    base = document.volumes[stands.on]
    volume = document.volumes[document.selected]
    held = anchored(volume, base, (0.0, 0.0, 1.0))
    return document.with_volume(document.selected, held)


def _told(document: Document, stands: Stands) -> str:
    volume = document.volume
    assert volume is not None
    return f"{stands.words}, {faces_told(document.eye, volume)}"


def faces_told(eye: Eye, volume: Volume) -> str:
    """Which faces of the box a volume fills are turned to the eye, in words."""
    own = (volume.pose[1] @ (np.array(eye.place) - volume.pose[0])).tolist()
    names = [(_("left"), _("right")), (_("front"), _("back")), (_("base"), _("top"))]
    shown = []
    for at, side, (low, high) in zip(own, volume.sides, names, strict=True):
        shown += [low] if at < 0 else [high] if at > side else []
    if len(shown) == 1:
        return _("only its {face} shows").format(face=shown[0])
    return _("{faces} show").format(faces=", ".join(shown) or _("no faces"))


def _with_cube(document: Document, foot: Array, mm: float) -> Document:
    yaw = right_going_yaw(document.eye, document.lead_yaw_deg)
    x, y, z = (float(v) for v in foot)
    box = Volume(free_name(document, _("Box")), mm, mm, mm, x, y, z, yaw)
    return with_new_volume(document, box)


def add_box(document: Document) -> Document:
    """A cube on the ground in the lower middle of the frame one works in, or at the nearest place
    where it reaches into nothing and is drawn within the frame, smaller where there is no such
    place. Its near edge is a fifth of the frame's height, drawn, or, where uprights are all but
    pointed at the eye, as long as that would be at its foot's own depth."""
    foot, top = first_edge(document)
    tall = top[1] - foot[1]
    first = _box_at(document, foot, tall)
    if not document.volumes or first.volume is None:
        return first
    standing = Standing(document, first.volume.pose[1])
    if standing.leaves_room(first.volume):
        return first
    for share in SHRINKING:
        for place in feet(document, foot):
            try:
                made = _box_at(document, place, share * tall, "ground")
            except IsometronError:
                continue
            if made.volume is not None and standing.leaves_room(made.volume):
                return made
    return first


def _box_at(document: Document, foot: Place, tall_mm: float, how: str = "") -> Document:
    try:
        return lay_near_edge(document, foot, (foot[0], foot[1] + tall_mm), how)
    except SetupError:
        place = standing_place(document, foot, how).place
        depth = float(depths(document.eye, place[None])[0])
        return _with_cube(document, place, tall_mm / float(scale_at(document.eye, depth)))

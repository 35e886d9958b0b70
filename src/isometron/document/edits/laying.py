"""Edits that lay down new volumes: a near edge drawn or typed, a box added."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, with_new_volume
from isometron.document.edits.volume_edits import true_length_to
from isometron.document.near_edge import near_edge_world
from isometron.framework.volume import Volume
from isometron.perspective.errors import SetupError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.hand_setup import right_going_yaw
from isometron.perspective.projection import depths, on_level, scale_at, sight_ray
from isometron.words import _

Point = tuple[float, float]

MARK_MM, INCH_MARK_MM = 5.0, 25.4 / 8
"""What laying down keeps to: half centimetres, or eighths of an inch."""

ROUND_SCALES = ((1.5, 1.0), (0.75, 0.5), (0.0, 0.1))
"""From which scale on (true over drawn) it goes in which steps."""

FLOATING_DEPTH = 4.0
"""A first edge that does not stand on the ground hangs this many station distances away."""


def first_edge(document: Document) -> tuple[Point, Point]:
    """Foot and top (sheet mm) of a near edge to begin with: on whole half centimetres, in the lower
    middle of the sheet, a fifth of its height long, a little aside of those before."""
    sheet = document.sheet
    x = sheet.width_mm * (0.5 + 0.06 * (len(document.volumes) % 5))
    x, foot, top = (
        MARK_MM * round(v / MARK_MM) for v in (x, 0.25 * sheet.height_mm, 0.45 * sheet.height_mm)
    )
    return (x, foot), (x, top)


def snapped(document: Document, place_mm: Point) -> Point:
    """The nearest place of the sheet that a ruler has marks for: half centimetres, or eighths of an
    inch."""
    step = INCH_MARK_MM if document.choices.unit == "in" else MARK_MM
    return step * round(place_mm[0] / step), step * round(place_mm[1] / step)


def _with_round_eye(document: Document, foot_mm: Point) -> Document:
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


def lay_near_edge(document: Document, foot_mm: Point, top_mm: Point) -> Document:
    """A new cube on a near edge drawn from `foot_mm` to `top_mm` on the sheet.

    Below the eye level the foot stands on the ground, and the eye height gives the true length;
    elsewhere the edge hangs at the depth of the volume in work. The cube takes the lie of the
    set-up. Raises IsometronError when the two ends give no edge.
    """
    if math.dist(foot_mm, top_mm) < 1.0:
        raise VolumeError(_("Those two ends give no edge: drag from its foot to its top."))
    document = _with_round_eye(document, min(foot_mm, top_mm, key=lambda place: place[1]))
    for start, end in ((foot_mm, top_mm), (top_mm, foot_mm)):
        foot = _standing_place(document, start)
        mm = true_length_to(document.eye, foot, np.array([0.0, 0.0, 1.0]), end)
        if mm > 0:
            return _with_cube(document, foot, mm)
    raise SetupError(
        _("That edge runs across the point all uprights run to: lay it on one side of it.")
    )


def _with_cube(document: Document, foot: Array, mm: float) -> Document:
    yaw = right_going_yaw(document.eye, document.lead_yaw_deg)
    x, y, z = (float(v) for v in foot)
    box = Volume(free_name(document, _("Box")), mm, mm, mm, x, y, z, yaw)
    return with_new_volume(document, box)


def add_box(document: Document) -> Document:
    """A cube on the ground in the lower middle of the sheet, a little aside of the one before: its
    near edge a fifth of the sheet's height, drawn, or, where uprights are all but pointed at the
    eye, as long as that would be at its foot's own depth."""
    sheet, eye = document.sheet, document.eye
    foot, top = first_edge(document)
    try:
        return lay_near_edge(document, foot, top)
    except SetupError:
        place = _standing_place(document, foot)
        depth = float(depths(eye, place[None])[0])
        return _with_cube(document, place, 0.2 * sheet.height_mm / float(scale_at(eye, depth)))


def _standing_place(document: Document, foot_mm: Point) -> Array:
    eye = document.eye
    place = on_level(eye, foot_mm, 0.0)
    lead = document.lead
    known = FLOATING_DEPTH * eye.station_distance_mm
    if lead is not None:
        known = max(float(depths(eye, near_edge_world(eye, lead)[0][None])[0]), 1.0)
    if place is None or float(depths(eye, place[None])[0]) > 50 * known:
        return np.asarray(np.array(eye.place) + known * sight_ray(eye, foot_mm))
    return place

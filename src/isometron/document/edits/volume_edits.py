"""Edits of the volumes: size, place, turn, proportion, and laying down a near edge.

The near corner of a volume keeps its place in the world while its sides or its turn change.
"""

from dataclasses import replace

import numpy as np

from isometron.document.by_hand import kept_round
from isometron.document.document import Document
from isometron.document.edits.choosing import (
    chosen_volumes,
    free_name,
    in_work,
    with_new,
)
from isometron.document.near_edge import (
    away_from,
    drawn_place,
    far_edge,
    kept_near,
    near_edge_world,
)
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import SetupError
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.places import Place
from isometron.words import _

LEAST_SHARE = 0.005
"""A drag makes no side a smaller share of the longest one."""


def set_side(document: Document, axis: int, mm: float) -> Document:
    """True width (0), depth (1) or height (2) of the volume in work; its near corner stays."""
    index, box = in_work(document)
    sides = list(box.sides)
    sides[axis] = mm
    grown = box.with_sides((sides[0], sides[1], sides[2]))
    grown = kept_round(box, grown)  # so that the near corner is that of the round it becomes
    return document.with_volume(index, kept_near(document.eye, box, grown))


def set_sides(document: Document, sides_mm: tuple[float, float, float]) -> Document:
    """True width, depth and height of the volume in work at once; its near corner stays."""
    for axis, mm in enumerate(sides_mm):
        document = set_side(document, axis, mm)
    return document


def make_cube(document: Document, axis: int = 2) -> Document:
    """The volume in work as a cube at its near corner: the other sides become its width (0), depth
    (1) or height (2)."""
    _unused, box = in_work(document)
    for other in {0, 1, 2} - {axis}:
        document = set_side(document, other, box.sides[axis])
    return document


def make_proportion(document: Document, ratio: tuple[float, float, float]) -> Document:
    """Width : depth : height of the volume in work. The near edge, which is measured truly, stays:
    width and depth follow from the height."""
    _unused, box = in_work(document)
    unit = box.height_mm / ratio[2]
    return set_side(set_side(document, 0, ratio[0] * unit), 1, ratio[1] * unit)


def turn_volume(document: Document, yaw_deg: float) -> Document:
    """The volume in work turned to another yaw about its near corner."""
    index, box = in_work(document)
    turned = replace(box, yaw_deg=yaw_deg)
    return document.with_volume(index, kept_near(document.eye, box, turned))


def move_volume(document: Document, place_mm: tuple[float, float, float]) -> Document:
    """Corner 0 of the volume in work at another place of the world, mm."""
    index, box = in_work(document)
    x, y, z = place_mm
    return document.with_volume(index, replace(box, x_mm=x, y_mm=y, z_mm=z))


def slide_far_edge(document: Document, axis: int, share: float, place_mm: Place) -> Document:
    """A far edge slid along its fan to the sheet place nearest `place_mm`: changes the true side.

    axis: 0 width, 1 depth, 2 height (then the top end of the near edge slides up or down).
    share: where the far edge is held, 0 at its foot, 1 at its top.
    Raises SetupError beyond the vanishing point.
    """
    _unused, box = in_work(document)
    near, _top = near_edge_world(document.eye, box)
    along, reach = away_from(box, near, axis)
    start = near
    if axis != 2:
        foot, top = far_edge(document.eye, box, axis)
        if box.shape.axle not in (None, axis):  # it grows about its axle, to both sides
            reach = box.sides[axis] / 2
        start = foot + share * (top - foot) - reach * along
    mm = true_length_to(document.eye, start, along, place_mm) * box.sides[axis] / reach
    return set_side(document, axis, max(mm, least_dragged(box)))


def least_dragged(volume: Volume) -> float:
    """The least side a drag may give a volume, mm: a drag is no way to make it a sheet of foil."""
    return LEAST_SHARE * max(volume.sides)


def true_length_to(eye: Eye, start: Array, along: Array, place_mm: Place) -> float:
    """True length t, mm, so that start + t·along is drawn nearest to a sheet place.

    start (3,) world mm, along (3,) unit. On the fan line through the picture of `start`, the drawn
    distance is s = w·z·t / (z + t·a): solved for t (z depth of start, a = along·f, w the drawn
    length per true mm at start). Raises SetupError when the place lies beyond the VP.
    """
    v = sight_axes(eye).astype(float) @ (start - np.array(eye.place))
    a = sight_axes(eye).astype(float) @ along
    z = v[2]
    px, py = drawn_place(eye, start)
    run = eye.station_distance_mm * (a[:2] * z - v[:2] * a[2]) / z**2
    w = float(np.hypot(*run))
    if w == 0:
        raise SetupError(_("That edge points straight at the eye: turn the volume first."))
    s = float(((place_mm[0] - px) * run[0] + (place_mm[1] - py) * run[1]) / w)
    room = w * z - s * a[2]
    if room <= SAME * abs(w * z):
        raise SetupError(
            _("No length reaches beyond the vanishing point: stay on this side of it.")
        )
    return float(s * z / room)


def duplicate_volume(document: Document) -> Document:
    """Copies of the chosen volumes set beside them, one width and a half along their own width."""
    chosen = chosen_volumes(document)
    lead = document.volume or chosen[0]
    step = 1.5 * lead.width_mm * lead.axes()[0].astype(float)
    copies = []
    named = document
    for volume in chosen:
        x, y, z = (float(v) for v in np.array(volume.place) + step)
        name = free_name(named, volume.name.rstrip("0123456789 ") or _("Box"))
        copy = replace(volume, name=name, x_mm=x, y_mm=y, z_mm=z, on=None, like=None, locked=False)
        copies.append(copy)
        named = replace(named, volumes=(*named.volumes, replace(copy, key=named.free_key)))
    return with_new(document, copies, document.intentions)

"""Edits of the drawing aids: floor, wall and shelf lines, the ground grid, carried heights."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import chosen_volumes, in_work
from isometron.document.near_edge import near_edge_world
from isometron.framework.aids import Aid
from isometron.framework.turning import axes_of
from isometron.perspective.angles import wrapped
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import sight_axes
from isometron.perspective.hand_setup import right_going_yaw
from isometron.perspective.places import Place
from isometron.perspective.projection import on_level
from isometron.words import _

SQUARES = 12
"""A ground grid is so many squares wide and deep."""

USUAL_SQUARE_MM = 500.0


BEFORE = ("shelf edge", "shelf", "path")
"""Aids that lie in front of what stands, not behind it."""


def add_aid(
    document: Document,
    kind: str,
    behind_mm: float,
    *,
    level: bool = False,
    thick_mm: float = 0.0,
) -> Document:
    """A line of the room: a floor line or back wall so far behind everything; a shelf edge, a shelf
    of a thickness or a path of a width so far in front of the volume in work, at its base.

    level: drawn level across the sheet; else along the lie of the sheet (what lies in front along
    the volume in work), so that it runs to its points.
    """
    volumes = chosen_volumes(document)
    lead = document.volume or volumes[0]
    before = kind in BEFORE
    yaw = right_going_yaw(document.eye, lead.yaw_deg if before else document.yaw_deg)
    if level:
        yaw = wrapped(-document.eye.heading_deg)
    along = axes_of(yaw).astype(float)
    ahead = along[1] if along[1] @ sight_axes(document.eye)[2].astype(float) > 0 else -along[1]
    everything = np.concatenate([v.enclosing() for v in document.volumes if v.shown])
    at = lead.enclosing()
    distance = float((everything @ ahead).max()) + behind_mm
    if before:
        distance = float((at @ ahead).min()) - behind_mm
    middle = at.mean(axis=0)
    place = middle + (distance - float(middle @ ahead)) * ahead
    aid = Aid(kind, (float(place[0]), float(place[1])), yaw, float(at[:, 2].min()))
    if kind == "shelf":
        aid = replace(aid, high_mm=_some(thick_mm))
    elif kind == "path":
        aid = replace(aid, wide_mm=_some(thick_mm))
    return replace(document, aids=(*document.aids, aid))


def _some(mm: float) -> float:
    """A thickness or width that is more than nothing. Raises VolumeError."""
    if not (math.isfinite(mm) and mm > 0):
        raise VolumeError(_("A shelf has a thickness, a path a width: type more than nothing."))
    return mm


def lay_grid(document: Document, square_mm: float) -> Document:
    """A ground grid of squares about the ground origin, along the lie of the volume in work, in
    place of the one before. Raises VolumeError for squares without a size."""
    if not (math.isfinite(square_mm) and square_mm > 0):
        raise VolumeError(_("Squares of the ground grid need a side: type more than nothing."))
    x, y, z = document.origin_mm
    grid = Aid("ground grid", (x, y), document.lead_yaw_deg, z, square_mm, SQUARES)
    others = tuple(aid for aid in document.aids if aid.kind != grid.kind)
    return replace(document, aids=(*others, grid))


def carry_height(document: Document, place_mm: Place) -> Document:
    """The height of the volume in work carried along the eye level to where a place of the sheet
    lies on the level that it stands on: an upright of the same true height, with the lines from its
    near edge. Raises VolumeError for a place that lies on or beyond the horizon of that level."""
    _number, volume = in_work(document)
    foot, top = near_edge_world(document.eye, volume)
    there = on_level(document.eye, place_mm, float(foot[2]))
    if there is None:
        raise VolumeError(
            _("That place does not lie on the ground {name} stands on: click nearer to us.").format(
                name=volume.name
            )
        )
    height = float(top[2] - foot[2])
    aid = Aid(
        "carried height",
        (float(there[0]), float(there[1])),
        0.0,
        float(foot[2]),
        high_mm=height,
        from_mm=(float(foot[0]), float(foot[1])),
    )
    return replace(document, aids=(*document.aids, aid))


def clear_aids(document: Document) -> Document:
    """The sheet without drawing aids."""
    return replace(document, aids=())

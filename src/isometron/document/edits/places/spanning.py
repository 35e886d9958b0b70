"""Rails, boards and cables laid along a row: from the middle of the first to that of the last."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, in_work, with_new
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.settling import anchored
from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

MOST_RAILS = 50


def row_of(document: Document) -> list[Volume]:
    """The volume in work, or what it is a copy of, and all that repeat it. Raises VolumeError where
    nothing does."""
    _index, volume = in_work(document)
    source = volume.key if volume.like is None else volume.like.source
    row = [
        one
        for one in document.volumes
        if one.key == source or (one.like is not None and one.like.source == source)
    ]
    if len(row) < 2:
        raise VolumeError(_("Nothing repeats what is picked: set it in a row first."))
    return row


def lay_along_row(
    document: Document, count: int, up_mm: float, thick_mm: float, apart_mm: float, *, level: bool
) -> Document:
    """So many rails along the row that the volume in work belongs to, the highest with its top so
    high above the foot of the first, the others below it, mm; round ones, or boards (level). They
    stand on the first, which they follow. Raises VolumeError."""
    row = row_of(document)
    if not 1 <= count <= MOST_RAILS:
        raise VolumeError(_("Lay 1 to {most} along the row.").format(most=MOST_RAILS))
    if not thick_mm > 0:
        raise VolumeError(_("What is laid along a row needs some thickness: type a length."))
    middles = np.array([one.corners().mean(axis=0)[:2] for one in row])
    far = int(np.linalg.norm(middles - middles[0], axis=1).argmax())
    ends = middles[0], middles[far]
    run = ends[1] - ends[0]
    length = float(np.linalg.norm(run))
    if length <= thick_mm:
        raise VolumeError(_("The row stands on one place: there is nothing to lay along it."))
    plain, square = (axes_of(yaw)[0].astype(float)[:2] for yaw in (0.0, 90.0))
    yaw = math.degrees(math.atan2(float(run @ square), float(run @ plain)))
    deep = axes_of(yaw)[1].astype(float)[:2]
    x, y = (ends[0] - deep * thick_mm / 2).tolist()
    foot = float(row[0].corners()[:, 2].min())
    made, named = [], document
    for number in range(count):
        rail = Volume(
            free_name(named, _("Rail")),
            length,
            thick_mm,
            thick_mm,
            x_mm=x,
            y_mm=y,
            z_mm=foot + up_mm - thick_mm - number * apart_mm,
            yaw_deg=yaw,
            key=-1 - number,
            group=row[0].group,
        )
        if not level:
            rail = replace(rail, shape=replace(CYLINDER, axis=0))
        made.append(anchored(rail, row[0], (0.0, 0.0, 0.0)))
        named = replace(named, volumes=(*named.volumes, replace(rail, key=named.free_key)))
    return with_new(document, made)

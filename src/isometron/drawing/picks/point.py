"""A vanishing point of a volume."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import near_edge_world
from isometron.drawing.measures import diagonal_of, directions_of, measuring_point_of, shared_points
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe
from isometron.drawing.places import leaves_paper
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Eye
from isometron.perspective.projection import depths, project, scale_at
from isometron.words import _

MOST_NAMES = 2
"""More names than this do not fit a line."""

POINT_TITLES = {
    "left": _("Left vanishing point of {name}"),
    "right": _("Right vanishing point of {name}"),
    "centre": _("Vanishing point of {name}"),
    "third": _("Third point of {name}"),
}


@dataclass(frozen=True)
class PointPick(Pick):
    """A vanishing point, by its family: "left", "right", "centre" or "third"."""

    of_volume: ClassVar[bool] = False

    family: str = ""

    def count(self, picture: VolumePicture) -> int | None:
        return None

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        reading = _reading(document.eye, scene.pictures[self.volume], self.family)
        far = _far(document, scene, self)
        return reading._replace(rows=(*reading.rows, *far, _sharing(document, scene, self)))

    def swipe(self, scene: Scene) -> Swipe:
        return Swipe()


def _far(document: Document, scene: Scene, pick: PointPick) -> list[Row]:
    """How far the point is from the near corner, whether the ruler reaches it, and where its line
    leaves the paper."""
    eye, volume = document.eye, scene.pictures[pick.volume].volume
    corner = project(eye, near_edge_world(eye, volume)[0][None]).sheet[0]
    found = next(
        (d for d in directions_of(eye, scene.pictures[pick.volume]) if d.family == pick.family),
        None,
    )
    if found is None or found.vanishing.sheet_mm is None or not np.isfinite(corner).all():
        return []
    place = (float(corner[0]), float(corner[1]))
    distance, ruler = math.dist(place, found.vanishing.sheet_mm), document.kit.ruler_mm
    rows = [Row(_("from near corner"), distance, Quantity.MM)]
    unit = document.choices.unit
    leaves = leaves_paper(document.sheet, place, found.vanishing.sheet_mm, unit)
    if distance > ruler:
        rows.append(Row(_("for your ruler"), _("out of reach"), Quantity.TEXT))
    return [*rows, Row(_("its line leaves"), leaves, Quantity.TEXT)] if leaves else rows


def _sharing(document: Document, scene: Scene, pick: PointPick) -> Row:
    """Which other volumes have the same vanishing point."""
    own = scene.pictures[pick.volume]
    names = [
        other.volume.name
        for i, other in enumerate(scene.pictures)
        if i != pick.volume
        and other.volume.shown
        and pick.family in shared_points(document.eye, own, other)
    ]
    if len(names) > MOST_NAMES:
        return Row(_("shared with"), f"{len(names)} volumes", Quantity.TEXT)
    return Row(_("shared with"), ", ".join(names) or _("no other volume"), Quantity.TEXT)


def _reading(eye: Eye, picture: VolumePicture, family: str) -> Reading:
    directions = directions_of(eye, picture)
    found = next((d for d in directions if d.family == family), None)
    title = POINT_TITLES.get(family, _("Point of {name}")).format(name=picture.volume.name)
    if found is None or found.vanishing.sheet_mm is None:
        return Reading(title, (Row("lies", _("at infinity: lines stay parallel"), Quantity.TEXT),))
    rows = [Row("on the board", found.vanishing.sheet_mm, Quantity.PLACE)]
    measuring = measuring_point_of(eye, picture, found.axis)
    if measuring is not None:
        rows.append(Row(_("measuring point"), measuring, Quantity.PLACE))
    if family in ("left", "right", "centre"):
        diagonal = diagonal_of(eye, picture.volume)
        if diagonal.sheet_mm is not None:
            rows.append(Row("45° point", diagonal.sheet_mm, Quantity.PLACE))
    foot = near_edge_world(eye, picture.volume)[0]
    depth = float(depths(eye, foot[None])[0])
    if depth > 0:
        scale = 100 * float(scale_at(eye, depth))
        rows.append(Row(_("scale at near corner"), scale, Quantity.PERCENT))
    return Reading(title, tuple(rows))

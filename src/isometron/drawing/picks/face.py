"""A face of a volume."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from isometron.document.document import Document
from isometron.drawing.measures import (
    angle_of_sight,
    directions_of,
    drawn_loops,
    face_foreshortening,
)
from isometron.drawing.picks.edge import RUNS_TO
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe, in_shares
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.box import AXES
from isometron.nearness import NEAR, SAME
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project
from isometron.words import _


@dataclass(frozen=True)
class FacePick(Pick):
    """A face, by its number in the body."""

    broad: ClassVar[bool] = True

    def count(self, picture: VolumePicture) -> int | None:
        return picture.body.faces

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        return _reading(document.eye, scene.pictures[self.volume], self.index)

    def place(self, picture: VolumePicture, number: int) -> Array | None:
        """Its middle and which way it looks: what is left of a face that something was cut from is
        not found by its middle, but by its plane, where only one lies in it."""
        body = picture.body
        normal = body.normals[number]
        off = body.offsets[number] / max(picture.volume.sides)
        same = (np.abs(body.normals - normal).max(axis=1) < NEAR) & (
            np.abs(body.offsets / max(picture.volume.sides) - off) < NEAR
        )
        middle = in_shares(picture, body.middle_of(number)) if same.sum() > 1 else np.zeros(0)
        return np.concatenate([normal, [off], middle])

    def swipe(self, scene: Scene) -> Swipe:
        picture = scene.pictures[self.volume]
        loops = tuple(drawn_loops(picture, self.index) or ())
        return Swipe(loops=loops, pushes=_outward(scene.eye, picture, self.index))


OUTWARD = 0.1
"""How far outward, as a share of the longest side, the place lies that shows which way is out."""


def _outward(eye: Eye, picture: VolumePicture, face: int) -> Array:
    """The middle of a face and a place outward of it, (1, 2, 2) sheet mm; none where either is not
    drawn."""
    (place, axes), body = picture.volume.pose, picture.body
    middle = body.middle_of(face)
    out = middle + OUTWARD * max(picture.volume.sides) * body.normals[face]
    seen = project(eye, np.array([middle, out]) @ axes + place)
    return np.asarray(seen.sheet[None] if seen.seen.all() else np.empty((0, 2, 2)))


def _reading(eye: Eye, picture: VolumePicture, face: int) -> Reading:
    sight = angle_of_sight(eye, picture, face)
    rows = [
        *_true_sides(picture, face),
        Row(_("seen at"), sight, Quantity.DEG),
        Row("turned", _("to us") if sight > 0 else _("away from us"), Quantity.TEXT),
    ]
    share = face_foreshortening(eye, picture, face)
    if share is not None:
        rows.append(Row(_("area foreshortened to"), 100 * share, Quantity.PERCENT))
    return Reading(f"{face_name(eye, picture, face)} of {picture.volume.name}", tuple(rows))


def _true_sides(picture: VolumePicture, face: int) -> list[Row]:
    """True width, depth or height of a face that lies along two axes of its volume."""
    corners = picture.body.face_corners(face)
    if not len(corners):
        return []
    reach = np.ptp(corners, axis=0)
    flat = reach <= SAME * reach.max()
    if not flat.any():
        return []
    return [Row(f"true {AXES[a]}", float(reach[a]), Quantity.MM) for a in range(3) if not flat[a]]


def face_name(eye: Eye, picture: VolumePicture, face: int) -> str:
    """What a sketcher calls a face: base, top, side running to VP left, sloping side."""
    own = picture.body.normals[face]
    axis = int(np.abs(own).argmax())
    if abs(own[axis]) < 1 - SAME:
        return _("Sloping side") if abs(own[2]) > SAME else _("Turned side")
    if axis == 2:
        return _("Top") if own[2] > 0 else _("Base")
    family = directions_of(eye, picture)[1 - axis].family
    return (
        _("Side running to {value}").format(value=RUNS_TO[family])
        if family
        else _("Side square to us")
    )

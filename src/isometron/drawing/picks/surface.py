"""A surface of a volume that bends."""

import math
from dataclasses import dataclass
from typing import ClassVar

from isometron.document.document import Document
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.bodies.body import SweptPatch, TurnedPatch
from isometron.words import _

ALIKE_MM = 1e-9


@dataclass(frozen=True)
class SurfacePick(Pick):
    """A round side, by the number of its surface in the body."""

    broad: ClassVar[bool] = True

    def count(self, picture: VolumePicture) -> int | None:
        own = picture.body.surfaces
        return 0 if own is None else len(own.forms)

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        picture = scene.pictures[self.volume]
        own = picture.body.surfaces
        if own is None:
            return None
        rows: list[Row] = []
        for turned in own.turned:
            rows += _turned(turned) if turned.surface == self.index else []
        for swept in own.swept:
            rows += _swept(swept) if swept.surface == self.index else []
        return Reading(_("Round side of {name}").format(name=picture.volume.name), tuple(rows))

    def swipe(self, scene: Scene) -> Swipe:
        picture = scene.pictures[self.volume]
        on = picture.standing.items.faces[picture.pieces.item[len(picture.lines) :]]
        mine = (on == self.index).any(axis=1)
        return Swipe(arcs=picture.arcs[mine & picture.arc_drawn & picture.arc_seen])


def _turned(patch: TurnedPatch) -> list[Row]:
    """Diameters at both ends of a turned piece, at its widest where that lies between, and how far
    along the axle it goes."""
    piece = patch.segment
    below, above = (2 * piece.radius(height) for height in (piece.low, piece.high))
    along = Row(_("along the axle"), piece.high - piece.low, Quantity.MM)
    if piece.straight and abs(above - below) <= ALIKE_MM:
        return [Row(_("true diameter"), below, Quantity.MM), along]
    rows = [
        Row(_("diameter at its base"), below, Quantity.MM),
        Row(_("diameter at its top"), above, Quantity.MM),
    ]
    if piece.c and piece.low < (widest := -piece.b / (2 * piece.c)) < piece.high:
        words = _("at its widest") if piece.c < 0 else _("at its narrowest")
        rows.append(Row(words, 2 * piece.radius(widest), Quantity.MM))
    return [*rows, along]


def _swept(patch: SweptPatch) -> list[Row]:
    """Radius of a carried arc, through what angle it bends, and how far it is carried."""
    way = float((patch.way @ patch.way) ** 0.5)
    reach = float((patch.ends.stop - patch.ends.begin).max()) * way
    return [
        Row(_("true radius"), patch.radius, Quantity.MM),
        Row(_("bends through"), math.degrees(abs(patch.turn)), Quantity.DEG),
        Row(_("true length"), reach, Quantity.MM),
    ]

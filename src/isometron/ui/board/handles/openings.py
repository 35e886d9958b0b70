"""The openings and outlines on the faces of the volume in work: moved by their middle, made larger
by their upper right corner."""

from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits.faces import on_faces
from isometron.document.near_edge import drawn_place
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import INK
from isometron.words import _

HALF_PX = 3.5
MOST_HELD = 5
"""More openings than this are changed on their page: their handles would cover the drawing."""


@dataclass(frozen=True, eq=False)
class Held(Handle):
    """A small round mark in the middle, or a corner mark."""

    corner: bool = False

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at = self.at(on.view)
        painter.setPen(QPen(QColor(INK), 1.2))
        painter.setBrush(on.filling(hot=hot))
        box = QRectF(at.x() - HALF_PX, at.y() - HALF_PX, 2 * HALF_PX, 2 * HALF_PX)
        if self.corner:
            painter.drawRect(box)
        else:
            painter.drawEllipse(box)


@handles(5, _("Opening"), _("its size, while it moves over its face; a corner makes it larger"))
def openings(document: Document, scene: Scene) -> list[Handle]:
    """Two marks on every outline on a face turned to us."""
    volume = document.volume
    if volume is None or not 0 < len(volume.face_rings) <= MOST_HELD or document.selected is None:
        return []
    turned = scene.pictures[document.selected].shown
    found: list[Handle] = []
    for number, one in enumerate(volume.face_rings):
        if not 0 <= one.face < len(turned) or not turned[one.face]:
            continue
        for corner in (False, True):
            try:
                world = on_faces.grip_of(volume, number, corner=corner)
                place = drawn_place(document.eye, world)
            except IsometronError:
                continue
            what = "corner" if corner else "middle"
            found.append(
                Held(
                    f"opening {number} {what}",
                    _("Corner of an opening") if corner else _("Opening"),
                    place,
                    partial(_drag, number=number, corner=corner),
                    _("its lower left corner stays") if corner else _("its size stays"),
                    partial(_number, number=number),
                    corner=corner,
                )
            )
    return found


def _drag(document: Document, to: Place, number: int, corner: bool) -> Document:
    return on_faces.drag_ring(document, number, to, corner=corner)


def _number(document: Document, scene: Scene, number: int) -> str:
    volume = document.volume
    if volume is None or number >= len(volume.face_rings):
        return ""
    told = on_faces.typed_of(volume, number, document.choices.unit)
    return _("{left} from left, {up} up, {wide} wide, {high} high").format(
        left=told["left"], up=told["up"], wide=told["wide"], high=told["high"]
    )

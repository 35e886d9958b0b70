"""The points of the profile in work, on its own plane in the framework."""

from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits.shapes import profiles
from isometron.document.near_edge import drawn_place
from isometron.drawing.places import knot_in_words
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import INK
from isometron.words import _

HALF_PX = 3.5


@dataclass(frozen=True, eq=False)
class Knot(Handle):
    """A small square."""

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at = self.at(on.view)
        painter.setPen(QPen(QColor(INK), 1.2))
        painter.setBrush(on.filling(hot=hot))
        painter.drawRect(QRectF(at.x() - HALF_PX, at.y() - HALF_PX, 2 * HALF_PX, 2 * HALF_PX))


@handles(6, _("Point of a profile"), _("it moves on its plane; the side-view pad follows"))
def knots(document: Document, scene: Scene) -> list[Handle]:
    """A small square at every point of the profile in work."""
    volume, shape = document.volume, profiles.profile_of(document.volume)
    if volume is None or shape is None:
        return []
    found: list[Handle] = []
    for ring, points in enumerate(shape.rings):
        for knot in range(len(points)):
            try:
                place = drawn_place(document.eye, profiles.knot_world(volume, ring, knot))
            except IsometronError:
                continue
            found.append(
                Knot(
                    f"knot {ring} {knot}",
                    _("Point of the profile"),
                    place,
                    partial(_move, ring=ring, knot=knot),
                    _("it moves on the plane of the profile; the side view follows"),
                    partial(_number, ring=ring, knot=knot),
                )
            )
    return found


def _move(document: Document, to: Place, ring: int, knot: int) -> Document:
    return profiles.move_knot_on_sheet(document, ring, knot, to)


def _number(document: Document, scene: Scene, ring: int, knot: int) -> str:
    return knot_in_words(document, ring, knot)

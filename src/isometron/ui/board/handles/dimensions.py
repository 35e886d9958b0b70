"""Measures pinned to the sheet: taken by their words, they move nearer to what they measure or
further away."""

from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits.places import measuring
from isometron.drawing.dimension_marks import marks_of, off_at
from isometron.drawing.picks.dimension import DimensionPick
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.render.view import View
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import INK
from isometron.ui.parts.touching import apart
from isometron.words import _

WORDS_PX = 14.0
"""So near to the middle of its words, px, a mark is touched."""


@dataclass(frozen=True, eq=False)
class Words(Handle):
    """The words of a mark; a line under them when they are held."""

    def touched(self, view: View, at: QPointF) -> bool:
        return apart(self.at(view), at) < WORDS_PX

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        if hot:
            painter.setPen(QPen(QColor(INK), 1.0))
            painter.drawEllipse(self.at(on.view), WORDS_PX, WORDS_PX)


@handles(12, _("Measure"), _("what it measures stays; it moves beside it; Delete takes it off"))
def dimensions(document: Document, scene: Scene) -> list[Handle]:
    """The words of every measure on the sheet."""
    keys = [volume.key for volume in document.volumes]
    return [
        Words(
            f"measure {mark.number}",
            _("Measure"),
            mark.label.place,
            partial(_move, number=mark.number),
            _("what it measures stays; Delete takes it off"),
            partial(_number, number=mark.number),
            pick=DimensionPick(keys.index(document.dimensions[mark.number].one.key), mark.number),
        )
        for mark in marks_of(document)
    ]


def _move(document: Document, to: Place, number: int) -> Document:
    off = off_at(document, document.dimensions[number], to)
    return measuring.set_beside(document, number, off)


def _number(document: Document, scene: Scene, number: int) -> str:
    return write_length(abs(document.dimensions[number].off_mm), document.choices.unit)

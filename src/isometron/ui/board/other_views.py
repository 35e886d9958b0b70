"""The views of the page that are not in work, as they stand on the paper."""

from dataclasses import replace

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QColor, QPainter, QPainterPath

from isometron.document.document import Document
from isometron.drawing.layers import layer_in
from isometron.drawing.page import Known, cut_to, others_shown, part_of, with_others
from isometron.drawing.strokes import Strokes
from isometron.perspective.places import Rectangle
from isometron.render.painter import paint_arcs, paint_lines, pen_of
from isometron.render.picture import PAPER
from isometron.ui.board.desk import Surroundings
from isometron.ui.board.layer_painting import SCREEN_PX_PER_MM

VEIL_ALPHA = 248
"""How far the paper round the view in work covers what that view draws there."""


class OtherViews:
    """What the other views draw, brought up with every document."""

    def __init__(self) -> None:
        self._strokes: list[Strokes] = []
        self._known: Known = {}

    def show_document(self, document: Document) -> None:
        """The other views of a document."""
        plain = replace(document.finish, weighted=False)  # weights come with the washes
        self._strokes = [
            replace(strokes, layer=layer_in(strokes.layer, document.finish))
            for shown in others_shown(replace(document, finish=plain), self._known)
            for strokes in cut_to(shown, lambda layer: with_others(layer) and layer.on_board)
        ]

    def veil(self, painter: QPainter, around: Surroundings, document: Document) -> None:
        """The paper round the frame of the view in work, over what that view draws there."""
        if document.views[document.view].frame is not None:
            paper = _rectangle(around, document.sheet.paper)
            mine = _rectangle(around, part_of(document, document.views[document.view]))
            veil, path = QColor(PAPER), QPainterPath()
            veil.setAlpha(VEIL_ALPHA)
            path.addRect(paper)
            path.addRect(mine)
            painter.fillPath(path, veil)

    def paint(self, painter: QPainter, around: Surroundings) -> None:
        """The other views on the paper."""
        if not self._strokes:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for strokes in self._strokes:
            pen = pen_of(strokes.layer.pencil, SCREEN_PX_PER_MM)
            paint_lines(painter, around.view, strokes.lines, pen)
            paint_arcs(painter, around.view, strokes.arcs, pen)


def _rectangle(around: Surroundings, part: Rectangle) -> QRectF:
    left, bottom, right, top = part
    corner = QPointF(around.view.point((left, top)))
    return QRectF(corner, QPointF(around.view.point((right, bottom)))).normalized()

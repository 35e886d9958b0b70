"""The view of the picture as a ghost, and the picture small beside the sheet, while we look from
elsewhere."""

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.picture import Laid
from isometron.drawing.layers import GHOST
from isometron.drawing.scene import scene_of
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array, Eye
from isometron.render.images import whole
from isometron.render.painter import paint_arcs, paint_lines
from isometron.ui.board.handles.handle import On
from isometron.ui.parts.theme import PAPER, scaled

SMALL_PX, LEAST_PX, INSET_PX, PIN_PX = 260.0, 100.0, 12.0, 5.0
"""The picture beside the sheet is at most so wide, and at least so; it keeps off the paper where it
can."""


class OldView:
    """The framework as the eye of the picture sees it."""

    def __init__(self) -> None:
        self._of: tuple[tuple[Volume, ...], Eye] | None = None
        self._lines: Array = np.empty((0, 4))
        self._arcs: Array = np.empty((0, 3, 3))

    def paint(self, painter: QPainter, on: On, document: Document) -> None:
        """The ghost of the picture's view and the picture beside it, seen from elsewhere."""
        laid = _elsewhere(document)
        if laid is None:
            return
        if laid.ghost and document.volumes:
            self._bring_up_to_date(document, laid)
            pen = QPen(QColor(GHOST.pencil.colour), 1.0)
            pen.setDashPattern([2.0, 3.0])
            paint_lines(painter, on.view, self._lines, pen)
            paint_arcs(painter, on.view, self._arcs, pen)
        if laid.shown:
            _paint_small(painter, on, document)

    def _bring_up_to_date(self, document: Document, laid: Laid) -> None:
        if self._of is not None and self._of[0] is document.volumes and self._of[1] == laid.eye:
            return
        scene = scene_of(document.with_eye(laid.eye))
        self._lines = np.concatenate([np.empty((0, 4)), *(p.seen_lines for p in scene.pictures)])
        arcs = [p.curves_drawn("seen") for p in scene.pictures if len(p.arcs)]
        self._arcs = np.concatenate([np.empty((0, 3, 3)), *arcs])
        self._of = document.volumes, laid.eye


def _elsewhere(document: Document) -> Laid | None:
    """How the picture is laid, when we look from elsewhere now."""
    picture = document.photograph
    if picture is None or picture.laid is None:
        return None
    return picture.laid if picture.laid.seen_from(document.eye) is None else None


def _paint_small(painter: QPainter, on: On, document: Document) -> None:
    """The picture, small, under one drawing pin in the upper left of the board."""
    picture = document.photograph
    image = whole(picture.file) if picture is not None else None
    if image is None or image.isNull():
        return
    room = on.paper.boundingRect()
    above, beside = room.top() - 2 * INSET_PX, room.left() - 2 * INSET_PX
    share = image.height() / image.width()
    wide = min(max(above / share, beside, scaled(LEAST_PX)), scaled(SMALL_PX))
    box = QRectF(INSET_PX, INSET_PX, wide, wide * share)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.fillRect(box.adjusted(-4, -4, 4, 4).translated(3, 3), QColor(0, 0, 0, 90))
    painter.fillRect(box.adjusted(-4, -4, 4, 4), QColor(PAPER))
    painter.drawImage(box, image)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(on.room.lamp))
    painter.drawEllipse(QPointF(box.center().x(), box.top() + 3), PIN_PX, PIN_PX)
    painter.restore()

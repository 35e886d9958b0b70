"""A place of the sheet, a thumb wide: what is drawn about it, and a ring round it."""

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.drawing.curves import clipped_arcs
from isometron.drawing.pencils import GRAPHITE, OXBLOOD
from isometron.drawing.small import Small, small_of
from isometron.drawing.strokes import clipped
from isometron.render.painter import paint_arcs, paint_lines, painting_on
from isometron.render.view import View
from isometron.ui.parts.card import Shown
from isometron.ui.parts.theme import PAPER, scaled

HIGH = 96
"""Height of the picture, px."""

HALF_MM = 45.0
"""So far to both sides of the place the sheet is shown, mm."""

RING_PX = 12.0


class PlacePicture(QWidget):
    """The surroundings of one place of the sheet."""

    def __init__(self) -> None:
        super().__init__()
        self._small: Small | None = None
        self._place = (0.0, 0.0)
        self.setFixedHeight(scaled(HIGH))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_place(self, shown: Shown, place: tuple[float, float]) -> None:
        """Show what is drawn about a place, sheet mm."""
        self._small, self._place = small_of(shown.document, shown.scene), place
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        (x, y), half = self._place, HALF_MM
        tall = half * self.height() / max(self.width(), 1)
        part = (x - half, y - tall, x + half, y + tall)
        with painting_on(self) as painter:
            painter.fillRect(self.rect(), QColor(PAPER))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            view = View.fit(part, QRectF(self.rect()))
            if self._small is not None:
                lines, arcs = self._small.seen
                pen = QPen(QColor(GRAPHITE), 1.1)
                paint_lines(painter, view, clipped(lines, part), pen)
                paint_arcs(painter, view, clipped_arcs(arcs, part), pen, part)
            painter.setPen(QPen(QColor(OXBLOOD), 2.0))
            painter.drawEllipse(view.point(self._place), RING_PX, RING_PX)

"""The steps of grey as a row of pencil swatches, each with its number."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.drawing.pencils import GRAPHITE
from isometron.drawing.shading.shown import DARKEST
from isometron.drawing.shading.values import value_of
from isometron.render.painter import painting_on
from isometron.ui.parts.card import Shown
from isometron.ui.parts.theme import INK, WHITE, font, scaled
from isometron.words import _

HIGH = 44
GAP = 4.0


class Swatches(QWidget):
    """One swatch for each step, the lightest first."""

    def __init__(self) -> None:
        super().__init__()
        self._count = 0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setToolTip(_("The steps of grey: 1 is bare paper, the last is the darkest."))

    def show_document(self, shown: Shown) -> None:
        """The steps of a document; nothing without a light."""
        lit = shown.document.light is not None
        self._count = shown.document.shading.steps if lit else 0
        self.setVisible(lit)
        self.setAccessibleName(_("{count} steps of grey").format(count=self._count))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(120, scaled(HIGH))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._count:
            return
        with painting_on(self) as painter:
            self._paint(painter)

    def _paint(self, painter: QPainter) -> None:
        wide = (self.width() - 1 - GAP * (self._count - 1)) / self._count
        painter.setFont(font())
        for step in range(self._count):
            box = QRectF(step * (wide + GAP) + 0.5, 0.5, wide, self.height() - 1.0)
            painter.fillRect(box, QColor(WHITE))
            tone = QColor(GRAPHITE)
            tone.setAlphaF(DARKEST * value_of(step, self._count))
            painter.fillRect(box, tone)
            painter.setPen(QPen(QColor(INK), 1.0))
            painter.drawRect(box)
            painter.setPen(QColor(INK if step < self._count - 1 else WHITE))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(step + 1))

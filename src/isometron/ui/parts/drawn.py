"""Buttons that show a small drawing, worked out a little at a time after they are first seen."""

from PyQt6 import sip
from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QAbstractButton

from isometron.ui.parts.wishes import Wishes

_waiting: list["DrawnButton"] = []


class DrawnButton(QAbstractButton):
    """A button with a drawing."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self._drawn = False

    def work_out(self) -> None:
        """Work out what the drawing shows."""
        raise NotImplementedError

    def paint_drawing(self, painter: QPainter, box: QRectF) -> None:
        """Paint the drawing, which has been worked out, into a box."""
        raise NotImplementedError

    def paint_when_drawn(self, painter: QPainter, box: QRectF) -> None:
        """Paint the drawing, or see to it that it is worked out."""
        if self._drawn:
            painter.save()
            self.paint_drawing(painter, box)
            painter.restore()
        elif self not in _waiting:
            _waiting.append(self)
            QTimer.singleShot(0, draw_one)

    def draw(self) -> None:
        """Work the drawing out now."""
        self.work_out()
        self._drawn = True
        self.update()


def draw_one() -> None:
    """Work out one drawing that is waited for: one at a time, so that the hand is not held up."""
    while _waiting:
        button = _waiting.pop(0)
        if not sip.isdeleted(button):
            button.draw()
            return

"""A small picture of what stands on a sheet, on paper."""

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.drawing.small import Small, small_of
from isometron.render.painter import painting_on
from isometron.render.small import paint_small


class SmallPicture(QWidget):
    """The lines of a sheet, filling a piece of paper of a size in px."""

    def __init__(self, size: QSize, name: str, weight: float = 3.0) -> None:
        super().__init__()
        self.setFixedSize(size)
        self.setAccessibleName(name)
        self.shown_now: Small | None = None
        self._weight = weight

    def show_sheet(self, document: Document, scene: Scene | None = None) -> None:
        """Show a sheet, filling the paper."""
        self.shown_now = small_of(document, scene)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_small(painter, self.size(), self.shown_now, self._weight)

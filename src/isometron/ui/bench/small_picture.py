"""A small picture of what stands on a sheet, on paper."""

from PyQt6.QtCore import QRectF, QSize
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from isometron.drawing.layers import HIDDEN, OBJECT
from isometron.drawing.scene import Scene
from isometron.render.painter import paint_arcs, paint_lines, painting_on, pen_of
from isometron.render.view import View
from isometron.ui.parts.theme import PAPER


class SmallPicture(QWidget):
    """The lines of a scene, filling a piece of paper of a size in px."""

    def __init__(self, size: QSize, name: str, weight: float = 3.0) -> None:
        super().__init__()
        self.setFixedSize(size)
        self.setAccessibleName(name)
        self._scene: Scene | None = None
        self._weight = weight

    def show_scene(self, scene: Scene) -> None:
        """Show a scene, filling the paper."""
        self._scene = scene
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(PAPER))
            if self._scene is not None and self._scene.pictures:
                self._paint(painter, self._scene)

    def _paint(self, painter: QPainter, scene: Scene) -> None:
        bounds = [p.bounds for p in scene.pictures]
        left, bottom = min(b[0] for b in bounds), min(b[1] for b in bounds)
        right, top = max(b[2] for b in bounds), max(b[3] for b in bounds)
        across, down = round(0.06 * self.width()), round(0.06 * self.height())
        box = QRectF(self.rect()).adjusted(across, down, -across, -down)
        view = View.fit((left, bottom, right, top), box)
        hidden, seen = pen_of(HIDDEN.pencil, self._weight), pen_of(OBJECT.pencil, self._weight)
        for picture in scene.pictures:
            paint_lines(painter, view, picture.hidden_lines, hidden)
            paint_lines(painter, view, picture.seen_lines, seen)
            paint_arcs(painter, view, picture.curves_drawn("hidden"), hidden)
            paint_arcs(painter, view, picture.curves_drawn("seen"), seen)

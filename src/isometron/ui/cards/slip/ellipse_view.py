"""The ellipse in work, seen close: its axes, its square, the axle, and the guide laid over it."""

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.drawing.pencils import GRAPHITE, OXBLOOD, TEAL
from isometron.drawing.rounds import DrawnCircle
from isometron.perspective.ellipses import Ellipse, Guide
from isometron.render.painter import painting_on
from isometron.render.view import View, bounds_of_points
from isometron.ui.parts.theme import FAINT, PAPER
from isometron.words import _

HEIGHT = 132
PAD = 12.0


class EllipseView(QWidget):
    """Paints one circle's picture as large as it can."""

    def __init__(self) -> None:
        super().__init__()
        self._circle: DrawnCircle | None = None
        self._square = np.empty((0, 2))
        self._guide: Guide | None = None
        self.setMinimumHeight(HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(_("The picked ellipse"))

    def show_circle(
        self, circle: DrawnCircle | None, square: np.ndarray, guide: Guide | None, words: str
    ) -> None:
        """Show a circle with its square (13, 2) sheet mm and the nearest guide."""
        self._circle, self._square, self._guide = circle, square, guide
        self.setAccessibleDescription(words)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(PAPER))
            circle = self._circle
            if (
                circle is not None
                and circle.ellipse is not None
                and np.isfinite(self._square).all()
            ):
                self._paint(painter, circle, circle.ellipse)

    def _paint(self, painter: QPainter, circle: DrawnCircle, ellipse: Ellipse) -> None:
        points = np.concatenate([self._square[:4], ellipse.point(np.arange(0.0, 360.0, 15.0))])
        box = QRectF(self.rect()).adjusted(PAD, PAD, -PAD, -PAD)
        view = View.fit(bounds_of_points(points), box)
        at = view.point
        square = view.places(self._square)
        painter.setPen(QPen(QColor(FAINT), 1.0))
        painter.drawPolygon(QPolygonF(square[:4]))
        for a, b in ((0, 2), (1, 3), (4, 6), (5, 7)):
            painter.drawLine(square[a], square[b])
        self._axes(painter, circle, ellipse, view)
        if self._guide is not None:
            short = self._guide.long_axis_mm * float(np.sin(np.radians(self._guide.degree_deg)))
            pen = QPen(QColor(TEAL), 1.2)
            pen.setDashPattern([3.0, 3.0])
            painter.setPen(pen)
            self._ring(
                painter,
                ellipse,
                (self._guide.long_axis_mm / 2, short / 2),
                at(ellipse.centre_mm),
                view.scale,
            )
        painter.setPen(QPen(QColor(GRAPHITE), 2.0))
        half = (ellipse.semi_major_mm, ellipse.semi_minor_mm)
        self._ring(painter, ellipse, half, at(ellipse.centre_mm), view.scale)
        painter.setBrush(QColor(GRAPHITE))
        painter.setPen(Qt.PenStyle.NoPen)
        for place in square[4:8]:
            painter.drawEllipse(place, 2.6, 2.6)
        if circle.picture.centre_mm is not None:
            painter.setBrush(QColor(OXBLOOD))
            painter.drawEllipse(at(circle.picture.centre_mm), 3.2, 3.2)

    def _axes(self, painter: QPainter, circle: DrawnCircle, ellipse: Ellipse, view: View) -> None:
        pen = QPen(QColor(GRAPHITE), 1.0)
        pen.setDashPattern([6.0, 2.0, 1.0, 2.0])
        painter.setPen(pen)
        ends = view.places(ellipse.point(np.array([0.0, 180.0, 90.0, 270.0])))
        painter.drawLine(ends[0], ends[1])
        painter.drawLine(ends[2], ends[3])
        if circle.picture.axle_deg is not None and circle.picture.centre_mm is not None:
            painter.setPen(QPen(QColor(OXBLOOD), 1.4))
            angle = np.radians(circle.picture.axle_deg)
            run = np.array([np.cos(angle), np.sin(angle)]) * ellipse.semi_major_mm
            centre = np.array(circle.picture.centre_mm)
            painter.drawLine(*view.places(np.array([centre - run, centre + run])))

    @staticmethod
    def _ring(
        painter: QPainter,
        ellipse: Ellipse,
        half: tuple[float, float],
        centre: QPointF,
        scale: float,
    ) -> None:
        painter.save()
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.translate(centre)
        painter.rotate(-ellipse.major_axis_deg)
        a, b = half[0] * scale, half[1] * scale
        painter.drawEllipse(QRectF(-a, -b, 2 * a, 2 * b))
        painter.restore()

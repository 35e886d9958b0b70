"""The sun as a small disc, dragged in plan and in elevation."""

import math

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QResizeEvent

from isometron.document.document import Document
from isometron.document.lights.sun import Sun, turn_sun
from isometron.perspective.places import Place
from isometron.render.painter import painting_on
from isometron.ui.parts.card import Shown
from isometron.ui.parts.pad import Pad
from isometron.ui.parts.theme import INK, SOFT, WHITE, font
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _

PLAN, HEIGHT = 0, 1
REACH = 100.0
"""Units of the pad: the circle of the plan, and the quarter of the elevation, have this radius."""

APART = 50.0
GAP = 24.0
STEP_DEG = 1.0


class SunPad(Pad):
    """Where the sun stands, seen from above with our own way of looking upward on it, and how high,
    seen from the side."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(
            wishes,
            _("Where the sun stands"),
            _("Drag the sun in plan on the left, its height on the right."),
            130,
        )
        self._sun: Sun | None = None
        self._heading = 0.0

    def show_document(self, shown: Shown) -> None:
        """The sun of a document."""
        light = shown.document.light
        self._sun = light if isinstance(light, Sun) else None
        self._heading = shown.document.eye.heading_deg
        self.setVisible(self._sun is not None)
        self._lay()
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._lay()

    def _lay(self) -> None:
        part = (-REACH - 8, -REACH - 16, REACH + APART + REACH + 8, REACH + 16)
        self.fit(part, QRectF(4, 4, max(self.width() - 8, 20), max(self.height() - 8, 20)))

    def points(self) -> list[Place]:
        sun = self._sun
        if sun is None:
            return []
        turn = math.radians(sun.azimuth_deg - self._heading)
        high = math.radians(sun.elevation_deg)
        plan = (REACH * math.sin(turn), REACH * math.cos(turn))
        side = (REACH + APART + REACH * math.cos(high), REACH * math.sin(high) - REACH / 2)
        return [plan, side]

    def moved(self, number: int, place: Place) -> Edit:
        x, y = place
        if number == PLAN:
            azimuth = round(math.degrees(math.atan2(x, y)) / STEP_DEG) * STEP_DEG
            turned = (azimuth + self._heading) % 360.0
            return lambda document: turn_sun(document, azimuth_deg=turned)
        right, up = max(x - REACH - APART, 1e-9), max(y + REACH / 2, 0.0)
        high = round(math.degrees(math.atan2(up, right)) / STEP_DEG) * STEP_DEG
        return lambda document: turn_sun(document, elevation_deg=min(max(high, 0.0), 90.0))

    def added(self, place: Place) -> Edit | None:
        return None

    def removed(self, number: int) -> Edit:
        def kept(document: Document) -> Document:
            return document

        return kept

    def steps(self) -> tuple[str, str, str]:
        return _("move the sun"), "", ""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint(painter)

    def _paint(self, painter: QPainter) -> None:
        points = self.points()
        if not points:
            return
        centre = self.at((0.0, 0.0))
        radius = REACH * self._view.scale
        painter.setPen(QPen(QColor(SOFT), 1.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(centre, radius, radius)
        foot = self.at((REACH + APART, -REACH / 2))
        quarter = QRectF(foot.x() - radius, foot.y() - radius, 2 * radius, 2 * radius)
        painter.drawArc(quarter, 0, 90 * 16)
        painter.drawLine(foot, foot + QPointF(radius, 0))
        painter.drawLine(foot, foot - QPointF(0, radius))
        painter.setPen(QPen(QColor(INK), 1.6))
        painter.drawRect(QRectF(centre.x() - 6, centre.y() - 6, 12, 12))
        painter.drawRect(QRectF(foot.x() - 5, foot.y() - 10, 10, 10))
        us = centre + QPointF(0, radius)
        painter.drawLine(us, us + QPointF(-5, 8))
        painter.drawLine(us, us + QPointF(5, 8))
        for number, (start, place) in enumerate(zip((centre, foot), points, strict=True)):
            at = self.at(place)
            painter.setPen(QPen(QColor(INK), 1.0, Qt.PenStyle.DashLine))
            painter.drawLine(at, start)
            painter.setPen(QPen(QColor(INK), 2.0 if number == self.chosen else 1.2))
            painter.setBrush(QColor("#f2c84b" if number != self.held else WHITE))
            painter.drawEllipse(at, 8.0, 8.0)
            painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QColor(INK))
        painter.setFont(font())
        painter.drawText(us + QPointF(10, 8), _("we"))

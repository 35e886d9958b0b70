"""The radii pad: a turned form seen from the side, and beside it how open each round is."""

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF

from isometron.document.document import Document
from isometron.document.edits.shapes import rounding
from isometron.drawing.pencils import GRAPHITE, OXBLOOD
from isometron.drawing.rounds import HeightDegree
from isometron.framework.bodies.body import Segment
from isometron.perspective.lengths import write_angle
from isometron.perspective.places import Place
from isometron.render.painter import painting_on
from isometron.ui.parts.pad import PAD, Pad
from isometron.ui.parts.theme import FAINT, PAPER, SOFT, font
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _

HEIGHT = 230
GRAPH_SHARE = 0.42
GRAPH_DEG = 60.0
STEPS = 12


class RadiiPad(Pad):
    """Stations of the turned volume in work as points; the degree graph shares their heights."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(
            wishes,
            _("Radii by height"),
            _(
                "Drag a point to change its height and radius; double-click adds one, Delete takes "
                "the chosen one away. Page Down chooses a point, the arrow keys move it."
            ),
            HEIGHT,
        )
        self._stations: tuple[Place, ...] = ()
        self._pieces: tuple[Segment, ...] = ()
        self._degrees: tuple[HeightDegree, ...] = ()
        self._eye_height = 0.0

    def show_volume(
        self, document: Document, degrees: tuple[HeightDegree, ...], eye_height: float
    ) -> None:
        """Show the turned volume in work with the degrees over its height, mm above its base."""
        volume, shape = document.volume, rounding.turned_of(document.volume)
        self._degrees, self._eye_height = degrees, eye_height
        self._stations, self._pieces = (), ()
        if volume is not None and shape is not None:
            self._stations = tuple((r, h) for h, r in rounding.stations_mm(volume))
            self._pieces = shape.pieces(volume.sides)[1]
        if self.chosen is not None and self.chosen >= len(self._stations):
            self.chosen = None
        self.update()

    def points(self) -> list[Place]:
        """Radius and height of each station, mm."""
        return list(self._stations)

    def moved(self, number: int, place: Place) -> Edit:
        """A station moved between its neighbours."""
        table = [(h, r) for r, h in self._stations]
        low = table[number - 1][0] if number else -1e9
        high = table[number + 1][0] if number + 1 < len(table) else 1e9
        table[number] = (min(max(place[1], low), high), max(place[0], 0.0))
        return lambda d: rounding.set_stations(d, table)

    def added(self, place: Place) -> Edit | None:
        """One more station."""
        if not self._stations:
            return None
        table = sorted([*((h, r) for r, h in self._stations), (place[1], abs(place[0]))])
        return lambda d: rounding.set_stations(d, table)

    def removed(self, number: int) -> Edit:
        """One station fewer."""
        table = [(h, r) for i, (r, h) in enumerate(self._stations) if i != number]
        return lambda d: rounding.set_stations(d, table)

    def steps(self) -> tuple[str, str, str]:
        """What is done to stations."""
        return _("move a radius"), _("add a radius"), _("take a radius away")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(PAPER))
            painter.setFont(font())
            if not self._stations:
                self.told(painter, _("Choose a turned volume."))
                return
            split = self.width() * (1.0 - (GRAPH_SHARE if self._degrees else 0.0))
            wide = max(station[0] for station in self._stations)
            low, high = self._stations[0][1], self._stations[-1][1]
            box = QRectF(PAD, PAD, split - 2 * PAD, self.height() - 2 * PAD - 16)
            self.fit((-wide, low, wide, high), box)
            self._form(painter)
            for number, point in enumerate(self._stations):
                self.knob(painter, number, point, round_one=False)
            if self._degrees:
                self._graph(painter, QRectF(split, PAD, self.width() - split - PAD, box.height()))

    def _form(self, painter: QPainter) -> None:
        pen = QPen(QColor(OXBLOOD), 1.0)
        pen.setDashPattern([7.0, 2.0, 1.0, 2.0])
        painter.setPen(pen)
        low, high = self._stations[0][1], self._stations[-1][1]
        painter.drawLine(self.at((0, low)) + QPointF(0, 8), self.at((0, high)) - QPointF(0, 8))
        painter.setPen(QPen(QColor(GRAPHITE), 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        side = [
            (piece.radius(h), h)
            for piece in self._pieces
            for h in np.linspace(piece.low, piece.high, 2 if piece.straight else STEPS).tolist()
        ]
        ring = [(0.0, side[0][1]), *side, (0.0, side[-1][1])]
        for sign in (1.0, -1.0):
            painter.drawPolyline(QPolygonF([self.at((sign * r, h)) for r, h in ring]))

    def _graph(self, painter: QPainter, box: QRectF) -> None:
        """Degrees to either side of an upright: right seen from above, left from below."""
        most = max(GRAPH_DEG, *(abs(one.degree_deg) for one in self._degrees))
        middle = box.center().x()

        def across(degree: float) -> float:
            return middle + degree / most * box.width() / 2

        painter.setPen(QPen(QColor(FAINT), 1.0))
        painter.drawLine(QPointF(middle, box.top()), QPointF(middle, box.bottom()))
        level = self.at((0.0, self._eye_height)).y()
        if box.top() - PAD <= level <= box.bottom() + PAD:
            painter.setPen(QPen(QColor(OXBLOOD), 1.2))
            painter.drawLine(QPointF(box.left(), level), QPointF(box.right(), level))
            painter.drawText(QPointF(box.left(), level - 3), _("eye level"))
        places = [
            QPointF(across(one.degree_deg), self.at((0.0, one.height_mm)).y())
            for one in self._degrees
        ]
        painter.setPen(QPen(QColor(GRAPHITE), 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(places))
        painter.setBrush(QColor(GRAPHITE))
        told = -1e9
        for one, at in zip(self._degrees, places, strict=True):
            if not one.own:
                continue
            painter.drawEllipse(at, 2.4, 2.4)
            if abs(at.y() - told) > 15:
                told = at.y()
                words = write_angle(round(abs(one.degree_deg)))
                wide = painter.fontMetrics().horizontalAdvance(words)
                left = at.x() - wide - 5 if at.x() + wide + 5 > box.right() else at.x() + 5
                painter.drawText(QPointF(left, at.y() + 4), words)
        painter.setPen(QColor(SOFT))
        foot = QRectF(box.left() - 20, box.bottom() + PAD - 4, box.width() + 30, 18)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, _("degree by height"))

"""The rail down the left edge: the places of work as index cards, each with its own drawing."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QTabBar

from isometron.ui.parts.shell import RAIL_WIDTH
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

GAP, BACK, PAD = 6, 4, 4
"""Room between cards, how far closed ones stand back, and room beside their words, px."""

PICTURE = 34
"""Height of a drawing, px; it is left out where there is too little height for all."""

Lines = tuple[tuple[tuple[float, float], ...], ...]

DRAWINGS: dict[str, tuple[Lines, Lines]] = {
    "stand": (
        (
            ((0.0, 0.42), (1.0, 0.42)),
            ((0.5, 0.95), (0.08, 0.42)),
            ((0.5, 0.95), (0.92, 0.42)),
        ),
        (
            (
                (0.34, 0.2),
                (0.42, 0.1),
                (0.58, 0.1),
                (0.66, 0.2),
                (0.58, 0.29),
                (0.42, 0.29),
                (0.34, 0.2),
            ),
            ((0.47, 0.2), (0.5, 0.16), (0.53, 0.2), (0.5, 0.24), (0.47, 0.2)),
        ),
    ),
    "build": (
        (
            ((0.42, 0.95), (0.05, 0.7), (0.05, 0.3), (0.42, 0.42), (0.42, 0.95)),
            ((0.42, 0.95), (0.95, 0.72), (0.95, 0.28), (0.42, 0.42)),
            ((0.05, 0.3), (0.6, 0.18), (0.95, 0.28)),
        ),
        (),
    ),
    "draw": (
        (
            ((0.05, 0.62), (0.62, 0.86), (0.66, 0.76), (0.09, 0.52), (0.05, 0.62)),
            ((0.2, 0.57), (0.18, 0.62)),
            ((0.34, 0.63), (0.32, 0.68)),
            ((0.48, 0.69), (0.46, 0.74)),
        ),
        (
            ((0.08, 0.44), (0.7, 0.7)),
            ((0.66, 0.66), (0.72, 0.5), (0.9, 0.08), (0.98, 0.12), (0.8, 0.54), (0.69, 0.68)),
        ),
    ),
    "finish": (
        (
            ((0.3, 0.95), (0.3, 0.5), (0.62, 0.58), (0.62, 0.95), (0.3, 0.95)),
            ((0.62, 0.95), (0.9, 0.82), (0.9, 0.47), (0.62, 0.58)),
            ((0.3, 0.5), (0.58, 0.4), (0.9, 0.47)),
            ((0.66, 0.93), (0.66, 0.6)),
            ((0.72, 0.9), (0.72, 0.56)),
            ((0.78, 0.87), (0.78, 0.54)),
            ((0.84, 0.85), (0.84, 0.51)),
        ),
        (
            (
                (0.1, 0.2),
                (0.14, 0.12),
                (0.22, 0.12),
                (0.26, 0.2),
                (0.22, 0.28),
                (0.14, 0.28),
                (0.1, 0.2),
            ),
            ((0.3, 0.3), (0.38, 0.38)),
            ((0.33, 0.2), (0.44, 0.22)),
        ),
    ),
    "picture": (
        (
            ((0.06, 0.16), (0.94, 0.16), (0.94, 0.92), (0.06, 0.92), (0.06, 0.16)),
            ((0.06, 0.62), (0.94, 0.5)),
        ),
        (
            ((0.3, 0.8), (0.3, 0.44), (0.56, 0.5), (0.56, 0.84), (0.3, 0.8)),
            ((0.56, 0.84), (0.78, 0.74), (0.78, 0.42), (0.56, 0.5)),
        ),
    ),
    "practice": (
        (
            (
                (0.08, 0.5),
                (0.16, 0.28),
                (0.4, 0.16),
                (0.66, 0.2),
                (0.8, 0.4),
                (0.72, 0.62),
                (0.48, 0.74),
                (0.2, 0.68),
                (0.08, 0.5),
            ),
            ((0.08, 0.95), (0.8, 0.95)),
            ((0.08, 0.9), (0.08, 1.0)),
            ((0.8, 0.9), (0.8, 1.0)),
        ),
        (
            (
                (0.14, 0.56),
                (0.22, 0.32),
                (0.46, 0.18),
                (0.76, 0.24),
                (0.92, 0.46),
                (0.82, 0.68),
                (0.54, 0.8),
                (0.26, 0.76),
                (0.14, 0.56),
            ),
        ),
    ),
}
"""What stands for each place: lines in graphite, and lines in teal, in a square from its upper left
corner."""


class PlaceRail(QTabBar):
    """The rail the places stand on; its current one is open."""

    def __init__(self, wishes: Wishes, places: Sequence[tuple[str, str, str]]) -> None:
        """places: key, name and tip of each."""
        super().__init__()
        self.wishes = wishes
        self._keys = [key for key, _name, _tip in places]
        self.setShape(QTabBar.Shape.RoundedWest)
        self.setExpanding(False)
        self.setDrawBase(False)
        self.setUsesScrollButtons(False)
        self.setElideMode(Qt.TextElideMode.ElideNone)
        self.setAccessibleName(_("Places of work"))
        metrics = QFontMetrics(font(bold=True))
        self._line = metrics.height()
        words = max(metrics.horizontalAdvance(name) for _key, name, _tip in places)
        self._wide = max(RAIL_WIDTH, words + BACK + 2 * PAD)
        self._high = self._usual
        for number, (_key, name, tip) in enumerate(places):
            self.addTab(name)
            self.setTabToolTip(number, f"{tip} (Alt+{number + 1})")
            self.setTabWhatsThis(number, tip)
        self.setFixedWidth(self._wide)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Preferred)

    @property
    def _usual(self) -> int:
        return self._line + PICTURE + 4 * PAD + GAP

    def tabSizeHint(self, index: int) -> QSize:
        return QSize(self._wide, self._high)

    def fit_into(self, high: int) -> None:
        """Leave the drawings out where a height has no room for all."""
        least = self._line + 2 * PAD + GAP
        room = max(min(high // max(self.count(), 1), self._usual), least)
        if room != self._high:
            self._high = room
            for number in range(self.count()):
                self.setTabText(number, self.tabText(number))  # lays them out anew

    def minimumSizeHint(self) -> QSize:
        return QSize(self._wide, 0)

    def minimumTabSizeHint(self, index: int) -> QSize:
        return self.tabSizeHint(index)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number in range(self.count()):
            self._paint(painter, number, self.tabRect(number).adjusted(0, 0, 0, -GAP))
        painter.end()

    def _paint(self, painter: QPainter, number: int, at: QRect) -> None:
        open_now, room = number == self.currentIndex(), self.wishes.room
        face = QRectF(at).adjusted(0, 0, 0 if open_now else -BACK, 0)
        painter.fillRect(face, QColor(room.card if open_now else room.tab))
        ink = QColor(room.ink if open_now else room.tab_ink)
        if open_now and self.hasFocus():
            painter.setPen(QPen(QColor(room.focus), 2.0))
            painter.drawRect(face.adjusted(1, 1, -1, -1))
        words = QRectF(face.left(), face.bottom() - self._line - PAD, face.width(), self._line)
        spare = words.top() - face.top() - 2 * PAD
        if spare >= PICTURE / 2:
            side = min(spare, float(PICTURE))
            box = QRectF(0, 0, side * 1.15, side)
            box.moveCenter(QPointF(face.center().x(), face.top() + PAD + spare / 2))
            self._draw(painter, box, self._keys[number], ink, open_now=open_now)
        else:
            words = face
        painter.setPen(ink)
        painter.setFont(font(bold=open_now))
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, self.tabText(number))

    def _draw(
        self, painter: QPainter, box: QRectF, key: str, ink: QColor, *, open_now: bool
    ) -> None:
        plain, new = DRAWINGS.get(key, ((), ()))
        teal = QColor(self.wishes.room.right) if open_now else ink
        for lines, colour, wide in ((plain, ink, 1.2), (new, teal, 1.6)):
            painter.setPen(QPen(colour, wide))
            for line in lines:
                places = [
                    QPointF(box.left() + x * box.width(), box.top() + y * box.height())
                    for x, y in line
                ]
                painter.drawPolyline(QPolygonF(places))

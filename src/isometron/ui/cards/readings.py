"""Readings: what is picked, in words and numbers."""

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.drawing.readings import Reading, Row
from isometron.perspective.lengths import UNIT_WORDS, write_angle, write_length
from isometron.ui.parts.card import Card
from isometron.ui.parts.theme import Room, font

LINE = 21


def in_words(row: Row, unit: str) -> str:
    """The value of a row as a person reads it."""
    if row.kind == "text":
        return str(row.value)
    if row.kind == "place" and isinstance(row.value, tuple):
        x, y = (write_length(v, unit, with_unit=False) for v in row.value)
        return f"{x} right, {y} up"
    value = row.value if isinstance(row.value, float) else 0.0
    if row.kind == "deg":
        return write_angle(value)
    if row.kind == "percent":
        return f"{value:.1f} %" if abs(value) < 10 else f"{value:.0f} %"
    return write_length(value, unit)


class _Table(QWidget):
    """Label and value in two columns, painted in one go; closer together where they would not all
    fit."""

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.room = room
        self.rows: list[tuple[str, str]] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setFont(font())
        room = (self.height() + 4) / max(len(self.rows), 1)
        step = min(float(LINE), max(room, float(painter.fontMetrics().height())))
        for number, (label, value) in enumerate(self.rows):
            line = QRectF(0, number * step, self.width(), step)
            if line.bottom() > self.height() + 4:
                break
            painter.setPen(QColor(self.room.soft_ink))
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, label)
            painter.setPen(QColor(self.room.ink))
            right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
            painter.drawText(line, right, value)
        painter.end()


class ReadingsCard(Card):
    """Shows one reading; what it says is also its accessible description."""

    def __init__(self, room: Room) -> None:
        super().__init__(room, self.tr("Readings"))
        self.title.setWordWrap(True)
        self._table = _Table(room)
        self.body.addWidget(self._table, 1)
        self.foot = self.section("")
        self.foot.setFont(font(italic=True))
        self.foot.setProperty("soft", True)
        self.foot.setWordWrap(True)

    def show_room(self, room: Room) -> None:
        super().show_room(room)
        self._table.room = room

    def show_reading(self, reading: Reading | None, unit: str) -> None:
        """Show a reading, its numbers in a unit."""
        self.title.setText(reading.title if reading else self.tr("Readings"))
        rows = [(row.label, in_words(row, unit)) for row in reading.rows] if reading else []
        self._table.rows = rows
        self.setAccessibleDescription("; ".join(f"{label}: {value}" for label, value in rows))
        self.foot.setText(
            self.tr("Measured from the paper's left and lower edges, in %s.") % UNIT_WORDS[unit]
            if reading
            else self.tr("Click an edge, a face or a point to read it.")
        )
        self._table.update()

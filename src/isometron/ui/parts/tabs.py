"""Index tabs down the left edge, in the order of the work."""

from PyQt6.QtCore import QPointF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QWidget

from isometron.ui.parts.theme import Room, font

WIDTH, HEIGHT = 92, 40


class IndexTab(QAbstractButton):
    """One tab, cut slanting like a card index."""

    def __init__(self, room: Room, title: str, tip: str) -> None:
        super().__init__()
        self.room = room
        self.setText(title)
        self.setToolTip(tip)
        self.setAccessibleName(title)
        self.setAccessibleDescription(tip)
        self.setCheckable(True)
        self.setAutoExclusive(True)
        self.setFixedSize(self.sizeHint())

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, HEIGHT)

    def show_room(self, room: Room) -> None:
        """Show the tab in another room."""
        self.room = room
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        open_now = self.isChecked()
        left = 0.0 if open_now else 6.0
        w, h = float(self.width()), float(self.height())
        shape = QPolygonF([QPointF(left, 5), QPointF(w, 0), QPointF(w, h), QPointF(left, h - 5)])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self.room.card if open_now else self.room.tab))
        painter.drawPolygon(shape)
        if self.hasFocus():
            painter.setPen(QPen(QColor(self.room.lamp), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(shape)
        painter.setPen(QColor(self.room.ink if open_now else self.room.tab_ink))
        painter.setFont(font(bold=open_now))
        inner = self.rect().adjusted(int(left) + 9, 0, -2, 0)
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter, self.text())
        painter.end()


class TabRail(QWidget):
    """The rail the tabs stand on."""

    def __init__(self, tabs: list[IndexTab]) -> None:
        super().__init__()
        self.tabs = tabs
        for number, tab in enumerate(tabs):
            tab.setParent(self)
            tab.move(0, 8 + number * (HEIGHT + 4))
        self.setFixedWidth(WIDTH)

    def show_room(self, room: Room) -> None:
        """Show the tabs in another room."""
        for tab in self.tabs:
            tab.show_room(room)

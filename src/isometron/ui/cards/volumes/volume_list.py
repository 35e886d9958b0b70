"""The list of volumes: names, sizes, and small switches for show, see-through and lock."""

from PyQt6.QtCore import (
    QCoreApplication,
    QEvent,
    QPoint,
    QPointF,
    QRect,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QColor,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygon,
)
from PyQt6.QtWidgets import QToolTip, QWidget

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.perspective.lengths import write_length
from isometron.ui.parts.theme import MARKER, ROW, Room, font

SWITCH = 19
"""Width of one switch, px."""

BAR = 8
"""Room kept free for the scroll bar, px."""

SWITCHES = ("show", "see-through", "lock")


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("VolumeList", text)


TIPS = {
    "show": tr("Shown or hidden (key S)."),
    "see-through": tr("See-through, solid, or as the sheet is (key T)."),
    "lock": tr("Locked or free (key L)."),
}


class VolumeList(QWidget):
    """The volumes by name and size. Chosen ones have a marker swipe, the one in work a bold name.

    Up and Down choose, with Shift more of them; S, T and L work the switches, Ctrl+Up and Ctrl+Down
    move the volume in the list.
    """

    chosen = pyqtSignal(int, bool)
    switched = pyqtSignal(str, int)
    moved = pyqtSignal(int)

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.room = room
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Volumes on this sheet"))
        self._volumes: tuple[Volume, ...] = ()
        self._sizes: list[str] = []
        self._selected: int | None = None
        self._chosen: tuple[int, ...] = ()

    def show_volumes(self, document: Document) -> None:
        """Show the volumes of a document."""
        unit = document.choices.unit
        self._volumes, self._selected = document.volumes, document.selected
        self._chosen = document.chosen
        self._sizes = [
            " × ".join(write_length(side, unit, with_unit=False) for side in volume.sides)
            for volume in document.volumes
        ]
        self.setFixedHeight(max(len(self._volumes), 1) * ROW)
        told = tr("none chosen")
        if self._selected is not None:
            told = f"{self._volumes[self._selected].name}, {self._sizes[self._selected]} {unit}"
        self.setAccessibleDescription(told)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(200, max(len(self._volumes), 1) * ROW)

    def _switch_at(self, at: QPointF) -> str | None:
        from_right = int((self.width() - BAR - at.x()) // SWITCH)
        return SWITCHES[2 - from_right] if 0 <= from_right < 3 else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not 0 <= event.position().y() // ROW < len(self._volumes):
            return
        row = int(event.position().y() // ROW)
        switch = self._switch_at(event.position())
        if switch is not None:
            self.switched.emit(switch, row)
            return
        more = event.modifiers() & (
            Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
        )
        self.chosen.emit(row, bool(more))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        switch = {Qt.Key.Key_S: "show", Qt.Key.Key_T: "see-through", Qt.Key.Key_L: "lock"}.get(
            Qt.Key(event.key())
        )
        if step and self._volumes and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.moved.emit(step)
        elif step and self._volumes:
            at = -1 if self._selected is None else self._selected
            more = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.chosen.emit(min(max(at + step, 0), len(self._volumes) - 1), more)
        elif switch and self._selected is not None:
            self.switched.emit(switch, self._selected)
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent):
            switch = self._switch_at(QPointF(event.pos()))
            row = event.pos().y() // ROW
            words = TIPS[switch] if switch else ""
            if not words and 0 <= row < len(self._volumes):
                words = _about(self._volumes[row])
            QToolTip.showText(event.globalPos(), words, self)
            return True
        return super().event(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._volumes:
            painter.setPen(QColor(self.room.soft_ink))
            painter.setFont(font(italic=True))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, tr("None yet."))
        for number in range(len(self._volumes)):
            self._paint_row(painter, number)
        if self.hasFocus():
            painter.setPen(QPen(QColor(self.room.field_line), 1.0, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()

    def _paint_row(self, painter: QPainter, number: int) -> None:
        volume, size = self._volumes[number], self._sizes[number]
        row = QRect(0, number * ROW, self.width(), ROW)
        chosen, lead = number in self._chosen, number == self._selected
        if chosen:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(MARKER))
            painter.drawPolygon(_swipe(row.adjusted(0, 0, -3 * SWITCH - BAR - 2, 0)))
        ink = QColor("#1f2426" if chosen else self.room.ink)
        soft = QColor("#3a3a30" if chosen else self.room.soft_ink)
        painter.setPen(ink if volume.shown else soft)
        painter.setFont(font(bold=lead, italic=volume.ghost or volume.like is not None))
        indent = 14 if volume.on is not None or volume.like is not None else 6
        inner = row.adjusted(indent, 0, -3 * SWITCH - BAR - 6, 0)
        plain = painter.fontMetrics().horizontalAdvance(volume.name)
        room_for_size = inner.width() - plain - 8
        painter.setFont(font(bold=lead, italic=volume.ghost or volume.like is not None))
        short = painter.fontMetrics().elidedText(
            volume.name, Qt.TextElideMode.ElideRight, inner.width()
        )
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter, short)
        painter.setFont(font())
        if painter.fontMetrics().horizontalAdvance(size) <= room_for_size:
            painter.setPen(soft)
            right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
            painter.drawText(inner, right, size)
        for place, switch in enumerate(SWITCHES):
            middle = QPointF(self.width() - BAR - (2.5 - place) * SWITCH, row.top() + ROW / 2)
            self._paint_switch(painter, switch, middle, volume)

    def _paint_switch(self, painter: QPainter, switch: str, at: QPointF, volume: Volume) -> None:
        on = QPen(QColor(self.room.ink), 1.5)
        off = QPen(QColor(self.room.field_line), 1.2)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if switch == "show":
            painter.setPen(on if volume.shown else off)
            painter.drawArc(QRectF(at.x() - 6, at.y() - 4, 12, 12), 30 * 16, 120 * 16)
            painter.drawArc(QRectF(at.x() - 6, at.y() - 8, 12, 12), 210 * 16, 120 * 16)
            if volume.shown:
                painter.setBrush(QColor(self.room.ink))
                painter.drawEllipse(at, 1.6, 1.6)
        elif switch == "see-through":
            pen = off if volume.see_through is None else QPen(on)
            if volume.see_through:
                pen.setDashPattern([2.0, 1.6])
            painter.setPen(pen)
            painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))
        else:
            painter.setPen(on if volume.locked else off)
            painter.drawRect(QRectF(at.x() - 5, at.y() - 1, 10, 7))
            shift = 0.0 if volume.locked else 4.0
            painter.drawArc(QRectF(at.x() - 3 + shift, at.y() - 6, 6, 9), 0, 180 * 16)


def _about(volume: Volume) -> str:
    words = [f"{volume.name}: {volume.called}"]
    words += [f"in {volume.group}"] if volume.group else []
    words += ["stands on another"] if volume.on is not None else []
    words += ["follows its source"] if volume.like is not None else []
    words += ["ghost"] if volume.ghost else []
    return ", ".join(words) + "."


def _swipe(row: QRect) -> QPolygon:
    top, bottom = row.top() + 3, row.bottom() - 2
    return QPolygon(
        [
            QPoint(row.left(), top + 1),
            QPoint(row.right(), top - 1),
            QPoint(row.right() - 2, bottom),
            QPoint(row.left() + 1, bottom + 1),
        ]
    )

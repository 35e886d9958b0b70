"""The steps of a build order in chapters, each with a tick."""

from enum import IntEnum
from typing import NamedTuple

from PyQt6.QtCore import (
    QAbstractListModel,
    QModelIndex,
    QRect,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QListView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from isometron.construction.steps import Order
from isometron.document.document import Document
from isometron.ui.parts.theme import DARK, font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

BOX, PAD = 13, 5
"""Size of a tick box, and the room round it, px."""

HEADING = -1


class Line(NamedTuple):
    """One row: a heading, or a step with its number."""

    text: str
    key: str
    number: int = HEADING


class Told(IntEnum):
    """What a row tells besides its words."""

    KEY = Qt.ItemDataRole.UserRole
    NUMBER = Qt.ItemDataRole.UserRole + 1


class StepModel(QAbstractListModel):
    """Chapters and steps of an order; emits `ticked` (key, done) when a step is checked."""

    ticked = pyqtSignal(str, bool)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.lines: list[Line] = []
        self._done: frozenset[str] = frozenset()

    def show_order(self, document: Document, order: Order | None) -> None:
        """Show an order; where only ticks differ the rows stay."""
        lines, number = [], -1
        for chapter in order.chapters if order is not None else ():
            lines.append(Line(chapter.title, chapter.key))
            for step in chapter.steps:
                number += 1
                if step.key not in document.building.hidden:
                    lines.append(Line(f"{number + 1}. {step.text}", step.key, number))
        done = frozenset(document.building.done)
        if lines == self.lines:
            self._done = done
            if lines:
                self.dataChanged.emit(self.index(0), self.index(len(lines) - 1))
            return
        self.beginResetModel()
        self.lines, self._done = lines, done
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.lines)

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        flags = Qt.ItemFlag.ItemIsEnabled
        if self.lines[index.row()].number != HEADING:
            flags |= Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsUserCheckable
        return flags

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        line = self.lines[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return line.text
        if role == Told.KEY:
            return line.key
        if role == Told.NUMBER:
            return line.number
        if role == Qt.ItemDataRole.CheckStateRole and line.number != HEADING:
            done = line.key in self._done
            return Qt.CheckState.Checked if done else Qt.CheckState.Unchecked
        return None

    def setData(
        self, index: QModelIndex, value: object, role: int = Qt.ItemDataRole.EditRole
    ) -> bool:
        if role != Qt.ItemDataRole.CheckStateRole:
            return False
        done = Qt.CheckState(value) == Qt.CheckState.Checked
        self.ticked.emit(self.lines[index.row()].key, done)
        return True


class StepRow(QStyledItemDelegate):
    """Paints one row: a bold heading, or a step with its box, in as many lines as it takes."""

    def __init__(self, wishes: Wishes, parent: QWidget) -> None:
        super().__init__(parent)
        self.wishes = wishes

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        width = _width(option)
        inner = _words_in(QRect(0, 0, width, 2000), index)
        metrics = option.fontMetrics
        rows = metrics.boundingRect(inner, Qt.TextFlag.TextWordWrap, index.data())
        return QSize(width, rows.height() + 8)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        view = option.widget
        if painter is None or not isinstance(view, QAbstractItemView):
            return
        heading = index.data(Told.NUMBER) == HEADING
        current = view.currentIndex() == index and not heading
        room, done = self.wishes.room, index.data(Qt.ItemDataRole.CheckStateRole)
        ticked = done == Qt.CheckState.Checked
        painter.save()
        if current:
            painter.fillRect(option.rect, QColor(room.lamp))
        ink = DARK if current else room.soft_ink if ticked else room.ink
        painter.setPen(QColor(ink))
        painter.setFont(font(bold=heading))
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(_words_in(option.rect, index), flags, index.data())
        if not heading:
            _paint_tick(painter, box_in(option.rect), QColor(ink), ticked=ticked)
        painter.restore()


def _width(option: QStyleOptionViewItem) -> int:
    view = option.widget
    port = view.viewport() if isinstance(view, QAbstractItemView) else None
    return max(port.width() if port is not None else 220, 120)


def box_in(row: QRect) -> QRect:
    """Where the tick box of a row lies."""
    return QRect(row.left() + PAD, row.center().y() - BOX // 2, BOX, BOX)


def _words_in(row: QRect, index: QModelIndex) -> QRect:
    indent = PAD if index.data(Told.NUMBER) == HEADING else BOX + 2 * PAD
    return row.adjusted(indent, 0, -PAD, 0)


def _paint_tick(painter: QPainter, box: QRect, colour: QColor, *, ticked: bool) -> None:
    painter.setPen(QPen(colour, 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(box)
    if ticked:
        painter.setPen(QPen(colour, 2.0))
        low = box.bottomLeft()
        painter.drawLine(low.x() + 3, low.y() - 6, low.x() + 5, low.y() - 3)
        painter.drawLine(low.x() + 5, low.y() - 3, low.x() + 10, low.y() - 10)


class StepList(QListView):
    """Emits `turned` (number of a step) when another step is chosen, `ticked` (key, done)."""

    turned = pyqtSignal(int)
    ticked = pyqtSignal(str, bool)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self._filling = False
        self.setWordWrap(True)
        self.setAccessibleName(_("Steps of the build order"))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.rows = StepModel(self)
        self.rows.ticked.connect(self.ticked)
        self._row = StepRow(wishes, self)
        self.setModel(self.rows)
        self.setItemDelegate(self._row)

    def show_order(self, document: Document, order: Order | None) -> None:
        """Show an order; the chosen step stays chosen by its key."""
        known = self.current_key()
        self._filling = True
        self.rows.show_order(document, order)
        self._filling = False
        self.choose_key(known)

    def steps(self) -> list[QModelIndex]:
        """The rows that are steps."""
        lines = enumerate(self.rows.lines)
        return [self.rows.index(row) for row, line in lines if line.number != HEADING]

    def current_key(self) -> str | None:
        """The key of the chosen step."""
        index = self.currentIndex()
        return str(index.data(Told.KEY)) if index.isValid() else None

    @property
    def number(self) -> int | None:
        """The number of the chosen step."""
        number = self.currentIndex().data(Told.NUMBER)
        return None if number is None or number == HEADING else int(number)

    def choose_key(self, key: str | None) -> None:
        """Choose a step by its key, else the first one."""
        steps = self.steps()
        found = next((i for i in steps if i.data(Told.KEY) == key), steps[0] if steps else None)
        if found is not None and found != self.currentIndex():
            self.setCurrentIndex(found)

    def move_on(self, step: int) -> None:
        """The next step (1) or the one before (−1)."""
        steps, now = self.steps(), self.currentIndex()
        at = steps.index(now) if now in steps else -1 if step > 0 else 0
        if steps:
            self.setCurrentIndex(steps[min(max(at + step, 0), len(steps) - 1)])

    def tick(self, index: QModelIndex) -> None:
        """Tick a step off, or let it be undone again."""
        ticked = index.data(Qt.ItemDataRole.CheckStateRole) == Qt.CheckState.Checked
        after = Qt.CheckState.Unchecked if ticked else Qt.CheckState.Checked
        self.rows.setData(index, after, Qt.ItemDataRole.CheckStateRole)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            at = event.position().toPoint()
            index = self.indexAt(at)
            step = index.isValid() and index.data(Told.NUMBER) != HEADING
            if step and box_in(self.visualRect(index)).adjusted(-4, -4, 4, 4).contains(at):
                self.tick(index)
                return
        super().mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space and self.number is not None:
            self.tick(self.currentIndex())
        else:
            super().keyPressEvent(event)

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        number = current.data(Told.NUMBER)
        if not self._filling and number is not None and number != HEADING:
            self.scrollTo(current, QAbstractItemView.ScrollHint.PositionAtCenter)
            self.turned.emit(int(number))

"""Readings: what is picked, in words and numbers."""

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QRect, Qt
from PyQt6.QtGui import QColor, QPainter, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QHeaderView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QWidget,
)

from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

LINE = 19
MOST = 7
"""So many lines are seen at once; more are scrolled, so that what lies below holds still."""

BETWEEN = 8
"""Least room between label and value of a row, px."""


class ReadingModel(QAbstractTableModel):
    """Labels and values of a reading."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.told: list[tuple[str, str]] = []

    def show_rows(self, told: list[tuple[str, str]]) -> None:
        """Show other rows; where only values differ the rows stay."""
        if told == self.told:
            return
        same = [label for label, _value in told] == [label for label, _value in self.told]
        if same:
            self.told = told
            self.dataChanged.emit(self.index(0, 0), self.index(len(told) - 1, 1))
            return
        self.beginResetModel()
        self.told = told
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.told)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else 2

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return self.told[index.row()][index.column()]
        return None


class ReadingCell(QStyledItemDelegate):
    """Paints label and value of a row across both columns, so that a long value may stand under a
    long label of another row."""

    def __init__(self, wishes: Wishes, parent: QWidget) -> None:
        super().__init__(parent)
        self.wishes = wishes

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        view = option.widget
        port = view.viewport() if isinstance(view, QTableView) else None
        if painter is None or port is None:
            return
        held = isinstance(view, ReadingTable) and view.held
        line = QRect(0, option.rect.top(), port.width() - 4 * held, option.rect.height())
        room, right = self.wishes.room, bool(index.column())
        painter.setPen(QColor(room.ink if right else room.soft_ink))
        side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
        down = Qt.AlignmentFlag.AlignVCenter
        if isinstance(view, ReadingTable) and view.takes_two(index.row()):
            down = Qt.AlignmentFlag.AlignBottom if right else Qt.AlignmentFlag.AlignTop
        painter.drawText(line, side | down, index.data())


class ReadingTable(QTableView):
    """Label and value in two columns, closer together where they would not all fit."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.held = False
        """Whether there are more lines than are seen at once."""
        self.rows = ReadingModel(self)
        self._cell = ReadingCell(wishes, self)
        self.setModel(self.rows)
        self.setItemDelegate(self._cell)
        self.setProperty("bare", True)
        self.setAccessibleName(_("Readings"))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setFixedHeight(MOST * scaled(LINE))
        self.setWordWrap(False)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        across, down = self.horizontalHeader(), self.verticalHeader()
        assert across is not None and down is not None
        across.hide()
        down.hide()
        down.setMinimumSectionSize(10)
        across.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.rows.modelReset.connect(self._space)
        self.rows.dataChanged.connect(self._space)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._space()

    def takes_two(self, row: int) -> bool:
        """Whether label and value of a row stand below each other: they do not fit side by side."""
        label, value = self.rows.told[row]
        wide = self.fontMetrics().horizontalAdvance
        return wide(label) + wide(value) + BETWEEN > self.width()

    def _space(self) -> None:
        down = self.verticalHeader()
        if down is None or not self.rows.rowCount():
            return
        lines = [2 if self.takes_two(row) else 1 for row in range(self.rows.rowCount())]
        line = scaled(LINE)
        for row, high in enumerate(lines):
            if down.sectionSize(row) != high * line:
                down.resizeSection(row, high * line)
        self.held = held = sum(lines) > MOST
        self.setVerticalScrollBarPolicy(
            Qt.ScrollBarPolicy.ScrollBarAlwaysOn if held else Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        )

"""Remarks as rows of a list: the model, and one remark painted with its buttons."""

from collections.abc import Sequence
from enum import IntEnum
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import (
    QAbstractItemModel,
    QAbstractListModel,
    QEvent,
    QModelIndex,
    QPoint,
    QRect,
    QSize,
    Qt,
)
from PyQt6.QtGui import (
    QColor,
    QMouseEvent,
    QPainter,
    QPen,
)
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionButton,
    QStyleOptionViewItem,
    QWidget,
)

from isometron.remarks.picked import RemarkPick
from isometron.remarks.remark import Remark, Remedy, Severity
from isometron.remarks.second_look import set_aside
from isometron.ui.parts.shell import STRIP_HEIGHT as HEIGHT
from isometron.ui.parts.theme import DOUBTFUL, GAP, NOTE, SERIOUS, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

SHOWN = 2
"""Remarks side by side; more are a click away."""

COLOURS = {Severity.SERIOUS: SERIOUS, Severity.DOUBTFUL: DOUBTFUL, Severity.NOTE: NOTE}
STRIPE, LEFT, TOP, BUTTON = 6, 14, 5, 26


ASIDE = _("As I want it")

NARROW = 760
"""Less room than this, px at the usual size of text, holds one remark."""


def shown_within(width: int) -> int:
    """How many remarks stand side by side in so much room."""
    return SHOWN if width >= scaled(NARROW) else 1


class Told(IntEnum):
    """What a row tells besides its words."""

    REMARK = Qt.ItemDataRole.UserRole
    REMEDY = Qt.ItemDataRole.UserRole + 1


class RemarkModel(QAbstractListModel):
    """Remarks, and the remedies of those whose remedy has been looked for."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.remarks: list[Remark] = []
        self.keys: list[str] = []
        """What each remark is set aside by."""
        self._remedies: dict[int, Remedy | None] = {}

    def show_remarks(self, remarks: Sequence[Remark]) -> None:
        """Show other remarks; their remedies are looked for when they are seen."""
        if [id(r) for r in remarks] == [id(r) for r in self.remarks]:
            return
        same = len(remarks) == len(self.remarks)
        if not same:
            self.beginResetModel()
        known = {
            id(r): self._remedies[i] for i, r in enumerate(self.remarks) if i in self._remedies
        }
        self.remarks = list(remarks)
        self._remedies = {i: known[id(r)] for i, r in enumerate(remarks) if id(r) in known}
        if not same:
            self.endResetModel()
        elif remarks:
            self.dataChanged.emit(self.index(0), self.index(len(remarks) - 1))

    def solved(self, row: int) -> bool:
        """Whether the remedy of a remark has been looked for."""
        return row in self._remedies

    def solve(self, row: int) -> Remedy | None:
        """The remedy of a remark, looked for now if it has not been."""
        if row not in self._remedies:
            self._remedies[row] = self.remarks[row].remedy()
            self.dataChanged.emit(self.index(row), self.index(row))
        return self._remedies[row]

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.remarks)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        remark = self.remarks[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return remark.title
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return f"{remark.title}. {remark.text}"
        if role == Told.REMARK:
            return remark
        if role == Told.REMEDY:
            return self._remedies.get(index.row())
        return None


class Face(NamedTuple):
    """Where title, words and buttons of a remark lie in its row."""

    card: QRect
    title: QRect
    words: QRect
    cure: QRect
    show: QRect
    aside: QRect


class RemarkRow(QStyledItemDelegate):
    """Paints one remark as a small card with its buttons."""

    def __init__(
        self, wishes: Wishes, look: QPushButton, rows: RemarkModel, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.wishes, self._look, self._rows = wishes, look, rows

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        view = option.widget
        port = view.viewport() if isinstance(view, QAbstractItemView) else None
        if port is None:
            return QSize(300, HEIGHT)
        beside = min(max(self._rows.rowCount(), 1), shown_within(port.width()))
        return QSize(-(-port.width() // beside), port.height())

    def face(self, row: QRect, remedy: Remedy | None) -> Face:
        """Where things lie in a row."""
        card = row.adjusted(0, 0, -GAP, 0)
        show = QRect(0, 0, self._width(_("Show")), scaled(BUTTON))
        aside = QRect(0, 0, self._width(ASIDE), scaled(BUTTON))
        aside.moveTopRight(card.topRight() + QPoint(-8, TOP))
        show.moveTopRight(aside.topLeft() - QPoint(6, 0))
        cure = QRect(0, 0, self._width(remedy.label) if remedy else 0, scaled(BUTTON))
        cure.moveTopRight(show.topLeft() - QPoint(6, 0))
        right = cure.left() if remedy else show.left()
        wide = right - card.left() - LEFT - 6
        title = QRect(card.left() + LEFT, show.top(), wide, scaled(BUTTON))
        words = card.adjusted(LEFT, TOP + scaled(BUTTON) + 1, -8, -6)
        return Face(card, title, words, cure, show, aside)

    def _width(self, words: str) -> int:
        return self._look.fontMetrics().horizontalAdvance(words) + 20

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        if painter is None:
            return
        remark: Remark = index.data(Told.REMARK)
        remedy: Remedy | None = index.data(Told.REMEDY)
        face, room = self.face(option.rect, remedy), self.wishes.room
        view = option.widget
        painter.save()
        painter.fillRect(face.card, QColor(room.card))
        stripe = QRect(face.card.topLeft(), QSize(STRIPE, face.card.height()))
        painter.fillRect(stripe, QColor(COLOURS[remark.severity]))
        painter.setPen(QColor(room.ink))
        painter.setFont(font(bold=True))
        title = painter.fontMetrics().elidedText(
            remark.title, Qt.TextElideMode.ElideRight, face.title.width()
        )
        painter.drawText(face.title, Qt.AlignmentFlag.AlignVCenter, title)
        painter.setFont(font())
        painter.drawText(face.words, Qt.TextFlag.TextWordWrap, remark.text)
        if remedy is not None:
            self._button(painter, option, face.cure, remedy.label)
        if remark.rule:
            self._button(painter, option, face.show, _("Show"))
            self._button(painter, option, face.aside, ASIDE)
        current = isinstance(view, QAbstractItemView) and view.currentIndex() == index
        if current and isinstance(view, QWidget) and view.hasFocus():
            painter.setPen(QPen(QColor(room.focus), 2.0))
            painter.drawRect(face.card.adjusted(1, 1, -1, -1))
        painter.restore()

    def _button(
        self, painter: QPainter, option: QStyleOptionViewItem, at: QRect, words: str
    ) -> None:
        style = self._look.style()
        view = option.widget
        if style is None or not isinstance(view, QAbstractItemView):
            return
        made = QStyleOptionButton()
        made.initFrom(self._look)
        made.rect, made.text = at, words
        made.state = QStyle.StateFlag.State_Enabled | QStyle.StateFlag.State_Raised
        port = view.viewport()
        if port is not None and at.contains(port.mapFromGlobal(port.cursor().pos())):
            made.state |= QStyle.StateFlag.State_MouseOver
        style.drawControl(QStyle.ControlElement.CE_PushButton, made, painter, self._look)

    def editorEvent(
        self,
        event: QEvent | None,
        model: QAbstractItemModel | None,
        option: QStyleOptionViewItem,
        index: QModelIndex,
    ) -> bool:
        """Clicks on the buttons; Return cures, Space shows the place."""
        pressed = isinstance(event, QMouseEvent) and event.type() == event.Type.MouseButtonRelease
        remark: Remark = index.data(Told.REMARK)
        remedy: Remedy | None = index.data(Told.REMEDY)
        face = self.face(option.rect, remedy)
        if isinstance(event, QMouseEvent) and pressed and remark.rule:
            at = event.position().toPoint()
            if remedy is not None and face.cure.contains(at):
                cure(self.wishes, remedy, remark)
            elif face.show.contains(at) or not face.aside.contains(at):
                self.show_place(index.row())
            elif face.aside.contains(at):
                self.wishes.edit(
                    _("set a remark aside"), partial(set_aside, key=self._rows.keys[index.row()])
                )
            return True
        return False

    def show_place(self, row: int) -> None:
        """Circle the place of a remark, and pick it."""
        remark = self._rows.remarks[row]
        self.wishes.pick(RemarkPick(-1, 0, remark, self._rows.keys[row], self._rows.solve(row)))
        self.wishes.show_place(remark.sheet_mm)


def cure(wishes: Wishes, remedy: Remedy, remark: Remark) -> None:
    """Wish for the remedy of a remark."""
    if wishes.edit(remedy.label.lower(), remedy.edit):
        wishes.log("remark", remark.title, f"{remark.text} {remedy.label}.")

"""Second look along the foot: the remarks, worst first, each with a place and maybe a remedy."""

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
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QListView,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionButton,
    QStyleOptionViewItem,
    QToolTip,
    QVBoxLayout,
    QWidget,
)

from isometron.remarks.remark import Remark, Remedy, Severity
from isometron.remarks.second_look import call_back, set_aside
from isometron.ui.parts.plain import Label, plain_tip
from isometron.ui.parts.shell import STRIP_HEIGHT as HEIGHT
from isometron.ui.parts.theme import DOUBTFUL, GAP, NOTE, SERIOUS, TITLE_PT, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many

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
        if isinstance(event, QMouseEvent) and pressed:
            at = event.position().toPoint()
            if remedy is not None and face.cure.contains(at):
                self.cure(remedy)
            elif face.show.contains(at):
                self.wishes.show_place(remark.sheet_mm)
            elif face.aside.contains(at) and isinstance(option.widget, RemarkList):
                self.wishes.edit(
                    _("set a remark aside"), partial(set_aside, key=option.widget.keys[index.row()])
                )
            return True
        return False

    def cure(self, remedy: Remedy) -> None:
        """Wish for a remedy."""
        self.wishes.edit(remedy.label.lower(), remedy.edit)


class RemarkList(QListView):
    """The remarks side by side."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(_("Remarks"))
        self.setProperty("bare", True)
        self.setFlow(QListView.Flow.LeftToRight)
        self.setWrapping(False)
        self.setMouseTracking(True)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerItem)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.rows = RemarkModel(self)
        self.keys: list[str] = []
        self._look = QPushButton(self)
        self._look.hide()
        self.row = RemarkRow(wishes, self._look, self.rows, self)
        self.setModel(self.rows)
        self.setItemDelegate(self.row)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    @property
    def beside(self) -> int:
        """How many remarks stand side by side."""
        port = self.viewport()
        return SHOWN if port is None else shown_within(port.width())

    def in_view(self) -> list[int]:
        """The rows that can be seen."""
        first = self.first_in_view()
        return list(range(first, min(first + self.beside, self.rows.rowCount())))

    def first_in_view(self) -> int:
        """The row at the left."""
        index = self.indexAt(QPoint(2, 2))
        return index.row() if index.isValid() else 0

    def solve_in_view(self) -> bool:
        """Look for one remedy that can be seen and has not been looked for; gives whether there was
        one."""
        for row in self.in_view():
            if not self.rows.solved(row):
                self.rows.solve(row)
                return True
        return False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        index = self.currentIndex()
        if event is not None and index.isValid() and event.key() in RETURN:
            remedy = self.rows.solve(index.row())
            if remedy is not None:
                self.row.cure(remedy)
        elif event is not None and index.isValid() and event.key() == Qt.Key.Key_Space:
            self.wishes.show_place(index.data(Told.REMARK).sheet_mm)
        else:
            super().keyPressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        super().mouseMoveEvent(event)
        port = self.viewport()
        if port is not None:
            port.update()  # buttons light up under the pointer

    def viewportEvent(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent):
            index = self.indexAt(event.pos())
            if index.isValid():
                face = self.row.face(self.visualRect(index), index.data(Told.REMEDY))
                words = index.data(Told.REMARK).title
                if face.show.contains(event.pos()):
                    words = _("Circle the place on the sheet.")
                elif face.cure.contains(event.pos()):
                    words = _("Put it right; undo takes it back.")
                elif face.aside.contains(event.pos()):
                    words = _("This is as I want it: set the remark aside for this sheet.")
                QToolTip.showText(event.globalPos(), plain_tip(words), self)
            return True
        return super().viewportEvent(event)


RETURN = (Qt.Key.Key_Return, Qt.Key.Key_Enter)


class SecondLookStrip(QWidget):
    """The strip along the foot."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(_("Second look"))
        self.setFixedHeight(scaled(HEIGHT))
        row = QHBoxLayout(self)
        row.setContentsMargins(GAP, 6, 0, 8)
        row.setSpacing(GAP)
        row.addLayout(self._head())
        self.list = RemarkList(wishes)
        row.addWidget(self.list, 1)
        self._silence = Label(_("Nothing to remark."))
        self._silence.setProperty("onfelt", True)
        self._silence.setFont(font(italic=True))
        row.addWidget(self._silence, 1)

    def _tell_place(self) -> None:
        """Which of how many remarks are seen."""
        count, seen = len(self.remarks), self.list.in_view()
        if len(seen) >= count or not seen:
            told = many("{n} remark", "{n} remarks", count).format(n=count)
        else:
            some = str(seen[0] + 1) if len(seen) == 1 else f"{seen[0] + 1}–{seen[-1] + 1}"
            told = _("{some} of {n}").format(some=some, n=count)
        self._count.setText(told)

    def _head(self) -> QVBoxLayout:
        title = Label(_("Second look"))
        title.setProperty("onfelt", True)
        title.setFont(font(TITLE_PT, bold=True))
        self._count = Label()
        self._count.setProperty("onfelt", True)
        self._more = QPushButton(_("More"))
        self._more.setToolTip(_("Show the next remarks."))
        self._more.clicked.connect(self._turn_over)
        self._back = QPushButton()
        self._back.setToolTip(_("Call back the remarks you have set aside for this sheet."))
        self._back.clicked.connect(
            lambda _on=False: self.wishes.edit(_("call remarks back"), call_back)
        )
        beside = QHBoxLayout()
        beside.setSpacing(4)
        for button in (self._more, self._back):
            button.setProperty("small", True)
            button.hide()
            beside.addWidget(button)
        beside.addStretch(1)
        head = QVBoxLayout()
        head.setSpacing(2)
        head.addWidget(title)
        head.addWidget(self._count)
        head.addLayout(beside)
        head.addStretch(1)
        return head

    @property
    def remarks(self) -> list[Remark]:
        """The remarks shown."""
        return self.list.rows.remarks

    def show_remarks(
        self, remarks: Sequence[Remark], keys: Sequence[str] = (), aside: int = 0
    ) -> None:
        """Show these remarks, the first of them first; keys: what each is set aside by; aside: how
        many are."""
        self.list.keys = list(keys)
        others = [r.title for r in remarks] != [r.title for r in self.remarks]
        self.list.rows.show_remarks(remarks)
        if others:
            self.list.scrollToTop()
        count = len(remarks)
        self._count.setVisible(bool(count))
        self._back.setVisible(bool(aside))
        self._back.setText(many("{n} set aside", "{n} set aside", aside).format(n=aside))
        self._tell_place()
        self._more.setVisible(count > self.list.beside)
        self._silence.setVisible(not count)
        self.list.setVisible(bool(count))

    def solve_one(self) -> bool:
        """Look for one remedy that can be seen; gives whether there was one to look for."""
        return self.list.solve_in_view()

    def _turn_over(self) -> None:
        after = self.list.first_in_view() + self.list.beside
        row = after if after < len(self.remarks) else 0
        index = self.list.rows.index(row)
        self.list.scrollTo(index, QAbstractItemView.ScrollHint.PositionAtTop)
        while self.solve_one():
            pass
        self._tell_place()

"""Second look along the foot: the remarks, worst first, each with a place and maybe a remedy."""

from collections.abc import Sequence

from PyQt6.QtCore import (
    QEvent,
    QPoint,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QListView,
    QPushButton,
    QToolTip,
    QVBoxLayout,
    QWidget,
)

from isometron.remarks.remark import Remark, Severity, no_remedy
from isometron.remarks.second_look import call_back
from isometron.ui.cards.remark_row import SHOWN, RemarkModel, RemarkRow, Told, shown_within
from isometron.ui.parts.plain import Label, plain_tip
from isometron.ui.parts.shell import STRIP_HEIGHT as HEIGHT
from isometron.ui.parts.theme import GAP, TITLE_PT, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many


class RemarkList(QListView):
    """The remarks side by side. Emits `left` when the pointer leaves them."""

    left = pyqtSignal()

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

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        self.left.emit()

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
                self.row.cure(remedy, index.data(Told.REMARK))
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


def in_place(
    before: Sequence[Remark], known: Sequence[str], now: Sequence[Remark], keys: Sequence[str]
) -> tuple[list[Remark], list[str]]:
    """Remarks now, and their keys, each where one with its key was before; one that is gone stays
    as settled, without a rule; those that are new come last."""
    left = list(zip(now, keys, strict=True))
    found: list[tuple[Remark, str]] = []
    for remark, key in zip(before, known, strict=True):
        same = next((one for one in left if one[1] == key and key), None)
        if same is not None:
            left.remove(same)
            found.append(same)
        else:
            gone = remark._replace(
                rule="", severity=Severity.NOTE, text=_("Settled."), remedy=no_remedy
            )
            found.append((gone, ""))
    every = [*found, *left]
    return [remark for remark, _key in every], [key for _remark, key in every]


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
        self.list.left.connect(self._let_move)
        self._due: tuple[Sequence[Remark], Sequence[str], int] | None = None
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
        many are. While the pointer is among them none moves: what is settled says so and keeps its
        place, what is new comes last."""
        self._due = None
        if self.list.underMouse() and self.remarks:
            self._due = remarks, keys, aside
            remarks, keys = in_place(self.remarks, self.list.rows.keys, remarks, keys)
        self.list.rows.keys = list(keys)
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

    def _let_move(self) -> None:
        """The pointer has left: the remarks as they are now."""
        if self._due is not None:
            self.show_remarks(*self._due)

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

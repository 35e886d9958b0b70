"""Second look along the foot: the remarks, worst first, each with a place and maybe a remedy."""

from collections.abc import Sequence

from PyQt6.QtCore import (
    QEvent,
    QObject,
    QPoint,
    QRectF,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QColor,
    QFontMetricsF,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QHBoxLayout,
    QListView,
    QMenu,
    QPushButton,
    QSizePolicy,
    QToolTip,
    QVBoxLayout,
    QWidget,
)

from isometron.remarks.remark import Remark, Severity, no_remedy
from isometron.remarks.second_look import call_back
from isometron.render.painter import painting_on
from isometron.ui.cards.remark_row import (
    COLOURS,
    SHOWN,
    STRIPE,
    RemarkModel,
    RemarkRow,
    Told,
    cure,
    shown_within,
)
from isometron.ui.parts.plain import Label, plain_tip
from isometron.ui.parts.shell import STRIP_HEIGHT as HEIGHT
from isometron.ui.parts.theme import GAP, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many

OPEN_HEIGHT = 112
"""Height of all remarks while they are open, px."""


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
                cure(self.wishes, remedy, index.data(Told.REMARK))
        elif event is not None and index.isValid() and event.key() == Qt.Key.Key_Space:
            self.row.show_place(index.row())
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
                words = _("{title}: a click circles its place.").format(
                    title=index.data(Told.REMARK).title
                )
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
    """One line along the foot: how many remarks there are, and the worst. Opened, they lie upward
    over the felt and the foot of the paper; nothing else moves."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(_("Second look"))
        self.setFixedHeight(scaled(HEIGHT))
        self._due: tuple[Sequence[Remark], Sequence[str], int] | None = None
        self.line = RemarkLine(wishes)
        self.line.toggled.connect(self.open)
        row = QHBoxLayout(self)
        row.setContentsMargins(GAP, 0, GAP, 4)
        row.setSpacing(4)
        row.addWidget(self.line, 1)
        self.said = SaidButton()
        row.addWidget(self.said)
        self.sheet = QWidget(self)
        self.sheet.hide()
        self.list = RemarkList(wishes)
        self.list.left.connect(self._let_move)
        self._lay_sheet()

    def _lay_sheet(self) -> None:
        """What lies over the felt while it is open."""
        self.sheet.setObjectName("remarks")
        self.sheet.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._more = QPushButton(_("More"))
        self._more.setToolTip(_("Show the next remarks."))
        self._more.clicked.connect(self._turn_over)
        self._back = QPushButton()
        self._back.setToolTip(_("Call back the remarks you have set aside for this sheet."))
        self._back.clicked.connect(
            lambda _on=False: self.wishes.edit(_("call remarks back"), call_back)
        )
        self._count = Label()
        self._count.setProperty("onfelt", True)
        head = QVBoxLayout()
        head.setSpacing(4)
        head.addWidget(self._count)
        for button in (self._more, self._back):
            button.setProperty("small", True)
            button.hide()
            head.addWidget(button)
        head.addStretch(1)
        row = QHBoxLayout(self.sheet)
        row.setContentsMargins(GAP, 6, GAP, 6)
        row.setSpacing(GAP)
        row.addLayout(head)
        row.addWidget(self.list, 1)

    # Open and shut

    def open_over(self, desk: QWidget) -> None:
        """What opens lies over this widget."""
        self.sheet.setParent(desk)
        self.sheet.hide()
        desk.installEventFilter(self)

    @property
    def is_open(self) -> bool:
        """Whether all remarks are seen."""
        return self.line.isChecked()

    def open(self, on: bool) -> None:
        """Show all remarks over the felt, or the worst alone."""
        self.line.setChecked(on)
        if on:
            self._place()
            self.sheet.raise_()
        self.sheet.setVisible(on and bool(self.remarks or self._back.isVisibleTo(self.sheet)))

    def _place(self) -> None:
        """Just above the line, as wide as it."""
        desk = self.sheet.parentWidget()
        if desk is None or desk is self:
            return
        high = scaled(OPEN_HEIGHT)
        foot = self.mapTo(desk, QPoint(0, 0))
        self.sheet.setGeometry(foot.x(), foot.y() - high, self.width(), high)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Resize and self.is_open:
            self._place()
        return False

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self.is_open:
            self._place()

    # What is shown

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
        self._back.setVisible(bool(aside))
        self._back.setText(many("{n} set aside", "{n} set aside", aside).format(n=aside))
        self._more.setVisible(len(remarks) > self.list.beside)
        self.line.show_worst(remarks, aside)
        self._tell_place()
        if self.is_open:
            self.open(True)

    def _tell_place(self) -> None:
        """Which of how many remarks are seen."""
        count, seen = len(self.remarks), self.list.in_view()
        if len(seen) >= count or not seen:
            told = many("{n} remark", "{n} remarks", count).format(n=count)
        else:
            some = str(seen[0] + 1) if len(seen) == 1 else f"{seen[0] + 1}–{seen[-1] + 1}"
            told = _("{some} of {n}").format(some=some, n=count)
        self._count.setText(told)

    def _let_move(self) -> None:
        """The pointer has left: the remarks as they are now."""
        if self._due is not None:
            self.show_remarks(*self._due)

    def solve_one(self) -> bool:
        """Look for one remedy that can be seen; gives whether there was one to look for."""
        return self.is_open and self.list.solve_in_view()

    def _turn_over(self) -> None:
        after = self.list.first_in_view() + self.list.beside
        row = after if after < len(self.remarks) else 0
        index = self.list.rows.index(row)
        self.list.scrollTo(index, QAbstractItemView.ScrollHint.PositionAtTop)
        while self.solve_one():
            pass
        self._tell_place()


SAID_ROOM = 14
"""Room round the words of the button, px."""

MOST_SAID = 15
"""So many sentences are kept to be read."""


class SaidButton(QPushButton):
    """What was said, refused or told, kept until it is read: a press shows it, the last first."""

    def __init__(self) -> None:
        super().__init__()
        self.sentences: list[str] = []
        self._new = 0
        self.setProperty("small", True)
        self.setToolTip(_("What was refused or told, the last first."))
        self.clicked.connect(lambda _on=False: self._open())
        widest = many("{n} said", "{n} said", 99).format(n=99)
        self.setFixedWidth(self.fontMetrics().horizontalAdvance(widest) + SAID_ROOM)
        self._name()

    def keep(self, sentence: str) -> None:
        """Keep a sentence until it is read."""
        self.sentences = [sentence, *(one for one in self.sentences if one != sentence)][:MOST_SAID]
        self._new += 1
        self._name()

    def menu_of(self) -> QMenu:
        """What was said, to be read."""
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        for sentence in self.sentences or [_("Nothing was said yet.")]:
            menu.addAction(sentence.replace("&", "&&"))
        self._new = 0
        self._name()
        return menu

    def _open(self) -> None:
        menu = self.menu_of()
        menu.popup(self.mapToGlobal(QPoint(0, -menu.sizeHint().height())))

    def _name(self) -> None:
        told = many("{n} said", "{n} said", self._new).format(n=self._new)
        self.setText(told if self._new else _("Said"))
        self.setAccessibleName(self.text())


class RemarkLine(QAbstractButton):
    """How many remarks there are and the worst, in one line; a press opens all."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Expanding)
        self.setToolTip(_("All remarks, each with its place and its remedy (F5)."))
        self._worst: Remark | None = None
        self._count = self._aside = 0
        self.show_worst((), 0)

    def show_worst(self, remarks: Sequence[Remark], aside: int) -> None:
        """Say how many there are, and the first."""
        self._count, self._aside = len(remarks), aside
        self._worst = remarks[0] if remarks else None
        self.setText(self.words)
        self.setAccessibleName(self.words)
        self.update()

    @property
    def words(self) -> str:
        """All that it says."""
        if self._worst is None:
            return _("Nothing to remark.")
        return f"{self._head}  {self._worst.title}. {self._worst.text}"

    @property
    def _head(self) -> str:
        return many("{n} remark", "{n} remarks", self._count).format(n=self._count)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        room, worst = self.wishes.room, self._worst
        face = QRectF(self.rect())
        with painting_on(self) as painter:
            card = self.underMouse() or worst is not None
            painter.fillRect(face, QColor(room.card if card else room.felt_line))
            stripe = COLOURS[worst.severity] if worst is not None else room.felt_line
            painter.fillRect(QRectF(0, 0, STRIPE, face.height()), QColor(stripe))
            inside = face.adjusted(STRIPE + 8, 0, -8, 0)
            ink = QColor(room.ink if card else room.felt_soft)
            painter.setPen(ink)
            if worst is None:
                painter.setFont(font(italic=True))
                painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, self.words)
            else:
                self._paint_worst(painter, inside, worst)
            if self.hasFocus():
                painter.setPen(QPen(QColor(room.focus), 2.0))
                painter.drawRect(face.adjusted(1, 1, -1, -1))

    def _paint_worst(self, painter: QPainter, inside: QRectF, worst: Remark) -> None:
        more = _("shut ▾") if self.isChecked() else _("open ▴")
        plain, bold = QFontMetricsF(font()), QFontMetricsF(font(bold=True))
        end = plain.horizontalAdvance(more) + 10
        head = bold.horizontalAdvance(self._head) + 10
        painter.setFont(font(bold=True))
        painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, self._head)
        painter.setFont(font())
        words = inside.adjusted(head, 0, -end, 0)
        told = f"{worst.title}. {worst.text}"
        told = plain.elidedText(told, Qt.TextElideMode.ElideRight, words.width())
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, told)
        painter.setPen(QColor(self.wishes.room.soft_ink))
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(inside, int(right), more)

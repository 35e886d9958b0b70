"""Second look along the foot: the remarks, worst first, each with a place and maybe a remedy."""

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from isometron.remarks.remark import Remark, Remedy, Severity
from isometron.ui.parts.theme import DOUBTFUL, GAP, NOTE, SERIOUS, TITLE_PT, Room, font

SHOWN = 2
"""Remarks side by side; more are a click away."""

COLOURS = {Severity.SERIOUS: SERIOUS, Severity.DOUBTFUL: DOUBTFUL, Severity.NOTE: NOTE}
HEIGHT = 108


class RemarkCard(QWidget):
    """One remark. Emits `show_place` (remark) and `cure` (remedy)."""

    show_place = pyqtSignal(object)
    cure = pyqtSignal(object)

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.room = room
        self._remark: Remark | None = None
        self._remedy: Remedy | None = None
        self._title = QLabel()
        self._title.setFont(font(bold=True))
        self._title.setMinimumWidth(60)
        self._text = QLabel()
        self._text.setWordWrap(True)
        self._text.setAlignment(Qt.AlignmentFlag.AlignTop)
        self._show = QPushButton(self.tr("Show"))
        self._show.setToolTip(self.tr("Circle the place on the sheet."))
        self._show.clicked.connect(lambda: self.show_place.emit(self._remark))
        self._cure = QPushButton()
        self._cure.setToolTip(self.tr("Put it right; undo takes it back."))
        self._cure.clicked.connect(lambda: self.cure.emit(self._remedy))
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 5, 8, 6)
        column.setSpacing(1)
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(self._title, 1)
        head.addWidget(self._cure)
        head.addWidget(self._show)
        column.addLayout(head)
        column.addWidget(self._text, 1)

    def show_remark(self, remark: Remark | None) -> None:
        """Show a remark (None: nothing)."""
        self._remark = remark
        self.setVisible(remark is not None)
        if remark is None:
            return
        self._remedy = remark.remedy()
        self._title.setText(remark.title)
        self._title.setToolTip(remark.title)
        self._text.setText(remark.text)
        self._cure.setVisible(self._remedy is not None)
        if self._remedy is not None:
            self._cure.setText(self._remedy.label)
        self.setAccessibleName(remark.title)
        self.setAccessibleDescription(remark.text)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._remark is None:
            return
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.room.card))
        stripe = QColor(COLOURS[self._remark.severity])
        painter.fillRect(QRectF(0, 0, 6, self.height()), stripe)
        painter.end()


class SecondLookStrip(QWidget):
    """The strip along the foot. Emits `show_place` (remark) and `cure` (remedy)."""

    show_place = pyqtSignal(object)
    cure = pyqtSignal(object)

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.room = room
        self.setAccessibleName(self.tr("Second look"))
        self.setFixedHeight(HEIGHT)
        self._remarks: list[Remark] = []
        self._first = 0
        row = QHBoxLayout(self)
        row.setContentsMargins(GAP, 6, GAP, 8)
        row.setSpacing(GAP)
        row.addLayout(self._head())
        self.cards = [RemarkCard(room) for _ in range(SHOWN)]
        for card in self.cards:
            card.show_place.connect(self.show_place)
            card.cure.connect(self.cure)
            row.addWidget(card, 1)
        self._silence = QLabel(self.tr("Nothing to remark."))
        self._silence.setProperty("onfelt", True)
        self._silence.setFont(font(italic=True))
        row.addWidget(self._silence, 1)

    def _head(self) -> QVBoxLayout:
        title = QLabel(self.tr("Second look"))
        title.setProperty("onfelt", True)
        title.setFont(font(TITLE_PT, bold=True))
        self._count = QLabel()
        self._count.setProperty("onfelt", True)
        self._more = QPushButton(self.tr("More"))
        self._more.setToolTip(self.tr("Show the next remarks."))
        self._more.clicked.connect(self._turn_over)
        head = QVBoxLayout()
        head.setSpacing(2)
        head.addWidget(title)
        head.addWidget(self._count)
        head.addWidget(self._more, 0, Qt.AlignmentFlag.AlignLeft)
        head.addStretch(1)
        return head

    def show_room(self, room: Room) -> None:
        """Show the strip in another room."""
        self.room = room
        for card in self.cards:
            card.room = room
        self.update()

    def show_remarks(self, remarks: list[Remark]) -> None:
        """Show these remarks, the first of them first."""
        if [r.title for r in remarks] != [r.title for r in self._remarks]:
            self._first = 0
        self._remarks = remarks
        self._fill()

    def _turn_over(self) -> None:
        self._first = self._first + SHOWN if self._first + SHOWN < len(self._remarks) else 0
        self._fill()

    def _fill(self) -> None:
        shown = self._remarks[self._first : self._first + SHOWN]
        for number, card in enumerate(self.cards):
            card.show_remark(shown[number] if number < len(shown) else None)
        count = len(self._remarks)
        self._count.setText(self.tr("1 remark") if count == 1 else self.tr("%d remarks") % count)
        self._count.setVisible(bool(count))
        self._more.setVisible(count > SHOWN)
        self._silence.setVisible(not count)

"""What floats over the board: a plate with words at its head, a few switches at its foot."""

from PyQt6.QtCore import QCoreApplication, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout

from isometron.ui.board.board import Board
from isometron.ui.parts.theme import SERIOUS, Room

REFUSAL_MS = 7000


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("BoardFrame", text)


class BoardFrame(Board):
    """The board with its plate and switches."""

    see_through_wanted = pyqtSignal()
    fans_wanted = pyqtSignal()

    def __init__(self, room: Room) -> None:
        super().__init__(room)
        self.plate = QLabel(self)
        self.plate.setWordWrap(True)
        self.plate.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.plate.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.plate.hide()
        self._refusal = QTimer(self)
        self._refusal.setSingleShot(True)
        self._refusal.timeout.connect(lambda: self.say(""))
        self.hinted.connect(self._hint)
        self.see_through = self._switch(
            tr("See-through"), tr("Draw hidden edges in short dashes, or leave them out."), True
        )
        self.see_through.clicked.connect(self.see_through_wanted)
        self.fans = self._switch(
            tr("Fans"), tr("Draw the light lines to the vanishing points, or leave them out."), True
        )
        self.fans.clicked.connect(self.fans_wanted)
        sheet = self._switch(tr("Sheet"), tr("Bring the whole sheet into view (F2)."), False)
        sheet.clicked.connect(self.fit_sheet)
        whole = self._switch(
            tr("Whole board"),
            tr("Bring the sheet and every vanishing point into view (F3)."),
            False,
        )
        whole.clicked.connect(self.fit_board)
        foot = QHBoxLayout()
        foot.setSpacing(6)
        foot.addWidget(self.see_through)
        foot.addWidget(self.fans)
        foot.addStretch(1)
        foot.addWidget(sheet)
        foot.addWidget(whole)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 6)
        column.addWidget(self.plate, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addStretch(1)
        column.addLayout(foot)

    def _switch(self, text: str, tip: str, checkable: bool) -> QPushButton:
        button = QPushButton(text, self)
        button.setToolTip(tip)
        button.setCheckable(checkable)
        return button

    def _hint(self, words: str) -> None:
        if not self._refusal.isActive():
            self.say(words)

    def refuse(self, sentence: str) -> None:
        """Say why something cannot be done, for a few seconds."""
        self.say(sentence, serious=True)
        self._refusal.start(REFUSAL_MS)

    def say(self, words: str, *, serious: bool = False) -> None:
        """Words on the plate; none takes it away."""
        if not serious:
            self._refusal.stop()
        edge = SERIOUS if serious else self.room.field_line
        self.plate.setStyleSheet(
            f"background: {self.room.card}; color: {self.room.ink}; padding: 4px 12px;"
            f"border-left: 6px solid {edge};"
        )
        self.plate.setText(words)
        self.plate.setAccessibleName(words)
        self.plate.setVisible(bool(words))
        width = min(560, max(self.width() - 80, 200)) if words else 0
        self.plate.setMinimumWidth(width)
        self.plate.setMinimumHeight(self.plate.heightForWidth(width) if words else 0)

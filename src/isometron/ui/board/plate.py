"""A plate with words at the head of a board: what is under the pointer, what is refused, what has
been done."""

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QWidget

from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import SERIOUS
from isometron.ui.parts.wishes import Wishes

REFUSAL_MS, TOLD_MS = 7000, 7000
"""How long a refusal stands, and what has been done."""

WIDE, NARROW = 560, 200


class Plate(Label):
    """The plate of a board. `usual` is what it says when there is nothing else."""

    def __init__(self, wishes: Wishes, board: QWidget) -> None:
        super().__init__("", board)
        self._wishes, self._board = wishes, board
        self.usual = ""
        self.setWordWrap(True)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()
        self._stands = QTimer(self)
        self._stands.setSingleShot(True)
        self._stands.timeout.connect(self.clear_words)

    def hint(self, words: str) -> None:
        """What is under the pointer; a refusal or what has just been told stands a while."""
        if not self._stands.isActive():
            self.say(words)

    def refuse(self, sentence: str) -> None:
        """Say why something cannot be done, for a few seconds."""
        self.say(sentence, serious=True)
        self._stands.start(REFUSAL_MS)

    def tell(self, sentence: str) -> None:
        """Say what has been done, for a few seconds."""
        self.say(sentence)
        self._stands.start(TOLD_MS)

    def move_on(self) -> None:
        """What was refused or told before no longer speaks of what is shown."""
        if self._stands.isActive():
            self.clear_words()

    def clear_words(self) -> None:
        """Take the plate away, or say again what is usual."""
        self.say(self.usual)

    def say(self, words: str, *, serious: bool = False) -> None:
        """Words on the plate; none takes it away."""
        self._stands.stop()
        room = self._wishes.room
        edge = SERIOUS if serious else room.field_line
        self.setStyleSheet(
            f"background: {room.card}; color: {room.ink}; padding: 4px 12px;"
            f"border-left: 6px solid {edge};"
        )
        self.setText(words)
        self.setAccessibleName(words)
        self.setVisible(bool(words))
        width = min(WIDE, max(self._board.width() - 80, NARROW)) if words else 0
        self.setMinimumWidth(width)
        self.setMinimumHeight(self.heightForWidth(width) if words else 0)

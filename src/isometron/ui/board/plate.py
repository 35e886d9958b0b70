"""A plate with words at the head of a board: what is under the pointer, what is refused, what has
been done."""

from collections.abc import Sequence

from PyQt6.QtCore import QElapsedTimer, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import SERIOUS
from isometron.ui.parts.wishes import Wishes

REFUSAL_MS, TOLD_MS = 7000, 7000
"""How long a refusal stands, and what has been done."""

READ_MS, MOST_SENTENCES = 2500, 4
"""Nobody has read a sentence sooner: another one is said below it, of so many at most."""

WIDE, NARROW = 560, 200


class Plate(Label):
    """The plate of a board. `usual` is what it says when there is nothing else. Emits `said` when
    it says something."""

    said = pyqtSignal()

    def __init__(self, wishes: Wishes, board: QWidget) -> None:
        super().__init__("", board)
        self._wishes, self._board = wishes, board
        self.usual = ""
        self._standing: list[tuple[str, int]] = []
        """What was said, and when."""
        self._serious = self._passing = False
        self._hinted = ""
        self._age = QElapsedTimer()
        self._age.start()
        self.setWordWrap(True)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()
        self._stands = QTimer(self)
        self._stands.setSingleShot(True)
        self._stands.timeout.connect(self.clear_words)

    def hint(self, words: str) -> None:
        """What is under the pointer; a refusal or what has just been told stands a while: one that
        only waits to be read stands above it."""
        self._hinted = words
        if not self._stands.isActive():
            self.say(words)
        elif self._passing:
            self._put(
                [*(one for one, _at in self._standing), *([words] if words else [])], self._serious
            )

    def refuse(self, sentence: str) -> None:
        """Say why something cannot be done, for a few seconds."""
        self._stand(sentence, REFUSAL_MS, serious=True)

    def tell(self, sentence: str) -> None:
        """Say what has been done, for a few seconds."""
        self._stand(sentence, TOLD_MS, serious=False)

    def move_on(self) -> None:
        """What was refused or told before no longer speaks of what is shown; what nobody can have
        read yet stands on until it can be."""
        if self._stands.isActive() and not self._unread:
            self.clear_words()
        elif self._stands.isActive():
            self._passing = True
            last = max(at for _one, at in self._standing)
            self._stands.start(max(READ_MS - (self._age.elapsed() - last), 1))

    @property
    def _unread(self) -> list[tuple[str, int]]:
        """What was said so shortly ago that nobody can have read it."""
        now = self._age.elapsed()
        return [(one, at) for one, at in self._standing if now - at < READ_MS]

    def _stand(self, sentence: str, long_ms: int, *, serious: bool) -> None:
        """A sentence that stands a while, below those that nobody can have read yet."""
        before = self._unread if self._stands.isActive() else []
        said = [*(one for one in before if one[0] != sentence), (sentence, self._age.elapsed())]
        said = said[-MOST_SENTENCES:]
        serious = serious or (self._serious and len(said) > 1)
        self._passing = False
        self._put([one for one, _at in said], serious)
        self._standing, self._serious = said, serious
        self._stands.start(long_ms + READ_MS * (len(said) - 1))

    def clear_words(self) -> None:
        """Say again what is under the pointer or else usual; nothing takes the plate away."""
        self.say(self._hinted or self.usual)

    def say(self, words: str, *, serious: bool = False) -> None:
        """Words on the plate; none takes it away."""
        self._stands.stop()
        self._standing, self._passing = [], False
        self._put([words] if words else [], serious)

    def _put(self, said: Sequence[str], serious: bool) -> None:
        """Sentences below each other, as the plate shows them."""
        words = "\n".join(said)
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
        if words:
            self.said.emit()

"""The shell of a window: desk, paper and cards as Qt alone can paint them, shown at once, before
any font is loaded. What lies in it takes its place when it is ready."""

from collections.abc import Callable

from PyQt6.QtCore import QRect, QSize
from PyQt6.QtGui import QCloseEvent, QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QMainWindow, QWidget

from isometron.ui.parts.theme import GAP, PAPER, Room

SIZE = (1280, 800)
RAIL_WIDTH, COLUMN_WIDTH = 54, 264
BAR_HEIGHT, STRIP_HEIGHT = 30, 34
COLUMN_SHARES = (40, 60)
"""How the column is shared out between the card of the place of work and the slip."""

SHADOW = 3
"""Of a card on the felt, px."""

PAPER_SHARE = 0.84
"""How much of the board's width a lying sheet takes."""


FRAME = QSize(8, 32)
"""What the frame of a window may take beside what it holds, px."""


def within_screen(window: QWidget, wished: QSize) -> QSize:
    """A size of a window, no larger than its screen has room for with the window's frame."""
    screen = window.screen()
    return wished if screen is None else wished.boundedTo(screen.availableSize() - FRAME)


class Shell(QMainWindow):
    """A window that shows its furniture until `take` gives it what belongs in it."""

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.resize(*SIZE)
        self._furniture = Furniture(room)
        self.setCentralWidget(self._furniture)
        self._may_close: Callable[[], bool] | None = None

    def show_whole(self) -> None:
        """Show the window where all of it can be seen: over the whole of a small screen."""
        if within_screen(self, self.size()) == self.size():
            self.show()
        else:
            self.showMaximized()

    @property
    def painted(self) -> bool:
        """Whether the furniture has been painted."""
        return self._furniture.painted

    def take(self, window: QMainWindow, may_close: Callable[[], bool]) -> None:
        """Hold another window, its title and whether it may close."""
        self.setCentralWidget(window)
        window.windowTitleChanged.connect(self.setWindowTitle)
        self.setWindowTitle(window.windowTitle())
        self.setWindowModified(window.isWindowModified())
        self._may_close = may_close
        window.show()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is not None and self._may_close is not None and not self._may_close():
            event.ignore()


class Furniture(QWidget):
    """Felt, cards, a sheet of paper: where everything will lie."""

    def __init__(self, room: Room) -> None:
        super().__init__()
        self._room = room
        self.painted = False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, room = QPainter(self), self._room
        painter.fillRect(self.rect(), QColor(room.felt))
        painter.fillRect(QRect(0, 0, self.width(), BAR_HEIGHT), QColor(room.bar))
        for card in self._cards():
            painter.fillRect(card.translated(SHADOW, SHADOW), QColor(room.card_shade))
            painter.fillRect(card, QColor(room.card))
        painter.fillRect(self._paper(), QColor(PAPER))
        painter.end()
        self.painted = True

    def _work(self) -> QRect:
        """Between menu bar and second look."""
        return self.rect().adjusted(0, BAR_HEIGHT + GAP, 0, -STRIP_HEIGHT)

    def _cards(self) -> list[QRect]:
        work = self._work()
        x, y = self.width() - COLUMN_WIDTH, float(work.top())
        cards = []
        room = work.height() - GAP * (len(COLUMN_SHARES) - 1)
        for share in COLUMN_SHARES:
            high = room * share / sum(COLUMN_SHARES)
            cards.append(QRect(x, round(y), COLUMN_WIDTH - SHADOW, round(high) - SHADOW))
            y += high + GAP
        strip = STRIP_HEIGHT
        foot = QRect(RAIL_WIDTH + GAP, self.height() - strip, 0, strip - 4)
        foot.setRight(x - GAP)
        return [*cards, foot]

    def _paper(self) -> QRect:
        work = self._work()
        left, right = RAIL_WIDTH, self.width() - COLUMN_WIDTH
        wide = round((right - left) * PAPER_SHARE)
        high = round(wide * 297 / 420)
        paper = QRect(0, 0, wide, high)
        paper.moveCenter(QRect(left, work.top(), right - left, work.height()).center())
        return paper

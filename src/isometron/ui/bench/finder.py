"""The finder: any deed or command by any of its words, with its key told."""

from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QLineEdit, QWidget

from isometron.deeds.line import split_line
from isometron.ui.parts.theme import ROW, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

MOST = 12
"""So many answers are shown at most."""

WIDE = 420
"""Width of the answers, px."""


class Entry(NamedTuple):
    """Something that can be found: its words, what it does as a sentence, its key, other words it
    is found by, whether it can be done now, and the doing; what may be given to it in the same
    line, and the doing with that."""

    text: str
    tip: str
    key: str
    finds: str
    ready: bool
    run: Callable[[], object]
    takes: tuple[str, ...] = ()
    give: Callable[[str], object] | None = None


def found_line(entries: list[Entry], typed: str) -> tuple[list[Entry], str]:
    """The entries that are meant by a line, and what is given to them in it: as many of its first
    words as name any, what is called just so before all others, and among those what asks for what
    is named next."""
    words, values = split_line(typed)
    if not values:
        return found(entries, typed), ""
    givable = [one for one in entries if one.give is not None]
    named, after = words.split(), values
    parted = []  # the first words, and what is given after them
    while named:
        parted.append((" ".join(named), after))
        after = f"{named.pop()} {after}"
    for first, given in parted:
        called = [one for one in givable if one.text.rstrip("…").casefold() == first.casefold()]
        asked = [one for one in called if _begins_with(one.takes, given)]
        if asked or (called and given == values):
            return [*asked, *(one for one in called if one not in asked)], given
    for first, given in parted:
        takes = found(givable, first, own=True)
        if takes:
            return takes, given
    return found(entries, typed), ""


def _begins_with(names: tuple[str, ...], given: str) -> bool:
    """Whether what is given begins with one of some names."""
    return any(given.casefold().startswith(f"{name} ".casefold()) for name in names)


def found(entries: list[Entry], typed: str, *, own: bool = False) -> list[Entry]:
    """The entries that hold every word typed, those whose own words begin so first; own: only in
    their own words, or those they are found by."""
    words = typed.casefold().split()

    def rank(entry: Entry) -> tuple[int, ...] | None:
        text = entry.text.casefold()
        every = f"{text} {entry.finds} {'' if own else entry.tip}".casefold()
        if not all(word in every for word in words):
            return None
        begins = all(any(part.startswith(word) for part in text.split()) for word in words)
        within = all(word in f"{text} {entry.finds}".casefold() for word in words)
        whole = set(words) <= set(text.strip("…").split())
        return (not entry.ready, 0 if begins else 1 if within else 2, not whole, len(text))

    ranked = [(rank(entry), number) for number, entry in enumerate(entries)]
    return [entries[number] for at, number in sorted((r, n) for r, n in ranked if r is not None)]


class Answers(QWidget):
    """What is found, under the finder's field. It never has the keyboard."""

    def __init__(self, wishes: Wishes, parent: QWidget) -> None:
        super().__init__(parent)
        self.wishes = wishes
        self.entries: list[Entry] = []
        self.at = 0
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setMouseTracking(True)
        self.chosen: Callable[[int], object] = lambda _number: None
        self.hide()

    def show_entries(self, entries: list[Entry]) -> None:
        """Show some, the first in hand."""
        self.entries, self.at = entries[:MOST], 0
        self.resize(self.width(), max(len(self.entries), 1) * scaled(ROW) + 2)
        told = "; ".join(entry.text for entry in self.entries)
        self.setAccessibleName(told or _("Nothing is called so."))
        self.update()

    def row_at(self, at: QPoint) -> int | None:
        """The answer at a place."""
        row = (at.y() - 1) // scaled(ROW)
        return row if 0 <= row < len(self.entries) else None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        row = None if event is None else self.row_at(event.position().toPoint())
        if row is not None:
            self.at = row
            self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        row = None if event is None else self.row_at(event.position().toPoint())
        if row is not None:
            self.chosen(row)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, room = QPainter(self), self.wishes.room
        painter.fillRect(self.rect(), QColor(room.card))
        painter.setPen(QPen(QColor(room.field_line), 1.0))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        left = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        if not self.entries:
            painter.setPen(QColor(room.soft_ink))
            row = self.rect().adjusted(8, 0, -8, 0)
            painter.drawText(row, int(left), _("Nothing is called so."))
        for number, entry in enumerate(self.entries):
            row = QRect(1, 1 + number * scaled(ROW), self.width() - 2, scaled(ROW))
            if number == self.at:
                painter.fillRect(row, QColor(room.hover))
                painter.fillRect(QRect(row.left(), row.top(), 4, row.height()), QColor(room.lamp))
            inside = row.adjusted(10, 0, -8, 0)
            painter.setPen(QColor(room.ink if entry.ready else room.soft_ink))
            painter.setFont(font(bold=number == self.at and entry.ready))
            painter.drawText(inside, int(left), entry.text)
            used = painter.fontMetrics().horizontalAdvance(entry.text) + 14
            painter.setFont(font())
            painter.setPen(QColor(room.soft_ink))
            painter.drawText(inside, int(right), entry.key)
            ends = painter.fontMetrics().horizontalAdvance(entry.key) + (10 if entry.key else 0)
            told = inside.adjusted(used, 0, -ends, 0)
            words = entry.tip
            if number == self.at and entry.takes:
                words = f"… {', '.join(entry.takes)}"
            tip = painter.fontMetrics().elidedText(
                words, Qt.TextElideMode.ElideRight, max(told.width(), 0)
            )
            painter.drawText(told, int(left), tip)
        painter.end()


ASKS = (_("/  find a deed: push, thirds, print …"), _("/  find a deed"), "/")
"""What stands in the finder while nothing is typed: the first that fits."""

ROUND_WORDS = 18


class Finder(QLineEdit):
    """The field one types into. `entries` gives what can be found now."""

    def __init__(self, wishes: Wishes, parent: QWidget, entries: Callable[[], list[Entry]]) -> None:
        super().__init__(parent)
        self.wishes, self._entries = wishes, entries
        self._known: list[Entry] = []
        self._values = ""
        self._usual = 0
        self.setObjectName("finder")
        self.in_bar = True
        """Whether it stands in the bar; else it comes when it is called."""
        self.setAccessibleName(_("Find a deed"))
        self.setToolTip(_("Find any deed by any of its words (/ or Ctrl+K)."))
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.answers = Answers(wishes, parent)
        self.answers.chosen = self._run
        self.textEdited.connect(self._look)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        advance, room = self.fontMetrics().horizontalAdvance, self.width() - ROUND_WORDS
        self.setPlaceholderText(next((one for one in ASKS if advance(one) <= room), ASKS[-1]))

    def begin(self) -> None:
        """Take the keyboard and show what can be found."""
        self.setVisible(True)
        self.raise_()
        self.setFocus()
        self.selectAll()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        parent = self.parentWidget()
        assert parent is not None
        self._usual = self.width()  # a line needs room while it is typed
        self.resize(
            max(self._usual, min(scaled(WIDE), parent.width() - self.x() - 8)), self.height()
        )
        self.raise_()
        self._known = self._entries()
        self._look(self.text())

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.resize(self._usual, self.height())
        self.answers.hide()
        self.clear()
        self.setVisible(self.in_bar)

    def _look(self, typed: str) -> None:
        if not typed.strip():
            self.answers.hide()
            return
        parent = self.parentWidget()
        assert parent is not None
        wide = min(scaled(WIDE), parent.width() - 8)
        left = max(min(self.x(), parent.width() - wide - 4), 4)
        self.answers.setGeometry(left, self.geometry().bottom() + 1, wide, 10)
        entries, self._values = found_line(self._known, typed)
        self.answers.show_entries(entries)
        self.answers.show()
        self.answers.raise_()

    def _run(self, number: int) -> None:
        entries = self.answers.entries
        if not 0 <= number < len(entries):
            return
        entry, values = entries[number], self._values
        self.let_go()
        if values and entry.give is not None:
            entry.give(values)
        else:
            entry.run()

    def let_go(self) -> None:
        """Give the keyboard back to the board."""
        self.answers.hide()
        self.clear()
        self.wishes.back_to_board()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = event.key()
        if key == Qt.Key.Key_Escape:
            self.let_go()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._run(self.answers.at)
        elif key in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.answers.entries:
            step = 1 if key == Qt.Key.Key_Down else -1
            self.answers.at = (self.answers.at + step) % len(self.answers.entries)
            self.answers.update()
        else:
            super().keyPressEvent(event)

"""The slip of paper beside a picture: what its marks say, line by line."""

import math
from typing import TYPE_CHECKING

from PyQt6.QtGui import (
    QColor,
    QPaintEvent,
    QResizeEvent,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QWidget

from isometron.deeds.deed import Matter
from isometron.deeds.table import deeds, matters
from isometron.render.painter import painting_on
from isometron.ui.cards.slip.group import Group
from isometron.ui.parts.card import Card, Shown
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.reading.in_words import Line


class Slip(Card):
    """The slip itself, a card by itself."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("What the picture says"))
        its = [one for key, one in deeds().items() if matters()[key] is Matter.PICTURE]
        self.deeds = Group(wishes, Matter.PICTURE, its, None, lambda tiles: None)
        self.body.addWidget(self.deeds)
        self.lines = SlipLines(wishes)
        self.body.addWidget(self.lines)
        self.body.addStretch(1)

    def show_document(self, shown: Shown) -> None:
        """Show what can be done with the picture in work."""
        self.deeds.setVisible(bool(shown.document.pictures))
        self.deeds.show_document(shown, another=True)


class SlipLines(QWidget):
    """The readings of the picture in work; what it cannot tell comes last, with what would. Words
    are set as they are: a name is never taken for markup."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self._wishes = wishes
        self.lines: list[Line] = []
        self._instead = ""
        self._soft = ""
        self._text = QTextDocument(self)
        self._text.setDocumentMargin(0.0)
        self.show_lines([], _("Pin a photograph first."))

    @property
    def told(self) -> str:
        """All that stands on it, as plain words."""
        return "\n".join(f"{line.title}: {line.words}" for line in self.lines) or self._instead

    def show_lines(self, lines: "list[Line]", instead: str) -> None:
        """Other lines; where there are none, words instead."""
        self.lines, self._instead = lines, instead
        self.setAccessibleName(self.told)
        self._write()

    def _write(self) -> None:
        """Titles in the softer ink above their words."""
        room = self._wishes.room
        self._soft = room.soft_ink
        self._text.clear()
        self._text.setDefaultFont(font())
        self._at = QTextCursor(self._text)
        for line in (line for line in self.lines if not line.refused):
            self._add(line.title, line.words)
        refused = [line for line in self.lines if line.refused]
        if refused:
            self._set(_("Not told by these marks"), room.ink, bold=True, above=6.0)
        for line in refused:
            self._add(line.title, line.words)
        if self.lines:
            note = _("± is one standard error. For sketching, not engineering data.")
            self._set(note, room.soft_ink, italic=True, above=6.0)
        else:
            self._set(self._instead, room.soft_ink)
        self._make_room()
        self.update()

    def _add(self, title: str, words: str) -> None:
        self._set(title, self._wishes.room.soft_ink)
        self._set(words, self._wishes.room.ink, below=5.0)

    def _set(
        self,
        words: str,
        ink: str,
        *,
        bold: bool = False,
        italic: bool = False,
        above: float = 0.0,
        below: float = 0.0,
    ) -> None:
        """One paragraph."""
        block, form = QTextBlockFormat(), QTextCharFormat()
        block.setTopMargin(above)
        block.setBottomMargin(below)
        form.setFont(font(bold=bold, italic=italic))
        form.setForeground(QColor(ink))
        if self._text.isEmpty():
            self._at.setBlockFormat(block)
        else:
            self._at.insertBlock(block)
        self._at.insertText(words, form)

    def _make_room(self) -> None:
        """As high as its words need at this width: a card that scrolls asks for no less."""
        self._text.setTextWidth(max(self.width(), 40))
        self.setMinimumHeight(math.ceil(self._text.size().height()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._soft != self._wishes.room.soft_ink:  # another room
            self._write()
        with painting_on(self) as painter:
            self._text.drawContents(painter)

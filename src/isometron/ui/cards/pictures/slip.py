"""The slip of paper beside a picture: what its marks say, line by line."""

from html import escape
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QLabel

from isometron.ui.parts.card import Card
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.reading.in_words import Line


class Slip(Card):
    """The slip itself, a card by itself."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("What the picture says"))
        self.lines = SlipLines(wishes)
        self.body.addWidget(self.lines)
        self.body.addStretch(1)


class SlipLines(QLabel):
    """The readings of the picture in work; what it cannot tell comes last, with what would."""

    def __init__(self, wishes: Wishes) -> None:
        self._soft = ""
        super().__init__()
        self._wishes = wishes
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setWordWrap(True)
        self.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.lines: list[Line] = []
        self._instead = ""
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
        soft = self._soft = self._wishes.room.soft_ink

        def row(line: "Line") -> str:
            title, words = escape(line.title), escape(line.words)
            return (
                f'<p style="margin: 0 0 5px 0"><span style="color: {soft}">{title}</span><br>'
                f"{words}</p>"
            )

        parts = [row(line) for line in self.lines if not line.refused]
        refused = [row(line) for line in self.lines if line.refused]
        if refused:
            head = escape(_("Not told by these marks"))
            parts += [f'<p style="margin: 8px 0 3px 0"><b>{head}</b></p>', *refused]
        if not self.lines:
            parts = [f'<p style="color: {soft}; margin: 0">{escape(self._instead)}</p>']
        else:
            note = escape(_("± is one standard error. For sketching, not engineering data."))
            parts.append(f'<p style="color: {soft}; margin: 8px 0 0 0"><i>{note}</i></p>')
        self.setText("".join(parts))
        self._make_room()

    def _make_room(self) -> None:
        """As high as its words need at this width: a card that scrolls asks for no less."""
        self.setMinimumHeight(max(self.heightForWidth(max(self.width(), 40)), 0))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        if self._soft and self._soft != self._wishes.room.soft_ink:  # another room
            self._write()

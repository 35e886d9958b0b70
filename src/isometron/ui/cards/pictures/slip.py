"""The slip of paper beside a picture: what its marks say, line by line."""

from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from isometron.ui.parts.card import Card, soft_label
from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import GAP, font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.reading.in_words import Line


class Slip(Card):
    """The readings of the picture in work; what it cannot tell comes last, with what would."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("What the picture says"))
        self._shown: list[Line] | None = None
        self._holder = QWidget()
        self.body.addWidget(self._holder)
        self.body.addStretch(1)
        self.show_lines([], _("Pin a photograph first."))

    @property
    def text(self) -> str:
        """All that stands on it."""
        return "\n".join(f"{line.title}: {line.words}" for line in self._shown or [])

    def show_lines(self, lines: "list[Line]", instead: str) -> None:
        """Other lines; where there are none, words instead."""
        if lines == self._shown and lines:
            return
        self._shown = lines
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 2, 0, 0)
        column.setSpacing(1)
        told = [line for line in lines if not line.refused]
        refused = [line for line in lines if line.refused]
        for line in told:
            self._add(column, line)
        if refused:
            head = Label(_("Not told by these marks"))
            head.setFont(font(bold=True))
            head.setContentsMargins(0, GAP, 0, 2)
            column.addWidget(head)
        for line in refused:
            self._add(column, line)
        if not lines:
            label = soft_label(instead)
            label.setWordWrap(True)
            column.addWidget(label)
        elif told:
            note = soft_label(_("± is one standard error. For sketching, not engineering data."))
            note.setWordWrap(True)
            note.setFont(font(italic=True))
            note.setContentsMargins(0, GAP, 0, 0)
            column.addWidget(note)
        self.body.replaceWidget(self._holder, holder)
        self._holder.hide()  # it is shown no more before it is gone
        self._holder.deleteLater()
        self._holder = holder

    def _add(self, column: QVBoxLayout, line: "Line") -> None:
        title = soft_label(line.title)
        title.setContentsMargins(0, 4, 0, 0)
        words = Label(line.words)
        words.setWordWrap(True)
        words.setAccessibleName(f"{line.title}: {line.words}")
        column.addWidget(title)
        column.addWidget(words)

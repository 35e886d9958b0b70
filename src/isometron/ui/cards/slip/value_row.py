"""One value of what is in work, read and typed anew in the same place."""

from typing import Any

from PyQt6.QtWidgets import QGridLayout

from isometron.deeds.deed import Deed, Given
from isometron.document.document import Document
from isometron.perspective.errors import IsometronError
from isometron.ui.cards.slip.asked import Asked, proposed
from isometron.ui.parts.card import Shown, soft_label
from isometron.ui.parts.fields import Typing
from isometron.ui.parts.wishes import Wishes

FAMILY_OF = {"width": 0, "depth": 1, "height": 2}
"""Sides that are underlined in the colour of the family they run to."""


class ValueRow:
    """A label and a field in a grid; what is typed is done at once."""

    def __init__(self, wishes: Wishes, deed: Deed, grid: QGridLayout, at: int) -> None:
        self._wishes, self.deed = wishes, deed
        self._shown: Shown | None = None
        self.asked = Asked(deed.parameters[0], wishes, self._typed)
        self.label = soft_label(deed.text)
        self.label.setToolTip(deed.tip)
        grid.addWidget(self.label, at, 0)
        grid.addWidget(self.asked.widget, at, 1)

    def _typed(self, _asked: Asked, value: Any) -> None:
        pick = None if self._shown is None else self._shown.picked
        done = self._wishes.deed(self.deed, Given({self.deed.parameters[0].key: value}, pick))
        if not done and isinstance(self.asked.widget, Typing):
            self.asked.widget.keep_refused()

    def give(self, text: str) -> None:
        """Fill it in as if it had been typed, and do it; what is refused stays to be mended."""
        try:
            self.asked.write(text)
            value = self.asked.value
        except IsometronError as error:
            self._wishes.refuse(str(error))
            return
        self._typed(self.asked, value)
        self._wishes.back_to_board()

    def show_document(self, shown: Shown, *, another: bool) -> None:
        """Show what is so now."""
        self._shown = shown
        widget, document = self.asked.widget, shown.document
        if another and isinstance(widget, Typing):
            widget.kept = False
        key = self.deed.parameters[0].key
        family = shown.families[FAMILY_OF[key]] if key in FAMILY_OF else ""
        self.asked.offer(document)
        self.asked.show(document, self._now(document, shown), family)

    def _now(self, document: Document, shown: Shown) -> Any:
        return proposed(self.deed.parameters[0], document, Given(pick=shown.picked))

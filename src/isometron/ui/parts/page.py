"""A page of a card: rows of data laid out one below the other, shown for a document."""

from collections.abc import Callable
from functools import partial
from typing import Any, ClassVar, Protocol, TypeVar

from PyQt6.QtWidgets import QComboBox, QLineEdit, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.document.edits.proportioning import known_lengths
from isometron.drawing.picks.pick import Pick
from isometron.perspective.errors import IsometronError, VolumeError
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import LengthField, NumberField, Typing
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Edit, Wishes

P = TypeVar("P", bound=Pick)

LABEL_WIDTH = 84
"""Labels of rows are at least this wide, px, and all alike on a page."""


class Piece(Protocol):
    """Something a page is laid out of."""

    def lay(self, page: "Page") -> None:
        """Lay it below what the page has so far."""


class Cell:
    """One widget of a row. A cell with a `key` is found by it on its page."""

    needs_volume: ClassVar[bool] = False
    share: ClassVar[int] = 2
    """How much of a row's width it takes, beside others."""

    @property
    def found_by(self) -> str:
        """What it is found by on its page; nothing for most."""
        return str(getattr(self, "key", ""))

    def make(self, page: "Page") -> QWidget:
        """The widget."""
        raise NotImplementedError

    def show(self, widget: Any, shown: Shown, page: "Page") -> None:
        """Show it for a document."""


class Page(QWidget):
    """A page; ROWS say what stands on it. Acts of a page read its cells by their names: a `number`,
    a `text`, what is `chosen`."""

    ROWS: tuple[Piece, ...] = ()

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.shown: Shown | None = None
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 2, 0, 0)
        self.column.setSpacing(4)
        self._cells: list[tuple[Cell, QWidget]] = []
        self._named: dict[str, QWidget] = {}
        labels = [str(getattr(piece, "label", "")) for piece in self.ROWS]
        advance = self.fontMetrics().horizontalAdvance
        self.label_width = max(scaled(LABEL_WIDTH), *(advance(label) + 2 for label in labels))
        for piece in self.ROWS:
            piece.lay(self)

    def add(self, cell: "Cell") -> QWidget:
        """Make a cell; it is shown with every document from now on."""
        widget = cell.make(self)
        self._cells.append((cell, widget))
        if cell.found_by:
            self._named[cell.found_by] = widget
        return widget

    def __getitem__(self, key: str) -> QWidget:
        """The widget of a cell by its name."""
        return self._named[key]

    # What acts read

    @property
    def unit(self) -> str:
        """The unit of the sheet."""
        return "mm" if self.shown is None else self.shown.document.choices.unit

    @property
    def pick(self) -> Pick | None:
        """What is picked on the board."""
        return None if self.shown is None else self.shown.pick

    def number(self, key: str) -> float:
        """The number in a field."""
        field = self._named[key]
        assert isinstance(field, NumberField)
        return field.number

    def text(self, key: str) -> str:
        """The words in a field."""
        field = self._named[key]
        assert isinstance(field, QLineEdit)
        return field.text()

    def chosen(self, key: str) -> int:
        """The number of what is chosen."""
        return self.choice(key).currentIndex()

    def choice(self, key: str) -> QComboBox:
        """A choice."""
        widget = self._named[key]
        assert isinstance(widget, QComboBox)
        return widget

    def picked(self, kind: type[P], otherwise: str) -> P:
        """What is picked, of a kind. Raises VolumeError, saying `otherwise`, when it is not."""
        pick = self.pick
        if not isinstance(pick, kind):
            raise VolumeError(otherwise)
        return pick

    def do(self, name: str, edit: "Callable[[Page], Edit]") -> bool:
        """Ask an act of this page for its edit and wish for it; gives whether it could be done."""
        try:
            done = edit(self)
        except IsometronError as error:
            self.wishes.refuse(str(error))
            return False
        if done is not_yet:
            self.show_again()
            return True
        return self.wishes.edit(name, done)

    # What is shown

    def show_again(self) -> None:
        """Something was typed that other cells speak of."""
        if self.shown is not None:
            self.show_document(self.shown)

    def show_document(self, shown: Shown) -> None:
        """Show the numbers of a document."""
        another = self.shown is None or shown.document is not self.shown.document
        self.shown = shown
        for cell, widget in self._cells:
            if another and isinstance(widget, Typing):
                widget.kept = False
            if isinstance(widget, NumberField):
                widget.room = self.wishes.room
            if isinstance(widget, LengthField):
                widget.show_unit(shown.document.choices.unit)
                axis = 2 if widget.upright else 0
                widget.known = partial(known_lengths, shown.document, axis)
            cell.show(widget, shown, self)
            if cell.needs_volume:
                widget.setEnabled(shown.document.volume is not None)


Act = Callable[[Page], Edit]
"""What a button of a page gives when it is pressed: an edit, from what stands on the page."""


def list_anew(choice: QComboBox, items: list[tuple[str, int | None]]) -> None:
    """Other items to choose from, when they are others; the choice made is kept, by its words or
    else by what it stands for."""
    if [(choice.itemText(i), choice.itemData(i)) for i in range(choice.count())] == items:
        return
    before, data_before = choice.currentText(), choice.currentData()
    choice.clear()
    for words, data in items:
        choice.addItem(words, data)
    same = choice.findText(before)
    if same < 0 and data_before is not None:
        same = choice.findData(data_before)
    choice.setCurrentIndex(max(same, 0))


def not_yet(document: Document) -> Document:
    """The edit of a field that is used only when all about it is typed: none."""
    return document

"""Rows of a page as data: headings, labelled cells, and what each cell shows and does."""

from collections.abc import Callable, Sequence
from dataclasses import KW_ONLY, dataclass
from functools import partial
from typing import Any, ClassVar

from PyQt6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QPushButton, QWidget

from isometron.document.document import Document
from isometron.ui.parts.card import Shown, soft_label
from isometron.ui.parts.fields import (
    Choice,
    LengthField,
    NumberField,
    TextField,
)
from isometron.ui.parts.page import Act, Cell, Page, list_anew
from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Edit
from isometron.words import _

# Pieces


@dataclass(repr=False, eq=False)
class Heading:
    """A small heading; `above` is the room left over it, px."""

    words: str
    above: int = 5

    def lay(self, page: Page) -> None:
        """Lay it below what the page has so far."""
        label = Label(self.words)
        label.setFont(font(bold=True))
        label.setContentsMargins(0, self.above, 0, 0)
        page.column.addWidget(label)


@dataclass(init=False, repr=False, eq=False)
class Row:
    """Cells side by side behind a label. Without a label they take the whole width; two lengths
    leave their unit out unless the row is spacious; the label of a snug one takes no more room than
    it needs."""

    label: str
    cells: tuple[Cell, ...]
    spacious: bool
    snug: bool

    def __init__(
        self, label: str, *cells: Cell, spacious: bool = False, snug: bool = False
    ) -> None:
        self.label, self.cells, self.spacious, self.snug = label, cells, spacious, snug

    def lay(self, page: Page) -> None:
        """Lay it below what the page has so far."""
        row = QHBoxLayout()
        row.setSpacing(5)
        if self.label:
            words = soft_label(self.label)
            if not self.snug:
                words.setFixedWidth(page.label_width)
            row.addWidget(words)
        widgets = [page.add(cell) for cell in self.cells]
        lengths = [widget for widget in widgets if isinstance(widget, LengthField)]
        for cell, widget in zip(self.cells, widgets, strict=True):
            row.addWidget(widget, cell.share)
        for length in lengths:
            length.terse = len(lengths) > 1 and not self.spacious
        page.column.addLayout(row)


@dataclass(init=False, repr=False, eq=False)
class Grid:
    """Cells in rows of some columns."""

    columns: int
    cells: tuple[Cell, ...]

    def __init__(self, columns: int, *cells: Cell) -> None:
        self.columns, self.cells = columns, cells

    def lay(self, page: Page) -> None:
        """Lay it below what the page has so far."""
        grid = QGridLayout()
        grid.setSpacing(5)
        for number, cell in enumerate(self.cells):
            grid.addWidget(page.add(cell), *divmod(number, self.columns))
        page.column.addLayout(grid)


class Rest:
    """Empty room down to the foot of the page."""

    def lay(self, page: Page) -> None:
        """Lay it below what the page has so far."""
        page.column.addStretch(1)


# Cells


@dataclass(repr=False, eq=False)
class Keyed(Cell):
    """A cell that acts of its page read by its key, the English of what it is called unless `words`
    say it otherwise."""

    key: str
    tip: str
    _: KW_ONLY
    words: str = ""

    @property
    def called(self) -> str:
        """What a person, undo and assistive technology call it."""
        return self.words or _(self.key)


@dataclass(repr=False, eq=False)
class Entry(Keyed):
    """A number of the document: its key, a whole-sentence tip, the field it is typed in, how it is
    read from a document, and the edit that a typed number means."""

    kind: type[NumberField]
    value: Callable[[Document], float | None]
    edit: Callable[[Document, Any], Document]
    family: str | Callable[[Shown], str] = ""
    """The pencil family whose colour underlines it."""
    caption: str = ""
    """What tells it from the others of its row, written small inside it where there is room."""
    upright: bool = False
    """Whether a length of it is measured upward."""

    def make(self, page: Page) -> QWidget:
        made = number_field(self, self.kind, page)
        made.caption = self.caption
        if isinstance(made, LengthField):
            made.upright = self.upright
        made.typed.connect(lambda value: self._typed(made, page, value))
        return made

    def _typed(self, made: NumberField, page: Page, value: Any) -> None:
        if not page.wishes.edit(self.called, lambda d: self.done(page, d, value)):
            made.keep_refused()

    def done(self, page: Page, document: Document, value: Any) -> Document:
        """The document with a typed number."""
        return self.edit(document, value)

    def show(self, widget: NumberField, shown: Shown, page: Page) -> None:
        widget.family = self.family if isinstance(self.family, str) else self.family(shown)
        widget.show_value(self.value(shown.document))


@dataclass(repr=False, eq=False)
class Button(Cell):
    """A button that does one edit; `edit` is asked for when it is pressed. `name` is what undo
    calls it."""

    needs_volume: ClassVar[bool] = True
    text: str
    tip: str
    name: str
    edit: Act

    def make(self, page: Page) -> QWidget:
        return button(self.text, self.tip, lambda: page.do(self.name, self.edit))


@dataclass(repr=False, eq=False)
class Always(Button):
    """A button that needs no volume."""

    needs_volume: ClassVar[bool] = False


@dataclass(repr=False, eq=False)
class Wish(Cell):
    """A button that wishes for something else than an edit."""

    needs_volume: ClassVar[bool] = True
    text: str
    tip: str
    wish: Callable[[Page], object]

    def make(self, page: Page) -> QWidget:
        return button(self.text, self.tip, lambda: self.wish(page))


@dataclass(repr=False, eq=False)
class Switch(Cell):
    """A button that is on or off."""

    text: str
    tip: str
    name: str
    on: Callable[[Document], bool | None]
    """Whether it is on now; None when there is nothing to switch."""
    edit: Callable[[Document, bool], Document]

    def make(self, page: Page) -> QWidget:
        made = QPushButton(self.text)
        made.setToolTip(self.tip)
        made.setCheckable(True)
        made.clicked.connect(
            lambda on: page.wishes.edit(self.name, lambda document: self.edit(document, on))
        )
        return made

    def show(self, widget: QPushButton, shown: Shown, page: Page) -> None:
        on = self.on(shown.document)
        widget.setEnabled(on is not None)
        widget.setChecked(bool(on))


Items = Sequence[tuple[str, int | None]]


@dataclass(repr=False, eq=False)
class Choosing(Keyed):
    """A choice among few. `items` may depend on what is shown; choosing one may be an edit, named
    `name`; `now` says which one a document has (None: there is nothing to choose)."""

    items: Sequence[str] | Callable[[Shown], Items]
    name: str = ""
    edit: Callable[[int], Edit] | None = None
    now: Callable[[Shown], int | None] | None = None

    def make(self, page: Page) -> QWidget:
        fixed = [] if callable(self.items) else list(self.items)
        made = Choice(self.called, self.tip, fixed)
        chosen = self.edit
        if chosen is not None:
            made.activated.connect(lambda n: page.wishes.edit(self.name, chosen(n)))
        else:
            made.activated.connect(lambda _n: page.show_again())
        return made

    def show(self, widget: QComboBox, shown: Shown, page: Page) -> None:
        if callable(self.items):
            list_anew(widget, list(self.items(shown)))
        if self.now is None:
            widget.setEnabled(shown.document.volume is not None)
            return
        now = self.now(shown)
        widget.setEnabled(now is not None)
        if now is not None:
            widget.setCurrentIndex(now)


@dataclass(repr=False, eq=False)
class Words(Keyed):
    """A field for words, broader than what stands beside it. What is `shown` follows the document
    (None: there is nothing to show);
    typed words are read by `edit`, or by an act of the page."""

    share: ClassVar[int] = 4
    shown: Callable[[Shown], str | None] | None = None
    name: str = ""
    edit: Callable[[Page, str], Edit] | None = None
    at_first: str = ""
    clears: bool = False
    """Whether the field is empty again once its words are taken."""

    def make(self, page: Page) -> QWidget:
        made = TextField(self.called, self.tip)
        made.setObjectName(self.key)
        made.setText(self.at_first)
        edit = self.edit
        if edit is not None:
            made.typed.connect(lambda text: self._typed(made, page, edit, text))
        return made

    def _typed(
        self, made: TextField, page: Page, edit: Callable[[Page, str], Edit], text: str
    ) -> None:
        if self.clears:
            made.clear()
            if not text.strip():
                return
        if not page.do(self.name, lambda page: edit(page, text)) and not self.clears:
            made.keep_refused()

    def show(self, widget: TextField, shown: Shown, page: Page) -> None:
        if self.shown is not None:
            widget.show_text(self.shown(shown))
        else:
            widget.setEnabled(shown.document.volume is not None)


@dataclass(repr=False, eq=False)
class Told(Cell):
    """Soft words that follow the document, and what is typed on the page."""

    words: Callable[[Shown], str] | None = None
    key: str = ""
    of_page: Callable[[Page], str] | None = None

    def make(self, page: Page) -> QWidget:
        label = soft_label("")
        label.setWordWrap(True)
        return label

    def show(self, widget: Label, shown: Shown, page: Page) -> None:
        if self.of_page is not None:
            widget.setText(self.of_page(page))
        elif self.words is not None:
            widget.setText(self.words(shown))


@dataclass(repr=False, eq=False)
class Own(Cell):
    """A widget of its own kind, and how it shows a document."""

    key: str
    made: Callable[[Page], QWidget]
    shows: Callable[[Any, Shown], object] | None = None

    def make(self, page: Page) -> QWidget:
        return self.made(page)

    def show(self, widget: QWidget, shown: Shown, page: Page) -> None:
        if self.shows is not None:
            self.shows(widget, shown)


@dataclass(init=False, repr=False, eq=False)
class Pair(Cell):
    """Small buttons side by side: text, name for assistive technology and undo, tip, edit."""

    share: ClassVar[int] = 1
    steps: tuple[tuple[str, str, str, Edit], ...]

    def __init__(self, *steps: tuple[str, str, str, Edit]) -> None:
        self.steps = steps

    def make(self, page: Page) -> QWidget:
        pair = QWidget()
        row = QHBoxLayout(pair)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(5)
        for text, name, tip, edit in self.steps:
            one = button(text, tip, partial(page.wishes.edit, name, edit))
            one.setAccessibleName(name)
            one.setProperty("small", True)
            row.addWidget(one)
        return pair


def number_field(cell: Keyed, kind: type[NumberField], page: Page) -> NumberField:
    """The field of a cell, which says on the plate why it refuses something."""
    made = kind(cell.called, cell.tip)
    made.setObjectName(cell.key)
    made.refused.connect(page.wishes.refuse)
    return made


def button(text: str, tip: str, act: Callable[[], object]) -> QPushButton:
    """A button with a tip that assistive technology reads too."""
    made = QPushButton(text)
    made.setToolTip(tip)
    made.setAccessibleDescription(tip)
    made.clicked.connect(lambda _=False: act())
    return made

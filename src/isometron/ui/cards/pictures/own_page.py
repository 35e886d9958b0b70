"""The My sheet page of the Picture tab: one's own sheet straightened, and what is off in it."""

from functools import partial

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from isometron.document.edits.pictures.bringing import set_dpi
from isometron.document.edits.pictures.marking import tick_off
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import write_mm
from isometron.perspective.sheet import FORMATS
from isometron.reading.sketch.faults import Fault
from isometron.reading.sketch.judging import faults_in, redraw_words
from isometron.reading.sketch.own_sheet import as_framework
from isometron.reading.sketch.sizes import BY_DPI, BY_LENGTHS, format_of
from isometron.ui.cards.pictures.marks_page import FreeWish
from isometron.ui.parts.card import Shown, soft_label
from isometron.ui.parts.fields import CountField
from isometron.ui.parts.page import Page
from isometron.ui.parts.plain import Label
from isometron.ui.parts.rows import Always, Choosing, Entry, Heading, Own, Rest, Row, Told
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many, said

MOST_LISTED = 12


def faults_of(shown: Shown) -> list[Fault]:
    """What is off in the sheet in work; it was read beside the window and is kept."""
    try:
        return faults_in(shown.document, shown.scene)
    except IsometronError:
        return []


class FaultList(QWidget):
    """Faults, numbered as on the picture, the worst first; a press shows the place."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.faults: list[Fault] = []
        self._shown: object = None
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(3)

    def show_document(self, shown: Shown) -> None:
        """What is off in the sheet in work."""
        picture = shown.document.photograph
        if shown.document is self._shown or self.wishes.dragging:
            return
        self._shown = shown.document
        self.faults = faults_of(shown)
        left = sum(not fault.mended for fault in self.faults)
        while (item := self._column.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        if picture is None or picture.paper_mm is None:
            self._say(_("Straighten your sheet first."))
        elif not self.faults:
            self._say(_("Nothing is off by more than a hand's own precision."))
        elif left < len(self.faults):
            words = many("{n} left to mend.", "{n} left to mend.", left).format(n=left)
            self._say(words if left else _("All is mended."))
        for number, fault in enumerate(self.faults[:MOST_LISTED], start=1):
            self._add(number, fault, shown)

        self._make_room()

    def _make_room(self) -> None:
        """As high as its words need at this width: the page scrolls where it has less."""
        wide = max(self.width(), 40)
        for widget in self.findChildren(Label):
            widget.ensurePolished()
            widget.setMinimumHeight(max(widget.heightForWidth(wide), 0))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()

    def _say(self, words: str) -> None:
        label = soft_label(words)
        label.setWordWrap(True)
        self._column.addWidget(label)

    def _add(self, number: int, fault: Fault, shown: Shown) -> None:
        picture = shown.document.photograph
        assert picture is not None and picture.paper_mm is not None
        button = QPushButton(f"{number}   {write_mm(fault.by_mm)}")
        button.setToolTip(_("Show where on the sheet."))
        button.setAccessibleName(f"{number}: {fault.title}")
        button.clicked.connect(lambda _on=False, m=fault.mark: self.wishes.choose_marks((m,)))
        tick = QCheckBox(_("mended"))
        tick.setToolTip(_("Tick it off once it is mended on your paper."))
        tick.setAccessibleName(_("{number} is mended").format(number=number))
        tick.setChecked(fault.mended)
        tick.clicked.connect(partial(self._tick, fault))
        foot = QHBoxLayout()
        foot.setSpacing(6)
        foot.addWidget(button, 1)
        foot.addWidget(tick)
        title = Label(fault.title)
        title.setFont(font(bold=True))
        unit = shown.document.choices.unit
        words = f"{fault.text} {redraw_words(fault, picture.paper_mm, unit)}".strip()
        rows = (title,) if fault.mended else (title, Label(words))
        for widget in rows:
            assert isinstance(widget, QLabel)
            widget.setWordWrap(True)
            self._column.addWidget(widget)
        held = QWidget()
        held.setLayout(foot)
        foot.setContentsMargins(0, 0, 0, 0)
        self._column.addWidget(held)

    def _tick(self, fault: Fault, on: bool) -> None:
        """A fault has been mended on paper, or has not after all."""
        done = self.wishes.edit(_("tick a fault off"), lambda d: tick_off(d, fault.mark, on))
        if done and on:
            self.wishes.log("remark", fault.title, fault.text)


def _state(shown: Shown) -> str:
    picture = shown.document.photograph
    if picture is None:
        return _("Pin a photograph or scan of a sheet of yours first.")
    if picture.paper_mm is not None:
        wide, high = picture.paper_mm
        return _("Your sheet, {wide:.0f} × {high:.0f} mm, straightened.").format(
            wide=wide, high=high
        )
    if picture.corners:
        return _("Drag each corner onto a corner of the paper, choose its format, straighten it.")
    return _("A sheet you have drawn: its paper is straightened and its strokes are judged.")


TOLD = "told of"
"""Of which picture and format the choice of the paper was told."""


class PaperChoice(Choosing):
    """The format of the paper: what the picture in work tells of it, once, when it comes; else A3
    at first, then what was chosen."""

    def make(self, page: Page) -> QWidget:
        made = super().make(page)
        assert isinstance(made, QComboBox)
        made.setCurrentText("A3")
        return made

    def show(self, widget: QComboBox, shown: Shown, page: Page) -> None:
        picture = shown.document.photograph
        widget.setEnabled(picture is not None)
        if picture is None:
            return
        told = format_of(picture)
        known = f"{hash(picture.file)} {picture.dpi} {told}"
        if told is not None and widget.property(TOLD) != known:
            widget.setProperty(TOLD, known)
            widget.setCurrentText(told)


ROWS = (
    Row("", Told(_state)),
    Row(
        "",
        FreeWish(
            _("This is my sheet"),
            _("The picture shows a sheet I have drawn: propose the corners of its paper."),
            lambda page: page.wishes.do("my sheet"),
        ),
    ),
    Row(
        _("paper"),
        PaperChoice(
            said("paper"),
            _("The format of the paper, or what else tells how large it is."),
            [*FORMATS, _(BY_DPI), _(BY_LENGTHS)],
        ),
        snug=True,
    ),
    Row(
        _("dpi"),
        Entry(
            said("dots per inch of the scan"),
            _("How many dots per inch a scan has; its file may say it."),
            CountField,
            lambda document: None if document.photograph is None else document.photograph.dpi,
            set_dpi,
        ),
    ),
    Row(
        "",
        FreeWish(
            _("Straighten it"),
            _("Straighten the paper to true millimetres and find its strokes."),
            lambda page: page.wishes.straighten(page.choice("paper").currentText()),
        ),
    ),
    Row(
        "",
        Always(
            _("Meant as the framework"),
            _("The framework on the sheet is what I meant: its eye, its edges to compare with."),
            _("meant as the framework"),
            lambda page: as_framework,
        ),
    ),
    Row(
        "",
        FreeWish(
            _("Ask me of unsure strokes"),
            _("Go through strokes of no family: keys 1 to 3 name it, 0 drops it, Space goes on."),
            lambda page: page.wishes.do("ask strokes"),
        ),
    ),
    Heading(_("What is off"), above=8),
    Row("", Own("faults", lambda page: FaultList(page.wishes), lambda w, s: w.show_document(s))),
    Row(
        "",
        FreeWish(
            _("Write the correction sheet…"),
            _("Write corrections as thin lines at 1 : 1, to lay under your sheet or trace."),
            lambda page: page.wishes.do("write corrections"),
        ),
    ),
    Rest(),
)


class OwnPage(Page):
    """One's own sheet."""

    ROWS = ROWS

"""Exercises on paper: printed or written, and brought back as a photograph or by what they say."""

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QVBoxLayout,
    QWidget,
)

from isometron.document.picture import MOST_BYTES
from isometron.files.disk import read_bytes, write_whole
from isometron.files.formats import EXERCISES, PICTURES
from isometron.files.practice import exercises_pdf
from isometron.own_places import is_there
from isometron.perspective.errors import IsometronError
from isometron.practice.drill import Exercise
from isometron.practice.paper.layout import PAGE_MM, pages_of
from isometron.practice.paper.reading import read_page
from isometron.practice.paper.typed import exercises_in, in_words
from isometron.render.printing import layout_of, print_pages
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.plain import told_button
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

ON_SHEET = 4
"""Exercises on a printed sheet: two pages."""


class PaperRows(QWidget):
    """Emits `brought` with what was found on a photograph, `named` with the exercises that were
    typed, `says` with a sentence."""

    brought = pyqtSignal(list)
    named = pyqtSignal(list)
    says = pyqtSignal(str)

    def __init__(self, wishes: Wishes, coming: Callable[[int], list[Exercise]]) -> None:
        super().__init__()
        self.wishes = wishes
        self._coming = coming
        tip = _("Four exercises on two pages of A4, at true size, and their answers to lay over.")
        self.print = told_button(_("Print…"), tip, self._print)
        self.write = told_button(_("Write…"), tip, self._write)
        tip = _("Read a photograph of an answered page: all four of its corner marks must show.")
        self.read = told_button(_("Read a photo…"), tip, self._read)
        self.name = TextField(
            _("what stands on the sheet"),
            _("Drill, seed and difficulty as printed: answer by typing measures."),
        )
        self.name.setPlaceholderText(_("as printed: {name}").format(name="cube · 3 · 0.3"))
        self.name.typed.connect(self._name)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        for button in (self.print, self.write, self.read):
            row.addWidget(button)
        column.addLayout(row)
        column.addWidget(self.name)

    def _told(self, exercises: Sequence[Exercise], words: str) -> None:
        """What was done; the sheet can be answered by its name at once."""
        self.name.show_text(in_words(exercises))
        self.says.emit(words)

    def _write(self) -> None:
        sheet = self.wishes.where(_("Write an exercise sheet"), "exercises", [EXERCISES])
        if sheet is None:
            return
        exercises = self._coming(ON_SHEET)
        answers = _free(sheet)
        try:
            write_whole(sheet, exercises_pdf(exercises))
            write_whole(answers, exercises_pdf(exercises, answers=True))
        except (IsometronError, OSError) as error:
            self.says.emit(str(error))
            return
        told = _("Written to “{name}”, the answers to “{answers}”: print both at 100 %.")
        self._told(exercises, told.format(name=sheet.name, answers=answers.name))

    def _print(self) -> None:
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(layout_of(PAGE_MM))
        printer.setDocName(_("Isometron exercises"))
        if QPrintDialog(printer, self).exec() != QDialog.DialogCode.Accepted:
            return
        exercises = self._coming(ON_SHEET)
        try:
            print_pages(pages_of(exercises), printer)
        except IsometronError as error:
            self.says.emit(str(error))
            return
        self._told(exercises, _("Printed at true size."))

    def _read(self) -> None:
        path = self.wishes.which(_("Read a photograph"), PICTURES)
        if path is not None:
            self.take(path)

    def take(self, path: Path) -> None:
        """Read a photograph of an answered page."""
        try:
            self.brought.emit(read_page(read_bytes(path, MOST_BYTES, _("a picture"))))
        except (IsometronError, OSError) as error:
            self.says.emit(str(error))

    def _name(self, text: str) -> None:
        if not text.strip():
            return
        try:
            self.named.emit(exercises_in(text))
        except IsometronError as error:
            self.says.emit(str(error))


def _free(sheet: Path) -> Path:
    """A name for the answers of a sheet that nothing else has: nobody is asked about it."""
    names = (
        sheet.with_name(f"{sheet.stem}-answers{more}{sheet.suffix}")
        for more in ("", *(f"-{n}" for n in range(2, 100)))
    )
    return next((name for name in names if not is_there(name)), sheet.with_suffix(".answers.pdf"))

"""The Log tab: what is kept of one's work, on this machine alone."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QMessageBox, QPushButton

from isometron.files.disk import write_whole
from isometron.perspective.errors import IsometronError
from isometron.practice.log import Entry, Log, LogError, as_csv, as_json, now
from isometron.practice.pages import Curve, curve_csv, curves_of, lines_of
from isometron.practice.series import again
from isometron.ui.cards.log.page import LogPage
from isometron.ui.parts.card import EditCard, Shown, soft_label
from isometron.ui.parts.fields import Choice, TextField
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

SHOWN = 1000
"""So many entries, the last ones, are looked at at once; all of them go out."""


class LogCard(EditCard):
    """Which measure, a note of one's own, and the log out or away."""

    def __init__(self, wishes: Wishes, log: Log | None = None) -> None:
        super().__init__(wishes, _("Log"))
        self.log = log or Log()
        self.page = LogPage(wishes)
        self.own_board = self.page
        self.page.chose.connect(self._again)
        self.curves: list[Curve] = []
        self.entries: list[Entry] = []
        self.which = Choice(_("measure"), _("Whose errors are shown in their order."), [])
        self.which.activated.connect(self._choose)
        self.body.addWidget(self.which)
        self.section(_("A note"))
        self.note_field = TextField(_("note"), _("Your own words, kept with the day."))
        self.note_field.typed.connect(self._note)
        self.body.addWidget(self.note_field)
        self.section(_("All of it"))
        self.out = self._button(_("Write the log…"), _("To a file: CSV or JSON."), self._write)
        self.curve_out = self._button(_("Write the curve…"), _("To a table."), self._write_curve)
        row = QHBoxLayout()
        row.addWidget(self.out)
        row.addWidget(self.curve_out)
        self.body.addLayout(row)
        self.keep = self._button(_("Keep a log"), _("In a file on this machine alone."), self._keep)
        self.erase = self._button(_("Erase the log"), _("Forget everything in it."), self._erase)
        row = QHBoxLayout()
        row.addWidget(self.keep)
        row.addWidget(self.erase)
        self.body.addLayout(row)
        self.says = soft_label("")
        self.says.setWordWrap(True)
        self.body.addWidget(self.says)
        self.body.addStretch(1)

    def _button(self, text: str, tip: str, act: Callable[[], None]) -> QPushButton:
        made = QPushButton(text)
        made.setToolTip(tip)
        made.setAccessibleDescription(tip)
        made.clicked.connect(act)
        return made

    # What is shown

    def show_document(self, shown: Shown) -> None:
        """Read the log anew: another window may have written."""
        self.read()

    def read(self) -> None:
        """Show what the log holds now."""
        try:
            self.entries = self.log.latest(SHOWN)
            count, allowed = self.log.count, self.log.allowed
        except LogError as error:
            self.entries, allowed = [], None
            self.says.setText(str(error))
        else:
            told = self.log.said or _("{count} entries, kept on this machine alone.").format(
                count=count
            )
            if count > len(self.entries):
                told += " " + _("The last {shown} are shown.").format(shown=len(self.entries))
            self.says.setText(told if allowed else _("No log is kept."))
        self.curves = curves_of(self.entries)
        current = self.which.currentText()
        names = [curve.name for curve in self.curves]
        self.which.clear()
        self.which.addItems(names)
        self.which.setCurrentIndex(max(names.index(current) if current in names else 0, 0))
        self.which.setVisible(bool(names))
        self.keep.setEnabled(not allowed)
        for widget in (self.out, self.erase):
            widget.setEnabled(bool(self.entries) or bool(allowed))
        self.note_field.setEnabled(bool(allowed))
        self.curve_out.setEnabled(bool(names))
        self.page.show_lines(lines_of(self.entries))
        self._choose(self.which.currentIndex())

    def _choose(self, number: int) -> None:
        there = 0 <= number < len(self.curves)
        self.page.show_curve(self.curves[number] if there else None)

    def _again(self, row: int) -> None:
        """The exercise of a row, with the answer given then."""
        try:
            told = again(self.entries[len(self.entries) - 1 - row])
            if told is not None:
                self.page.show_exercise(*told)
        except (IsometronError, TypeError, ValueError, KeyError):
            self.says.setText(_("This entry cannot be shown again: its drill has changed."))

    # What it does

    def _note(self, words: str) -> None:
        if words.strip():
            self._try(lambda: self.log.add(Entry(now(), "note", words.strip(), {}, _("note"))))
            self.note_field.clear()

    def _keep(self) -> None:
        self._try(lambda: self.log.allow(True))

    def _erase(self) -> None:
        asked = QMessageBox.question(
            self,
            _("Erase the log"),
            _("Forget all {count} entries?").format(count=len(self.entries)),
        )
        if asked == QMessageBox.StandardButton.Yes:
            self._try(self.log.erase)

    def _try(self, act: Callable[[], object]) -> None:
        try:
            act()
        except LogError as error:
            self.says.setText(str(error))
            return
        self.read()

    def _write(self) -> None:
        name, _f = QFileDialog.getSaveFileName(
            self, _("Write the log"), "log.csv", "CSV (*.csv);;JSON (*.json)"
        )
        if name:
            form = as_json if name.endswith(".json") else as_csv
            self._written(Path(name), lambda: form(self.log.entries()))

    def _write_curve(self) -> None:
        curve = self.page.curve.curve
        name, _f = QFileDialog.getSaveFileName(
            self, _("Write the curve"), "curve.csv", "CSV (*.csv)"
        )
        if name and curve is not None:
            self._written(Path(name), lambda: curve_csv(curve))

    def _written(self, path: Path, made: Callable[[], str]) -> None:
        try:
            write_whole(path, made().encode())
        except (IsometronError, OSError) as error:
            self.says.setText(str(error))
        else:
            self.says.setText(_("Written to “{name}”.").format(name=path.name))

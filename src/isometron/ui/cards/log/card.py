"""The Log tab: what is kept of one's work, on this machine alone."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QHBoxLayout

from isometron.files.disk import write_whole
from isometron.files.formats import CHARTS, LOGS
from isometron.own_places import is_there
from isometron.perspective.errors import IsometronError
from isometron.practice.log import Entry, Log, LogError, as_csv, as_json, now
from isometron.practice.pages import (
    Curve,
    Day,
    curve_csv,
    curves_of,
    journal_csv,
    journal_of,
    lines_of,
    wrongs_of,
)
from isometron.practice.series import again
from isometron.ui.cards.log.page import LogPage, drawn_svg
from isometron.ui.parts.card import EditCard, Shown, soft_label
from isometron.ui.parts.fields import Choice, TextField
from isometron.ui.parts.plain import told_button
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

JOURNAL, WRONGS = _("journal"), _("what I get wrong")
SHOWN = 1000
"""So many entries, the last ones, are looked at at once; all of them go out."""


class LogCard(EditCard):
    """Which measure, a note of one's own, and the log out or away."""

    def __init__(self, wishes: Wishes, log: Log | None = None) -> None:
        super().__init__(wishes, _("Log"))
        self.log = log or Log()
        self.page = LogPage(wishes)
        self.own_board = self.page
        self.page.chose.connect(self._look)
        self.page.opened.connect(self._open_row)
        self.page.journal.chose.connect(self._show_day)
        self.page.journal.picture = self._picture
        self.curves: list[Curve] = []
        self.entries: list[Entry] = []
        self.rows: list[Entry] = []
        self.days: list[Day] = []
        self.opens: Path | None = None
        self.count = 0
        self._read_at = -1
        tip = _("What is looked at: days of work, what goes wrong, or the errors of one measure.")
        self.which = Choice(_("what is looked at"), tip, [])
        self.which.activated.connect(self._choose)
        self.body.addWidget(self.which)
        self.open_button = told_button(
            _("Open this sheet"),
            _("Open the sheet of the chosen entry (double click)."),
            self._open,
        )
        self.open_button.hide()
        self.body.addWidget(self.open_button)
        self.section(_("A note"))
        self.note_field = TextField(_("note"), _("Your own words, kept with the day."))
        self.note_field.setPlaceholderText(_("your own words"))
        self.note_field.typed.connect(self._note)
        self.tag_field = TextField(_("tag"), _("A word to find the note by: type it first."))
        self.tag_field.setPlaceholderText(_("tag"))
        row = QHBoxLayout()
        row.addWidget(self.note_field, 2)
        row.addWidget(self.tag_field, 1)
        self.body.addLayout(row)
        self.section(_("All of it"))
        self.out = told_button(_("Write the log…"), _("To a file: CSV or JSON."), self._write)
        self.chart_out = told_button(
            _("Write the chart…"),
            _("Journal or curve: to a table or a drawing."),
            self._write_chart,
        )
        row = QHBoxLayout()
        row.addWidget(self.out)
        row.addWidget(self.chart_out)
        self.body.addLayout(row)
        self.keep = told_button(_("Keep a log"), _("In a file on this machine alone."), self._keep)
        self.erase = told_button(_("Erase the log"), _("Forget everything in it."), self._erase)
        row = QHBoxLayout()
        row.addWidget(self.keep)
        row.addWidget(self.erase)
        self.body.addLayout(row)
        self.says = soft_label("")
        self.says.setWordWrap(True)
        self.body.addWidget(self.says)
        self.body.addStretch(1)

    # What is shown

    def show_document(self, shown: Shown) -> None:
        """Read the log anew where it has been written since, by another window say; what is looked
        at stays."""
        if self._stamp() != self._read_at:
            self.read()

    def _stamp(self) -> int:
        """When the log was written last."""
        try:
            return self.log.place.stat().st_mtime_ns
        except OSError:
            return 0

    def read(self) -> None:
        """Show what the log holds now."""
        self._read_at = self._stamp()
        try:
            self.entries = self.log.latest(SHOWN)
            odd = self.log.told_of_odd
            self.days = journal_of(self.log.days(), self.entries)
            count, allowed = self.log.count, self.log.allowed
            self.count = count
        except LogError as error:
            self.entries, self.days, allowed = [], [], None
            self.says.setText(str(error))
        else:
            told = self.log.said or _("{count} entries, kept on this machine alone.").format(
                count=count
            )
            if odd:
                told += f" {odd}"
            elif count > len(self.entries):
                told += " " + _("The last {shown} are shown.").format(shown=len(self.entries))
            self.says.setText(told if allowed else _("No log is kept."))
        self.curves = curves_of(self.entries)
        current = self.which.currentText()
        names = [JOURNAL, WRONGS, *(curve.name for curve in self.curves)]
        self.which.clear()
        self.which.addItems(names)
        self.which.setCurrentIndex(max(names.index(current) if current in names else 0, 0))
        self.which.setEnabled(bool(self.entries))
        self.keep.setEnabled(not allowed)
        for widget in (self.out, self.erase):
            widget.setEnabled(bool(self.entries) or bool(allowed))
        self.note_field.setEnabled(bool(allowed))
        self.tag_field.setEnabled(bool(allowed))
        self._show_day("")
        self.page.show_days(self.days)
        self._choose(self.which.currentIndex())

    def _choose(self, number: int) -> None:
        self.open_button.hide()
        if number <= 0:
            self.page.show_journal()
        elif number == 1:
            self.page.show_wrongs(wrongs_of(self.entries))
        else:
            self.page.show_curve(self.curves[number - 2])
        self.chart_out.setEnabled(self.page.chart is not None and bool(self.entries))

    def _show_day(self, day: str) -> None:
        """The rows of a day, of all when none is chosen."""
        try:
            self.rows = self.log.of_day(day) if day else self.entries
        except LogError as error:
            self.says.setText(str(error))
        else:
            self.page.show_lines(lines_of(self.rows))

    def _picture(self, number: int) -> bytes:
        """The small picture of an entry; none where the log cannot be read."""
        try:
            return self.log.picture(number)
        except LogError:
            return b""

    def _entry(self, row: int) -> Entry:
        """The entry of a row: the newest stands first."""
        return self.rows[len(self.rows) - 1 - row]

    def _look(self, row: int) -> None:
        """Show what a row is about: its exercise, or the small picture of its sheet."""
        entry = self._entry(row)
        self.opens = Path(entry.kept["path"]) if entry.kept.get("path") else None
        self.open_button.setVisible(self.opens is not None)
        if entry.kind == "drill":
            self._again(entry)
            return
        try:
            picture = self.log.picture(entry.number)
        except LogError as error:
            self.says.setText(str(error))
            return
        words = f"{entry.about}: {entry.kept.get('words', '')}".strip(": ")
        self.page.show_picture(picture, words)
        self.chart_out.setEnabled(False)

    def _open(self) -> None:
        if self.opens is None:
            return
        if is_there(self.opens):
            self.wishes.open_sheet(self.opens)
        else:
            told = _("“{name}” is no longer where it was: open it from its new place.")
            self.says.setText(told.format(name=self.opens.name))

    def _open_row(self, row: int) -> None:
        self._look(row)
        self._open()

    def _again(self, entry: Entry) -> None:
        """The exercise of an entry, with the answer given then."""
        try:
            told = again(entry)
            if told is not None:
                self.page.show_exercise(*told)
        except (IsometronError, TypeError, ValueError, KeyError, OverflowError):
            self.says.setText(_("This entry cannot be shown again: its drill has changed."))

    # What it does

    def _note(self, words: str) -> None:
        if words.strip():
            tag = self.tag_field.text().strip() or _("note")
            self._try(lambda: self.log.add(Entry(now(), "note", words.strip(), {}, tag)))
            self.note_field.clear()

    def _keep(self) -> None:
        self._try(lambda: self.log.allow(True))

    def _erase(self) -> None:
        what = _("All {count} entries of the log").format(count=self.count)
        if self.wishes.may_throw_away(what):
            self._try(self.log.erase)

    def _try(self, act: Callable[[], object]) -> None:
        try:
            act()
        except LogError as error:
            self.says.setText(str(error))
            return
        self.read()

    def _write(self) -> None:
        path = self.wishes.where(_("Write the log"), "log", LOGS)
        if path is not None:
            form = as_json if path.suffix.lower() == ".json" else as_csv
            self._written(path, lambda: form(self.log.entries()))

    def _write_chart(self) -> None:
        chart = self.page.chart
        path = None if chart is None else self.wishes.where(_("Write the chart"), "chart", CHARTS)
        if path is None or chart is None:
            return
        if path.suffix.lower() == ".svg":
            self._written(path, lambda: drawn_svg(chart))
            return
        curve = self.page.curve.curve if chart is self.page.curve else None
        self._written(path, lambda: curve_csv(curve) if curve else journal_csv(self.days))

    def _written(self, path: Path, made: Callable[[], str]) -> None:
        try:
            write_whole(path, made().encode())
        except (IsometronError, OSError) as error:
            self.says.setText(str(error))
        else:
            self.says.setText(_("Written to “{name}”.").format(name=path.name))

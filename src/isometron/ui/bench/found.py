"""Sheets that were left behind when the program last ended: a strip that says so, and a dialog that
shows each as found beside its file as saved."""

import base64
from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from isometron.files.journal import Found, LeftBehind
from isometron.ui.bench.found_reading import PICTURE, FoundReading
from isometron.ui.bench.journalling import Journalling
from isometron.ui.bench.keeping import SheetKeeping
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.plain import Label
from isometron.ui.parts.shell import within_screen
from isometron.ui.parts.theme import PAPER, TITLE_PT, font
from isometron.words import _, many

AT_ONCE = 12
"""So many rows are made at a time."""

WIDTH, HEIGHT = 720, 560
FRAME, ROW = 132, 176
"""Height of the dialog without its sheets, and of one of them, px."""


class FoundStrip(QFrame):
    """Says over the bench that sheets were found; each stays until it has been decided on."""

    asked = pyqtSignal()
    later = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("found")
        self.words = Label()
        self.words.setWordWrap(True)
        self.show_them = QPushButton(_("Show them"))
        self.show_them.setToolTip(_("Show each as found, beside its file as it was saved."))
        self.show_them.clicked.connect(self.asked)
        self.leave_them = QPushButton(_("Later"))
        self.leave_them.setToolTip(_("Ask again when Isometron starts."))
        self.leave_them.clicked.connect(self.later)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 6, 16, 6)
        row.addWidget(self.words, 1)
        row.addWidget(self.show_them)
        row.addWidget(self.leave_them)
        self.hide()

    def tell(self, words: str, *, show: bool) -> None:
        """Say something; none takes the strip away. show: whether there is something to show."""
        self.words.setText(words)
        self.show_them.setVisible(show)
        self.setVisible(bool(words))


class Finding:
    """Offers what was left behind to the person of one window."""

    def __init__(
        self,
        strip: FoundStrip,
        keeping: SheetKeeping,
        journalling: Journalling,
        behind: LeftBehind,
    ) -> None:
        self.strip, self.keeping, self.journalling, self.behind = (
            strip,
            keeping,
            journalling,
            behind,
        )
        strip.asked.connect(self.ask)
        strip.later.connect(self.leave)
        self.show()

    def show(self) -> None:
        """Say what there is."""
        self.strip.tell(self._words(), show=bool(self.behind.found))

    def _words(self) -> str:
        found, damaged = self.behind.found, self.behind.damaged
        words = []
        open_one = self.keeping.session.path
        mine = [one for one in found if one.path is not None and one.path == open_one]
        if mine:
            words.append(
                _("There is newer work on “{name}” than its file holds, from {time}.").format(
                    name=mine[0].name, time=_when(mine[0].written)
                )
            )
        rest = len(found) - len(mine)
        if rest == 1:
            one = next(one for one in found if one not in mine)
            words.append(
                _("“{name}” was not saved when Isometron last ended ({time}).").format(
                    name=one.name, time=_when(one.written)
                )
            )
        elif rest:
            words.append(
                many(
                    "{n} sheet was not saved when Isometron last ended.",
                    "{n} sheets were not saved when Isometron last ended.",
                    rest,
                ).format(n=rest)
            )
        if damaged:
            words.append(
                _("A damaged journal was set aside as “{file}”.").format(file=damaged[0].name)
            )
        if self.behind.waiting:
            words.append(
                _("{n} older ones wait until these have been decided on.").format(
                    n=self.behind.waiting
                )
            )
        return " ".join(words)

    def ask(self) -> None:
        """Show them all and do with them as the person says."""
        dialog = FoundDialog(self.strip.parentWidget() or self.strip, self)
        dialog.exec()
        dialog.deleteLater()
        self.show()

    def open(self, one: Found) -> bool:
        """Open a sheet as it was found; its journal goes when its work lies in this window's."""
        if not self.keeping.open_found(one):
            return False
        if self.journalling.write_now():
            self.behind.drop(one)
        return True

    def throw_away(self, one: Found) -> bool:
        """Throw a sheet away, when the person says so twice."""
        if not self.keeping.asking.may_throw_away(_("“{name}” as found").format(name=one.name)):
            return False
        self.behind.drop(one)
        return True

    def leave(self) -> None:
        """Leave the rest for the next start."""
        self.behind.let_go()
        self.behind.found.clear()
        self.behind.damaged.clear()
        self.show()


class FoundDialog(QDialog):
    """Every sheet that was found, newest first."""

    def __init__(self, parent: QWidget, finding: Finding) -> None:
        super().__init__(parent)
        self.setWindowTitle(_("Sheets that were not saved"))
        self._finding = finding
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 14, 18, 14)
        title = Label(_("Found again"))
        title.setFont(font(TITLE_PT, bold=True))
        column.addWidget(title)
        told = soft_label(
            _("As found, beside the file as it was saved. Opening one takes nothing from its file.")
        )
        told.setWordWrap(True)
        column.addWidget(told)
        inside = QWidget()
        self._rows = QVBoxLayout(inside)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._waiting = list(finding.behind.found)
        self.rows: dict[Path, FoundRow] = {}
        self.reading = FoundReading(self)
        self.reading.told.connect(self._take)
        self.more = QPushButton()
        self.more.setToolTip(_("Show the next ones."))
        self.more.clicked.connect(self._add_rows)
        self._rows.addWidget(self.more)
        self._rows.addStretch(1)
        self._add_rows()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidget(inside)
        column.addWidget(scroll, 1)
        later = QPushButton(_("Leave the rest for later"))
        later.setToolTip(_("They are offered again at the next start."))
        later.clicked.connect(self.reject)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(later)
        column.addLayout(foot)
        high = min(HEIGHT, FRAME + ROW * len(finding.behind.found))
        self.resize(within_screen(self, QSize(WIDTH, high)))

    def _add_rows(self) -> None:
        """Some more of those that were found."""
        some, self._waiting = self._waiting[:AT_ONCE], self._waiting[AT_ONCE:]
        for one in some:
            row = FoundRow(one)
            self.rows[one.journal] = row
            open_it = partial(self._finding.open, one)
            throw_it = partial(self._finding.throw_away, one)
            opens = self._button(_("Open as found"), row, open_it, True)
            opens.setEnabled(not one.newer)
            row.buttons.addWidget(opens)
            row.buttons.addWidget(self._button(_("Throw it away…"), row, throw_it, False))
            row.buttons.addStretch(1)
            self._rows.insertWidget(self._rows.count() - 2, row)
            self.reading.ask(one)
        left = len(self._waiting)
        self.more.setVisible(bool(left))
        self.more.setText(many("{n} more", "{n} more", left).format(n=left))

    def _take(self, one: Found, told: dict[str, Any]) -> None:
        """What has been read of a row."""
        row = self.rows.get(one.journal)
        if row is not None:
            row.show_read(told)

    def done(self, result: int) -> None:
        """The dialog goes: nothing more is read."""
        self.reading.stop()
        super().done(result)

    def _button(
        self, text: str, row: QWidget, act: Callable[[], bool], leaves: bool
    ) -> QPushButton:
        button = QPushButton(text)

        def press() -> None:
            if not act():
                return
            row.hide()
            if leaves or not self._finding.behind.found:
                self.accept()

        button.setAutoDefault(False)
        button.clicked.connect(press)
        return button


class FoundRow(QFrame):
    """One sheet that was found: what it is called and when it was kept, at once; its pictures and
    what differs from its file when they have been read."""

    def __init__(self, one: Found) -> None:
        super().__init__()
        self.setObjectName("found_row")
        self.setAccessibleName(one.name)
        across = QHBoxLayout(self)
        across.setContentsMargins(0, 8, 14, 8)
        self.found, found = _pictured(_("as found"))
        self.saved, saved = _pictured(_("as saved"))
        across.addWidget(found)
        if one.path is not None:
            across.addWidget(saved)
        words = QVBoxLayout()
        name = Label(one.name)
        name.setFont(font(bold=True))
        name.setWordWrap(True)
        self.where = soft_label(_("reading it …"))
        kept = soft_label(_("last kept {time}").format(time=_when(one.written)))
        for line in (name, kept, self.where):
            line.setWordWrap(True)
            words.addWidget(line)
        words.addStretch(1)
        self.buttons = QHBoxLayout()
        words.addLayout(self.buttons)
        across.addLayout(words, 1)

    def show_read(self, told: dict[str, Any]) -> None:
        """What has been read: pictures and words, or why it cannot be."""
        self.where.setText(str(told.get("error") or told.get("where", "")))
        for name, label in (("found", self.found), ("saved", self.saved)):
            picture = QPixmap()
            if told.get(name) and picture.loadFromData(base64.b64decode(told[name])):
                label.setPixmap(picture)


def _pictured(name: str) -> tuple[QLabel, QWidget]:
    """Paper for a small picture, and the holder of it and its words."""
    holder = QWidget()
    column = QVBoxLayout(holder)
    column.setContentsMargins(0, 0, 8, 0)
    column.setSpacing(2)
    paper = Label()
    paper.setFixedSize(PICTURE)
    paper.setAccessibleName(name)
    paper.setStyleSheet(f"background: {PAPER};")
    column.addWidget(paper)
    words = soft_label(name)
    words.setAlignment(Qt.AlignmentFlag.AlignHCenter)
    column.addWidget(words)
    column.addStretch(1)
    return paper, holder


def _when(time: datetime) -> str:
    today = time.date() == datetime.now().date()
    return f"{time:%H:%M}" if today else f"{time:%Y-%m-%d %H:%M}"

"""Starting the bench: on a screen, or offscreen for a picture of it.

A shell of the window is painted first, by Qt alone; everything that counts is loaded behind it.
"""

import sys
import threading
import time
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6 import sip
from PyQt6.QtCore import QBuffer, QByteArray, QEventLoop, QIODevice, QSettings, QTimer
from PyQt6.QtWidgets import QApplication

from isometron.perspective.errors import StoppedError
from isometron.render.typeface import load_fonts
from isometron.ui.bench.settings import settings_of_person
from isometron.ui.parts.shell import SIZE, Shell
from isometron.ui.parts.theme import LIGHT_ROOM, ROOMS, font
from isometron.words import _

if TYPE_CHECKING:
    from isometron.document.document import Document
    from isometron.files.journal import Stamp
    from isometron.ui.bench.window import Bench

DRESSED = "isometron dressed"
WARM_UP_MS = 300
EXPOSED_WITHIN_S = 0.5
"""A screen that has not shown the window by then is not waited for any longer."""

LARGE = 1_000_000
"""Bytes of a sheet that is read beside the window."""

LETTERS_MS = 1000
"""Letters typed in a list within this of each other are of one name."""


def application() -> QApplication:
    """The one Qt application, with the shipped type family."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(["isometron"])
    if not app.property(DRESSED):
        app.setApplicationName("isometron")
        app.setApplicationDisplayName("Isometron")
        app.setStyle("Fusion")
        load_fonts()
        app.setFont(font())
        app.setKeyboardInputInterval(LETTERS_MS)
        app.setProperty(DRESSED, True)
    return app


def show_shell(settings: QSettings) -> Shell:
    """A window with its furniture, painted."""
    app = application()
    shell = Shell(ROOMS.get(str(settings.value("room", "")), LIGHT_ROOM))
    shell.show_whole()
    until = time.monotonic() + EXPOSED_WITHIN_S
    while not shell.painted and time.monotonic() < until:
        app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 10)
    return shell


def fill(shell: Shell, sheet: "Sheet", settings: QSettings) -> "Bench":
    """Put a bench with a sheet into a shell. Raises FileError for a sheet that cannot be opened."""
    from isometron.ui.bench.rescue import Rescue
    from isometron.ui.bench.waiting import patiently
    from isometron.ui.bench.window import Bench

    words = _("Opening “{file}”…").format(file=Path(sheet.file or "").name)
    read = patiently(sheet, words, shell) if sheet.large else sheet()
    document, path, called, stamp = read
    bench = Bench(document, path, settings, called=called, stamp=stamp, within=shell)
    Rescue(bench.session, bench.keep_journal()).install()
    shell.take(bench, bench.close)
    bench.session.shown.connect(lambda: shell.setWindowModified(bench.session.unsaved))
    bench.left.connect(shell.close)
    bench.board.setFocus()
    if path is not None:
        bench.keeping.remember(path)
    return bench


class Sheet:
    """A sheet to open: a file, the sample, or a blank one. It is read when it is called for."""

    def __init__(self, file: str | None, *, sample: bool) -> None:
        self.file, self.sample = file, sample

    @property
    def large(self) -> bool:
        """Whether it takes long to read."""
        try:
            return bool(self.file) and Path(str(self.file)).stat().st_size > LARGE
        except (OSError, ValueError):
            return False

    def __call__(self) -> "tuple[Document, Path | None, str, Stamp | None]":
        """The document, its path, what it is called without one, and what its file held. Raises
        FileError."""
        from isometron.document.document import Document
        from isometron.document.edits.places.origin import origin_ahead
        from isometron.files.journal import read_stamped
        from isometron.files.own_bands import kept_bands
        from isometron.files.sheet_file import SAMPLE_NAME, read_sheet, sample_sheet

        if self.file == "-":
            return read_sheet(self.file), None, "", None
        if self.file:
            path = Path(self.file)
            document, stamp = read_stamped(path)
            return document, path.absolute(), "", stamp
        if self.sample:
            return sample_sheet(), None, SAMPLE_NAME, None
        return origin_ahead(Document(bands=kept_bands())), None, "", None


def run_bench(sheet: Sheet) -> int:
    """Open the bench and work until the person leaves."""
    app = application()
    settings = settings_of_person()
    from isometron.ui.bench.ending import Signals

    signals = Signals()
    shell = show_shell(settings)
    try:
        bench = fill(shell, sheet, settings)
    except StoppedError:  # by the person, or because the program ends
        if signals.met:
            sip.delete(shell)
            signals.restore()
            return signals.met
        bench = fill(shell, Sheet(None, sample=False), settings)
        bench.tell(_("Opening “{file}” was stopped.").format(file=Path(sheet.file or "").name))
    QTimer.singleShot(WARM_UP_MS, lambda: threading.Thread(target=_warm_up, daemon=True).start())
    left = signals.met or int(app.exec())
    bench.end()
    signals.restore()
    settings.sync()
    sip.delete(shell)
    return left


def _warm_up() -> None:
    """Load, after the first paint, what the first remedy will need."""
    import scipy.optimize  # noqa: F401


def _only_what_matters(_kind: object, _where: object, words: str | None) -> None:
    """Qt's offscreen platform remarks on every window that it has no size hints; nobody asked."""
    if words and "propagateSizeHints" not in words:
        print(f"isometron: {words}", file=sys.stderr)


def picture_of_bench(sheet: Sheet, out: Path) -> None:
    """Open the same window offscreen at 1280 × 800 and write its picture. Raises FileError."""
    from PyQt6.QtCore import qInstallMessageHandler

    from isometron.files.disk import write_whole
    from isometron.ui.bench.window import Bench

    document, path, called, _stamp = sheet()
    qInstallMessageHandler(_only_what_matters)
    app = application()
    bench = Bench(document, path, settings_of_person(), called=called)
    bench.resize(*SIZE)
    bench.show()
    app.processEvents()
    bench.settle()
    app.processEvents()
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    bench.grab().save(buffer, "PNG")
    sip.delete(bench)
    write_whole(out, content.data())

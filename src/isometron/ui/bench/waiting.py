"""Work that takes seconds: beside the window, with how far it is, and a way to stop it."""

import time
from collections.abc import Callable
from concurrent.futures import Future, wait
from threading import Lock, Thread
from typing import TypeVar

from PyQt6.QtCore import QElapsedTimer, QEventLoop, Qt
from PyQt6.QtGui import QCloseEvent, QKeyEvent
from PyQt6.QtWidgets import QApplication, QDialog, QProgressBar, QPushButton, QVBoxLayout, QWidget

from isometron.perspective.errors import StoppedError
from isometron.perspective.watching import watched
from isometron.ui.bench.ending import ENDING
from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import room_in_use, style_sheet
from isometron.words import _

T = TypeVar("T")

STOPS_WITHIN_S = 0.7
"""Work that was stopped is waited for no longer: it ends at its next step."""

SHOWN_AFTER_MS = 400
"""Work that is done sooner shows no dialog."""

PARTS = 1000
STOPPED = _("Stopped: nothing has changed.")


class Waiting(QDialog):
    """How far some work is, and *Stop*."""

    def __init__(self, parent: QWidget | None, words: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(_("One moment"))
        self.setWindowModality(Qt.WindowModality.ApplicationModal)
        self.setStyleSheet(style_sheet(room_in_use()))
        self.share, self.stopped, self.finishing = 0.0, False, False
        self._deciding = Lock()
        self.bar = QProgressBar()
        self.bar.setRange(0, PARTS)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName(words)
        self.stop = QPushButton(_("Stop"))
        self.stop.setToolTip(_("Leave the work; nothing is changed (Esc)."))
        self.stop.clicked.connect(self.give_up)
        column = QVBoxLayout(self)
        column.setSpacing(10)
        column.addWidget(Label(words))
        column.addWidget(self.bar)
        column.addWidget(self.stop, 0, Qt.AlignmentFlag.AlignRight)
        self.setMinimumWidth(380)

    def give_up(self) -> None:
        """Stop the work at the next place where it can."""
        with self._deciding:
            self.stopped = not self.finishing
        self.stop.setEnabled(False)

    def look(self) -> None:
        """Show how far the work is."""
        self.bar.setValue(round(PARTS * self.share))

    def tell(self, share: float) -> None:
        """Note how far the work is; touches no widget. Raises StoppedError."""
        self.share = share
        if self.stopped:
            raise StoppedError(STOPPED)

    def finish(self) -> None:
        """Let the work come to its end, which is not stopped; touches no widget. Raises
        StoppedError."""
        with self._deciding:
            if self.stopped:
                raise StoppedError(STOPPED)
            self.finishing = True

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.give_up()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.give_up()
        if event is not None:
            event.ignore()  # it goes when the work has stopped


def patiently(work: Callable[[], T], words: str, parent: QWidget | None = None) -> T:
    """What work gives that takes seconds. It is done beside the window, which keeps painting and
    takes no input till then; a dialog tells how far it is (`perspective.watching`). The work
    touches no widget, and changes nothing before its `last_tick`. Raises what the work raises,
    StoppedError when the person stops it or the program ends."""
    dialog, clock, done = Waiting(parent, words), QElapsedTimer(), Future[T]()
    clock.start()
    QApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    Thread(target=_do, args=(work, dialog, done), daemon=True).start()
    given_up: float | None = None
    try:
        while not done.done():
            events = QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents
            if clock.elapsed() > SHOWN_AFTER_MS:
                dialog.show()
                dialog.look()
                events = QEventLoop.ProcessEventsFlag.AllEvents
            QApplication.processEvents(events, 50)
            wait([done], timeout=0.02)
            if not dialog.stopped and ending():
                dialog.give_up()
            if dialog.stopped:
                given_up = given_up or time.monotonic()
                if time.monotonic() - given_up > STOPS_WITHIN_S:
                    raise StoppedError(STOPPED)
        return done.result()
    finally:
        QApplication.restoreOverrideCursor()
        dialog.hide()
        dialog.deleteLater()


def ending() -> bool:
    """Whether the application ends."""
    app = QApplication.instance()
    return app is not None and bool(app.property(ENDING))


def _do(work: Callable[[], T], by: Waiting, done: "Future[T]") -> None:
    try:
        with watched(by):
            found = work()
    except BaseException as error:
        done.set_exception(error)
    else:
        done.set_result(found)

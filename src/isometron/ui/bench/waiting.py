"""Work that takes seconds: beside the window, with how far it is, and a way to stop it."""

from collections.abc import Callable
from concurrent.futures import Future, wait
from threading import Thread

from PyQt6.QtCore import QElapsedTimer, QEventLoop, Qt
from PyQt6.QtGui import QCloseEvent, QKeyEvent
from PyQt6.QtWidgets import QApplication, QDialog, QProgressBar, QPushButton, QVBoxLayout, QWidget

from isometron.perspective.errors import StoppedError
from isometron.ui.parts.plain import Label
from isometron.words import _

Progress = Callable[[float], None]
"""Told by work how far it is, 0 to 1; raises StoppedError when it should stop."""

SHOWN_AFTER_MS = 400
"""Work that is done sooner shows no dialog."""

PARTS = 1000


class Waiting(QDialog):
    """How far some work is, and *Stop*."""

    def __init__(self, parent: QWidget | None, words: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(_("One moment"))
        self.setWindowModality(Qt.WindowModality.ApplicationModal)
        self.share, self.stopped = 0.0, False
        self.stopped_words = _("Stopped: nothing was written.")
        self.bar = QProgressBar()
        self.bar.setRange(0, PARTS)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName(words)
        self.stop = QPushButton(_("Stop"))
        self.stop.setToolTip(_("Leave the work; nothing is written (Esc)."))
        self.stop.clicked.connect(self.give_up)
        column = QVBoxLayout(self)
        column.setSpacing(10)
        column.addWidget(Label(words))
        column.addWidget(self.bar)
        column.addWidget(self.stop, 0, Qt.AlignmentFlag.AlignRight)
        self.setMinimumWidth(380)

    def give_up(self) -> None:
        """Stop the work at the next place where it can."""
        self.stopped = True
        self.stop.setEnabled(False)

    def look(self) -> None:
        """Show how far the work is."""
        self.bar.setValue(round(PARTS * self.share))

    def tell(self, share: float) -> None:
        """Note how far the work is; touches no widget. Raises StoppedError."""
        self.share = share
        if self.stopped:
            raise StoppedError(self.stopped_words)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.give_up()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.give_up()
        if event is not None:
            event.ignore()  # it goes when the work has stopped


def patiently(
    work: Callable[[Progress], None],
    words: str = "",
    parent: QWidget | None = None,
    *,
    alone: bool = False,
) -> None:
    """Do work that takes seconds beside the window, which keeps painting and takes no input till
    then; with words, a dialog tells how far it is. The work touches no widget. Raises what the work
    raises, StoppedError when the person stops it.

    alone: the work leaves nothing behind, so that it is not waited for once it is stopped: it may
    be in the middle of something that cannot be interrupted."""
    dialog, clock, done = Waiting(parent, words), QElapsedTimer(), Future[None]()
    if alone:
        dialog.stopped_words = _("Stopped: nothing has changed.")
    clock.start()
    QApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    beside = Thread(target=_do, args=(work, dialog.tell, done), daemon=alone)
    beside.start()
    try:
        while not done.done():
            events = QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents
            if words and clock.elapsed() > SHOWN_AFTER_MS:
                dialog.show()
                dialog.look()
                events = QEventLoop.ProcessEventsFlag.AllEvents
            QApplication.processEvents(events, 50)
            wait([done], timeout=0.02)
            if alone and dialog.stopped:
                wait([done], timeout=0.1)
                break
        if not done.done():
            raise StoppedError(dialog.stopped_words)
        done.result()
    finally:
        QApplication.restoreOverrideCursor()
        dialog.hide()
        dialog.deleteLater()


def _do(work: Callable[[Progress], None], tell: Progress, done: "Future[None]") -> None:
    try:
        work(tell)
    except BaseException as error:
        done.set_exception(error)
    else:
        done.set_result(None)

"""When the program ends without being asked to, or fails itself: the work first, then the words."""

import signal
import socket
import sys
import traceback
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from types import FrameType, TracebackType

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier
from PyQt6.QtWidgets import QApplication

from isometron.files.disk import write_whole
from isometron.own_places import private_folder, state_folder
from isometron.perspective.errors import FileError
from isometron.ui.bench.journalling import Journalling
from isometron.ui.bench.session import Session
from isometron.ui.bench.waiting import ENDING
from isometron.words import _

ENDINGS = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)
MOST_REPORTS = 20
"""Reports of failures that are kept, of one run."""


class Rescue:
    """Lets every failure of the program itself put the open sheet into its journal, keep one report
    of each kind of failure, and say so once."""

    def __init__(self, session: Session, journalling: Journalling) -> None:
        self.session, self.journalling = session, journalling
        self._met: set[str] = set()

    def install(self) -> "Rescue":
        """Be asked at every failure from now on."""
        sys.excepthook = self
        return self

    def __call__(
        self, kind: type[BaseException], error: BaseException, where: TracebackType | None
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            end(signal.SIGINT)
            return
        met = f"{kind.__name__} {traceback.extract_tb(where)[-1:]}"
        if met in self._met or len(self._met) >= MOST_REPORTS:
            return
        self._met.add(met)
        self.journalling.write_now()
        report = "".join(traceback.format_exception(kind, error, where))
        file = report_folder() / f"{datetime.now():%Y-%m-%d %H-%M-%S} {len(self._met)}.txt"
        told = _("Isometron made a mistake; your sheet is safe in its journal. Report: “{file}”.")
        try:
            private_folder(file.parent)
            write_whole(file, report.encode(errors="replace"), private=True)
        except (OSError, FileError):
            told = _("Isometron made a mistake: save your sheet, and start it anew.")
            sys.stderr.write(report)
        self.session.refused.emit(told.format(file=file))


def report_folder() -> Path:
    """Where reports of failures are kept."""
    return state_folder() / "reports"


def end(number: int) -> None:
    """End the running application as a signal does."""
    app = QApplication.instance()
    if app is not None:
        app.setProperty(ENDING, True)
        app.exit(128 + number)


class Signals(QObject):
    """Lets the signals that end a program end it by way of the event loop, where work can be kept.

    Python sees a signal only when it runs itself; the byte it writes to a socket wakes Qt.
    """

    def __init__(self, ending: Callable[[int], None] = end) -> None:
        super().__init__()
        self._near, self._far = socket.socketpair()
        for one in (self._near, self._far):
            one.setblocking(False)
        signal.set_wakeup_fd(self._far.fileno(), warn_on_full_buffer=False)
        self._before = {one: signal.signal(one, self._met) for one in ENDINGS}
        self._awake = QSocketNotifier(sip.voidptr(self._near.fileno()), QSocketNotifier.Type.Read)
        self._awake.activated.connect(self._read)
        self._ending = ending
        self.met = 0
        """The exit code of the signal that was met, 0 before one is."""

    def _met(self, number: int, frame: FrameType | None) -> None:
        self.met = 128 + number
        self._ending(number)

    def _read(self) -> None:
        self._near.recv(64)

    def restore(self) -> None:
        """Give the signals back."""
        for one, before in self._before.items():
            signal.signal(one, before)
        signal.set_wakeup_fd(-1)
        self._awake.setEnabled(False)
        self._near.close()
        self._far.close()

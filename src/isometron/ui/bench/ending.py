"""Signals that end the program end it by way of the event loop, heard from before the first paint:
nothing but Qt is loaded here."""

import signal
import socket
from collections.abc import Callable
from types import FrameType

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier
from PyQt6.QtWidgets import QApplication

ENDING = "isometron ending"
"""Property of the application that ends: what is waited for then is given up."""

ENDINGS = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)


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

"""Work done beside the window, so that board and cards stay under the hand."""

from collections.abc import Callable
from concurrent.futures import Future, wait
from threading import Thread
from typing import Generic, TypeVar

from PyQt6.QtCore import QObject, QTimer

from isometron.perspective.watching import Wanted, watched

A = TypeVar("A")
T = TypeVar("T")

SOON_S = 0.05
"""What is done sooner is waited for: nothing flickers."""

LOOK_MS = 30


class Beside(QObject, Generic[A, T]):
    """Works on what it was given last; what it was given before is dropped. `work` touches no
    widget; `take` gets what was given and what came of it."""

    def __init__(
        self, parent: QObject, name: str, work: Callable[[A], T], take: Callable[[A, T], None]
    ) -> None:
        super().__init__(parent)
        self._work, self._take = work, take
        self._name = name
        self._thread: Thread | None = None
        self._under_way: tuple[A, Future[T], Wanted] | None = None
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self._take_done)

    @property
    def working(self) -> bool:
        """Whether something is being worked on."""
        return self._under_way is not None

    def give(self, given: A, soon_s: float = SOON_S) -> None:
        """Work on something; `take` gets it, now or later. soon_s: how long it is waited for."""
        self.drop()
        done, by, before = Future[T](), Wanted(), self._thread
        self._thread = Thread(
            target=self._do, args=(given, by, done, before), name=self._name, daemon=True
        )
        self._under_way = given, done, by
        self._thread.start()
        wait([done], timeout=soon_s)
        self._take_done()
        if self.working:
            self._look.start()

    def drop(self) -> None:
        """Nobody wants it any more."""
        self._look.stop()
        if self._under_way is not None:
            self._under_way[2].wanted = False
        self._under_way = None

    def _do(self, given: A, by: Wanted, done: "Future[T]", before: Thread | None) -> None:
        """One work after another, each in a thread that ends with the program."""
        if before is not None:
            before.join()
        try:
            with watched(by):
                by.tell(0.0)
                found = self._work(given)
        except BaseException as error:
            done.set_exception(error)
        else:
            done.set_result(found)

    def finish(self) -> None:
        """Wait for it."""
        if self._under_way is not None:
            wait([self._under_way[1]])
            self._take_done()

    def _take_done(self) -> None:
        if self._under_way is None or not self._under_way[1].done():
            return
        given, done, _by = self._under_way
        self.drop()
        self._take(given, done.result())

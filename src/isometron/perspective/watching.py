"""Long work that is watched: it tells how far it is, and can be stopped at every tick.

Loops that may take long call `tick`; who waits for them listens with `watched`, in the thread the
work is done in. Where nobody listens, a tick costs next to nothing.
"""

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Protocol, TypeVar

from isometron.perspective.errors import StoppedError

T = TypeVar("T")


class Watcher(Protocol):
    """Who waits for work."""

    def tell(self, share: float) -> None:
        """Be told how far the work is, 0 to 1. Raises StoppedError when it should stop."""

    def finish(self) -> None:
        """The work is done but for its last act, which is not stopped any more. Raises StoppedError
        when it should not come to that."""


class Wanted:
    """Whether some work is still wanted; it ends at its next tick when it is not."""

    def __init__(self) -> None:
        self.wanted = True

    def tell(self, share: float) -> None:
        """Be told how far the work is. Raises StoppedError when nobody wants it any more."""
        if not self.wanted:
            raise StoppedError("")

    def finish(self) -> None:
        """The work comes to its end. Raises StoppedError when nobody wants it any more."""
        self.tell(1.0)


class _Listener:
    """Who listens, and what was told last."""

    def __init__(self, by: Watcher) -> None:
        self.by, self.last = by, 0.0


_LISTENER: ContextVar[tuple[_Listener, float, float] | None] = ContextVar("listener", default=None)
"""Who listens, and which part of the whole the work in hand is."""


W = TypeVar("W", bound=Watcher)


@contextmanager
def watched(by: W) -> Iterator[W]:
    """Listen to the ticks of what is done within, in this thread."""
    token = _LISTENER.set((_Listener(by), 0.0, 1.0))
    try:
        yield by
    finally:
        _LISTENER.reset(token)


@contextmanager
def part_of_whole(begin: float, end: float) -> Iterator[None]:
    """What is done within is this part, 0 to 1, of the work in hand."""
    listener = _LISTENER.get()
    if listener is None:
        yield
        return
    by, low, high = listener
    token = _LISTENER.set((by, low + begin * (high - low), low + end * (high - low)))
    try:
        yield
    finally:
        _LISTENER.reset(token)


def tick(share: float | None = None) -> None:
    """Between two pieces of long work; share: how far the work in hand is, 0 to 1, where that is
    known. Raises StoppedError when it should stop."""
    listener = _LISTENER.get()
    if listener is None:
        return
    told, low, high = listener
    if share is not None:
        told.last = low + min(max(share, 0.0), 1.0) * (high - low)
    told.by.tell(told.last)


def last_tick() -> None:
    """Before a work's last act, as writing its file: from here on it is not stopped. Raises
    StoppedError when it should not come to that."""
    listener = _LISTENER.get()
    if listener is not None:
        listener[0].by.finish()


def ticking(some: Iterable[T], count: int) -> Iterator[T]:
    """The same things one by one, with a tick before each; count: how many there are."""
    if _LISTENER.get() is None:
        yield from some
        return
    for number, one in enumerate(some):
        tick(number / max(count, 1))
        yield one

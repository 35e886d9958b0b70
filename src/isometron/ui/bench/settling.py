"""What follows the board: cards first, then the second look, a little at a time while nothing
else happens. The next move of the hand takes it up anew."""

from collections.abc import Callable, Iterator

from PyQt6.QtCore import QObject, QTimer

from isometron.document.document import Document
from isometron.reading.sketch import noticed as _noticed  # its rule
from isometron.remarks.second_look import SecondLook, gathered
from isometron.ui.bench.session import Session
from isometron.ui.cards.second_look import SecondLookStrip

NOTICES = (_noticed,)
"""Rules that are filed beside what they look at."""

SETTLE_MS = 12
"""The cards follow the board this much later, so that a drag is painted first."""

SLICE_MS = 4.0
"""The second look works this long before it looks whether the hand has moved."""


class Settling(QObject):
    """Brings cards and second look up to date after each document."""

    def __init__(
        self, parent: QObject, show_cards: Callable[[], None], strip: SecondLookStrip
    ) -> None:
        super().__init__(parent)
        self._show_cards, self._strip = show_cards, strip
        self._cards = QTimer(self)
        self._cards.setSingleShot(True)
        self._cards.setInterval(SETTLE_MS)
        self._cards.timeout.connect(self._cards_then_look)
        self._idle = QTimer(self)
        self._idle.setInterval(0)
        self._idle.timeout.connect(self._work_on)
        self._look = SecondLook()
        self._looking: Iterator[None] | None = None
        self._session: Session | None = None

    @property
    def done(self) -> bool:
        """Whether everything is up to date."""
        return not (self._cards.isActive() or self._idle.isActive())

    def begin(self, session: Session) -> None:
        """Another document is shown."""
        self._session = session
        self._idle.stop()
        self._looking = None
        self._cards.start()

    def _cards_then_look(self) -> None:
        session = self._session
        if session is not None:  # what may be done about it is offered by the cards and menus
            session.tell_of_step()
        self._show_cards()
        if session is not None:
            self._looking = self._look.steps(session.document, session.scene)
            self._idle.start()

    def look_again(self) -> None:
        """What is off in a sketch has been read: the second look takes it up."""
        if self._session is not None and not self._cards.isActive():
            self._looking = self._look.steps(self._session.document, self._session.scene)
            self._idle.start()

    def _work_on(self) -> None:
        if self._step():
            return
        self._idle.stop()

    def _step(self) -> bool:
        """A little of the second look; gives whether there is more."""
        if self._looking is not None:
            if not self._look.work(self._looking, SLICE_MS):
                self._looking = None
                document = self._session.document if self._session else Document()
                self._strip.show_remarks(*gathered(document, self._look.remarks), self._look.aside)
            return True
        dragging = self._session is not None and self._session.dragging
        return not dragging and self._strip.solve_one()

    def finish(self) -> None:
        """Bring everything up to date now."""
        self._cards.stop()
        self._idle.stop()
        if self._session is not None:
            self._cards_then_look()
            while self._step():
                pass
            self._idle.stop()

    def stop(self) -> None:
        """The window closes."""
        self._cards.stop()
        self._idle.stop()

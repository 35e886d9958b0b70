"""A build order written beside the window, so that board and cards stay under the hand."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor, wait

from PyQt6.QtCore import QObject, QTimer

from isometron.construction.stages import Stages
from isometron.document.document import Document
from isometron.files.order_words import built
from isometron.perspective.errors import IsometronError

SOON_S = 0.05
"""An order that is written sooner is waited for: nothing flickers."""

LOOK_MS = 30

Written = Stages | IsometronError
"""A written order, or why there is none."""


class OrderWriting(QObject):
    """Writes the order of the document asked for last; what it was asked for before is dropped."""

    def __init__(self, parent: QObject, take: Callable[[Document, Written], None]) -> None:
        super().__init__(parent)
        self._take = take
        self._beside = ThreadPoolExecutor(1, thread_name_prefix="order")
        self._under_way: tuple[Document, Future[Written]] | None = None
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self._take_written)

    @property
    def working(self) -> bool:
        """Whether an order is being written."""
        return self._under_way is not None

    def write(self, document: Document) -> None:
        """Write the order of a document; `take` gets it, now or later."""
        self.drop()
        written = self._beside.submit(_written, document)
        self._under_way = document, written
        wait([written], timeout=SOON_S)
        self._take_written()
        if self.working:
            self._look.start()

    def drop(self) -> None:
        """Nobody wants the order any more."""
        self._look.stop()
        if self._under_way is not None:
            self._under_way[1].cancel()
        self._under_way = None

    def finish(self) -> None:
        """Wait for the order."""
        if self._under_way is not None:
            wait([self._under_way[1]])
            self._take_written()

    def _take_written(self) -> None:
        if self._under_way is None or not self._under_way[1].done():
            return
        document, written = self._under_way
        self.drop()
        self._take(document, written.result())


def _written(document: Document) -> Written:
    try:
        return Stages(built(document), document.sheet)
    except IsometronError as error:
        return error

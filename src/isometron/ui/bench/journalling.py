"""The journal of the open sheet, written beside the interface: within two seconds of every step."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from isometron.document.document import Document
from isometron.files.journal import Journal
from isometron.perspective.errors import FileError
from isometron.ui.bench.session import Session
from isometron.words import _

AFTER_MS = 600
"""Steps that follow each other within this are written together; a drag is waited for."""


class Journalling(QObject):
    """Follows a session. Emits `failed` once, with a sentence, when nothing can be kept."""

    failed = pyqtSignal(str)

    def __init__(self, session: Session, folder: Path | None = None) -> None:
        super().__init__()
        self._session, self._journal = session, Journal(folder)
        self._beside = ThreadPoolExecutor(1, thread_name_prefix="journal")
        self._written: tuple[Document, Path | None] | None = None
        self._under_way: Future[None] | None = None
        self._told = self._left = False
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(AFTER_MS)
        self._wait.timeout.connect(self._begin)
        session.shown.connect(self._follow)
        self._follow()

    def _follow(self) -> None:
        if self._left or self._session.dragging or self._wait.isActive():
            return
        if self._is_new:
            self._wait.start()

    @property
    def _is_new(self) -> bool:
        session = self._session
        if not session.unsaved:
            return self._written is not None
        return (
            self._written is None
            or self._written[0] is not session.kept
            or self._written[1] != session.path
        )

    def _begin(self) -> None:
        self._tell()
        if self._under_way is not None and not self._under_way.done():
            self._wait.start()
            return
        if self._is_new:
            self._under_way = self._beside.submit(self._work())

    def _work(self) -> Callable[[], None]:
        """What is to be done beside: bound to the sheet as it is now."""
        session, journal = self._session, self._journal
        if not session.unsaved:
            self._written = None
            return journal.clear
        document, path, stamp = session.kept, session.path, session.stamp
        name = path.stem if path is not None else session.called or _("new sheet")
        self._written = document, path
        return lambda: journal.write(document, name, path, stamp)

    def _tell(self) -> None:
        """Say once that nothing can be kept, and try again at the next step."""
        done = self._under_way
        if done is None or not done.done() or done.exception() is None:
            return
        self._under_way = self._written = None
        error = done.exception()
        if not self._told:
            self._told = True
            if isinstance(error, FileError):
                self.failed.emit(str(error))
            else:
                self.failed.emit(_("Work that is not saved cannot be kept: save often."))

    def write_now(self) -> bool:
        """Have the sheet in the journal before this returns. Gives whether nothing of it can be
        lost."""
        if self._left:
            return True
        self._wait.stop()
        if self._is_new:
            self._under_way = self._beside.submit(self._work())
        failed = self._under_way is not None and self._under_way.exception() is not None
        self._tell()
        return not failed

    def leave(self) -> None:
        """The person has left the sheet: nothing is to be found of it."""
        self._left = True
        self._wait.stop()
        self._beside.shutdown(wait=True)
        self._journal.leave()

    def let_go(self) -> None:
        """The program ends without having been asked to: keep what is journalled to be found."""
        if self._left:
            return
        self.write_now()
        self._left = True
        self._beside.shutdown(wait=True)
        self._journal.let_go()

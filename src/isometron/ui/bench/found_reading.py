"""What rows of found sheets show, read one by one in a process of its own, each within a limit: a
journal that hangs, or takes all memory, holds up neither the window nor the other rows.

Run as a program it answers questions on its standard input, a line of JSON each.
"""

import base64
import contextlib
import json
import resource
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import (
    QObject,
    QProcess,
    QProcessEnvironment,
    QSize,
    QTimer,
    pyqtSignal,
)

from isometron.files.journal import Found, read_head
from isometron.perspective.errors import IsometronError
from isometron.words import _

if TYPE_CHECKING:
    from isometron.drawing.small import Small

PICTURE = QSize(190, 134)
WEIGHT = 1.6
LIMIT_MS = 6000
"""Longer no row is waited for, the start of the process included."""

MOST_MEMORY = 3 << 30
"""Bytes the process may take."""


class FoundReading(QObject):
    """Reads rows in the order they are asked for; `told` gives the journal and what was found:
    {"found": png, "saved": png or none, "where": words}, or {"error": words}."""

    told = pyqtSignal(object, dict)

    def __init__(self, parent: QObject, limit_ms: int = LIMIT_MS) -> None:
        super().__init__(parent)
        self._asked: list[Found] = []
        self._now: Found | None = None
        self._process: QProcess | None = None
        self._limit = QTimer(self)
        self._limit.setSingleShot(True)
        self._limit.setInterval(limit_ms)
        self._limit.timeout.connect(self._too_long)

    def ask(self, one: Found) -> None:
        """Read a row when those before it are read."""
        self._asked.append(one)
        self._next()

    def stop(self) -> None:
        """Nobody wants to know any more."""
        self._asked.clear()
        self._now = None
        self._limit.stop()
        self._end()

    def _next(self) -> None:
        if self._now is not None or not self._asked:
            return
        self._now = self._asked.pop(0)
        process = self._process or self._begun()
        question = json.dumps(str(self._now.journal)).encode("utf-8", "surrogateescape")
        process.write(question + b"\n")
        self._limit.start()

    def _begun(self) -> QProcess:
        process = self._process = QProcess(self)
        around = QProcessEnvironment.systemEnvironment()
        around.insert("QT_QPA_PLATFORM", "offscreen")
        process.setProcessEnvironment(around)
        process.readyReadStandardOutput.connect(self._take)
        process.finished.connect(self._ended)
        process.errorOccurred.connect(self._ended)
        process.start(sys.executable, ["-m", __name__])
        return process

    def _take(self) -> None:
        process = self._process
        if process is None or not process.canReadLine():
            return
        try:
            told = json.loads(process.readLine().data())
        except ValueError:
            told = {"error": _("It cannot be read.")}
        self._answer(told)

    def _answer(self, told: dict[str, Any]) -> None:
        one, self._now = self._now, None
        self._limit.stop()
        if one is not None:
            self.told.emit(one, told)
        self._next()

    def _too_long(self) -> None:
        self._end()
        self._answer({"error": _("It takes long to read: open it to wait for it.")})

    def _ended(self, *_how: object) -> None:
        self._end()
        if self._now is not None:
            self._answer({"error": _("It cannot be read.")})

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is not None:
            process.blockSignals(True)
            process.kill()
            process.waitForFinished(500)
            process.deleteLater()


def what_is_found(journal: Path) -> dict[str, Any]:
    """What a row shows of a journal, in plain data."""
    from isometron.document.differences import differences
    from isometron.drawing.small import small_of
    from isometron.files.sheet_file import read_sheet

    try:
        found = read_head(journal)
        document = found.document
    except IsometronError as error:
        return {"error": str(error)}
    small = small_of(document)
    told: dict[str, Any] = {"found": _png(small)}
    words = _("never saved to a file")
    if found.path is not None:
        saved = None
        with contextlib.suppress(IsometronError):
            saved = read_sheet(found.path)
        if saved is None:
            words = _("its file “{path}” cannot be opened now").format(path=found.path)
        else:
            told["saved"] = _png(small_of(saved))
            words = _("{path}\nthe file differs: {differs}").format(
                path=found.path, differs=differences(document, saved)
            )
    if small.above:
        words += "\n" + _("seen from above: nothing lies before the eye")
    return {**told, "where": words}


def _png(small: "Small") -> str:
    from isometron.render.small import small_png

    return base64.b64encode(small_png(small, PICTURE, WEIGHT)).decode()


def main() -> None:
    """Answer until nobody asks."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    for line in sys.stdin.buffer:
        try:
            told = what_is_found(Path(json.loads(line.decode("utf-8", "surrogateescape"))))
        except Exception:  # whatever it is, it is said in this row and no other
            told = {"error": _("It cannot be read.")}
        sys.stdout.write(json.dumps(told) + "\n")
        sys.stdout.flush()


if __name__ == "__main__":
    main()

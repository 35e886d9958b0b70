"""When the program fails itself: the work first, then the words."""

import signal
import sys
import traceback
from datetime import datetime
from pathlib import Path
from types import TracebackType

from isometron.files.disk import write_whole
from isometron.own_places import private_folder, state_folder
from isometron.perspective.errors import FileError
from isometron.ui.bench.ending import end
from isometron.ui.bench.journalling import Journalling
from isometron.ui.bench.session import Session
from isometron.words import _

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

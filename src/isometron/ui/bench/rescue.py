"""When the program itself fails: save the work first, then tell, and go on."""

import sys
import traceback
from datetime import datetime
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QStandardPaths

from isometron.files.atomic import write_whole
from isometron.files.sheet_file import SUFFIX, sheet_as_text
from isometron.ui.bench.session import Session
from isometron.words import _


def rescue_folder() -> Path:
    """Where rescued sheets are kept."""
    place = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.AppDataLocation)
    return Path(place) / "rescued"


class Rescue:
    """Lets every failure of the program itself rescue all open sheets."""

    def __init__(self, *sessions: Session) -> None:
        self.sessions = list(sessions)

    def install(self) -> "Rescue":
        """Be asked at every failure from now on."""
        sys.excepthook = self
        return self

    def __call__(
        self, kind: type[BaseException], error: BaseException, where: TracebackType | None
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            raise SystemExit(130)
        folder = rescue_folder()
        folder.mkdir(parents=True, exist_ok=True)
        stem = datetime.now().strftime("%Y-%m-%d %H-%M-%S")
        report = "".join(traceback.format_exception(kind, error, where))
        write_whole(folder / f"{stem}.txt", report.encode())
        for number, session in enumerate(self.sessions, start=1):
            name = stem if number == 1 else f"{stem} {number}"
            sheet = folder / f"{name}{SUFFIX}"
            write_whole(sheet, sheet_as_text(session.kept).encode())
            told = _("Isometron made a mistake; your sheet is safe in “{file}”.")
            session.refused.emit(told.format(file=sheet))

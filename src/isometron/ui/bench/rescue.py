"""When the program itself fails: save the work first, then tell, and go on."""

import sys
import traceback
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QStandardPaths

from isometron.files.atomic import write_whole
from isometron.files.sheet_file import SUFFIX, sheet_as_text
from isometron.ui.bench.session import Session

Hook = Callable[[type[BaseException], BaseException, TracebackType | None], None]


def rescue_folder() -> Path:
    """Where rescued sheets are kept."""
    place = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.AppDataLocation)
    return Path(place) / "rescued"


def install_rescue(session: Session) -> Hook:
    """Let every failure of the program itself rescue the open sheet; gives the hook."""

    def rescue(
        kind: type[BaseException], error: BaseException, where: TracebackType | None
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            raise SystemExit(130)
        folder = rescue_folder()
        folder.mkdir(parents=True, exist_ok=True)
        stem = datetime.now().strftime("%Y-%m-%d %H-%M-%S")
        sheet = folder / f"{stem}{SUFFIX}"
        write_whole(sheet, sheet_as_text(session.kept).encode())
        report = "".join(traceback.format_exception(kind, error, where))
        write_whole(folder / f"{stem}.txt", report.encode())
        session.refused.emit(f"Isometron made a mistake; your sheet is safe in “{sheet}”.")

    sys.excepthook = rescue
    return rescue

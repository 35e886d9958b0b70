"""Keeping sheets: new, open, save, recent files, the question about unsaved changes, drawing out
and printing."""

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PyQt6.QtCore import QEventLoop, QObject, QSettings, QStandardPaths, Qt, pyqtSignal
from PyQt6.QtWidgets import QApplication

from isometron.document.document import Document
from isometron.files.formats import OUTLINE, SHEET, Asked, Errand, Outgoing
from isometron.files.sheet_file import SAMPLE_NAME, SUFFIX, read_sheet, sample_sheet, write_sheet
from isometron.perspective.errors import IsometronError
from isometron.render.painting import QtPainting
from isometron.ui.bench.asking import Asking, Unsaved
from isometron.ui.bench.session import Session
from isometron.words import _

RECENT = 8


def patiently(work: Callable[[], None]) -> None:
    """Do work that takes seconds beside the window: it keeps painting and takes no input till then.
    The work touches no widget. Raises what the work raises."""
    from concurrent.futures import ThreadPoolExecutor, wait

    QApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    try:
        with ThreadPoolExecutor(1) as beside:
            done = beside.submit(work)
            while not done.done():
                quiet = QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents
                QApplication.processEvents(quiet, 50)
                wait([done], timeout=0.02)
        done.result()
    finally:
        QApplication.restoreOverrideCursor()


class SheetKeeping(QObject):
    """Carries sheets between the session and the disk. Emits `told` with what happened."""

    told = pyqtSignal(str)
    recent_changed = pyqtSignal()

    def __init__(self, session: Session, asking: Asking, settings: QSettings) -> None:
        super().__init__()
        self.session, self.asking, self.settings = session, asking, settings

    @property
    def name(self) -> str:
        """What the open sheet is called."""
        path = self.session.path
        return path.stem if path else self.session.called or _("new sheet")

    def may_leave(self) -> bool:
        """Whether the open sheet may be left: saved, thrown away, or nothing unsaved."""
        if not self.session.unsaved:
            return True
        answer = self.asking.about_unsaved(self.name)
        return answer is Unsaved.DISCARD or (answer is Unsaved.SAVE and self.save())

    def new(self) -> None:
        """A blank sheet."""
        if self.may_leave():
            before = self.session.document
            self.session.open(Document(choices=before.choices, kit=before.kit), None)

    def open_sample(self, name: str = SAMPLE_NAME) -> None:
        """One of the sample sheets that ship with the program."""
        if self.may_leave():
            self.session.open(sample_sheet(name), None, called=name)

    def open_asked(self) -> None:
        """A sheet the person chooses."""
        path = self.asking.which(_("Open a sheet"), self.folder(), [SHEET])
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> None:
        """A sheet by its path; the open one stays when that fails."""
        try:
            document = read_sheet(path)
        except IsometronError as error:
            self.asking.tell(_("This sheet cannot be opened"), str(error))
            return
        if self.may_leave():
            self.session.open(document, path)
            self.remember(path)

    def save(self) -> bool:
        """Save to the sheet's own file, or ask for one. Gives whether it is saved."""
        return self._save_to(self.session.path) if self.session.path else self.save_as()

    def save_as(self) -> bool:
        """Save to a file the person chooses."""
        proposal = self.session.path or self.folder() / f"{self.name}{SUFFIX}"
        path = self.asking.where(_("Save the sheet as"), proposal, [SHEET])
        if path is None:
            return False
        return self._save_to(path if path.suffix else path.with_suffix(SUFFIX))

    def _save_to(self, path: Path) -> bool:
        def write() -> None:
            write_sheet(self.session.kept, path)

        if not self._carefully(write):
            return False
        self.session.mark_saved(path, datetime.now().strftime("%H:%M"))
        self.remember(path)
        self.told.emit(_("Saved “{file}”.").format(file=path.name))
        return True

    def send(self, outgoing: Outgoing, errand: Errand) -> None:
        """Write something of the sheet to a file the person chooses."""
        stem = outgoing.proposal.format(name=self.name)
        folder = self.session.path.parent if self.session.path else self.folder()
        proposal = folder / f"{stem}{outgoing.formats[0].ending}"
        path = self.asking.where(errand.text.rstrip("…"), proposal, outgoing.formats)
        if path is None:
            return
        kept, asked = self.session.kept, Asked(QtPainting(), **errand.asked)

        def write() -> None:
            outgoing.write(kept, path, asked)

        if outgoing.slow:
            self.told.emit(_("Writing “{file}”…").format(file=path.name))
        if self._carefully((lambda: patiently(write)) if outgoing.slow else write):
            self.told.emit(outgoing.done.format(file=path.name))

    def take(self, outgoing: Outgoing) -> None:
        """Take something back from a file the person chooses, as one step."""
        title = _("Take dimensions from a table")
        path = self.asking.which(title, self.folder(), outgoing.formats)
        takes = outgoing.takes
        if path is None or takes is None:
            return

        def take() -> None:
            taken = takes(self.session.kept, path)
            self.session.edit(_("take dimensions"), lambda before: taken)

        if self._carefully(take):
            self.told.emit(_("Dimensions taken from “{file}”.").format(file=path.name))

    def bring_outline(self, axis: int) -> None:
        """Bring a closed SVG outline in as the profile of the volume in work, as one step."""
        from isometron.document.edits.profiles import bring_outline
        from isometron.files.outline import read_outline_file

        path = self.asking.which(_("Bring an outline in"), self.folder(), [OUTLINE])
        if path is None:
            return

        def bring() -> None:
            rings = read_outline_file(path)
            self.session.edit(_("bring an outline in"), lambda d: bring_outline(d, rings, axis))

        if self._carefully(bring):
            self.told.emit(_("Outline brought in from “{file}”.").format(file=path.name))

    def print_out(self) -> None:
        """Print the sheet at true size."""
        from isometron.ui.bench.printing import ask_and_print

        told = ask_and_print(self.session.kept, self.session.scene)
        if told:
            self.told.emit(told)

    def _carefully(self, action: Callable[[], None]) -> bool:
        try:
            action()
        except IsometronError as error:
            self.asking.tell(_("This did not work"), str(error))
            return False
        return True

    def folder(self) -> Path:
        """Where the person keeps sheets."""
        if self.session.path is not None:
            return self.session.path.parent
        known = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.DocumentsLocation)
        return Path(known) if known and Path(known).is_dir() else Path.home()

    def recent(self) -> list[Path]:
        """Sheets opened or saved of late, newest first, that still exist."""
        kept = self.settings.value("recent", [], type=list)
        return [path for path in map(Path, kept or []) if path.is_file()][:RECENT]

    def remember(self, path: Path) -> None:
        """Put a path on top of the recent files."""
        full = path.resolve()
        paths = [full, *(p for p in self.recent() if p != full)][:RECENT]
        self.settings.setValue("recent", [str(p) for p in paths])
        self.recent_changed.emit()

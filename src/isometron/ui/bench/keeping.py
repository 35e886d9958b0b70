"""Keeping sheets: new, open, save, recent files, the question about unsaved changes, drawing out
and printing."""

import contextlib
from collections.abc import Callable, Sequence
from datetime import datetime
from pathlib import Path
from threading import Thread
from typing import TypeVar

from PyQt6.QtCore import (
    QFileSystemWatcher,
    QObject,
    QSettings,
    QStandardPaths,
    QTimer,
    pyqtSignal,
)

from isometron.document.differences import differences
from isometron.document.document import Document
from isometron.document.edits.places.origin import origin_ahead
from isometron.document.edits.starters.starter import Starter
from isometron.document.picture import SheetPicture
from isometron.drawing.scene import Scene, scene_of
from isometron.files.disk import beside, read_bytes, write_whole
from isometron.files.formats import OUTLINE, PICTURES, SHEET, Asked, Errand, Format, Outgoing
from isometron.files.journal import Found, Stamp, read_stamped
from isometron.files.own_bands import keep_bands, kept_bands
from isometron.files.own_starters import folder as own_folder
from isometron.files.own_starters import keep_starter, read_starter
from isometron.files.sheet_file import (
    SAMPLE_NAME,
    SUFFIX,
    read_sheet,
    sample_picture,
    sample_sheet,
    sheet_as_text,
)
from isometron.own_places import is_there
from isometron.perspective.errors import FileError, IsometronError, StoppedError
from isometron.perspective.watching import part_of_whole
from isometron.render.painting import QtPainting
from isometron.ui.bench.asking import Asking, Conflict, Unsaved
from isometron.ui.bench.logged import OPENED, PRINTED, SAVED, log_sheet, log_work
from isometron.ui.bench.recent import Recent, draw_small
from isometron.ui.bench.session import FileState, Session
from isometron.ui.bench.waiting import patiently
from isometron.words import _, many

LARGEST_PICTURE = 400_000_000
"""Bytes of a picture file that are read."""

T = TypeVar("T")

DRAWN_WITHIN_S = 1.0

LOOK_AFTER_MS = 150
"""A file is looked at when it has rested this long."""


class SheetKeeping(QObject):
    """Carries sheets between the session and the disk. Emits `told` with what happened."""

    told = pyqtSignal(str)
    recent_changed = pyqtSignal()

    def __init__(self, session: Session, asking: Asking, settings: QSettings) -> None:
        super().__init__()
        self.session, self.asking, self.settings = session, asking, settings
        self._watcher = QFileSystemWatcher(self)
        self._look = QTimer(self)
        self._look.setSingleShot(True)
        self._look.setInterval(LOOK_AFTER_MS)
        self._look.timeout.connect(self.look_at_file)
        self._watcher.fileChanged.connect(self._look_soon)
        self._watcher.directoryChanged.connect(self._look_soon)
        self._watched: Path | None = None
        self._recent = Recent(settings)
        self._drawings: list[Thread] = []
        session.shown.connect(self._follow)
        self._follow()

    def _look_soon(self, _path: str) -> None:
        self._look.start()

    def _follow(self) -> None:
        if self.session.path != self._watched:
            self._watched = self.session.path
            self._watch()

    @property
    def name(self) -> str:
        """What the open sheet is called."""
        path = self.session.path
        return path.stem if path else self.session.called or _("new sheet")

    def _drawn(self, drawing: Thread | None) -> None:
        """Something is being drawn beside the window."""
        going_on = [one for one in self._drawings if one.is_alive()]
        self._drawings = [*going_on, drawing] if drawing is not None else going_on

    def finish(self) -> None:
        """Wait, for a moment, for what is drawn for the log and the recent sheets."""
        for drawing in self._drawings:
            drawing.join(DRAWN_WITHIN_S)

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
            bands = kept_bands()
            fresh = Document(choices=before.choices, kit=before.kit, bands=bands)
            self.session.open(fresh, None)

    def keep_bands(self) -> None:
        """Keep the bands of the sheet for all new ones."""
        bands = self.session.document.bands
        if self._carefully(lambda: keep_bands(bands)):
            words = (
                many("{n} band kept for new sheets.", "{n} bands kept for new sheets.", len(bands))
                if bands
                else _("New sheets have the usual bands again.")
            )
            self.told.emit(words.format(n=len(bands)))

    def keep_starter(self) -> None:
        """Keep the framework of the sheet as a starter, under the name of the sheet."""
        document, name = self.session.document, self.name
        if self._carefully(lambda: keep_starter(document, name)):
            self._drawn(draw_small(own_folder() / f"{name}{SUFFIX}", document, self.session.scene))
            words = _("“{name}” is kept: it stands in Sheet, Begin with one of mine.")
            self.told.emit(words.format(name=name))

    def own_starter(self, path: Path | None = None) -> Starter | None:
        """A starter of one's own; without a path from a file the person chooses."""
        path = path or self.which(_("Begin with a sheet"), [SHEET])
        found: list[Starter] = []
        if path is not None:
            self._carefully(lambda: found.append(read_starter(path)))
        return found[0] if found else None

    def open_sample(self, name: str = SAMPLE_NAME) -> bool:
        """One of the sample sheets that ship with the program. Gives whether it is open now."""
        if not self.may_leave():
            return False
        self.session.open(sample_sheet(name), None, called=name)
        return True

    def open_asked(self) -> None:
        """A sheet the person chooses."""
        path = self.which(_("Open a sheet"), [SHEET])
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> None:
        """A sheet by its path; the open one stays when that fails."""
        opened = self._opened(path)
        if opened is None:
            return
        document, stamp, scene = opened
        if self.may_leave():
            self.session.open(document, path, stamp=stamp, scene=scene)
            self.remember(path, scene)
            self._drawn(log_sheet(document, scene, path.name, OPENED, path))

    def _opened(self, path: Path) -> tuple[Document, Stamp, Scene] | None:
        """A sheet with its stamp and its scene; None when it cannot be opened, which is said."""

        def read() -> tuple[Document, Stamp, Scene]:
            document, stamp = read_stamped(path)
            with part_of_whole(0.2, 1.0):
                return document, stamp, scene_of(document)

        return self._patiently(
            read, _("Opening “{file}”…").format(file=path.name), _("This sheet cannot be opened")
        )

    def _patiently(self, work: Callable[[], T], words: str, title: str = "") -> T | None:
        """What work beside the window gives; None when it cannot be done or was stopped, which is
        said."""
        try:
            return patiently(work, words)
        except StoppedError as stopped:
            self.told.emit(str(stopped))
        except IsometronError as error:
            self.asking.tell(title or _("This did not work"), str(error))
        return None

    def open_found(self, found: Found) -> bool:
        """A sheet as it was found in a journal. Gives whether it is open now."""
        if not self.may_leave():
            return False

        def read() -> tuple[Document, Document, Scene]:
            document, kept = found.document, origin_ahead(Document())
            if found.path is not None:
                with contextlib.suppress(FileError):
                    kept = read_sheet(found.path)
            with part_of_whole(0.2, 1.0):
                return document, kept, scene_of(document)

        opened = self._patiently(
            read, _("Opening “{file}”…").format(file=found.name), _("This sheet cannot be opened")
        )
        if opened is None:
            return False
        document, kept, scene = opened
        self.session.open(
            document, found.path, called=found.name, stamp=found.stamp, kept=kept, scene=scene
        )
        self.look_at_file()
        return True

    def save(self) -> bool:
        """Save to the sheet's own file, or ask for one. Gives whether it is saved."""
        return self._save_to(self.session.path) if self.session.path else self.save_as()

    def save_as(self) -> bool:
        """Save to a file the person chooses."""
        title = _("Save the sheet as")
        path = self.session.path
        if path is None:
            path = self.where(title, self.name, [SHEET])
        else:
            path = self.asking.where(title, path, [SHEET])
        return path is not None and self._save_to(path)

    def _save_to(self, path: Path) -> bool:
        own = self.session.path is not None and path == self.session.path
        if own and not self._as_known():
            answer = self.asking.about_conflict(path.name, self._differs(path))
            if answer is Conflict.THEIRS:
                self._open_theirs(path)
                return False
            if answer is Conflict.STAY:
                return False
            if answer is Conflict.BESIDE:
                path = beside(path)
        content = sheet_as_text(self.session.kept).encode()
        if not self._carefully(lambda: write_whole(path, content)):
            return False
        at = datetime.now().strftime("%H:%M")
        self.session.mark_saved(path, at, Stamp.of(content))
        self.remember(path, self.session.scene)
        self.told.emit(_("Saved “{file}”.").format(file=path.name))
        self._drawn(log_sheet(self.session.kept, self.session.scene, path.name, SAVED, path))
        return True

    def _as_known(self) -> bool:
        """Whether the sheet's file holds what it did when it was read, or is not there."""
        path = self.session.path
        if path is None:
            return True
        try:
            found = Stamp.at(path)
        except IsometronError:
            return False
        return found is None or found == self.session.stamp

    def _differs(self, path: Path) -> str:
        try:
            return differences(self.session.kept, read_sheet(path))
        except IsometronError as error:
            return _("it is no sheet that can be opened ({error})").format(
                error=str(error).rstrip(".")
            )

    def _open_theirs(self, path: Path) -> None:
        """What lies on the disk; ours is kept beside it first."""
        opened = self._opened(path)
        if opened is None:
            return
        document, stamp, scene = opened
        if self.session.unsaved:
            kept_at = beside(path)
            content = sheet_as_text(self.session.kept).encode()
            if not self._carefully(lambda: write_whole(kept_at, content)):
                return
            self.told.emit(_("Your own lies beside it: “{file}”.").format(file=kept_at.name))
        self.session.open(document, path, stamp=stamp, scene=scene)

    def look_at_file(self) -> None:
        """Look whether the sheet's file is still as it was known, and show it."""
        self._watch()
        path, session = self.session.path, self.session
        state = FileState.AS_KNOWN
        if path is not None and not is_there(path):
            state = FileState.GONE
        elif not self._as_known():
            state = FileState.CHANGED
        if state is session.file_state:
            return
        session.file_state = state
        session.refresh()
        name = path.name if path is not None else ""
        if state is FileState.CHANGED:
            self.told.emit(_("“{name}” has been changed on the disk.").format(name=name))
        elif state is FileState.GONE:
            self.told.emit(_("“{name}” is gone from the disk.").format(name=name))

    def _watch(self) -> None:
        """Watch the sheet's file, and its folder, where one that is gone comes back."""
        path = self.session.path
        wanted = {str(one) for one in (path, path.parent) if is_there(one)} if path else set()
        watched = {*self._watcher.files(), *self._watcher.directories()}
        if watched - wanted:
            self._watcher.removePaths(list(watched - wanted))
        if wanted - watched:
            self._watcher.addPaths(list(wanted - watched))

    def send(self, outgoing: Outgoing, errand: Errand) -> None:
        """Write something of the sheet to a file the person chooses."""
        stem = outgoing.proposal.format(name=self.name)
        path = self.where(errand.text.rstrip("…"), stem, outgoing.formats)
        if path is None:
            return
        kept, asked = self.session.kept, Asked(QtPainting(), **errand.asked)

        def write() -> bool:
            outgoing.write(kept, path, asked)
            return True

        if self._patiently(write, _("Writing “{file}”…").format(file=path.name)):
            self.told.emit(outgoing.done.format(file=path.name))

    def take(self, outgoing: Outgoing) -> None:
        """Take something back from a file the person chooses, as one step."""
        title = _("Take dimensions from a table")
        path = self.which(title, outgoing.formats)
        takes = outgoing.takes
        if path is None or takes is None:
            return

        kept, words = self.session.kept, _("Reading “{file}”…").format(file=path.name)
        taken = self._patiently(lambda: takes(kept, path), words)
        if taken is not None and self.session.edit(_("take dimensions"), lambda before: taken):
            self.told.emit(_("Dimensions taken from “{file}”.").format(file=path.name))

    def bring_outline(self, axis: int) -> None:
        """Bring a closed SVG outline in as the profile of the volume in work, as one step."""
        from isometron.document.edits.shapes.profiles import bring_outline
        from isometron.files.outline import read_outline_file

        path = self.which(_("Bring an outline in"), [OUTLINE])
        if path is None:
            return

        words = _("Reading “{file}”…").format(file=path.name)
        rings = self._patiently(lambda: read_outline_file(path), words)
        if rings is not None and self.session.edit(
            _("bring an outline in"), lambda d: bring_outline(d, rings, axis)
        ):
            self.told.emit(_("Outline brought in from “{file}”.").format(file=path.name))

    # Pictures

    def bring_picture_asked(self) -> None:
        """A picture file the person chooses, pinned on the felt."""
        path = self.which(_("Open a picture"), PICTURES)
        if path is not None:
            self.bring_picture(path)

    def bring_picture(self, path: Path) -> None:
        """A picture file pinned on the felt, its lines found, as one step."""
        self._pin(lambda: read_bytes(path, LARGEST_PICTURE, _("a picture")), path.name)

    def paste_picture(self, encoded: Callable[[], bytes]) -> None:
        """A picture from the clipboard pinned on the felt; encoded: what gives it, beside the
        window."""
        self._pin(encoded, _("pasted picture.png"))

    def bring_sample_picture(self, name: str) -> None:
        """One of the sample photographs that ship with the program."""
        self._pin(lambda: sample_picture(name), f"{name}.jpg")

    def _pin(self, content: Callable[[], bytes], called: str) -> None:
        from isometron.document.edits.pictures.bringing import bring_picture
        from isometron.reading.of_picture import picture_in

        picture = self._patiently(
            lambda: picture_in(content(), called),
            _("Finding the lines of “{file}”…").format(file=called),
        )
        if picture is not None and self.session.edit(
            _("pin a picture"), lambda d: bring_picture(d, picture)
        ):
            self.told.emit(told_of_pinned(picture))

    def propose_corners(self) -> None:
        """Propose the corners of the sheet of paper that the picture in work shows, as one step."""
        from isometron.document.edits.pictures.bringing import propose_corners
        from isometron.reading.sketch.own_sheet import corners_of

        picture = self._in_work()
        if picture is None:
            return
        corners = self._patiently(lambda: corners_of(picture.file.content), _("Finding corners…"))
        if corners is not None:
            self.session.edit(_("this is my sheet"), lambda d: propose_corners(d, corners))

    def straighten(self, paper: str) -> None:
        """Straighten the sheet of paper in the picture in work to a format, as one step."""
        from isometron.document.edits.pictures.bringing import put_sheet
        from isometron.reading.sketch.own_sheet import own_sheet, told_of_sheet
        from isometron.reading.sketch.sizes import doubted_corners, laid_out

        picture = self._in_work()
        if picture is None:
            return

        def work() -> tuple[SheetPicture, str]:
            corners, size = laid_out(picture, paper)
            found = own_sheet(picture.file.content, picture.name, corners, size)
            return found, doubted_corners(picture, corners) if picture.corners else ""

        made = self._patiently(work, _("Finding strokes…"))
        if made is None:
            return
        sheet, doubt = made
        if self.session.edit(_("straighten my sheet"), lambda d: put_sheet(d, sheet)):
            told = told_of_sheet(sheet)
            self.told.emit(doubt or told)
            log_work("reading", picture.name, told)

    def find_lines(self) -> None:
        """Look for the lines of the picture in work again, as one step."""
        from isometron.document.edits.pictures.bringing import put_lines
        from isometron.reading.of_picture import find_lines

        picture = self._in_work()
        if picture is None:
            return
        lens = picture.lens if picture.lens_used else None
        lines = self._patiently(lambda: find_lines(picture.file.content, lens), _("Finding lines…"))
        if lines is not None:
            self.session.edit(_("find lines"), lambda d: put_lines(d, *lines))

    def _in_work(self) -> SheetPicture | None:
        """The picture in work; None when there is none, which is said."""
        from isometron.document.edits.pictures.bringing import in_work

        try:
            return in_work(self.session.document)
        except IsometronError as error:
            self.asking.tell(_("This did not work"), str(error))
            return None

    def print_out(self) -> None:
        """Print the sheet at true size."""
        from isometron.ui.bench.printing import ask_and_print

        told = ask_and_print(self.session.kept, self.session.scene)
        if told:
            self.told.emit(told)
            session = self.session
            self._drawn(log_sheet(session.kept, session.scene, self.name, PRINTED, session.path))

    def _carefully(self, action: Callable[[], object]) -> bool:
        try:
            action()
        except IsometronError as error:
            self.asking.tell(_("This did not work"), str(error))
            return False
        return True

    def which(self, title: str, formats: Sequence[Format]) -> Path | None:
        """A file to read, beside the last one of its kind."""
        path = self.asking.which(title, self.folder(formats[0].ending), formats)
        return self._used(path, formats)

    def where(self, title: str, stem: str, formats: Sequence[Format]) -> Path | None:
        """A file to write, beside the last one of its kind, proposed with the sheet's name."""
        proposal = self.folder(formats[0].ending) / f"{stem}{formats[0].ending}"
        return self._used(self.asking.where(title, proposal, formats), formats)

    def _used(self, path: Path | None, formats: Sequence[Format]) -> Path | None:
        if path is not None:
            self.settings.setValue(f"folder{formats[0].ending}", str(path.parent))
        return path

    def folder(self, ending: str = SUFFIX) -> Path:
        """Where the person last was with such a file, else beside the sheet, else where documents
        are kept."""
        last = str(self.settings.value(f"folder{ending}", "") or "")
        if last and _is_folder(Path(last)):
            return Path(last)
        if self.session.path is not None:
            return self.session.path.parent
        known = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.DocumentsLocation)
        return Path(known) if known and _is_folder(Path(known)) else Path.home()

    def recent(self) -> list[Path]:
        """Sheets opened or saved of late, newest first, that still exist."""
        return self._recent.paths()

    def remember(self, path: Path, scene: Scene | None = None) -> None:
        """Put a path on top of the recent files; its drawing is made beside the window."""
        self._recent.remember(path)
        if scene is not None:
            self._drawn(self._recent.draw(path, self.session.kept, scene))
        self.recent_changed.emit()


def told_of_pinned(picture: SheetPicture) -> str:
    """What is said when a picture has come in: its lines, and whether it was made smaller."""
    taken = sum(not edge.left for edge in picture.edges)
    if not taken:
        return _("No lines run together here: mark rims, edges or a corner of the thing.")
    words = many(
        "{n} line runs with a family.", "{n} lines run with {count} families.", taken
    ).format(n=taken, count=len({e.family for e in picture.edges if not e.left}))
    if picture.smaller > 1.001:
        words += " " + _("The picture was made {times} times smaller.").format(
            times=f"{picture.smaller:.1f}"
        )
    return words


def _is_folder(path: Path) -> bool:
    try:
        return path.is_dir()
    except (OSError, ValueError):
        return False

"""The journal: what is open and not saved, kept in the state place of the person until it is.

Each open sheet has a journal file of its own and a lock beside it, which the system lets go when
the program that holds it ends in whatever way. A journal whose lock can be taken was left behind.
"""

import base64
import contextlib
import fcntl
import hashlib
import json
import os
import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from pathlib import Path
from typing import Any, NamedTuple

from isometron.document.document import Document
from isometron.document.picture import MOST_BYTES, PictureFile
from isometron.files.disk import read_bytes, read_start, sweep, write_whole
from isometron.files.sheet_file import LARGEST_BYTES, STAND_IN, SheetWriter, sheet_from_text
from isometron.own_places import PRIVATE, is_there, private_folder, state_folder
from isometron.perspective.errors import FileError
from isometron.words import _

JOURNAL, LOCK, DAMAGED, PICTURE = ".journal", ".lock", ".damaged", ".picture"
VERSION = 1
MOST_OFFERED = 200
"""So many journals are offered at once; the others wait until these have been decided on."""

LONGEST_HEAD, LONGEST_NAME = 65_536, 200
LARGEST_JOURNAL = LARGEST_BYTES + 1024 * 1024


class Stamp(NamedTuple):
    """What a file held when it was read or written: its size in bytes and its hash."""

    size: int
    sha256: str

    @classmethod
    def of(cls, content: bytes) -> "Stamp":
        """The stamp of some bytes."""
        return cls(len(content), hashlib.sha256(content).hexdigest())

    @classmethod
    def at(cls, path: Path) -> "Stamp | None":
        """The stamp of what lies at a path now; None when no file does. Raises FileError."""
        return cls.of(read_bytes(path, LARGEST_BYTES, _("a sheet"))) if is_there(path) else None


def read_stamped(path: str | Path) -> tuple[Document, Stamp]:
    """A sheet file with the stamp of what it held. Raises FileError."""
    content = read_bytes(path, LARGEST_BYTES, _("a sheet"))
    return sheet_from_text(content, f"“{path}”"), Stamp.of(content)


@dataclass(frozen=True)
class Found:
    """A sheet that was left behind.

    name, path: what it was called, and its file if it had one. written: when. stamp: what its file
    held when it was read. newer: whether only a newer Isometron reads it.
    """

    journal: Path
    name: str
    path: Path | None
    written: datetime
    stamp: Stamp | None
    newer: bool = False

    @cached_property
    def document(self) -> Document:
        """As it was last journalled, read when it is first asked for. Raises FileError."""
        if self.newer:
            raise FileError(_("A newer Isometron kept this sheet: open it with that one."))
        content = read_bytes(self.journal, LARGEST_JOURNAL, _("a journal"))
        sheet = content.partition(b"\n")[2]
        return sheet_from_text(_with_pictures(sheet, self.journal), f"“{self.name}”")


class Journal:
    """The journal of one open sheet. Made without a folder that can be written to, it raises
    FileError at the first `write`."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or state_folder() / "journal"
        self.path = self.folder / f"{os.urandom(8).hex()}{JOURNAL}"
        self._lock: int | None = None
        self._writer = SheetWriter()
        self._pictures: set[str] = set()
        """Hashes of the pictures that lie beside the journal already."""

    def write(
        self, document: Document, name: str, path: Path | None, stamp: Stamp | None = None
    ) -> None:
        """Put a sheet into the journal, whole or not at all. Raises FileError."""
        self._hold()
        for picture in document.pictures:
            self._keep(picture.file)
        head = {
            "isometron journal": VERSION,
            "name": name,
            "file": None if path is None else os.fsencode(path).hex(),
            "written": datetime.now().isoformat(timespec="seconds"),
            "stamp": stamp,
        }
        whole = (json.dumps(head) + "\n").encode() + self._writer.text(document).encode()
        write_whole(self.path, whole, private=True)

    def _keep(self, file: PictureFile) -> None:
        """Put a picture beside the journal, once."""
        if file.sha256 not in self._pictures:
            beside = _picture_beside(self.path, file.sha256)
            write_whole(beside, file.content, private=True)
            self._pictures.add(file.sha256)

    def _hold(self) -> None:
        if self._lock is not None:
            return
        try:
            private_folder(self.folder)
            while self._lock is None:
                self._lock = self._taken()
        except OSError as error:
            raise FileError(
                _("Work that is not saved cannot be kept in “{path}”: save often.").format(
                    path=self.folder
                )
            ) from error

    def _taken(self) -> int | None:
        """The lock; None when another program tidied it away in the same moment."""
        lock = os.open(self.path.with_suffix(LOCK), os.O_RDWR | os.O_CREAT, PRIVATE)
        with contextlib.suppress(OSError):
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            if os.path.samestat(os.fstat(lock), self.path.with_suffix(LOCK).stat()):
                return lock
        os.close(lock)
        return None

    def clear(self) -> None:
        """Nothing is left to be found: the sheet is saved, or has been thrown away."""
        with contextlib.suppress(OSError):
            self.path.unlink(missing_ok=True)
        self._pictures.clear()
        _drop_pictures(self.path)

    def leave(self) -> None:
        """A clean leave."""
        self.clear()
        self.let_go()
        with contextlib.suppress(OSError):
            self.path.with_suffix(LOCK).unlink(missing_ok=True)

    def let_go(self) -> None:
        """Let go of the lock, as the end of the program would: what is journalled can be found."""
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None


class LeftBehind:
    """The journals that were left behind, the newest first, held while they are offered so that no
    other window offers them too. Only their first lines are read. `damaged` are those that are no
    journals or are cut off: they are set aside. `waiting`: how many more there are than are offered
    at once."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or state_folder() / "journal"
        self._locks: dict[Path, int] = {}
        self.damaged: list[Path] = []
        self.waiting = 0
        self.found = sorted(self._look(), key=lambda one: one.written, reverse=True)

    def _look(self) -> Iterator[Found]:
        try:
            every = sorted(self.folder.iterdir())
        except OSError:
            return
        sweep(self.folder)
        journals = sorted(filter(_is_journal, every), key=_written_last, reverse=True)
        taken = 0
        for path in journals:
            if taken == MOST_OFFERED:
                self.waiting = len(journals) - taken - len(self.damaged)
                break
            if not self._take(path):
                continue
            try:
                yield read_head(path)
                taken += 1
            except FileError:
                aside = path.with_suffix(DAMAGED)
                with contextlib.suppress(OSError):
                    path.rename(aside)
                    self.damaged.append(aside)
                self._release(path)
        for path in every:
            if path.suffix == PICTURE:
                self._drop_orphan(path)
            elif path.suffix == LOCK and not is_there(path.with_suffix(JOURNAL)):
                journal = path.with_suffix(JOURNAL)
                if self._take(journal):
                    self._release(journal)

    def _drop_orphan(self, picture: Path) -> None:
        """A picture whose journal is no more, and that nobody is writing."""
        journal = picture.with_name(picture.name.partition(".")[0] + JOURNAL)
        if any(is_there(one) for one in (journal, journal.with_suffix(DAMAGED))):
            return
        if journal in self._locks:
            return
        if self._take(journal):
            with contextlib.suppress(OSError):
                picture.unlink(missing_ok=True)
            self._release(journal)

    def _take(self, path: Path) -> bool:
        """Take the lock of a journal; False when another program holds it."""
        try:
            lock = os.open(path.with_suffix(LOCK), os.O_RDWR | os.O_CREAT, PRIVATE)
        except OSError:
            return False
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            os.close(lock)
            return False
        self._locks[path] = lock
        return True

    def _release(self, path: Path) -> None:
        with contextlib.suppress(OSError):
            path.with_suffix(LOCK).unlink(missing_ok=True)
        os.close(self._locks.pop(path))

    def drop(self, one: Found) -> None:
        """A journal has been taken over, or is not wanted: it is gone for good."""
        with contextlib.suppress(OSError):
            one.journal.unlink(missing_ok=True)
        _drop_pictures(one.journal)
        self.found.remove(one)
        self._release(one.journal)

    def let_go(self) -> None:
        """Leave those not decided upon for the next start."""
        for lock in self._locks.values():
            os.close(lock)
        self._locks.clear()


def _picture_beside(journal: Path, sha256: str) -> Path:
    return journal.with_name(f"{journal.stem}.{sha256}{PICTURE}")


def _drop_pictures(journal: Path) -> None:
    with contextlib.suppress(OSError):
        for picture in journal.parent.glob(f"{journal.stem}.*{PICTURE}"):
            picture.unlink(missing_ok=True)


def _with_pictures(sheet: bytes, journal: Path) -> bytes:
    """The sheet of a journal with its pictures in place of their hashes. Raises FileError when one
    is gone or is not what it was."""

    def picture(stands: "re.Match[bytes]") -> bytes:
        sha256 = stands[1].decode()
        content = read_bytes(_picture_beside(journal, sha256), MOST_BYTES, _("a picture"))
        if hashlib.sha256(content).hexdigest() != sha256:
            raise FileError(_("A picture of the journal “{path}” is damaged.").format(path=journal))
        return b'"base64": "' + base64.b64encode(content) + b'"'

    return re.sub(b'"base64": "' + STAND_IN.encode() + b'([0-9a-f]{64})"', picture, sheet)


def _is_journal(path: Path) -> bool:
    try:
        return path.suffix == JOURNAL and path.is_file()
    except OSError:
        return False


def _written_last(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0


def read_head(path: Path) -> Found:
    """What the first line of a journal says, and that its end is there. Raises FileError for a
    damaged one. What another hand has put into a field that is not needed is left aside."""
    start, end = read_start(path, LONGEST_HEAD, _("a journal"))
    first, line, _rest = start.partition(b"\n")
    try:
        if not line or not end.rstrip().endswith(b"}"):
            raise ValueError
        head: Any = json.loads(first)
        version = head["isometron journal"]
        if not isinstance(version, int) or isinstance(version, bool) or version < 1:
            raise ValueError
        file, name = head.get("file"), head["name"]
        return Found(
            path,
            _plain(name),
            Path(os.fsdecode(bytes.fromhex(file))) if isinstance(file, str) and file else None,
            _moment(head.get("written"), path),
            _stamp(head.get("stamp")),
            newer=version > VERSION,
        )
    except (ValueError, KeyError, TypeError, RecursionError, AttributeError) as error:
        raise FileError(
            _("The journal “{path}” is damaged; it has been set aside.").format(path=path)
        ) from error


def _plain(name: object) -> str:
    if not isinstance(name, str):
        raise TypeError
    return "".join(c for c in name[:LONGEST_NAME] if c.isprintable()) or _("new sheet")


def _moment(told: object, path: Path) -> datetime:
    """A moment in the time of this place; when the journal was written, where none is told."""
    try:
        moment = datetime.fromisoformat(str(told))
        return moment.astimezone().replace(tzinfo=None) if moment.tzinfo else moment
    except (ValueError, OverflowError, OSError):
        return datetime.fromtimestamp(_written_last(path))


def _stamp(told: object) -> Stamp | None:
    """The stamp that is told; None where it is none."""
    if not (isinstance(told, list) and len(told) == 2):
        return None
    size, sha256 = told
    fair = isinstance(size, int) and not isinstance(size, bool) and 0 <= size <= LARGEST_BYTES
    return Stamp(size, sha256) if fair and isinstance(sha256, str) else None

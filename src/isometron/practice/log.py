"""The log of work: drills, sheets, notes, in one SQLite file on this machine.

Nothing is written before the person allows it. The file may be missing, locked, full or damaged:
each is said in a sentence, a damaged one is set aside, and work goes on."""

import csv
import io
import json
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import Any, NamedTuple

from isometron.cells import guarded
from isometron.own_places import data_folder, is_there, private_file, private_folder
from isometron.perspective.errors import IsometronError
from isometron.practice.kept import FORMER_DRILLS, moment_told, what_was_kept
from isometron.words import _, many

VERSION = 2
"""1: entries and settings. 2: small pictures of sheets beside them."""

KINDS = ("drill", "sheet", "reading", "remark", "note")
LONGEST_TEXT = 20_000
ADD_PICTURE = "INSERT OR REPLACE INTO pictures (png, entry) SELECT ?, id FROM entries WHERE id = ?"
WAIT_S = 2.0
"""How long another window may hold the file."""


STEPS = (
    (
        "CREATE TABLE IF NOT EXISTS entries (id INTEGER PRIMARY KEY, at TEXT NOT NULL, "
        "kind TEXT NOT NULL, about TEXT NOT NULL, kept TEXT NOT NULL, tag TEXT NOT NULL)",
        "CREATE INDEX IF NOT EXISTS by_time ON entries (at)",
        "CREATE TABLE IF NOT EXISTS settings (name TEXT PRIMARY KEY, value TEXT)",
    ),
    ("CREATE TABLE IF NOT EXISTS pictures (entry INTEGER PRIMARY KEY, png BLOB NOT NULL)",),
)
"""What brings the file from each version to the next."""


def _text(content: bytes) -> str:
    return content.decode(errors="replace")


class LogError(IsometronError):
    """The log cannot be read or written just now."""


class Entry(NamedTuple):
    """One line of the log: when (ISO, local), what kind, of what (a drill, a sheet), what is kept
    of it (plain data), a tag; its number in the log, 0 before it is in one."""

    at: str
    kind: str
    about: str
    kept: dict[str, Any]
    tag: str = ""
    number: int = 0


def log_place() -> Path:
    """Where the log lies (XDG base directories)."""
    return data_folder() / "log.sqlite"


class Log:
    """The log at a place. `said` is what was wrong with the file, in a sentence, once; `odd`: how
    many rows of those read last are no entries, written by another hand."""

    def __init__(self, place: Path | None = None) -> None:
        self.place = place or log_place()
        self.said = ""
        self.odd = 0

    # Opened for one thing at a time: another window may write too.

    @property
    def told_of_odd(self) -> str:
        """How many rows were left aside, in a sentence; "" for none."""
        if not self.odd:
            return ""
        return many(
            "{n} row of the log was not written by Isometron: it is left aside.",
            "{n} rows of the log were not written by Isometron: they are left aside.",
            self.odd,
        ).format(n=self.odd)

    @contextmanager
    def _open(self) -> Iterator[sqlite3.Connection]:
        private_folder(self.place.parent)
        private_file(self.place)  # its rights are taken before the first byte
        base = sqlite3.connect(self.place, timeout=WAIT_S)
        base.text_factory = _text
        try:
            _made(base)
            yield base
        finally:
            base.close()

    def _with(self, work: Any) -> Any:
        try:
            with self._open() as base:
                return work(base)
        except sqlite3.OperationalError as error:
            if "locked" in str(error):
                raise LogError(_("Another window is writing the log: try again.")) from error
            raise LogError(
                _("The log cannot be used just now ({error}): work goes on without it.").format(
                    error=error
                )
            ) from error
        except sqlite3.DatabaseError:
            return self._anew(work)
        except (OSError, OverflowError, ValueError) as error:
            raise _not_here(error) from error

    def _anew(self, work: Any) -> Any:
        """Work on a new log; the damaged one is set aside."""
        try:
            self._set_aside()
            with self._open() as base:
                return work(base)
        except (OSError, sqlite3.Error) as error:
            raise _not_here(error) from error

    def _set_aside(self) -> None:
        """A damaged file gets another name; nothing of it is lost."""
        stamp = datetime.now().strftime("%Y%m%d-%H%M%S-%f")
        aside = self.place.with_name(f"{self.place.name}.damaged-{stamp}")
        self.place.replace(aside)
        told = _("The log was damaged: it was set aside as “{name}”, a new one begun.")
        self.said = told.format(name=aside.name)

    # Allowed or not

    @property
    def allowed(self) -> bool | None:
        """Whether the person has allowed it; None while they have not been asked."""
        if not is_there(self.place):
            return None
        told = self._with(
            lambda base: base.execute("SELECT value FROM settings WHERE name='allowed'").fetchone()
        )
        return None if told is None else told[0] == "yes"

    @property
    def asks(self) -> bool:
        """Whether the person is still to be asked; not while the log cannot be used."""
        try:
            return self.allowed is None
        except LogError:
            return False

    def allow(self, yes: bool) -> None:
        """Allow it, or not. Raises LogError."""

        def work(base: sqlite3.Connection) -> None:
            with base:
                base.execute(
                    "INSERT OR REPLACE INTO settings VALUES ('allowed', ?)",
                    ("yes" if yes else "no",),
                )

        self._with(work)

    # Entries

    def add(self, entry: Entry, picture: bytes = b"") -> int:
        """Keep an entry, and a small picture (PNG) beside it, if the person allows it; gives its
        number in the log, 0 when it was not kept. Raises LogError."""
        if entry.kind not in KINDS or len(entry.about) > LONGEST_TEXT:
            raise LogError(_("The log keeps drills, sheets, readings, remarks and notes."))
        if not self.allowed:
            return 0
        kept = json.dumps(entry.kept, allow_nan=False)

        def work(base: sqlite3.Connection) -> int:
            with base:
                made = base.execute(
                    "INSERT INTO entries (at, kind, about, kept, tag) VALUES (?, ?, ?, ?, ?)",
                    (entry.at, entry.kind, entry.about, kept, entry.tag),
                )
                if picture:
                    base.execute(ADD_PICTURE, (picture, made.lastrowid))
            return made.lastrowid or 0

        number: int = self._with(work)
        return number

    def add_picture(self, number: int, png: bytes) -> None:
        """Keep a small picture beside an entry that is there. Raises LogError."""

        def work(base: sqlite3.Connection) -> None:
            with base:
                base.execute(ADD_PICTURE, (png, number))

        self._with(work)

    def picture(self, number: int) -> bytes:
        """The small picture (PNG) of an entry, b"" when there is none."""
        if not is_there(self.place):
            return b""
        told = self._with(
            lambda base: base.execute(
                "SELECT png FROM pictures WHERE entry = ?", (number,)
            ).fetchone()
        )
        return told[0] if told and isinstance(told[0], bytes) else b""

    def days(self, since: str = "") -> dict[str, dict[str, int]]:
        """How many entries of each kind there are on every day (ISO) since a date."""
        if not is_there(self.place):
            return {}
        rows = self._with(
            lambda base: base.execute(
                "SELECT substr(at, 1, 10), kind, COUNT(*) FROM entries "
                "WHERE at >= ? AND typeof(at) = 'text' AND typeof(kind) = 'text' GROUP BY 1, 2",
                (since,),
            ).fetchall()
        )
        found: dict[str, dict[str, int]] = {}
        for day, kind, count in rows:
            found.setdefault(day, {})[kind] = int(count)
        return found

    def entries(self, *, kind: str | None = None, since: str = "") -> list[Entry]:
        """The entries, oldest first; of one kind, and since a date (ISO), when asked for."""
        return self._read("AND at >= ?2 ORDER BY at, id", kind, since)

    def of_day(self, day: str) -> list[Entry]:
        """The entries of a day (ISO), oldest first."""
        return self._read("AND at >= ?2 AND at < ?2 || 'U' ORDER BY at, id", None, day)

    def latest(self, count: int, *, kind: str | None = None) -> list[Entry]:
        """The last so many entries, oldest first; of one kind when asked for. Takes as long however
        many there are."""
        return self._read("ORDER BY id DESC LIMIT ?2", kind, count)[::-1]

    def _read(self, which: str, kind: str | None, told: str | int) -> list[Entry]:
        """The entries of a kind, or of all kinds, that the rest of a query picks and orders."""
        if not is_there(self.place):
            return []

        def work(base: sqlite3.Connection) -> list[Any]:
            found: list[Any] = base.execute(
                "SELECT at, kind, about, kept, tag, id FROM entries "
                "WHERE (?1 IS NULL OR kind = ?1) " + which,
                (kind, told),
            ).fetchall()
            return found

        rows = self._with(work)
        every = [one for row in rows if (one := _entry(*row)) is not None]
        self.odd = len(rows) - len(every)
        return every

    @property
    def count(self) -> int:
        """How many entries there are."""
        if not is_there(self.place):
            return 0
        told = self._with(lambda base: base.execute("SELECT COUNT(*) FROM entries").fetchone())
        return int(told[0])

    def erase(self) -> None:
        """Forget everything, and that it was allowed. Raises LogError."""

        def work(base: sqlite3.Connection) -> None:
            with base:
                base.execute("DELETE FROM entries")
                base.execute("DELETE FROM pictures")
                base.execute("DELETE FROM settings WHERE name='allowed'")
            base.execute("VACUUM")

        if is_there(self.place):
            self._with(work)


def _entry(
    at: object, kind: object, about: object, kept: object, tag: object, number: int
) -> Entry | None:
    """A row of the log as an entry; None for one that no Isometron has written."""
    moment = moment_told(at)
    if moment is None or not isinstance(kind, str) or not isinstance(about, str):
        return None
    tag = tag if isinstance(tag, str) else ""
    about = FORMER_DRILLS.get(about, about) if kind == "drill" else about
    return Entry(moment, kind, about[:LONGEST_TEXT], what_was_kept(kept), tag, number)


def _not_here(error: Exception) -> LogError:
    why = error.strerror if isinstance(error, OSError) and error.strerror else error
    return LogError(
        _("The log cannot be kept here ({error}): work goes on without it.").format(error=why)
    )


def _made(base: sqlite3.Connection) -> None:
    """The tables, brought up from any older version. Raises LogError for a newer one."""
    version = base.execute("PRAGMA user_version").fetchone()[0]
    if version > VERSION:
        raise LogError(_("The log was written by a newer Isometron: open it with that one."))
    if version == VERSION:
        return
    with base:
        base.execute("BEGIN IMMEDIATE")
        for step in STEPS[version:]:
            for order in step:
                base.execute(order)
        base.execute(f"PRAGMA user_version = {VERSION}")


def now() -> str:
    """This moment, as the log keeps it."""
    return datetime.now().isoformat(timespec="seconds")


def as_csv(entries: list[Entry]) -> str:
    """Entries as a table; words that a spreadsheet would run are kept as words."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["at", "kind", "about", "tag", "kept"])
    for one in entries:
        row = [one.at, one.kind, one.about, one.tag, json.dumps(one.kept, ensure_ascii=False)]
        rows.writerow([guarded(cell) for cell in row])
    return out.getvalue()


def as_json(entries: list[Entry]) -> str:
    """Entries as JSON."""
    told = [{k: v for k, v in one._asdict().items() if k != "number"} for one in entries]
    return json.dumps(told, indent=1, ensure_ascii=False, allow_nan=False) + "\n"

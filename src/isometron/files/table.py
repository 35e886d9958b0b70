"""Dimensions as CSV: out, and back in."""

import csv
import io
import math
from dataclasses import replace
from pathlib import Path
from typing import Any

from isometron.cells import guarded, meant
from isometron.document.document import Document
from isometron.document.edits.choosing import with_new
from isometron.files.disk import read_bytes
from isometron.framework.volume import Volume
from isometron.perspective.errors import FileError, IsometronError
from isometron.words import _, quoted

COLUMNS = (
    "name",
    "kind",
    "width_mm",
    "depth_mm",
    "height_mm",
    "x_mm",
    "y_mm",
    "z_mm",
    "yaw_deg",
    "pitch_deg",
    "roll_deg",
    "group",
    "key",
)
NUMBERS = COLUMNS[2:11]
SIDES = NUMBERS[:3]
LARGEST_BYTES = 16 * 1024 * 1024


def table_of(document: Document) -> bytes:
    """Every volume's dimensions as CSV (UTF-8, comma, a heading row); numbers read back exactly."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(COLUMNS)
    for volume in document.volumes:
        numbers = [repr(getattr(volume, column)) for column in NUMBERS]
        names = (guarded(volume.name), volume.called, *numbers, guarded(volume.group))
        writer.writerow([*names, volume.key])
    return text.getvalue().encode()


def read_table(path: Path) -> bytes:
    """The bytes of a CSV file. Raises FileError."""
    return read_bytes(path, LARGEST_BYTES, _("a table of dimensions"))


def take_table(document: Document, content: bytes, source: str) -> Document:
    """The document with the dimensions of a CSV table: rows change the volume of their key and
    name, else the next one of their name; rows with a new name add a box. Columns may be missing;
    a volume's shape, cuts and copies stay.

    Raises FileError naming the row; the document given is as it was.
    """
    changed: dict[int, Volume] = {}
    added: list[Volume] = []
    known = _Known(document)
    for number, row in enumerate(_rows(content, source), start=2):
        name = meant(row.get("name") or "")
        try:
            values = _values(row)
            index = known.take(row.get("key"), name)
            if index is not None:
                changed[index] = replace(document.volumes[index], **values)
            elif set(SIDES) <= set(values):
                plain = " ".join(name.split())
                added.append(replace(Volume(plain, 1.0, 1.0, 1.0, key=-1 - number), **values))
            else:
                raise FileError(_("a new volume needs width_mm, depth_mm and height_mm"))
        except IsometronError as error:
            raise FileError(f"{source}, row {number}: {error}") from error
    try:
        done = document.with_each(changed)
        return with_new(done, added) if added else done
    except IsometronError as error:
        raise FileError(f"{source}: {error}") from error


class _Known:
    """The volumes of a document, found by key and name, else by name in their order."""

    def __init__(self, document: Document) -> None:
        self._by_key = {str(v.key): (i, v.name) for i, v in enumerate(document.volumes)}
        self._by_name: dict[str, list[int]] = {}
        self._by_words: dict[str, list[int]] = {}
        for index, volume in enumerate(document.volumes):
            self._by_name.setdefault(volume.name, []).append(index)
            self._by_words.setdefault(" ".join(volume.name.split()), []).append(index)
        self._taken: set[int] = set()

    def take(self, key: str | None, name: str) -> int | None:
        """The number of the volume a row is of; the last of a name is asked for again."""
        index, called = self._by_key.get((key or "").strip(), (-1, ""))
        if index < 0 or called != name:
            every = self._by_name.get(name) or self._by_words.get(" ".join(name.split()), [])
            free = [one for one in every if one not in self._taken] or every[:1]
            if not free:
                return None
            index = free[0]
        self._taken.add(index)
        return index


def _rows(content: bytes, source: str) -> list[dict[str, str | None]]:
    try:
        text = content.decode("utf-8-sig")
        sample = text.splitlines()[0] if text.strip() else ""
        mark = max(",;\t", key=sample.count)
        reader = csv.DictReader(io.StringIO(text), delimiter=mark, strict=True)
        rows = list(reader)
    except (UnicodeDecodeError, csv.Error, IndexError) as error:
        raise FileError(
            _("{source} is not a table of dimensions: save it as CSV.").format(source=source)
        ) from error
    headings = set(reader.fieldnames or ())
    if "name" not in headings or not headings & set(NUMBERS):
        raise FileError(
            _(
                "{source} is not a table of dimensions: its first row must name the "
                "columns {value} …"
            ).format(source=source, value=", ".join(COLUMNS[:5]))
        )
    return rows


def _values(row: dict[str, str | None]) -> dict[str, Any]:
    values: dict[str, Any] = {}
    for column in NUMBERS:
        text = (row.get(column) or "").strip()
        if not text:
            continue
        try:
            value = float(text if text.count(",") != 1 or "." in text else text.replace(",", "."))
        except ValueError:
            value = math.nan
        if not math.isfinite(value):
            raise FileError(
                _("“{text}” under {column} is no number: type millimetres or degrees.").format(
                    text=quoted(text), column=column
                )
            )
        values[column] = value
    if row.get("group") is not None:
        values["group"] = meant(row["group"] or "")
    return values

"""Dimensions as CSV: out, and back in."""

import csv
import io
import math
from dataclasses import replace
from pathlib import Path
from typing import Any

from isometron.document.document import Document
from isometron.document.edits.choosing import with_new
from isometron.files.atomic import reason
from isometron.framework.volume import Volume
from isometron.perspective.errors import FileError, IsometronError
from isometron.words import _

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
        writer.writerow([volume.name, volume.called, *numbers, volume.group])
    return text.getvalue().encode()


def read_table(path: Path) -> bytes:
    """The bytes of a CSV file. Raises FileError."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise FileError(
                _("“{path}” is far too large for a table of dimensions.").format(path=path)
            )
        return path.read_bytes()
    except FileNotFoundError as error:
        raise FileError(
            _("There is no file “{path}”: check its name and folder.").format(path=path)
        ) from error
    except OSError as error:
        raise FileError(
            _("“{path}” cannot be read: {error}.").format(path=path, error=reason(error))
        ) from error


def take_table(document: Document, content: bytes, source: str) -> Document:
    """The document with the dimensions of a CSV table: rows change the volume of their name, rows
    with a new name add a box. Columns may be missing; a volume's shape, cuts and copies stay.

    Raises FileError naming the row; the document given is as it was.
    """
    changed: dict[int, Volume] = {}
    added: list[Volume] = []
    by_name = {volume.name: i for i, volume in reversed(list(enumerate(document.volumes)))}
    for number, row in enumerate(_rows(content, source), start=2):
        name = " ".join((row.get("name") or "").split())
        try:
            values = _values(row)
            if name in by_name:
                before = document.volumes[by_name[name]]
                changed[by_name[name]] = replace(before, **values)
            elif set(SIDES) <= set(values):
                added.append(replace(Volume(name, 1.0, 1.0, 1.0, key=-1 - number), **values))
            else:
                raise FileError(_("a new volume needs width_mm, depth_mm and height_mm"))
        except IsometronError as error:
            raise FileError(f"{source}, row {number}: {error}") from error
    try:
        done = document.with_each(changed)
        return with_new(done, added) if added else done
    except IsometronError as error:
        raise FileError(f"{source}: {error}") from error


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
                    text=text, column=column
                )
            )
        values[column] = value
    if row.get("group") is not None:
        values["group"] = " ".join((row["group"] or "").split())
    return values

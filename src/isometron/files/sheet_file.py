"""Sheet files: JSON checked against the published schema, read whole and written whole."""

import itertools
import json
import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from isometron.document.document import Document
from isometron.document.edits.viewing import workable
from isometron.document.picture import PictureFile, SheetPicture
from isometron.files.codec import Complaint
from isometron.files.disk import STANDARD_INPUT, read_bytes, write_whole
from isometron.files.sheet_form import MEANT, PICTURES, SHEET, VERSION, raised
from isometron.files.volume_form import VOLUMES
from isometron.framework.intentions.intention import Intention
from isometron.framework.volume import Volume
from isometron.perspective.errors import FileError, IsometronError
from isometron.words import _, said

SUFFIX = ".isometron"
SAMPLES_FOLDER = Path(__file__).parents[1] / "samples"
SAMPLE_NAME = said("eyepiece case")
SAMPLES = (
    SAMPLE_NAME,
    said("supply crawler"),
    said("observing chair"),
    said("turned eyepiece cases"),
    said("red lamp"),
    said("telescope tube"),
    said("crawler in the sun"),
    said("case by lamplight"),
)
LARGEST_BYTES = 160 * 1024 * 1024
"""More than this is not a sheet of boxes, even with all its pictures."""

LONGEST_TOLD = 110
"""Of one thing that is wrong, letters."""

LARGEST_PLAIN = 24_000_000
"""Bytes of a sheet besides its pictures."""

MOST_VOLUMES = 10_000
"""Volumes that one sheet carries."""

_ENCODED = re.compile(rb'"base64"\s*:\s*"[A-Za-z0-9+/=]*"')


def read_sheet(path: str | Path) -> Document:
    """The document in a sheet file; “-” reads standard input. Raises FileError."""
    source = _("standard input") if str(path) == STANDARD_INPUT else f"“{path}”"
    return sheet_from_text(read_bytes(path, LARGEST_BYTES, _("a sheet")), source)


def write_sheet(document: Document, path: Path) -> None:
    """Save the document; the old file stays until the new one is complete. Raises FileError."""
    write_whole(path, sheet_as_text(document).encode())


def sheet_as_text(document: Document) -> str:
    """The sheet file of a document. Every number reads back to the very same value."""
    content = {"isometron": VERSION, **SHEET.write(document)}
    return json.dumps(content, indent=1, ensure_ascii=False, allow_nan=False) + "\n"


STAND_IN = "sha256:"


def _stood_for(picture: SheetPicture) -> SheetPicture:
    file = PictureFile(b"", stand_in=STAND_IN + picture.file.sha256)
    return replace(picture, file=file)


class SheetWriter:
    """Writes one sheet over and over: what it wrote of a volume is kept while the volume stays."""

    def __init__(self) -> None:
        self._written: dict[int, tuple[Volume, str]] = {}

    def text(self, document: Document) -> str:
        """The sheet file of a document, on a line of its own for each volume; its pictures are
        stood for by their hash (`stand_in`)."""
        document = replace(document, pictures=tuple(map(_stood_for, document.pictures)))
        bare = replace(document, volumes=(), selected=None, also=frozenset())
        content: dict[str, Any] = {"isometron": VERSION, **SHEET.write(bare)}
        content["selected"] = document.selected
        if document.also:
            content["also"] = sorted(document.also)
        written = {}
        for volume in document.volumes:
            known = self._written.get(id(volume))
            if known is None or known[0] is not volume:
                known = volume, json.dumps(VOLUMES.write((volume,))[0], allow_nan=False)
            written[id(volume)] = known
        self._written = written
        mark = json.dumps(content | {"volumes": None}, allow_nan=False)
        before, _unused, after = mark.partition('"volumes": null')
        rows = ",\n".join(text for _volume, text in written.values())
        return f'{before}"volumes": [{rows}]{after}\n'


def is_sheet(content: bytes) -> bool:
    """Whether bytes begin as a sheet file does."""
    return content.lstrip(b"\xef\xbb\xbf \t\r\n{")[:12].startswith(b'"isometron"')


def sheet_from_text(content: bytes, source: str) -> Document:
    """The document in the bytes of a sheet file. Raises FileError naming `source`."""
    data = _parsed(content, source)
    if not isinstance(data, dict) or "isometron" not in data:
        raise FileError(
            _("{source} is not an Isometron sheet: choose a file that Isometron saved.").format(
                source=source
            )
        )
    version = data["isometron"]
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        raise FileError(
            _(
                "{source} was made by a newer Isometron (sheet version {version}, this one "
                "reads {version2}): open it with that one."
            ).format(source=source, version=version, version2=VERSION)
        )
    _refuse_too_many(data.get("volumes"), source)
    data = raised(data)
    _check(data, source)
    try:
        return _document(data)
    except IsometronError as error:
        raise FileError(
            _("{source} cannot be opened: {error}").format(source=source, error=error)
        ) from error


def _parsed(content: bytes, source: str) -> Any:
    _refuse_too_much(content, source)
    if not content.strip():
        raise FileError(
            _("{source} is empty: choose a sheet that Isometron saved.").format(source=source)
        )
    try:
        return json.loads(
            content.decode("utf-8-sig"),
            parse_float=_finite,
            parse_int=_whole,
            parse_constant=_no_number,
        )
    except _NoNumberError as error:
        raise FileError(
            _("{source} holds {error}, which is no measure: put a number there.").format(
                source=source, error=error
            )
        ) from (error)
    except json.JSONDecodeError as error:
        raise FileError(
            _("{source} is damaged or cut off (line {lineno}): use an earlier copy.").format(
                source=source, lineno=error.lineno
            )
        ) from error
    except (ValueError, RecursionError) as error:
        raise FileError(
            _("{source} is not an Isometron sheet: choose a file that Isometron saved.").format(
                source=source
            )
        ) from error


def _refuse_too_much(content: bytes, source: str) -> None:
    """Refuse, before it is taken apart, what no sheet holds. Raises FileError."""
    if len(content) <= LARGEST_PLAIN:
        return
    plain = len(content) - sum(len(found[0]) for found in _ENCODED.finditer(content))
    if plain > LARGEST_PLAIN:
        raise FileError(
            _(
                "{source} holds {size} MB besides its pictures, and a sheet at most {most}: take a "
                "smaller one."
            ).format(source=source, size=round(plain / 1e6), most=round(LARGEST_PLAIN / 1e6))
        )


def _refuse_too_many(volumes: Any, source: str) -> None:
    if isinstance(volumes, list) and len(volumes) > MOST_VOLUMES:
        raise FileError(
            _("{source} has {count} volumes, and a sheet carries at most {most}.").format(
                source=source, count=len(volumes), most=MOST_VOLUMES
            )
        )


class _NoNumberError(Exception):
    pass


def _no_number(text: str) -> float:
    raise _NoNumberError(text if len(text) < 20 else _("an endless number"))


def _finite(text: str) -> float:
    value = float(text)
    return value if math.isfinite(value) else _no_number(text)


def _whole(text: str) -> int | float:
    return int(text) if len(text) < 16 else _finite(text)


MOST_TOLD = 3
"""So many things that are wrong with a file are told at once."""


def _check(data: Any, source: str) -> None:
    """Whether data keeps to the form of a sheet. Raises FileError."""
    found = list(itertools.islice(complaints(data), MOST_TOLD + 1))
    if not found:
        return
    told = [f"{one.where or _('the sheet')} {one.what}" for one in found[:MOST_TOLD]]
    words = "; ".join(f"{one[:LONGEST_TOLD]}…" if len(one) > LONGEST_TOLD else one for one in told)
    if len(found) > MOST_TOLD:
        words = _("{words}, and more").format(words=words)
    raise FileError(_("{source} cannot be opened: {words}.").format(source=source, words=words))


def complaints(data: Any) -> Iterator[Complaint]:
    """What is wrong with the data of a sheet of this version, in the order of the file."""
    if isinstance(data, dict) and (data.get("isometron") != VERSION or data["isometron"] is True):
        yield Complaint("isometron", _("must be {value}").format(value=VERSION))
    yield from SHEET.check_besides(data, "", ("isometron",))


def _document(data: dict[str, Any]) -> Document:
    document: Document = SHEET.read(data)
    return workable(document.proved())


def volumes_as_text(volumes: Sequence[Volume], ties: Sequence[Intention] = ()) -> str:
    """Volumes, and those ties that are between them, as text for the clipboard, in the fields of a
    sheet file."""
    there = {volume.key for volume in volumes}
    between = [one for one in ties if there.issuperset(one.keys)]
    content = {"isometron volumes": VERSION, "volumes": VOLUMES.write(volumes)}
    if between:
        content["intentions"] = MEANT.write(between)
    return json.dumps(content, indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def volumes_from_text(text: str) -> tuple[list[Volume], list[Intention]]:
    """The volumes in a text from the clipboard, and what is kept between them. Raises FileError
    when there are none."""
    nothing = _("There are no volumes to paste: copy some on a sheet first.")
    if len(text) > LARGEST_BYTES:
        raise FileError(nothing)
    try:
        data = json.loads(text, parse_float=_finite, parse_int=_whole, parse_constant=_no_number)
        _refuse_too_many(data["volumes"], _("What was copied"))
        blank = json.loads(sheet_as_text(Document()))
        ties = data.get("intentions", [])
        sheet = raised({**blank, "volumes": data["volumes"], "intentions": ties})
        _check(sheet, _("What was copied"))
        volumes = list(VOLUMES.read(sheet["volumes"]))
        there = {volume.key for volume in volumes}
        meant = list(MEANT.read(sheet["intentions"]))
        return volumes, [one for one in meant if there.issuperset(one.keys)]
    except (ValueError, KeyError, TypeError, RecursionError, _NoNumberError) as error:
        raise FileError(nothing) from error


def sample_sheet(name: str = SAMPLE_NAME) -> Document:
    """One of the sample sheets that ship with the program, all from Brackenmoor Observatory."""
    content = (SAMPLES_FOLDER / f"{name}{SUFFIX}").read_text()
    # It is ours, and tested: it need not be checked at every start.
    return _document(raised(json.loads(content)))


PICTURE_SAMPLES = (said("supply crawler"), said("red lamp"))
SKETCH_SAMPLE, SKETCH_SHEET = said("sketch with mistakes"), said("eyepiece case")
"""A sketch of one of the sample sheets, drawn with known mistakes (tools/sample_pictures.py)."""


def sample_picture(name: str) -> bytes:
    """A sample photograph of a thing from Brackenmoor Observatory, as a JPEG file."""
    return (SAMPLES_FOLDER / f"{name}.jpg").read_bytes()


def pictures_as_text(pictures: Sequence[SheetPicture]) -> str:
    """Pictures with their marks as text for the clipboard, in the fields of a sheet file."""
    written = PICTURES.write(pictures)
    return json.dumps({"isometron pictures": VERSION, "pictures": written}, allow_nan=False)


def pictures_from_text(text: str) -> list[SheetPicture]:
    """The pictures in a text from the clipboard, none when there are none."""
    if not text.startswith('{"isometron pictures"') or len(text) > LARGEST_BYTES:
        return []
    try:
        data = json.loads(text, parse_float=_finite, parse_int=_whole, parse_constant=_no_number)
        blank = json.loads(sheet_as_text(Document()))
        sheet = {**blank, "pictures": data["pictures"]}
        _check(sheet, _("What was copied"))
        return list(PICTURES.read(sheet["pictures"]))
    except (ValueError, KeyError, TypeError, RecursionError, _NoNumberError):
        return []

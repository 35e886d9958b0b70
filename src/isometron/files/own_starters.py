"""Starters of one's own: sheet files in the program's own place, each with a small drawing. Shared
as any sheet is."""

import contextlib
from pathlib import Path

from isometron.document.document import Document
from isometron.document.edits.starters.from_sheet import starter_from
from isometron.document.edits.starters.starter import Starter
from isometron.files.disk import write_whole
from isometron.files.sheet_file import SUFFIX, read_sheet, sheet_as_text
from isometron.own_places import data_folder, private_folder

MOST = 60
"""More are not listed."""


def folder() -> Path:
    """Where they lie."""
    return data_folder() / "starters"


def own_starters() -> list[Path]:
    """Their files, by name."""
    with contextlib.suppress(OSError):
        return sorted(path for path in folder().glob(f"*{SUFFIX}") if path.is_file())[:MOST]
    return []


def read_starter(path: Path) -> Starter:
    """A starter of one's own, or any sheet as one. Raises FileError for a damaged file, VolumeError
    for one that asks for nothing."""
    return starter_from(read_sheet(path), path.stem)


def keep_starter(document: Document, name: str) -> Path:
    """Keep the framework of a sheet as a starter. Raises VolumeError where it asks for nothing,
    FileError where it cannot be written."""
    starter_from(document, name)
    with contextlib.suppress(OSError):  # what is written into it says why it cannot be
        private_folder(folder())
    path = folder() / f"{name}{SUFFIX}"
    write_whole(path, sheet_as_text(document).encode(), private=True)
    return path

"""Work on sheets in the log: opened, saved, printed; pictures read, remarks mended; when the person
keeps one."""

import contextlib
from pathlib import Path
from typing import TYPE_CHECKING, Any

from isometron.words import _, many, said

if TYPE_CHECKING:
    from isometron.document.document import Document
    from isometron.drawing.scene import Scene

OPENED, SAVED, PRINTED = said("opened"), said("saved"), said("printed")
KIND_TAGS = {"sheet": said("sheet"), "reading": said("reading"), "remark": said("remark mended")}
LARGEST_PICTURE = 60
"""Sheets of more volumes are kept without a small picture: nobody waits for it."""


def log_work(kind: str, about: str, words: str, kept: "dict[str, Any] | None" = None,
             picture: bytes = b"") -> None:  # fmt: skip
    """Keep what was done, in words. Nothing that the log cannot do hinders the work itself."""
    from isometron.practice.log import Entry, Log, LogError, now

    log = Log()
    if not log.place.exists():
        return
    entry = Entry(now(), kind, about, {**(kept or {}), "words": words}, _(KIND_TAGS[kind]))
    with contextlib.suppress(LogError):
        log.add(entry, picture)


def log_sheet(
    document: "Document",
    scene: "Scene",
    name: str,
    did: str,
    path: Path | None = None,
) -> None:
    """Keep what was done with a sheet: its volumes, views and kind of view, where it lies, and a
    small picture of it."""
    from isometron.drawing.measures import kind_of_sheet
    from isometron.practice.log import log_place

    if not log_place().exists():
        return
    volumes, views = len(document.volumes), len(document.views)
    kind = _(kind_of_sheet(document))
    words = ", ".join(
        [
            many("{n} volume", "{n} volumes", volumes).format(n=volumes),
            many("{n} view", "{n} views", views).format(n=views),
            kind,
        ]
    )
    kept = {"did": did, "volumes": volumes, "views": views, "view": kind}
    if path is not None:
        kept["path"] = str(path.resolve())
    log_work("sheet", name, f"{_(did)}: {words}", kept, _small(document, scene))


def _small(document: "Document", scene: "Scene") -> bytes:
    """A small picture (PNG) of a sheet, b"" where there is nothing to show, or too much."""
    from PyQt6.QtCore import QBuffer, QSize

    from isometron.ui.bench.small_picture import SmallPicture

    if not 0 < len(document.volumes) <= LARGEST_PICTURE:
        return b""
    shown = SmallPicture(QSize(420, 297), "", 2.5)
    shown.show_scene(scene)
    content = QBuffer()
    shown.grab().save(content, "PNG")
    shown.deleteLater()
    return bytes(content.data().data())

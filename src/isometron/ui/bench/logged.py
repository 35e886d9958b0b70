"""Work on sheets in the log: opened, saved, printed; pictures read, remarks mended; when the person
keeps one."""

import contextlib
from pathlib import Path
from threading import Thread
from typing import TYPE_CHECKING, Any

from isometron.own_places import full_path, is_there
from isometron.words import _, many, said

if TYPE_CHECKING:
    from isometron.document.document import Document
    from isometron.drawing.scene import Scene

OPENED, SAVED, PRINTED = said("opened"), said("saved"), said("printed")
KIND_TAGS = {"sheet": said("sheet"), "reading": said("reading"), "remark": said("remark mended")}
WIDE, HIGH, WEIGHT = 420, 297, 2.5
"""Of a small picture: its size, px, and px per mm of its lines."""


def log_work(kind: str, about: str, words: str, kept: "dict[str, Any] | None" = None) -> int:
    """Keep what was done, in words; gives its number in the log, 0 when it was not kept. Nothing
    that the log cannot do hinders the work itself."""
    from isometron.practice.log import Entry, Log, LogError, now

    log = Log()
    if not is_there(log.place):
        return 0
    entry = Entry(now(), kind, about, {**(kept or {}), "words": words}, _(KIND_TAGS[kind]))
    with contextlib.suppress(LogError):
        return log.add(entry)
    return 0


def log_sheet(
    document: "Document",
    scene: "Scene",
    name: str,
    did: str,
    path: Path | None = None,
) -> Thread | None:
    """Keep what was done with a sheet: its volumes, views and kind of view, where it lies. A small
    picture of it is drawn beside the window, by the thread this gives."""
    from isometron.drawing.measures import kind_of_sheet
    from isometron.practice.log import log_place

    if not is_there(log_place()):
        return None
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
        kept["path"] = str(full_path(path))
    number = log_work("sheet", name, f"{_(did)}: {words}", kept)
    if not number:
        return None
    drawing = Thread(target=_draw, args=(document, scene, number), daemon=True)
    drawing.start()
    return drawing


def _draw(document: "Document", scene: "Scene", number: int) -> None:
    """A small picture of a sheet, put beside its entry."""
    from PyQt6.QtCore import QSize

    from isometron.drawing.small import small_of
    from isometron.practice.log import Log, LogError
    from isometron.render.small import small_png

    png = small_png(small_of(document, scene), QSize(WIDE, HIGH), WEIGHT)
    if png:
        with contextlib.suppress(LogError):
            Log().add_picture(number, png)

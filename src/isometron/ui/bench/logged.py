"""Sheets in the log of work: opened, saved, printed, when the person keeps one."""

import contextlib
from typing import TYPE_CHECKING

from isometron.words import _, said

if TYPE_CHECKING:
    from isometron.document.document import Document

OPENED, SAVED, PRINTED = said("opened"), said("saved"), said("printed")


def log_sheet(document: "Document", name: str, did: str) -> None:
    """Keep what was done with a sheet: how many volumes, in how many views. Nothing that the log
    cannot do hinders the work itself."""
    from isometron.practice.log import Entry, Log, LogError, now

    log = Log()
    if not log.place.exists():
        return
    volumes, views = len(document.volumes), len(document.views)
    words = _("{did}: {volumes} volumes, {views} views").format(
        did=_(did), volumes=volumes, views=views
    )
    kept = {"did": did, "volumes": volumes, "views": views, "words": words}
    with contextlib.suppress(LogError):
        log.add(Entry(now(), "sheet", name, kept, _("sheet")))

"""Edits of how a sheet is built: method, ticks, hidden steps, order of chapters."""

from dataclasses import replace
from typing import Any

from isometron.document.document import Document


def build_by(document: Document, method: str | None, points_first: bool | None) -> Document:
    """Another method, or another beginning; None keeps it. Ticks stay."""
    building = document.building
    changed = replace(
        building,
        method=building.method if method is None else method,
        points_first=building.points_first if points_first is None else points_first,
    )
    return replace(document, building=changed)


def reach(document: Document, words: str) -> Document:
    """An order that constructs what is seen, everything, or the framework alone. Ticks stay."""
    return replace(document, building=replace(document.building, reach=words))


def tick(document: Document, key: str, done: bool) -> Document:
    """A step ticked off as done on paper, or not."""
    ticks = document.building.done | {key} if done else document.building.done - {key}
    return replace(document, building=replace(document.building, done=ticks))


def hide_step(document: Document, key: str, hidden: bool) -> Document:
    """A step left out of reading (what it draws stays), or told again."""
    some = document.building.hidden | {key} if hidden else document.building.hidden - {key}
    return replace(document, building=replace(document.building, hidden=some))


def show_all_steps(document: Document) -> Document:
    """No step hidden."""
    return replace(document, building=replace(document.building, hidden=frozenset()))


def arrange(document: Document, chapters: tuple[str, ...]) -> Document:
    """Chapters in the person's own sequence, by key; () is the usual one."""
    return replace(document, building=replace(document.building, chapters=chapters))


def set_kit(document: Document, **what: Any) -> Document:
    """Other things on the table, by the names of the kit. Raises ChoiceError."""
    return replace(document, kit=replace(document.kit, **what))

"""The Finish page of the Light tab: line weights, surroundings and the mirror image."""

from collections.abc import Callable
from functools import partial

from isometron.document.document import Document
from isometron.document.edits.finishing import set_finish, set_surrounding
from isometron.document.finish import SURROUNDINGS
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import FineField
from isometron.ui.parts.page import Page, Piece
from isometron.ui.parts.rows import Choosing, Entry, Heading, Rest, Row, Switch, Told
from isometron.ui.parts.wishes import Edit
from isometron.words import _


def _sets(name: str) -> Callable[[Document, object], Document]:
    """The edit that gives the finish one of its choices."""
    return lambda document, value: set_finish(document, **{name: value})


def _weight(key: str, tip: str, name: str) -> Row:
    return Row(
        _(key),
        Entry(
            key,
            tip,
            FineField,
            lambda d: getattr(d.finish, name) if d.finish.weighted else None,
            _sets(name),
        ),
    )


def _steps(shown: Shown) -> list[tuple[str, int | None]]:
    steps = range(1, shown.document.shading.steps + 1)
    return [(_("by the light"), None), *((str(step), step) for step in steps)]


def _now(shown: Shown, what: str) -> int | None:
    if shown.document.light is None or not shown.document.finish.surroundings:
        return None
    step = shown.document.finish.step_of(what)
    return 0 if step is None else min(step, shown.document.shading.steps - 1) + 1


def _give(what: str, number: int) -> Edit:
    return lambda d: set_surrounding(d, what, None if number == 0 else number - 1)


def _around(what: str) -> Row:
    return Row(
        _(what),
        Choosing(
            f"step of {what}",
            _("Its step of grey: a step paler than the light tells, or as you want."),
            _steps,
            _("step of the {what}").format(what=_(what)),
            partial(_give, what),
            now=partial(_now, what=what),
            words=_("step of the {what}").format(what=_(what)),
        ),
    )


def _says(shown: Shown) -> str:
    if shown.document.light is None:
        return _("Floor, wall and sky get their values from the light: put one on first.")
    return _("Paths, walls and shelves are those laid by deeds (Drawing aids).")


ROWS: tuple[Piece, ...] = (
    Heading(_("Line weights")),
    Row(
        "",
        Switch(
            _("Three weights"),
            _("Draw the outline heaviest, edges between two faces lighter, lines on faces finest."),
            _("line weights"),
            lambda d: d.finish.weighted,
            _sets("weighted"),
        ),
        Switch(
            _("Nearer heavier"),
            _("Draw the nearest third a third heavier, the farthest a third lighter."),
            _("nearer heavier"),
            lambda d: d.finish.nearer if d.finish.weighted else None,
            _sets("nearer"),
        ),
    ),
    _weight(_("outline"), _("Against what lies behind: width on the paper."), "outline_mm"),
    _weight(_("edges"), _("Between two faces that are seen: width on the paper."), "edge_mm"),
    _weight(_("on faces"), _("Courses, boards and hatching: width on the paper."), "fine_mm"),
    Heading(_("Surroundings"), above=8),
    Row(
        "",
        Switch(
            _("Floor, wall and sky"),
            _("Give floor, path, wall, shelf and sky a value, paler than what stands before them."),
            _("surroundings"),
            lambda d: d.finish.surroundings if d.light is not None else None,
            _sets("surroundings"),
        ),
    ),
    *(_around(what) for what in SURROUNDINGS),
    Row("", Told(_says)),
    Heading(_("Mirror"), above=8),
    Row(
        "",
        Switch(
            _("Mirror image"),
            _("Show everything once more in a polished floor or still water, a step darker."),
            _("mirror image"),
            lambda d: d.finish.mirror,
            _sets("mirror"),
        ),
    ),
    Rest(),
)


class FinishPage(Page):
    """Line weights, surroundings, mirror image."""

    ROWS = ROWS

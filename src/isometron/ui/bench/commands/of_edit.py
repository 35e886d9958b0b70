"""The commands of the Edit menu."""

from isometron.deeds.deed import Matter
from isometron.deeds.table import matters
from isometron.ui.bench.commands.command import (
    EDIT,
    Command,
    Listed,
    of_deed,
    volume_chosen,
)
from isometron.ui.bench.commands.later import acts
from isometron.ui.bench.work import Work
from isometron.words import _


def _undo_name(work: Work) -> str:
    name = work.session.undo_name
    return _("Undo: {step}").format(step=name) if name else _("Undo")


def _redo_name(work: Work) -> str:
    name = work.session.redo_name
    return _("Redo: {step}").format(step=name) if name else _("Redo")


MOST_STEPS = 15
"""So many steps are listed, those to be taken again first."""


def _steps(work: Work) -> list[Listed]:
    steps = work.session.steps
    first = max(len([by for _name, by in steps if by > 0]) - MOST_STEPS // 3, 0)
    shown = steps[first : first + MOST_STEPS]
    return [
        Listed(
            f"→ {name}" if by > 0 else f"● {name}" if by == 0 else name,
            _("Go to just after this step."),
            lambda by=by: work.session.go(by),  # type: ignore[misc]
        )
        for name, by in shown
    ]


OF_THEIR_OWN = ("duplicate", "choose all", "choose group", "group", "ungroup")
"""Deeds with copies and groups that stand in the menu itself."""

EDIT_COMMANDS: list[Command] = [
    Command(
        "undo",
        EDIT,
        _("Undo"),
        _("Take the last step back."),
        lambda w: w.session.undo(),
        ("Ctrl+Z",),
        needs=lambda w: w.session.undo_name is not None,
        named=_undo_name,
    ),
    Command(
        "redo",
        EDIT,
        _("Redo"),
        _("Do again what was taken back."),
        lambda w: w.session.redo(),
        ("Ctrl+Shift+Z", "Ctrl+Y"),
        needs=lambda w: w.session.redo_name is not None,
        named=_redo_name,
    ),
    Command(
        "steps",
        EDIT,
        _("Steps taken"),
        _("The steps taken, the last one first; choose one to go back to just after it."),
        lists=_steps,
        finds=_("history go back"),
    ),
    Command(
        "copy",
        EDIT,
        _("Copy"),
        _("Copy the chosen volumes, or the picture with its marks."),
        lambda w: acts().copy(w),
        ("Ctrl+C",),
        needs=lambda w: bool(w.session.document.pictures) if w.pictured else volume_chosen(w),
        line_before=True,
    ),
    Command(
        "cut",
        EDIT,
        _("Cut"),
        _("Copy the chosen volumes and take them off the sheet."),
        lambda w: acts().cut_volumes(w),
        ("Ctrl+X",),
        needs=lambda w: not w.pictured and volume_chosen(w),
    ),
    Command(
        "paste",
        EDIT,
        _("Paste"),
        _("Paste copied volumes, or a picture."),
        lambda w: acts().paste(w),
        ("Ctrl+V",),
    ),
    of_deed(EDIT, "duplicate", needs=lambda w: not w.pictured and volume_chosen(w)),
    Command(
        "take away",
        EDIT,
        _("Take the volume away"),
        _("Take the chosen volumes, the measure that is picked, or marks of the picture away."),
        lambda w: acts().take_away(w),
        ("Del",),
        needs=lambda w: bool(w.marks) if w.pictured else volume_chosen(w),
        named=lambda w: _("Take the mark away") if w.pictured else _("Take the volume away"),
    ),
    Command(
        "find",
        EDIT,
        _("Find a deed"),
        _("Find any deed or command by any of its words."),
        lambda w: w.find_deed(),
        ("Ctrl+K", "/"),
    ),
    of_deed(EDIT, "choose all", line_before=True),
    of_deed(EDIT, "choose group"),
    of_deed(EDIT, "group"),
    of_deed(EDIT, "ungroup"),
    *(
        of_deed(EDIT, key, group=Matter.COPIES.value)
        for key, matter in matters().items()
        if matter is Matter.COPIES and key not in OF_THEIR_OWN
    ),
    Command(
        "nudge truly",
        EDIT,
        _("Arrow keys move true mm"),
        _("Arrow keys move a volume by true millimetres instead of millimetres on the paper."),
        lambda w: acts().toggle_nudging(w),
        checked=lambda w: w.board.truly,
        line_before=True,
    ),
]

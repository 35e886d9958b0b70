"""Every command of the window, declared once: menus, keys, the help page and the buttons that wish
for one read this table. Commands that write files come from the table of what leaves the program,
which the command line reads too."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtGui import QAction, QKeySequence

from isometron.document.document import UNITS
from isometron.document.edits import choosing, rounding, sheet_edits, volume_edits
from isometron.document.edits.stances import STANCES
from isometron.document.edits.starters import STARTERS
from isometron.files.formats import OUTGOING, Errand, Outgoing
from isometron.files.sheet_file import SAMPLES
from isometron.ui.bench.tab_table import TABS
from isometron.ui.bench.work import Work
from isometron.ui.parts.theme import ROOMS
from isometron.ui.parts.wishes import Edit
from isometron.words import _

if TYPE_CHECKING:
    from types import ModuleType

MENUS = (_("Sheet"), _("Edit"), _("Build"), _("Look"), _("Help"))
SHEET, EDIT, BUILD, LOOK, HELP = MENUS


class Listed(NamedTuple):
    """One entry of a command that is a list."""

    text: str
    tip: str
    run: Callable[[], object]


@dataclass(frozen=True)
class Command:
    """One command. `checked` says, for one that is on or off, which it is now; `needs` whether it
    can be run now; `named` what it is called now, when that changes; `lists` makes it a submenu."""

    key: str
    menu: str
    text: str
    tip: str
    run: Callable[[Work], object] = field(default=lambda work: None)
    keys: tuple[str, ...] = ()
    checked: Callable[[Work], bool] | None = None
    needs: Callable[[Work], bool] | None = None
    named: Callable[[Work], str] | None = None
    lists: Callable[[Work], list[Listed]] | None = None
    line_before: bool = False

    def action(self, work: Work) -> QAction:
        """Its action: the same in menu, by key and for assistive technology."""
        action = QAction(self.text, work.window_itself)
        action.setShortcuts([QKeySequence(key) for key in self.keys])
        action.setToolTip(self.tip)
        action.setStatusTip(self.tip)
        action.setCheckable(self.checked is not None)
        action.triggered.connect(lambda: self.run(work))
        return action


def _acts() -> "ModuleType":
    from isometron.ui.bench import acts

    return acts


def _pages() -> "ModuleType":
    from isometron.ui.bench import help_pages

    return help_pages


def _edit(name: str, edit: Edit) -> Callable[[Work], object]:
    return lambda work: work.session.edit(name, edit)


def _volume_chosen(work: Work) -> bool:
    return work.session.document.volume is not None


def _something(work: Work) -> bool:
    return bool(work.session.document.volumes)


def _undo_name(work: Work) -> str:
    name = work.session.undo_name
    return _("Undo: {step}").format(step=name) if name else _("Undo")


def _redo_name(work: Work) -> str:
    name = work.session.redo_name
    return _("Redo: {step}").format(step=name) if name else _("Redo")


def _recent(work: Work) -> list[Listed]:
    return [
        Listed(path.name, str(path), lambda path=path: work.keeping.open_path(path))  # type: ignore[misc]
        for path in work.keeping.recent()
    ]


def _samples() -> list[Command]:
    return [
        Command(
            f"sample {name}",
            SHEET,
            _("Sample: {name}").format(name=_(name)),
            _("Open the sample sheet “{name}”.").format(name=_(name)),
            lambda w, n=name: w.keeping.open_sample(n),  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, name in enumerate(SAMPLES)
    ]


def _sends() -> list[Command]:
    """One command for every way something leaves as a file, and for what can be taken back."""
    found: list[Command] = []
    for outgoing in OUTGOING:
        for number, errand in enumerate(outgoing.errands):
            found.append(_sending(outgoing, errand, number, first=not found))
        if outgoing.takes is not None:
            found.append(
                Command(
                    f"take {outgoing.key}",
                    SHEET,
                    _("Take dimensions…"),
                    _("Take dimensions from a table: {formats}.").format(formats=outgoing.names),
                    lambda w, o=outgoing: w.keeping.take(o),  # type: ignore[misc]
                )
            )
    return found


def _sending(outgoing: Outgoing, errand: Errand, number: int, *, first: bool) -> Command:
    return Command(
        f"send {outgoing.key} {number}" if number else f"send {outgoing.key}",
        SHEET,
        errand.text,
        errand.tip.format(formats=outgoing.names),
        lambda work: work.keeping.send(outgoing, errand),
        errand.keys,
        needs=_something if outgoing.slow else None,
        line_before=first,
    )


def _starters() -> list[Command]:
    return [
        Command(
            f"starter {starter.name}",
            BUILD,
            _("{name}…").format(name=_(starter.name)),
            _("Begin a {name} from a few numbers.").format(name=_(starter.name).lower()),
            lambda w, n=number: _acts().begin_with(w, n),  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, starter in enumerate(STARTERS)
    ]


def _stances() -> list[Command]:
    return [
        Command(
            f"stance {stance.name}",
            BUILD,
            _("Stand: {stance}").format(stance=_(stance.name)),
            _("Stand well back before the work, {stance}.").format(stance=_(stance.name)),
            lambda work, s=stance: _acts().take(work, s),  # type: ignore[misc]
            (f"Ctrl+{number}",),
            line_before=number == 1,
        )
        for number, stance in enumerate(STANCES, start=1)
    ]


def _tabs() -> list[Command]:
    return [
        Command(
            f"tab {tab.key}",
            LOOK,
            _("{name} tab").format(name=tab.name),
            _("Open the {name} tab.").format(name=tab.name),
            lambda w, k=tab.key: w.open_tab(k),  # type: ignore[misc]
            (f"Alt+{number}",),
            line_before=number == 1,
        )
        for number, tab in enumerate(TABS, start=1)
    ]


UNIT_NAMES = {"mm": _("Millimetres"), "cm": _("Centimetres"), "in": _("Inches")}


def _units() -> list[Command]:
    return [
        Command(
            f"unit {unit}",
            LOOK,
            UNIT_NAMES[unit],
            _("Read the sheet in {unit}.").format(unit=UNIT_NAMES[unit].lower()),
            _edit(_("unit"), lambda d, u=unit: sheet_edits.set_unit(d, u)),  # type: ignore[misc]
            checked=lambda w, u=unit: w.session.document.choices.unit == u,  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, unit in enumerate(UNITS)
    ]


def _rooms() -> list[Command]:
    return [
        Command(
            f"room {room.name}",
            LOOK,
            _("{name} room").format(name=_(room.name).capitalize()),
            _("Work in the {name} room.").format(name=_(room.name)),
            lambda w, r=room: w.enter_room(r),  # type: ignore[misc]
            checked=lambda w, r=room: w.room is r,  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, room in enumerate(ROOMS.values())
    ]


COMMANDS: list[Command] = [
    Command(
        "new", SHEET, _("New"), _("Begin a blank sheet."), lambda w: w.keeping.new(), ("Ctrl+N",)
    ),
    Command(
        "open",
        SHEET,
        _("Open…"),
        _("Open a sheet."),
        lambda w: w.keeping.open_asked(),
        ("Ctrl+O",),
    ),
    Command("recent", SHEET, _("Open recent"), _("Sheets opened of late."), lists=_recent),
    *_samples(),
    Command(
        "save",
        SHEET,
        _("Save"),
        _("Save the sheet."),
        lambda w: w.keeping.save(),
        ("Ctrl+S",),
        line_before=True,
    ),
    Command(
        "save as",
        SHEET,
        _("Save as…"),
        _("Save the sheet under another name."),
        lambda w: w.keeping.save_as(),
        ("Ctrl+Shift+S",),
    ),
    *_sends(),
    Command(
        "print",
        SHEET,
        _("Print…"),
        _("Print the sheet at true size."),
        lambda w: w.keeping.print_out(),
        ("Ctrl+P",),
    ),
    Command(
        "leave",
        SHEET,
        _("Leave"),
        _("Leave Isometron."),
        lambda w: w.leave(),
        ("Ctrl+Q", "Ctrl+W"),
        line_before=True,
    ),
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
        "copy",
        EDIT,
        _("Copy"),
        _("Copy the chosen volumes."),
        lambda w: _acts().copy_volumes(w),
        ("Ctrl+C",),
        needs=_volume_chosen,
        line_before=True,
    ),
    Command(
        "cut",
        EDIT,
        _("Cut"),
        _("Copy the chosen volumes and take them off the sheet."),
        lambda w: _acts().cut_volumes(w),
        ("Ctrl+X",),
        needs=_volume_chosen,
    ),
    Command(
        "paste",
        EDIT,
        _("Paste"),
        _("Paste copied volumes."),
        lambda w: _acts().paste_volumes(w),
        ("Ctrl+V",),
    ),
    Command(
        "copy beside",
        EDIT,
        _("Set a copy beside"),
        _("Copy the chosen volumes and set the copies beside."),
        _edit(_("copy the volume"), volume_edits.duplicate_volume),
        ("Ctrl+D",),
        needs=_volume_chosen,
    ),
    Command(
        "take away",
        EDIT,
        _("Take the volume away"),
        _("Take the chosen volumes off the sheet."),
        _edit(_("take the volume away"), choosing.remove_chosen),
        ("Del",),
        needs=_volume_chosen,
    ),
    Command(
        "choose all",
        EDIT,
        _("Choose all"),
        _("Choose every volume."),
        _edit(_("choose"), choosing.choose_all),
        ("Ctrl+A",),
        line_before=True,
    ),
    Command(
        "choose group",
        EDIT,
        _("Choose the group"),
        _("Choose everything in the groups of what is chosen."),
        _edit(_("choose"), choosing.choose_group),
        ("Ctrl+Shift+G",),
        needs=_volume_chosen,
    ),
    Command(
        "group",
        EDIT,
        _("Group"),
        _("Make the chosen volumes one body."),
        _edit(_("group"), choosing.group_chosen),
        ("Ctrl+G",),
        needs=_volume_chosen,
    ),
    Command(
        "ungroup",
        EDIT,
        _("Ungroup"),
        _("Let the chosen volumes be bodies of their own again."),
        _edit(_("ungroup"), choosing.ungroup),
        ("Ctrl+Alt+G",),
        needs=lambda w: (
            any(v.group for v in choosing.chosen_volumes(w.session.document))
            if w.session.document.chosen
            else False
        ),
    ),
    Command(
        "nudge truly",
        EDIT,
        _("Arrow keys move true mm"),
        _("Arrow keys move a volume by true millimetres instead of millimetres on the paper."),
        lambda w: _acts().toggle_nudging(w),
        checked=lambda w: w.board.truly,
        line_before=True,
    ),
    Command(
        "lay edge",
        BUILD,
        _("Lay down a near edge"),
        _("Drag a near edge on the paper; a cube closes on it."),
        lambda w: w.board.lay_edge(not w.board.laying),
        ("Ctrl+L",),
        checked=lambda w: w.board.laying,
    ),
    Command(
        "add box",
        BUILD,
        _("Add a box"),
        _("Put a cube on the ground before us."),
        _edit(_("add a box"), volume_edits.add_box),
        ("Ctrl+B",),
    ),
    Command(
        "make cube",
        BUILD,
        _("Make it a cube"),
        _("Width and depth become the height of the near edge."),
        _edit(_("make it a cube"), volume_edits.make_cube),
        ("Ctrl+K",),
        needs=_volume_chosen,
    ),
    Command(
        "add wheel",
        BUILD,
        _("Add a wheel"),
        _("Put a wheel on the ground before us."),
        _edit(_("add a wheel"), lambda d: rounding.add_round(d, "wheel")),
        ("Ctrl+R",),
    ),
    Command(
        "add turned",
        BUILD,
        _("Add a turned form"),
        _("Put a cylinder on the ground, to be given radii by height on the Rounds tab."),
        lambda w: _acts().add_turned(w),
    ),
    Command(
        "next step",
        BUILD,
        _("Next step"),
        _("Show the next step of the build order."),
        lambda w: _acts().steps(w).turn(1),
        ("F8",),
        needs=_something,
        line_before=True,
    ),
    Command(
        "step before",
        BUILD,
        _("Step before"),
        _("Show the step before."),
        lambda w: _acts().steps(w).turn(-1),
        ("F7",),
        needs=_something,
    ),
    Command(
        "step done",
        BUILD,
        _("Done, next step"),
        _("Tick this step off and show the next."),
        lambda w: _acts().steps(w).tick_and_turn(),
        ("F9",),
        needs=_something,
    ),
    Command(
        "follow",
        BUILD,
        _("Follow on paper"),
        _("The build order full screen, step by step, in large type."),
        lambda w: _acts().steps(w).follow_on_paper(),
        ("Ctrl+F8",),
        needs=_something,
    ),
    *_starters(),
    *_stances(),
    Command(
        "see-through",
        LOOK,
        _("See-through"),
        _("Draw hidden edges in short dashes, or leave them out (solid)."),
        lambda w: _acts().toggle_see_through(w),
        ("Ctrl+H",),
        checked=lambda w: w.session.document.choices.see_through,
    ),
    Command(
        "fans",
        LOOK,
        _("Construction fans"),
        _("Draw the light lines to the vanishing points, or leave them out."),
        lambda w: _acts().toggle_fans(w),
        ("Ctrl+F",),
        checked=lambda w: w.session.document.choices.fans,
    ),
    Command(
        "fit sheet",
        LOOK,
        _("Sheet"),
        _("Bring the whole sheet into view."),
        lambda w: w.board.fit_sheet(),
        ("F2", "Ctrl+0"),
        line_before=True,
    ),
    Command(
        "fit board",
        LOOK,
        _("Whole board"),
        _("Bring the sheet and every vanishing point into view."),
        lambda w: w.board.fit_board(),
        ("F3",),
    ),
    Command(
        "fold card",
        LOOK,
        _("Card"),
        _("Fold the card beside the index tabs away, or open it."),
        lambda w: w.folding.turn("card"),
        ("F4",),
        checked=lambda w: not w.folding.folded("card"),
        line_before=True,
    ),
    Command(
        "fold second look",
        LOOK,
        _("Second look"),
        _("Fold the second look away, or open it."),
        lambda w: w.folding.turn("second look"),
        ("F5",),
        checked=lambda w: not w.folding.folded("second look"),
    ),
    Command(
        "fold side",
        LOOK,
        _("Plan, side and readings"),
        _("Fold the cards at the right away, or open them."),
        lambda w: w.folding.turn("side"),
        ("F6",),
        checked=lambda w: not w.folding.folded("side"),
    ),
    Command(
        "sheet alone",
        LOOK,
        _("The sheet alone"),
        _("Fold everything away but the sheet, or bring it all back."),
        lambda w: w.folding.leave_alone(),
        ("F12",),
        checked=lambda w: w.folding.alone,
    ),
    Command(
        "full screen",
        LOOK,
        _("Full screen"),
        _("Let the window take the whole screen, or give it back."),
        lambda w: _acts().toggle_full_screen(w),
        ("F11",),
        checked=lambda w: _acts().full_screen(w),
        line_before=True,
    ),
    Command(
        "closer",
        LOOK,
        _("Closer"),
        _("Look closer."),
        lambda w: w.board.zoom(1.25),
        ("Ctrl++", "Ctrl+="),
    ),
    Command(
        "further",
        LOOK,
        _("Further"),
        _("Look from further away."),
        lambda w: w.board.zoom(0.8),
        ("Ctrl+-",),
    ),
    *_tabs(),
    *_units(),
    *_rooms(),
    Command(
        "help",
        HELP,
        _("Handles and keys"),
        _("What can be taken hold of, and every key."),
        lambda w: _pages().show_keys(w, COMMANDS),
        ("F1",),
    ),
    Command(
        "about",
        HELP,
        _("About Isometron"),
        _("Version, licence and a caution."),
        lambda w: _pages().show_about(w),
    ),
]


CONTEXT = {
    "board": (
        *("copy", "cut", "paste", "copy beside", "take away", ""),
        *("group", "ungroup", "make cube", ""),
        *("lay edge", "add box", "see-through", "fans", "fit sheet", "sheet alone"),
    ),
    "list": (
        *("copy", "cut", "paste", "copy beside", "take away", ""),
        *("group", "ungroup", "choose group", "choose all"),
    ),
    "plan": ("copy beside", "take away", "", "group", "ungroup", "choose all", "fold side"),
}
"""What the menu under the pointer holds, by where it is: keys of commands, a line for each ""."""


def run(key: str, work: Work) -> None:
    """Run a command by its key."""
    next(command for command in COMMANDS if command.key == key).run(work)

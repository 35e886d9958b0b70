"""Every command of the bench, declared once: menu, words, key, tip, and what it runs."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtGui import QAction, QKeySequence

from isometron.document.document import UNITS
from isometron.document.edits import choosing, rounding, sheet_edits, volume_edits
from isometron.document.edits.stances import STANCES, take_stance
from isometron.files.sheet_file import SAMPLES
from isometron.ui.parts.theme import ROOMS

if TYPE_CHECKING:
    from isometron.ui.bench.window import Bench

STARTER_NAMES = ("Vehicle", "Seat", "Crate stack", "Turned object")
"""Names of the starters, here so that they are made only when asked for."""

MENUS = ("Sheet", "Edit", "Build", "Look", "Help")


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("Commands", text)


@dataclass(frozen=True)
class Command:
    """One command. `checked` says, for one that is on or off, which it is now; `needs` whether it
    can be run now."""

    menu: str
    text: str
    keys: tuple[str, ...]
    tip: str
    run: Callable[["Bench"], object]
    checked: Callable[["Bench"], bool] | None = None
    needs: Callable[["Bench"], bool] | None = None
    line_before: bool = False


def _volume_chosen(bench: "Bench") -> bool:
    return bench.session.document.volume is not None


def _something(bench: "Bench") -> bool:
    return bool(bench.session.document.volumes)


def _stances() -> list[Command]:
    return [
        Command(
            "Build",
            f"Stand: {stance.name}",
            (f"Ctrl+{number}",),
            f"Stand well back before the work, {stance.name}.",
            lambda b, s=stance: b.session.edit(  # type: ignore[misc]
                f"stance {s.name}", lambda d: take_stance(d, s)
            ),
            line_before=number == 1,
        )
        for number, stance in enumerate(STANCES, start=1)
    ]


def _units() -> list[Command]:
    words = {"mm": "Millimetres", "cm": "Centimetres", "in": "Inches"}
    return [
        Command(
            "Look",
            words[unit],
            (),
            f"Read the sheet in {words[unit].lower()}.",
            lambda b, u=unit: b.session.edit(  # type: ignore[misc]
                "unit", lambda d: sheet_edits.set_unit(d, u)
            ),
            checked=lambda b, u=unit: b.session.document.choices.unit == u,  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, unit in enumerate(UNITS)
    ]


def _rooms() -> list[Command]:
    return [
        Command(
            "Look",
            f"{room.name.capitalize()} room",
            (),
            f"Work in the {room.name} room.",
            lambda b, r=room: b.enter_room(r),  # type: ignore[misc]
            checked=lambda b, r=room: b.room is r,  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, room in enumerate(ROOMS.values())
    ]


def _samples() -> list[Command]:
    return [
        Command(
            "Sheet",
            f"Sample: {name}",
            (),
            f"Open the sample sheet “{name}”.",
            lambda b, n=name: b.keeping.open_sample(n),  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, name in enumerate(SAMPLES)
    ]


def _starters() -> list[Command]:
    return [
        Command(
            "Build",
            f"{name}…",
            (),
            f"Begin a {name.lower()} from a few numbers.",
            lambda b, n=number: b.begin_with(n),  # type: ignore[misc]
            line_before=number == 0,
        )
        for number, name in enumerate(STARTER_NAMES)
    ]


COMMANDS: list[Command] = [
    Command("Sheet", "New", ("Ctrl+N",), "Begin a blank sheet.", lambda b: b.keeping.new()),
    Command("Sheet", "Open…", ("Ctrl+O",), "Open a sheet.", lambda b: b.keeping.open_asked()),
    *_samples(),
    Command(
        "Sheet",
        "Save",
        ("Ctrl+S",),
        "Save the sheet.",
        lambda b: b.keeping.save(),
        line_before=True,
    ),
    Command(
        "Sheet",
        "Save as…",
        ("Ctrl+Shift+S",),
        "Save the sheet under another name.",
        lambda b: b.keeping.save_as(),
    ),
    Command(
        "Sheet",
        "Draw to a file…",
        ("Ctrl+E",),
        "Draw the sheet to a PDF, SVG, PNG or DXF file at true size.",
        lambda b: b.keeping.draw_out(),
        line_before=True,
    ),
    Command(
        "Sheet",
        "Write the build order…",
        ("Ctrl+Shift+E",),
        "Write the build order as a booklet (PDF), text, SVG or painting layers, or JSON.",
        lambda b: b.keeping.write_steps(),
        needs=_something,
    ),
    Command(
        "Sheet",
        "Write a short build order…",
        (),
        "Write the build order with a page of the booklet per chapter instead of per step.",
        lambda b: b.keeping.write_steps(per_chapter=True),
        needs=_something,
    ),
    Command(
        "Sheet",
        "Send the volumes out…",
        (),
        "Send the volumes to another program as OBJ, glTF or STL.",
        lambda b: b.keeping.send_mesh(),
    ),
    Command(
        "Sheet",
        "Write dimensions…",
        (),
        "Write every dimension to a CSV table.",
        lambda b: b.keeping.send_table(),
    ),
    Command(
        "Sheet",
        "Take dimensions…",
        (),
        "Take dimensions from a CSV table.",
        lambda b: b.keeping.take_table(),
    ),
    Command(
        "Sheet",
        "Print…",
        ("Ctrl+P",),
        "Print the sheet at true size.",
        lambda b: b.keeping.print_out(),
    ),
    Command(
        "Sheet",
        "Leave",
        ("Ctrl+Q",),
        "Leave Isometron.",
        lambda b: b.close(),
        line_before=True,
    ),
    Command(
        "Edit",
        "Undo",
        ("Ctrl+Z",),
        "Take the last step back.",
        lambda b: b.session.undo(),
        needs=lambda b: b.session.undo_name is not None,
    ),
    Command(
        "Edit",
        "Redo",
        ("Ctrl+Shift+Z", "Ctrl+Y"),
        "Do again what was taken back.",
        lambda b: b.session.redo(),
        needs=lambda b: b.session.redo_name is not None,
    ),
    Command(
        "Edit",
        "Copy",
        ("Ctrl+C",),
        "Copy the chosen volumes.",
        lambda b: b.copy_volumes(),
        needs=_volume_chosen,
        line_before=True,
    ),
    Command("Edit", "Paste", ("Ctrl+V",), "Paste copied volumes.", lambda b: b.paste_volumes()),
    Command(
        "Edit",
        "Set a copy beside",
        ("Ctrl+D",),
        "Copy the chosen volumes and set the copies beside.",
        lambda b: b.session.edit("copy the volume", volume_edits.duplicate_volume),
        needs=_volume_chosen,
    ),
    Command(
        "Edit",
        "Take the volume away",
        ("Del",),
        "Take the chosen volumes off the sheet.",
        lambda b: b.session.edit("take the volume away", choosing.remove_chosen),
        needs=_volume_chosen,
    ),
    Command(
        "Edit",
        "Choose all",
        ("Ctrl+A",),
        "Choose every volume.",
        lambda b: b.session.edit("choose", choosing.choose_all),
        line_before=True,
    ),
    Command(
        "Edit",
        "Choose the group",
        ("Ctrl+Shift+G",),
        "Choose everything in the groups of what is chosen.",
        lambda b: b.session.edit("choose", choosing.choose_group),
        needs=_volume_chosen,
    ),
    Command(
        "Edit",
        "Group",
        ("Ctrl+G",),
        "Make the chosen volumes one body.",
        lambda b: b.session.edit("group", choosing.group_chosen),
        needs=_volume_chosen,
    ),
    Command(
        "Edit",
        "Arrow keys move true mm",
        (),
        "Arrow keys move a volume by true millimetres instead of millimetres on the paper.",
        lambda b: b.toggle_nudging(),
        checked=lambda b: b.board.truly,
        line_before=True,
    ),
    Command(
        "Build",
        "Lay down a near edge",
        ("Ctrl+L",),
        "Drag a near edge on the paper; a cube closes on it.",
        lambda b: b.board.lay_edge(not b.board.laying),
        checked=lambda b: b.board.laying,
    ),
    Command(
        "Build",
        "Add a box",
        ("Ctrl+B",),
        "Put a cube on the ground before us.",
        lambda b: b.session.edit("add a box", volume_edits.add_box),
    ),
    Command(
        "Build",
        "Make it a cube",
        ("Ctrl+K",),
        "Width and depth become the height of the near edge.",
        lambda b: b.session.edit("make it a cube", volume_edits.make_cube),
        needs=_volume_chosen,
    ),
    Command(
        "Build",
        "Add a wheel",
        ("Ctrl+R",),
        "Put a wheel on the ground before us.",
        lambda b: b.session.edit("add a wheel", lambda d: rounding.add_round(d, "wheel")),
    ),
    Command(
        "Build",
        "Add a turned form",
        (),
        "Put a cylinder on the ground, to be given radii by height on the Rounds tab.",
        lambda b: b.add_turned(),
    ),
    Command(
        "Build",
        "Next step",
        ("F8",),
        "Show the next step of the build order.",
        lambda b: b.walk.turn(1),
        needs=_something,
        line_before=True,
    ),
    Command(
        "Build",
        "Step before",
        ("F7",),
        "Show the step before.",
        lambda b: b.walk.turn(-1),
        needs=_something,
    ),
    Command(
        "Build",
        "Done, next step",
        ("F9",),
        "Tick this step off and show the next.",
        lambda b: b.walk.tick(),
        needs=_something,
    ),
    Command(
        "Build",
        "Follow on paper",
        ("F11",),
        "The build order full screen, step by step, in large type.",
        lambda b: b.walk.follow(),
        needs=_something,
    ),
    *_starters(),
    *_stances(),
    Command(
        "Look",
        "See-through",
        ("Ctrl+H",),
        "Draw hidden edges in short dashes, or leave them out (solid).",
        lambda b: b.toggle_see_through(),
        checked=lambda b: b.session.document.choices.see_through,
    ),
    Command(
        "Look",
        "Construction fans",
        ("Ctrl+F",),
        "Draw the light lines to the vanishing points, or leave them out.",
        lambda b: b.toggle_fans(),
        checked=lambda b: b.session.document.choices.fans,
    ),
    Command(
        "Look",
        "Sheet",
        ("F2",),
        "Bring the whole sheet into view.",
        lambda b: b.board.fit_sheet(),
        line_before=True,
    ),
    Command(
        "Look",
        "Whole board",
        ("F3",),
        "Bring the sheet and every vanishing point into view.",
        lambda b: b.board.fit_board(),
    ),
    Command("Look", "Closer", ("Ctrl++", "Ctrl+="), "Look closer.", lambda b: b.board.zoom(1.25)),
    Command("Look", "Further", ("Ctrl+-",), "Look from further away.", lambda b: b.board.zoom(0.8)),
    Command(
        "Look",
        "Eye tab",
        ("Alt+1",),
        "Open the Eye tab.",
        lambda b: b.open_tab(0),
        line_before=True,
    ),
    Command("Look", "Volumes tab", ("Alt+2",), "Open the Volumes tab.", lambda b: b.open_tab(1)),
    Command("Look", "Rounds tab", ("Alt+3",), "Open the Rounds tab.", lambda b: b.open_tab(2)),
    Command(
        "Look", "Build order tab", ("Alt+4",), "Open the Build order tab.", lambda b: b.open_tab(3)
    ),
    *_units(),
    *_rooms(),
    Command(
        "Help",
        "Handles and keys",
        ("F1",),
        "What can be taken hold of, and every key.",
        lambda b: b.show_keys(),
    ),
    Command(
        "Help", "About Isometron", (), "Version, licence and a caution.", lambda b: b.show_about()
    ),
]


def action_for(command: Command, bench: "Bench") -> QAction:
    """The action of a command: the same in menu, by key and for assistive technology."""
    action = QAction(tr(command.text), bench)
    action.setShortcuts([QKeySequence(key) for key in command.keys])
    action.setToolTip(tr(command.tip))
    action.setStatusTip(tr(command.tip))
    action.setCheckable(command.checked is not None)
    action.triggered.connect(lambda: command.run(bench))
    return action

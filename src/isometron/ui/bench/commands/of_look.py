"""The commands of the Look menu."""

from isometron.deeds.deed import Matter
from isometron.deeds.table import matters
from isometron.document.document import UNITS
from isometron.document.edits import sheet_edits
from isometron.document.edits.stances import STANCES
from isometron.document.edits.viewing import next_view
from isometron.ui.bench.commands.command import (
    LOOK,
    Command,
    edit,
    of_deed,
)
from isometron.ui.bench.commands.later import acts
from isometron.ui.bench.place_table import PLACES
from isometron.ui.bench.work import Work
from isometron.ui.board.stage_view import TURN_STEP_DEG
from isometron.ui.parts.theme import ROOMS
from isometron.words import _

CLOSER, TURN, COLUMN = _("Closer, further"), _("Turn the sheet"), _("Column and plan")
PLACES_OF_WORK, ROOM = _("Places of work"), _("Units and room")
"""Lists within the menu."""


def _full_screen(work: Work) -> bool:
    """Whether the window takes the whole screen."""
    window = work.window_itself.window()
    return window is not None and window.isFullScreen()


def _places() -> list[Command]:
    return [
        Command(
            f"place {place.key}",
            LOOK,
            place.name,
            place.tip,
            lambda w, k=place.key: w.open_place(k),  # type: ignore[misc]
            (f"Alt+{number}",),
            group=PLACES_OF_WORK,
        )
        for number, place in enumerate(PLACES, start=1)
    ]


def _stances() -> list[Command]:
    return [
        Command(
            f"stance {stance.name}",
            LOOK,
            _(stance.name).capitalize(),
            _("Stand well back before the work, {stance}.").format(stance=_(stance.name)),
            lambda work, s=stance: acts().take(work, s),  # type: ignore[misc]
            (f"Ctrl+{number}",),
            group=_("Stand"),
        )
        for number, stance in enumerate(STANCES, start=1)
    ]


UNIT_NAMES = {"mm": _("Millimetres"), "cm": _("Centimetres"), "in": _("Inches")}


def _units() -> list[Command]:
    return [
        Command(
            f"unit {unit}",
            LOOK,
            UNIT_NAMES[unit],
            _("Read the sheet in {unit}.").format(unit=UNIT_NAMES[unit].lower()),
            edit(_("unit"), lambda d, u=unit: sheet_edits.set_unit(d, u)),  # type: ignore[misc]
            checked=lambda w, u=unit: w.session.document.choices.unit == u,  # type: ignore[misc]
            group=ROOM,
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
            group=ROOM,
        )
        for number, room in enumerate(ROOMS.values())
    ]


LOOK_COMMANDS: list[Command] = [
    Command(
        "see-through",
        LOOK,
        _("See-through"),
        _("Draw hidden edges in short dashes, or leave them out (solid)."),
        lambda w: acts().toggle_see_through(w),
        ("Ctrl+H",),
        checked=lambda w: w.session.document.choices.see_through,
    ),
    Command(
        "fans",
        LOOK,
        _("Lines to the vanishing points"),
        _("Draw the light lines to the vanishing points, or leave them out."),
        lambda w: acts().toggle_fans(w),
        ("Ctrl+F",),
        checked=lambda w: w.session.document.choices.fans,
    ),
    Command(
        "old lines",
        LOOK,
        _("Keep the old lines"),
        _("Leave the old lines of every change standing until this is switched off again."),
        lambda w: w.session.keep_old_lines(not w.session.keeps_old_lines),
        ("Ctrl+Shift+H",),
        checked=lambda w: w.session.keeps_old_lines,
    ),
    Command(
        "diagonal point",
        LOOK,
        _("45° point"),
        _("Mark where the diagonals of the ground square of the picked volume run to."),
        lambda w: acts().toggle_diagonal_point(w),
        ("Ctrl+Shift+F",),
        checked=lambda w: w.session.document.choices.diagonal_point,
    ),
    Command(
        "next view",
        LOOK,
        _("Next view"),
        _("Work in the next view of the page."),
        lambda w: w.session.edit(_("another view"), next_view),
        ("F10",),
        needs=lambda w: len(w.session.document.views) > 1,
    ),
    Command(
        "fit sheet",
        LOOK,
        _("Whole sheet"),
        _("Bring the whole sheet into view."),
        lambda w: w.picture_board.fit() if w.pictured else w.board.fit_sheet(),
        ("F2", "Ctrl+0"),
        line_before=True,
    ),
    Command(
        "fit board",
        LOOK,
        _("Sheet and vanishing points"),
        _("Bring the sheet and every vanishing point into view."),
        lambda w: w.board.fit_board(),
        ("F3",),
    ),
    Command(
        "second look",
        LOOK,
        _("Second look"),
        _("Open all remarks of the second look over the felt, or shut them."),
        lambda w: w.strip.open(not w.strip.is_open),
        ("F5",),
        checked=lambda w: w.strip.is_open,
        group=Matter.PROPORTION.value,
    ),
    Command(
        "fold column",
        LOOK,
        _("Column"),
        _("Fold card and slip away, or open them."),
        lambda w: w.folding.turn(),
        ("F6",),
        checked=lambda w: not w.folding.folded,
        group=COLUMN,
    ),
    Command(
        "show plan",
        LOOK,
        _("Plan and side"),
        _("Show plan and side elevation at every place of work, or only where we stand."),
        lambda w: w.column.want_plan(not w.column.plan_wanted),
        ("Shift+F6",),
        checked=lambda w: w.column.plan_wanted,
        group=COLUMN,
    ),
    Command(
        "column left",
        LOOK,
        _("Column at the left"),
        _("Let the column stand at the left of the board, or at the right."),
        lambda w: w.stand_column(left=not w.column_left),
        checked=lambda w: w.column_left,
        group=COLUMN,
    ),
    Command(
        "sheet alone",
        LOOK,
        _("The sheet alone"),
        _("Fold the column away and shut the second look, or bring the column back."),
        lambda w: w.folding.leave_alone(),
        ("F12",),
        checked=lambda w: w.folding.alone,
        group=COLUMN,
    ),
    Command(
        "full screen",
        LOOK,
        _("Full screen"),
        _("Let the window take the whole screen, or give it back."),
        lambda w: acts().toggle_full_screen(w),
        ("F11",),
        checked=_full_screen,
        line_before=True,
    ),
    Command(
        "closer",
        LOOK,
        _("Closer"),
        _("Look closer."),
        lambda w: (w.picture_board if w.pictured else w.board).zoom(1.25),
        ("Ctrl++", "Ctrl+="),
        group=CLOSER,
    ),
    Command(
        "further",
        LOOK,
        _("Further"),
        _("Look from further away."),
        lambda w: (w.picture_board if w.pictured else w.board).zoom(0.8),
        ("Ctrl+-",),
        group=CLOSER,
    ),
    Command(
        "turn left",
        LOOK,
        _("Turn the sheet left"),
        _("Turn the sheet under the hand by 15° counter-clockwise."),
        lambda w: w.board.turn(TURN_STEP_DEG),
        ("Shift+F2",),
        group=TURN,
    ),
    Command(
        "turn right",
        LOOK,
        _("Turn the sheet right"),
        _("Turn the sheet under the hand by 15° clockwise."),
        lambda w: w.board.turn(-TURN_STEP_DEG),
        ("Shift+F3",),
        group=TURN,
    ),
    Command(
        "turn straight",
        LOOK,
        _("Lay the sheet straight"),
        _("Lay the sheet straight again."),
        lambda w: w.board.turn(None),
        ("Ctrl+F2",),
        group=TURN,
    ),
    *_stances(),
    *(
        of_deed(LOOK, key, group=matter.value)
        for key, matter in matters().items()
        if matter in (Matter.EYE, Matter.PROPORTION)
    ),
    Command(
        "keep bands",
        LOOK,
        _("Bands for new sheets"),
        _("Keep the bands of this sheet for all new ones."),
        lambda w: w.keeping.keep_bands(),
        group=Matter.PROPORTION.value,
        finds=_("proportion limits always mine default"),
    ),
    *_places(),
    Command(
        "open log",
        LOOK,
        _("Log"),
        _("Open the log of your work, day by day."),
        lambda w: w.open_log(),
        ("Alt+7",),
        group=PLACES_OF_WORK,
    ),
    *_units(),
    *_rooms(),
]

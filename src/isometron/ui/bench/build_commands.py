"""The commands of the Build menu."""

from isometron.document.edits import rounding, volume_edits
from isometron.document.edits.stances import STANCES
from isometron.document.edits.starters import STARTERS
from isometron.ui.bench.command import (
    BUILD,
    Command,
    acts,
    edit,
    something,
    volume_chosen,
)
from isometron.words import _


def _starters() -> list[Command]:
    return [
        Command(
            f"starter {starter.name}",
            BUILD,
            _("{name}…").format(name=_(starter.name)),
            _("Begin a {name} from a few numbers.").format(name=_(starter.name).lower()),
            lambda w, n=number: acts().begin_with(w, n),  # type: ignore[misc]
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
            lambda work, s=stance: acts().take(work, s),  # type: ignore[misc]
            (f"Ctrl+{number}",),
            line_before=number == 1,
        )
        for number, stance in enumerate(STANCES, start=1)
    ]


BUILD_COMMANDS: list[Command] = [
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
        edit(_("add a box"), volume_edits.add_box),
        ("Ctrl+B",),
    ),
    Command(
        "make cube",
        BUILD,
        _("Make it a cube"),
        _("Width and depth become the height of the near edge."),
        edit(_("make it a cube"), volume_edits.make_cube),
        ("Ctrl+K",),
        needs=volume_chosen,
    ),
    Command(
        "add wheel",
        BUILD,
        _("Add a wheel"),
        _("Put a wheel on the ground before us."),
        edit(_("add a wheel"), lambda d: rounding.add_round(d, "wheel")),
        ("Ctrl+R",),
    ),
    Command(
        "add turned",
        BUILD,
        _("Add a turned form"),
        _("Put a cylinder on the ground, to be given radii by height on the Rounds tab."),
        lambda w: acts().add_turned(w),
    ),
    Command(
        "next step",
        BUILD,
        _("Next step"),
        _("Show the next step of the build order."),
        lambda w: acts().steps(w).turn(1),
        ("F8",),
        needs=something,
        line_before=True,
    ),
    Command(
        "step before",
        BUILD,
        _("Step before"),
        _("Show the step before."),
        lambda w: acts().steps(w).turn(-1),
        ("F7",),
        needs=something,
    ),
    Command(
        "step done",
        BUILD,
        _("Done, next step"),
        _("Tick this step off and show the next."),
        lambda w: acts().steps(w).tick_and_turn(),
        ("F9",),
        needs=something,
    ),
    Command(
        "follow",
        BUILD,
        _("Follow on paper"),
        _("The build order full screen, step by step, in large type."),
        lambda w: acts().steps(w).follow_on_paper(),
        ("Ctrl+F8",),
        needs=something,
    ),
    *_starters(),
    *_stances(),
]

"""The commands of the Build menu."""

from collections.abc import Callable

from isometron.document.edits.stances import STANCES
from isometron.document.edits.starters import STARTERS
from isometron.ui.bench.commands.command import (
    BUILD,
    Command,
    of_deed,
    something,
    volume_chosen,
)
from isometron.ui.bench.commands.later import acts
from isometron.ui.bench.work import Work
from isometron.ui.board.tools import CARRY, LAY_EDGE, LAY_FACE, MEASURE, OUTLINE, Tool
from isometron.words import _


def _tool(
    tool: Tool, text: str, tip: str, keys: str, needs: Callable[[Work], bool] | None = None
) -> Command:
    """The command that takes a drawing tool in hand, or lays it down again."""
    return Command(
        tool.key,
        BUILD,
        text,
        tip,
        lambda w: w.board.arm(None if w.board.armed is tool else tool),
        (keys,),
        checked=lambda w: w.board.armed is tool,
        needs=needs,
    )


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
    _tool(
        LAY_EDGE,
        _("Lay down near edges"),
        _("Drag near edges on the paper; a cube closes on each."),
        "Ctrl+L",
    ),
    _tool(
        LAY_FACE,
        _("Lay down front faces"),
        _("Drag a face square to us from corner to corner, then its depth: one-point."),
        "Ctrl+Shift+L",
    ),
    _tool(
        MEASURE,
        _("Measure between two things"),
        _("Measure between two corners, edges, rims or faces that you click."),
        "Ctrl+M",
    ),
    Command(
        "pin measure",
        BUILD,
        _("Pin the measure to the sheet"),
        _("Draw the measure on the sheet, where it follows what it measures."),
        lambda w: acts().pin_measure(w),
        ("Ctrl+Shift+M",),
        needs=lambda w: w.session.mark is not None,
    ),
    _tool(
        OUTLINE,
        _("Draw an outline on a face"),
        _("Draw a window, a door or a lamp right round on a face, as a free curve."),
        "Ctrl+U",
        needs=volume_chosen,
    ),
    _tool(
        CARRY,
        _("Carry the height"),
        _("Carry the height of the volume in work along the eye level to where you click."),
        "Ctrl+J",
        needs=volume_chosen,
    ),
    of_deed(BUILD, "add box"),
    of_deed(BUILD, "floor line"),
    Command(
        "make cube",
        BUILD,
        _("Make it a cube"),
        _("All sides become the one last typed or picked, else the height of the near edge."),
        lambda w: acts().make_cube(w),
        ("Ctrl+K",),
        needs=volume_chosen,
    ),
    of_deed(BUILD, "add wheel"),
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

"""The commands of the menus Build and Draw."""

from collections.abc import Callable

from isometron.deeds.deed import Matter
from isometron.deeds.line import asked_by
from isometron.deeds.table import matters
from isometron.document.edits.starters import SORTS, STARTERS
from isometron.ui.bench.commands.command import (
    BUILD,
    DRAW,
    EDIT,
    Command,
    of_deed,
    something,
    volume_chosen,
)
from isometron.ui.bench.commands.later import acts, begun
from isometron.ui.bench.session import KEEPS
from isometron.ui.bench.work import Work
from isometron.ui.board.tools import (
    CARRY,
    CUT,
    DIVIDE,
    LAY_EDGE,
    LAY_FACE,
    MEASURE,
    OPENING,
    OUTLINE,
    Tool,
)
from isometron.words import _


def _again_named(work: Work) -> str:
    """The last deed by its words."""
    last = work.session.last_deed
    return _("Again") if last is None else _("Again: {deed}").format(deed=last[0].text)


def _tool(
    tool: Tool,
    text: str,
    tip: str,
    keys: str,
    needs: Callable[[Work], bool] | None = None,
    menu: str = BUILD,
    group: str = "",
) -> Command:
    """The command that takes a drawing tool in hand, or lays it down again."""
    return Command(
        tool.key,
        menu,
        text,
        tip,
        lambda w: w.board.arm(None if w.board.armed is tool else tool),
        (keys,),
        checked=lambda w: w.board.armed is tool,
        needs=needs,
        group=group,
    )


def _of_matter(matter: Matter, menu: str = BUILD) -> list[Command]:
    """The deeds of a matter, in a list of their own."""
    keys = [key for key, its in matters().items() if its is matter]
    return [of_deed(menu, key, group=matter.value) for key in keys]


BEGIN_WITH = _("Begin with")
"""The list of starters."""


def _starters() -> list[Command]:
    return [
        Command(
            f"starter {starter.name}",
            BUILD,
            _("{name}…").format(name=_(starter.name)),
            _("Begin a {name} from a few numbers.").format(name=_(starter.name).lower()),
            lambda w, n=number: acts().begin_with(w, n),  # type: ignore[misc]
            takes=asked_by(starter),
            say=lambda w, line, n=number: acts().begin_with(w, n, line),  # type: ignore[misc]
            group=BEGIN_WITH,
            within=_(sort),
        )
        for sort, its in SORTS
        for starter in its
        for number in (STARTERS.index(starter),)
    ]


ON_FACES = _("Draw on faces")
"""The list of tools that draw on faces."""

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
        OUTLINE,
        _("Draw an outline on a face"),
        _("Draw a window, a door or a lamp right round on a face, as a free curve."),
        "Ctrl+U",
        needs=volume_chosen,
        group=ON_FACES,
    ),
    _tool(
        OPENING,
        _("Draw an opening"),
        _("Drag openings through faces from corner to corner; they snap to halves and thirds."),
        "Ctrl+Shift+U",
        needs=something,
        group=ON_FACES,
    ),
    _tool(
        CUT,
        _("Draw a cut"),
        _("Drag pieces on faces that are cut out half through; their floors slide like faces."),
        "Ctrl+Shift+X",
        needs=something,
        group=ON_FACES,
    ),
    _tool(
        DIVIDE,
        _("Divide by hand"),
        _("Drag across edges where they are divided; halves and thirds are snapped to."),
        "Ctrl+Shift+D",
        needs=something,
        menu=DRAW,
    ),
    _tool(
        CARRY,
        _("Carry the height"),
        _("Carry the height of the picked volume along the eye level to where you click."),
        "Ctrl+J",
        needs=volume_chosen,
    ),
    Command(
        "again",
        EDIT,
        _("Again"),
        _("Do the last deed again, on what is picked now."),
        lambda w: acts().again(w),
        ("F4",),
        needs=lambda w: w.session.last_deed is not None,
        named=_again_named,
    ),
    *_starters(),
    Command(
        "open starter",
        BUILD,
        _("Open its starter again…"),
        _("All numbers it was begun with, as they stand; what you changed by hand stays."),
        lambda w: begun().open_starter(w),
        ("Ctrl+Alt+B",),
        group=BEGIN_WITH,
        needs=lambda w: w.session.document.begun_with is not None,
        finds=_("answers form change again vehicle seat shelf"),
    ),
    *_of_matter(Matter.ADD),
    Command(
        "make cube",
        BUILD,
        _("Make it a cube"),
        _("All sides become the one last typed or picked, else the height of the near edge."),
        lambda w: acts().make_cube(w),
        ("Ctrl+Shift+K",),
        needs=volume_chosen,
        group=Matter.SIZE.value,
    ),
    Command(
        "keep it so",
        BUILD,
        _("Keep it so"),
        _("What the last step made true between two volumes stays true from now on."),
        lambda w: w.session.keep_offered(),
        (KEEPS,),
        needs=lambda w: w.session.offer is not None,
        group=Matter.MEANT.value,
        finds=_("always keep snap centred in line middle"),
    ),
    Command(
        "another answer",
        BUILD,
        _("Another answer"),
        _("The last step, with something else giving way so that what was meant stays true."),
        lambda w: w.session.another_answer(),
        ("Ctrl+Alt+A",),
        needs=lambda w: bool(w.session.document.intentions),
        group=Matter.MEANT.value,
        finds=_("next give way intentions instead"),
    ),
    *(
        command
        for matter in (
            *(Matter.SIZE, Matter.PLACE, Matter.MEANT, Matter.SHAPE, Matter.BUILDING, Matter.CUTS),
            *(Matter.OPENINGS, Matter.CIRCLES, Matter.ROUNDS, Matter.PROFILE),
        )
        for command in _of_matter(matter)
    ),
    Command(
        "next step",
        DRAW,
        _("Next step"),
        _("Show the next step of the build order."),
        lambda w: acts().steps(w).turn(1),
        ("F8",),
        needs=something,
    ),
    Command(
        "step before",
        DRAW,
        _("Step before"),
        _("Show the step before."),
        lambda w: acts().steps(w).turn(-1),
        ("F7",),
        needs=something,
    ),
    Command(
        "step done",
        DRAW,
        _("Done, next step"),
        _("Tick this step off and show the next."),
        lambda w: acts().steps(w).tick_and_turn(),
        ("F9",),
        needs=something,
    ),
    Command(
        "follow",
        DRAW,
        _("Follow on paper"),
        _("The build order full screen, step by step, in large type."),
        lambda w: acts().steps(w).follow_on_paper(),
        ("Ctrl+F8",),
        needs=something,
    ),
    _tool(
        MEASURE,
        _("Measure between two things"),
        _("Measure between two corners, edges, rims or faces that you click."),
        "Ctrl+M",
        menu=DRAW,
    ),
    Command(
        "pin measure",
        DRAW,
        _("Pin the measure to the sheet"),
        _("Draw the measure on the sheet, where it follows what it measures."),
        lambda w: acts().pin_measure(w),
        ("Ctrl+Shift+M",),
        needs=lambda w: w.session.mark is not None,
    ),
    *_of_matter(Matter.VARIANTS, DRAW),
    *_of_matter(Matter.LINES, DRAW),
    *_of_matter(Matter.AIDS, DRAW),
    *_of_matter(Matter.LIGHT, DRAW),
]

"""The Copies page: groups, mirrored twins and repeats."""

from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.places import standing
from isometron.drawing.measuring import thing_of
from isometron.drawing.picks.edge import EdgePick
from isometron.framework.box import AXES
from isometron.perspective.errors import IsometronError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import AngleField, CountField, LengthField
from isometron.ui.parts.page import Page, no_volume
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Heading,
    Items,
    Measure,
    Rest,
    Row,
    Told,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

WAYS = (said("to the left point"), said("to the right point"), said("the picked edge"))
STEPS = (said("step along width"), said("step along depth"), said("step up"))


def _others(shown: Shown) -> Items:
    document = shown.document
    return [(v.name, i) for i, v in enumerate(document.volumes) if i != document.selected]


def _group(page: Page, text: str) -> Edit:
    return lambda d: choosing.group(d, text)


def _mirror(page: Page) -> Edit:
    about = page.choice("mirrored across").currentData()
    if about is None:
        raise VolumeError(_("A twin needs another volume to mirror across: add one."))
    axis = page.chosen("mirror square to")
    return lambda d: standing.mirror(d, int(about), axis)


def _repeat(page: Page) -> Edit:
    count = round(page.number("copies"))
    along = [page.number(step) for step in STEPS]

    def repeat(document: Document) -> Document:
        _number, volume = choosing.in_work(document)
        axes = volume.pose[1]
        run = along[0] * axes[0] + along[1] * axes[1]
        return standing.repeat(
            document, count, (float(run[0]), float(run[1]), float(run[2]) + along[2])
        )

    return repeat


def _along(page: Page) -> Array:
    """The unit direction of the row."""
    if page.shown is None or page.shown.document.volume is None:
        raise no_volume()
    axis, document = page.chosen("row along"), page.shown.document
    if axis < len(AXES):
        own: Array = page.shown.document.volume.pose[1][axis]
        return own
    if axis < len(AXES) + 2:
        return standing.way_to_point(document, ("left", "right")[axis - len(AXES)])
    pick = page.picked(EdgePick, _("No edge is picked: click the edge the row goes along."))
    return thing_of(page.shown.scene.pictures[pick.volume], pick).way


def _in_row(page: Page) -> Edit:
    count, length, along = round(page.number("in all")), page.number("over"), _along(page)
    return lambda d: standing.repeat_over(d, count, along, length)


def _row_told(page: Page) -> str:
    """How far it is from one to the next, before it is done."""
    try:
        along = _along(page)
        volume = page.shown.document.volume if page.shown else None
        if volume is None:
            return ""
        count = round(page.number("in all"))
        step = standing.step_over(volume, count, along, page.number("over"))
        low, high = volume.reach_along(along)
    except IsometronError as error:
        return str(error)
    gap = step - (high - low)
    told = _("{count} in all, {step} from one to the next, {gap} between them")
    if gap < 0:
        told = _("{count} in all, {step} from one to the next: they overlap by {gap}")
    return told.format(
        count=count,
        step=write_length(step, page.unit),
        gap=write_length(abs(gap), page.unit),
    )


def _copies_told(page: Page) -> str:
    """How many there will be in all."""
    return _("{n} in all").format(n=round(page.number("copies")) + 1)


def _round(page: Page) -> Edit:
    about = page.choice("mirrored across").currentData()
    count, angle = round(page.number("copies")), page.number("each turned by")
    axis = (2, 0, 1)[page.chosen("round which line")]
    if about is None:
        raise VolumeError(_("A repeat round a middle needs another volume: add one."))

    def round_it(document: Document) -> Document:
        corners = document.volumes[int(about)].corners()
        x, y, z = (float(v) for v in (corners[0] + corners[7]) / 2)
        return standing.repeat_round(document, count, (x, y, z), axis, angle)

    return round_it


def _toggle_ghost(document: Document) -> Document:
    ghost = not all(volume.ghost for volume in choosing.chosen_volumes(document))
    return choosing.make_ghost(document, ghost)


class CopiesPage(Page):
    """Groups, mirrored twins and repeats."""

    ROWS = (
        Row(
            _("group"),
            Words(
                said("group"),
                _("The group the chosen volumes belong to."),
                lambda shown: shown.document.volume.group if shown.document.volume else None,
                _("group"),
                _group,
            ),
        ),
        Row(
            "",
            Button(
                _("Group"),
                _("Make the chosen volumes one body."),
                _("group"),
                lambda page: choosing.group_chosen,
            ),
            Button(
                _("Ungroup"),
                _("Let the chosen volumes be separate."),
                _("ungroup"),
                lambda page: lambda d: choosing.group(d, ""),
            ),
            Button(
                _("Choose it"),
                _("Choose everything in the same group."),
                _("choose"),
                lambda page: choosing.choose_group,
            ),
        ),
        Heading(_("Mirrored twin")),
        Row(
            _("across"),
            Choosing(
                said("mirrored across"), _("The volume whose centre plane is the mirror."), _others
            ),
        ),
        Row(
            _("square to its"),
            Choosing(
                said("mirror square to"),
                _("The direction the mirror is square to."),
                [_(axis) for axis in AXES],
            ),
            Button(
                _("Mirror"), _("Set a twin on the other side; it follows."), _("mirror"), _mirror
            ),
        ),
        Heading(_("Row")),
        Row(
            _("in all, over"),
            Measure(
                said("in all"), _("How many stand in the row, the first one too."), CountField, 5
            ),
            Measure(
                said("over"),
                _("How long the row is, from the first one's outer side to the last one's."),
                LengthField,
                1000.0,
            ),
        ),
        Row(
            _("along"),
            Choosing(
                said("row along"),
                _("Which way the row goes."),
                [
                    *(_("its {side}").format(side=_(axis)) for axis in AXES),
                    _("to the left point"),
                    _("to the right point"),
                    _("the picked edge"),
                ],
            ),
        ),
        Row("", Told(key="row told", of_page=_row_told)),
        Row(
            "",
            Button(_("Set in a row"), _("Spread them evenly; they follow it."), _("row"), _in_row),
        ),
        Heading(_("Repeat")),
        Row(
            _("copies"),
            Measure(said("copies"), _("How many besides the one that is there."), CountField, 3.0),
            Told(key="copies told", of_page=_copies_told),
        ),
        Row(
            _("equal steps"),
            Measure(STEPS[0], _("Step along its own width."), LengthField, 100.0),
            Measure(STEPS[1], _("Step along its own depth."), LengthField, 0.0),
            Measure(STEPS[2], _("Step up."), LengthField, 0.0),
        ),
        Row(
            "",
            Button(_("Repeat it"), _("Repeat it at equal true steps."), _("repeat"), _repeat),
        ),
        Row(
            _("each turned"),
            Measure(said("each turned by"), _("Turn of each copy."), AngleField, 60.0),
            Choosing(
                said("round which line"),
                _("The line through the middle of the volume chosen above."),
                [_("upright"), _("across"), _("away")],
            ),
        ),
        Row(
            "",
            Button(
                _("Round the middle"),
                _("Repeat it round that line through the chosen volume's middle."),
                _("repeat round"),
                _round,
            ),
        ),
        Row(
            "",
            Button(
                _("Let them go"),
                _("The chosen copies no longer follow their source."),
                _("let go"),
                lambda page: standing.let_go,
            ),
            Button(
                _("Ghost"),
                _("Make the chosen volumes ghosts, or solid again."),
                _("ghost"),
                lambda page: _toggle_ghost,
            ),
        ),
        Rest(),
    )

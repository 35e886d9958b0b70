"""Deeds of copies: mirrored twins, rows and repeats, and the group a volume belongs to."""

from collections.abc import Callable
from typing import Any

import numpy as np

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    choice,
    in_place,
    length,
    listed,
    of_volume,
    other_volumes,
    plain,
    words,
)
from isometron.deeds.example import Example, two
from isometron.document.document import Document
from isometron.document.edits import choosing, stances
from isometron.document.edits.places import spanning, standing
from isometron.drawing.picks.edge import EdgePick
from isometron.framework.box import AXES
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.words import _, said

MATTER = Matter.COPIES

STEPS = (
    length(said("step along width"), _("Step along its own width."), 100.0, least=-1e6),
    length(said("step along depth"), _("Step along its own depth."), 0.0, least=-1e6),
    length(said("step up"), _("Step up."), 0.0, least=-1e6),
)
COPIES = Parameter(said("copies"), _("How many besides the one that is there."), Measured.COUNT, 3)
IN_ALL = Parameter(
    said("in all"), _("How many stand in the row, the first one too."), Measured.COUNT, 5
)
OVER = length(
    said("over"),
    _("How long the row is, from the first one's outer side to the last one's."),
    1000.0,
)
ROW_ALONG = choice(
    said("row along"),
    _("Which way the row goes."),
    (
        *(said("its width"), said("its depth"), said("its height")),
        *(said("to the left point"), said("to the right point"), said("the picked edge")),
    ),
    label=_("along"),
)
ACROSS = listed(
    said("mirrored across"),
    _("The volume whose centre plane is the mirror."),
    other_volumes,
    label=_("across"),
)
SQUARE_TO = choice(
    said("mirror square to"),
    _("The direction the mirror is square to."),
    AXES,
    label=_("square to its"),
)
ROUND_WHAT = listed(
    said("round what"),
    _("The volume they go round the middle of."),
    other_volumes,
    label=_("round"),
)
EACH_TURNED = Parameter(
    said("each turned by"), _("Turn of each copy."), Measured.ANGLE, 60.0, label=_("each by")
)
ROUND_LINE = choice(
    said("round which line"),
    _("The line through its middle that they go round."),
    (said("upright"), said("across"), said("away")),
    label=_("line"),
)
TURN_BY = Parameter(
    said("turn of the copy"), _("By how much it is turned."), Measured.ANGLE, 30.0, label=_("by")
)
LINE_AXES = (2, 0, 1)


def _mirror(document: Document, given: Given) -> Document:
    about = given.one(ACROSS, document, _("A twin needs another volume to mirror across: add one."))
    return standing.mirror(document, about, given.whole(SQUARE_TO))


def _repeat(document: Document, given: Given) -> Document:
    _number, volume = choosing.in_work(document)
    axes, (across, along, up) = volume.pose[1], (given[step] for step in STEPS)
    run = across * axes[0] + along * axes[1]
    step = float(run[0]), float(run[1]), float(run[2]) + up
    return standing.repeat(document, given.whole(COPIES), step)


def _along(document: Document, given: Given) -> Array:
    """The unit direction of the row."""
    _number, volume = choosing.in_work(document)
    axis = given.whole(ROW_ALONG)
    if axis < len(AXES):
        own: Array = volume.pose[1][axis]
        return own
    if axis < len(AXES) + 2:
        return standing.way_to_point(document, ("left", "right")[axis - len(AXES)])
    pick = given.picked(EdgePick, _("No edge is picked: click the edge the row goes along."))
    other = document.volumes[pick.volume]
    first, last = other.body.vertices[other.body.edges[pick.index]] @ other.pose[1]
    return np.asarray((last - first) / np.linalg.norm(last - first))


def _in_row(document: Document, given: Given) -> Document:
    along = _along(document, given)
    row = standing.repeat_over(document, given.whole(IN_ALL), along, given[OVER])
    return stances.seen_whole(document, row)


def _row_told(document: Document, given: Given) -> str:
    """How far it is from one to the next, before it is done."""
    volume = document.volume
    if volume is None:
        return ""
    along, count, unit = _along(document, given), given.whole(IN_ALL), document.choices.unit
    step = standing.step_over(volume, count, along, given[OVER])
    low, high = volume.reach_along(along)
    gap = step - (high - low)
    told = _("{count} in all, {step} from one to the next, {gap} between them")
    if gap < 0:
        told = _("{count} in all, {step} from one to the next: they overlap by {gap}")
    return told.format(count=count, step=write_length(step, unit), gap=write_length(abs(gap), unit))


def _laid(document: Document, given: Given) -> Document:
    up = given.values.get(RAIL_UP.key)
    up = spanning.row_of(document)[0].height_mm if up is None else given[RAIL_UP]
    return spanning.lay_along_row(
        document,
        given.whole(RAILS),
        up,
        given[RAIL_THICK],
        given[RAIL_APART],
        level=given.whole(RAIL_IS) == 1,
    )


def _in_a_row() -> Example:
    document = choosing.select(two().document, 1)
    return Example(standing.repeat(document, 2, (320.0, 0.0, 0.0)), None, {RAIL_THICK.key: 6.0})


def _round(document: Document, given: Given) -> Document:
    about = given.one(
        ROUND_WHAT, document, _("A repeat round a middle needs another volume: add one.")
    )
    axis = LINE_AXES[given.whole(ROUND_LINE)]
    corners = document.volumes[about].corners()
    x, y, z = (float(v) for v in (corners[0] + corners[7]) / 2)
    return standing.repeat_round(document, given.whole(COPIES), (x, y, z), axis, given[EACH_TURNED])


def _again(document: Document, given: Given) -> Document:
    _number, volume = choosing.in_work(document)
    return standing.same_again_turned(document, volume.yaw_deg + given[TURN_BY])


def _ghost(document: Document) -> Document:
    ghost = not all(volume.ghost for volume in choosing.chosen_volumes(document))
    return choosing.make_ghost(document, ghost)


def _two_with(values: dict[str, Any]) -> Callable[[], Example]:
    return lambda: Example(choosing.select(two().document, 1), None, values)


def _copied() -> Example:
    document = choosing.select(two().document, 1)
    return Example(choosing.select(standing.repeat(document, 1, (120.0, 0.0, 0.0)), 2))


RAILS = Parameter(said("rails"), _("How many lie one below the other."), Measured.COUNT, 1)
RAIL_UP = length(
    said("rail up"),
    _("How high the top of the highest is above the foot of the row."),
    label=_("up"),
    now=of_volume(lambda volume: volume.height_mm),
)
RAIL_THICK = length(said("rail thick"), _("How thick each is."), 10.0, label=_("thick"))
RAIL_APART = length(
    said("rails apart"), _("From the top of one to that of the next."), 200.0, label=_("apart")
)
RAIL_IS = choice(
    said("rail is"),
    _("Round as a cable or tube, or square as a board."),
    (said("round"), said("square")),
    label=_("is"),
)

DEEDS = (
    in_place(
        words(
            said("group it is in"),
            _("The group the chosen volumes belong to."),
            label=_("group"),
            now=of_volume(lambda volume: volume.group),
        ),
        choosing.group,
        "Stack",
    ),
    Deed(
        "mirror",
        _("Mirrored twin"),
        _("Set a twin on the other side of another volume; it follows."),
        _("mirror"),
        _mirror,
        (ACROSS, SQUARE_TO),
        (ActsOn.OTHER,),
        shows=_two_with({ACROSS.key: 0}),
        finds=_("symmetry both sides"),
    ),
    Deed(
        "set in row",
        _("Set in a row"),
        _("Spread them evenly over a length; they follow the first."),
        _("row"),
        _in_row,
        (IN_ALL, OVER, ROW_ALONG),
        told=_row_told,
        finds=_("array space evenly several"),
    ),
    Deed(
        "lay along row",
        _("Rail along it"),
        _("Lay a rail or a cable from the first of a row to its last; it follows them."),
        _("lay along the row"),
        _laid,
        (RAILS, RAIL_UP, RAIL_THICK, RAIL_APART, RAIL_IS),
        shows=_in_a_row,
        finds=_("cable wire fence post to post span"),
    ),
    Deed(
        "repeat",
        _("Repeat it"),
        _("Repeat it at equal true steps."),
        _("repeat"),
        _repeat,
        (COPIES, *STEPS),
        told=lambda document, given: _("{n} in all").format(n=given.whole(COPIES) + 1),
        finds=_("array stack steps several"),
    ),
    Deed(
        "repeat round",
        _("Round a middle"),
        _("Repeat it round a line through another volume's middle."),
        _("repeat round"),
        _round,
        (ROUND_WHAT, COPIES, EACH_TURNED, ROUND_LINE),
        (ActsOn.OTHER,),
        shows=_two_with({ROUND_WHAT.key: 0}),
        finds=_("ring circle array"),
    ),
    Deed(
        "let go",
        _("Let them go"),
        _("The chosen copies no longer follow their source."),
        _("let go"),
        plain(standing.let_go),
        acts_on=(ActsOn.COPY,),
        shows=_copied,
    ),
    Deed(
        "ghost",
        _("Ghost"),
        _("Make the chosen volumes ghosts, or solid again."),
        _("ghost"),
        plain(_ghost),
    ),
    Deed(
        "same again turned",
        _("Again, turned"),
        _("A copy turned on the same ground; the old one stays as a ghost."),
        _("the same again, turned"),
        _again,
        (TURN_BY,),
    ),
    Deed(
        "turned in ellipse",
        _("In its ellipse"),
        _("The same square again, turned within the ellipse of its base and its top."),
        _("turned in its ellipse"),
        lambda document, given: standing.same_again_in_round(document, given[TURN_BY]),
        (TURN_BY,),
    ),
)

"""Deeds of place: where a volume stands, what it stands on or against, and how it is turned."""

from collections.abc import Callable
from dataclasses import replace
from operator import attrgetter
from typing import Any

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Offered,
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
from isometron.deeds.example import Example, box, two, upper_edge
from isometron.document.document import Document
from isometron.document.edits import choosing, volume_edits
from isometron.document.edits.places import laying, sliding, standing
from isometron.document.edits.places.origin import (
    move_from_origin,
    place_from_origin,
    set_origin,
)
from isometron.document.edits.places.saying_places import (
    CENTRES,
    centre_on,
    centre_on_sheet,
    said_place,
    say_place,
)
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.framework.box import FACE_OF, SIDES
from isometron.words import _, said

MATTER = Matter.PLACE

TOP = FACE_OF["top"]

EDGE_OF_SIDE = {"front": 2, "back": 3, "left": 6, "right": 7, "top": 2, "base": 0}
"""The near edge of a side, by its number in a box."""

NO_FACE = _("No face is picked: click a flat face first.")


def _grounds(document: Document) -> Offered:
    return [(_("the ground"), None), *other_volumes(document)]


ON = listed(said("what it stands on"), _("What it is set down on."), _grounds, label=_("on"))
WITH = listed(
    said("what it is set against"), _("What it is set against."), other_volumes, label=_("with")
)
SIDE = choice(said("side"), _("The side it is set against."), SIDES, label=_("side"))
ALONG = Parameter(
    said("fraction along"),
    _("How far along the edge, as a fraction."),
    Measured.SHARE,
    0.5,
    label=_("along"),
)
MIDDLE = choice(
    said("centred on what"),
    _("What of it the volume is centred on."),
    (
        *(said("its middle"), said("its width"), said("its depth"), said("its axle")),
        *(said("that side"), said("that side’s edge"), said("the sheet")),
    ),
    label=_("on its"),
)
ABOUT = choice(
    said("turned about"),
    _("What stays while it turns."),
    tuple(standing.TURNING_POINTS),
    label=_("about"),
)
TURN_BY = Parameter(said("turn by"), _("By how much to turn."), Measured.ANGLE, 30.0, label=_("by"))
PUSH_BY = length(
    said("push by"),
    _("How far outward; less than nothing pushes it in. The opposite side stays."),
    20.0,
    least=-1e6,
    label=_("by"),
)
PUSH_TO = length(
    said("side across"),
    _("How long the side across the face will be."),
    label=_("side"),
    now=lambda document, given: (
        sliding.side_across(document, given.pick.volume, given.pick.index)
        if isinstance(given.pick, FacePick)
        else None
    ),
)
TURNS = tuple(
    Parameter(
        key,
        tip,
        Measured.ANGLE,
        now=of_volume(attrgetter(f"{key}_deg")),
    )
    for key, tip in (
        (said("yaw"), _("Turn on the ground, counter-clockwise from above.")),
        (said("pitch"), _("Tip about its own width: positive lifts its back.")),
        (said("roll"), _("Tip about its own depth: positive lowers its right side.")),
    )
)
NONE_TO_STAND_ON = _("Choose another volume for it to stand on.")


def _stand(document: Document, given: Given) -> Document:
    if given.typed(ON) is None:
        return standing.stand_on_ground(document)
    return standing.stand_on(document, given.one(ON, document, NONE_TO_STAND_ON))


def _against(document: Document, given: Given) -> Document:
    parent = given.one(WITH, document, NONE_TO_STAND_ON)
    return standing.set_against(document, parent, FACE_OF[given.chosen(SIDE)])


def _along(document: Document, given: Given) -> Document:
    parent, edge = given.one(WITH, document, NONE_TO_STAND_ON), EDGE_OF_SIDE[given.chosen(SIDE)]
    return standing.set_along_edge(document, parent, edge, given[ALONG])


def _centre(document: Document, given: Given) -> Document:
    what = given.whole(MIDDLE)
    if what == len(CENTRES):
        return centre_on_sheet(document)
    parent = given.one(WITH, document, NONE_TO_STAND_ON)
    return centre_on(document, parent, CENTRES[what], FACE_OF[given.chosen(SIDE)])


def _turn_in_space(document: Document, given: Given) -> Document:
    edge = given.pick.index if isinstance(given.pick, EdgePick) else None
    point = standing.turning_point(document, given.chosen(ABOUT), edge)
    yaw, pitch, roll = (given[turn] for turn in TURNS)
    return standing.turn_about(document, (yaw, pitch, roll), point)


def _round_edge(document: Document, given: Given) -> Document:
    pick = given.picked(EdgePick, _("No edge is picked: click the edge to turn it round."))
    return standing.turn_round_edge(document, pick.index, given[TURN_BY])


def _push(document: Document, given: Given) -> Document:
    pick = given.picked(FacePick, NO_FACE)
    return sliding.push_face(document, pick.volume, pick.index, given[PUSH_BY])


def _push_to(document: Document, given: Given) -> Document:
    pick = given.picked(FacePick, NO_FACE)
    now = sliding.side_across(document, pick.volume, pick.index)
    return sliding.push_face(document, pick.volume, pick.index, given[PUSH_TO] - now)


def _pushed(document: Document, given: Given) -> str:
    """How large the side will be."""
    from isometron.perspective.lengths import write_length

    pick = given.pick
    if not isinstance(pick, FacePick):
        return ""
    mm = sliding.side_across(document, pick.volume, pick.index) + given[PUSH_BY]
    return _("The side across it becomes {mm}.").format(mm=write_length(mm, document.choices.unit))


def _box_on(document: Document, given: Given) -> Document:
    pick = given.picked(FacePick, NO_FACE)
    side = sliding.side_of(document.volumes[pick.volume], pick.index)
    made = laying.add_box(document)
    if side == TOP:
        return standing.stand_on(made, pick.volume)
    return standing.set_against(made, pick.volume, side)


def _place(key: str, label: str, axis: int, tip: str) -> Deed:
    def now(document: Document, given: Given) -> float | None:
        place = place_from_origin(document)
        return None if place is None else place[axis]

    def move(document: Document, mm: float) -> Document:
        return move_from_origin(document, axis, mm)

    at = length(key, tip, label=label, now=now, least=-1e6, upright=axis == 2)

    def moved() -> Example:
        document = box().document
        place = place_from_origin(document) or (0.0, 0.0, 0.0)
        return Example(document, None, {key: place[axis] + 30.0})

    return replace(in_place(at, move, 0.0, name=_(key)), shows=moved)


def _origin(key: str, axis: int, tip: str) -> Parameter:
    return length(
        key,
        tip,
        label=(_("right"), _("away"))[axis],
        least=-1e6,
        now=lambda document, given: document.origin_mm[axis],
    )


ORIGIN = (
    _origin(said("origin right"), 0, _("Where typed places are counted from, across.")),
    _origin(said("origin away"), 1, _("Where typed places are counted from, away.")),
)


def _set_origin(document: Document, given: Given) -> Document:
    for axis, at in enumerate(ORIGIN):
        document = set_origin(document, axis, given[at])
    return document


def _two_with(**values: Any) -> Callable[[], Example]:
    """Two cubes, the second in work, and values by the keys of parameters."""
    given = {key.replace("_", " "): value for key, value in values.items()}
    return lambda: Example(choosing.select(two().document, 1), None, given)


def _box_with(values: dict[str, Any]) -> Callable[[], Example]:
    return lambda: Example(box().document, None, values)


DEEDS = (
    Deed(
        "push face",
        _("Push it"),
        _("Push the picked face out or in; the opposite side stays."),
        _("push the face"),
        _push,
        (PUSH_BY,),
        (ActsOn.FACE,),
        shows=lambda: Example(box().document, FacePick(0, 2), {PUSH_BY.key: 40.0}),
        told=_pushed,
        finds=_("pull slide extrude longer"),
    ),
    Deed(
        "push to",
        _("Push to a side"),
        _("Push the picked face until the side across it is so long; the opposite side stays."),
        _("push the face"),
        _push_to,
        (PUSH_TO,),
        (ActsOn.FACE,),
        shows=lambda: Example(box().document, FacePick(0, 2), {PUSH_TO.key: 90.0}),
        finds=_("pull slide extrude longer"),
    ),
    Deed(
        "box on face",
        _("Stand a box on it"),
        _("Put a cube on the picked face; it follows."),
        _("stand a box on it"),
        _box_on,
        (),
        (ActsOn.FACE,),
        shows=lambda: Example(box().document, FacePick(0, TOP)),
        finds=_("add new volume against"),
    ),
    in_place(
        Parameter(
            said("turned"),
            _("Turn of the volume on the ground, counter-clockwise from above."),
            Measured.ANGLE,
            now=of_volume(lambda volume: volume.yaw_deg),
        ),
        volume_edits.turn_volume,
        70.0,
    ),
    _place(said("stands right"), _("right"), 0, _("Its first corner, right of the ground origin.")),
    _place(said("stands away"), _("away"), 1, _("Its first corner, away from the ground origin.")),
    _place(said("above ground"), _("above"), 2, _("Height of its base above the ground origin.")),
    in_place(
        words(
            said("place in words"),
            _("Such as: 1.3 w behind Front axle, on the centre plane; 5 cm above ground."),
            label=_("place"),
            now=lambda document, given: (
                None if document.selected is None else said_place(document, document.selected)
            ),
        ),
        lambda document, text: say_place(document, text=text),
        "5 cm above ground",
        name=_("say its place"),
        finds=_("behind beside before centre plane"),
    ),
    Deed(
        "stand on",
        _("Set on top"),
        _("Set it down on this; it follows from now on."),
        _("stand on"),
        _stand,
        (ON,),
        shows=_two_with(what_it_stands_on=0),
    ),
    Deed(
        "stand free",
        _("Stand free"),
        _("Follow nothing from now on."),
        _("stand free"),
        plain(standing.let_stand_free),
        shows=lambda: Example(standing.stand_on(choosing.select(two().document, 1), 0)),
    ),
    Deed(
        "set against",
        _("Set against"),
        _("Push it square against a side of another volume; it follows."),
        _("set against"),
        _against,
        (WITH, SIDE),
        (ActsOn.OTHER,),
        shows=_two_with(what_it_is_set_against=0),
    ),
    Deed(
        "set along edge",
        _("Along its edge"),
        _("Set its first corner at a fraction along a side's near edge."),
        _("set along the edge"),
        _along,
        (WITH, SIDE, ALONG),
        (ActsOn.OTHER,),
        shows=_two_with(what_it_is_set_against=0),
    ),
    Deed(
        "centre",
        _("Centre it"),
        _("Centre it on this; it follows, but on the sheet."),
        _("centre"),
        _centre,
        (WITH, MIDDLE, SIDE),
        shows=_two_with(what_it_is_set_against=0),
        finds=_("middle align"),
    ),
    Deed(
        "turn in space",
        _("Turn in space"),
        _("Turn it on the ground and tip it, about a place that stays."),
        _("turn in space"),
        _turn_in_space,
        (*TURNS, ABOUT),
        shows=_box_with({"yaw": 60.0, "pitch": 20.0}),
        finds=_("tip tilt lean rotate"),
    ),
    Deed(
        "turn round edge",
        _("Turn round it"),
        _("Turn the volume round the edge that is picked."),
        _("turn round an edge"),
        _round_edge,
        (TURN_BY,),
        (ActsOn.EDGE,),
        shows=upper_edge,
        finds=_("hinge open tip"),
    ),
    Deed(
        "set origin",
        _("Ground origin"),
        _("Where typed places are counted from."),
        _("ground origin"),
        _set_origin,
        ORIGIN,
        (ActsOn.SHEET,),
        shows=_box_with({"origin right": 100.0}),
    ),
)

"""Deeds of openings: windows, doors and holes on a face, drawn or cut in."""

from collections.abc import Callable
from dataclasses import replace
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
    length,
    listed,
    words,
)
from isometron.deeds.example import Example, box, front_face
from isometron.document.document import Document
from isometron.document.edits.faces import on_faces
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.surface import SurfacePick
from isometron.framework.box import FACE_OF, SIDES
from isometron.framework.face_rings import OPENINGS
from isometron.framework.volume import Volume
from isometron.words import _, said

MATTER = Matter.OPENINGS

PICKED = said("picked, or front")

SIDE = choice(
    said("side of the opening"),
    _("The side; or pick a face on the board."),
    (PICKED, *SIDES),
    label=_("on"),
)
SHAPE = choice(
    said("shape of the opening"),
    _("Square, ending in a half circle, or round."),
    tuple(on_faces.SHAPE_WORDS[shape] for shape in OPENINGS),
    label=_("shape"),
)
TYPED = {
    "deep": words(
        said("opening deep"), _("through, drawn, or how deep: 4cm."), "through", label=_("deep")
    ),
    "left": words(
        said("from left"),
        _("From the left edge of the face: 20cm, 1/4 or middle."),
        "middle",
        label=_("from left"),
    ),
    "up": words(
        said("up"), _("From its lower edge: 20cm, 1/4 or middle."), "middle", label=_("up")
    ),
    "wide": words(
        said("opening wide"),
        _("A length, or a share of the face: 30cm, 1/3."),
        "1/3",
        label=_("wide"),
    ),
    "high": words(
        said("opening high"),
        _("A length, or a share of the face: 30cm, 1/3."),
        "1/3",
        label=_("high"),
    ),
}
TWIN = choice(
    said("mirrored"),
    _("Whether the same lies on the other side of a centre plane."),
    (
        said("this one only"),
        said("mirrored across the width"),
        said("mirrored across the depth"),
    ),
    label=_("twin"),
)
ACROSS = Parameter(said("across"), _("How many side by side."), Measured.COUNT, 1)
UPWARD = Parameter(said("upward"), _("How many one above the other."), Measured.COUNT, 1)
GAP = length(said("gap"), _("What is left between two of them."), 20.0)
EACH = choice(
    said("all together or each"),
    _("Whether the width and height above are those of all together, or of each."),
    (said("all together"), said("each")),
    label=_("so large"),
)
POINTS = words(
    said("points of the outline"),
    _("From the lower left of the face, in order round: 0 0, 60 0, 60 40."),
    label=_("points"),
)
RUNS = choice(
    said("outline runs"),
    _("Straight between the points, or as a free curve."),
    (said("straight"), said("curved")),
    label=_("runs"),
)
TWINS = (None, 0, 1)


def _every(document: Document) -> Offered:
    volume = document.volume
    told = [] if volume is None else on_faces.rings_in_words(volume, document.choices.unit)
    return [(words, number) for number, words in enumerate(told)]


WHICH = listed(
    said("which opening"),
    _("The opening that is changed or taken away."),
    _every,
    label=_("which"),
)
FIRST_CHOOSE = _("Choose the opening first.")


def _now(field: str) -> Callable[[Document, Given], str | None]:
    def now(document: Document, given: Given) -> str | None:
        volume, number = document.volume, given.typed(WHICH)
        if volume is None or number is None or number >= len(volume.face_rings):
            return None
        return on_faces.typed_of(volume, number, document.choices.unit)[field]

    return now


def _points_now(document: Document, given: Given) -> str | None:
    volume, number = document.volume, given.typed(WHICH)
    if volume is None or number is None or number >= len(volume.face_rings):
        return None
    return on_faces.points_of(volume, number, document.choices.unit)


CHANGED = {
    field: replace(one, key=f"{one.key} now", now=_now(field)) for field, one in TYPED.items()
}
CHANGED_POINTS = replace(POINTS, key=f"{POINTS.key} now", now=_points_now)


def face_of(given: Given) -> Callable[[Volume], int]:
    """The face that is meant: the one named, else the picked one, else the front."""
    side = given.whole(SIDE)
    if side:
        named = FACE_OF[SIDES[side - 1]]
        return lambda volume: on_faces.face_to(volume, named)
    if isinstance(given.pick, SurfacePick):
        surface = given.pick.index
        return lambda volume: on_faces.bent_side(volume, surface)
    if not isinstance(given.pick, FacePick):
        return on_faces.front_or_side
    face = given.pick.index
    return lambda volume: on_faces.whole_face(volume, face)


def _wanted(given: Given) -> on_faces.Wanted:
    return on_faces.Wanted(
        OPENINGS[given.whole(SHAPE)],
        **{field: given.text(one) for field, one in TYPED.items()},
        across=given.whole(ACROSS),
        upward=given.whole(UPWARD),
        gap_mm=given[GAP],
        twin=TWINS[given.whole(TWIN)],
        each=given.whole(EACH) == 1,
    )


def _put(document: Document, given: Given) -> Document:
    return on_faces.put_on(document, face_of(given), _wanted(given))


def _understood(document: Document, given: Given) -> str:
    """What is understood of what is typed for this face, in lengths."""
    volume = document.volume
    if volume is None:
        return ""
    unit = document.choices.unit
    return on_faces.wanted_in_words(volume, face_of(given)(volume), _wanted(given), unit)


def _outline(document: Document, given: Given) -> Document:
    points, deep, twin = given.text(POINTS), given.text(TYPED["deep"]), TWINS[given.whole(TWIN)]
    smooth = given.whole(RUNS) == 1
    return on_faces.outline_on(document, face_of(given), points, deep, smooth=smooth, twin=twin)


def _change(document: Document, given: Given) -> Document:
    """Everything of the opening that was typed anew."""
    number = given.one(WHICH, document, FIRST_CHOOSE)
    for field, one in CHANGED.items():
        text = given.text(one)
        if one.now and text and text != one.now(document, given):
            document = on_faces.change_ring(document, number, field, text)
    points = given.text(CHANGED_POINTS)
    if points.strip() and points != _points_now(document, given):
        document = on_faces.change_points(document, number, points)
    return document


def _mirror(document: Document, given: Given) -> Document:
    number = given.one(WHICH, document, FIRST_CHOOSE)
    return on_faces.twin_ring(document, number, TWINS[given.whole(TWIN)])


def _opened(**values: Any) -> Example:
    """A cube with an opening."""
    document = box().document
    wanted = _wanted(Given({TYPED["left"].key: "1/8"}))
    made = on_faces.put_on(document, on_faces.front_or_side, wanted)
    return Example(made, None, {WHICH.key: 0, **values})


SEVERAL = (ACROSS, UPWARD, GAP, EACH)

DEEDS = (
    Deed(
        "put opening",
        _("Opening"),
        _("Put a window, a door or a hole on the face, cut in or only drawn."),
        _("opening"),
        _put,
        (SHAPE, *TYPED.values(), SIDE, TWIN, *SEVERAL),
        (ActsOn.FACE, ActsOn.VOLUME),
        shows=front_face,
        told=_understood,
        finds=_("window door hole recess reveal several alike"),
    ),
    Deed(
        "put outline",
        _("Free outline"),
        _("Draw an outline through points on the face, or cut it in."),
        _("outline"),
        _outline,
        (POINTS, RUNS, TYPED["deep"], SIDE, TWIN),
        (ActsOn.FACE, ActsOn.VOLUME),
        shows=lambda: Example(box().document, front_face().pick, {POINTS.key: "1 1, 4.5 1, 3 4"}),
        finds=_("line curve window points"),
    ),
    Deed(
        "change opening",
        _("Change opening"),
        _("Give an opening another place, size or depth."),
        _("change the opening"),
        _change,
        (WHICH, *CHANGED.values(), CHANGED_POINTS),
        (ActsOn.OPENING,),
        shows=lambda: _opened(**{CHANGED["wide"].key: "1/2"}),
    ),
    Deed(
        "twin opening",
        _("Mirror opening"),
        _("Mirror an opening across a centre plane, or no longer."),
        _("mirror the opening"),
        _mirror,
        (WHICH, TWIN),
        (ActsOn.OPENING,),
        shows=lambda: _opened(**{TWIN.key: 1}),
    ),
    Deed(
        "fill opening",
        _("Fill opening"),
        _("Take an opening away again."),
        _("fill the opening"),
        lambda document, given: on_faces.take_ring(
            document, given.one(WHICH, document, FIRST_CHOOSE)
        ),
        (WHICH,),
        (ActsOn.OPENING,),
        shows=_opened,
    ),
)

"""Deeds of what parts are meant to be to each other: kept after every edit, or let go."""

import numpy as np

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    choice,
    listed,
    other_volumes,
    plain,
    words,
)
from isometron.deeds.example import Example
from isometron.document.document import Document
from isometron.document.edits import choosing, meaning, volume_edits
from isometron.document.edits.places.laying import add_box
from isometron.document.edits.shapes import rounding
from isometron.drawing.picks.face import FacePick
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.box import AXES
from isometron.framework.intentions.apart import PLACES
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MATTER = Matter.MEANT

BODY = listed(said("what the wheel turns in"), _("A body."), other_volumes, label=_("in"))
OF = listed(said("what it is kept with"), _("Another volume."), other_volumes, label=_("of"))
ALONG = choice(
    said("along which side"), _("Along which side of that one."), AXES, label=_("along its")
)
WHERE = choice(
    said("which end"),
    _("At its begin (left, front, foot) or its far end."),
    (said("begin"), said("far end")),
    label=_("at its"),
)
AND = listed(said("the other of the two"), _("A second volume."), other_volumes, label=_("and"))
SPREAD = choice(
    said("along which of its sides"),
    _("Along which side of the one in work."),
    AXES,
    label=_("along its"),
)
OWN = choice(said("which of its sides"), _("The side that is kept."), AXES, label=_("its"))
AT = choice(said("which place of it"), _("Where the distance ends."), PLACES, label=_("its"))
FROM = choice(
    said("from which place"), _("Where the distance begins."), PLACES, 1, label=_("from its")
)
FAR = words(
    said("how far"),
    _("2 w, 30 cm, below 0 before it; nothing keeps what it is now."),
    label=_("how far"),
)
WHICH = listed(said("what is let go"), _("What is kept."), meaning.ties_of, label=_("let go"))

NEEDS = _("That needs another volume: choose which.")


def _in_arch(document: Document, given: Given) -> Document:
    return meaning.keep_in_arch(document, given.one(BODY, document, NEEDS))


def _within(document: Document, given: Given) -> Document:
    return meaning.keep_within(document, given.one(OF, document, NEEDS), given.whole(ALONG))


def _centred(document: Document, given: Given) -> Document:
    return meaning.keep_centred(document, given.one(OF, document, NEEDS), given.whole(ALONG))


def _flush(document: Document, given: Given) -> Document:
    other, far = given.one(OF, document, NEEDS), given.whole(WHERE) == 1
    return meaning.keep_flush(document, other, given.whole(ALONG), far=far)


def _square_to(document: Document, given: Given) -> Document:
    return meaning.keep_square_to(document, given.one(OF, document, NEEDS))


def _between(document: Document, given: Given) -> Document:
    one, other = given.one(OF, document, NEEDS), given.one(AND, document, NEEDS)
    return meaning.keep_between(document, one, other, given.whole(ALONG))


def _spread(document: Document, given: Given) -> Document:
    return meaning.keep_spread(document, given.whole(SPREAD))


def _apart(document: Document, given: Given) -> Document:
    places = given.whole(AT), given.whole(FROM)
    other = given.one(OF, document, NEEDS)
    return meaning.keep_apart(document, other, given.whole(ALONG), places, given.text(FAR))


def _as_long(document: Document, given: Given) -> Document:
    other = given.one(OF, document, NEEDS)
    return meaning.keep_as_long(document, given.whole(OWN), other, given.whole(ALONG))


def _square(document: Document, given: Given) -> Document:
    pick = given.picked(FacePick, _("No face is picked: click one on the sheet first."))
    volume = document.volumes[pick.volume]
    normal = volume.bare.normals[pick.index]
    axis = int(np.abs(normal).argmax())
    if not volume.bare.boxed or abs(normal[axis]) < 1 - SAME:
        raise VolumeError(_("That face has no two sides of its volume: pick a face of a box."))
    first, second = CROSS[axis]
    return meaning.keep_square(choosing.select(document, pick.volume), first, second)


def _let_go(document: Document, given: Given) -> Document:
    nothing = _("Nothing is kept with what is picked.")
    return meaning.let_go(document, given.one(WHICH, document, nothing))


def _wheel_and_body() -> Example:
    wheel = rounding.add_round(Document(), "wheel")
    body = volume_edits.set_side(add_box(wheel), 0, 320.0)
    round_one = body.volumes[0]
    over = volume_edits.move_volume(
        body, (round_one.x_mm - 90.0, round_one.y_mm - 20.0, 0.4 * round_one.height_mm)
    )
    return Example(choosing.select(over, 0), None, {BODY.key: 1})


def _two() -> Example:
    document = add_box(add_box(Document()))
    return Example(document, None, {OF.key: 0})


def _askew() -> Example:
    made = _two().document
    return Example(
        volume_edits.turn_volume(made, made.volumes[0].yaw_deg + 20.0), None, {OF.key: 0}
    )


def _at_distance() -> Example:
    made = _two()
    return Example(made.document, None, {OF.key: 0, FAR.key: "200 mm"})


def _three() -> Example:
    document = add_box(add_box(add_box(Document())))
    return Example(document, None, {OF.key: 0, AND.key: 1})


def _chosen() -> Example:
    document = _three().document
    return Example(choosing.choose_all(document))


def _faced() -> Example:
    document = _oblong().document
    return Example(document, FacePick(0, 2))


def _raised() -> Example:
    document = add_box(Document())
    assert document.volume is not None
    x, y, _z = document.volume.place
    return Example(volume_edits.move_volume(document, (x, y, 60.0)))


def _oblong() -> Example:
    return Example(volume_edits.set_side(add_box(Document()), 2, 120.0))


def _kept() -> Example:
    document = meaning.keep_centred(_two().document, 0, 0)
    return Example(document, None, {WHICH.key: 0})


DEEDS = (
    Deed(
        "keep in arch",
        _("Keep in its arch"),
        _("This wheel stays in an arch of the body, whichever of them is changed."),
        _("keep in its arch"),
        _in_arch,
        (BODY,),
        (ActsOn.OTHER,),
        shows=_wheel_and_body,
        finds=_("wheel guard mudguard always"),
    ),
    Deed(
        "keep within",
        _("Keep within"),
        _("It never reaches out of the other along that side."),
        _("keep within"),
        _within,
        (OF, ALONG),
        (ActsOn.OTHER,),
        shows=_two,
        finds=_("inside always limit"),
    ),
    Deed(
        "keep square to",
        _("Keep square to"),
        _("Its sides stay along those of the other, or at right angles to them."),
        _("keep square to"),
        _square_to,
        (OF,),
        (ActsOn.OTHER,),
        shows=_askew,
        finds=_("right angle parallel in line turn always"),
    ),
    Deed(
        "keep centred",
        _("Keep centred"),
        _("It stays in the middle of the other along that side."),
        _("keep centred"),
        _centred,
        (OF, ALONG),
        (ActsOn.OTHER,),
        shows=_two,
        finds=_("centre middle always symmetrical"),
    ),
    Deed(
        "keep flush",
        _("Keep flush"),
        _("It stays in one plane with an end of the other."),
        _("keep flush"),
        _flush,
        (OF, ALONG, WHERE),
        (ActsOn.OTHER,),
        shows=_two,
        finds=_("in line level even always"),
    ),
    Deed(
        "keep between",
        _("Keep midway"),
        _("It stays half-way between two others, whichever of them moves."),
        _("keep midway"),
        _between,
        (OF, AND, ALONG),
        (ActsOn.OTHER,),
        shows=_three,
        finds=_("between two middle symmetrical about always"),
    ),
    Deed(
        "keep spread",
        _("Keep spread"),
        _("Those chosen stay at even distances between the first and the last of them."),
        _("keep spread"),
        _spread,
        (SPREAD,),
        (ActsOn.VOLUMES,),
        shows=_chosen,
        finds=_("equal spacing distribute even row always"),
    ),
    Deed(
        "keep apart",
        _("Keep distance"),
        _("It stays so many modules, or so far, from a place of the other."),
        _("keep distance"),
        _apart,
        (OF, ALONG, AT, FROM, FAR),
        (ActsOn.OTHER,),
        shows=_at_distance,
        finds=_("modules from gap overhang offset always"),
    ),
    Deed(
        "keep as long",
        _("Keep as long as"),
        _("One side of it stays as long as a side of the other."),
        _("keep as long"),
        _as_long,
        (OWN, OF, ALONG),
        (ActsOn.OTHER,),
        shows=_two,
        finds=_("as high as wide equal same length always"),
    ),
    Deed(
        "keep on ground",
        _("Keep standing"),
        _("Its foot stays on the ground; it grows with what it carries."),
        _("keep standing"),
        plain(meaning.keep_on_ground),
        shows=_raised,
        finds=_("leg post floor ground always"),
    ),
    Deed(
        "keep cube",
        _("Keep it a cube"),
        _("Depth and height stay as long as the width."),
        _("keep it a cube"),
        plain(meaning.keep_cube),
        shows=_oblong,
        finds=_("meant square equal always"),
    ),
    Deed(
        "keep square",
        _("Keep it square"),
        _("Both sides of the picked face stay alike."),
        _("keep it square"),
        _square,
        (),
        (ActsOn.FACE,),
        shows=_faced,
        finds=_("meant square equal sides always"),
    ),
    Deed(
        "let tie go",
        _("Let it go"),
        _("What is kept true no more from now on; nothing moves."),
        _("let it go"),
        _let_go,
        (WHICH,),
        shows=_kept,
        finds=_("release free untie"),
    ),
)

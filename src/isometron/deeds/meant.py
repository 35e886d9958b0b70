"""Deeds of what parts are meant to be to each other: kept after every edit, or let go."""

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    choice,
    listed,
    other_volumes,
    plain,
)
from isometron.deeds.example import Example
from isometron.document.document import Document
from isometron.document.edits import choosing, meaning, volume_edits
from isometron.document.edits.places.laying import add_box
from isometron.document.edits.shapes import rounding
from isometron.framework.box import AXES
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


def _apart() -> Example:
    document = add_box(add_box(Document()))
    return Example(document, None, {OF.key: 0})


def _raised() -> Example:
    document = add_box(Document())
    assert document.volume is not None
    x, y, _z = document.volume.place
    return Example(volume_edits.move_volume(document, (x, y, 60.0)))


def _oblong() -> Example:
    return Example(volume_edits.set_side(add_box(Document()), 2, 120.0))


def _kept() -> Example:
    document = meaning.keep_centred(_apart().document, 0, 0)
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
        shows=_apart,
        finds=_("inside always limit"),
    ),
    Deed(
        "keep centred",
        _("Keep centred"),
        _("It stays in the middle of the other along that side."),
        _("keep centred"),
        _centred,
        (OF, ALONG),
        (ActsOn.OTHER,),
        shows=_apart,
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
        shows=_apart,
        finds=_("in line level even always"),
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

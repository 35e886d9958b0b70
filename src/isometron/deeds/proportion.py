"""Deeds of proportion: what a thing is, the bands it is judged by, and whether it is."""

from isometron.deeds.deed import ActsOn, Deed, Given, Matter, choice, listed, of_volume, words
from isometron.deeds.example import Example
from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.judging import judging
from isometron.document.edits.judging.bands import ROLES
from isometron.document.edits.places.laying import add_box
from isometron.document.edits.starters import (
    APPLIANCE,
    KIOSK,
    SEAT,
    SHELF,
    STEPS,
    TABLE,
    TWO_WHEELS,
    VEHICLE,
    with_starter,
)
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.lengths import read_length
from isometron.words import _, said

MATTER = Matter.PROPORTION

NOTHING = said("nothing to judge")

SHOWN_BY = {
    "seat": (SEAT, 0),
    "table": (TABLE, 0),
    "worktop": (KIOSK, 1),
    "arm": (SEAT, 4),
    "step": (STEPS, 1),
    "door": (APPLIANCE, 1),
    "handle": (TWO_WHEELS, 4),
    "shelf board": (SHELF, 3),
    "wheel": (VEHICLE, 0),
    "leg": (TABLE, 1),
}
"""A part of a starter, by the starter's own key, that shows what a volume may be said to be."""


def _shown_by(number: int) -> Document:
    """A framework with a part of that kind in work; a box of no kind, none in work."""
    if not number:
        return choosing.select(add_box(Document()), None)
    starter, part = SHOWN_BY[ROLES[number - 1]]
    document = with_starter(Document(), starter, starter.proposal)
    key = next(one.key for one in document.begun[0].parts if one.part == part)
    at = next(i for i, one in enumerate(document.volumes) if one.key == key)
    return choosing.select(document, at)


ROLE = choice(
    said("what it is"),
    _("What it is for: its proportions are judged by that."),
    (NOTHING, *ROLES),
    label=_("it is"),
    now=of_volume(lambda volume: 1 + ROLES.index(volume.role) if volume.role in ROLES else 0),
    shown_by=_shown_by,
)
NONE = _("Nothing here has bands: begin with a starter, or say what a volume is.")


def _measures(document: Document) -> list[tuple[str, int]]:
    keys = list(judging.usual())
    kinds = judging.kinds_on(document)
    return [
        (_("{what} of {kind}").format(what=_(what), kind=_(kind)), number)
        for number, (kind, what) in enumerate(keys)
        if kind in kinds
    ]


def _kinds(document: Document) -> list[tuple[str, int]]:
    kinds = list(dict.fromkeys(kind for kind, _what in judging.usual()))
    return [(_(kind), kinds.index(kind)) for kind in judging.kinds_on(document)]


WHICH = listed(said("which measure"), _("The measure that is judged."), _measures, label=_("of"))
LOW = words(said("least that looks right"), _("In modules, degrees or a length."), label=_("from"))
HIGH = words(said("most that looks right"), _("In modules, degrees or a length."), label=_("to"))
KIND = listed(
    said("which kind of thing"), _("A kind of thing on the sheet."), _kinds, label=_("of")
)
JUDGED = choice(
    said("judged or not"),
    _("Whether remarks are made of it."),
    (said("judged"), said("left alone")),
    1,
)


def _say(document: Document, given: Given) -> Document:
    return judging.say_what_it_is(document, given.whole(ROLE))


def _band(document: Document, given: Given) -> Document:
    key = list(judging.usual())[given.one(WHICH, document, NONE)]
    unit = next((one.unit for one in judging.judged(document) if one.band.key == key), "mm")
    low, high = (_value(document, given.text(end), unit) for end in (LOW, HIGH))
    return judging.set_band(document, key, low, high)


def _value(document: Document, text: str, unit: str) -> float:
    if unit == "mm":
        return read_length(text, document.choices.unit)
    number = text.strip().removesuffix(unit).rstrip("°× ").replace(",", ".")
    try:
        return float(number)
    except ValueError:
        raise LengthError(_("A band goes from less to more: type, say, 2.2 and 4.")) from None


def _judge(document: Document, given: Given) -> Document:
    kinds = list(dict.fromkeys(kind for kind, _what in judging.usual()))
    kind = kinds[given.one(KIND, document, NONE)]
    return judging.judge(document, kind, on=given.whole(JUDGED) == 0)


def _usual(document: Document, given: Given) -> Document:
    if not document.bands:
        raise VolumeError(_("The sheet has no bands of its own: all are as usual."))
    return judging.usual_again(document)


def _seat() -> Example:
    return Example(add_box(Document()), None, {ROLE.key: 1})


def _said() -> Document:
    return judging.say_what_it_is(add_box(Document()), 1)


def _banded() -> Example:
    document = _said()
    number = _measures(document)[0][1]
    return Example(document, None, {WHICH.key: number, LOW.key: "30 cm", HIGH.key: "60 cm"})


def _left() -> Example:
    document = _said()
    return Example(document, None, {KIND.key: _kinds(document)[0][1], JUDGED.key: 1})


def _own() -> Example:
    return Example(judging.set_band(_said(), ("seat", "top"), 300.0, 600.0))


DEEDS = (
    Deed(
        "say what it is",
        _("What it is"),
        _("Say what it is for, a seat or a door: its proportions are judged by that."),
        _("say what it is"),
        _say,
        (ROLE,),
        shows=_seat,
        finds=_("role judge proportion seat table door step arm"),
    ),
    Deed(
        "set band",
        _("Set a band"),
        _("Between which measures a thing looks right to you, on this sheet."),
        _("set a band"),
        _band,
        (WHICH, LOW, HIGH),
        (ActsOn.SHEET,),
        shows=_banded,
        finds=_("limits range proportion judge"),
    ),
    Deed(
        "judge kind",
        _("Judge or not"),
        _("Whether the proportions of a kind of thing are judged."),
        _("judge proportions"),
        _judge,
        (KIND, JUDGED),
        (ActsOn.SHEET,),
        shows=_left,
        finds=_("silent quiet off remarks proportion"),
    ),
    Deed(
        "usual bands",
        _("Usual bands"),
        _("All bands of this sheet as they usually are."),
        _("usual bands"),
        _usual,
        (),
        (ActsOn.SHEET,),
        shows=_own,
        finds=_("reset proportion limits"),
    ),
)

"""Deeds that put fittings on the volume in work: legs and feet, wheels in their arches, a lid, a
handle, a louvre. Sizes are lengths, or shares of what they are put on."""

from isometron.deeds.circles import FACE, MIDDLE_ACROSS, MIDDLE_UP, chosen_face
from isometron.deeds.deed import ActsOn, Deed, Given, Matter, Measured, Parameter, choice, words
from isometron.deeds.example import front_face
from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.faces.on_faces import place_in, size_in
from isometron.document.edits.fittings.facing import face_extents
from isometron.document.edits.fittings.fitting import (
    axles_along,
    put_handle,
    put_legs,
    put_lid,
    put_louvre,
    put_wheels,
)
from isometron.document.edits.fittings.legs import Legs
from isometron.document.edits.fittings.on_faces import HINGES, Handle, Lid, Louvre
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MATTER = Matter.BUILDING

LEG_HIGH = words(
    said("leg height"), _("A length, or a share of its height: 40cm, 1/2."), "1/2", label=_("high")
)
LEG_THICK = words(
    said("leg thickness"),
    _("A length, or a share of its shorter side on the ground: 4cm, 1/10."),
    "1/10",
    label=_("thick"),
)
LEG_INSET = words(
    said("legs set in"),
    _("How far in from its sides: a length, or a share of its shorter side; 0 for flush."),
    "1/20",
    label=_("set in"),
)
RAKE = Parameter(
    said("rake of the legs"),
    _("How far they lean toward front and back."),
    Measured.ANGLE,
    0.0,
    label=_("rake"),
)
SPLAY = Parameter(
    said("splay of the legs"),
    _("How far they lean out sideways."),
    Measured.ANGLE,
    0.0,
    label=_("splay"),
)
LEGS_ARE = choice(
    said("section of the legs"),
    _("Square, or round and upright."),
    (said("square"), said("round")),
    label=_("legs"),
)
AXLES = words(
    said("places of the axles"),
    _("Where they lie along the side, as lengths or shares: 1/5, 4/5."),
    "1/5, 4/5",
    label=_("axles at"),
)
WHEEL_DIAMETER = words(
    said("wheel diameter in the arch"),
    _("A length, or a share of its height: 62cm, 1/2."),
    "1/3",
    label=_("diameter"),
)
WHEEL_WIDE = words(
    said("wheel width in the arch"),
    _("A length, or a share of its width across the axles: 18cm, 1/8."),
    "1/8",
    label=_("wide"),
)
CLEARANCE = words(
    said("ground clearance"),
    _("How high its base is above the ground: a length, or a share of its height."),
    "1/8",
    label=_("clear"),
)
LID_THICK = words(
    said("lid thickness"),
    _("A length, or a share of its height: 2cm, 1/12."),
    "1/12",
    label=_("thick"),
)
LID_OVER = words(
    said("lid stands out"),
    _("How far it stands out all round: a length, or a share of the width; 0 for flush."),
    "0",
    label=_("over"),
)
LID_OPEN = Parameter(
    said("lid open"),
    _("How far it stands open; 0 is shut."),
    Measured.ANGLE,
    0.0,
    least=0.0,
    most=270.0,
    label=_("open"),
)
HINGE = choice(said("hinge"), _("The edge it turns on."), HINGES)
HANDLE_LONG = words(
    said("handle length"),
    _("A length, or a share of the face: 12cm, 1/2."),
    "1/2",
    label=_("long"),
)
HANDLE_OUT = words(
    said("handle stands out"),
    _("A length, or a share of its own length: 4cm, 1/4."),
    "1/4",
    label=_("out"),
)
HANDLE_THICK = words(
    said("handle thickness"),
    _("A length, or a share of its own length: 1cm, 1/12."),
    "1/12",
    label=_("thick"),
)
RUNS = choice(
    said("handle runs"),
    _("Along the face, or upright on it."),
    (said("level"), said("upright")),
    label=_("runs"),
)
SLATS = Parameter(said("slats"), _("How many, one above the other."), Measured.COUNT, 6)
LOUVRE_WIDE = words(
    said("louvre wide"), _("A length, or a share of the face: 30cm, 2/3."), "2/3", label=_("wide")
)
LOUVRE_HIGH = words(
    said("louvre high"), _("A length, or a share of the face: 30cm, 2/3."), "2/3", label=_("high")
)
SLAT_DEEP = words(
    said("slat depth"),
    _("A length, or a share of the louvre's height: 3cm, 1/8."),
    "1/8",
    label=_("deep"),
)
SLAT_THICK = words(
    said("slat thickness"),
    _("A length, or a share of the louvre's height: 4mm, 1/40."),
    "1/40",
    label=_("thick"),
)
SLOPE = Parameter(
    said("slope of the slats"),
    _("How far they slope down outward."),
    Measured.ANGLE,
    30.0,
    label=_("slope"),
)
BEHIND = words(
    said("slats begin behind"),
    _("How far behind the face they begin, in an opening: a length; 0 for on it."),
    "0",
    label=_("behind"),
)


def _legs(document: Document, given: Given) -> Document:
    _index, volume = in_work(document)
    unit, across = document.choices.unit, min(volume.sides[:2])
    legs = Legs(
        size_in(given.text(LEG_HIGH), volume.height_mm, unit),
        size_in(given.text(LEG_THICK), across, unit),
        size_in(given.text(LEG_INSET), across, unit, none=True),
        given[RAKE],
        given[SPLAY],
        given.whole(LEGS_ARE) == 1,
    )
    return put_legs(document, legs)


def _wheels(document: Document, given: Given) -> Document:
    _index, volume = in_work(document)
    unit, axis = document.choices.unit, chosen_face(given) // 2
    if axis == 2:
        raise VolumeError(_("A wheel stands in an upright side: choose the front or the left."))
    long = axles_along(volume, axis)
    typed = [word for word in given.text(AXLES).replace(";", ",").split(",") if word.strip()]
    size = (
        size_in(given.text(WHEEL_DIAMETER), volume.height_mm, unit),
        size_in(given.text(WHEEL_WIDE), volume.sides[axis], unit),
    )
    middles = [place_in(word, long, 0.0, unit) for word in typed]
    return put_wheels(
        document,
        axis,
        middles,
        size,
        size_in(given.text(CLEARANCE), volume.height_mm, unit, none=True),
    )


def _lid(document: Document, given: Given) -> Document:
    _index, volume = in_work(document)
    unit = document.choices.unit
    lid = Lid(
        size_in(given.text(LID_THICK), volume.height_mm, unit),
        size_in(given.text(LID_OVER), volume.width_mm, unit, none=True),
        given[LID_OPEN],
        given.chosen(HINGE),
    )
    return put_lid(document, lid)


def _handle(document: Document, given: Given) -> Document:
    _index, volume = in_work(document)
    unit, face, upright = document.choices.unit, chosen_face(given), given.whole(RUNS) == 1
    long = size_in(given.text(HANDLE_LONG), face_extents(volume, face)[upright], unit)
    out, thick = (size_in(given.text(one), long, unit) for one in (HANDLE_OUT, HANDLE_THICK))
    middle = given[MIDDLE_ACROSS], given[MIDDLE_UP]
    return put_handle(document, face, middle, Handle(long, out, thick, upright))


def _louvre(document: Document, given: Given) -> Document:
    _index, volume = in_work(document)
    unit, face = document.choices.unit, chosen_face(given)
    wide, high = (
        size_in(given.text(one), extent, unit)
        for one, extent in zip((LOUVRE_WIDE, LOUVRE_HIGH), face_extents(volume, face), strict=True)
    )
    deep, thick = (size_in(given.text(one), high, unit) for one in (SLAT_DEEP, SLAT_THICK))
    behind = size_in(given.text(BEHIND), high, unit, none=True)
    louvre = Louvre(given.whole(SLATS), wide, high, thick, deep, given[SLOPE], behind)
    return put_louvre(document, face, (given[MIDDLE_ACROSS], given[MIDDLE_UP]), louvre)


ON_FACE = (ActsOn.FACE, ActsOn.VOLUME)

DEEDS = (
    Deed(
        "put legs",
        _("Legs or feet"),
        _("Four legs or feet under it, upright, raked or splayed; it stands on them."),
        _("legs"),
        _legs,
        (LEG_HIGH, LEG_THICK, LEG_INSET, RAKE, SPLAY, LEGS_ARE),
        finds=_("foot leg stand rake splay"),
    ),
    Deed(
        "put wheels",
        _("Wheels in arches"),
        _("Wheels in its sides with an arch over each, and their twins; it stands on them."),
        _("wheels in arches"),
        _wheels,
        (AXLES, WHEEL_DIAMETER, WHEEL_WIDE, CLEARANCE, FACE),
        finds=_("axle axles wheel arch"),
    ),
    Deed(
        "put lid",
        _("Lid"),
        _("A lid on its top, shut or open about an edge; it follows."),
        _("lid"),
        _lid,
        (LID_THICK, LID_OVER, LID_OPEN, HINGE),
        finds=_("cover flap hinge"),
    ),
    Deed(
        "put handle",
        _("Handle"),
        _("A bent bar on the face to take it by; it follows."),
        _("handle"),
        _handle,
        (HANDLE_LONG, HANDLE_OUT, HANDLE_THICK, RUNS, MIDDLE_ACROSS, MIDDLE_UP, FACE),
        ON_FACE,
        shows=front_face,
        finds=_("grip bail pull"),
    ),
    Deed(
        "put louvre",
        _("Louvre"),
        _("Sloping slats over a part of the face; they follow."),
        _("louvre"),
        _louvre,
        (
            *(SLATS, LOUVRE_WIDE, LOUVRE_HIGH, SLAT_DEEP, SLAT_THICK, SLOPE, BEHIND),
            *(MIDDLE_ACROSS, MIDDLE_UP, FACE),
        ),
        ON_FACE,
        shows=front_face,
        finds=_("vent grille slats blind"),
    ),
)

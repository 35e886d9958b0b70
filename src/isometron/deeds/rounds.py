"""Deeds of what is turned about an axle: diameter, bore, radii, wheels that belong together, and
the ellipses they are drawn with."""

import math
from collections.abc import Callable
from typing import Any

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
    of_volume,
    words,
)
from isometron.deeds.example import Example, wheel
from isometron.document.document import Document
from isometron.document.edits.places.places_along import write_shares
from isometron.document.edits.shapes import ellipses, profiles, rounding, spokes
from isometron.document.edits.volume_edits import set_side
from isometron.framework.box import AXES
from isometron.framework.volume import Volume
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.lengths import read_length, write_length
from isometron.words import _, quoted, said

MATTER = Matter.ROUNDS

JOINS = (said("straight"), said("smooth"))

SLIDE = length(
    said("slide along the axle"), _("How far it slides along its axle."), 50.0, label=_("by")
)
SPOKES = Parameter(said("spokes"), _("How many spokes between hub and rim."), Measured.COUNT, 6)
SPOKE_WIDTH = length(said("spoke width"), _("How broad each spoke is."), 30.0, label=_("wide"))
SPOKES_ARE = choice(
    said("spokes drawn as"),
    _("The sectors between them open, or only drawn on both sides."),
    (said("open between"), said("drawn")),
    label=_("as"),
)
TRACK = length(said("track"), _("From the middle of one wheel to the middle of the other."), 1200.0)
FURTHER = words(
    said("further axles"),
    _("Where further axles lie, as lengths or modules: 1.9 m, or 3 w, 4.2 w."),
    label=_("at"),
)


def _turned(what: Callable[[Volume], Any]) -> Callable[[Document, Given], Any]:
    """A value of a turned volume in work, for a parameter's `now`; None of another."""
    return of_volume(lambda volume: None if rounding.turned_of(volume) is None else what(volume))


def _length_now(volume: Volume) -> float | None:
    axle = volume.shape.axle
    return None if axle is None else volume.sides[axle]


def _set_length(document: Document, mm: float) -> Document:
    axle = None if document.volume is None else document.volume.shape.axle
    return document if axle is None else set_side(document, axle, mm)


def _bore(volume: Volume) -> float | None:
    shape = rounding.turned_of(volume)
    return None if shape is None else 2 * shape.bore * rounding.radius_of(volume)


def _times(text: str) -> float:
    """How many modules a person typed. Raises LengthError with the sentence to show."""
    try:
        number = float(text)
    except ValueError:
        number = math.nan
    if not math.isfinite(number):
        raise LengthError(
            _("“{text}” is no number of modules: type, say, 3.2 w.").format(text=quoted(text))
        )
    return number


def _lengths(document: Document, text: str) -> list[float]:
    """Lengths or modules a person typed, in a row."""
    names = {module.name: module.mm for module in document.modules}
    found = []
    for word in text.replace(";", ",").split(","):
        number, _space, name = word.strip().partition(" ")
        if name.strip() in names:
            found.append(_times(number) * names[name.strip()])
        elif word.strip():
            found.append(read_length(word, document.choices.unit))
    return found


def _rings_now(document: Document, given: Given) -> str | None:
    volume = document.volume
    shape = rounding.turned_of(volume)
    if shape is None or volume is None:
        return None
    radius, unit = rounding.radius_of(volume), document.choices.unit
    sizes = sorted({round(2 * r * radius, 6) for _at, r in shape.rings}, reverse=True)
    return ", ".join(write_length(d, unit, with_unit=False) for d in sizes)


def _stations_now(document: Document, given: Given) -> str | None:
    volume = document.volume
    if volume is None or rounding.turned_of(volume) is None:
        return None
    unit = document.choices.unit
    return ", ".join(
        f"{write_length(h, unit, with_unit=False)} {write_length(r, unit, with_unit=False)}"
        for h, r in rounding.stations_mm(volume)
    )


def _set_stations(document: Document, text: str) -> Document:
    volume = document.volume
    shape = rounding.turned_of(volume)
    if volume is None or shape is None:
        raise VolumeError(_("No turned volume is picked: pick one first."))
    sides = volume.sides[shape.axis], rounding.radius_of(volume)
    stations = rounding.read_stations(text, document.choices.unit, sides)
    return rounding.set_stations(document, stations)


def _join_now(volume: Volume) -> int:
    shape = rounding.turned_of(volume)
    join = "" if shape is None else shape.join
    return JOINS.index(join) if join in JOINS else 1


def _guides(key: str, tip: str, label: str, *, sizes: bool) -> Deed:
    def now(document: Document, given: Given) -> str:
        kit = document.kit
        return ellipses.write_list(kit.guide_sizes_mm if sizes else kit.guide_degrees)

    def edit(document: Document, text: str) -> Document:
        values = ellipses.read_list(text) if text.strip() else ()
        if sizes:
            return ellipses.set_guides(document, None, values)
        return ellipses.set_guides(document, values, None)

    guides = words(key, tip, label=label, now=now)
    return in_place(guides, edit, "20, 35", name=_("ellipse guides"), acts_on=ROUND, shows=wheel)


def _spokes(document: Document, given: Given) -> Document:
    cut = given.whole(SPOKES_ARE) == 0
    return spokes.set_spokes(document, given.whole(SPOKES), given[SPOKE_WIDTH], cut=cut)


ROUND = (ActsOn.ROUND,)

DEEDS = (
    in_place(
        length(
            said("diameter"),
            _("The largest diameter; the foot stays on the ground."),
            now=_turned(lambda volume: 2 * rounding.radius_of(volume)),
        ),
        rounding.set_diameter,
        200.0,
        acts_on=ROUND,
        shows=wheel,
    ),
    in_place(
        length(
            said("length along the axle"),
            _("Width of a wheel, height of what stands upright."),
            label=_("along axle"),
            now=_turned(_length_now),
        ),
        _set_length,
        60.0,
        acts_on=ROUND,
        shows=wheel,
    ),
    in_place(
        length(
            said("bore"),
            _("Diameter of a hole along the axle; 0 fills it."),
            now=_turned(_bore),
        ),
        rounding.set_bore,
        30.0,
        acts_on=ROUND,
        shows=wheel,
    ),
    in_place(
        choice(
            said("axle runs along"),
            _("The own direction the axle runs along."),
            AXES,
            label=_("axle"),
            now=_turned(lambda volume: volume.shape.axle),
        ),
        lambda document, axis: rounding.turn_axle(document, round(axis)),
        2,
        name=_("lay the axle"),
        acts_on=ROUND,
        shows=wheel,
    ),
    in_place(
        words(
            said("inner circles"),
            _("Diameters of circles on both ends, such as 38, 12."),
            label=_("rim, hub"),
            now=_rings_now,
        ),
        lambda document, text: rounding.set_rings(document, _lengths(document, text)),
        "4, 1",
        name=_("rim and hub"),
        acts_on=ROUND,
        shows=wheel,
    ),
    in_place(
        words(
            said("heights and radii"),
            _("Heights with radii from the base up: 0 40, 30 45, 80 20, or 0 100%, 1/2 60%."),
            label=_("radii"),
            now=_stations_now,
        ),
        _set_stations,
        "0 100%, 1/2 60%, 100% 80%",
        acts_on=ROUND,
        shows=wheel,
        finds=_("turned lathe profile stations"),
    ),
    in_place(
        choice(
            said("joined"),
            _("How one radius runs into the next."),
            JOINS,
            now=_turned(_join_now),
        ),
        lambda document, number: rounding.set_join(document, JOINS[round(number)]),
        1,
        name=_("join"),
        acts_on=ROUND,
        shows=wheel,
    ),
    in_place(
        words(
            said("cross-contours of the round"),
            _("Where cross-contours are drawn: a number, or places such as 1/3 50% 3cm."),
            label=_("contours"),
            now=_turned(lambda volume: write_shares(profiles.contours_of(volume))),
        ),
        lambda document, text: profiles.contours_as_typed(text)(document),
        "3",
        name=_("cross-contours"),
        acts_on=ROUND,
        shows=wheel,
    ),
    Deed(
        "slide along axle",
        _("Slide on axle"),
        _("Slide it along its own axle."),
        _("slide along the axle"),
        lambda document, given: rounding.slide_along_axle(document, given[SLIDE]),
        (SLIDE,),
        ROUND,
        shows=wheel,
    ),
    Deed(
        "set spokes",
        _("Spokes"),
        _("Set spokes between hub and rim."),
        _("set spokes"),
        _spokes,
        (SPOKES, SPOKE_WIDTH, SPOKES_ARE),
        ROUND,
        shows=lambda: Example(wheel().document, None, {SPOKE_WIDTH.key: 6.0}),
    ),
    Deed(
        "pair wheel",
        _("Pair it"),
        _("Set the other wheel of this axle; it follows."),
        _("pair the wheel"),
        lambda document, given: rounding.pair_wheel(document, given[TRACK]),
        (TRACK,),
        ROUND,
        shows=lambda: Example(wheel().document, None, {TRACK.key: 150.0}),
        finds=_("second wheel axle track"),
    ),
    Deed(
        "add axles",
        _("Further axles"),
        _("Add wheels on further axles; they keep the wheelbase."),
        _("add further axles"),
        lambda document, given: rounding.add_axles(
            document, _lengths(document, given.text(FURTHER))
        ),
        (FURTHER,),
        ROUND,
        shows=lambda: Example(wheel().document, None, {FURTHER.key: "300 mm"}),
        finds=_("wheelbase wheels"),
    ),
    _guides(
        said("guide degrees"),
        _("Degrees of your ellipse guides, such as 10-80/5."),
        _("guides °"),
        sizes=False,
    ),
    _guides(
        said("guide sizes"),
        _("Long axes of your ellipse guides in mm, such as 4-40/2, 50."),
        _("guides mm"),
        sizes=True,
    ),
    Deed(
        "ellipse aids",
        _("Ellipse aids"),
        _("Draw its square, diagonals, axes and axle on the sheet, or leave them out."),
        _("ellipse aids"),
        lambda document, given: ellipses.show_ellipse_aids(
            document, not document.choices.ellipse_aids
        ),
        (),
        ROUND,
        shows=wheel,
    ),
)

"""The Axle page: what is turned about an axle, wheels, and wheels that belong together."""

import math

from isometron.document.document import Document
from isometron.document.edits.shapes import rounding, spokes
from isometron.document.edits.volume_edits import set_side
from isometron.framework.box import AXES
from isometron.perspective.errors import LengthError
from isometron.perspective.lengths import read_length, write_length
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import CountField, LengthField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import Button, Choosing, Entry, Heading, Measure, Rest, Row, Words
from isometron.ui.parts.wishes import Edit
from isometron.words import _, quoted, said


def _axle(document: Document) -> int | None:
    volume = document.volume
    return None if volume is None else volume.shape.axle


def _diameter(document: Document) -> float | None:
    axle, volume = _axle(document), document.volume
    return None if axle is None or volume is None else 2 * rounding.radius_of(volume)


def _length(document: Document) -> float | None:
    axle, volume = _axle(document), document.volume
    return None if axle is None or volume is None else volume.sides[axle]


def _set_length(document: Document, mm: float) -> Document:
    axle = _axle(document)
    return document if axle is None else set_side(document, axle, mm)


def _bore(document: Document) -> float | None:
    shape, volume = rounding.turned_of(document.volume), document.volume
    if shape is None or volume is None:
        return None
    return 2 * shape.bore * rounding.radius_of(volume)


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


def _lengths(page: Page, text: str) -> list[float]:
    """Lengths or modules a person typed, in a row."""
    modules = page.shown.document.modules if page.shown else ()
    names = {module.name: module.mm for module in modules}
    found = []
    for word in text.replace(";", ",").split(","):
        number, _space, name = word.strip().partition(" ")
        if name.strip() in names:
            found.append(_times(number) * names[name.strip()])
        elif word.strip():
            found.append(read_length(word, page.unit))
    return found


def _rings(page: Page, text: str) -> Edit:
    diameters = _lengths(page, text)
    return lambda d: rounding.set_rings(d, diameters)


def _rings_now(shown: Shown) -> str | None:
    volume = shown.document.volume
    shape = rounding.turned_of(volume)
    if shape is None or volume is None:
        return None
    radius, unit = rounding.radius_of(volume), shown.document.choices.unit
    sizes = sorted({round(2 * r * radius, 6) for _at, r in shape.rings}, reverse=True)
    return ", ".join(write_length(d, unit, with_unit=False) for d in sizes)


def _slide(page: Page) -> Edit:
    mm = page.number("slide along the axle")
    return lambda d: rounding.slide_along_axle(d, mm)


def _pair(page: Page) -> Edit:
    track = page.number("track")
    return lambda d: rounding.pair_wheel(d, track)


def _spokes(page: Page) -> Edit:
    count, wide = round(page.number("spokes")), page.number("spoke width")
    cut = page.chosen("spokes drawn as") == 0
    return lambda d: spokes.set_spokes(d, count, wide, cut=cut)


def _axles(page: Page) -> Edit:
    offsets = _lengths(page, page.text("further axles"))
    return lambda d: rounding.add_axles(d, offsets)


class AxlePage(Page):
    """Diameter, width along the axle, bore; rims and hubs; pairs and axles."""

    ROWS = (
        Row(
            _("diameter"),
            Entry(
                said("diameter"),
                _("The largest diameter; the foot stays on the ground."),
                LengthField,
                _diameter,
                rounding.set_diameter,
            ),
        ),
        Row(
            _("along the axle"),
            Entry(
                said("length along the axle"),
                _("Width of a wheel, height of what stands upright."),
                LengthField,
                _length,
                _set_length,
            ),
        ),
        Row(
            _("bore"),
            Entry(
                said("bore"),
                _("Diameter of a hole along the axle; 0 fills it."),
                LengthField,
                _bore,
                rounding.set_bore,
            ),
        ),
        Row(
            _("axle along"),
            Choosing(
                said("axle runs along"),
                _("The own direction the axle runs along."),
                [_(axis) for axis in AXES],
                _("lay the axle"),
                lambda axis: lambda d: rounding.turn_axle(d, axis),
                now=lambda shown: _axle(shown.document),
            ),
        ),
        Row(
            "",
            Measure(
                said("slide along the axle"),
                _("How far it slides along its axle."),
                LengthField,
                50.0,
            ),
            Button(
                _("Slide it"),
                _("Slide it along its own axle."),
                _("slide along the axle"),
                _slide,
            ),
        ),
        Heading(_("Rim and hub")),
        Row(
            _("diameters"),
            Words(
                said("inner circles"),
                _("Diameters of circles on both ends, such as 38, 12."),
                _rings_now,
                _("rim and hub"),
                _rings,
            ),
        ),
        Row(
            _("spokes, wide"),
            Measure(said("spokes"), _("How many spokes between hub and rim."), CountField, 6),
            Measure(said("spoke width"), _("How broad each spoke is."), LengthField, 30.0),
        ),
        Row(
            "",
            Choosing(
                said("spokes drawn as"),
                _("The sectors between them open, or only drawn on both sides."),
                [_("open between"), _("drawn")],
            ),
            Button(_("Set spokes"), _("Set these spokes."), _("set spokes"), _spokes),
        ),
        Heading(_("Wheels that belong together")),
        Row(
            _("track"),
            Measure(
                said("track"),
                _("From the middle of one wheel to the middle of the other."),
                LengthField,
                1200.0,
            ),
            Button(
                _("Pair it"),
                _("Set the other wheel of this axle; it follows."),
                _("pair the wheel"),
                _pair,
            ),
        ),
        Row(
            _("axles at"),
            Words(
                said("further axles"),
                _("Where further axles lie, as lengths or modules: 1.9 m, or 3 w, 4.2 w."),
            ),
            Button(
                _("Add the wheels"),
                _("Add wheels on further axles; they keep the wheelbase."),
                _("add further axles"),
                _axles,
            ),
        ),
        Rest(),
    )

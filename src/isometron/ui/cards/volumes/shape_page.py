"""The Shape page: leaning sides, plan outline, thickness, and what is cut away."""

from functools import partial

from isometron.deeds import shapes as of_shape
from isometron.deeds.table import deed
from isometron.document.document import Document
from isometron.document.edits.shapes import bending, building_parts, shaping
from isometron.framework.kinds.kind import RECTANGLE
from isometron.perspective.lengths import TypedAngle, write_length
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import LeanField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Entry,
    Heading,
    Rest,
    Row,
    Told,
    Words,
    asking,
    doing,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said


def _lean(side: str) -> Entry:
    def shown(document: Document) -> float | None:
        volume = document.volume
        leans = None if volume is None else volume.shape.leans
        return None if leans is None else leans[shaping.LEANS.index(side)]

    def lean(document: Document, value: float | TypedAngle) -> Document:
        if isinstance(value, TypedAngle):
            return shaping.lean_by_angle(document, side, value.deg)
        return shaping.lean(document, side, value)

    words = _("lean {side}").format(side=_(side))
    tip = _("How far the upper edge lies inside the lower one: a length, or an angle such as 12°.")
    return Entry(f"lean {side}", tip, LeanField, shown, lean, words=words)


def _outline_in_words(shown: Shown) -> str | None:
    volume = shown.document.volume
    if volume is None:
        return None
    outline = volume.shape.outline
    if outline is None or outline.corners == RECTANGLE:
        return ""
    unit = shown.document.choices.unit
    corners = [(x * volume.width_mm, y * volume.depth_mm) for x, y in outline.corners]
    return ", ".join(
        " ".join(write_length(v, unit, with_unit=False) for v in corner) for corner in corners
    )


def _standing_on(page: Page, text: str) -> Edit:
    corners = shaping.read_outline(text, page.unit)
    return partial(shaping.set_own_outline, corners_mm=corners)


def _steps_told(page: Page) -> str:
    """Tread and riser, before the steps are made."""
    volume = None if page.shown is None else page.shown.document.volume
    count, side = (
        round(page.number("steps")),
        of_shape.RISES_FROM.choices[page.chosen("steps from")],
    )
    if volume is None or count < 1:
        return ""
    tread, riser = building_parts.step_sizes(volume, count, side)
    return _("Tread {tread}, riser {riser}: for sketching; local codes decide.").format(
        tread=write_length(tread, page.unit), riser=write_length(riser, page.unit)
    )


def _bays_told(page: Page) -> str:
    """How wide each bay will be."""
    volume = None if page.shown is None else page.shown.document.volume
    count = round(page.number("bays"))
    if volume is None or count < 1:
        return ""
    opening = building_parts.bay_opening(volume.width_mm, count, page.number("pier"))
    if opening <= 0:
        return _("Its piers leave no bays.")
    told = _("{count} bays, each {wide} wide between {piers} piers")
    return told.format(count=count, wide=write_length(opening, page.unit), piers=count + 1)


def _bar_through(page: Page, text: str) -> Edit:
    section = of_shape.section_of(page.given(deed("change section")))
    return lambda d: bending.bar_through(d, text, section)


def _bar_points(shown: Shown) -> str | None:
    volume = shown.document.volume
    if volume is None:
        return None
    return bending.points_in_words(volume, shown.document.choices.unit)


class ShapePage(Page):
    """Leaning sides, plan outline and thickness."""

    ROWS = (
        Heading(_("Upper sides lean inward by")),
        Row(_("front, back"), _lean("front"), _lean("back")),
        Row(_("left, right"), _lean("left"), _lean("right")),
        Row("", doing("make ridge"), doing("make tip"), doing("whole box")),
        Heading(_("Plan outline")),
        Row("", asking(of_shape.OUTLINE), doing("stand on outline")),
        Row(
            _("own corners"),
            Words(
                said("own outline"),
                _("Plan corners in order round, such as 0 0, 60 0, 60 40, 0 25."),
                _outline_in_words,
                _("own outline"),
                _standing_on,
            ),
        ),
        Row(_("corners"), asking(of_shape.CORNERS), doing("chamfer plan"), doing("round plan")),
        Heading(_("Thickness")),
        Row("", asking(of_shape.STAYS), asking(of_shape.THICKNESS), doing("thin")),
        Heading(_("Roof and steps")),
        Row(_("ridge along"), asking(of_shape.RIDGE), asking(of_shape.PITCH)),
        Row(
            _("over, thick"),
            asking(of_shape.OVERHANG),
            asking(of_shape.ROOFING),
            doing("set roof"),
        ),
        Row(
            _("steps from"),
            asking(of_shape.RISES_FROM),
            asking(of_shape.STEPS),
            doing("make steps"),
        ),
        Row("", Told(key="steps told", of_page=_steps_told)),
        Heading(_("Bays")),
        Row(_("bays, pier"), asking(of_shape.BAYS), asking(of_shape.PIER)),
        Row(
            _("springing"),
            asking(of_shape.SPRINGING),
            asking(of_shape.HEAD),
            doing("make bays"),
        ),
        Row("", Told(key="bays told", of_page=_bays_told)),
        Heading(_("Bent bar")),
        Row(_("section"), asking(of_shape.BAR), asking(of_shape.THICK)),
        Row(_("broad, bend"), asking(of_shape.BROAD), asking(of_shape.BEND)),
        Row(_("line"), asking(of_shape.LINE), doing("bend bar")),
        Row(_("waves"), asking(of_shape.WAVES)),
        Row(
            _("points"),
            Words(
                said("points of the bar"),
                _("Across, away and up, such as 0 0 0, 30 0 0, 30 0 20."),
                _bar_points,
                _("bar through points"),
                _bar_through,
            ),
        ),
        Row("", doing("change section")),
        Rest(),
    )

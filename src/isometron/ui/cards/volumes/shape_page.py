"""The Shape page: leaning sides, plan outline, thickness, and what is cut away."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits.shapes import bending, building_parts, shaping
from isometron.framework.kinds.kind import RECTANGLE
from isometron.perspective.lengths import write_length
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import AngleField, CountField, LeanField, LengthField, TypedAngle
from isometron.ui.parts.page import FACE_OF, SIDES, Page
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Entry,
    Heading,
    Measure,
    Rest,
    Row,
    Told,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _


def _lean(side: str) -> Entry:
    def shown(document: Document) -> float | None:
        volume = document.volume
        leans = None if volume is None else volume.shape.leans
        return None if leans is None else leans[shaping.LEANS.index(side)]

    def lean(document: Document, value: float | TypedAngle) -> Document:
        if isinstance(value, TypedAngle):
            return shaping.lean_by_angle(document, side, value.deg)
        return shaping.lean(document, side, value)

    tip = _("How far the upper edge lies inside the lower one: a length, or an angle such as 12°.")
    return Entry(_("lean {side}").format(side=_(side)), tip, LeanField, shown, lean)


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


def _stand_on_outline(page: Page) -> Edit:
    outline = list(shaping.OUTLINES.values())[page.chosen(_("plan outline"))]
    return lambda d: shaping.set_outline(d, outline)


def _corners(page: Page, *, rounded: bool) -> Edit:
    mm = page.number(_("plan corners"))
    return lambda d: shaping.cut_plan_corners(d, mm, rounded=rounded)


def _thin(page: Page) -> Edit:
    face = FACE_OF[SIDES[page.chosen(_("side that stays"))]]
    mm = page.number(_("thickness"))
    return lambda d: shaping.give_thickness(d, face, mm)


def _roof(page: Page) -> Edit:
    axis, pitch = page.chosen(_("ridge along")), page.number(_("roof pitch"))
    over, thick = page.number(_("overhang")), page.number(_("roof thickness"))
    return lambda d: building_parts.set_roof(d, axis, pitch, over, thick)


def _steps(page: Page) -> Edit:
    side, count = FROM[page.chosen(_("steps from"))], round(page.number(_("steps")))
    return lambda d: building_parts.make_stairs(d, count, side)


def _steps_told(page: Page) -> str:
    """Tread and riser, before the steps are made."""
    volume = None if page.shown is None else page.shown.document.volume
    count = round(page.number(_("steps")))
    if volume is None or count < 1:
        return ""
    side = FROM[page.chosen(_("steps from"))]
    tread, riser = building_parts.step_sizes(volume, count, side)
    return _("Tread {tread}, riser {riser}: for sketching; local codes decide.").format(
        tread=write_length(tread, page.unit), riser=write_length(riser, page.unit)
    )


def _bays(page: Page) -> Edit:
    count, pier = round(page.number(_("bays"))), page.number(_("pier"))
    spring, arched = page.number(_("springing")), page.chosen(_("head of a bay")) == 0
    return lambda d: building_parts.make_bays(d, count, pier, spring, arched=arched)


def _bays_told(page: Page) -> str:
    """How wide each bay will be."""
    volume = None if page.shown is None else page.shown.document.volume
    count = round(page.number(_("bays")))
    if volume is None or count < 1:
        return ""
    opening = building_parts.bay_opening(volume.width_mm, count, page.number(_("pier")))
    if opening <= 0:
        return _("Its piers leave no bays.")
    told = _("{count} bays, each {wide} wide between {piers} piers")
    return told.format(count=count, wide=write_length(opening, page.unit), piers=count + 1)


def _section(page: Page) -> bending.Section:
    thick, wide = page.number(_("bar thick")), page.number(_("bar broad"))
    round_one = page.chosen(_("section of the bar")) == 0
    return bending.Section(thick, wide, page.number(_("bend")), round_one)


def _bar(page: Page) -> Edit:
    shape, section = bending.SHAPES[page.chosen(_("shape of the bar"))], _section(page)
    waves = round(page.number(_("waves")))
    return lambda d: bending.make_bar(d, shape, section, waves)


def _bar_section(page: Page) -> Edit:
    section = _section(page)
    return lambda d: bending.change_section(d, section)


def _bar_through(page: Page, text: str) -> Edit:
    section = _section(page)
    return lambda d: bending.bar_through(d, text, section)


def _bar_points(shown: Shown) -> str | None:
    volume = shown.document.volume
    if volume is None:
        return None
    return bending.points_in_words(volume, shown.document.choices.unit)


FROM = ("front", "back", "left", "right")


class ShapePage(Page):
    """Leaning sides, plan outline and thickness."""

    ROWS = (
        Heading(_("Upper sides lean inward by")),
        Row(_("front, back"), _lean("front"), _lean("back")),
        Row(_("left, right"), _lean("left"), _lean("right")),
        Row(
            "",
            Button(
                _("Ridge"),
                _("Front and back lean until they meet in a ridge."),
                _("make a ridge"),
                lambda page: lambda d: shaping.make_ridge(d, 0),
            ),
            Button(
                _("Tip"),
                _("All four sides lean until they meet in a tip."),
                _("make a tip"),
                lambda page: shaping.make_pyramid,
            ),
            Button(
                _("Whole box"),
                _("The whole box again, without leans, outline or cuts."),
                _("make it a whole box"),
                lambda page: shaping.make_box,
            ),
        ),
        Heading(_("Plan outline")),
        Row(
            "",
            Choosing(
                _("plan outline"),
                _("The outline the volume stands on."),
                [_(name) for name in shaping.OUTLINES],
            ),
            Button(
                _("Stand on it"),
                _("Make the volume a prism on this outline."),
                _("plan outline"),
                _stand_on_outline,
            ),
        ),
        Row(
            _("own corners"),
            Words(
                _("own outline"),
                _("Plan corners in order round, such as 0 0, 60 0, 60 40, 0 25."),
                _outline_in_words,
                _("own outline"),
                _standing_on,
            ),
        ),
        Row(
            _("corners"),
            Measure(
                _("plan corners"), _("How much is taken off every plan corner."), LengthField, 20.0
            ),
            Button(
                _("Chamfer"),
                _("Chamfer every plan corner."),
                _("chamfer"),
                partial(_corners, rounded=False),
            ),
            Button(
                _("Round"),
                _("Round every plan corner."),
                _("round the corners"),
                partial(_corners, rounded=True),
            ),
        ),
        Heading(_("Thickness")),
        Row(
            "",
            Choosing(_("side that stays"), _("The side that stays."), [_(side) for side in SIDES]),
            Measure(_("thickness"), _("How thick a slab, leg or slat is left."), LengthField, 18.0),
            Button(
                _("Thin it"),
                _("Thin the volume to a slab, leg or slat at that side."),
                _("give thickness"),
                _thin,
            ),
        ),
        Heading(_("Roof and steps")),
        Row(
            _("ridge along"),
            Choosing(_("ridge along"), _("Which way the ridge runs."), [_("width"), _("depth")]),
            Measure(_("roof pitch"), _("How steep the roof is."), AngleField, 35.0),
        ),
        Row(
            _("over, thick"),
            Measure(_("overhang"), _("How far the roof stands out all round."), LengthField, 20.0),
            Measure(_("roof thickness"), _("Square to its slope."), LengthField, 10.0),
            Button(
                _("Set a roof"),
                _("Set a gable roof on it; the walls at both ends reach the ridge."),
                _("set a roof"),
                _roof,
            ),
        ),
        Row(
            _("steps from"),
            Choosing(
                _("steps from"),
                _("The side the flight of steps rises from."),
                [_(side) for side in FROM],
            ),
            Measure(_("steps"), _("How many steps, the top one too."), CountField, 5),
            Button(_("Steps"), _("Make it a flight of steps."), _("make steps"), _steps),
        ),
        Row("", Told(key="steps told", of_page=_steps_told)),
        Heading(_("Bays")),
        Row(
            _("bays, pier"),
            Measure(_("bays"), _("How many, along its width."), CountField, 4),
            Measure(
                _("pier"), _("How broad the piers between and beside are."), LengthField, 300.0
            ),
        ),
        Row(
            _("springing"),
            Measure(_("springing"), _("Where arch or lintel begins."), LengthField, 1000.0),
            Choosing(_("head of a bay"), _("Round or square."), [_("arched"), _("square")]),
            Button(_("Bays"), _("Make it a wall of these bays."), _("make bays"), _bays),
        ),
        Row("", Told(key="bays told", of_page=_bays_told)),
        Heading(_("Bent bar")),
        Row(
            _("section"),
            Choosing(
                _("section of the bar"), _("A tube, or with corners."), [_("round"), _("cornered")]
            ),
            Measure(_("bar thick"), _("Its thickness, or its diameter."), LengthField, 30.0),
        ),
        Row(
            _("broad, bend"),
            Measure(_("bar broad"), _("How broad one with corners is."), LengthField, 30.0),
            Measure(_("bend"), _("Radius of its bends; 0 for mitred corners."), LengthField, 60.0),
        ),
        Row(
            _("line"),
            Choosing(
                _("shape of the bar"),
                _("How its line runs through the box."),
                [_(bending.SHAPE_WORDS[shape]) for shape in bending.SHAPES],
            ),
            Button(_("Bend it"), _("Make it a bent bar of this line."), _("bend a bar"), _bar),
        ),
        Row(
            _("waves"),
            Measure(_("waves"), _("How often a wave goes up and down."), CountField, 3),
        ),
        Row(
            _("points"),
            Words(
                _("points of the bar"),
                _("Across, away and up, such as 0 0 0, 30 0 0, 30 0 20."),
                _bar_points,
                _("bar through points"),
                _bar_through,
            ),
        ),
        Row(
            "",
            Button(
                _("Give it this section"),
                _("Give the bar in work the section, breadth and bend above; its line stays."),
                _("change the section"),
                _bar_section,
            ),
        ),
        Rest(),
    )

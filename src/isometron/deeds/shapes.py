"""Deeds of shape: leaning sides, plan outline, thickness, roofs, steps, bays and bent bars."""

from functools import partial
from typing import Any

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    of_volume,
    plain,
    words,
)
from isometron.deeds.example import Example, bar, box, box_with, tip
from isometron.document.document import Document
from isometron.document.edits.shapes import bending, building_parts, shaping
from isometron.framework.box import FACE_OF, SIDES
from isometron.framework.kinds.kind import RECTANGLE
from isometron.perspective.lengths import TypedAngle, write_length
from isometron.words import _, said

MATTER = Matter.SHAPE

OUTLINE = Parameter(
    said("plan outline"),
    _("The outline the volume stands on."),
    Measured.CHOICE,
    choices=tuple(shaping.OUTLINES),
    label=_("outline"),
)
CORNERS = Parameter(
    said("plan corners"),
    _("How much is taken off every plan corner."),
    Measured.LENGTH,
    20.0,
    label=_("off"),
)
STAYS = Parameter(
    said("side that stays"),
    _("The side that stays."),
    Measured.CHOICE,
    choices=SIDES,
    label=_("at"),
)
THICKNESS = Parameter(
    said("thickness"),
    _("How thick a slab, leg or slat is left."),
    Measured.LENGTH,
    18.0,
    label=_("thick"),
)
RIDGE = Parameter(
    said("ridge along"),
    _("Which way the ridge runs."),
    Measured.CHOICE,
    choices=(said("width"), said("depth")),
    label=_("ridge"),
)
PITCH = Parameter(
    said("roof pitch"), _("How steep the roof is."), Measured.ANGLE, 35.0, label=_("pitch")
)
OVERHANG = Parameter(
    said("overhang"),
    _("How far the roof stands out all round."),
    Measured.LENGTH,
    20.0,
    label=_("over"),
)
ROOFING = Parameter(
    said("roof thickness"), _("Square to its slope."), Measured.LENGTH, 10.0, label=_("thick")
)
RISES_FROM = Parameter(
    said("steps from"),
    _("The side the flight of steps rises from."),
    Measured.CHOICE,
    choices=(said("front"), said("back"), said("left"), said("right")),
    label=_("from"),
)
STEPS = Parameter(said("steps"), _("How many steps, the top one too."), Measured.COUNT, 5)
BAYS = Parameter(said("bays"), _("How many, along its width."), Measured.COUNT, 4)
PIER = Parameter(
    said("pier"), _("How broad the piers between and beside are."), Measured.LENGTH, 300.0
)
SPRINGING = Parameter(said("springing"), _("Where arch or lintel begins."), Measured.LENGTH, 1000.0)
HEAD = Parameter(
    said("head of a bay"),
    _("Round or square."),
    Measured.CHOICE,
    choices=(said("arched"), said("square")),
    label=_("heads"),
)
BAR = Parameter(
    said("section of the bar"),
    _("A tube, or with corners."),
    Measured.CHOICE,
    choices=(said("round"), said("cornered")),
    label=_("section"),
)
THICK = Parameter(
    said("bar thick"), _("Its thickness, or its diameter."), Measured.LENGTH, 30.0, label=_("thick")
)
BROAD = Parameter(
    said("bar broad"), _("How broad one with corners is."), Measured.LENGTH, 30.0, label=_("broad")
)
BEND = Parameter(
    said("bend"), _("Radius of its bends; 0 for mitred corners."), Measured.LENGTH, 60.0
)
LINE = Parameter(
    said("shape of the bar"),
    _("How its line runs through the box."),
    Measured.CHOICE,
    choices=tuple(bending.SHAPE_WORDS[shape] for shape in bending.SHAPES),
    label=_("line"),
)
WAVES = Parameter(said("waves"), _("How often a wave goes up and down."), Measured.COUNT, 3)
SECTION = (BAR, THICK, BROAD, BEND)


LEANS = {
    side: Parameter(
        key,
        _("How far the upper edge lies inside the lower one: a length, or an angle such as 12°."),
        Measured.LEAN,
        label=_(side),
        now=of_volume(partial(lambda volume, n: (volume.shape.leans or (0.0,) * 4)[n], n=number)),
    )
    for number, (side, key) in enumerate(
        zip(
            shaping.LEANS,
            (said("lean front"), said("lean back"), said("lean left"), said("lean right")),
            strict=True,
        )
    )
}
OWN_OUTLINE = words(
    said("own outline"),
    _("Plan corners in order round, such as 0 0, 60 0, 60 40, 0 25."),
    label=_("corners"),
    now=lambda document, given: _outline_in_words(document),
)
POINTS = words(
    said("points of the bar"),
    _("Across, away and up, such as 0 0 0, 30 0 0, 30 0 20."),
    label=_("points"),
    now=lambda document, given: (
        None
        if document.volume is None
        else bending.points_in_words(document.volume, document.choices.unit)
    ),
)


def _outline_in_words(document: Document) -> str | None:
    volume = document.volume
    if volume is None:
        return None
    outline = volume.shape.outline
    if outline is None or outline.corners == RECTANGLE:
        return ""
    corners = [(x * volume.width_mm, y * volume.depth_mm) for x, y in outline.corners]
    unit = document.choices.unit
    return ", ".join(
        " ".join(write_length(v, unit, with_unit=False) for v in corner) for corner in corners
    )


def _lean(document: Document, given: Given) -> Document:
    """Every lean that was typed anew."""
    for side, lean in LEANS.items():
        value: Any = given.typed(lean)
        was = lean.now(document, given) if lean.now else None
        if isinstance(value, TypedAngle):
            document = shaping.lean_by_angle(document, side, value.deg)
        elif value != was:
            document = shaping.lean(document, side, value)
    return document


def _own_outline(document: Document, given: Given) -> Document:
    corners = shaping.read_outline(given.text(OWN_OUTLINE), document.choices.unit)
    return shaping.set_own_outline(document, corners_mm=corners)


def _steps_told(document: Document, given: Given) -> str:
    """Tread and riser, before the steps are made."""
    volume, count = document.volume, given.whole(STEPS)
    if volume is None or count < 1:
        return ""
    tread, riser = building_parts.step_sizes(volume, count, given.chosen(RISES_FROM))
    return _("Tread {tread}, riser {riser}: for sketching; local codes decide.").format(
        tread=write_length(tread, document.choices.unit),
        riser=write_length(riser, document.choices.unit),
    )


def _bays_told(document: Document, given: Given) -> str:
    """How wide each bay will be."""
    volume, count = document.volume, given.whole(BAYS)
    if volume is None or count < 1:
        return ""
    opening = building_parts.bay_opening(volume.width_mm, count, given[PIER])
    if opening <= 0:
        return _("Its piers leave no bays.")
    told = _("{count} bays, each {wide} wide between {piers} piers")
    return told.format(
        count=count, wide=write_length(opening, document.choices.unit), piers=count + 1
    )


def section_of(given: Given) -> bending.Section:
    """The section of a bar."""
    return bending.Section(given[THICK], given[BROAD], given[BEND], given.whole(BAR) == 0)


def _outline(document: Document, given: Given) -> Document:
    return shaping.set_outline(document, shaping.OUTLINES[given.chosen(OUTLINE)])


def _thin(document: Document, given: Given) -> Document:
    return shaping.give_thickness(document, FACE_OF[given.chosen(STAYS)], given[THICKNESS])


def _roof(document: Document, given: Given) -> Document:
    over, thick = given[OVERHANG], given[ROOFING]
    return building_parts.set_roof(document, given.whole(RIDGE), given[PITCH], over, thick)


def _bays(document: Document, given: Given) -> Document:
    count, arched = given.whole(BAYS), given.whole(HEAD) == 0
    return building_parts.make_bays(document, count, given[PIER], given[SPRINGING], arched=arched)


def _bar(document: Document, given: Given) -> Document:
    shape = bending.SHAPES[given.whole(LINE)]
    return bending.make_bar(document, shape, section_of(given), given.whole(WAVES))


DEEDS = (
    Deed(
        "lean sides",
        _("Lean its sides"),
        _("Let the upper sides lean inward, each by a length or an angle."),
        _("lean the sides"),
        _lean,
        tuple(LEANS.values()),
        shows=lambda: box_with(lean_front=30.0, lean_left=20.0, lean_right=20.0, lean_back=0.0),
        finds=_("taper slope windscreen"),
    ),
    Deed(
        "make ridge",
        _("Ridge"),
        _("Front and back lean until they meet in a ridge."),
        _("make a ridge"),
        lambda document, given: shaping.make_ridge(document, 0),
    ),
    Deed(
        "make tip",
        _("Tip"),
        _("All four sides lean until they meet in a tip."),
        _("make a tip"),
        plain(shaping.make_pyramid),
    ),
    Deed(
        "whole box",
        _("Whole box"),
        _("The whole box again, without leans, outline or cuts."),
        _("make it a whole box"),
        plain(shaping.make_box),
        shows=tip,
    ),
    Deed(
        "stand on outline",
        _("Plan outline"),
        _("Make the volume a prism on this outline."),
        _("plan outline"),
        _outline,
        (OUTLINE,),
        shows=lambda: box_with(plan_outline=3),
    ),
    Deed(
        "own outline",
        _("Own outline"),
        _("Make the volume a prism on plan corners that you type."),
        _("own outline"),
        _own_outline,
        (OWN_OUTLINE,),
        shows=lambda: box_with(own_outline="0 0, 6 0, 6 3, 3 6, 0 6"),
    ),
    Deed(
        "chamfer plan",
        _("Chamfer corners"),
        _("Chamfer every plan corner."),
        _("chamfer"),
        lambda d, given: shaping.cut_plan_corners(d, given[CORNERS], rounded=False),
        (CORNERS,),
    ),
    Deed(
        "round plan",
        _("Round corners"),
        _("Round every plan corner."),
        _("round the corners"),
        lambda d, given: shaping.cut_plan_corners(d, given[CORNERS], rounded=True),
        (CORNERS,),
    ),
    Deed(
        "thin",
        _("Thin it"),
        _("Thin the volume to a slab, leg or slat at that side."),
        _("give thickness"),
        _thin,
        (STAYS, THICKNESS),
    ),
    Deed(
        "set roof",
        _("Gable roof"),
        _("Set a gable roof on it; the walls at both ends reach the ridge."),
        _("set a roof"),
        _roof,
        (RIDGE, PITCH, OVERHANG, ROOFING),
    ),
    Deed(
        "make steps",
        _("Steps"),
        _("Make it a flight of steps."),
        _("make steps"),
        lambda d, given: building_parts.make_stairs(
            d, given.whole(STEPS), given.chosen(RISES_FROM)
        ),
        (RISES_FROM, STEPS),
        told=_steps_told,
        finds=_("stairs flight tread riser"),
    ),
    Deed(
        "make bays",
        _("Bays"),
        _("Make it a wall of these bays."),
        _("make bays"),
        _bays,
        (BAYS, PIER, SPRINGING, HEAD),
        told=_bays_told,
        finds=_("arcade wall arches piers"),
        shows=lambda: box_with(pier=10.0, springing=90.0),
    ),
    Deed(
        "bend bar",
        _("Bent bar"),
        _("Make it a bent bar of this line."),
        _("bend a bar"),
        _bar,
        (*SECTION, LINE, WAVES),
        shows=lambda: box_with(bar_thick=10.0, bend=20.0),
    ),
    Deed(
        "bar through",
        _("Bar through points"),
        _("Make it a bent bar of this section through points that you type."),
        _("bar through points"),
        lambda d, given: bending.bar_through(d, given.text(POINTS), section_of(given)),
        (POINTS, *SECTION),
        shows=lambda: Example(
            box().document,
            None,
            {POINTS.key: "0 0 0, 6 0 0, 6 0 5", THICK.key: 10.0, BEND.key: 20.0},
        ),
    ),
    Deed(
        "change section",
        _("Another section"),
        _("Give the bar in work this section, breadth and bend; its line stays."),
        _("change the section"),
        lambda d, given: bending.change_section(d, section_of(given)),
        SECTION,
        (ActsOn.BAR,),
        shows=bar,
    ),
)

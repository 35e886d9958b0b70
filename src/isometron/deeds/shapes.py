"""Deeds of shape: leaning sides, plan outline, thickness, roofs, steps, bays and bent bars."""

from isometron.deeds.deed import Deed, Given, Measured, Parameter, plain
from isometron.deeds.example import bar, box_with, tip
from isometron.document.document import Document
from isometron.document.edits.shapes import bending, building_parts, shaping
from isometron.framework.box import FACE_OF, SIDES
from isometron.words import _, said

OUTLINE = Parameter(
    said("plan outline"),
    _("The outline the volume stands on."),
    Measured.CHOICE,
    choices=tuple(shaping.OUTLINES),
)
CORNERS = Parameter(
    said("plan corners"), _("How much is taken off every plan corner."), Measured.LENGTH, 20.0
)
STAYS = Parameter(
    said("side that stays"), _("The side that stays."), Measured.CHOICE, choices=SIDES
)
THICKNESS = Parameter(
    said("thickness"), _("How thick a slab, leg or slat is left."), Measured.LENGTH, 18.0
)
RIDGE = Parameter(
    said("ridge along"),
    _("Which way the ridge runs."),
    Measured.CHOICE,
    choices=(said("width"), said("depth")),
)
PITCH = Parameter(said("roof pitch"), _("How steep the roof is."), Measured.ANGLE, 35.0)
OVERHANG = Parameter(
    said("overhang"), _("How far the roof stands out all round."), Measured.LENGTH, 20.0
)
ROOFING = Parameter(said("roof thickness"), _("Square to its slope."), Measured.LENGTH, 10.0)
RISES_FROM = Parameter(
    said("steps from"),
    _("The side the flight of steps rises from."),
    Measured.CHOICE,
    choices=(said("front"), said("back"), said("left"), said("right")),
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
)
BAR = Parameter(
    said("section of the bar"),
    _("A tube, or with corners."),
    Measured.CHOICE,
    choices=(said("round"), said("cornered")),
)
THICK = Parameter(said("bar thick"), _("Its thickness, or its diameter."), Measured.LENGTH, 30.0)
BROAD = Parameter(said("bar broad"), _("How broad one with corners is."), Measured.LENGTH, 30.0)
BEND = Parameter(
    said("bend"), _("Radius of its bends; 0 for mitred corners."), Measured.LENGTH, 60.0
)
LINE = Parameter(
    said("shape of the bar"),
    _("How its line runs through the box."),
    Measured.CHOICE,
    choices=tuple(bending.SHAPE_WORDS[shape] for shape in bending.SHAPES),
)
WAVES = Parameter(said("waves"), _("How often a wave goes up and down."), Measured.COUNT, 3)
SECTION = (BAR, THICK, BROAD, BEND)


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
        _("Stand on it"),
        _("Make the volume a prism on this outline."),
        _("plan outline"),
        _outline,
        (OUTLINE,),
        shows=lambda: box_with(plan_outline=3),
    ),
    Deed(
        "chamfer plan",
        _("Chamfer"),
        _("Chamfer every plan corner."),
        _("chamfer"),
        lambda d, given: shaping.cut_plan_corners(d, given[CORNERS], rounded=False),
        (CORNERS,),
    ),
    Deed(
        "round plan",
        _("Round"),
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
        _("Set a roof"),
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
    ),
    Deed(
        "make bays",
        _("Bays"),
        _("Make it a wall of these bays."),
        _("make bays"),
        _bays,
        (BAYS, PIER, SPRINGING, HEAD),
        shows=lambda: box_with(pier=10.0, springing=90.0),
    ),
    Deed(
        "bend bar",
        _("Bend it"),
        _("Make it a bent bar of this line."),
        _("bend a bar"),
        _bar,
        (*SECTION, LINE, WAVES),
        shows=lambda: box_with(bar_thick=10.0, bend=20.0),
    ),
    Deed(
        "change section",
        _("Give it this section"),
        _("Give the bar in work the section, breadth and bend above; its line stays."),
        _("change the section"),
        lambda d, given: bending.change_section(d, section_of(given)),
        SECTION,
        shows=bar,
    ),
)

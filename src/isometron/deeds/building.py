"""Deeds of parts that are built: roofs, steps, bays and bent bars."""

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    words,
)
from isometron.deeds.example import Example, bar, box, box_with
from isometron.document.document import Document
from isometron.document.edits.shapes import bending, building_parts
from isometron.perspective.lengths import write_length
from isometron.words import _, said

MATTER = Matter.BUILDING

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
        _("Bar by points"),
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
        _("Give the picked bar this section, breadth and bend; its line stays."),
        _("change the section"),
        lambda d, given: bending.change_section(d, section_of(given)),
        SECTION,
        (ActsOn.BAR,),
        shows=bar,
    ),
)

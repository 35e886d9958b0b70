"""Deeds of lines on volumes: divisions, sections, courses, tiles, boards and ribs."""

from dataclasses import replace

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    choice,
    length,
    plain,
    words,
)
from isometron.deeds.example import Example, box, front_face, upper_edge
from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.faces import skinning
from isometron.document.edits.places.places_along import read_shares
from isometron.document.edits.shapes import shaping
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.surface import SurfacePick
from isometron.framework.box import AXES, FACE_OF, SIDES
from isometron.framework.skins import PATTERN_WORDS, PATTERNS, Skin
from isometron.words import _, said

MATTER = Matter.LINES

PARTS = words(
    said("parts or places"),
    _("A number of equal parts, or places such as 1/3 50% 3cm."),
    "3",
    label=_("into"),
)
WAY = choice(
    said("which way"),
    _("Which way the face is divided."),
    (said("one way"), said("the other way")),
    label=_("which way"),
)
SKIN_ON = choice(
    said("skin on"),
    _("The picked face or round side, all upright ones, or a side."),
    (said("picked, or front"), said("every upright side"), *SIDES),
    label=_("on"),
    now=lambda document, given: int(given.pick is None),
)
PATTERN = choice(
    said("pattern"),
    _("Staggered courses, tiles in line, boards, or ribs."),
    tuple(PATTERN_WORDS[one] for one in PATTERNS),
)
SKIN_RUNS = choice(
    said("skin runs"),
    _("Level, or turned upright."),
    (said("level"), said("upright")),
    label=_("runs"),
)
COURSE_HIGH = length(
    said("course high"), _("Its true height; of ribs: apart."), 200.0, label=_("high")
)
COURSE_LONG = length(
    said("course long"), _("Its true length; of ribs: broad."), 400.0, label=_("long")
)
JOINT = length(said("joint"), _("The joint between two; 0 draws one line."))
DRAWN_AS = choice(
    said("skin drawn as"),
    _("As thin construction, or gone over."),
    (said("thin"), said("gone over")),
    label=_("drawn"),
)
SECTION_AT = Parameter(
    said("section at"),
    _("Where the section lies, as a fraction."),
    Measured.SHARE,
    0.5,
    label=_("at"),
)
SQUARE_TO = choice(
    said("square to"), _("What the section is square to."), AXES, label=_("square to")
)


def _divide_edge(document: Document, given: Given) -> Document:
    pick = given.picked(EdgePick, _("No edge is picked: click the edge to divide."))
    whole = float(document.volumes[pick.volume].body.true_mm[pick.index])
    shares = read_shares(given.text(PARTS), whole, document.choices.unit)
    return shaping.divide_edge(document, pick.index, shares)


def _divide_face(document: Document, given: Given) -> Document:
    pick = given.picked(FacePick, _("No face is picked: click the face to divide."))
    return shaping.divide_face(
        document, pick.index, given.whole(WAY), read_shares(given.text(PARTS))
    )


def _section(document: Document, given: Given) -> Document:
    return shaping.section(document, given.whole(SQUARE_TO), (given[SECTION_AT],))


def _skin(document: Document, given: Given) -> Document:
    skin = Skin(
        0,
        PATTERNS[given.whole(PATTERN)],
        given[COURSE_HIGH],
        given[COURSE_LONG],
        given[JOINT],
        given.whole(SKIN_RUNS) == 1,
        given.whole(DRAWN_AS) == 1,
    )
    place, pick = given.whole(SKIN_ON), given.pick
    where = ("picked", "upright", *(str(FACE_OF[side]) for side in SIDES))[place]
    face = pick.index if isinstance(pick, FacePick) else None
    bent = pick.index if isinstance(pick, SurfacePick) else -1
    in_work(document)
    lead, also = document.selected, document.also
    several = [i for i in document.chosen if document.volumes[i].like is None]
    for index in several if pick is None and several else [lead]:
        taken = replace(document, selected=index)
        found = skinning.surfaces_of(in_work(taken)[1], where, face, bent)
        document = skinning.lay_skins(taken, found, skin)
    return replace(document, selected=lead, also=also)


SKIN = (PATTERN, COURSE_HIGH, COURSE_LONG, JOINT, SKIN_RUNS, DRAWN_AS, SKIN_ON)
SMALL = {COURSE_HIGH.key: 20.0, COURSE_LONG.key: 40.0}

DEEDS = (
    Deed(
        "divide edge",
        _("Divide it"),
        _("Divide the picked edge into equal true parts, or at places."),
        _("divide the edge"),
        _divide_edge,
        (PARTS,),
        (ActsOn.EDGE,),
        shows=upper_edge,
        finds=_("thirds halves parts middle ticks"),
    ),
    Deed(
        "divide face",
        _("Divide face"),
        _("Divide the picked face into equal true parts, or at places."),
        _("divide the face"),
        _divide_face,
        (PARTS, WAY),
        (ActsOn.FACE,),
        shows=front_face,
        finds=_("thirds halves parts panels"),
    ),
    Deed(
        "lay skin",
        _("Boards, tiles"),
        _("Lay courses, tiles, boards or ribs over the face, clipped at openings."),
        _("lay a skin"),
        _skin,
        SKIN,
        (ActsOn.FACE, ActsOn.VOLUME),
        shows=lambda: Example(box().document, front_face().pick, SMALL),
        finds=_("bricks courses ribs planks louvres skin"),
    ),
    Deed(
        "strip skin",
        _("Strip"),
        _("Take all courses, tiles, boards and ribs off."),
        _("strip the skin"),
        plain(skinning.strip),
        shows=lambda: Example(_skin(box().document, Given({**SMALL, SKIN_ON.key: 1}))),
    ),
    Deed(
        "draw section",
        _("Section line"),
        _("Draw a centre or section line right round, at a fraction of a side."),
        _("section"),
        _section,
        (SECTION_AT, SQUARE_TO),
        finds=_("centre line cross contour middle"),
    ),
    Deed(
        "clear marks",
        _("Rub lines out"),
        _("Clear divisions and sections."),
        _("clear the lines"),
        plain(shaping.clear_marks),
        shows=lambda: Example(shaping.section(box().document, 0)),
    ),
)

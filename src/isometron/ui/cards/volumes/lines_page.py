"""The Lines page: divisions, centre and section lines, and drawing aids."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.faces import skinning
from isometron.document.edits.places import aiding
from isometron.document.edits.places.places_along import read_shares
from isometron.document.edits.shapes import shaping
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.surface import SurfacePick
from isometron.framework.box import AXES, FACE_OF, SIDES
from isometron.framework.skins import PATTERN_WORDS, PATTERNS, Skin
from isometron.ui.parts.fields import LengthField, ShareField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Always,
    Button,
    Choosing,
    Heading,
    Measure,
    Rest,
    Row,
    Wish,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

PARTS = said("parts or places")
AIDS = (
    ("floor line", _("Floor line"), _("Where floor and wall meet.")),
    ("back wall", _("Back wall"), _("Floor line with upright corners.")),
    ("shelf edge", _("Shelf edge"), _("An edge at its base, in front.")),
)
BROAD = (
    ("shelf", _("Shelf"), _("A shelf of this thickness that it stands on: two edges in front.")),
    ("path", _("Path"), _("A path of this width in front of it: two lines on the ground.")),
)
SECTION_TIPS = (
    _("A section square to the width."),
    _("A section square to the depth."),
    _("A section square to the height."),
)


def _divide_edge(page: Page) -> Edit:
    pick = page.picked(EdgePick, _("No edge is picked: click the edge to divide."))
    assert page.shown is not None
    whole = float(page.shown.scene.pictures[pick.volume].body.true_mm[pick.index])
    shares = read_shares(page.text(PARTS), whole, page.unit)
    return lambda d: shaping.divide_edge(d, pick.index, shares)


def _divide_face(page: Page, axis: int) -> Edit:
    shares = read_shares(page.text(PARTS))
    pick = page.picked(FacePick, _("No face is picked: click the face to divide."))
    return lambda d: shaping.divide_face(d, pick.index, axis, shares)


def _section(page: Page, axis: int) -> Edit:
    share = page.number("section at")
    return lambda d: shaping.section(d, axis, (share,))


def _skin(page: Page) -> Edit:
    skin = Skin(
        0,
        PATTERNS[page.chosen("pattern")],
        page.number("course high"),
        page.number("course long"),
        page.number("joint"),
        page.chosen("skin runs") == 1,
        page.chosen("skin drawn as") == 1,
    )
    place, pick = page.chosen("skin on"), page.pick
    where = ("upright", "picked", *(str(FACE_OF[side]) for side in SIDES))[place]
    face = pick.index if isinstance(pick, FacePick) else None
    bent = pick.index if isinstance(pick, SurfacePick) else -1

    def lay(document: Document) -> Document:
        _index, volume = in_work(document)
        found = skinning.surfaces_of(volume, where, face, bent)
        return skinning.lay_skins(document, found, skin)

    return lay


def _aid(page: Page, kind: str) -> Edit:
    behind, thick = page.number("behind"), page.number("thick, wide")
    level = page.chosen("lines of the room") == 1
    return lambda d: aiding.add_aid(d, kind, behind, level=level, thick_mm=thick)


def _grid(page: Page) -> Edit:
    square = page.number("square")
    return lambda d: aiding.lay_grid(d, square)


class LinesPage(Page):
    """Divisions, centre and section lines, and drawing aids."""

    ROWS = (
        Heading(_("Divide what is picked")),
        Row(
            _("into"),
            Words(
                PARTS, _("A number of equal parts, or places such as 1/3 50% 3cm."), at_first="3"
            ),
        ),
        Row(
            "",
            Button(_("Edge"), _("Divide the picked edge."), _("divide the edge"), _divide_edge),
            Button(
                _("Face one way"),
                _("Divide the picked face."),
                _("divide the face"),
                partial(_divide_face, axis=0),
            ),
            Button(
                _("Other way"),
                _("Divide the picked face the other way."),
                _("divide the face"),
                partial(_divide_face, axis=1),
            ),
        ),
        Heading(_("Courses, tiles, boards, ribs")),
        Row(
            _("on"),
            Choosing(
                said("skin on"),
                _("All upright ones, the picked face or round side, or a side."),
                [_("every upright side"), _("picked face, or front"), *(_(side) for side in SIDES)],
            ),
        ),
        Row(
            _("pattern"),
            Choosing(
                said("pattern"),
                _("Staggered courses, tiles in line, boards, or ribs."),
                [_(PATTERN_WORDS[one]) for one in PATTERNS],
            ),
            Choosing(said("skin runs"), _("Level, or turned upright."), [_("level"), _("upright")]),
        ),
        Row(
            _("high, long"),
            Measure(said("course high"), _("Its true height; of ribs: apart."), LengthField, 200.0),
            Measure(said("course long"), _("Its true length; of ribs: broad."), LengthField, 400.0),
        ),
        Row(
            _("joint"),
            Measure(said("joint"), _("The joint between two; 0 draws one line."), LengthField, 0.0),
            Choosing(
                said("skin drawn as"),
                _("As thin construction, or gone over."),
                [_("thin"), _("gone over")],
            ),
        ),
        Row(
            "",
            Button(
                _("Lay it"),
                _("Lay this over the face, clipped at openings."),
                _("lay a skin"),
                _skin,
            ),
            Button(
                _("Strip"),
                _("Take all of them off."),
                _("strip the skin"),
                lambda page: skinning.strip,
            ),
        ),
        Heading(_("Centre and section lines")),
        Row(
            _("at"),
            Measure(
                said("section at"), _("Where the section lies, as a fraction."), ShareField, 0.5
            ),
        ),
        Row(
            _("square to"),
            *(
                Button(_(axis), SECTION_TIPS[n], _("section"), partial(_section, axis=n))
                for n, axis in enumerate(AXES)
            ),
        ),
        Row(
            "",
            Button(
                _("Rub these lines out"),
                _("Clear divisions and sections."),
                _("clear the lines"),
                lambda page: shaping.clear_marks,
            ),
        ),
        Heading(_("Where it stands")),
        Row(
            _("run"),
            Choosing(
                said("lines of the room"),
                _("Which way these lines run."),
                [_("to the points"), _("level across")],
            ),
        ),
        Row(
            _("off by"),
            Measure(
                said("behind"),
                _("How far behind everything, or before it, they lie."),
                LengthField,
                300.0,
            ),
        ),
        Row("", *(Button(w, tip, _(kind), partial(_aid, kind=kind)) for kind, w, tip in AIDS)),
        Row(
            _("thick, wide"),
            Measure(
                said("thick, wide"), _("How thick a shelf is, how wide a path."), LengthField, 40.0
            ),
            *(Button(w, tip, _(kind), partial(_aid, kind=kind)) for kind, w, tip in BROAD),
        ),
        Row(
            _("squares of"),
            Measure(
                said("square"),
                _("The side of one square of the ground grid."),
                LengthField,
                aiding.USUAL_SQUARE_MM,
            ),
            Always(
                _("Ground grid"),
                _("Lay squares on the ground about the origin, along the volume in work."),
                _("ground grid"),
                _grid,
            ),
        ),
        Row(
            "",
            Wish(
                _("Carry the height"),
                _("Carry the height of the volume in work to where you click (Ctrl+J)."),
                lambda page: page.wishes.do("carry height"),
            ),
            Always(
                _("Take aids away"),
                _("Clear grid, floor, wall and shelf lines, and carried heights."),
                _("take aids away"),
                lambda page: aiding.clear_aids,
            ),
        ),
        Rest(),
    )

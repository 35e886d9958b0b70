"""The page of the Eye tab about paper, marks, where we stand and limits."""

from dataclasses import dataclass
from functools import partial
from typing import ClassVar

from PyQt6.QtWidgets import QWidget

from isometron.document.document import Document
from isometron.document.edits import eye_edits, sheet_edits
from isometron.document.edits.stances import STANCES, Stance
from isometron.document.near_edge import near_edge, scale_at_near_corner
from isometron.perspective.eye import eye_level
from isometron.perspective.sheet import FORMATS, Sheet
from isometron.ui.parts.drawn import DrawnTile
from isometron.ui.parts.fields import AngleField, LengthField, ScaleField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Always,
    Choosing,
    Entry,
    Grid,
    Heading,
    Pair,
    Rest,
    Row,
    Wish,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

OWN_SIZE = _("own size")
LARGER = 1.1
NAMES = (*FORMATS, OWN_SIZE)


TILE, PICTURE = 36, 30
"""Height of the tile of a stance, and of its drawing, px."""


@dataclass(repr=False, eq=False)
class Stand(Wish):
    """A tile that takes a stance, with a drawing of what is seen from there."""

    needs_volume: ClassVar[bool] = False
    drawing: str

    def make(self, page: Page) -> QWidget:
        made = DrawnTile(page.wishes, self.drawing, self.text, self.tip, high=TILE, picture=PICTURE)
        made.clicked.connect(lambda _on=False: self.wish(page))
        return made


def _take(stance: Stance) -> Stand:
    return Stand(
        _(stance.name).capitalize(),
        _(stance.tip),
        lambda page: page.wishes.do(f"stance {stance.name}"),
        f"stance {stance.name}",
    )


def _format(number: int) -> Edit:
    def change(document: Document) -> Document:
        if NAMES[number] not in FORMATS:
            return document
        lying = document.sheet.lying
        return sheet_edits.change_format(document, NAMES[number], lying=lying)

    return change


def _named(document: Document) -> int:
    return NAMES.index(document.sheet.format_name or OWN_SIZE)


def _point(document: Document, family: str, axis: int) -> float | None:
    if document.eye.curved:
        return None  # told for a flat sheet
    place = eye_edits.points_of_setup(document).get(family)
    return None if place is None else place[axis]


def _corner(document: Document, axis: int) -> float | None:
    edge = None if document.eye.curved else near_edge(document)
    return None if edge is None else edge.corner_mm[axis]


def _stepped(document: Document, factor: float) -> Document:
    return eye_edits.step_back(document, document.eye.station_distance_mm * factor)


ROWS = (
    Grid(2, *(_take(stance) for stance in STANCES)),
    Row(
        "",
        Choosing(
            said("Sheet format"),
            _("The format of the paper; type any size in the two fields."),
            NAMES,
            _("sheet format"),
            _format,
            now=lambda shown: _named(shown.document),
        ),
        Choosing(
            said("Upright or lying"),
            _("Whether the paper lies (wider than high) or stands upright."),
            [_("lying"), _("upright")],
            _("turn the sheet"),
            lambda n: partial(sheet_edits.turn_sheet, lying=n == 0),
            now=lambda shown: 0 if shown.document.sheet.lying else 1,
        ),
    ),
    Row(
        _("sheet"),
        Entry(
            said("sheet width"),
            _("How wide the paper is."),
            LengthField,
            lambda d: d.sheet.width_mm,
            lambda d, mm: sheet_edits.change_sheet(d, Sheet(mm, d.sheet.height_mm)),
            caption=_("wide"),
        ),
        Entry(
            said("sheet height"),
            _("How high the paper is."),
            LengthField,
            lambda d: d.sheet.height_mm,
            lambda d, mm: sheet_edits.change_sheet(d, Sheet(d.sheet.width_mm, mm)),
            caption=_("high"),
            upright=True,
        ),
    ),
    Heading(_("On the paper"), above=2),
    Row(
        _("eye level"),
        Entry(
            said("eye level"),
            _("Height of the eye level above the paper's lower edge."),
            LengthField,
            lambda d: eye_level(d.eye),
            eye_edits.move_eye_level,
            upright=True,
        ),
    ),
    Row(
        _("VP left, right"),
        Entry(
            said("VP left"),
            _("Place of the left vanishing point, from the paper's left edge."),
            LengthField,
            lambda d: _point(d, "left", 0),
            eye_edits.move_left_point,
            family="left",
        ),
        Entry(
            said("VP right"),
            _("Place of the right vanishing point, from the paper's left edge."),
            LengthField,
            lambda d: _point(d, "right", 0),
            eye_edits.move_right_point,
            family="right",
        ),
    ),
    Row(
        _("third point"),
        Entry(
            said("third point"),
            _("Height of the third point above the paper's lower edge (− is below)."),
            LengthField,
            lambda d: _point(d, "third", 1),
            eye_edits.move_third_point,
            family="third",
            upright=True,
        ),
    ),
    Row(
        _("centre of vision"),
        Entry(
            said("centre of vision across"),
            _("The centre of vision, from the paper's left edge."),
            LengthField,
            lambda d: d.eye.centre_of_vision_mm[0],
            lambda d, mm: eye_edits.move_centre_of_vision(d, (mm, d.eye.centre_of_vision_mm[1])),
            caption=_("right"),
        ),
        Entry(
            said("centre of vision up"),
            _("The centre of vision, from the paper's lower edge."),
            LengthField,
            lambda d: d.eye.centre_of_vision_mm[1],
            eye_edits.raise_centre_of_vision,
            caption=_("up"),
            upright=True,
        ),
    ),
    Row(
        _("near corner"),
        Entry(
            said("near corner across"),
            _("Foot of the near edge, from the paper's left edge."),
            LengthField,
            lambda d: _corner(d, 0),
            lambda d, mm: eye_edits.place_near_corner(d, (mm, _corner(d, 1) or 0.0)),
            caption=_("right"),
        ),
        Entry(
            said("near corner up"),
            _("Foot of the near edge, from the paper's lower edge."),
            LengthField,
            lambda d: _corner(d, 1),
            lambda d, mm: eye_edits.place_near_corner(d, (_corner(d, 0) or 0.0, mm)),
            caption=_("up"),
            upright=True,
        ),
    ),
    Row(
        _("near edge drawn"),
        Entry(
            said("near edge drawn"),
            _("Drawn length of the near edge: vanishing points stay, the eye comes closer."),
            LengthField,
            lambda d: edge.drawn_mm if not d.eye.curved and (edge := near_edge(d)) else None,
            eye_edits.draw_near_edge,
            upright=True,
        ),
    ),
    Heading(_("Where we stand"), above=2),
    Row(
        _("eye stands at"),
        Entry(
            said("eye across"),
            _("Where the eye stands on the plan, across."),
            LengthField,
            lambda d: d.eye.x_mm,
            lambda d, mm: eye_edits.move_eye(d, (mm, d.eye.y_mm)),
            caption=_("right"),
        ),
        Entry(
            said("eye away"),
            _("Where the eye stands on the plan, away from us."),
            LengthField,
            lambda d: d.eye.y_mm,
            lambda d, mm: eye_edits.move_eye(d, (d.eye.x_mm, mm)),
            caption=_("away"),
        ),
    ),
    Row(
        _("eye height, true"),
        Entry(
            said("eye height"),
            _("Height of the eye above the ground."),
            LengthField,
            lambda d: d.eye.height_mm,
            eye_edits.set_eye_height,
            upright=True,
        ),
    ),
    Row(
        _("heading, tilt"),
        Entry(
            said("heading"),
            _("Where the eye looks, clockwise from above; 0° looks straight away."),
            AngleField,
            lambda d: d.eye.heading_deg,
            eye_edits.set_heading,
        ),
        Entry(
            said("tilt"),
            _("How far the eye looks up (+) or down (−)."),
            AngleField,
            lambda d: d.eye.tilt_deg,
            eye_edits.set_tilt,
        ),
    ),
    Row(
        _("step back, paper"),
        Entry(
            said("station distance"),
            _(
                "Distance from the eye to the picture plane: the strength of convergence. "
                "The near edge stays as drawn."
            ),
            LengthField,
            lambda d: d.eye.station_distance_mm,
            eye_edits.step_back,
        ),
        Pair(
            (
                "−",
                _("step closer"),
                _("Step a tenth closer."),
                partial(_stepped, factor=1 / LARGER),
            ),
            (
                "+",
                _("step back"),
                _("Step a tenth further back."),
                partial(_stepped, factor=LARGER),
            ),
        ),
    ),
    Row(
        _("size on page"),
        Entry(
            said("size on page"),
            _("Scale of the drawing at the near corner, such as 1 : 4; the view stays."),
            ScaleField,
            scale_at_near_corner,
            eye_edits.draw_to_scale,
        ),
        Pair(
            (
                "−",
                _("draw smaller"),
                _("Draw a tenth smaller."),
                lambda d: eye_edits.size_on_page(d, 1 / LARGER),
            ),
            (
                "+",
                _("draw larger"),
                _("Draw a tenth larger."),
                lambda d: eye_edits.size_on_page(d, LARGER),
            ),
        ),
    ),
    Row(
        "",
        Always(
            _("Fit on the page"),
            _("Draw it so large, and lay it so, that all of it is on the page; the view stays."),
            _("fit on the page"),
            lambda page: eye_edits.fit_on_page,
        ),
    ),
    Heading(_("What we go by"), above=2),
    Row(
        _("cone, ruler"),
        Entry(
            said("cone of vision"),
            _("Full angle of the cone of vision; 60° is usual, 40° to 50° cautious."),
            AngleField,
            lambda d: d.choices.cone_deg,
            sheet_edits.set_cone,
        ),
        Entry(
            said("ruler"),
            _("How long your ruler is."),
            LengthField,
            lambda d: d.kit.ruler_mm,
            sheet_edits.set_ruler,
        ),
        spacious=True,
    ),
    Rest(),
)


class EyePage(Page):
    """The paper, the marks on it, where we stand."""

    ROWS = ROWS

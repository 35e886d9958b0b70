"""Deeds of shape: leaning sides, plan outline, thickness, a round form."""

from functools import partial
from typing import Any

from isometron.deeds.deed import (
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    choice,
    of_volume,
    plain,
    words,
)
from isometron.deeds.example import box, box_with, tip
from isometron.document.document import Document
from isometron.document.edits.shapes import profiles, rounding, shaping
from isometron.framework.box import FACE_OF, SIDES
from isometron.framework.kinds.kind import RECTANGLE
from isometron.perspective.lengths import TypedAngle, write_length
from isometron.words import _, said

MATTER = Matter.SHAPE

VIEWS = {said("side view"): 1, said("end view"): 0, said("plan"): 2}
"""Views a profile may be drawn in, with the own axis it is carried along."""

VIEW = choice(said("view"), _("The view the profile is drawn in."), tuple(VIEWS))
FORM = choice(
    said("round form"),
    _("A round form to begin from."),
    tuple(rounding.FORMS),
    label=_("form"),
)
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


def _outline(document: Document, given: Given) -> Document:
    return shaping.set_outline(document, shaping.OUTLINES[given.chosen(OUTLINE)])


def _thin(document: Document, given: Given) -> Document:
    return shaping.give_thickness(document, FACE_OF[given.chosen(STAYS)], given[THICKNESS])


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
        "make round",
        _("Make it round"),
        _("Give the picked volume a round form, as large as its box holds."),
        _("make it round"),
        lambda document, given: rounding.make_round(document, given.chosen(FORM)),
        (FORM,),
        shows=box,
        finds=_("cylinder cone sphere tube dome wheel turned lathe"),
    ),
    Deed(
        "begin profile",
        _("Profile"),
        _("Begin a profile from the picked box: its outline is drawn on a pad."),
        _("begin a profile"),
        lambda document, given: profiles.begin_profile(document, VIEWS[given.chosen(VIEW)]),
        (VIEW,),
        finds=_("outline side view silhouette pad extrude"),
    ),
)

"""Deeds with the eye: its level and height, the vanishing points, how far we stand back."""

from collections.abc import Callable
from typing import Any

from isometron.deeds.deed import ActsOn, Deed, Given, Matter, Parameter, in_place, length, plain
from isometron.deeds.example import Example, box
from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.document.edits.stances import LOOKING_DOWN, take_stance
from isometron.perspective.eye import eye_level
from isometron.words import _, said

MATTER = Matter.EYE

FAR = 1e6
"""Points lie within so many mm of the paper's corner where they are typed."""


def _point(family: str, axis: int) -> Callable[[Document, Given], float | None]:
    def now(document: Document, given: Given) -> float | None:
        if document.eye.curved:
            return None  # told for a flat sheet
        place = eye_edits.points_of_setup(document).get(family)
        return None if place is None else place[axis]

    return now


def _place(key: str, tip: str, label: str, now: Callable[[Document, Given], Any]) -> Parameter:
    return length(key, tip, label=label, now=now, least=-FAR, most=FAR)


def _from_above() -> Example:
    return Example(take_stance(box().document, LOOKING_DOWN))


ANYWHERE = (ActsOn.SHEET,)

DEEDS = (
    in_place(
        _place(
            said("height of the eye level"),
            _("How far the eye level lies above the paper's lower edge."),
            _("eye level"),
            lambda document, given: eye_level(document.eye),
        ),
        eye_edits.move_eye_level,
        250.0,
        name=_("eye level"),
        acts_on=ANYWHERE,
        finds=_("horizon"),
    ),
    in_place(
        _place(
            said("place of VP left"),
            _("Where the left vanishing point lies, from the paper's left edge."),
            _("VP left"),
            _point("left", 0),
        ),
        eye_edits.move_left_point,
        -260.0,
        name=_("VP left"),
        acts_on=ANYWHERE,
        finds=_("vanishing point"),
    ),
    in_place(
        _place(
            said("place of VP right"),
            _("Where the right vanishing point lies, from the paper's left edge."),
            _("VP right"),
            _point("right", 0),
        ),
        eye_edits.move_right_point,
        900.0,
        name=_("VP right"),
        acts_on=ANYWHERE,
        finds=_("vanishing point"),
    ),
    in_place(
        _place(
            said("height of the third point"),
            _("Where the third point lies, from the paper's lower edge."),
            _("third point"),
            _point("third", 1),
        ),
        eye_edits.move_third_point,
        -700.0,
        name=_("third point"),
        acts_on=ANYWHERE,
        shows=_from_above,
        finds=_("vanishing point"),
    ),
    in_place(
        length(
            said("step back to"),
            _("Distance from the eye to the picture plane: the strength of convergence."),
            label=_("step back, on paper"),
            now=lambda document, given: document.eye.station_distance_mm,
        ),
        eye_edits.step_back,
        900.0,
        acts_on=ANYWHERE,
        finds=_("station distance convergence closer further"),
    ),
    in_place(
        length(
            said("height of the eye"),
            _("How high the eye stands above the ground."),
            label=_("eye height, true"),
            now=lambda document, given: document.eye.height_mm,
            least=-FAR,
            most=FAR,
        ),
        eye_edits.set_eye_height,
        600.0,
        name=_("eye height"),
        acts_on=ANYWHERE,
    ),
    Deed(
        "fit on page",
        _("Fit on the page"),
        _("Draw it so large, and lay it so, that all of it is on the page; the view stays."),
        _("fit on the page"),
        plain(eye_edits.fit_on_page),
        acts_on=(ActsOn.VOLUME,),
        finds=_("larger smaller size"),
    ),
)

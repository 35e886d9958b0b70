"""Deeds of a profile: an outline in side view, end view or plan, carried across."""

from collections.abc import Callable
from typing import Any

from isometron.deeds.deed import (
    ActsOn,
    Given,
    Matter,
    Measured,
    Parameter,
    choice,
    in_place,
    length,
    words,
)
from isometron.deeds.example import Example, box
from isometron.document.document import Document
from isometron.document.edits.places.places_along import write_shares
from isometron.document.edits.shapes import profiles
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.volume import Volume
from isometron.words import _, said

MATTER = Matter.PROFILE

PROFILE = (ActsOn.PROFILE,)


def _of_profile(what: Callable[[Volume, Extruded], Any]) -> Callable[[Document, Given], Any]:
    def now(document: Document, given: Given) -> Any:
        volume, shape = document.volume, profiles.profile_of(document.volume)
        return None if volume is None or shape is None else what(volume, shape)

    return now


def _profile() -> Example:
    return Example(profiles.begin_profile(box().document, 1))


DEEDS = (
    in_place(
        length(
            said("full width"),
            _("The width, the same on both sides of the centre plane."),
            now=_of_profile(lambda volume, shape: volume.sides[shape.axis]),
        ),
        profiles.set_thickness,
        40.0,
        acts_on=PROFILE,
        shows=_profile,
    ),
    in_place(
        Parameter(
            said("plane of the profile"),
            _("The plane its points lie on in the framework: 0 near side, 1/2 centre plane."),
            Measured.SHARE,
            label=_("shown at"),
            now=_of_profile(lambda volume, shape: shape.at),
        ),
        profiles.show_plane,
        0.25,
        acts_on=PROFILE,
        shows=_profile,
    ),
    in_place(
        words(
            said("widths"),
            _("Places with widths: 0 60%, 1/2 100%, 3cm 8cm; straight for one width."),
            now=_of_profile(lambda volume, shape: profiles.write_widths(shape.widths)),
        ),
        lambda document, text: profiles.widths_as_typed(text)(document),
        "0 60%, 1/2 100%, 100% 60%",
        acts_on=PROFILE,
        shows=_profile,
    ),
    in_place(
        words(
            said("cross-contours"),
            _("Where cross-contours are drawn: a number, or places such as 1/3 50% 3cm."),
            label=_("contours"),
            now=_of_profile(lambda volume, shape: write_shares(profiles.contours_of(volume))),
        ),
        lambda document, text: profiles.contours_as_typed(text)(document),
        "3",
        name=_("cross-contours"),
        acts_on=PROFILE,
        shows=_profile,
    ),
    in_place(
        choice(
            said("centre line"),
            _("Draw the outline on the centre plane."),
            (said("left out"), said("drawn")),
            now=_of_profile(lambda volume, shape: int(profiles.has_centre_line(volume))),
        ),
        lambda document, number: profiles.set_centre_line(document, bool(number)),
        1,
        acts_on=PROFILE,
        shows=_profile,
    ),
)

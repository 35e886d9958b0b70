"""The Profile page: the side-view pad, the width of what is drawn on it, its cross-contours."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits.places.places_along import write_shares
from isometron.document.edits.shapes import profiles
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.ui.cards.rounds.profile_pad import ProfilePad
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import LengthField, ShareField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Entry,
    Filling,
    Own,
    Row,
    Switch,
    Wish,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

VIEWS = ((_("side view"), 1), (_("end view"), 0), (_("plan"), 2))
"""Views a profile may be drawn in, with the own axis it is carried along."""


def _profile(document: Document) -> tuple[Volume, Extruded] | None:
    volume, shape = document.volume, profiles.profile_of(document.volume)
    return None if volume is None or shape is None else (volume, shape)


def _thickness(document: Document) -> float | None:
    found = _profile(document)
    return None if found is None else found[0].sides[found[1].axis]


def _plane(document: Document) -> float | None:
    found = _profile(document)
    return None if found is None else found[1].at


def _widths(shown: Shown) -> str | None:
    found = _profile(shown.document)
    return None if found is None else profiles.write_widths(found[1].widths)


def _contours(shown: Shown) -> str | None:
    found = _profile(shown.document)
    return None if found is None else write_shares(profiles.contours_of(found[0]))


def _centre_line(document: Document) -> bool | None:
    found = _profile(document)
    return None if found is None else profiles.has_centre_line(found[0])


def _axis(page: Page) -> int:
    return VIEWS[page.chosen("view")][1]


def _begin(page: Page) -> Edit:
    axis = _axis(page)
    return lambda d: profiles.begin_profile(d, axis)


def _knot(page: Page) -> tuple[int, int]:
    pad = page["pad"]
    assert isinstance(pad, ProfilePad)
    if pad.knot is None:
        raise VolumeError(_("No point is chosen: click one on the pad."))
    return pad.knot


def _smooth(page: Page, *, smooth: bool) -> Edit:
    ring, knot = _knot(page)
    return lambda d: profiles.smooth_knot(d, ring, knot, smooth)


def _remove(page: Page) -> Edit:
    ring, knot = _knot(page)
    return lambda d: profiles.remove_knot(d, ring, knot)


class ProfilePage(Page):
    """The profile in work."""

    ROWS = (
        Row(
            "",
            Choosing(
                said("view"),
                _("The view the profile is drawn in."),
                [name for name, _axis in VIEWS],
            ),
            Button(
                _("Begin"),
                _("Begin a profile from the box in work."),
                _("begin a profile"),
                _begin,
            ),
            Wish(
                _("From SVG…"),
                _("Bring a closed SVG outline in as the profile."),
                lambda page: page.wishes.bring_outline(_axis(page)),
            ),
        ),
        Filling(
            Own(
                "pad",
                lambda page: ProfilePad(page.wishes),
                lambda pad, shown: pad.show_volume(shown.document),
            )
        ),
        Row(
            "",
            Button(
                _("Smooth"),
                _("Let the outline run smoothly through the chosen point."),
                _("smooth point"),
                partial(_smooth, smooth=True),
            ),
            Button(
                _("Corner"),
                _("Let the outline turn a corner at the chosen point."),
                _("corner point"),
                partial(_smooth, smooth=False),
            ),
            Button(
                _("Take away"), _("Take the chosen point away."), _("take a point away"), _remove
            ),
        ),
        Row(
            _("full width"),
            Entry(
                said("full width"),
                _("The width, the same on both sides of the centre plane."),
                LengthField,
                _thickness,
                profiles.set_thickness,
            ),
        ),
        Row(
            _("shown at"),
            Entry(
                said("plane of the profile"),
                _("The plane its points lie on in the framework: 0 near side, 1/2 centre plane."),
                ShareField,
                _plane,
                profiles.show_plane,
            ),
        ),
        Row(
            _("widths"),
            Words(
                said("widths"),
                _("Places with widths: 0 60%, 1/2 100%, 3cm 8cm; straight for one width."),
                _widths,
                _("widths"),
                lambda page, text: profiles.widths_as_typed(text),
            ),
        ),
        Row(
            _("contours at"),
            Words(
                said("cross-contours"),
                _("Where cross-contours are drawn: a number, or places such as 1/3 50% 3cm."),
                _contours,
                _("cross-contours"),
                lambda page, text: profiles.contours_as_typed(text),
            ),
        ),
        Row(
            "",
            Switch(
                _("Centre line"),
                _("Draw the outline on the centre plane."),
                _("centre line"),
                _centre_line,
                profiles.set_centre_line,
            ),
        ),
    )

"""What a matter shows besides its deeds: the pads and pictures of sides, rounds and profiles."""

from functools import partial

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QScrollArea

from isometron.deeds.deed import Matter
from isometron.document.document import Document
from isometron.document.edits import meaning
from isometron.document.edits.judging.judging import Judged, judged, told_of_measure
from isometron.document.edits.shapes import ellipses, profiles, rounding
from isometron.drawing.measures import from_near_corner
from isometron.drawing.round_readings import how_to_draw
from isometron.drawing.rounds import (
    circle_in_work,
    circles_of,
    degrees_over_height,
    height_of_eye,
)
from isometron.perspective.errors import VolumeError
from isometron.ui.cards.slip.ellipse_view import EllipseView
from isometron.ui.cards.slip.profile_pad import ProfilePad
from isometron.ui.cards.slip.radii_pad import RadiiPad
from isometron.ui.cards.slip.shares import Shares
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.plain import Label, scrolled
from isometron.ui.parts.rows import Button, Choosing, Items, Own, Row, Told, Wish
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

NO_TIES = _("Nothing is kept with it yet: it stands for itself.")
NOT_JUDGED = _(
    "It has no bands: say what it is, or begin with a starter. For sketching only, no engineering "
    "or ergonomic data."
)
NO_CIRCLE = _("No circle here: choose a round volume, or draw a circle on a face.")


def _show_shares(shares: Shares, shown: Shown) -> None:
    document = shown.document
    chosen = None if document.selected is None else shown.scene.pictures[document.selected]
    edges = from_near_corner(document.eye, chosen) if chosen else ()
    shares.show_edges(edges, shown.families, document.choices.unit)


class SizePad(Page):
    """How much of each side is drawn."""

    ROWS = (
        Row(
            "",
            Wish(
                _("Make it a cube"),
                _("All sides become the one last typed or picked, else the height."),
                lambda page: page.wishes.do("make cube"),
            ),
        ),
        Row("", Own("shares", lambda page: Shares(page.wishes), _show_shares)),
    )


def _circles(shown: Shown) -> Items:
    if shown.document.selected is None:
        return []
    circles = circles_of(shown.scene, shown.document.selected)
    return [(f"{_(circle.name)} {circle.number + 1}", circle.number) for circle in circles]


def _in_work(shown: Shown) -> int | None:
    circle = circle_in_work(shown.document, shown.scene)
    return None if circle is None else circle.number


def _words(shown: Shown) -> str:
    circle = circle_in_work(shown.document, shown.scene)
    return NO_CIRCLE if circle is None else " ".join(how_to_draw(shown.document, circle))


def _show_ellipse(view: EllipseView, shown: Shown) -> None:
    document = shown.document
    circle = circle_in_work(document, shown.scene)
    if circle is None:
        view.show_circle(None, np.empty((0, 2)), None, NO_CIRCLE)
    else:
        guide = circle.guide(document.kit)
        view.show_circle(circle, circle.square(document.eye), guide, _words(shown))


def _show_radii(pad: RadiiPad, shown: Shown) -> None:
    document = shown.document
    if rounding.turned_of(document.volume) is None:
        pad.show_volume(document, (), 0.0)
        return
    index = document.selected or 0
    pad.show_volume(document, degrees_over_height(document, index), height_of_eye(document, index))


class RoundPad(Page):
    """The circle in work as it is drawn by hand, and the stack of radii it belongs to."""

    ROWS = (
        Row(
            _("circle"),
            Choosing(
                said("circle"),
                _("The circle of this volume to draw."),
                _circles,
                _("choose"),
                lambda n: lambda d: ellipses.choose_circle(d, n),
                now=_in_work,
            ),
        ),
        Row("", Own("view", lambda page: EllipseView(), _show_ellipse)),
        Row("", Told(_words, "words")),
        Row("", Own("pad", lambda page: RadiiPad(page.wishes), _show_radii)),
    )


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


def _axis(document: Document) -> int:
    shape = profiles.profile_of(document.volume)
    return 1 if shape is None else shape.axis


class ProfilePagePad(Page):
    """The outline of the profile in work, to be drawn on."""

    ROWS = (
        Row(
            "",
            Own(
                "pad",
                lambda page: ProfilePad(page.wishes),
                lambda pad, shown: pad.show_volume(shown.document),
            ),
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
                _("Take off"), _("Take the chosen point away."), _("take a point away"), _remove
            ),
        ),
        Row(
            "",
            Wish(
                _("From SVG…"),
                _("Bring a closed SVG outline in as the profile."),
                lambda page: page.wishes.bring_outline(_axis(page.wishes.document)),
            ),
        ),
    )


TIES_HIGH = 76
"""So high, px, are the sentences of ties, however many there are: what lies below stays."""


def _lines_pane(called: str) -> QScrollArea:
    words = Label("")
    words.setWordWrap(True)
    words.setAlignment(Qt.AlignmentFlag.AlignTop)
    pane = scrolled(words, called)
    pane.setFixedHeight(scaled(TIES_HIGH))
    return pane


def _show_ties(pane: QScrollArea, shown: Shown) -> None:
    found = meaning.ties_of(shown.document)
    _show_lines(pane, [one for one, _number in found], NO_TIES)


def _show_judged(pane: QScrollArea, shown: Shown) -> None:
    document = shown.document
    lines = [
        _("{what} {value}, looks right from {low} to {high}").format(
            what=_(one.band.what),
            **{
                name: told_of_measure(one, value, document.choices.unit)
                for name, value in (("value", one.value), ("low", one.low), ("high", one.high))
            },
        )
        for one in judged(document)
        if document.volume is not None and document.volume.key in _keys(one)
    ]
    _show_lines(pane, lines, NOT_JUDGED)


def _keys(one: Judged) -> frozenset[int]:
    return frozenset((one.key,)) if one.begun is None else one.begun.keys


def _show_lines(pane: QScrollArea, found: list[str], otherwise: str) -> None:
    told = "\n".join(f"· {one}" for one in found) if found else otherwise
    words = pane.widget()
    assert isinstance(words, Label)
    if words.text() != told:
        words.setText(told)


class MeantPad(Page):
    """What the volume in work hangs on, and what is kept with it."""

    ROWS = (Row("", Own("ties", lambda page: _lines_pane(_("What stays true")), _show_ties)),)


class ProportionPad(Page):
    """The measures of what is in work that have a band, and their bands."""

    ROWS = (Row("", Own("bands", lambda page: _lines_pane(_("Does it look right")), _show_judged)),)


PADS: dict[Matter, type[Page]] = {
    Matter.SIZE: SizePad,
    Matter.MEANT: MeantPad,
    Matter.PROPORTION: ProportionPad,
    Matter.ROUNDS: RoundPad,
    Matter.PROFILE: ProfilePagePad,
}
"""What is shown under the values of a matter."""

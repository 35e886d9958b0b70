"""The Ellipse page: how the circle in work is drawn by hand, and the guides a person has."""

import numpy as np

from isometron.document.edits.shapes import ellipses
from isometron.drawing.round_readings import how_to_draw
from isometron.drawing.rounds import circle_in_work, circles_of
from isometron.ui.cards.rounds.ellipse_view import EllipseView
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Choosing,
    Filling,
    Heading,
    Items,
    Own,
    Row,
    Switch,
    Told,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

NO_CIRCLE = _("No circle here: choose a round volume, or draw a circle on a face.")


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


def _show(view: EllipseView, shown: Shown) -> None:
    document = shown.document
    circle = circle_in_work(document, shown.scene)
    if circle is None:
        view.show_circle(None, np.empty((0, 2)), None, NO_CIRCLE)
    else:
        guide = circle.guide(document.kit)
        view.show_circle(circle, circle.square(document.eye), guide, _words(shown))


def _degrees(page: Page, text: str) -> Edit:
    values = ellipses.read_list(text) if text.strip() else ()
    return lambda d: ellipses.set_guides(d, values, None)


def _sizes(page: Page, text: str) -> Edit:
    values = ellipses.read_list(text) if text.strip() else ()
    return lambda d: ellipses.set_guides(d, None, values)


class EllipsePage(Page):
    """The circle in work: its picture, what to do with the pencil, aids, guides."""

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
        Filling(Own("view", lambda page: EllipseView(), _show)),
        Row("", Told(_words, "words")),
        Row(
            "",
            Switch(
                _("Aids on the sheet"),
                _("Draw its square, diagonals, touching points, axes and axle on the sheet."),
                _("ellipse aids"),
                lambda d: d.choices.ellipse_aids,
                ellipses.show_ellipse_aids,
            ),
        ),
        Heading(_("The guides you have")),
        Row(
            _("degrees"),
            Words(
                said("guide degrees"),
                _("Degrees of your ellipse guides, such as 10-80/5."),
                lambda shown: ellipses.write_list(shown.document.kit.guide_degrees),
                _("ellipse guides"),
                _degrees,
            ),
        ),
        Row(
            _("sizes, mm"),
            Words(
                said("guide sizes"),
                _("Long axes of your ellipse guides in mm, such as 4-40/2, 50."),
                lambda shown: ellipses.write_list(shown.document.kit.guide_sizes_mm),
                _("ellipse guides"),
                _sizes,
            ),
        ),
    )

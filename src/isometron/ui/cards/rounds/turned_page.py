"""The Turned page: radii by height, straight or smooth, and how open each round is."""

from isometron.document.edits.places.places_along import write_shares
from isometron.document.edits.shapes import profiles, rounding
from isometron.drawing.rounds import degrees_over_height, height_of_eye
from isometron.perspective.lengths import write_length
from isometron.ui.cards.rounds.radii_pad import RadiiPad
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page, no_volume
from isometron.ui.parts.rows import Choosing, Filling, Own, Row, Words
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

JOINS = (said("straight"), said("smooth"))


def _stations(page: Page, text: str) -> Edit:
    volume = None if page.shown is None else page.shown.document.volume
    shape = rounding.turned_of(volume)
    if volume is None or shape is None:
        raise no_volume()
    sides = (volume.sides[shape.axis], rounding.radius_of(volume))
    stations = rounding.read_stations(text, page.unit, sides)
    return lambda d: rounding.set_stations(d, stations)


def _stations_now(shown: Shown) -> str | None:
    volume = shown.document.volume
    if volume is None or rounding.turned_of(volume) is None:
        return None

    def length(mm: float) -> str:
        return write_length(mm, shown.document.choices.unit, with_unit=False)

    return ", ".join(f"{length(h)} {length(r)}" for h, r in rounding.stations_mm(volume))


def _join_now(shown: Shown) -> int | None:
    shape = rounding.turned_of(shown.document.volume)
    if shape is None:
        return None
    return JOINS.index(shape.join) if shape.join in JOINS else 1


def _contours_now(shown: Shown) -> str | None:
    volume = shown.document.volume
    if volume is None or rounding.turned_of(volume) is None:
        return None
    return write_shares(profiles.contours_of(volume))


def _show_pad(pad: RadiiPad, shown: Shown) -> None:
    document = shown.document
    if rounding.turned_of(document.volume) is None:
        pad.show_volume(document, (), 0.0)
        return
    index = document.selected or 0
    pad.show_volume(document, degrees_over_height(document, index), height_of_eye(document, index))


class TurnedPage(Page):
    """A stack of radii by height, edited on its pad or as numbers."""

    ROWS = (
        Filling(Own("pad", lambda page: RadiiPad(page.wishes), _show_pad)),
        Row(
            "",
            Words(
                said("heights and radii"),
                _("Heights with radii from the base up: 0 40, 30 45, 80 20, or 0 100%, 1/2 60%."),
                _stations_now,
                _("radii"),
                _stations,
            ),
        ),
        Row(
            _("joined"),
            Choosing(
                said("joined"),
                _("How one radius runs into the next."),
                [_(join) for join in JOINS],
                _("join"),
                lambda n: lambda d: rounding.set_join(d, JOINS[n]),
                now=_join_now,
            ),
        ),
        Row(
            _("contours at"),
            Words(
                said("cross-contours"),
                _("Where cross-contours are drawn: a number, or places such as 1/3 50% 3cm."),
                _contours_now,
                _("cross-contours"),
                lambda page, text: profiles.contours_as_typed(text),
            ),
        ),
    )

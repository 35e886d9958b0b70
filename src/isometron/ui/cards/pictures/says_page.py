"""The Says page of the Picture tab: the slip once more, for where it finds no room beside."""

from isometron.perspective.errors import IsometronError
from isometron.reading.in_words import slip_of
from isometron.reading.of_picture import reading_of
from isometron.ui.cards.pictures.slip import SlipLines
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import Own, Rest, Row
from isometron.words import _


def _show(slip: SlipLines, shown: Shown) -> None:
    picture = shown.document.photograph
    if picture is None:
        slip.show_lines([], _("Pin a photograph first."))
        return
    try:
        read = reading_of(picture)  # kept since it was read beside the window
    except IsometronError as error:
        slip.show_lines([], str(error))
        return
    slip.show_lines(slip_of(picture, read, shown.document.choices.unit), "")


class SaysPage(Page):
    """What the picture says."""

    ROWS = (Row("", Own("slip", lambda page: SlipLines(page.wishes), _show)), Rest())

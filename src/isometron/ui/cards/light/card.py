"""The Light tab: sun or lamp and values; how the sheet is finished; composition marks."""

from isometron.ui.cards.light.light_page import LightPage
from isometron.ui.parts.page import Page
from isometron.ui.parts.paged_card import Leaf, PagedCard
from isometron.ui.parts.wishes import Wishes
from isometron.words import _


def _finish(wishes: Wishes) -> Page:
    from isometron.ui.cards.light.finish_page import FinishPage

    return FinishPage(wishes)


def _composition(wishes: Wishes) -> Page:
    from isometron.ui.cards.light.composition_page import CompositionPage

    return CompositionPage(wishes)


class LightCard(PagedCard):
    """The card of the Light tab."""

    LEAVES = (
        Leaf(_("Light"), _("Sun or lamp, shadows, and the values of all faces."), LightPage),
        Leaf(_("Finish"), _("Line weights, floor, wall and sky, a mirror image."), _finish),
        Leaf(_("Marks"), _("Thirds, middle, safe margin and a crop."), _composition),
    )

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Finish"))
        self.lay_pages()

"""The Eye tab: where we stand, and the views of the page."""

from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.cards.eye.eye_page import EyePage
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.paged_card import Leaf, PagedCard
from isometron.ui.parts.wishes import Wishes
from isometron.words import _


def _views(wishes: Wishes) -> Page:
    from isometron.ui.cards.eye.views_page import ViewsPage

    return ViewsPage(wishes)


class EyeCard(PagedCard):
    """The card of the Eye tab."""

    LEAVES = (
        Leaf(_("Where we stand"), _("The paper, the marks on it and where we stand."), EyePage),
        Leaf(_("Views"), _("Several views of the framework on one page."), _views),
    )

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Stand"))
        self.lay_pages()

    def show_document(self, shown: Shown) -> None:
        self.note.setText(_("in {unit}").format(unit=UNIT_WORDS[shown.document.choices.unit]))
        super().show_document(shown)

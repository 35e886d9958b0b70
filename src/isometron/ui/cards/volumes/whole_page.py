"""The Whole page: modules of the trade, and the bounding volume of what is chosen."""

from isometron.document.document import Document
from isometron.document.edits import proportioning
from isometron.perspective.lengths import read_ratio
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import LengthField
from isometron.ui.parts.page import Page, proportion_of
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Entry,
    Heading,
    Items,
    Rest,
    Row,
    Told,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

RATIO = said("length : width : height")
SIDES = (
    (_("length"), said("bounding length")),
    (_("width"), said("bounding width")),
    (_("height"), said("bounding height")),
)


def _modules(shown: Shown) -> Items:
    return [(module.name, None) for module in shown.document.modules]


def _set_module(page: Page, text: str) -> Edit:
    return lambda d: proportioning.type_module(d, text)


def _drop(page: Page) -> Edit:
    name = page.choice("module to take away").currentText()
    return lambda d: proportioning.remove_module(d, name)


def _to_ratio(page: Page) -> Edit:
    ratio = read_ratio(page.text(RATIO))
    return lambda d: proportioning.make_bounds_ratio(d, ratio)


class Bound(Entry):
    """A side of the bounding volume, scaled as the page says."""

    def done(self, page: Page, document: Document, value: float) -> Document:
        axis = [key for _side, key in SIDES].index(self.key)
        keep = page.chosen("scale") == 0
        return proportioning.stretch_bounds(document, axis, value, keep_ratio=keep)


def _bound(axis: int) -> Row:
    def shown(document: Document) -> float | None:
        if not document.chosen:
            return None
        return proportioning.bounds_of_chosen(document).sides[axis]

    label, key = SIDES[axis]
    tip = _("Of the bounding volume: everything inside is scaled with it.")
    return Row(label, Bound(key, tip, LengthField, shown, lambda document, mm: document))


def _counted(shown: Shown) -> str:
    document = shown.document
    if not document.chosen:
        return ""
    return proportioning.ratio_in_words(document, proportioning.bounds_of_chosen(document))


def _ratio(shown: Shown) -> str | None:
    if not shown.document.chosen:
        return None
    return proportion_of(proportioning.bounds_of_chosen(shown.document))


class WholePage(Page):
    """The whole framework: modules of the trade, and the bounding volume of what is chosen."""

    ROWS = (
        Heading(_("Modules")),
        Row("", Told(lambda shown: proportioning.modules_in_words(shown.document), "modules")),
        Row(
            _("set"),
            Words(
                said("module"),
                _("A module and its length, such as w = 620 mm, or track = 2 w."),
                lambda shown: "",
                _("module"),
                _set_module,
                clears=True,
            ),
        ),
        Row(
            "",
            Choosing(said("module to take away"), _("A module."), _modules),
            Button(
                _("Take away"),
                _("Take this module away; lengths stay."),
                _("take a module away"),
                _drop,
            ),
        ),
        Heading(_("Bounding volume of what is chosen")),
        *(_bound(axis) for axis in range(3)),
        Row("", Told(_counted, "counted")),
        Row(
            _("scale"),
            Choosing(
                said("scale"),
                _("Whether the ratio stays."),
                [_("keep the ratio"), _("this side only")],
            ),
        ),
        Row(
            _("l : w : h"),
            Words(RATIO, _("Length : width : height; the height stays."), _ratio),
            Button(
                _("Scale"),
                _("Scale everything inside to this ratio."),
                _("scale to a ratio"),
                _to_ratio,
            ),
            snug=True,
        ),
        Rest(),
    )

"""The Views page of the Eye tab: several views of the framework on one page."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any, ClassVar

from PyQt6.QtWidgets import QComboBox, QWidget

from isometron.deeds.deed import Deed, Given
from isometron.deeds.views import DEEDS as VIEWS
from isometron.document.document import Document, Edit
from isometron.document.edits import viewing
from isometron.document.edits.projecting import Projecting
from isometron.drawing.stretch import stretch_of
from isometron.ui.cards.slip.tile import DeedTile
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import Choice, LengthField, NumberField, RatioField, TextField
from isometron.ui.parts.page import Page, Piece, list_anew
from isometron.ui.parts.rows import (
    Always,
    Button,
    Choosing,
    Entry,
    Grid,
    Heading,
    Own,
    Rest,
    Row,
    Switch,
    Told,
    Words,
)
from isometron.words import _, said


class ViewsPage(Page):
    """The views, and the frame of the one that is looked at: the one in work, or a plan or
    elevation chosen here, which cannot be taken in work."""

    looked_at: int | None = None

    def view_of(self, document: Document) -> int:
        """The view that is looked at."""
        other = self.looked_at
        if other is None or other >= len(document.views):
            return document.view
        return other if document.views[other].eye.parallel is not None else document.view

    def look_at(self, number: int) -> None:
        """Look at another view; one with an eye is taken in work."""
        assert self.shown is not None
        flat = self.shown.document.views[number].eye.parallel is not None
        self.looked_at = number if flat else None
        if flat:
            self.show_again()
        else:
            self.wishes.edit(_("another view"), partial(viewing.choose_view, number=number))


def _page(page: Page) -> ViewsPage:
    assert isinstance(page, ViewsPage)
    return page


def _names(shown: Shown) -> list[tuple[str, int | None]]:
    return [
        (f"{number + 1}  {view.name}".rstrip(), number)
        for number, view in enumerate(shown.document.views)
    ]


class Which(Choosing):
    """The views by number and name."""

    def make(self, page: Page) -> QWidget:
        made = Choice(self.called, self.tip, [])
        made.activated.connect(_page(page).look_at)
        return made

    def show(self, widget: QComboBox, shown: Shown, page: Page) -> None:
        list_anew(widget, _names(shown))
        widget.setCurrentIndex(_page(page).view_of(shown.document))


@dataclass(repr=False, eq=False)
class OfView(Entry):
    """A number of the view that is looked at: read by `told`, changed by `given`."""

    told: Callable[[Document, int], float | None] = lambda document, number: None
    given: Callable[[Document, int, float], Document] = lambda document, number, value: document

    def done(self, page: Page, document: Document, value: Any) -> Document:
        return self.given(document, _page(page).view_of(document), value)

    def show(self, widget: NumberField, shown: Shown, page: Page) -> None:
        widget.family = ""
        widget.show_value(self.told(shown.document, _page(page).view_of(shown.document)))


class Name(Words):
    """The name of the view that is looked at."""

    def show(self, widget: TextField, shown: Shown, page: Page) -> None:
        widget.show_text(shown.document.views[_page(page).view_of(shown.document)].name)


@dataclass(repr=False, eq=False)
class Act(Button):
    """A button that changes the view that is looked at."""

    needs_volume: ClassVar[bool] = False


def _nothing(document: Document, value: Any) -> Document:
    return document


def _length(caption: str, tip: str, name: str) -> OfView:
    return OfView(
        f"frame {name.removesuffix('_mm')}",
        tip,
        LengthField,
        lambda d: None,
        _nothing,
        caption=caption,
        words=_("frame, {what}").format(what=caption),
        told=lambda d, n: getattr(viewing.frame_of(d, n), name),
        given=lambda d, n, mm: viewing.set_frame(d, n, name, mm),
    )


def _adds(deed: Deed) -> Own:
    """The tile of a deed that lays one more view on the page."""

    def made(page: Page) -> DeedTile:
        tile = DeedTile(page.wishes, deed)
        tile.clicked.connect(lambda _on=False: page.wishes.deed(deed, Given()))
        return tile

    def show(tile: DeedTile, shown: Shown) -> None:
        tile.setEnabled(deed.ready(shown.document, None))

    return Own(deed.key, made, show)


def _scale(document: Document, number: int) -> float | None:
    scale = document.views[number].eye.parallel
    return None if scale is None else 1.0 / scale


def _take_off(page: Page) -> Edit:
    def edit(document: Document) -> Document:
        number = _page(page).view_of(document)
        if number == document.view:
            return viewing.take_off_view(document)
        return viewing.take_off_numbered(document, number)

    return edit


def _cost(shown: Shown) -> str:
    """What the flat sheet costs at the farthest corner, or what a curved one keeps."""
    told = stretch_of(shown.document, shown.scene)
    if told is None:
        return ""
    off, curved = round(told.off_axis_deg), f"{told.curved:.2f}"
    if not math.isfinite(told.flat):
        words = _("{deg}° off the sight line only a curved sheet shows it: stretched {curved}.")
        return words.format(deg=off, curved=curved)
    words = _("{deg}° off the sight line: stretched {flat} on a flat sheet, {curved} on a curved.")
    return words.format(deg=off, flat=f"{told.flat:.2f}", curved=curved)


def _says(shown: Shown) -> str:
    if len(shown.document.views) == 1:
        return _("One view takes the whole sheet. Add another: all share the page.")
    return _("The framework is one: what is changed in one view shows in all. F10 takes the next.")


ROWS: tuple[Piece, ...] = (
    Row(
        _("view"),
        Which(said("view you work in"), _("Work in another view, or look at a plan's frame."), []),
    ),
    Row(
        _("called"),
        Name(
            said("name of the view"),
            _("What stands below its frame."),
            name=_("name of a view"),
            edit=lambda page, text: lambda d: viewing.name_view(d, _page(page).view_of(d), text),
        ),
    ),
    Row(
        _("drawn"),
        Choosing(
            said("flat or curved"),
            _("Flat: straight edges stay straight. Curved: nothing stretches toward the edges."),
            [_("flat"), _("curved")],
            _("flat or curved"),
            lambda n: Projecting(curved=n == 1),
            now=lambda shown: int(shown.document.eye.curved),
        ),
    ),
    Row("", Told(_cost)),
    Heading(_("One more view"), above=7),
    Grid(
        2,
        *map(_adds, VIEWS),
    ),
    Heading(_("Its frame"), above=7),
    Row(
        _("from"),
        _length(
            _("left"),
            _("How far it begins right of the paper's edge; its drawing goes along."),
            "left_mm",
        ),
        _length(
            _("up"),
            _("How far it begins above the paper's lower edge; its drawing goes along."),
            "bottom_mm",
        ),
    ),
    Row(
        _("size"),
        _length(_("wide"), _("How wide the frame is."), "width_mm"),
        _length(_("high"), _("How high the frame is."), "height_mm"),
    ),
    Row(
        _("scale 1 :"),
        OfView(
            said("scale of the plan"),
            _("A plan or elevation drawn so many times smaller than it is."),
            RatioField,
            lambda d: None,
            _nothing,
            told=_scale,
            given=viewing.set_scale,
        ),
    ),
    Row(
        "",
        Act(
            _("To thirds"),
            _("Move the frame's edges to the nearest thirds of the paper and lay the drawing in."),
            _("frame to thirds"),
            lambda page: lambda d: viewing.to_thirds(d, _page(page).view_of(d)),
        ),
        Act(
            _("Whole sheet"),
            _("Let the view take the whole sheet."),
            _("whole sheet"),
            lambda page: lambda d: viewing.whole_sheet(d, _page(page).view_of(d)),
        ),
    ),
    Row(
        "",
        Always(
            _("Share the page"),
            _("Lay all views side by side in equal frames."),
            _("share the page"),
            lambda page: viewing.share_page,
        ),
        Act(_("Take off"), _("Take this view off the page."), _("view taken off"), _take_off),
    ),
    Heading(_("Before and after"), above=7),
    Row(
        "",
        Switch(
            _("Keep this eye's lines"),
            _("What this eye draws stays pale under whatever the eye becomes."),
            _("before and after"),
            lambda d: d.views[d.view].before is not None,
            viewing.keep_before,
        ),
    ),
    Row("", Told(_says)),
    Rest(),
)
ViewsPage.ROWS = ROWS

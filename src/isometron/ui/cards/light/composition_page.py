"""The Marks page of the Light tab: thirds, middle, safe margin and crop."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits.finishing import mark_crop, mark_margin, set_crop, set_finish
from isometron.ui.parts.fields import LengthField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import Entry, Heading, Rest, Row, Switch
from isometron.words import _, said


def _crop(document: Document, name: str) -> float | None:
    crop = document.finish.crop
    return None if crop is None else getattr(crop, name)


def _length(caption: str, tip: str, name: str) -> Entry:
    return Entry(
        f"crop {name.removesuffix('_mm')}",
        tip,
        LengthField,
        partial(_crop, name=name),
        lambda d, mm: set_crop(d, name, mm),
        caption=caption,
        words=_("crop, {what}").format(what=caption),
    )


ROWS = (
    Heading(_("Composition")),
    Row(
        "",
        Switch(
            _("Thirds"),
            _("Mark the thirds of the crop, or of the paper where there is none."),
            _("thirds"),
            lambda d: d.finish.thirds,
            lambda d, on: set_finish(d, thirds=on),
        ),
        Switch(
            _("Middle"),
            _("Mark the middle of the crop, or of the paper where there is none."),
            _("middle"),
            lambda d: d.finish.middle,
            lambda d, on: set_finish(d, middle=on),
        ),
    ),
    Row(
        "",
        Switch(
            _("Safe margin"),
            _("Mark a margin inside the paper that nothing of weight should enter."),
            _("safe margin"),
            lambda d: d.finish.margin_mm is not None,
            mark_margin,
        ),
        Entry(
            said("safe margin"),
            _("How far the margin lies inside the paper's edges."),
            LengthField,
            lambda d: d.finish.margin_mm,
            lambda d, mm: set_finish(d, margin_mm=mm),
        ),
    ),
    Heading(_("Crop"), above=8),
    Row(
        "",
        Switch(
            _("Crop frame"),
            _("Mark the part of the sheet that the picture is cut to; drag its corners."),
            _("crop frame"),
            lambda d: d.finish.crop is not None,
            mark_crop,
        ),
    ),
    Row(
        _("from"),
        _length(_("left"), _("How far the crop begins right of the paper's edge."), "left_mm"),
        _length(_("up"), _("How far the crop begins above the paper's lower edge."), "bottom_mm"),
    ),
    Row(
        _("size"),
        _length(_("wide"), _("How wide the crop is."), "width_mm"),
        _length(_("high"), _("How high the crop is."), "height_mm"),
    ),
    Rest(),
)


class CompositionPage(Page):
    """Thirds, middle, safe margin and crop."""

    ROWS = ROWS

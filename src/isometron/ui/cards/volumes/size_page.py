"""The Size page: name, true sides, turn and place, and the proportion."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits import choosing, proportioning, volume_edits
from isometron.document.edits.places.origin import move_from_origin, place_from_origin
from isometron.document.edits.proportioning import known_lengths
from isometron.drawing.measures import from_near_corner
from isometron.framework.box import AXES
from isometron.framework.modules import Count, NewModule
from isometron.perspective.errors import LengthError
from isometron.perspective.lengths import read_ratio, read_three_lengths
from isometron.ui.cards.volumes.shares import Shares
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import (
    AngleField,
    DimensionField,
    LengthField,
    NumberField,
)
from isometron.ui.parts.page import Page, not_yet, proportion_of
from isometron.ui.parts.rows import Button, Entry, Own, Rest, Row, Said, Space, Wish, Words
from isometron.ui.parts.wishes import Edit
from isometron.words import _, quoted, said

SIDE_TIPS = (
    _("True width: a length, or a count such as 3 w or 1/2 height."),
    _("True depth: a length, or a count such as 2 w or width / 3."),
    _("True height, the length of the near edge: a length or a count."),
)


class Side(Entry):
    """A side: a length, or what it is counted in."""

    def show(self, widget: NumberField, shown: Shown, page: Page) -> None:
        axis, volume = SIDE_TIPS.index(self.tip), shown.document.volume
        count = volume.counts[axis] if volume else None
        if isinstance(widget, DimensionField):
            widget.show_count(count)
            widget.reads = partial(proportioning.read_side, shown.document, axis)
        super().show(widget, shown, page)


def _type_side(document: Document, value: float | Count | NewModule, axis: int) -> Document:
    if isinstance(value, NewModule):
        made = proportioning.type_new_module(document, axis, value.text)
        if made is None:
            raise LengthError(
                _(
                    "“{text}” makes no module: type a new name and a length, such as w = 62 cm."
                ).format(text=quoted(value.text))
            )
        return made
    return proportioning.type_side(document, axis, value)


def _side(axis: int) -> Side:
    return Side(
        AXES[axis],
        SIDE_TIPS[axis],
        DimensionField,
        lambda d: d.volume.sides[axis] if d.volume else None,
        partial(_type_side, axis=axis),
        family=lambda shown: shown.families[axis],
    )


def _place(name: str, axis: int, tip: str) -> Entry:
    def shown(document: Document) -> float | None:
        place = place_from_origin(document)
        return None if place is None else place[axis]

    def move(document: Document, mm: float) -> Document:
        return move_from_origin(document, axis, mm)

    return Entry(name, tip, LengthField, shown, move)


def _rename(page: Page, text: str) -> Edit:
    return partial(choosing.rename_volume, name=text)


def _proportion(page: Page, text: str) -> Edit:
    known = None if page.shown is None else known_lengths(page.shown.document)
    sides = read_three_lengths(text, page.unit, known)
    if sides is not None:
        return partial(volume_edits.set_sides, sides_mm=sides)
    return partial(volume_edits.make_proportion, ratio=read_ratio(text))


def _make_it(page: Page) -> Edit:
    text = page.text("width : depth : height")
    volume = page.shown.document.volume if page.shown else None
    if volume is not None and text == proportion_of(volume):
        return not_yet
    return _proportion(page, text)


def _show_shares(shares: Shares, shown: Shown) -> None:
    document = shown.document
    chosen = None if document.selected is None else shown.scene.pictures[document.selected]
    edges = from_near_corner(document.eye, chosen) if chosen else ()
    shares.show_edges(edges, shown.families, document.choices.unit)


class SizePage(Page):
    """Name, true sides, turn and place, and the proportion."""

    ROWS = (
        Row(
            _("name"),
            Words(
                said("name"),
                _("What this volume is called."),
                lambda shown: shown.document.volume.name if shown.document.volume else None,
                _("rename"),
                _rename,
            ),
        ),
        *(Row(_(side), _side(axis)) for axis, side in enumerate(AXES)),
        Row(
            _("turned"),
            Entry(
                said("turned"),
                _("Turn of the volume on the ground, counter-clockwise from above."),
                AngleField,
                lambda d: d.volume.yaw_deg if d.volume else None,
                volume_edits.turn_volume,
            ),
        ),
        Row(
            _("right"),
            _place(_("stands right"), 0, _("Its first corner, right of the ground origin.")),
            Said(_("away")),
            _place(_("stands away"), 1, _("Its first corner, away from the ground origin.")),
        ),
        Row(
            _("above ground"),
            _place(_("above ground"), 2, _("Height of its base above the ground origin.")),
        ),
        Space(),
        Row(
            "",
            Wish(
                _("Make it a cube"),
                _("All sides become the one last typed or picked, else the height."),
                lambda page: page.wishes.do("make cube"),
            ),
        ),
        Row(
            _("w : d : h"),
            Words(
                said("width : depth : height"),
                _("3 : 2 : 1, and the height stays; or lengths: 10 cm : 10 cm : 1.2 m."),
                lambda shown: (
                    proportion_of(shown.document.volume) if shown.document.volume else None
                ),
                _("make it w : d : h"),
                _proportion,
            ),
            Button(
                _("Make it"),
                _("Give it the proportion typed beside."),
                _("make it w : d : h"),
                _make_it,
            ),
            snug=True,
        ),
        Row("", Own("shares", lambda page: Shares(page.wishes), _show_shares)),
        Rest(),
    )

"""The Cuts page: what is cut out of a volume, each cut to be changed and taken away again."""

from functools import partial

from isometron.deeds import cuts as of_cuts
from isometron.document.edits.shapes import cutting
from isometron.framework.box import AXES
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.page import Page, not_yet
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Heading,
    Items,
    Rest,
    Row,
    Told,
    Words,
    asking,
    doing,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

WHICH, NEW = said("which cut"), _("a new cut")


def _every(shown: Shown) -> Items:
    volume = shown.document.volume
    unit = shown.document.choices.unit
    told = [] if volume is None else cutting.cuts_in_words(volume, unit)
    return [(NEW, None), *((words, number) for number, words in enumerate(told))]


def _span_key(axis: int) -> str:
    return f"cut along {AXES[axis]}"


class Span(Words):
    """Where the chosen cut goes along one side; of a new one what is typed for it."""

    def show(self, widget: TextField, shown: Shown, page: Page) -> None:
        volume, number = shown.document.volume, page.choice(WHICH).currentData()
        widget.setEnabled(volume is not None)
        if volume is not None and number is not None and number < len(volume.cuts):
            axis = [_span_key(a) for a in range(3)].index(self.key)
            cut = volume.cuts[number]
            span = cut.low[axis], cut.high[axis], volume.sides[axis], shown.document.choices.unit
            widget.show_text(cutting.write_span(*span))
            widget.setToolTip(f"{self.tip}\n{cutting.span_in_words(*span)}")


def _change(page: Page, text: str, axis: int) -> Edit:
    number = page.choice(WHICH).currentData()
    if number is None:
        return not_yet  # a new one is cut when all of it is typed
    return lambda d: cutting.change_cut(d, number, axis, text)


def _span(axis: int) -> Row:
    tip = _("From where to where: 1/3 to 2/3, 3 to 8 in the sheet's unit, 2/3 to end, or all.")
    return Row(
        _(AXES[axis]),
        Span(
            _span_key(axis),
            tip,
            None,
            _("change the cut"),
            partial(_change, axis=axis),
            _("all"),
            words=_("cut along {side}").format(side=_(AXES[axis])),
        ),
    )


def _understood(page: Page) -> str:
    """What is understood of what is typed, as lengths and shares of the sides."""
    volume = page.shown.document.volume if page.shown else None
    if volume is None:
        return ""
    told = []
    for axis, whole in enumerate(volume.sides):
        try:
            low, high = cutting.read_span(page.text(_span_key(axis)), whole, page.unit)
        except VolumeError as error:
            return str(error)
        if (low, high) != (0.0, 1.0):
            words = cutting.span_in_words(low, high, whole, page.unit)
            told.append(_("{side} {words}").format(side=_(AXES[axis]), words=words))
    return _("Takes out: {told}.").format(told="; ".join(told)) if told else ""


def _cut_new(page: Page) -> Edit:
    first, second, third = (page.text(_span_key(axis)) for axis in range(3))
    return lambda d: cutting.cut_span(d, (first, second, third))


def _fill(page: Page) -> Edit:
    number = page.choice(WHICH).currentData()
    if number is None:
        raise VolumeError(_("Choose the cut to take away first."))
    return lambda d: cutting.fill_cut(d, number)


class CutsPage(Page):
    """Every cut of the volume, and new ones."""

    ROWS = (
        Row("", Choosing(WHICH, _("The cut that is shown, changed or taken away."), _every)),
        _span(0),
        _span(1),
        _span(2),
        Row("", Told(of_page=_understood)),
        Row(
            "",
            Button(_("Cut it"), _("Cut this out as a new cut."), _("cut"), _cut_new),
            Button(_("Fill it"), _("Take the chosen cut back."), _("fill the cut"), _fill),
            doing("fill cuts"),
        ),
        Heading(_("Step along an edge")),
        Row("", asking(of_cuts.LEVEL), asking(of_cuts.EDGE_CUT)),
        Row(_("in, deep"), asking(of_cuts.INWARD), asking(of_cuts.DEEP), doing("cut step")),
        Heading(_("Chosen edges")),
        Row(_("off, other"), asking(of_cuts.OFF), asking(of_cuts.OTHER)),
        Row("", doing("chamfer edge"), doing("round edge"), doing("sharp edges")),
        Heading(_("Narrow along its width, as a nose")),
        Row(
            _("at, to, over"),
            asking(of_cuts.END),
            asking(of_cuts.NARROWS_TO),
            asking(of_cuts.NARROWS_OVER),
        ),
        Row("", doing("narrow end")),
        Heading(_("Shapes and openings")),
        Row("", *(doing(one.key) for one in of_cuts.NOTCHES)),
        Row("", asking(of_cuts.RUNS), asking(of_cuts.WALL), doing("pierce")),
        Row("", doing("cut other out")),
        Rest(),
    )

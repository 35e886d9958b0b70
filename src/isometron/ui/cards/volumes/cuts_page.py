"""The Cuts page: what is cut out of a volume, each cut to be changed and taken away again."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.shapes import cutting, edge_edits
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.framework.bodies.cuts import Cut
from isometron.framework.box import AXES
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import LengthField, ShareField, TextField
from isometron.ui.parts.page import Page, not_yet
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Heading,
    Items,
    Measure,
    Rest,
    Row,
    Told,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

CUT_WORDS = {
    "L": (said("L cut"), said("Cut the full box to the shape L.")),
    "T": (said("T cut"), said("Cut the full box to the shape T.")),
    "U": (said("U cut"), said("Cut the full box to the shape U.")),
    "notch": (said("notch"), said("Cut a notch into the full box.")),
}
WHICH, NEW = _("which cut"), _("a new cut")
LEVELS = (said("upper"), said("lower"))


def _every(shown: Shown) -> Items:
    volume = shown.document.volume
    unit = shown.document.choices.unit
    told = [] if volume is None else cutting.cuts_in_words(volume, unit)
    return [(NEW, None), *((words, number) for number, words in enumerate(told))]


def _span_key(axis: int) -> str:
    return _("cut along {side}").format(side=_(AXES[axis]))


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
            _span_key(axis), tip, None, _("change the cut"), partial(_change, axis=axis), _("all")
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


def _step(page: Page) -> Edit:
    side = cutting.EDGES_CUT[page.chosen(_("side of the step"))]
    upper = page.chosen(_("level of the step")) == 0
    inward, deep = page.number(_("step inward")), page.number(_("step deep"))
    return lambda d: cutting.step_cut(d, side, upper=upper, inward=inward, deep=deep)


def _pierce(page: Page) -> Edit:
    axis, mm = page.chosen(_("opening runs along")), page.number(_("wall"))
    return lambda d: cutting.pierce_opening(d, axis, mm)


def _picked_edges(page: Page, volume: Volume) -> list[int]:
    """The picked edge, or those round the picked face."""
    pick = page.pick
    if isinstance(pick, FacePick):
        return edge_edits.edges_of_face(volume, pick.index)
    otherwise = _("No edge is picked: click an edge, or a face for all edges round it.")
    return [page.picked(EdgePick, otherwise).index]


def _take_off(page: Page, *, rounded: bool) -> Edit:
    mm, other = page.number(_("taken off")), page.number(_("on the other face"))
    pick = page.pick
    if not isinstance(pick, (EdgePick, FacePick)):
        raise VolumeError(_("No edge is picked: click an edge, or a face for all edges round it."))

    def off(document: Document) -> Document:
        _index, volume = in_work(document)
        edges = _picked_edges(page, volume)
        return edge_edits.take_off(document, edges, mm, other or mm, rounded=rounded)

    return off


def _narrow(page: Page) -> Edit:
    end = ("left", "right")[page.chosen(_("end that narrows"))]
    share, over = page.number(_("narrows to")), page.number(_("over a length of"))
    return lambda d: edge_edits.narrow(d, end, share, over)


def _cut_other_out(document: Document) -> Document:
    others = [i for i in document.chosen if i != document.selected]
    if len(others) != 1:
        raise VolumeError(_("Choose two volumes: the one to cut last, and the one to cut with."))
    return cutting.cut_out(document, others[0])


def _shape(name: str, cuts: tuple[Cut, ...]) -> Button:
    text, tip = CUT_WORDS[name]
    return Button(
        _(text), _(tip), _(text), lambda page: partial(cutting.cut_by_fractions, cuts=cuts)
    )


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
            Button(
                _("Fill all"),
                _("Take every cut back."),
                _("fill the cuts"),
                lambda page: cutting.fill_cuts,
            ),
        ),
        Heading(_("Step along an edge")),
        Row(
            "",
            Choosing(
                _("level of the step"), _("The upper or the lower edge."), [_(x) for x in LEVELS]
            ),
            Choosing(
                _("side of the step"),
                _("The side whose edge is cut."),
                [_(side) for side in cutting.EDGES_CUT],
            ),
        ),
        Row(
            _("in, deep"),
            Measure(_("step inward"), _("How far in, as a share."), ShareField, 0.5),
            Measure(_("step deep"), _("How far down or up, as a share."), ShareField, 0.5),
            Button(_("Step"), _("Cut a step along this edge."), _("step"), _step),
        ),
        Heading(_("Chosen edges")),
        Row(
            _("off, other"),
            Measure(_("taken off"), _("How far from the edge, on each face."), LengthField, 20.0),
            Measure(
                _("on the other face"),
                _("How far on the other face, for a lean; 0 is as far."),
                LengthField,
                0.0,
            ),
        ),
        Row(
            "",
            Button(
                _("Chamfer"),
                _("Chamfer the picked edge, or all round the picked face."),
                _("chamfer the edge"),
                partial(_take_off, rounded=False),
            ),
            Button(
                _("Round"),
                _("Round the picked edge, or all round the picked face."),
                _("round the edge"),
                partial(_take_off, rounded=True),
            ),
            Button(
                _("Sharp"),
                _("All of its edges sharp again."),
                _("sharp edges"),
                lambda page: edge_edits.give_back,
            ),
        ),
        Heading(_("Narrow along its width, as a nose")),
        Row(
            _("at, to, over"),
            Choosing(_("end that narrows"), _("The end that narrows."), [_("left"), _("right")]),
            Measure(_("narrows to"), _("Its breadth there, as a share."), ShareField, 0.75),
            Measure(
                _("over a length of"), _("Over how much of its width, a share."), ShareField, 0.2
            ),
        ),
        Row("", Button(_("Narrow it"), _("Narrow it there."), _("narrow"), _narrow)),
        Heading(_("Shapes and openings")),
        Row("", *(_shape(name, cuts) for name, cuts in cutting.NOTCHES.items())),
        Row(
            "",
            Choosing(
                _("opening runs along"),
                _("Which way the opening runs."),
                [_(axis) for axis in AXES],
            ),
            Measure(_("wall"), _("How thick the wall round the opening is."), LengthField, 20.0),
            Button(
                _("Pierce"), _("Pierce an opening that leaves this wall."), _("pierce"), _pierce
            ),
        ),
        Row(
            "",
            Button(
                _("Cut the other out"),
                _("Cut the other chosen volume out of the one in work."),
                _("cut out"),
                lambda page: _cut_other_out,
            ),
        ),
        Rest(),
    )

"""Deeds that cut: steps along an edge, edges taken off, a narrower end, openings, notches."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Any

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Offered,
    Parameter,
    listed,
    plain,
    words,
)
from isometron.deeds.example import Example, box, two, upper_edge
from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.shapes import cutting, edge_edits
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.framework.bodies.cuts import Cut
from isometron.framework.box import AXES
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MATTER = Matter.CUTS

LEVEL = Parameter(
    said("level of the step"),
    _("The upper or the lower edge."),
    Measured.CHOICE,
    choices=(said("upper"), said("lower")),
    label=_("edge"),
)
EDGE_CUT = Parameter(
    said("side of the step"),
    _("The side whose edge is cut."),
    Measured.CHOICE,
    choices=tuple(cutting.EDGES_CUT),
    label=_("at the"),
)
INWARD = Parameter(
    said("step inward"), _("How far in, as a share."), Measured.SHARE, 0.5, label=_("in")
)
DEEP = Parameter(
    said("step deep"), _("How far down or up, as a share."), Measured.SHARE, 0.5, label=_("deep")
)
OFF = Parameter(
    said("taken off"),
    _("How far from the edge, on each face."),
    Measured.LENGTH,
    20.0,
    label=_("off"),
)
OTHER = Parameter(
    said("on the other face"),
    _("How far on the other face, for a lean; 0 is as far."),
    Measured.LENGTH,
    label=_("other face"),
)
END = Parameter(
    said("end that narrows"),
    _("The end that narrows."),
    Measured.CHOICE,
    choices=(said("left"), said("right")),
    label=_("end"),
)
NARROWS_TO = Parameter(
    said("narrows to"), _("Its breadth there, as a share."), Measured.SHARE, 0.75, label=_("to")
)
NARROWS_OVER = Parameter(
    said("over a length of"),
    _("Over how much of its width, a share."),
    Measured.SHARE,
    0.2,
    label=_("over"),
)
RUNS = Parameter(
    said("opening runs along"),
    _("Which way the opening runs."),
    Measured.CHOICE,
    choices=AXES,
    label=_("along"),
)
WALL = Parameter(
    said("wall"),
    _("How thick the wall round the opening is."),
    Measured.LENGTH,
    20.0,
    label=_("wall"),
)


def _cuts(document: Document) -> Offered:
    volume = document.volume
    told = [] if volume is None else cutting.cuts_in_words(volume, document.choices.unit)
    return [(words, number) for number, words in enumerate(told)]


WHICH = listed(
    said("which cut"), _("The cut that is changed or taken away."), _cuts, label=_("cut")
)
FIRST_CHOOSE = _("Choose the cut first.")


def _span_now(axis: int) -> Callable[[Document, Given], str | None]:
    def now(document: Document, given: Given) -> str | None:
        volume, number = document.volume, given.typed(WHICH)
        if volume is None or number is None or number >= len(volume.cuts):
            return None
        cut = volume.cuts[number]
        span = cut.low[axis], cut.high[axis], volume.sides[axis], document.choices.unit
        return cutting.write_span(*span)

    return now


SPAN_TIP = _("From where to where: 1/3 to 2/3, 3 to 8 in the sheet's unit, 2/3 to end, or all.")
SPANS = tuple(words(f"cut along {axis}", SPAN_TIP, _("all"), label=_(axis)) for axis in AXES)
CHANGED_SPANS = tuple(
    replace(one, key=f"{one.key} now", now=_span_now(axis)) for axis, one in enumerate(SPANS)
)


def _cut(document: Document, given: Given) -> Document:
    first, second, third = (given.text(span) for span in SPANS)
    return cutting.cut_span(document, (first, second, third))


def _cut_told(document: Document, given: Given) -> str:
    """What is understood of what is typed, as lengths and shares of the sides."""
    volume, unit = document.volume, document.choices.unit
    if volume is None:
        return ""
    told = []
    for axis, whole in enumerate(volume.sides):
        low, high = cutting.read_span(given.text(SPANS[axis]), whole, unit)
        if (low, high) != (0.0, 1.0):
            told.append(
                _("{side} {words}").format(
                    side=_(AXES[axis]), words=cutting.span_in_words(low, high, whole, unit)
                )
            )
    return _("Takes out: {told}.").format(told="; ".join(told)) if told else ""


def _change(document: Document, given: Given) -> Document:
    """Every span that was typed anew."""
    number = given.one(WHICH, document, FIRST_CHOOSE)
    for axis, span in enumerate(CHANGED_SPANS):
        text = given.text(span)
        if span.now and text and text != span.now(document, given):
            document = cutting.change_cut(document, number, axis, text)
    return document


def _fill(document: Document, given: Given) -> Document:
    return cutting.fill_cut(document, given.one(WHICH, document, FIRST_CHOOSE))


def _step(document: Document, given: Given) -> Document:
    side, upper = given.chosen(EDGE_CUT), given.whole(LEVEL) == 0
    return cutting.step_cut(document, side, upper=upper, inward=given[INWARD], deep=given[DEEP])


def _take_off(document: Document, given: Given, *, rounded: bool) -> Document:
    """Off the picked edge, or off all edges round the picked face."""
    pick, (_index, volume) = given.pick, in_work(document)
    if isinstance(pick, FacePick):
        edges = edge_edits.edges_of_face(volume, pick.index)
    elif isinstance(pick, EdgePick):
        edges = [pick.index]
    else:
        raise VolumeError(_("No edge is picked: click an edge, or a face for all edges round it."))
    mm = given[OFF]
    return edge_edits.take_off(document, edges, mm, given[OTHER] or mm, rounded=rounded)


def _narrow(document: Document, given: Given) -> Document:
    return edge_edits.narrow(document, given.chosen(END), given[NARROWS_TO], given[NARROWS_OVER])


def _cut_other_out(document: Document) -> Document:
    others = [i for i in document.chosen if i != document.selected]
    if len(others) != 1:
        raise VolumeError(_("Choose two volumes: the one to cut last, and the one to cut with."))
    return cutting.cut_out(document, others[0])


def _notch(name: str, text: str, tip: str, cuts: tuple[Cut, ...]) -> Deed:
    return Deed(name, text, tip, text, plain(partial(cutting.cut_by_fractions, cuts=cuts)))


NOTCHES = tuple(
    _notch(f"cut {name}", text, tip, cutting.NOTCHES[name])
    for name, text, tip in (
        ("L", _("L cut"), _("Cut the full box to the shape L.")),
        ("T", _("T cut"), _("Cut the full box to the shape T.")),
        ("U", _("U cut"), _("Cut the full box to the shape U.")),
        ("notch", _("notch"), _("Cut a notch into the full box.")),
    )
)


def _chamfered() -> Example:
    """A cube with an edge off."""
    example = upper_edge()
    return Example(_take_off(example.document, Given(pick=example.pick), rounded=False))


def _overlapping() -> Example:
    """Two boxes, one standing in the other, both chosen."""
    example = two()
    first, second = example.document.volumes
    aside = 0.4 * first.width_mm
    tool = replace(second, x_mm=first.x_mm - aside, y_mm=first.y_mm - aside, z_mm=aside)
    return Example(example.document.with_volume(1, tool))


EDGES = (ActsOn.EDGE, ActsOn.FACE)


def _with_cut(**values: Any) -> Example:
    return Example(
        cutting.cut_by_fractions(box().document, cutting.NOTCHES["L"]),
        None,
        {WHICH.key: 0, **values},
    )


DEEDS = (
    Deed(
        "cut span",
        _("Cut a piece out"),
        _("Cut a piece out, said by where it begins and ends along each side."),
        _("cut"),
        _cut,
        SPANS,
        shows=lambda: Example(
            box().document, None, {SPANS[0].key: "1/2 to end", SPANS[2].key: "1/2 to end"}
        ),
        told=_cut_told,
        finds=_("remove subtract notch recess"),
    ),
    Deed(
        "change cut",
        _("Change a cut"),
        _("Let a cut go from and to other places."),
        _("change the cut"),
        _change,
        (WHICH, *CHANGED_SPANS),
        (ActsOn.CUT,),
        shows=lambda: _with_cut(**{CHANGED_SPANS[0].key: "1/4 to end"}),
    ),
    Deed(
        "fill cut",
        _("Fill a cut"),
        _("Take one cut back."),
        _("fill the cut"),
        _fill,
        (WHICH,),
        (ActsOn.CUT,),
        shows=_with_cut,
    ),
    Deed(
        "fill cuts",
        _("Fill all cuts"),
        _("Take every cut back."),
        _("fill the cuts"),
        plain(cutting.fill_cuts),
        acts_on=(ActsOn.CUT,),
        shows=lambda: Example(cutting.cut_by_fractions(box().document, cutting.NOTCHES["L"])),
    ),
    Deed(
        "cut step",
        _("Step cut"),
        _("Cut a step along this edge."),
        _("step"),
        _step,
        (LEVEL, EDGE_CUT, INWARD, DEEP),
    ),
    Deed(
        "chamfer edge",
        _("Chamfer edge"),
        _("Chamfer the picked edge, or all round the picked face."),
        _("chamfer the edge"),
        partial(_take_off, rounded=False),
        (OFF, OTHER),
        EDGES,
        shows=upper_edge,
    ),
    Deed(
        "round edge",
        _("Round edge"),
        _("Round the picked edge, or all round the picked face."),
        _("round the edge"),
        partial(_take_off, rounded=True),
        (OFF, OTHER),
        EDGES,
        shows=upper_edge,
    ),
    Deed(
        "sharp edges",
        _("Sharp again"),
        _("All of its edges sharp again."),
        _("sharp edges"),
        plain(edge_edits.give_back),
        shows=_chamfered,
    ),
    Deed(
        "narrow end",
        _("Narrow an end"),
        _("Narrow it there."),
        _("narrow"),
        _narrow,
        (END, NARROWS_TO, NARROWS_OVER),
    ),
    *NOTCHES,
    Deed(
        "pierce",
        _("Pierce it"),
        _("Pierce an opening that leaves this wall."),
        _("pierce"),
        lambda d, given: cutting.pierce_opening(d, given.whole(RUNS), given[WALL]),
        (RUNS, WALL),
    ),
    Deed(
        "cut other out",
        _("Cut the other out"),
        _("Cut the other chosen volume out of the one picked last."),
        _("cut out"),
        plain(_cut_other_out),
        acts_on=(ActsOn.VOLUMES,),
        shows=_overlapping,
    ),
)

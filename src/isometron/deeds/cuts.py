"""Deeds that cut: steps along an edge, edges taken off, a narrower end, openings, notches."""

from dataclasses import replace
from functools import partial

from isometron.deeds.deed import ActsOn, Deed, Given, Measured, Parameter, plain
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

LEVEL = Parameter(
    said("level of the step"),
    _("The upper or the lower edge."),
    Measured.CHOICE,
    choices=(said("upper"), said("lower")),
)
EDGE_CUT = Parameter(
    said("side of the step"),
    _("The side whose edge is cut."),
    Measured.CHOICE,
    choices=tuple(cutting.EDGES_CUT),
)
INWARD = Parameter(said("step inward"), _("How far in, as a share."), Measured.SHARE, 0.5)
DEEP = Parameter(said("step deep"), _("How far down or up, as a share."), Measured.SHARE, 0.5)
OFF = Parameter(said("taken off"), _("How far from the edge, on each face."), Measured.LENGTH, 20.0)
OTHER = Parameter(
    said("on the other face"),
    _("How far on the other face, for a lean; 0 is as far."),
    Measured.LENGTH,
)
END = Parameter(
    said("end that narrows"),
    _("The end that narrows."),
    Measured.CHOICE,
    choices=(said("left"), said("right")),
)
NARROWS_TO = Parameter(
    said("narrows to"), _("Its breadth there, as a share."), Measured.SHARE, 0.75
)
NARROWS_OVER = Parameter(
    said("over a length of"), _("Over how much of its width, a share."), Measured.SHARE, 0.2
)
RUNS = Parameter(
    said("opening runs along"),
    _("Which way the opening runs."),
    Measured.CHOICE,
    choices=AXES,
)
WALL = Parameter(said("wall"), _("How thick the wall round the opening is."), Measured.LENGTH, 20.0)


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

DEEDS = (
    Deed(
        "fill cuts",
        _("Fill all"),
        _("Take every cut back."),
        _("fill the cuts"),
        plain(cutting.fill_cuts),
        shows=lambda: Example(cutting.cut_by_fractions(box().document, cutting.NOTCHES["L"])),
    ),
    Deed(
        "cut step",
        _("Step"),
        _("Cut a step along this edge."),
        _("step"),
        _step,
        (LEVEL, EDGE_CUT, INWARD, DEEP),
    ),
    Deed(
        "chamfer edge",
        _("Chamfer"),
        _("Chamfer the picked edge, or all round the picked face."),
        _("chamfer the edge"),
        partial(_take_off, rounded=False),
        (OFF, OTHER),
        EDGES,
        shows=upper_edge,
    ),
    Deed(
        "round edge",
        _("Round"),
        _("Round the picked edge, or all round the picked face."),
        _("round the edge"),
        partial(_take_off, rounded=True),
        (OFF, OTHER),
        EDGES,
        shows=upper_edge,
    ),
    Deed(
        "sharp edges",
        _("Sharp"),
        _("All of its edges sharp again."),
        _("sharp edges"),
        plain(edge_edits.give_back),
        shows=_chamfered,
    ),
    Deed(
        "narrow end",
        _("Narrow it"),
        _("Narrow it there."),
        _("narrow"),
        _narrow,
        (END, NARROWS_TO, NARROWS_OVER),
    ),
    *NOTCHES,
    Deed(
        "pierce",
        _("Pierce"),
        _("Pierce an opening that leaves this wall."),
        _("pierce"),
        lambda d, given: cutting.pierce_opening(d, given.whole(RUNS), given[WALL]),
        (RUNS, WALL),
    ),
    Deed(
        "cut other out",
        _("Cut the other out"),
        _("Cut the other chosen volume out of the one in work."),
        _("cut out"),
        plain(_cut_other_out),
        acts_on=(ActsOn.VOLUMES,),
        shows=_overlapping,
    ),
)

"""Deeds of size: name, true sides and their proportion, what they are counted in, and the bounding
volume of what is chosen."""

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
    choice,
    in_place,
    length,
    listed,
    of_volume,
    words,
)
from isometron.deeds.example import Example, box, two, upper_edge, with_module
from isometron.document.document import Document
from isometron.document.edits import choosing, proportioning, sizing, volume_edits
from isometron.drawing.picks.edge import EdgePick
from isometron.framework.box import AXES
from isometron.framework.modules import Count, NewModule
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.lengths import read_ratio
from isometron.words import _, quoted, said

MATTER = Matter.SIZE

SIDE_TIPS = (
    _("True width: a length, or a count such as 3 w or 1/2 height."),
    _("True depth: a length, or a count such as 2 w or width / 3."),
    _("True height, the length of the near edge: a length or a count."),
)
BOUNDS = (said("bounding length"), said("bounding width"), said("bounding height"))

RATIO = words(
    said("width : depth : height"),
    _("A ratio such as 3 : 2 : 1, and the height stays; or lengths: 10 cm : 10 cm : 1.2 m."),
    label=_("w : d : h"),
    now=lambda document, given: (
        None if document.volume is None else sizing.proportion_of(document.volume)
    ),
)
MODULE = words(
    said("module"),
    _("A module and its length, such as w = 620 mm, or track = 2 w."),
    label=_("module"),
)
BOUNDS_RATIO = words(
    said("length : width : height"),
    _("Length : width : height of what is chosen; the height stays."),
    label=_("l : w : h"),
    now=lambda document, given: _bounds_ratio(document),
)
KEEPS = choice(
    said("scale"),
    _("Whether the ratio stays."),
    (said("keep the ratio"), said("this side only")),
)


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


def _side(axis: int) -> Deed:
    side = Parameter(
        AXES[axis],
        SIDE_TIPS[axis],
        Measured.SIDE,
        now=of_volume(lambda volume: volume.sides[axis]),
        upright=axis == 2,
    )
    return in_place(side, partial(_type_side, axis=axis), 90.0)


def _edge_mm(document: Document, given: Given) -> float | None:
    pick = given.pick
    if not isinstance(pick, EdgePick):
        return None
    return float(document.volumes[pick.volume].body.true_mm[pick.index])


def _lengthen(document: Document, given: Given) -> Document:
    pick = given.picked(EdgePick, _("No edge is picked: click the edge whose length you know."))
    body = document.volumes[pick.volume].body
    axis, mm = int(body.edge_axes[pick.index]), given[EDGE_LENGTH]
    if axis < 0:
        raise VolumeError(
            _("A sloping edge is no side of its volume: give the side that it leans from.")
        )
    side = document.volumes[pick.volume].sides[axis]
    chosen = choosing.select(document, pick.volume)
    true = float(body.true_mm[pick.index])
    return volume_edits.set_side(chosen, axis, side * mm / true)


EDGE_LENGTH = length(
    said("length of the edge"),
    _("Its true length; the side of the volume along it follows, the near corner stays."),
    label=_("length"),
    now=_edge_mm,
)


def _modules(document: Document) -> Offered:
    return [(module.name, n) for n, module in enumerate(document.modules)]


WHICH_MODULE = listed(said("module to take away"), _("A module."), _modules, label=_("module"))


def _drop(document: Document, given: Given) -> Document:
    number = given.one(WHICH_MODULE, document, _("There is no module to take away."))
    return proportioning.remove_module(document, document.modules[number].name)


def _bounds_ratio(document: Document) -> str | None:
    if not document.chosen:
        return None
    return sizing.proportion_of(proportioning.bounds_of_chosen(document))


def _bound(axis: int) -> Parameter:
    def now(document: Document, given: Given) -> float | None:
        if not document.chosen:
            return None
        return proportioning.bounds_of_chosen(document).sides[axis]

    tip = _("Of the bounding volume: everything inside is scaled with it.")
    label = (_("length"), _("width"), _("height"))[axis]
    return length(BOUNDS[axis], tip, label=label, now=now)


SIDES_OF_BOUNDS = tuple(_bound(axis) for axis in range(3))


def _stretch(document: Document, given: Given) -> Document:
    """Every side that was typed anew, one after the other."""
    keep = given.whole(KEEPS) == 0
    for axis, side in enumerate(SIDES_OF_BOUNDS):
        was = side.now(document, given) if side.now else None
        mm = given[side]
        if was is not None and mm and abs(mm - was) > SAME_MM:
            document = proportioning.stretch_bounds(document, axis, mm, keep_ratio=keep)
            if keep:  # the others have followed
                break
    return document


SAME_MM = 1e-9
"""A side within this of what it was has not been typed anew."""


def _scaled(document: Document, given: Given) -> Document:
    return proportioning.make_bounds_ratio(document, read_ratio(given.text(BOUNDS_RATIO)))


def _counted(document: Document, given: Given) -> str:
    if not document.chosen:
        return ""
    return proportioning.ratio_in_words(document, proportioning.bounds_of_chosen(document))


def _two_with(**values: Any) -> Example:
    return Example(two().document, None, {key.replace("_", " "): v for key, v in values.items()})


DEEDS = (
    in_place(
        words(
            said("name"),
            _("What this volume is called."),
            now=of_volume(lambda volume: volume.name),
        ),
        lambda document, text: choosing.rename_volume(document, name=text),
        said("Case"),
        name=_("rename"),
    ),
    *(_side(axis) for axis in range(3)),
    in_place(RATIO, sizing.say_sides, "2 : 1 : 1", name=_("make it w : d : h")),
    Deed(
        "edge length",
        _("Its length"),
        _("Give the picked edge a true length; the side of the volume along it follows."),
        _("length of the edge"),
        _lengthen,
        (EDGE_LENGTH,),
        (ActsOn.EDGE,),
        shows=lambda: Example(upper_edge().document, upper_edge().pick, {EDGE_LENGTH.key: 150.0}),
        finds=_("longer shorter true side"),
    ),
    Deed(
        "set module",
        _("Module"),
        _("Give a length a name, to count sides in: w = 620 mm."),
        _("module"),
        lambda document, given: proportioning.type_module(document, given.text(MODULE)),
        (MODULE,),
        (ActsOn.SHEET,),
        shows=lambda: Example(box().document, None, {MODULE.key: "w = 620 mm"}),
        told=lambda document, given: proportioning.modules_in_words(document),
        finds=_("count wheel diameter unit"),
    ),
    Deed(
        "drop module",
        _("Drop a module"),
        _("Take a module away; lengths stay."),
        _("take a module away"),
        _drop,
        (WHICH_MODULE,),
        (ActsOn.MODULE,),
        shows=lambda: Example(with_module().document, None, {WHICH_MODULE.key: 0}),
    ),
    Deed(
        "stretch whole",
        _("Bounding sides"),
        _("Give the bounding volume of what is chosen another side; all inside is scaled."),
        _("scale the whole"),
        _stretch,
        (*SIDES_OF_BOUNDS, KEEPS),
        shows=lambda: _two_with(bounding_length=400.0),
        told=_counted,
        finds=_("whole bounding volume overall scale"),
    ),
    Deed(
        "whole ratio",
        _("Bounding ratio"),
        _("Scale everything chosen to a ratio of length, width and height."),
        _("scale to a ratio"),
        _scaled,
        (BOUNDS_RATIO,),
        shows=lambda: _two_with(**{"length : width : height": "4 : 1 : 1"}),
        finds=_("whole bounding volume overall proportion"),
    ),
)

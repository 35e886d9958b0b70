"""A table on four legs and a round stool before it."""

from isometron.document.edits.fittings.legs import Legs, legs_under, standing
from isometron.document.edits.starters.starter import (
    Made,
    Question,
    Starter,
    Values,
    side,
    span,
)
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds import turned as lathe
from isometron.framework.modules import Module
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

TOP, LEG = 30.0, 60.0
"""Thickness of the top and of a leg, mm."""


def _table(values: Values) -> Made:
    long, deep, high = (values[k] for k in ("length", "depth", "height"))
    wide, tall = values["stool diameter"], values["stool height"]
    if high <= 2 * TOP or min(long, deep) <= 3 * LEG:
        raise VolumeError(_("That is too small for a table: make it higher or wider."))
    group = _("Table")
    top = Volume(_("Top"), long, deep, TOP, z_mm=high - TOP, key=0, group=group)
    legs = legs_under(top, Legs(high - TOP, LEG, LEG / 2), 1, twins=10)
    meant = standing(legs)
    if not tall:
        return Made((Module("table", high),), [top, *legs], meant)
    stool = Volume(
        _("Stool"),
        *(wide, wide, tall),
        *((long - wide) / 2, -wide - 0.25 * deep, 0.0),
        shape=lathe.CYLINDER,
        key=20,
    )
    made = [top, *legs, stool]
    return Made((Module("table", high),), made, (*meant, Centred(20, 0, 0)))


TABLE = Starter(
    said("Table and stool"),
    said("millimetres"),
    (
        Question(said("length"), "length", 1400.0, said("From side to side."), measure=side(0, 0)),
        Question(said("depth"), "length", 700.0, said("From front to back."), measure=side(0, 1)),
        Question(
            said("height"),
            "length",
            740.0,
            said("From the ground to the top."),
            measure=span(1, 0.0, 0, 1.0, 2),
        ),
        Question(
            said("stool height"),
            "length",
            450.0,
            said("Of a stool before it; 0 for none."),
            none=True,
            measure=side(20, 2),
        ),
        Question(
            said("stool diameter"), "length", 340.0, said("Of its seat."), measure=side(20, 0)
        ),
    ),
    _table,
)

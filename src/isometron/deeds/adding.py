"""Deeds that put something new on the sheet."""

from isometron.deeds.deed import ActsOn, Deed, plain
from isometron.deeds.example import blank
from isometron.document.edits.places import aiding, laying
from isometron.document.edits.shapes import rounding
from isometron.words import _

FLOOR_BEHIND_MM = 300.0
"""A floor line lies so far behind everything at first."""

DEEDS = (
    Deed(
        "add box",
        _("Add a box"),
        _("Put a cube on the ground before us."),
        _("add a box"),
        plain(laying.add_box),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+B",),
        shows=blank,
    ),
    Deed(
        "floor line",
        _("Floor line"),
        _("Draw where floor and wall meet, a little behind everything."),
        _("floor line"),
        lambda document, given: aiding.add_aid(document, "floor line", FLOOR_BEHIND_MM),
        keys=("Ctrl+Shift+B",),
    ),
    Deed(
        "add wheel",
        _("Add a wheel"),
        _("Put a wheel on the ground before us."),
        _("add a wheel"),
        lambda document, given: rounding.add_round(document, "wheel"),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+R",),
        shows=blank,
    ),
)

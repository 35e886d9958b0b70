"""Deeds that put something new on the sheet."""

from isometron.deeds.deed import ActsOn, Deed, Matter, plain
from isometron.deeds.example import blank
from isometron.deeds.shapes import FORM
from isometron.document.edits.places import laying
from isometron.document.edits.shapes import rounding
from isometron.words import _

MATTER = Matter.ADD

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
        "add wheel",
        _("Add a wheel"),
        _("Put a wheel on the ground before us."),
        _("add a wheel"),
        lambda document, given: rounding.add_round(document, "wheel"),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+R",),
        shows=blank,
    ),
    Deed(
        "add round",
        _("Add a round"),
        _("Put a round form on the ground before us."),
        _("add a round"),
        lambda document, given: rounding.add_round(document, given.chosen(FORM)),
        (FORM,),
        (ActsOn.SHEET,),
        shows=blank,
        finds=_("cylinder cone sphere tube dome wheel turned lathe"),
    ),
    Deed(
        "add turned",
        _("Turned form"),
        _("Put a cylinder on the ground before us, to be given radii by height."),
        _("add a cylinder"),
        lambda document, given: rounding.add_round(document, "cylinder"),
        acts_on=(ActsOn.SHEET,),
        shows=blank,
        finds=_("lathe cylinder round radii"),
    ),
)

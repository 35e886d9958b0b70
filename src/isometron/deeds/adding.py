"""Deeds that put something new on the sheet."""

from isometron.deeds.deed import ActsOn, Deed, Matter, plain
from isometron.deeds.example import blank
from isometron.document.edits.places import laying
from isometron.document.edits.shapes import rounding
from isometron.words import _

MATTER = Matter.ADD


def _round(form: str) -> Deed:
    """A round form put on the ground."""
    return Deed(
        f"add {form}",
        _(form).capitalize(),
        _("Put a {form} on the ground before us.").format(form=_(form)),
        _("add a {form}").format(form=_(form)),
        lambda document, given: rounding.add_round(document, form),
        acts_on=(ActsOn.SHEET,),
        shows=blank,
        finds=_("add round turned lathe"),
    )


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
    *(_round(form) for form in rounding.FORMS if form != "wheel"),
)

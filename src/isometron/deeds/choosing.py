"""Deeds with what is chosen: choosing, grouping, copying."""

from isometron.deeds.deed import ActsOn, Deed, Matter, plain
from isometron.deeds.example import Example, box, joined, two
from isometron.document.edits import choosing, volume_edits
from isometron.words import _

MATTER = Matter.COPIES


def _grouped() -> Example:
    return Example(choosing.group_chosen(joined().document))


DEEDS = (
    Deed(
        "duplicate",
        _("Duplicate"),
        _("Set copies of the chosen volumes beside them."),
        _("copy the volume"),
        plain(volume_edits.duplicate_volume),
        keys=("Ctrl+D",),
        shows=box,
    ),
    Deed(
        "choose all",
        _("Choose all"),
        _("Choose every volume."),
        _("choose"),
        plain(choosing.choose_all),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+A",),
        shows=two,
    ),
    Deed(
        "choose group",
        _("Choose group"),
        _("Choose everything in the groups of what is chosen."),
        _("choose"),
        plain(choosing.choose_group),
        keys=("Ctrl+Shift+G",),
        shows=_grouped,
    ),
    Deed(
        "group",
        _("Group"),
        _("Make the chosen volumes one body."),
        _("group"),
        plain(choosing.group_chosen),
        keys=("Ctrl+G",),
        shows=joined,
    ),
    Deed(
        "ungroup",
        _("Ungroup"),
        _("Let the chosen volumes be bodies of their own again."),
        _("ungroup"),
        plain(choosing.ungroup),
        acts_on=(ActsOn.GROUP,),
        keys=("Ctrl+Alt+G",),
        shows=_grouped,
    ),
)

"""Deeds that lay one more view on the page: of the same eye, from behind, without foreshortening,
of one volume, from below and above."""

from functools import cache, partial

from isometron.deeds.deed import ActsOn, Deed, Matter, plain
from isometron.deeds.example import Example
from isometron.document.document import Document
from isometron.document.edits import viewing
from isometron.document.edits.choosing import select
from isometron.document.edits.starters import SEAT, with_starter
from isometron.words import _

MATTER = Matter.EYE


LEG = 2
"""The number of a leg of the seat."""


@cache
def _seat() -> Example:
    """A seat: every side of it looks different.."""
    document = with_starter(Document(), SEAT, {**SEAT.proposal, "arms": 0.0, "slats": 0.0})
    return Example(select(document, 0))


_SIDES = tuple(
    Deed(
        f"{side} view",
        _(side).capitalize(),
        _("One more view without foreshortening, at a scale: {side}.").format(side=_(side)),
        _("one more view"),
        plain(partial(viewing.add_side, side=side)),
        acts_on=(ActsOn.SHEET,),
        shows=_seat,
        finds=_("elevation orthographic page of views"),
    )
    for side in viewing.SIDES
)

DEEDS = (
    Deed(
        "view from here",
        _("From here"),
        _("One more view from this eye."),
        _("one more view"),
        plain(viewing.add_view),
        acts_on=(ActsOn.SHEET,),
        shows=_seat,
        finds=_("page of views"),
    ),
    Deed(
        "view from behind",
        _("From behind"),
        _("One more view from the other side, half round."),
        _("one more view"),
        plain(viewing.add_from_behind),
        acts_on=(ActsOn.SHEET,),
        shows=_seat,
        finds=_("page of views"),
    ),
    Deed(
        "view of a detail",
        _("Detail"),
        _("One more view of the picked volume alone, large."),
        _("one more view"),
        plain(viewing.add_detail),
        shows=lambda: Example(select(_seat().document, LEG)),
        finds=_("page of views close"),
    ),
    Deed(
        "worm and bird",
        _("Worm and bird"),
        _("One from below and one from above, on one eye level with the same points."),
        _("one more view"),
        plain(viewing.worm_and_bird),
        acts_on=(ActsOn.SHEET,),
        shows=_seat,
        finds=_("page of views three-point"),
    ),
    *_SIDES,
)

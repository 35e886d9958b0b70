"""A ticket kiosk: a body with a window through its front, a counter under it, a roof that stands
out."""

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side, span
from isometron.framework.bodies.cuts import Cut
from isometron.framework.intentions.centred import Centred
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

WALL, ROOF, BOARD = 60.0, 120.0, 40.0
"""Thickness of a wall, of the roof and of the counter, mm."""


def _kiosk(values: Values) -> Made:
    wide, deep, high = (values[k] for k in ("width", "depth", "height"))
    sill, over, out = (values[k] for k in ("counter height", "overhang", "counter depth"))
    if min(wide, deep) <= 4 * WALL or sill >= 0.8 * high:
        raise VolumeError(_("That leaves no window over the counter: make it higher or wider."))
    group = _("Kiosk")
    x, y = WALL / wide, WALL / deep
    window = Cut((0.16, 0.0, sill / high), (0.84, y, min(sill / high + 0.42, 0.92)))
    room = Cut((x, y, WALL / high), (1 - x, 1 - y, 1 - WALL / high))
    body = Volume(_("Walls"), wide, deep, high, cuts=(window, room), key=0, group=group)
    counter = Volume(
        _("Counter"),
        *(0.76 * wide, out, BOARD),
        on=Anchor(0, (0.12, 0.0, 0.0), (0.0, -out, sill - BOARD)),
        key=1,
        group=group,
    )
    roof = Volume(
        _("Roof"),
        *(wide + 2 * over, deep + 2 * over, ROOF),
        on=Anchor(0, (0.0, 0.0, 1.0), (-over, -over, 0.0)),
        key=2,
        group=group,
    )
    meant = Centred(1, 0, 0), Centred(2, 0, 0), Centred(2, 0, 1)
    return Made((Module("kiosk", wide),), [body, counter, roof], meant)


KIOSK = Starter(
    said("Ticket kiosk"),
    said("millimetres"),
    (
        Question(said("width"), "length", 1600.0, said("From side to side."), measure=side(0, 0)),
        Question(said("depth"), "length", 1300.0, said("From front to back."), measure=side(0, 1)),
        Question(said("height"), "length", 2400.0, said("Under the roof."), measure=side(0, 2)),
        Question(
            said("counter height"),
            "length",
            1050.0,
            said("From the ground to its top."),
            measure=span(0, 0.0, 1, 1.0, 2),
        ),
        Question(
            said("counter depth"),
            "length",
            280.0,
            said("How far it stands out."),
            measure=side(1, 1),
        ),
        Question(
            said("overhang"),
            "length",
            200.0,
            said("How far the roof stands out all round."),
            none=True,
            measure=span(2, 0.0, 0, 0.0, 1),
        ),
    ),
    _kiosk,
)

"""A shed: walls whose ends slope to a lean-to roof with overhang and thickness."""

import math

from isometron.document.edits.shapes.building_parts import rise_of
from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side, span
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

LOWEST = 0.2
"""The back wall is at least this share as high as the front."""


def _shed(values: Values) -> Made:
    long, deep, front = (values[k] for k in ("length", "depth", "front height"))
    over, thick, pitch = values["overhang"], values["roof thickness"], values["roof pitch"]
    fall = rise_of(pitch)
    back, upright = front - deep * fall, thick / math.cos(math.radians(pitch))
    if back < LOWEST * front:
        raise VolumeError(_("The roof comes down too low behind: make it flatter, or less deep."))
    ends = (Knot(0.0, 0.0), Knot(1.0, 0.0), Knot(1.0, back / front), Knot(0.0, 1.0))
    down = (deep + 2 * over) * fall
    high = down + upright
    slab = (Knot(0.0, down / high), Knot(1.0, 0.0), Knot(1.0, upright / high), Knot(0.0, 1.0))
    group = _("Shed")
    walls = Extruded((ends,), axis=0, name="walls")
    body = Volume(_("Walls"), long, deep, front, shape=walls, key=0, group=group)
    roof = Volume(
        _("Roof"),
        *(long + 2 * over, deep + 2 * over, high),
        shape=Extruded((slab,), axis=0, name="roof"),
        on=Anchor(0, (0.0, 0.0, 0.0), (-over, -over, back - over * fall)),
        key=1,
        group=group,
    )
    return Made((Module("wall", front),), [body, roof], (Centred(1, 0, 0), Centred(1, 0, 1)))


SHED = Starter(
    said("Lean-to shed"),
    said("millimetres"),
    (
        Question(
            said("length"),
            "length",
            4200.0,
            said("Along the front."),
            measure=side(0, 0),
        ),
        Question(
            said("depth"),
            "length",
            2600.0,
            said("From front to back, without overhang."),
            measure=side(0, 1),
        ),
        Question(
            said("front height"),
            "length",
            2700.0,
            said("From the ground to the high side."),
            measure=side(0, 2),
        ),
        Question(said("roof pitch"), "angle", 14.0, said("How steep the roof is.")),
        Question(
            said("overhang"),
            "length",
            220.0,
            said("How far the roof stands out all round."),
            measure=span(1, 0.0, 0, 0.0, 1),
        ),
        Question(said("roof thickness"), "length", 90.0, said("Square to its slope.")),
    ),
    _shed,
)

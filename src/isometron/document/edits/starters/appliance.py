"""An appliance: a body, a door before it with a gap all round, and a knob on the door."""

from dataclasses import replace

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side, span
from isometron.framework.kinds import turned as lathe
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

FEET = 20.0
"""How high it stands off the ground on its plinth, mm."""


def _appliance(values: Values) -> Made:
    wide, deep, high = (values[k] for k in ("width", "depth", "height"))
    gap, thick, knob = values["gap"], values["door thickness"], values["knob diameter"]
    if 2 * gap + 3 * knob >= min(wide, high) or high <= FEET:
        raise VolumeError(_("That leaves no room for its door: make it larger, or the knob less."))
    group = _("Appliance")
    plinth = Volume(
        _("Plinth"), 0.94 * wide, 0.88 * deep, FEET, 0.03 * wide, 0.06 * deep, key=9, group=group
    )
    body = Volume(
        _("Body"),
        *(wide, deep, high - FEET),
        on=Anchor(9, (0.0, 0.0, 1.0), (-0.03 * wide, -0.06 * deep, 0.0)),
        key=0,
        group=group,
    )
    door = Volume(
        _("Door"),
        *(wide - 2 * gap, thick, high - FEET - 2 * gap),
        on=Anchor(0, (0.0, 0.0, 0.0), (gap, -thick, gap)),
        key=1,
        group=group,
    )
    turned = Volume(
        _("Knob"),
        *(knob, 0.8 * knob, knob),
        on=Anchor(1, (1.0, 0.0, 0.6), (-2 * knob, -0.8 * knob, -knob / 2)),
        shape=replace(lathe.CYLINDER, axis=1, name="knob"),
        key=2,
        group=group,
    )
    return Made((Module("front", wide),), [plinth, body, door, turned])


APPLIANCE = Starter(
    said("Appliance"),
    said("millimetres"),
    (
        Question(said("width"), "length", 600.0, said("From side to side."), measure=side(0, 0)),
        Question(said("depth"), "length", 560.0, said("Without the door."), measure=side(0, 1)),
        Question(
            said("height"),
            "length",
            850.0,
            said("From the ground to its top."),
            measure=span(9, 0.0, 0, 1.0, 2),
        ),
        Question(
            said("gap"),
            "length",
            8.0,
            said("Round the door."),
            measure=span(0, 0.0, 1, 0.0, 0),
        ),
        Question(said("door thickness"), "length", 35.0, said("Of the door."), measure=side(1, 1)),
        Question(said("knob diameter"), "length", 50.0, said("Of the knob."), measure=side(2, 0)),
    ),
    _appliance,
)

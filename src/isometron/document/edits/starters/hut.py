"""A gabled hut: walls that reach the ridge at both ends, and a roof with overhang and thickness."""

import math

from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def _hut(values: Values) -> Made:
    long, deep, wall = (values[k] for k in ("length", "depth", "wall height"))
    over, thick = values["overhang"], values["roof thickness"]
    pitch = math.radians(values["roof pitch"])
    if not 0 < pitch < math.radians(80):
        raise VolumeError(_("A roof pitch lies between 0° and 80°: type, say, 35°."))
    rise = math.tan(pitch)
    ridge = wall + deep / 2 * rise
    group = _("Hut")
    gable = (Knot(0.0, 0.0), Knot(1.0, 0.0), Knot(1.0, wall / ridge), Knot(0.5, 1.0))
    walls = Extruded(((*gable, Knot(0.0, wall / ridge)),), axis=0, name="walls")
    upright = thick / math.cos(pitch)  # the thickness is measured square to the slope
    across, high = deep + 2 * over, (deep / 2 + over) * rise + upright
    eaves, under = upright / high, 1.0 - upright / high
    chevron = (
        *(Knot(0.0, 0.0), Knot(0.5, under), Knot(1.0, 0.0)),
        *(Knot(1.0, eaves), Knot(0.5, 1.0), Knot(0.0, eaves)),
    )
    body = Volume(_("Walls"), long, deep, ridge, shape=walls, key=0, group=group)
    roof = Volume(
        _("Roof"),
        long + 2 * over,
        across,
        high,
        shape=Extruded((chevron,), axis=0, name="roof"),
        on=Anchor(0, (0.0, 0.0, 0.0), (-over, -over, wall - over * rise)),
        key=1,
        group=group,
    )
    return (Module("wall", wall),), [body, roof]


HUT = Starter(
    said("Gabled hut"),
    said("millimetres"),
    (
        Question(said("length"), "length", 3600.0, said("Along the ridge.")),
        Question(said("depth"), "length", 2400.0, said("From eaves to eaves, without overhang.")),
        Question(said("wall height"), "length", 2100.0, said("From the ground to the eaves.")),
        Question(said("roof pitch"), "angle", 35.0, said("How steep the roof is.")),
        Question(said("overhang"), "length", 250.0, said("How far the roof stands out all round.")),
        Question(said("roof thickness"), "length", 120.0, said("Square to its slope.")),
    ),
    _hut,
)

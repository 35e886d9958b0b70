"""A gabled hut: walls that reach the ridge at both ends, and a roof with overhang and thickness."""

from isometron.document.edits.shapes.building_parts import gable_over, gable_walls, rise_of
from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.words import _, said


def _hut(values: Values) -> Made:
    long, deep, wall = (values[k] for k in ("length", "depth", "wall height"))
    over, thick = values["overhang"], values["roof thickness"]
    pitch = values["roof pitch"]
    gable = gable_over(deep, pitch, over, thick)
    ridge = wall + deep / 2 * rise_of(pitch)
    group = _("Hut")
    walls = Extruded((gable_walls(wall, ridge),), axis=0, name="walls")
    body = Volume(_("Walls"), long, deep, ridge, shape=walls, key=0, group=group)
    roof = Volume(
        _("Roof"),
        *(long + 2 * over, gable.across, gable.high),
        shape=Extruded((gable.ring,), axis=0, name="roof"),
        on=Anchor(0, (0.0, 0.0, 0.0), (-over, -over, wall - gable.drop)),
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

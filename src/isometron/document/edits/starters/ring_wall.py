"""A ring wall of bays: a pier and an arched bay, repeated round the middle."""

import math
from dataclasses import replace

from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Swung
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

BAYS = (3, 36)
THINNER = 0.6
"""The wall of a bay is this share as thick as its piers."""


def _ring_wall(values: Values) -> Made:
    bays, radius = round(values["bays"]), values["diameter"] / 2
    high, thick, pier = values["height"], values["thickness"], values["pier width"]
    spring, opening = values["springing height"], values["opening"]
    if not BAYS[0] <= bays <= BAYS[1]:
        raise VolumeError(
            _("A ring has {least} to {most} bays: type another number.").format(
                least=BAYS[0], most=BAYS[1]
            )
        )
    turn = 360.0 / bays
    half = math.radians(turn / 2)
    wide = 2 * radius * math.sin(half)  # from the middle of a pier to that of the next
    if opening > wide - pier or spring + opening / 2 >= high:
        raise VolumeError(_("That opening does not fit its bay: make it narrower or lower."))
    left, right = (wide - opening) / 2 / wide, (wide + opening) / 2 / wide
    arch = (
        *(Knot(0.0, 0.0), Knot(left, 0.0), Knot(left, spring / high, -1.0)),
        *(Knot(right, spring / high), Knot(right, 0.0)),
        *(Knot(1.0, 0.0), Knot(1.0, 1.0), Knot(0.0, 1.0)),
    )
    group = _("Ring wall")
    first = Volume(
        _("Pier 1"), pier, thick, high, -pier / 2, -radius - thick / 2, 0.0, key=0, group=group
    )
    wall, away = THINNER * thick, radius * math.cos(half)
    # the bay stands square to the direction half a turn on from the first pier
    x, y = -wide / 2, -away - wall / 2
    c, s = math.cos(half), math.sin(half)
    bay = Volume(
        _("Bay 1"),
        wide,
        wall,
        high,
        c * x - s * y,
        s * x + c * y,
        0.0,
        turn / 2,
        shape=Extruded((arch,), axis=1, name="bay"),
        key=1,
        group=group,
    )
    made = [first, bay]
    for source, called in ((first, _("Pier {number}")), (bay, _("Bay {number}"))):
        for n in range(1, bays):
            like = Swung(source.key, n, (0.0, 0.0, 0.0), 2, turn)
            name = called.format(number=n + 1)
            made.append(replace(source, name=name, key=2 + 2 * n + source.key, like=like))
    return (Module("bay", wide),), made


RING_WALL = Starter(
    said("Ring wall"),
    said("millimetres"),
    (
        Question(said("diameter"), "length", 6000.0, said("From pier middle to pier middle.")),
        Question(said("bays"), "count", 8.0, said("How many arched bays there are.")),
        Question(said("height"), "length", 2400.0, said("From the ground to the top.")),
        Question(said("thickness"), "length", 360.0, said("Of the piers.")),
        Question(said("pier width"), "length", 420.0, said("Along the wall.")),
        Question(said("opening"), "length", 1200.0, said("How wide each arch is.")),
        Question(said("springing height"), "length", 1200.0, said("Where the half circle begins.")),
    ),
    _ring_wall,
)

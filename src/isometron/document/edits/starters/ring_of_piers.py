"""A ring of piers that carry a rail: a pier and a beam to the next, repeated round the middle."""

import math
from dataclasses import replace

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Swung
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

PIERS = (3, 36)
THINNER = 0.6
"""A beam is this share as thick as the piers."""


def _ring_of_piers(values: Values) -> Made:
    count, radius = round(values["piers"]), values["diameter"] / 2
    high, thick, pier = values["height"], values["thickness"], values["pier width"]
    beam, rise = values["beam height"], values["rise"]
    if not PIERS[0] <= count <= PIERS[1]:
        raise VolumeError(
            _("A ring has {least} to {most} piers: type another number.").format(
                least=PIERS[0], most=PIERS[1]
            )
        )
    turn = 360.0 / count
    half = math.radians(turn / 2)
    wide = 2 * radius * math.sin(half)  # from the middle of a pier to that of the next
    clear = wide - pier
    if clear <= 0:
        raise VolumeError(_("So many piers leave no room between them: fewer, or a larger ring."))
    if not (beam < high and rise < beam and rise <= clear / 2):
        raise VolumeError(_("That beam is no beam: lower than its piers, and its rise less."))
    left, right = pier / 2 / wide, 1.0 - pier / 2 / wide
    outline = (
        *(Knot(0.0, 0.0), Knot(left, 0.0, -2.0 * rise / clear), Knot(right, 0.0)),
        *(Knot(1.0, 0.0), Knot(1.0, 1.0), Knot(0.0, 1.0)),
    )
    group = _("Ring of piers")
    first = Volume(
        _("Pier 1"), pier, thick, high, -pier / 2, -radius - thick / 2, 0.0, key=0, group=group
    )
    wall, away = THINNER * thick, radius * math.cos(half)
    # the beam lies square to the direction half a turn on from the first pier
    x, y = -wide / 2, -away - wall / 2
    c, s = math.cos(half), math.sin(half)
    span = Volume(
        _("Beam 1"),
        wide,
        wall,
        beam,
        c * x - s * y,
        s * x + c * y,
        high - beam,
        turn / 2,
        shape=Extruded((outline,), axis=1, name="beam"),
        key=1,
        group=group,
    )
    made = [first, span]
    for source, called in ((first, _("Pier {number}")), (span, _("Beam {number}"))):
        for n in range(1, count):
            like = Swung(source.key, n, (0.0, 0.0, 0.0), 2, turn)
            name = called.format(number=n + 1)
            made.append(replace(source, name=name, key=2 + 2 * n + source.key, like=like))
    return Made((Module("bay", wide),), made)


RING_OF_PIERS = Starter(
    said("Ring of piers"),
    said("millimetres"),
    (
        Question(said("diameter"), "length", 7200.0, said("From pier middle to pier middle.")),
        Question(said("piers"), "count", 10.0, said("How many piers carry the rail.")),
        Question(
            said("height"),
            "length",
            2700.0,
            said("From the ground to the rail."),
            measure=side(0, 2),
        ),
        Question(
            said("thickness"),
            "length",
            400.0,
            said("Of the piers."),
            measure=side(0, 1),
        ),
        Question(
            said("pier width"),
            "length",
            480.0,
            said("Along the ring."),
            measure=side(0, 0),
        ),
        Question(
            said("beam height"),
            "length",
            600.0,
            said("Of the beams, at the piers."),
            measure=side(1, 2),
        ),
        Question(
            said("rise"), "length", 250.0, said("How far the beams arch up; 0: not."), none=True
        ),
    ),
    _ring_of_piers,
)

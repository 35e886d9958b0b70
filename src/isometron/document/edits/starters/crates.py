"""Stacks of crates, each turned on the one below."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, counted, side
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def _stack(values: Values) -> Made:
    sides = (values["width"], values["depth"], values["height"])
    turn, rows = values["turn of each layer"], round(values["columns"])
    layers = round(values["layers"])
    if rows * layers > 60:
        raise VolumeError(_("That is a warehouse: keep to sixty crates."))
    made: list[Volume] = []
    for row in range(rows):
        for layer in range(layers):
            key = len(made)
            count = counted(1.0, values["depth"] / sides[0], values["height"] / sides[0], of="case")
            crate = Volume(f"Case {key + 1}", *sides, key=key, counts=count)
            if layer == 0:
                crate = replace(crate, x_mm=1.35 * sides[0] * row, yaw_deg=(-1.0) ** row * turn / 2)
            else:
                way = (-1.0) ** (layer + row)
                crate = replace(crate, on=_turned_on(key - 1, sides, way * turn))
            made.append(crate)
    return Made((Module("case", sides[0]),), made)


def _turned_on(parent: int, sides: tuple[float, ...], turn: float) -> Anchor:
    """On top of a like crate, turned about its middle."""
    angle = math.radians(turn)
    c, s = math.cos(angle), math.sin(angle)
    half = np.array(sides[:2]) / 2
    x, y = half - np.array([c * half[0] - s * half[1], s * half[0] + c * half[1]])
    return Anchor(parent, (0.0, 0.0, 1.0), (float(x), float(y), 0.0), (turn, 0.0, 0.0))


CRATES = Starter(
    said("Crate stack"),
    said("case widths"),
    (
        Question(
            said("width"),
            "length",
            360.0,
            said("The module: case."),
            measure=side(0, 0),
        ),
        Question(
            said("depth"),
            "length",
            260.0,
            said("Of one crate."),
            measure=side(0, 1),
        ),
        Question(
            said("height"),
            "length",
            200.0,
            said("Of one crate."),
            measure=side(0, 2),
        ),
        Question(said("columns"), "count", 2.0, said("How many stacks side by side.")),
        Question(said("layers"), "count", 3.0, said("How many crates high.")),
        Question(
            said("turn of each layer"),
            "angle",
            14.0,
            said("Each crate is turned on the one below."),
        ),
    ),
    _stack,
)

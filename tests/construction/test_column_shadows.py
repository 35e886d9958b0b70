"""Shadows by ruler of columns: every upper corner's shadow, in every method."""

import math

import numpy as np
import pytest

from isometron.construction.machine import Machine, exact_measures
from isometron.construction.order import order_of
from isometron.document.building import METHODS
from isometron.document.edits import lighting
from isometron.document.edits.building_edits import build_by
from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.framework.kinds.plan import Plan
from isometron.framework.volume import Volume
from isometron.perspective.projection import project
from tests.scenes import eye, sheet


@pytest.mark.parametrize("count", [3, 6])
@pytest.mark.parametrize("light", [Sun(230.0, 38.0), Lamp((-700.0, 900.0, 1500.0))])
def test_the_shadow_of_a_column_is_laid_corner_for_corner_in_every_method(count, light):
    turns = [2 * math.pi * (n + 0.3) / count for n in range(count)]
    plan = Plan(tuple((0.5 + 0.5 * math.cos(t), 0.5 + 0.5 * math.sin(t)) for t in turns))
    column = Volume("Column", 300, 300, 300, 0, 1500, 0, 20, shape=plan)
    by = eye(height_mm=600.0, station_distance_mm=400.0)
    document = lighting.set_light(sheet(column, by=by), light)
    tops = column.world()[column.world()[:, 2] > 1.0]
    if isinstance(light, Sun):
        fallen = tops - 300.0 / light.toward[2] * np.array(light.toward)
    else:
        lamp = np.array(light.place_mm)
        fallen = tops + 300.0 / (lamp[2] - 300.0) * (tops - lamp)
    expected = project(by, fallen).sheet
    for method in METHODS:
        order = order_of(build_by(document, method, None))
        machine = Machine(1, exact_measures)
        for move in (m for c in order.chapters for s in c.steps for m in s.moves):
            machine.make(move)
        found = [
            machine.drawn.place(landing.name)
            for landing in order.landings
            if landing.what.startswith("shadow of")
        ]
        assert len(found) >= count - 1
        for place in found:
            assert np.hypot(*(expected - place).T).min() < 1e-6

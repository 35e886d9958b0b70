"""Roofs and stairs against sums by hand."""

import math

import numpy as np
import pytest

from isometron.document.edits import volume_edits
from isometron.document.edits.shapes import building_parts
from isometron.framework.figures import figure_of
from isometron.hiding.contact import How, contact
from isometron.perspective.errors import VolumeError
from tests.scenes import case, sheet

HOUSE = case(width_mm=3000.0, depth_mm=2000.0, height_mm=1500.0, z_mm=0.0)


@pytest.mark.parametrize("axis", [0, 1])
def test_a_roof_lies_on_walls_that_reach_its_ridge(axis):
    document = building_parts.set_roof(sheet(HOUSE), axis, 40.0, 200.0, 90.0)
    walls, roof = document.volumes
    span, long = HOUSE.sides[1 - axis], HOUSE.sides[axis]
    rise = span / 2 * math.tan(math.radians(40.0))
    assert walls.height_mm == pytest.approx(1500.0 + rise)
    assert walls.contents_mm3 == pytest.approx(long * span * (1500.0 + rise / 2))
    slope = (span / 2 + 200.0) / math.cos(math.radians(40.0))
    assert roof.contents_mm3 == pytest.approx(2 * (long + 400.0) * slope * 90.0)
    top = 1500.0 + rise + 90.0 / math.cos(math.radians(40.0))
    assert roof.corners()[:, 2].max() == pytest.approx(top)
    found = contact(figure_of(roof), figure_of(walls))
    assert found.how in (How.ON, How.AGAINST) and found.gap_mm == 0.0
    moved = volume_edits.move_volume(document, (500.0, 2500.0, 0.0)).volumes
    assert np.subtract(moved[1].place, roof.place) == pytest.approx(
        np.subtract((500.0, 2500.0, 0.0), HOUSE.place)
    )
    with pytest.raises(VolumeError, match="whole box"):
        building_parts.set_roof(document, axis, 40.0, 200.0, 90.0)
    for wrong in ((0.0, 1.0, 9.0), (85.0, 1.0, 9.0), (30.0, -1.0, 9.0), (30.0, 1.0, 0.0)):
        with pytest.raises(VolumeError):
            building_parts.set_roof(sheet(HOUSE), axis, *wrong)


@pytest.mark.parametrize("side", ["front", "back", "left", "right"])
@pytest.mark.parametrize("steps", [2, 7])
def test_a_flight_rises_from_its_side_in_equal_steps(side, steps):
    document = building_parts.make_stairs(sheet(HOUSE), steps, side)
    volume = document.volume
    whole = 3000.0 * 2000.0 * 1500.0
    assert volume.contents_mm3 == pytest.approx(whole * (steps + 1) / (2 * steps))
    axis = 1 if side in ("front", "back") else 0
    own = volume.bare.vertices
    first = own[np.isclose(own[:, axis], 0.0 if side in ("front", "left") else HOUSE.sides[axis])]
    assert first[:, 2].max() == pytest.approx(1500.0 / steps)
    levels = np.unique(own[:, 2].round(6))
    assert levels == pytest.approx(np.linspace(0.0, 1500.0, steps + 1), abs=1e-5)
    tread, riser = building_parts.step_sizes(HOUSE, steps, side)
    assert (tread, riser) == pytest.approx((HOUSE.sides[axis] / steps, 1500.0 / steps))
    for wrong in (1, 0, 61):
        with pytest.raises(VolumeError, match="flight"):
            building_parts.make_stairs(sheet(HOUSE), wrong, side)

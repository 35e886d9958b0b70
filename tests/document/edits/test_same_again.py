"""Bays, spokes, rows to a point, and a square turned in its own ellipse."""

import math

import numpy as np
import pytest

from isometron.document.edits.places import standing
from isometron.document.edits.shapes import building_parts, rounding, spokes
from isometron.document.edits.stances import EDGE_NEAREST, take_stance
from isometron.drawing.scene import scene_of
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.block import BLOCK
from isometron.perspective.errors import VolumeError
from isometron.perspective.projection import project
from isometron.perspective.vanishing import vanishing_point
from tests.kinds import volume
from tests.scenes import sheet


@pytest.mark.parametrize("arched", [True, False])
def test_bays_are_equal_and_centred_between_their_piers(arched):
    document = sheet(volume(BLOCK, (5200.0, 300.0, 2400.0)))
    wall = building_parts.make_bays(document, 4, 400.0, 1200.0, arched=arched).volume
    opening = (5200.0 - 5 * 400.0) / 4
    head = math.pi * opening**2 / 8 if arched else 0.0
    assert wall.contents_mm3 == pytest.approx(
        (5200.0 * 2400.0 - 4 * (opening * 1200.0 + head)) * 300.0
    )
    feet = np.unique(np.round(wall.bare.vertices[wall.bare.vertices[:, 2] < 1e-9, 0], 6))
    assert np.diff(feet) == pytest.approx([400.0, *[opening, 400.0] * 4])
    for bays, pier, spring in ((0, 400.0, 1200.0), (4, 1100.0, 1200.0), (1, 400.0, 2300.0)):
        with pytest.raises(VolumeError):
            building_parts.make_bays(document, bays, pier, spring, arched=True)


def test_the_sectors_of_a_wheel_lie_between_parallel_spokes():
    document = sheet(volume(lathe.wheel(0.7, 0.2), (600.0, 120.0, 600.0)))
    one = spokes.set_spokes(document, 6, 30.0, cut=True).volume
    inner, outer, half = 60.0, 210.0, 15.0
    slip = [  # of a spoke within the circle, on one side of the middle
        radius * radius * math.asin(half / radius) + half * math.sqrt(radius**2 - half**2)
        for radius in (inner, outer)
    ]
    taken = math.pi * (outer**2 - inner**2) - 6 * (slip[1] - slip[0])
    assert one.contents_mm3 == pytest.approx(document.volume.contents_mm3 - taken * 120.0, rel=1e-9)
    drawn = spokes.set_spokes(document, 5, 30.0, cut=False).volume
    assert len(drawn.face_rings) == 10 and drawn.contents_mm3 == document.volume.contents_mm3
    for count, wide, words in ((1, 30.0, "spokes"), (30, 30.0, "gaps"), (6, 200.0, "narrower")):
        with pytest.raises(VolumeError, match=words):
            spokes.set_spokes(document, count, wide, cut=True)
    with pytest.raises(VolumeError, match="round volume"):
        spokes.set_spokes(sheet(volume(BLOCK, (9.0, 9.0, 9.0))), 6, 1.0, cut=True)


def test_a_square_turned_in_its_ellipse_touches_it_on_all_four_sides():
    document = sheet(volume(BLOCK, (400.0, 400.0, 300.0)))
    done = standing.same_again_in_round(document, 30.0)
    old, new = done.volumes
    assert new.yaw_deg - old.yaw_deg == pytest.approx(30.0)
    circles = [c for c in new.body.circles if c.role == "mark"]
    assert [c.radius_mm for c in circles] == [200.0, 200.0]
    place, axes = new.pose
    middles = [c.centre @ axes + place for c in circles]
    theirs = [c.centre @ old.pose[1] + old.pose[0] for c in old.body.circles]
    assert np.allclose(middles, theirs)
    with pytest.raises(VolumeError, match="no square"):
        standing.same_again_in_round(sheet(volume(BLOCK, (400.0, 300.0, 300.0))), 30.0)


@pytest.mark.parametrize("family", ["left", "right"])
def test_a_row_to_a_point_runs_to_it(family):
    document = take_stance(sheet(volume(BLOCK, (100.0, 100.0, 900.0), z_mm=0.0)), EDGE_NEAREST)
    way = standing.way_to_point(document, family)
    point = vanishing_point(document.eye, way).sheet_mm
    assert (point[0] < document.eye.centre_of_vision_mm[0]) == (family == "left")
    row = standing.repeat_over(document, 4, way, 5000.0)
    feet = project(document.eye, np.array([v.corners()[0] for v in row.volumes])).sheet
    (x, y), (u, v) = (feet[1:] - np.array(point)).T, (feet[:-1] - np.array(point)).T
    assert np.abs(x * v - y * u).max() < 1e-6 * np.abs(feet).max() ** 2
    assert len(scene_of(row).pictures) == 4
    assert rounding.turned_of(row.volume) is None

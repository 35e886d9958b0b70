"""Visible regions of faces against sight rays at random places of them."""

import numpy as np
import pytest
import shapely

from isometron.framework.figures import figure_of
from isometron.hiding.regions import seen_regions
from isometron.hiding.viewpoint import Viewpoint
from tests.exact import surely_blocked
from tests.hiding.test_sight import among_kinds, skins
from tests.scenes import case

BEHIND = case(name="Wall", x_mm=-700, y_mm=2600, z_mm=1350, width_mm=1400, height_mm=400, key=90)


@pytest.mark.parametrize(
    "viewpoint",
    [
        Viewpoint(np.array([0.0, 0.0, 1500.0])),
        Viewpoint(np.array([-60.0, 2080.0, 1900.0])),
        Viewpoint(np.array([-0.36, -0.8, 0.48]), far=True),
    ],
)
def test_a_place_of_a_face_is_in_its_seen_region_just_where_a_ray_reaches_it(viewpoint):
    volumes = [*among_kinds()[::3], BEHIND]
    figures = [figure_of(volume) for volume in volumes]
    corners, rng, asked = skins(volumes), np.random.default_rng(3), 0
    for number in range(len(figures)):
        for face, region in seen_regions(viewpoint, figures, number).items():
            assert 0 <= region.area_mm2 <= region.whole_mm2 * (1 + 1e-9)
            ends = (region.outline.arcs[..., :2] / region.outline.arcs[..., 2:]).reshape(-1, 2)
            flat = rng.uniform(ends.min(axis=0), ends.max(axis=0), (30, 2))
            flat = flat[region.outline.inside(flat)]
            own = flat @ region.outline.across + region.outline.place
            places = own @ region.figure.axes + region.figure.place
            stopped, sure = surely_blocked(viewpoint.place, places, corners, far=viewpoint.far)
            rim = shapely.distance(region.polygons.boundary, shapely.points(flat))
            sure &= rim > 3.0  # the rays overlook what is nearer than that
            seen = np.array([region.holds(place) for place in places], dtype=bool)
            assert np.array_equal(seen[sure], ~stopped[sure]), (number, face)
            asked += int(sure.sum())
    assert asked > 200


def test_a_face_with_nothing_before_it_is_seen_whole_and_one_turned_away_is_not_asked_for():
    figures = [figure_of(BEHIND)]
    regions = seen_regions(Viewpoint(np.array([0.0, 0.0, 1500.0])), figures, 0)
    assert all(region.area_mm2 == pytest.approx(region.whole_mm2) for region in regions.values())
    assert 2 in regions and 3 not in regions
    (ring,) = regions[2].world()[0]
    assert np.abs(ring @ figures[0].normals[2] - figures[0].offsets[2]).max() < 1e-6

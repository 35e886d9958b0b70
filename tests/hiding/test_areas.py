"""Areas that a viewpoint sees, against rays asked of every body at random places."""

import numpy as np
import pytest
import shapely

from isometron.framework.figures import figure_of
from isometron.hiding.areas import Chart, outward_facets, seen_areas, skin_of
from tests.exact import surely_blocked
from tests.hiding.test_sight import among_kinds, skins
from tests.scenes import case

BEHIND = case(name="Wall", x_mm=-700, y_mm=2600, z_mm=1350, width_mm=1400, height_mm=400, key=90)


def looking(place, ahead, **more):
    ahead = np.array(ahead, dtype=float) / np.linalg.norm(ahead)
    right = np.cross(ahead, (0.0, 0.0, 1.0))
    right /= np.linalg.norm(right)
    return Chart(np.array(place, dtype=float), right, np.cross(right, ahead), ahead, **more)


CHARTS = {
    "an eye": looking((0.0, 0.0, 1500.0), (0.0, 1.0, -0.2), distance=400.0, near=1.0),
    "a lamp": looking((-60.0, 2080.0, 1900.0), (0.2, 0.4, -1.0), near=1.0),
    "the sun": looking((0.0, 0.0, 0.0), (0.36, 0.8, -0.48), far=True),
}


@pytest.mark.sample(2)
@pytest.mark.parametrize("name", CHARTS)
def test_a_place_lies_in_a_seen_area_just_where_a_ray_reaches_it(name, many):
    chart = CHARTS[name]
    volumes = [*among_kinds()[:: many(3, 2)], BEHIND]
    figures = [figure_of(volume) for volume in volumes]
    skin = skin_of(figures, range(len(figures)))
    areas = dict(zip(*seen_areas(chart, skin), strict=True))
    corners, rng, asked = skins(volumes), np.random.default_rng(3), 0
    start = -chart.ahead if chart.far else chart.origin
    for facet in rng.permutation(np.flatnonzero(chart.facing(skin.normals, skin.offsets)))[
        : many(100, 400)
    ]:
        ring = skin.rings[facet][0]
        shares = rng.dirichlet(np.ones(len(ring)), 3)
        places = shares @ ring
        if not chart.far and chart.depth(ring).min() < 2 * chart.near:
            continue
        if len(skin.rings[facet]) > 1:
            continue  # a place between corners may lie in a hole
        flat = chart.picture(places)
        stopped, sure = surely_blocked(start, places, corners, far=chart.far, miss=1.0)
        area = areas.get(int(facet), shapely.Polygon())
        inside = shapely.contains_xy(area, *flat.T)
        world = chart.world(flat, np.tile(skin.normals[facet], (3, 1)), skin.offsets[[facet] * 3])
        assert world == pytest.approx(places, abs=1e-6)
        scale = 1.0 if chart.far else chart.distance / chart.depth(places).min()
        apart = np.abs(shapely.distance(area.boundary, shapely.points(flat))) > 3.0 * scale
        drawn = shapely.Polygon(chart.picture(ring))
        whole = shapely.distance(drawn.boundary, shapely.points(flat))
        sure &= shapely.contains_xy(drawn, *flat.T)  # a ring may be no convex one
        sure &= (apart | area.is_empty) & (whole > 1e-6 * scale)
        assert np.array_equal(inside[sure], ~stopped[sure]), (name, int(facet))
        asked += int(sure.sum())
    assert asked > 100


def test_a_face_with_nothing_before_it_is_seen_whole_and_one_turned_away_is_not_asked_for():
    skin = skin_of([figure_of(BEHIND)], (0,))
    chart = CHARTS["an eye"]
    facets, seen = seen_areas(chart, skin)
    assert set(skin.face[facets].tolist()) >= {2} and 3 not in skin.face[facets]
    for facet, shape in zip(facets.tolist(), seen, strict=True):
        whole = shapely.Polygon(chart.picture(skin.rings[facet][0]))
        assert shape.area == pytest.approx(whole.area)


def test_facets_of_every_kind_turn_outward_and_close_their_body():
    """The areas of a closed skin, as vectors, add up to nothing, and its volume is above 0."""
    for volume in among_kinds():
        if getattr(volume.shape, "round", False):
            continue  # the pieces of a round bend stand in one another
        figure = figure_of(volume)
        sums, held, whole = np.zeros(3), 0.0, 0.0
        for facet in outward_facets(figure.body):
            vectors = [
                0.5 * np.cross(ring, np.roll(ring, -1, axis=0)).sum(0) for ring in facet.rings
            ]
            area = np.linalg.norm(vectors[0]) - sum(np.linalg.norm(one) for one in vectors[1:])
            sums += area * facet.normal
            held += area * float(facet.rings[0][0] @ facet.normal) / 3
            whole += area
        if whole:
            assert np.linalg.norm(sums) < 2e-3 * whole, volume.name
            assert held > 0, volume.name


def test_boxes_that_pierce_each_other_hide_each_other_in_part_and_nothing_is_lost():
    one = case(
        name="a", x_mm=-300, y_mm=2000, z_mm=0, width_mm=600, depth_mm=400, height_mm=500, key=1
    )
    two = case(
        name="b", x_mm=-100, y_mm=1900, z_mm=100, width_mm=200, depth_mm=900, height_mm=900, key=2
    )
    chart = CHARTS["an eye"]
    figures = [figure_of(one), figure_of(two)]
    seen = seen_areas(chart, skin_of(figures, (0, 1)))
    every = shapely.union_all(seen.seen)
    assert sum(shapely.area(seen.seen)) == pytest.approx(every.area, rel=1e-9)
    alone = [seen_areas(chart, skin_of(figures, (i,))).seen for i in (0, 1)]
    silhouettes = shapely.union_all([shape for shapes in alone for shape in shapes])
    assert every.area == pytest.approx(silhouettes.area, rel=1e-9)
    assert len(seen_areas(chart, skin_of(figures, ())).facets) == 0

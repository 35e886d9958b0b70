"""Shadows of lamps and suns at every height against rays: level with the top of what casts, below
it, under a table, in a face's plane, and just over the ground."""

import numpy as np
import pytest
import shapely
from scipy.spatial import ConvexHull

from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.areas import skin_of_scene
from isometron.drawing.shading.receivers import GROUND_PLANE, shadow_on
from isometron.files.report import report_of
from isometron.framework.kinds.taper import Taper
from tests.scenes import case, eye, sheet

REACH = 4000.0
NEAR_MM = 0.01
"""Places nearer to a border than this are not asked."""


def hulls_of(scene):
    return [ConvexHull(picture.figure.world).equations for picture in scene.pictures]


def in_shadow(hulls, places, light):
    """(n,) whether the way from places (n, 3) on the ground to a light runs through a body, or the
    place lies within one."""
    if isinstance(light, Sun):
        run = np.tile(1e7 * np.array(light.toward), (len(places), 1))
    else:
        run = np.array(light.place_mm) - places
    found = np.zeros(len(places), dtype=bool)
    for equations in hulls:
        normals, offsets = equations[:, :3], equations[:, 3]
        off, slope = places @ normals.T + offsets, run @ normals.T
        with np.errstate(divide="ignore", invalid="ignore"):
            t = -off / slope
        enter = np.where(slope < 0, t, -np.inf).max(axis=1)
        leave = np.where(slope > 0, t, np.inf).min(axis=1)
        beside = ((slope == 0) & (off > 0)).any(axis=1)
        found |= ~beside & (np.maximum(enter, 0.0) < np.minimum(leave, 1.0))
    return found


def things(rng):
    """A table of a top and two legs, a box, and a tipped tapered one."""
    high = float(rng.uniform(300, 700))
    top = case(name="Top", width_mm=600, depth_mm=400, height_mm=30, z_mm=high, yaw_deg=0)
    legs = [
        case(name=f"Leg {n}", width_mm=40, depth_mm=40, height_mm=high, z_mm=0, x_mm=x, yaw_deg=0)
        for n, x in enumerate((0.0, 560.0))
    ]
    box = case(name="Box", z_mm=0, x_mm=-700, yaw_deg=float(rng.uniform(-90, 90)))
    tipped = case(
        name="Tipped", z_mm=200, x_mm=1200, shape=Taper(*rng.uniform(0, 25, 4).tolist()),
        pitch_deg=float(rng.uniform(-40, 40)), roll_deg=float(rng.uniform(-40, 40)),
    )  # fmt: skip
    return [top, *legs, box, tipped], high


def lights(rng, high):
    """At every height that matters."""
    x, y = rng.uniform(-1500, 1500), rng.uniform(800, 3200)
    heights = (high, high + 30, high / 2, 180.0, 179.999, 180.0001, 20.0, 900.0, 3000.0)
    yield from (Lamp((float(x), float(y), float(z))) for z in heights)
    yield Lamp((300.0, 2200.0, high / 2))  # under the table
    yield Lamp((0.0, 1500.0, 250.0))  # in the plane of a leg's side
    yield from (Sun(float(rng.uniform(0, 360)), e) for e in (0.0, 0.5, 8.0, 45.0, 90.0))


def test_the_shadow_on_the_ground_is_just_where_rays_are_stopped(many):
    asked = wrong = 0
    for seed in range(many(3, 150)):
        rng = np.random.default_rng(seed)
        some, high = things(rng)
        scene = scene_of(sheet(*some))
        hulls, skin = hulls_of(scene), skin_of_scene(scene)
        flat = rng.uniform(-REACH, REACH, (many(2000, 6000), 2)) + (0.0, 2000.0)
        places = np.column_stack([flat, np.zeros(len(flat))])
        for light in lights(rng, high):
            shape = shadow_on(GROUND_PLANE, skin, light)
            shape = shapely.Polygon() if shape is None else shape
            true = in_shadow(hulls, places, light)
            if isinstance(light, Sun) and light.elevation_deg == 0:
                assert shape.is_empty
                continue
            points = shapely.points(flat)
            told = shapely.contains(shape, points)
            feet = [
                shapely.Polygon(p.figure.world[:4, :2][[0, 1, 3, 2]]) for p in scene.pictures[1:4]
            ]
            border = shapely.union_all([shape.boundary, *(foot.boundary for foot in feet)])
            sure = shapely.distance(border, points) > NEAR_MM
            under = shapely.contains(shapely.union_all(feet), points)  # there is no ground to see
            asked += int((sure & ~under).sum())
            wrong += int((sure & ~under & (true != told)).sum())
            assert wrong == 0, (seed, light, flat[sure & ~under & (true != told)][:3])
    assert asked > 50_000


@pytest.mark.sample(3)
@pytest.mark.parametrize("seed", range(6))
def test_every_shadow_that_falls_has_its_outline_in_the_report(seed):
    rng = np.random.default_rng(seed)
    some, _high = things(rng)
    for light in (Lamp((100.0, 1800.0, 2500.0)), Sun(140.0, 40.0)):
        document = sheet(*some, by=eye(height_mm=2500.0, tilt_deg=-30.0), light=light)
        cast = [one for one in report_of(document)["shadows"] if one["receives"] == "ground"]
        assert len(cast) == len(some)
        for one in cast:
            assert one["outline_mm"] and one["world_outline"], one["casts"]
            assert one["outline"], one["casts"]

"""Outlines of areas as true conics, against the circles and the light they come from."""

import numpy as np
import pytest

from isometron.document.edits import lighting
from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.areas import areas_of
from isometron.drawing.shading.outlines import outlines_of
from isometron.drawing.shading.values import bounds_of_steps, span_of
from isometron.framework.bodies.body import is_straight
from isometron.framework.kinds.turned import CYLINDER, SPHERE
from isometron.framework.volume import Volume
from isometron.hiding.facets import CHORD
from isometron.perspective.conics import points_at
from isometron.perspective.eye import sight_axes
from tests.scenes import eye, sheet

SUN = Sun(230.0, 38.0)
RADIUS = 150.0


def lit(shape, light=SUN, **changes):
    thing = Volume("Thing", 300, 300, 300, -150, 1900, 0, shape=shape, **changes)
    return lighting.set_light(sheet(thing, by=eye(height_mm=700.0)), light)


def ways(by, flat):
    """Unit sight directions (n, 3) through places (n, 2) of the sheet."""
    right, up, away = (np.asarray(axis, dtype=float) for axis in sight_axes(by))
    x, y = ((flat - by.centre_of_vision_mm) / by.station_distance_mm).T
    found = away + x[:, None] * right + y[:, None] * up
    return found / np.linalg.norm(found, axis=1)[:, None]


def bent_places(document, kind, face=None):
    """Places (n, 2) along the conics that areas of a kind end along."""
    scene = scene_of(document)
    arcs = [
        arc
        for area in areas_of(document, scene)
        if area.kind == kind and face in (None, area.face)
        for polygon in outlines_of(scene, document.light, area)
        for ring in polygon
        for arc in ring[~is_straight(ring)]
    ]
    t = np.tile(np.linspace(0, 1, 9), len(arcs))
    return points_at(np.repeat(np.array(arcs), 9, axis=0), t)


@pytest.mark.parametrize("light", [SUN, Sun(250.0, 20.0), Lamp((-900.0, 1200.0, 1500.0))])
def test_the_shadow_of_a_round_top_ends_along_the_picture_of_its_true_shadow(light):
    document = lit(CYLINDER, light)
    places = bent_places(document, "cast")
    start, way = np.array(document.eye.place), ways(document.eye, places)
    ground = start - (start[2] / way[:, 2])[:, None] * way
    middle = np.array([0.0, 2050.0])
    foot = np.abs(np.hypot(*(ground[:, :2] - middle).T) - RADIUS)
    toward = np.array(light.place_mm) - ground if isinstance(light, Lamp) else light.toward
    toward = np.broadcast_to(toward, ground.shape)
    top = ground + (300.0 / toward[:, 2])[:, None] * toward
    rim = np.abs(np.hypot(*(top[:, :2] - middle).T) - RADIUS)
    off = np.minimum(foot, rim)
    # behind the cylinder the shadow ends along its own outline
    seen = off < 1.0
    assert seen.sum() > 15 and off[seen].max() < 1e-6


def test_light_turns_to_shade_on_a_ball_along_a_great_circle():
    document = lit(SPHERE)
    places = bent_places(document, "face")
    start, way = np.array(document.eye.place), ways(document.eye, places)
    off = start - (0.0, 2050.0, RADIUS)
    along = (off * way).sum(axis=1)
    root = along**2 - (off @ off - RADIUS**2)
    there = root > (0.2 * RADIUS) ** 2  # its outline is another matter
    hit = off - (along[there] + np.sqrt(root[there]))[:, None] * way[there]
    cosine = hit @ np.array(document.light.toward) / RADIUS
    on_it = np.abs(cosine) < 0.02
    assert on_it.sum() > 15 and np.abs(cosine[on_it]).max() < 1e-6


def test_the_bands_of_a_cylinder_lie_where_its_side_has_the_angle_of_their_bounds():
    document = lighting.set_shading(lit(CYLINDER), shadows=False, steps=6)
    scene = scene_of(document)
    bounds = bounds_of_steps(6, span_of(scene.pictures, document.light))
    rings = [
        ring for area in areas_of(document, scene) for polygon in area.rings() for ring in polygon
    ]
    runs = np.concatenate([np.stack([ring[:-1], ring[1:]], axis=1) for ring in rings])
    upright = runs[np.abs(runs[:, 0, 1] - runs[:, 1, 1]) > 20.0].mean(axis=1)
    way = ways(document.eye, upright)[:, :2]
    way = way / np.linalg.norm(way, axis=1)[:, None]
    off = np.array(document.eye.place[:2]) - (0.0, 2050.0)
    along = way @ off
    root = along**2 - (off @ off - RADIUS**2)
    side = root > (0.2 * RADIUS) ** 2  # its outline is another matter
    hit = (off - (along[side] + np.sqrt(root[side]))[:, None] * way[side]) / RADIUS
    cosine = hit @ np.array(document.light.toward)[:2]
    apart = np.abs(cosine[:, None] - bounds).min(axis=1)
    assert len(set(np.abs(cosine[:, None] - bounds).argmin(axis=1).tolist())) > 1
    assert len(apart) >= 4 and apart.max() < 5 * CHORD

"""Turned forms, outlines and circles on faces at true size."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
import trimesh
from hypothesis import given
from hypothesis import strategies as st

from isometron.framework.bodies.lathe import segments_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.loop import Loop
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import (
    Knot,
    area,
    chorded,
    circle,
    flat,
    parity,
    rectangle,
    within,
)
from isometron.framework.placing import Mirrored
from isometron.framework.settling import settle
from isometron.framework.triangles import triangles_of
from isometron.framework.volume import Volume
from isometron.perspective.conics import points_at, straight
from isometron.perspective.errors import VolumeError
from tests.scenes import floats

VASE = Turned(((0.0, 0.7), (0.2, 1.0), (0.5, 0.35), (0.8, 0.6), (1.0, 0.5)), join="smooth")
ARCHED = (
    Knot(0, 0),
    Knot(0.2, 0, -1.0),
    Knot(0.5, 0),
    Knot(1, 0),
    Knot(1, 0.6),
    Knot(0.7, 1, smooth=True),
    Knot(0.3, 0.9, smooth=True),
    Knot(0, 0.6),
)


def lamp(shape, size=(80.0, 80.0, 120.0), **changes):
    return Volume("Red lamp", *size, shape=shape, **changes)


@pytest.mark.parametrize(
    ("shape", "size", "contents"),
    [
        (lathe.CYLINDER, (60, 60, 90), math.pi * 30**2 * 90),
        (lathe.CONE, (60, 60, 90), math.pi * 30**2 * 90 / 3),
        (lathe.FRUSTUM, (60, 60, 90), math.pi * 90 / 3 * 30**2 * (1 + 0.6 + 0.36)),
        (lathe.TUBE, (60, 60, 90), math.pi * 30**2 * 90 * (1 - 0.64)),
        (lathe.SPHERE, (60, 60, 60), 4 / 3 * math.pi * 30**3),
        (lathe.DOME, (60, 60, 30), 2 / 3 * math.pi * 30**3),
        (Loop(), (60, 60, 1), 0.0),
    ],
)
def test_round_forms_hold_what_the_textbook_says(shape, size, contents):
    assert lamp(shape, size).contents_mm3 == pytest.approx(contents, rel=1e-12)


@given(st.lists(floats(0.05, 1.0), min_size=3, max_size=9), floats(0.2, 0.8))
def test_a_smooth_form_runs_through_its_radii_without_corners_or_overshoot(radii, stretch):
    heights = np.linspace(0, 1, len(radii)) ** (2 * stretch)
    stations = tuple((float(h), r / max(radii)) for h, r in zip(heights, radii, strict=True))
    pieces = segments_of(stations, "smooth", 100.0, 40.0)
    for before, after in itertools.pairwise(pieces):
        at = after.low
        assert before.high == at and before.squared(at) == pytest.approx(
            after.squared(at), abs=1e-7
        )
        slopes = [p.b + 2 * p.c * at for p in (before, after)]
        assert slopes[0] == pytest.approx(slopes[1], rel=1e-6, abs=1e-6 * 1600)
    for (low, first), (high, last) in itertools.pairwise(stations):
        here = np.linspace(100 * low, 100 * high, 21)
        r = [next(p for p in pieces if p.low - 1e-9 <= h <= p.high + 1e-9).radius(h) for h in here]
        assert min(r) >= 40 * min(first, last) - 1e-6 and max(r) <= 40 * max(first, last) + 1e-6
        assert r[0] == pytest.approx(40 * first, abs=1e-6) and r[-1] == pytest.approx(
            40 * last, abs=1e-6
        )


def test_everything_drawn_on_a_round_body_lies_on_its_surfaces():
    bodies = [
        lamp(VASE),
        lamp(lathe.wheel(), (80, 30, 80)),
        lamp(lathe.TUBE),
        lamp(Extruded((ARCHED, circle(0.6, 0.4, 0.1)), axis=1), (200, 60, 100)),
        lamp(Extruded((ARCHED,), axis=0, slant=(0.3, -0.2)), (60, 200, 100)),
        lamp(Extruded((ARCHED,), axis=1, widths=((0, 0.5), (0.4, 1), (1, 0.7))), (200, 60, 100)),
    ]
    for volume in bodies:
        body, surfaces = volume.body, volume.body.surfaces
        lines = body.vertices[body.edges]
        arcs = np.concatenate([body.arcs, straight(lines[:, 0], lines[:, 1])])
        on = np.concatenate([body.arc_faces, body.edge_faces])
        for arc, patches in zip(arcs, on, strict=True):
            for t in (0.0, 0.37, 1.0):
                at = np.append(points_at(arc[None], np.array([t]))[0], 1.0)
                for patch in patches[patches >= 0]:
                    assert abs(at @ surfaces.forms[patch] @ at) < 1e-7 * 200
                    assert (surfaces.within[patch] @ at >= -1e-6).all()


def test_meshes_of_round_volumes_are_closed_and_all_but_as_large():
    for body in (
        lamp(VASE),
        lamp(lathe.TUBE),
        lamp(lathe.SPHERE, (60, 60, 60)),
        lamp(Extruded((ARCHED, circle(0.6, 0.4, 0.1)), axis=1), (200, 60, 100), yaw_deg=30),
        lamp(Extruded((ARCHED,), axis=1, widths=((0, 0.5), (0.4, 1), (1, 0.7))), (200, 60, 100)),
        Volume("Case", 90, 60, 50, circles=(FaceCircle(2, through=True),)),
    ):
        mesh = trimesh.Trimesh(*triangles_of(body), process=False)
        assert mesh.is_watertight and mesh.volume == pytest.approx(body.contents_mm3, rel=0.008)


def test_smooth_points_of_a_circle_give_the_circle():
    turn = np.radians([10, 80, 130, 200, 290])
    ring = tuple(Knot(0.5 + 0.5 * math.cos(t), 0.5 + 0.5 * math.sin(t), smooth=True) for t in turn)
    assert area(flat(ring, 100, 100)) == pytest.approx(math.pi * 50**2, rel=1e-9)


@given(floats(0.05, 0.95), floats(0.05, 0.95))
def test_inside_an_outline_agrees_with_its_polygon(x, y):
    rings = [flat(ARCHED, 200, 100), flat(circle(0.6, 0.4, 0.1), 200, 100)]
    place = np.array([[200 * x, 100 * y]])
    fine = parity(chorded(rings[0], 0.1), place) ^ parity(chorded(rings[1], 0.1), place)
    near = min(np.hypot(*(chorded(r, 0.1) - place).T).min() for r in rings)
    assert near < 0.5 or within(rings, place)[0] == fine[0]


def test_a_rounded_plan_is_drawn_with_true_arcs():
    from isometron.framework.kinds.kind import RECTANGLE
    from isometron.framework.kinds.plan import Plan

    tin = Volume("Filter tin", 100, 60, 40, shape=Plan(RECTANGLE, 12.0, True))
    whole = 100 * 60 - (4 - math.pi) * 12**2
    assert tin.contents_mm3 == pytest.approx(40 * whole, rel=1e-12)
    assert len(tin.body.surfaces.swept) == 4


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Turned(((0, 1),)), "2 to"),
        (lambda: Turned(((0, 1), (0.5, -0.1))), "radius"),
        (lambda: Turned(((0.6, 1), (0.2, 1))), "go up"),
        (lambda: Turned(((0, 1), (0.5, 1), (0.5, 0.4), (1, 1)), join="smooth"), "one radius"),
        (lambda: Turned(((0, 1), (1, 0.3)), bore=0.4), "narrower"),
        (lambda: Turned(((0, math.nan), (1, 1))), "radius"),
        (lambda: Loop(sweep_deg=0), "turns by more"),
        (lambda: FaceCircle(0, radius_mm=-2), "above 0"),
        (lambda: lathe.wheel(rim=0.1, hub=0.5), "hub lies inside"),
        (
            lambda: lamp(Extruded(((Knot(0, 0), Knot(1, 1), Knot(1, 0), Knot(0, 1)),))).body,
            "crosses",
        ),
        (lambda: lamp(Extruded((rectangle(), circle(1.2, 0.5, 0.1)))).body, "hole lies outside"),
        (lambda: lamp(Extruded((rectangle(), circle(0.98, 0.5, 0.1)))).body, "crosses"),
        (
            lambda: (
                Volume(
                    "C", 9, 9, 9, circles=(FaceCircle(0, through=True), FaceCircle(2, through=True))
                ).body
            ),
            "one way",
        ),
        (lambda: Extruded((ARCHED,), widths=((0.2, 1), (1, 1))), "both ends"),
    ],
)
def test_a_form_that_cannot_be_is_refused_with_a_sentence(make, words):
    with pytest.raises(VolumeError, match=words):
        make()


@pytest.mark.parametrize("axis", [0, 1, 2])
@pytest.mark.parametrize(
    "shape",
    [
        VASE,
        lathe.DOME,
        Loop(start_deg=20, sweep_deg=130),
        Extruded((ARCHED,), slant=(0.2, 0.1)),
        Extruded((ARCHED,), widths=((0, 0.5), (0.3, 1), (1, 0.8))),
    ],
)
def test_a_twin_of_a_round_volume_is_its_mirror_image(shape, axis):
    shape = replace(shape, axis=axis)
    marked = not (isinstance(shape, Loop) or shape.called == "dome" or getattr(shape, "widths", ()))
    circles = (FaceCircle(1, (0.4, 0.5), 9.0, start_deg=15, sweep_deg=80),) if marked else ()
    source = lamp(
        shape,
        (80.0, 80.0, 80.0),
        x_mm=300,
        y_mm=40,
        yaw_deg=25,
        key=1,
        pitch_deg=12,
        circles=circles,
    )
    about = Volume("Bench", 500, 300, 20, key=0, yaw_deg=-10)
    twin = replace(source, key=2, like=Mirrored(1, 0, 0), circles=())
    (_, _, made), _ = settle([about, source, twin], ())
    place, axes = about.pose
    normal = axes[0]
    through = float((place + 250 * normal) @ normal)

    def points(volume, flip):
        arcs = volume.body.arcs
        own = np.concatenate(
            [volume.body.vertices, *(points_at(arcs, np.full(len(arcs), t)) for t in (0, 0.5, 1))]
        )
        world = own @ volume.pose[1] + volume.pose[0]
        return world - 2 * np.outer(world @ normal - through, normal) if flip else world

    a, b = points(source, True), points(made, False)
    assert np.linalg.norm(a[:, None] - b[None], axis=2).min(axis=1).max() < 1e-6

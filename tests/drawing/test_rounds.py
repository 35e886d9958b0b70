"""Curves as they are drawn: hidden parts against sight rays, outlines by their tangents."""

import functools
import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.drawing.curve_pieces import OUTLINE
from isometron.drawing.rounds import all_circles, circle_in_work, degrees_over_height
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_sheet
from isometron.framework import turned as lathe
from isometron.framework.circles import FaceCircle
from isometron.framework.extruded import Extruded, flats_of, width_at
from isometron.framework.outlines import Knot, chorded, circle, parity
from isometron.framework.turned import Turned
from isometron.framework.volume import Volume
from isometron.perspective.conics import between, points_at
from isometron.perspective.eye import frame
from isometron.perspective.projection import project
from tests.scenes import eye

ARCHED = (
    *(Knot(0, 0), Knot(0.2, 0, -0.9), Knot(0.5, 0), Knot(1, 0), Knot(1, 0.6)),
    *(Knot(0.7, 1, smooth=True), Knot(0.3, 0.9, smooth=True), Knot(0, 0.6)),
)
VASE = Turned(((0.0, 0.7), (0.2, 1.0), (0.5, 0.35), (0.8, 0.6), (1.0, 0.5)), join="smooth")
SHAPES = [
    VASE,
    Turned(VASE.stations),
    lathe.TUBE,
    lathe.SPHERE,
    lathe.CONE,
    lathe.wheel(),
    lathe.DOME,
    Extruded((ARCHED, circle(0.65, 0.45, 0.12)), axis=1),
    Extruded((ARCHED,), axis=0, slant=(0.3, -0.2)),
    Extruded((ARCHED,), axis=1, widths=((0, 0.4), (0.45, 1), (1, 0.7))),
]


def crowd(seed, count=7):
    """Round and flat volumes at any turn, hiding each other."""
    rng = np.random.default_rng(seed)
    volumes = []
    for i in range(count):
        size = rng.uniform(80, 260, 3)
        shape = SHAPES[int(rng.integers(len(SHAPES)))] if i % 3 else None
        if isinstance(shape, Turned):
            size[:] = rng.uniform(80, 260)
            size[shape.axis] = rng.uniform(60, 300)
        spread = rng.uniform((-350, 1500, 1150), (350, 2300, 1750))
        turns = rng.uniform(-60, 60, 3) if i % 2 else (rng.uniform(-90, 90), 0.0, 0.0)
        volumes.append(
            Volume(
                f"Part {i}",
                *size.tolist(),
                *spread.tolist(),
                *map(float, turns),
                **(
                    {"shape": shape}
                    if shape
                    else {"circles": (FaceCircle(2), FaceCircle(5, shares=(1, 0.5)))}
                ),
            )
        )
    return Document(
        eye=eye(tilt_deg=float(rng.uniform(-15, 15))), volumes=tuple(volumes), selected=0
    )


@functools.cache
def radii(shape, length, radius):
    table = np.linspace(0, length, 4001)
    pieces = lathe.segments_of(shape, length, radius)
    inside = [next(p for p in pieces if p.low - 1e-9 <= t <= p.high + 1e-9) for t in table]
    return table, [piece.radius(t) for piece, t in zip(inside, table, strict=True)]


@functools.cache
def polygons(shape, sides):
    return [chorded(ring, 1.5) for ring in flats_of(shape, sides)]


def depth_inside(volume, points):
    """How far inside a volume points (n, 3) lie, roughly, mm; below 0 outside. From the written
    definitions of the shapes alone."""
    place, axes = volume.frame
    own = (points - place) @ axes.T
    shape, sides = volume.shape, np.array(volume.sides)
    within_box = np.minimum(own, sides - own)
    if isinstance(shape, Turned):
        across = [a for a in range(3) if a != shape.axis]
        radius, length = min(sides[across]) / 2, sides[shape.axis]
        rho = np.hypot(*(own[:, across] - sides[across] / 2).T)
        h = own[:, shape.axis]
        table, r = radii(shape, length, radius)
        inside = np.minimum(np.interp(h, table, r) - rho, within_box[:, shape.axis])
        return np.minimum(inside, rho - shape.bore * radius) if shape.bore else inside
    if isinstance(shape, Extruded):
        first, second = shape.cross
        share = own[:, shape.axis] / sides[shape.axis]
        flat = (
            own[:, [first, second]]
            - share[:, None] * np.array(shape.slant) * sides[[first, second]]
        )
        rings = polygons(shape, volume.sides)
        inside = np.logical_xor.reduce([parity(ring, flat) for ring in rings])
        edge = np.min(
            [
                np.abs(np.hypot(*(flat[:, None] - ring[None]).transpose(2, 0, 1))).min(axis=1)
                for ring in rings
            ],
            axis=0,
        )
        width = np.array([width_at(shape, u) for u in flat[:, 0] / sides[first]])
        thick = (width / 2 - np.abs(share - 0.5)) * sides[shape.axis]
        return np.minimum(np.where(inside, edge, -edge), thick)
    return within_box.min(axis=1)


def hidden_truly(document, owner, point):
    """Whether a sight ray to a point goes through a body: True, False, or None when it grazes."""
    start, run = np.array(document.eye.place), point - np.array(document.eye.place)
    steps = int(np.linalg.norm(run) / 5.0)
    whole = start + np.linspace(0.35, 1.0, steps)[:, None] * run
    close = 1.0 - np.concatenate([np.linspace(0.65, 0.01, steps), np.geomspace(0.01, 1e-4, 200)])
    states = []
    for index, volume in enumerate(document.volumes):
        if index == owner:  # a point of its own surface is neared from outside, or not at all
            deep = float(depth_inside(volume, start + close[:, None] * run).max())
            states.append(None if -0.004 < deep < 0.1 else deep > 0)
        else:
            deep = float(depth_inside(volume, whole).max())
            states.append(None if -2.5 < deep < 4.0 else deep > 0)
    return True if True in states else None if None in states else False


def arched():
    """The crawler without its cabin: wheels in arches, partly behind the side they stand out of."""
    crawler = sample_sheet("supply crawler")
    body, _, *wheels = crawler.volumes
    return replace(
        crawler, volumes=(replace(body, on=None), *(replace(w, on=None) for w in wheels))
    )


@pytest.mark.parametrize("seed", range(4))
def test_every_curve_is_seen_exactly_where_a_sight_ray_reaches_it(seed):
    document = crowd(seed) if seed else arched()
    scene = scene_of(document)
    rng = np.random.default_rng(seed)
    asked = 0
    for index, picture in enumerate(scene.pictures):
        surfaces = scene.stage.standing[index].surfaces
        for curve, span, seen in zip(
            picture.curves.curve.tolist(),
            picture.curves.span,
            picture.curves.seen.tolist(),
            strict=True,
        ):
            arc = picture.built.arcs[curve] if curve >= 0 else surfaces.outlines[-1 - curve].copy()
            if curve < 0:
                arc[:, :3] += arc[:, 3:] * np.array(document.eye.place)
            for share in (0.08, rng.uniform(0.1, 0.9), 0.92):
                t = float(span[0] + share * (span[1] - span[0]))
                truly = hidden_truly(document, index, points_at(arc[None], np.array([t]))[0])
                if truly is not None:
                    asked += 1
                    assert truly != seen, (index, curve, t, document.volumes[index].kind)
    assert asked > 60


@pytest.mark.parametrize("seed", range(2))
def test_straight_lines_are_hidden_by_round_bodies_where_a_ray_meets_them(seed):
    document = crowd(seed + 20)
    scene = scene_of(document)
    asked = 0
    for index, picture in enumerate(scene.pictures):
        if picture.built.round:
            continue
        for edge, spans in enumerate(picture.visible):
            a, b = picture.world[picture.edges[edge]]
            for t in np.linspace(0.04, 0.96, 9):
                truly = hidden_truly(document, index, a + t * (b - a))
                near = any(abs(t - end) < 0.01 for span in spans for end in span)
                if truly is not None and not near and picture.built.faces[edge].max() >= 0:
                    turned = scene.stage.standing[index].shown[picture.built.faces[edge]].any()
                    asked += 1
                    seen = any(low < t < high for low, high in spans)
                    assert seen == (turned and not truly), (index, edge, t)
    assert asked > 40


def test_an_outline_touches_the_surface_and_runs_into_its_end_circles():
    document = Document(
        eye=eye(tilt_deg=-8.0),
        volumes=(
            Volume("Lamp", 200, 200, 300, -90, 1800, 1100, 20, 15, 10, shape=VASE),
            Volume("Tin", 150, 150, 220, 150, 1900, 1150, shape=lathe.FRUSTUM),
        ),
        selected=0,
    )
    scene = scene_of(document)
    for standing in scene.stage.standing:
        surfaces = standing.surfaces
        assert len(surfaces.outlines) >= 2
        for arc, patch in zip(surfaces.outlines, surfaces.outline_patch, strict=True):
            form = surfaces.forms[patch]
            for t in np.linspace(0, 1, 7):
                at = np.append(points_at(arc[None], np.array([t]))[0], 1.0)
                size = np.abs(form).max() * at[:3] @ at[:3]
                assert abs(at @ form @ at) < 1e-10 * size, "on the surface"
                assert abs(form[3] @ at) < 1e-10 * size, "touched by the sight line"
    # The outline of a frustum joins its base ellipse without a corner: one tangent on the paper.
    tin = scene.pictures[1]
    outline = tin.curves.arcs[tin.curves.kind == OUTLINE][0]
    a, b = outline[0, :2] / outline[0, 2], outline[2, :2] / outline[2, 2]
    ends = [c for c in all_circles(scene) if c.volume == 1 and c.role == "end"]
    for end, circle_ in ((a, ends[0]), (b, ends[1])):
        ellipse = circle_.ellipse
        points = ellipse.point(np.linspace(0, 360, 72001))
        nearest = int(np.hypot(*(points - end).T).argmin())
        assert np.hypot(*(points[nearest] - end)) < 0.01
        along = points[(nearest + 1) % 72001] - points[nearest - 1]
        run = b - a
        assert abs(along[0] * run[1] - along[1] * run[0]) < 2e-3 * np.hypot(*along) * np.hypot(*run)


@pytest.mark.parametrize(("off", "ratio"), [(10, 1.016), (20, 1.065), (30, 1.156)])
def test_a_sphere_off_the_centre_is_drawn_as_long_as_was_measured(off, ratio):
    away = 5000 * np.array([math.sin(math.radians(off)), math.cos(math.radians(off)), 0.0])
    x, y, z = (away + (0, 0, 1500) - 20).tolist()
    ball = Volume("Ball", 40, 40, 40, x, y, z, shape=lathe.SPHERE)
    picture = scene_of(Document(eye=eye(), volumes=(ball,), selected=0)).pictures[0]
    outline = picture.curves.arcs[picture.curves.kind == OUTLINE]
    points = np.concatenate(
        [points_at(outline, np.full(len(outline), t)) for t in np.linspace(0, 1, 99)]
    )
    radial, across = np.ptp(points[:, 0]), np.ptp(points[:, 1])
    assert radial / across == pytest.approx(ratio, abs=2e-3)


def test_a_cylinder_behind_the_near_plane_and_a_circle_round_the_eye_are_no_nonsense():
    round_us = Volume("Gallery", 4000, 4000, 600, -2000, -2000, 1200, shape=lathe.TUBE)
    above = Volume("Dome", 9000, 9000, 4500, -4500, -4500, 0, shape=lathe.DOME)
    for tilt in (-80.0, 0.0, 60.0, 90.0):
        scene = scene_of(Document(eye=eye(tilt_deg=tilt), volumes=(round_us, above), selected=0))
        for picture in scene.pictures:
            assert np.isfinite(picture.curves.arcs).all()


def test_the_degree_grows_away_from_the_eye_level_and_changes_sides_there():
    lamp = Volume("Stem", 60, 60, 900, -30, 2500, 1000, shape=lathe.CYLINDER)
    degrees = degrees_over_height(Document(eye=eye(), volumes=(lamp,), selected=0), 0)
    heights = [one.height_mm for one in degrees]
    values = [one.degree_deg for one in degrees]
    assert heights == sorted(heights) and values == sorted(values, reverse=True)
    crossing = np.interp(0.0, values[::-1], heights[::-1])
    assert crossing == pytest.approx(500.0, abs=1.0)


def test_the_square_of_a_circle_touches_its_ellipse_in_four_points():
    lamp = Volume("Wheel", 620, 200, 620, 300, 2600, 0, 30, shape=lathe.wheel())
    document = Document(eye=eye(), volumes=(lamp,), selected=0)
    circle_ = circle_in_work(document, scene_of(document))
    square = circle_.square(document.eye)
    points = circle_.ellipse.point(np.linspace(0, 360, 14401))
    for place in (*square[4:8], *square[9:]):
        assert np.hypot(*(points - place).T).min() < 0.02
    for a, b in ((0, 1), (1, 2), (2, 3), (3, 0)):
        run = square[b] - square[a]
        side = run[0] * (points - square[a])[:, 1] - run[1] * (points - square[a])[:, 0]
        assert min(abs(side.min()), abs(side.max())) < 2e-4 * np.hypot(*run) * 100
        assert (side > -1e-2).all() or (side < 1e-2).all()


def test_parts_of_a_curve_lie_where_the_curve_is_drawn():
    document = crowd(3)
    for picture in scene_of(document).pictures:
        curves = picture.curves
        some = np.flatnonzero(curves.curve >= 0)
        arcs = picture.built.arcs[curves.curve[some]]
        part = between(arcs, curves.span[some, 0], curves.span[some, 1])
        for t in (0.0, 0.4, 1.0):
            share = np.full(len(some), t)
            drawn = project(document.eye, points_at(part, share)).sheet
            assert np.abs(points_at(curves.arcs[some], share) - drawn).max(initial=0.0) < 1e-6
    assert frame(document.eye).shape == (3, 3)

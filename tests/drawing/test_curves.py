"""Curves as they are drawn: hidden parts against sight rays, outlines by their tangents."""

import functools
import math
from dataclasses import replace

import numpy as np
import pytest
from scipy.spatial import KDTree

from isometron.document.document import Document
from isometron.drawing.curves import clipped_arcs, cubics
from isometron.drawing.rounds import all_circles, circle_in_work, degrees_over_height
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_sheet
from isometron.framework.bodies.body import OUTLINE
from isometron.framework.bodies.extruded import flats_of
from isometron.framework.bodies.lathe import segments_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Knot, chorded, circle, parity
from isometron.framework.volume import Volume
from isometron.perspective.conics import between, points_at
from isometron.perspective.eye import sight_axes
from isometron.perspective.projection import project
from tests.scenes import eye, seeds, seen_by

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
        views=seen_by(eye(tilt_deg=float(rng.uniform(-15, 15)))), volumes=tuple(volumes), selected=0
    )


@functools.cache
def radii(shape, length, radius):
    table = np.linspace(0, length, 4001)
    pieces = segments_of(shape.stations, shape.join, length, radius)
    inside = [next(p for p in pieces if p.low - 1e-9 <= t <= p.high + 1e-9) for t in table]
    return table, [piece.radius(t) for piece, t in zip(inside, table, strict=True)]


@functools.cache
def polygons(shape, sides):
    return [chorded(ring, 0.6) for ring in flats_of(shape.rings, shape.axis, sides)]


def depth_inside(volume, points):
    """How far inside a volume points (n, 3) lie, roughly, mm; below 0 outside. From the written
    definitions of the shapes alone."""
    held = volume.enclosing()
    within = np.minimum(points - held.min(axis=0), held.max(axis=0) - points).min(axis=1)
    near = within > -5
    within[near] = _depth_inside(volume, points[near])
    return within


def _depth_inside(volume, points):
    place, axes = volume.pose
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
        edge = KDTree(np.concatenate(rings)).query(flat)[0]
        across = np.linspace(0, 1, 2001)
        widths = (
            np.interp(across, *np.array(shape.widths).T) if shape.widths else np.ones(len(across))
        )
        width = np.interp(flat[:, 0] / sides[first], across, widths)
        thick = (width / 2 - np.abs(share - 0.5)) * sides[shape.axis]
        return np.minimum(np.where(inside, edge, -edge), thick)
    return within_box.min(axis=1)


def hidden_truly(document, owner, points):
    """Whether sight rays to points (p, 3) go through a body: (p,) 1, 0, or −1 when one grazes."""
    start = np.array(document.eye.place)
    run = points - start
    close = 1.0 - np.concatenate([np.linspace(0.6, 0.01, 300), np.geomspace(0.01, 1e-4, 100)])
    whole = np.linspace(0.4, 1.0, 600)
    states = []
    for index, volume in enumerate(document.volumes):
        # A point of its own surface is neared from outside, or not at all; the skin of what tapers
        # is known here to a few tenths.
        shares, low, high = (close, -0.004, 0.4) if index == owner else (whole, -5.0, 4.0)
        rays = start + shares[:, None] * run[:, None]
        inside = depth_inside(volume, rays.reshape(-1, 3)).reshape(len(points), -1).max(axis=1)
        states.append(np.where((low < inside) & (inside < high), -1, inside > 0))
    every = np.array(states)
    return np.where((every == 1).any(axis=0), 1, np.where((every < 0).any(axis=0), -1, 0))


def arched():
    """The crawler without its cabin: wheels in arches, partly behind the side they stand out of."""
    crawler = sample_sheet("supply crawler")
    body, _, *wheels = crawler.volumes
    return replace(
        crawler, volumes=(replace(body, on=None), *(replace(w, on=None) for w in wheels))
    )


@pytest.mark.sample(1)
@pytest.mark.parametrize("seed", seeds(3, 12))
def test_every_curve_is_seen_exactly_where_a_sight_ray_reaches_it(seed):
    document = crowd(seed) if seed else arched()
    rng = np.random.default_rng(seed)
    asked = 0
    for index, picture in enumerate(scene_of(document).pictures):
        items = picture.standing.items
        arcs = items.arcs[picture.pieces.item[len(picture.lines) :]]
        if not len(arcs):
            continue
        span = picture.pieces.span[len(picture.lines) :]
        for share in (0.08, rng.uniform(0.1, 0.9), 0.92):
            at = span[:, 0] + share * (span[:, 1] - span[:, 0])
            points = points_at(arcs, at) + np.array(document.eye.place)
            truly = hidden_truly(document, index, points)
            sure = (truly >= 0) & (span[:, 1] - span[:, 0] > 1e-6)  # no speck
            asked += int(sure.sum())
            assert np.array_equal(truly[sure] == 1, ~picture.arc_seen[sure]), picture.volume.called
    assert asked > 60


@pytest.mark.parametrize("seed", range(2))
def test_straight_lines_are_hidden_by_round_bodies_where_a_ray_meets_them(seed):
    document = crowd(seed + 20)
    asked = 0
    for index, picture in enumerate(scene_of(document).pictures):
        if picture.body.bent:
            continue
        turned = picture.standing.items.turned[: len(picture.edges)]
        for t in np.linspace(0.04, 0.96, 9):
            ends = picture.world[picture.edges]
            truly = hidden_truly(document, index, (1 - t) * ends[:, 0] + t * ends[:, 1])
            for edge, spans in enumerate(picture.visible):
                near = any(abs(t - end) < 0.01 for span in spans for end in span)
                if truly[edge] >= 0 and not near:
                    asked += 1
                    seen = any(low < t < high for low, high in spans)
                    assert seen == (turned[edge] and not truly[edge]), (index, edge, t)
    assert asked > 40


def test_an_outline_touches_the_surface_and_runs_into_its_end_circles():
    document = Document(
        views=seen_by(eye(tilt_deg=-8.0)),
        volumes=(
            Volume("Lamp", 200, 200, 300, -90, 1800, 1100, 20, 15, 10, shape=VASE),
            Volume("Tin", 150, 150, 220, 150, 1900, 1150, shape=lathe.FRUSTUM),
        ),
        selected=0,
    )
    scene = scene_of(document)
    for picture in scene.pictures:
        surfaces = picture.standing.seen
        assert len(surfaces.outlines) >= 2
        for arc, surface in zip(surfaces.outlines, surfaces.outline_surface, strict=True):
            form = surfaces.forms[surface]
            for t in np.linspace(0, 1, 7):
                at = np.append(points_at(arc[None], np.array([t]))[0], 1.0)
                size = np.abs(form).max() * at[:3] @ at[:3]
                assert abs(at @ form @ at) < 1e-10 * size, "on the surface"
                assert abs(form[3] @ at) < 1e-10 * size, "touched by the sight line"
    # The outline of a frustum joins its base ellipse without a corner: one tangent on the paper.
    tin = scene.pictures[1]
    outline = tin.arcs[tin.arc_kinds == OUTLINE][0]
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
    picture = scene_of(Document(views=seen_by(eye()), volumes=(ball,), selected=0)).pictures[0]
    outline = picture.arcs[picture.arc_kinds == OUTLINE]
    points = np.concatenate(
        [points_at(outline, np.full(len(outline), t)) for t in np.linspace(0, 1, 99)]
    )
    radial, across = np.ptp(points[:, 0]), np.ptp(points[:, 1])
    assert radial / across == pytest.approx(ratio, abs=2e-3)


def test_a_cylinder_behind_the_near_plane_and_a_circle_round_the_eye_are_no_nonsense():
    round_us = Volume("Gallery", 4000, 4000, 600, -2000, -2000, 1200, shape=lathe.TUBE)
    above = Volume("Dome", 9000, 9000, 4500, -4500, -4500, 0, shape=lathe.DOME)
    for tilt in (-80.0, 0.0, 60.0, 90.0):
        views = seen_by(eye(tilt_deg=tilt))
        scene = scene_of(Document(views=views, volumes=(round_us, above), selected=0))
        for picture in scene.pictures:
            assert np.isfinite(picture.arcs).all()


def test_the_degree_grows_away_from_the_eye_level_and_changes_sides_there():
    lamp = Volume("Stem", 60, 60, 900, -30, 2500, 1000, shape=lathe.CYLINDER)
    degrees = degrees_over_height(Document(views=seen_by(eye()), volumes=(lamp,), selected=0), 0)
    heights = [one.height_mm for one in degrees]
    values = [one.degree_deg for one in degrees]
    assert heights == sorted(heights) and values == sorted(values, reverse=True)
    crossing = np.interp(0.0, values[::-1], heights[::-1])
    assert crossing == pytest.approx(500.0, abs=1.0)


def test_the_square_of_a_circle_touches_its_ellipse_in_four_points():
    lamp = Volume("Wheel", 620, 200, 620, 300, 2600, 0, 30, shape=lathe.wheel())
    document = Document(views=seen_by(eye()), volumes=(lamp,), selected=0)
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
        numbers = picture.arc_numbers
        some = np.flatnonzero((numbers >= 0) & (numbers < len(picture.figure.arcs)))
        arcs, span = (
            picture.figure.arcs[numbers[some]],
            picture.pieces.span[len(picture.lines) :][some],
        )
        part = between(arcs, span[:, 0], span[:, 1])
        for t in (0.0, 0.4, 1.0):
            share = np.full(len(some), t)
            drawn = project(document.eye, points_at(part, share)).sheet
            assert np.abs(points_at(picture.arcs[some], share) - drawn).max(initial=0.0) < 1e-6
    assert sight_axes(document.eye).shape == (3, 3)


@pytest.mark.parametrize("wrong", [np.nan, np.inf, -np.inf, 0.0, -1.0])
def test_an_arc_that_cannot_be_drawn_is_cut_away_in_numbers(wrong):
    arc = np.array([[[0.0, 0.0, 1.0], [5.0, 9.0, 1.0], [10.0, 0.0, 1.0]]])
    whole, number = cubics(arc, 0.01)
    assert len(whole) and not number.any()
    for row in range(3):
        for column in range(3):
            spoilt = arc.copy()
            spoilt[0, row, column] = wrong
            for error in (0.01, 0.0, np.nan, np.inf):
                curves, number = cubics(np.concatenate([spoilt, arc]), error)
                assert np.isfinite(curves).all() or np.isfinite(spoilt).all()
                assert len(curves) <= 2 * 2**13 and 1 in number
            assert np.isfinite(clipped_arcs(spoilt, (-50.0, -50.0, 50.0, 50.0))).all()

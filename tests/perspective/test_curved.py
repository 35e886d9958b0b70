"""The curved projection against fifty digits, and its curves against the mapping itself."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from mpmath import acos, mpf, sqrt

from isometron.cli import main
from isometron.document.edits import eye_edits, finishing, lighting
from isometron.document.edits.projecting import Projecting, applied, flat_twin
from isometron.document.lights.sun import Sun
from isometron.drawing.finish.mirror import mirror_lines
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.areas import areas_of
from isometron.drawing.stretch import stretch_of
from isometron.files.report import report_of
from isometron.files.sheet_file import read_sheet, sample_sheet, write_sheet
from isometron.files.sheet_page import svg_of
from isometron.perspective.conics import at, points_at
from isometron.perspective.curved import CURVE_MM, direction_at, from_flat, place_points, to_flat
from isometron.perspective.projection import project, sight_ray
from tests.exact import dot, sight_axes
from tests.scenes import case, crowd, eye, sheet

CURVED = Projecting(curved=True)
CRAWLER = sample_sheet("supply crawler")
SUN = Sun(255.0, 40.0)


def landed(by, point):
    """Where a world point lands, from the definition, in fifty digits."""
    r, u, f = sight_axes(by)
    v = [mpf(float(p)) - mpf(e) for p, e in zip(point, by.place, strict=True)]
    x, y, z = dot(v, r), dot(v, u), dot(v, f)
    t = acos(z / sqrt(x * x + y * y + z * z))
    radius = mpf(by.station_distance_mm) * t / sqrt(x * x + y * y)
    cx, cy = by.centre_of_vision_mm
    return float(cx + radius * x), float(cy + radius * y)


@pytest.mark.parametrize("reach", [3e3, 1e6])
def test_places_all_round_the_eye_land_where_fifty_digits_say(reach):
    by = eye(heading_deg=33.0, tilt_deg=-21.0, x_mm=700.0, curved=True)
    points = np.random.default_rng(4).uniform(-reach, reach, (60, 3))
    drawn = project(by, points)
    assert drawn.seen.all(), "what lies behind the eye lands too"
    exact = [landed(by, point) for point in points]
    assert drawn.sheet == pytest.approx(np.array(exact), abs=1e-9)
    behind = np.array(by.place) - 500.0 * np.array([float(v) for v in sight_axes(by)[2]])
    away = place_points(by, np.array([behind, by.place]))
    assert np.isnan(away.sheet[1]).all(), "the eye itself is drawn nowhere"
    for place in drawn.sheet[:20]:
        way = direction_at(by, tuple(place.tolist()))
        found = project(by, (np.array(by.place) + 1234.0 * way)[None]).sheet[0]
        assert found == pytest.approx(place, abs=1e-8)
    near = drawn.sheet[np.isfinite(to_flat(by, drawn.sheet)).all(axis=1)]
    assert from_flat(by, to_flat(by, near)) == pytest.approx(near, abs=1e-9)


def test_drawn_curves_miss_the_true_ones_by_less_than_is_said_also_behind_the_eye():
    """In a room whose corners lie round the eye."""
    room = case(x_mm=-2500.0, y_mm=-2000.0, z_mm=0.0, width_mm=5000.0, depth_mm=6000.0,
                height_mm=2600.0, yaw_deg=0.0)  # fmt: skip
    document = CURVED(sheet(room, case(z_mm=0.0, key=1), by=eye(station_distance_mm=110.0)))
    scene = scene_of(document)
    assert max(p.depth.min() for p in scene.pictures[:1]) < 0
    asked = 0
    for picture in scene.pictures:
        items, pieces = picture.standing.items, picture.pieces
        for piece in range(len(pieces.item)):
            arcs = picture.curves[picture.curve_pieces == piece]
            if not len(arcs):
                continue
            start, end = pieces.span[piece]
            t = start + (end - start) * np.linspace(0, 1, 1500)
            whole = np.tile(items.arcs[pieces.item[piece]], (len(t), 1, 1))
            true = place_points(document.eye, at(whole, t)[:, :3] + document.eye.place).sheet
            line = shapely.LineString(true)
            for arc in arcs:
                places = points_at(np.tile(arc, (5, 1, 1)), np.linspace(0.1, 0.9, 5))
                off = shapely.distance(line, shapely.points(places)).max()
                assert off < 1.1 * CURVE_MM, piece
                asked += len(places)
            ends = arcs[[0, -1], [0, 2], :2]
            assert np.hypot(*(true[[0, -1]] - ends).T).max() < 1e-6
    assert asked > 300


def test_what_is_hidden_is_the_same_flat_and_curved_and_straight_stays_straight_through_the_lens():
    document = sheet(*crowd(9, 3))
    flat, curved = scene_of(document), scene_of(CURVED(document))
    compared = 0
    for one, two in zip(flat.pictures, curved.pictures, strict=True):
        if np.isfinite(one.sheet).all():
            assert len(one.visible) == len(two.visible)
            for a, b in zip(one.visible, two.visible, strict=True):
                assert np.array(a) == pytest.approx(np.array(b), abs=1e-7)
                compared += len(a)
    assert compared > 20
    through = case(x_mm=0.0, y_mm=2000.0, z_mm=1500.0, yaw_deg=0.0)
    picture = scene_of(CURVED(sheet(through, by=eye(centre_of_vision_mm=(210.0, 180.0))))).pictures[
        0
    ]
    arcs = picture.curves[picture.curve_pieces == 0]
    one, two = arcs[:, 1, :2] - arcs[:, 0, :2], arcs[:, 2, :2] - arcs[:, 0, :2]
    assert len(arcs) and np.abs(one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0]).max() < 1e-9


def test_a_finished_curved_sheet_has_no_gaps_and_its_mirror_is_the_flat_one_bent():
    flat = lighting.set_light(sheet(case(z_mm=0.0, y_mm=2600.0), by=eye(height_mm=500.0)), SUN)
    flat = finishing.set_finish(flat, surroundings=True, mirror=True, weighted=True)
    document = CURVED(flat)
    areas = areas_of(document, scene_of(document))
    paper = shapely.box(0.0, 0.0, document.sheet.width_mm, document.sheet.height_mm)
    apart = [area.shape for area in areas if area.kind != "contact"]
    whole = shapely.union_all([area.shape for area in areas])
    assert paper.difference(whole).area < 0.05
    assert sum(shape.area for shape in apart) - shapely.union_all(apart).area < 0.05
    assert {area.kind for area in areas} >= {"floor", "sky", "mirror image", "face"}
    lines, arcs = mirror_lines(document, scene_of(document))
    there = np.concatenate([arcs[:, 0, :2], arcs[:, 2, :2]])
    straight, _none = mirror_lines(flat, scene_of(flat))
    edges = shapely.MultiLineString(list(straight.reshape(-1, 2, 2)))
    off = shapely.distance(edges, shapely.points(to_flat(document.eye, there)))
    assert not len(lines) and len(arcs) > 6 and np.median(off) < 1e-3


def test_edits_of_a_curved_sheet_are_those_of_the_flat_one_with_the_same_eye():
    document = CURVED(CRAWLER)
    for edit in (
        lambda d: eye_edits.set_eye_height(d, 1800.0),
        lambda d: eye_edits.step_back(d, 700.0),
        lambda d: lighting.set_light(d, Sun(200.0, 30.0)),
    ):
        after = applied(edit, document)
        assert after.eye.curved and flat_twin(after) == edit(CRAWLER)
    assert applied(Projecting(curved=False), document) == CRAWLER
    assert applied(lambda d: d, document) is document
    assert sight_ray(document.eye, document.eye.centre_of_vision_mm) == pytest.approx(
        sight_ray(CRAWLER.eye, CRAWLER.eye.centre_of_vision_mm)
    )


def test_circles_stretch_and_areas_of_a_curved_sheet(tmp_path):
    part = replace(CRAWLER, volumes=CRAWLER.volumes[:3])
    near = part.with_eye(replace(part.eye, station_distance_mm=260.0))
    document = CURVED(lighting.set_light(near, Sun(255.0, 40.0)))
    scene = scene_of(document)
    gaps = [circle.picture.gap_mm for circle in all_circles(scene)]
    assert all(0 <= gap < 2.0 for gap in gaps) and max(gaps) > 0
    circle = max(all_circles(scene), key=lambda one: one.ellipse.semi_major_mm)
    turn = np.linspace(0, 2 * np.pi, 300)
    world = circle.centre + circle.radius_mm * (
        np.cos(turn)[:, None] * circle.axes[0] + np.sin(turn)[:, None] * circle.axes[1]
    )
    drawn = project(document.eye, world).sheet
    on_ellipse = circle.ellipse.point(np.linspace(0, 360, 4000))
    off = [np.hypot(*(on_ellipse - place).T).min() for place in drawn]
    assert max(off) == pytest.approx(circle.picture.gap_mm, rel=0.1, abs=0.01)
    told = stretch_of(document, scene)
    t = np.radians(told.off_axis_deg)
    assert (told.flat, told.curved) == pytest.approx((1 / np.cos(t), t / np.sin(t)))
    flat = areas_of(near_lit := lighting.set_light(near, Sun(255.0, 40.0)), scene_of(near_lit))
    bent = areas_of(document, scene)
    kinds = {(a.kind, a.volume, a.face, a.step) for a in flat}
    assert {(a.kind, a.volume, a.face, a.step) for a in bent} >= {
        key for key in kinds if sum(a.mm2 for a in flat if a[:4] == key) > 2.0
    }
    for area in bent:
        if area.kind == "face" and area.mm2 > 20.0:
            inside = np.array([area.shape.representative_point().coords[0]])
            there = to_flat(document.eye, inside)[0]
            same = [a for a in flat if a[:4] == area[:4]]
            assert min(a.shape.distance(shapely.Point(there)) for a in same) < 0.1
    write_sheet(document, tmp_path / "curved.isometron")
    assert read_sheet(tmp_path / "curved.isometron") == document
    assert b"<path" in svg_of(document)
    report = report_of(document)
    assert report["eye"]["projection"] == "curved"
    corner = report["volumes"][0]["corners"][0]
    assert corner["curved_mm"] == corner["sheet_mm"]
    assert report_of(near)["volumes"][0]["corners"][0]["curved_mm"] == pytest.approx(
        corner["curved_mm"]
    )
    write_sheet(near, tmp_path / "flat.isometron")
    out = tmp_path / "out.svg"
    assert main(["draw", str(tmp_path / "flat.isometron"), "-o", str(out), "--curved"]) == 0
    assert out.read_bytes() == svg_of(CURVED(near))

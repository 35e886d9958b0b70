import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given

from isometron.document.document import Choices
from isometron.document.edits import finishing, lighting, sheet_edits
from isometron.document.lights.sun import Sun
from isometron.document.near_edge import near_corner
from isometron.drawing import layers
from isometron.drawing.fans import fan
from isometron.drawing.measures import (
    angle_of_sight,
    directions_of,
    drawn_area,
    edge_measures,
    from_near_corner,
    kind_of_sheet,
    kind_of_view,
    measuring_point_of,
    near_corner_angle,
)
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.point import PointPick
from isometron.drawing.readings import default_pick, reading_of
from isometron.drawing.scene import scene_of
from isometron.drawing.stations import plan_view, side_view, turned
from isometron.drawing.strokes import clipped, sheet_strokes
from isometron.framework.aids import Aid
from isometron.framework.box import EDGES
from isometron.framework.circles import FaceCircle
from isometron.framework.dimensions import Dimension, Held
from isometron.framework.marks import Mark
from isometron.framework.volume import Volume
from isometron.perspective.eye import eye_level
from tests import exact
from tests.scenes import boxes, case, crowd, eye, eyes, floats, sheet


def only(document):
    return scene_of(document).pictures[0]


@given(eyes(reach=3000.0), boxes())
def test_edges_measure_what_fifty_digits_say(by, box):
    picture = only(sheet(box, by=by))
    measures = edge_measures(by, picture)
    for edge, (i, j) in enumerate(EDGES.tolist()):
        a, b = (exact.seen(by, exact_world) for exact_world in picture.world[[i, j]])
        if a[0] is None or b[0] is None:
            assert math.isnan(measures.drawn_mm[edge])
            continue
        run = (b[0] - a[0], b[1] - a[1])
        drawn = (run[0] ** 2 + run[1] ** 2) ** 0.5
        assume(drawn < 1e6)
        assert measures.true_mm[edge] == box.sides[edge // 4]
        assert measures.drawn_mm[edge] == pytest.approx(float(drawn), abs=3e-9)
        scale = by.station_distance_mm / min(a[2], b[2])
        assert measures.foreshortening[edge] == pytest.approx(
            float(drawn / (scale * box.sides[edge // 4])), rel=1e-6, abs=1e-9
        )
        if drawn > 1e-3:
            angle = float(exact.angle_between((1, 0), run)) * (1 if run[1] >= 0 else -1)
            off = (measures.paper_angle_deg[edge] - angle + 180) % 360 - 180
            assert abs(off) < 1e-4


def test_an_upright_seen_level_is_not_foreshortened_and_leans_nowhere():
    measures = edge_measures(eye(), only(sheet()))
    assert measures.foreshortening[8:] == pytest.approx(np.ones(4), abs=1e-12)
    assert measures.paper_angle_deg[8:] == pytest.approx(np.full(4, 90.0))


def test_a_far_small_edge_foreshortens_by_the_cosine_of_its_turn():
    small = Volume("Knob", 0.02, 0.02, 0.02, 0.0, 5000.0, 1500.0, 37.0)
    measures = edge_measures(eye(), only(sheet(small)))
    assert measures.foreshortening[0] == pytest.approx(math.cos(math.radians(37)), abs=1e-5)


def test_the_view_is_named_by_its_finite_points():
    for yaw, tilt, name in (
        (0.0, 0.0, "one-point"),
        (30.0, 0.0, "two-point"),
        (0.0, -20.0, "two-point"),
        (30.0, -20.0, "three-point"),
        (30.0, -90.0, "one-point"),
    ):
        by = eye(tilt_deg=tilt)
        assert kind_of_view(directions_of(by, only(sheet(case(yaw_deg=yaw), by=by)))) == name


def test_directions_carry_the_names_of_their_points():
    by = eye(tilt_deg=-20.0)
    found = directions_of(by, only(sheet(by=by)))
    assert [d.family for d in found] == ["right", "left", "third"]
    across = directions_of(by, only(sheet(case(yaw_deg=120.0), by=by)))
    assert [d.family for d in across] == ["left", "right", "third"]
    square = directions_of(eye(), only(sheet(case(yaw_deg=0.0))))
    assert [d.family for d in square] == ["", "centre", ""]
    assert measuring_point_of(eye(), only(sheet(case(yaw_deg=0.0))), 0) is None
    # In a one-point view the measuring point of the depth is the distance point.
    assert abs(
        measuring_point_of(eye(), only(sheet(case(yaw_deg=0.0))), 1)[0] - 210.0
    ) == pytest.approx(600.0)


@given(floats(5, 85), floats(-900, 900), floats(0, 1400))
def test_the_near_corner_is_sharp_exactly_outside_the_circle_on_both_points(turn, x, z):
    """Thales: two fan lines meet at less than 90° only outside the circle over VP left-right."""
    by = eye()
    picture = only(sheet(case(yaw_deg=turn, x_mm=x, z_mm=z)))
    corner = picture.sheet[near_corner(by, picture.volume)]
    places = {d.family: d.vanishing.sheet_mm for d in directions_of(by, picture)}
    left, right = places["left"][0], places["right"][0]
    middle, radius = (left + right) / 2, (right - left) / 2
    outside = math.dist(corner, (middle, 180.0)) - radius
    assume(abs(outside) > 1e-6)
    assert (near_corner_angle(by, picture) < 90) == (outside > 0)


def test_faces_measure_their_angle_of_sight_and_drawn_area():
    # The front of a case square to us, seen from 1000 off its plane, 0.3 aside: atan.
    box = Volume("Case", 200.0, 100.0, 200.0, 200.0, 1000.0, 1400.0)
    picture = only(sheet(box))
    assert angle_of_sight(eye(), picture, 2) == pytest.approx(
        math.degrees(math.atan2(1000, 300)), abs=1e-9
    )
    assert angle_of_sight(eye(), picture, 3) < 0
    assert drawn_area(picture, 2) == pytest.approx(200 * 200 * 0.6**2)
    assert drawn_area(only(sheet(case(y_mm=-100.0))), 2) is None


def test_the_sides_that_leave_the_near_corner_are_drawn_in_these_shares():
    # Square to us the width is not foreshortened; a depth D seen from depth z at offset (x, y)
    # off the centre is drawn (D / (z + D)) · |offset| on the paper.
    box = Volume("Case", 200.0, 300.0, 100.0, 400.0, 1200.0, 1200.0)
    width, depth, height = from_near_corner(eye(), only(sheet(box)))
    offset = math.hypot(400.0, 300.0) * 600 / 1200
    assert (width.share, height.share) == pytest.approx((1.0, 1.0))
    assert (width.drawn_mm, height.drawn_mm) == pytest.approx((100.0, 50.0))
    assert depth.drawn_mm == pytest.approx(offset * 300 / 1500)
    assert depth.share == pytest.approx(offset * 300 / 1500 / 150)
    assert from_near_corner(eye(), only(sheet(case(y_mm=-100.0)))) == ()


def test_fans_lie_on_their_edges_and_end_in_their_points():
    by = eye(tilt_deg=-22.0)
    picture = only(sheet(by=by))
    places = {d.family: np.array(d.vanishing.sheet_mm) for d in directions_of(by, picture)}
    for number, family in enumerate(("right", "left", "third")):
        lines = fan(by, picture, family, 1e7, see_through=True)
        assert len(lines) == 4
        assert lines[:, 2:] == pytest.approx(np.tile(places[family], (4, 1)), abs=1e-6)
        edges = picture.sheet[EDGES[4 * number : 4 * number + 4]]
        for (start, end), line in zip(edges, lines, strict=True):
            assert min(math.dist(start, line[:2]), math.dist(end, line[:2])) < 1e-12
            run, ray = end - start, line[2:] - line[:2]
            sine = (run[0] * ray[1] - run[1] * ray[0]) / np.linalg.norm(run) / np.linalg.norm(ray)
            assert abs(sine) < 1e-9
        assert len(fan(by, picture, family, 1e7, see_through=False)) == 3
    assert not len(fan(by, picture, "centre", 1e7, see_through=True))


@given(floats(-900, 1200), floats(-900, 1200), floats(-900, 1200), floats(-900, 1200))
def test_clipping_keeps_exactly_what_lies_on_the_paper(ax, ay, bx, by):
    line = np.array([[ax, ay, bx, by]])
    cut = clipped(line, (0.0, 0.0, 420.0, 297.0))
    t = np.linspace(0, 1, 401)[:, None]
    points = line[0, :2] + t * (line[0, 2:] - line[0, :2])
    inside = ((points > 1e-6) & (points < np.array([420.0, 297.0]) - 1e-6)).all(axis=1)
    if not len(cut):
        assert not inside.any()
        return
    assert (cut >= -1e-9).all() and (cut[:, [0, 2]] <= 420 + 1e-9).all()
    length = math.dist(cut[0, :2], cut[0, 2:])
    for point in points[inside]:
        apart = math.dist(point, cut[0, :2]) + math.dist(point, cut[0, 2:])
        assert apart == pytest.approx(length, abs=1e-6)


APART = {layers.FAN_CENTRE, layers.MIRROR_IMAGE, layers.CURVED_POINTS, layers.BEFORE, layers.FRAMES}
APART |= {layers.BENEATH}


def test_the_sheet_carries_each_role_and_nothing_off_the_paper():
    marked = case(
        marks=(Mark("edge", 0, 0, (0.5,)), Mark("section", 0, 0, (0.5,))), circles=(FaceCircle(5),)
    )
    ghost = case(name="Ghost", ghost=True, yaw_deg=10.0)
    aids = (
        Aid("floor line", (0.0, 12000.0)),
        Aid("ground grid", (0.0, 3000.0), wide_mm=500.0, squares=4),
    )
    mark = Dimension(Held(0, (0.0, 0.0, 0.0)), Held(0, (1.0, 0.0, 0.0)))
    document = replace(sheet(marked, ghost, by=eye(tilt_deg=-5.0)), aids=aids, dimensions=(mark,))
    document = sheet_edits.show_diagonal_point(document, True)
    document = finishing.set_finish(document, thirds=True)
    sun = lighting.usual(document, Sun)
    drawn = {}
    for way in ("hatch", "numbers"):
        lit = lighting.set_shading(lighting.set_light(document, sun), way=way)
        drawn |= {s.layer: s.lines for s in sheet_strokes(lit, scene_of(lit))}
    assert set(drawn) == set(layers.LAYERS) - APART
    for lines in drawn.values():
        assert np.isfinite(lines).all()
        assert (lines >= -1e-9).all() and (lines[:, [0, 2]] <= 420.0 + 1e-9).all()


def test_readings_say_what_an_edge_a_face_and_a_point_measure():
    document = sheet(by=eye(tilt_deg=-20.0))
    scene = scene_of(document)
    near = reading_of(document, scene, None)
    assert near.title == "Near edge of Eyepiece case"
    assert default_pick(document, scene) == EdgePick(0, 8)
    rows = {row.label: row.value for row in near.rows}
    assert rows["true length"] == 180.0
    assert rows["runs to"] == "third point"
    assert rows["foot"] == pytest.approx(tuple(scene.pictures[0].sheet[0]))
    titles = {
        EdgePick(0, 9): "Right far edge of Eyepiece case",
        EdgePick(0, 10): "Left far edge of Eyepiece case",
        EdgePick(0, 11): "Furthest edge of Eyepiece case",
        EdgePick(0, 2): "Top near edge to VP right of Eyepiece case",
        EdgePick(0, 5): "Base far edge to VP left of Eyepiece case",
        FacePick(0, 5): "Top of Eyepiece case",
        FacePick(0, 2): "Side running to VP right of Eyepiece case",
        PointPick(0, family="left"): "Left vanishing point of Eyepiece case",
        CornerPick(0, 3): "Corner of Eyepiece case",
    }
    for pick, title in titles.items():
        assert reading_of(document, scene, pick).title == title
    hidden = reading_of(document, scene, EdgePick(0, 11))
    assert hidden.rows[-1].value == "hidden"


def test_the_plan_stands_the_picture_plane_across_and_turns_back():
    document = sheet(*crowd(3), by=eye(heading_deg=40.0, x_mm=70.0))
    plan = plan_view(document, scene_of(document), 40.0)
    assert plan.picture_plane[0][1] == pytest.approx(plan.picture_plane[1][1])
    assert plan.picture_plane[0][1] - plan.eye[1] == pytest.approx(600.0)
    assert plan.sight_end[0] == pytest.approx(plan.eye[0])
    ring = scene_of(document).pictures[1].world[[0, 1, 3, 2], :2]
    assert turned(plan.footprints[1][0], -40.0) == pytest.approx(ring)
    arms = [np.subtract(end, plan.eye) for _, end in plan.directions]
    assert arms[0] @ arms[1] == pytest.approx(0.0, abs=1e-6)
    assert arms[0][0] > 0 > arms[1][0]
    side = side_view(document, scene_of(document))
    ahead = (scene_of(document).pictures[0].depth).min()
    assert side.silhouettes[0][0][0] == pytest.approx(ahead)


@pytest.mark.parametrize("tilt,yaw,kind", [(0.0, 30.0, "two-point"), (0.0, 0.0, "one-point"),
                                           (-20.0, 30.0, "three-point")])  # fmt: skip
def test_the_view_of_a_sheet_does_not_hang_on_a_tipped_volume(tilt, yaw, kind):
    by = eye(tilt_deg=tilt)
    assert kind_of_sheet(sheet(case(yaw_deg=yaw), by=by)) == kind
    assert kind_of_sheet(sheet(case(yaw_deg=yaw, pitch_deg=20.0, roll_deg=9.0), by=by)) == kind


@pytest.mark.parametrize("tilt", [0.0, -20.0])
@pytest.mark.parametrize("yaw", [30.0, 45.0, 0.0, 118.0])
def test_the_line_to_the_diagonal_point_goes_through_the_far_corner_of_a_square(yaw, tilt):
    square = case(width_mm=240.0, depth_mm=240.0, yaw_deg=yaw)
    document = sheet_edits.show_diagonal_point(sheet(square, by=eye(tilt_deg=tilt)), True)
    scene = scene_of(document)
    given = layers.Given(document, scene, scene.pictures, (-9e3, -9e3, 9e3, 9e3))
    lines, _arcs = layers.DIAGONAL.draws(given)
    (x0, y0, x1, y1), picture = lines[0], scene.pictures[0]
    near = int(picture.depth[:4].argmin())
    far = picture.sheet[near ^ 3]
    assert (x0, y0) == pytest.approx(tuple(picture.sheet[near]))
    assert (x1 - x0) * (far[1] - y0) == pytest.approx((y1 - y0) * (far[0] - x0), rel=1e-6)
    assert y1 == pytest.approx(eye_level(document.eye))
    assert layers.DIAGONAL.says(given)[0].words == "45° point"


def test_fans_of_a_solid_volume_leave_corners_that_are_seen_only():
    document = sheet(case(), by=eye(tilt_deg=-15.0))
    picture = scene_of(replace(document, choices=Choices(see_through=False))).pictures[0]
    hidden = int(picture.depth[:4].argmax())
    for family in ("left", "right", "third"):
        solid = fan(document.eye, picture, family, 900.0, see_through=False)
        through = fan(document.eye, picture, family, 900.0, see_through=True)
        assert len(solid) < len(through)
        assert not np.isclose(solid[:, :2], picture.sheet[hidden]).all(axis=1).any()

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from isometron.perspective.cone import cone_radius, off_axis, stretch
from isometron.perspective.errors import SetupError
from isometron.perspective.projection import project
from isometron.perspective.vanishing import (
    diagonal_point,
    from_eye,
    measuring_point,
    third_point,
    vanishing_point,
)
from tests import exact
from tests.scenes import case, eye, eyes, floats


def level(yaw_deg):
    return np.array([float(v) for v in exact.level_direction(yaw_deg)])


@given(eyes(), floats(-180, 180))
def test_a_vanishing_point_agrees_with_fifty_digits(by, yaw):
    axis = case(yaw_deg=yaw).axes()[0]
    found, reference = vanishing_point(by, axis), exact.vanishing(by, exact.level_direction(yaw))
    assume(reference is not None and max(map(abs, reference)) < 1e6)
    assert found.sheet_mm[0] == pytest.approx(float(reference[0]), abs=1e-9)
    assert found.sheet_mm[1] == pytest.approx(float(reference[1]), abs=1e-9)


def test_a_level_edge_runs_to_its_vanishing_point():
    by = eye(heading_deg=-12.0, tilt_deg=-25.0)
    x, y = vanishing_point(by, level(70.0)).sheet_mm
    far = np.array([[30.0, 1000.0, 0.0]]) + 1e9 * level(70.0)
    assert project(by, far).sheet[0] == pytest.approx([x, y], abs=1e-2)


@pytest.mark.parametrize("heading", [0.0, 30.0, 45.0, 60.0, -20.0, 77.0])
def test_a_face_square_to_us_keeps_its_edges_parallel(heading):
    width = vanishing_point(eye(heading_deg=heading), case(yaw_deg=-heading).axes()[0])
    assert width.at_infinity
    assert width.paper_direction == pytest.approx((1.0, 0.0), abs=1e-12)
    turned = vanishing_point(eye(heading_deg=heading), case(yaw_deg=90 - heading).axes()[0])
    assert turned.sheet_mm == pytest.approx((210.0, 180.0), abs=1e-9)


def test_uprights_meet_below_when_we_look_down_and_above_when_we_look_up():
    assert third_point(eye()).at_infinity
    for tilt in (-30.0, 18.0):
        by = eye(tilt_deg=tilt)
        x, y = third_point(by).sheet_mm
        assert (x, y) == pytest.approx((210.0, 180 + 600 / math.tan(math.radians(tilt))))
        assert (y < 180) == (tilt < 0)
    assert third_point(eye(tilt_deg=-90.0)).sheet_mm == pytest.approx((210.0, 180.0))


def test_a_direction_without_length_is_refused():
    with pytest.raises(SetupError, match="two different ends"):
        vanishing_point(eye(), np.zeros(3))


@given(
    st.floats(3, 87), st.floats(-60, 60), floats(20, 3000), st.floats(-300, 700), st.floats(0, 1)
)
def test_true_lengths_close_on_the_measuring_point(turn, tilt, length, x, share):
    """The hand's construction: lay the true length off on the measuring line, run it to MP."""
    by = eye(tilt_deg=tilt, centre_of_vision_mm=(x, 180.0))
    along, across = level(turn), level(turn + 90)
    near = np.array(by.place) + 2500 * np.array(
        [0.2, math.cos(math.radians(tilt)), math.sin(math.radians(tilt)) - 0.1]
    )
    picture = project(by, np.array([near, near + length * along]))
    assume(picture.seen.all())
    vp = np.array(vanishing_point(by, along).sheet_mm)
    mp = np.array(measuring_point(by, along, across))
    assert math.dist(vp, mp) == pytest.approx(from_eye(by, tuple(vp)), rel=1e-12)
    scale = by.station_distance_mm / picture.depth[0]
    ahead_of_vp = np.sign(vp[0] - mp[0])
    mark = picture.sheet[0] + np.array([ahead_of_vp * length * scale, 0.0])
    # The fan line (corner to VP) crossed with the line from the mark to MP.
    a, b = vp - picture.sheet[0], mp - mark
    t = np.linalg.solve(np.array([a, -b]).T, mark - picture.sheet[0])[0]
    crossing = picture.sheet[0] + t * a
    assert crossing == pytest.approx(picture.sheet[1], abs=1e-6)


@given(st.floats(2, 88), st.floats(-70, 70))
def test_squares_step_through_the_diagonal_point(turn, tilt):
    by = eye(tilt_deg=tilt)
    a, b = level(turn), level(turn + 90)
    point = diagonal_point(by, a, b)
    assume(not point.at_infinity and abs(point.sheet_mm[0]) < 1e5)
    lean = math.sin(math.radians(tilt))
    corner = np.array(by.place) + np.array(
        [100.0, 3000 * math.cos(math.radians(tilt)), 3000 * lean]
    )
    steps = project(by, np.array([corner + n * 200 * (a + b) for n in range(4)]))
    assume(steps.seen.all())
    run = np.array(point.sheet_mm) - steps.sheet
    cross = run[0, 0] * run[1:, 1] - run[0, 1] * run[1:, 0]
    assert cross / (np.linalg.norm(run[0]) * np.linalg.norm(run[1:], axis=1)) == pytest.approx(
        np.zeros(3), abs=1e-9
    )


def test_the_diagonal_point_is_midway_only_at_45_degrees():
    for turn, midway in ((45.0, True), (30.0, False)):
        left, right = (vanishing_point(eye(), level(turn + q)).sheet_mm[0] for q in (90, 0))
        point = diagonal_point(eye(), level(turn), level(turn + 90)).sheet_mm[0]
        assert (abs(point - (left + right) / 2) < 1e-6) == midway


def test_the_cone_and_the_stretch_by_hand():
    assert cone_radius(eye(), 60.0) == pytest.approx(600 / math.sqrt(3))
    away = off_axis(eye(), np.array([[210.0, 780.0], [210.0, 180.0]]))
    assert away == pytest.approx([45.0, 0.0])
    assert stretch(away) == pytest.approx([math.sqrt(2), 1.0])

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from isometron.perspective.errors import SetupError
from isometron.perspective.hand_setup import (
    NearEdge,
    OnePoint,
    SquareTwoPoint,
    ThreePoint,
    TwoPoint,
    eye_at,
    right_going_yaw,
    setup_of,
    station_of,
)
from isometron.perspective.projection import project
from isometron.perspective.vanishing import third_point, vanishing_point
from tests.scenes import case, eye, floats

marks = floats(-400, 800)


def marks_of(setup):
    return np.hstack([np.ravel(v) for v in vars(setup).values()])


@st.composite
def setups(draw):
    level, centre = draw(floats(0, 300)), draw(floats(0, 420))
    left, right = centre - draw(floats(40, 1500)), centre + draw(floats(40, 1500))
    kind = draw(st.integers(0, 3))
    if kind == 0:
        return OnePoint((centre, level), draw(floats(100, 2000)))
    if kind == 1:
        return TwoPoint(level, left, right, centre)
    product = (centre - left) * (right - centre)
    if kind == 2:
        way, first, second = (
            draw(st.sampled_from([-1, 1])),
            draw(floats(30, 900)),
            draw(floats(30, 900)),
        )
        return SquareTwoPoint(level, level + way * (first + second), (centre, level + way * first))
    reach = math.sqrt(product) * draw(floats(1.05, 6)) * draw(st.sampled_from([-1, 1]))
    return ThreePoint(level, left, right, (centre, level + reach))


@given(setups(), floats(-180, 180), floats(20, 400), floats(40, 250), floats(30, 260))
def test_the_hands_marks_and_the_eye_are_two_views_of_one_state(setup, yaw, x, y, drawn):
    edge, corner, height = NearEdge((x, y), drawn), (700.0, -300.0, 40.0), 250.0
    try:
        by = eye_at(setup.station(), yaw, edge, corner, height)
    except SetupError:
        assume(False)
    assume(max(map(abs, by.place)) < 1e5)
    again = setup_of(by, yaw)
    assert type(again) is type(setup)
    assert marks_of(again) == pytest.approx(marks_of(setup), abs=1e-9, rel=1e-13)
    seen = project(by, np.array([corner, (corner[0], corner[1], corner[2] + height)])).sheet
    assert seen[0] == pytest.approx([x, y], abs=1e-9)
    assert math.dist(*seen) == pytest.approx(drawn, abs=1e-9)
    back = eye_at(station_of(by, yaw), yaw, edge, corner, height)
    assert back.place == pytest.approx(by.place, abs=1e-6)


def test_two_points_and_the_centre_fix_the_station_by_the_right_angle():
    # Thales: 300 and 400 either side of the centre see each other at a right angle from √(300·400).
    seen = TwoPoint(200.0, -90.0, 610.0, 210.0).station()
    assert seen.station_distance_mm == pytest.approx(math.sqrt(300 * 400))
    assert math.tan(math.radians(seen.turn_deg)) == pytest.approx(math.sqrt(300 / 400))
    # Taking the centre midway would make the distance half the spacing.
    assert TwoPoint(200.0, -90.0, 610.0, 260.0).station().station_distance_mm == 350.0


def test_the_centre_of_vision_is_the_orthocentre_of_three_points():
    setup = ThreePoint(420.0, -150.0, 900.0, (205.0, -520.0))
    seen = setup.station()
    corners = np.array([(-150.0, 420.0), (900.0, 420.0), (205.0, -520.0)])
    centre = np.array(seen.centre_of_vision_mm)
    for i in range(3):
        a, b, c = corners[i], corners[(i + 1) % 3], corners[(i + 2) % 3]
        assert (centre - a) @ (b - c) == pytest.approx(0.0, abs=1e-9)
        square = -float((b - centre) @ (c - centre))
        assert square == pytest.approx(seen.station_distance_mm**2, rel=1e-12)
    assert seen.tilt_deg < 0


def test_points_of_an_eye_are_where_its_directions_vanish():
    by = eye(heading_deg=20.0, tilt_deg=-35.0)
    setup = setup_of(by, right_going_yaw(by, 100.0))
    axes = case(yaw_deg=100.0).axes()
    level = sorted(vanishing_point(by, axis).sheet_mm[0] for axis in axes[:2])
    assert [setup.left_mm, setup.right_mm] == pytest.approx(level, abs=1e-9)
    assert setup.third_mm == pytest.approx(third_point(by).sheet_mm, abs=1e-9)


@pytest.mark.parametrize(
    ("setup", "sentence"),
    [
        (TwoPoint(200.0, 300.0, 300.0, 300.0), "coincide"),
        (TwoPoint(200.0, 400.0, 100.0, 200.0), "changed sides"),
        (TwoPoint(200.0, 0.0, 400.0, 500.0), "must lie between"),
        (ThreePoint(400.0, -100.0, 900.0, (200.0, 300.0)), "more than 458 mm"),
        (ThreePoint(400.0, -100.0, 900.0, (-300.0, -900.0)), "must lie between"),
        (SquareTwoPoint(300.0, -300.0, (200.0, 400.0)), "between the eye level and the third"),
        (OnePoint((200.0, 200.0), 0.0), "step back"),
    ],
)
def test_an_impossible_set_up_is_refused_by_naming_what_to_move(setup, sentence):
    with pytest.raises(SetupError, match=sentence):
        setup.station()


def test_a_near_edge_must_have_a_length_and_end_before_the_eye():
    seen = ThreePoint(420.0, -150.0, 900.0, (205.0, -520.0)).station()
    with pytest.raises(SetupError, match="pull its ends apart"):
        eye_at(seen, 0.0, NearEdge((200.0, 50.0), 0.0), (0, 0, 0), 100.0)
    up = ThreePoint(20.0, -150.0, 900.0, (205.0, 920.0)).station()
    with pytest.raises(SetupError, match="behind the eye"):
        eye_at(up, 0.0, NearEdge((200.0, 50.0), 1e5), (0, 0, 0), 100.0)
    with pytest.raises(SetupError, match="tilt less than 90"):
        setup_of(eye(tilt_deg=90.0), 0.0)

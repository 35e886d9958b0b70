import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from mpmath import mpf

from isometron.perspective.errors import EyeError, SheetError
from isometron.perspective.eye import eye_level, sight_axes
from isometron.perspective.projection import (
    NEAR_MM,
    on_level,
    project,
    sight_ray,
)
from isometron.perspective.sheet import FORMATS, Sheet
from tests import exact
from tests.scenes import eye, eyes, floats

points = st.tuples(floats(-1e6, 1e6), floats(-1e6, 1e6), floats(-1e6, 1e6))


@given(eyes(), st.lists(points, min_size=1, max_size=6))
def test_projection_agrees_with_fifty_digits_for_any_view(by, world):
    picture = project(by, np.array(world))
    for row, point in enumerate(world):
        x, y, depth = exact.seen(by, point)
        assert abs(picture.depth[row] - depth) < 1e-9
        if abs(depth - 1) < 1e-9:
            continue
        assert picture.seen[row] == (x is not None)
        if x is not None and max(abs(x), abs(y)) < 1e6:
            assert abs(mpf(float(picture.sheet[row, 0])) - x) < 1e-9
            assert abs(mpf(float(picture.sheet[row, 1])) - y) < 1e-9


@given(eyes(), points)
def test_points_behind_the_eye_are_clipped_never_mirrored(by, world):
    depth = exact.seen(by, world)[2]
    assume(depth < 0.99)
    picture = project(by, np.array([world, tuple(by.place)]))
    assert not picture.seen.any()
    assert np.isnan(picture.sheet).all()


def test_a_point_straight_ahead_lands_on_the_centre_of_vision():
    by = eye(heading_deg=33.0, tilt_deg=-20.0, x_mm=50.0)
    ahead = np.array(by.place) + 900 * sight_axes(by)[2].astype(float)
    assert project(by, ahead[None]).sheet[0] == pytest.approx(by.centre_of_vision_mm, abs=1e-10)


def test_projection_by_hand():
    # Eye 1500 up at the origin: (300, 2000, 500) is 300 right, 1000 down, at scale 600 / 2000.
    picture = project(eye(), np.array([[300.0, 2000.0, 500.0]]))
    assert picture.sheet[0] == pytest.approx([210 + 90, 180 - 300], abs=1e-12)
    assert picture.depth[0] == 2000.0


def test_many_points_need_not_all_be_in_front():
    world = np.array([[0.0, y, 0.0] for y in np.linspace(-5000, 5000, 10001)])
    picture = project(eye(), world)
    assert picture.seen.sum() == (world[:, 1] > NEAR_MM).sum()
    assert np.isfinite(picture.sheet[picture.seen]).all()
    assert project(eye(), np.empty((0, 3))).sheet.shape == (0, 2)


@given(eyes(reach=1e4, tilt=60.0), floats(0, 400), floats(0, 300), floats(-500, 500))
def test_the_ground_point_under_a_mark_is_drawn_on_that_mark(by, x, y, height):
    found = on_level(by, (x, y), height)
    assume(found is not None and np.abs(found).max() < 1e6)
    assert found[2] == pytest.approx(height, abs=1e-6)
    assert project(by, found[None]).sheet[0] == pytest.approx([x, y], abs=1e-6)
    assert sight_ray(by, (x, y)) @ sight_axes(by)[2].astype(float) == pytest.approx(1.0)


def test_no_ground_lies_above_the_eye_level():
    assert on_level(eye(), (100.0, 200.0), 0.0) is None
    assert on_level(eye(), (100.0, 180.0), 0.0) is None


@given(eyes(tilt=85.0))
def test_the_eye_level_is_where_level_directions_vanish(by):
    _, y = exact.vanishing(by, exact.level_direction(90.3 - by.heading_deg))
    assert eye_level(by) == pytest.approx(float(y), abs=1e-7)
    if abs(by.tilt_deg) > 1e-6:
        assert (eye_level(by) < by.centre_of_vision_mm[1]) == (by.tilt_deg > 0)


def test_looking_straight_down_there_is_no_eye_level():
    assert eye_level(eye(tilt_deg=-90.0)) is None


@pytest.mark.parametrize(
    "change",
    [
        {"tilt_deg": 91.0},
        {"tilt_deg": float("nan")},
        {"station_distance_mm": 0.0},
        {"station_distance_mm": float("inf")},
        {"x_mm": 2e6},
        {"heading_deg": float("nan")},
        {"centre_of_vision_mm": (float("nan"), 0.0)},
    ],
)
def test_an_eye_that_cannot_see_is_refused_with_a_sentence(change):
    with pytest.raises(EyeError, match=r"(keep|give|step).*\."):
        eye(**change)


def test_headings_are_kept_within_one_turn():
    assert eye(heading_deg=350.0).heading_deg == -10.0
    assert eye(heading_deg=-180.0).heading_deg == 180.0


def test_sheets_have_the_formats_people_buy():
    assert Sheet.of_format("A3", lying=True) == Sheet(420.0, 297.0)
    assert Sheet.of_format("Letter", lying=False) == Sheet(215.9, 279.4)
    for small, large in zip(("A5", "A4", "A3", "A2"), ("A4", "A3", "A2", "A1"), strict=True):
        assert FORMATS[large][0] == FORMATS[small][1]
        assert FORMATS[large][1] // 2 == FORMATS[small][0]
    assert Sheet(431.8, 279.4).format_name == "Tabloid"
    assert Sheet(300.0, 300.0).format_name is None
    with pytest.raises(SheetError, match="choose between"):
        Sheet(float("nan"), 100.0)
    with pytest.raises(SheetError, match="use one of"):
        Sheet.of_format("A9", lying=True)

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from isometron.document.edits import eye_edits
from isometron.document.near_edge import (
    hand_setup,
    near_corner,
    near_edge,
    near_edge_world,
    scale_at_near_corner,
    station,
)
from isometron.drawing.scene import scene_of
from isometron.perspective.errors import IsometronError, SetupError
from isometron.perspective.eye import eye_level
from isometron.perspective.hand_setup import OnePoint, SquareTwoPoint, ThreePoint, TwoPoint
from tests.scenes import bare, case, eye, floats, sheet

VIEWS = {
    "one-point": (0.0, 0.0, OnePoint),
    "two-point": (30.0, 0.0, TwoPoint),
    "square, tilted": (0.0, -25.0, SquareTwoPoint),
    "three-point": (30.0, -25.0, ThreePoint),
    "looking up": (55.0, 20.0, ThreePoint),
}


def view(name, **changes):
    turn, tilt, kind = VIEWS[name]
    made = sheet(
        case(yaw_deg=turn), case(name="Filter tin", x_mm=-400.0), by=eye(tilt_deg=tilt, **changes)
    )
    assert isinstance(hand_setup(made), kind)
    return made


EDITS = {
    "eye level": lambda d: eye_edits.move_eye_level(d, eye_level(d.eye) + 17),
    "left point": lambda d: eye_edits.move_left_point(d, hand_setup(d).left_mm - 60),
    "right point": lambda d: eye_edits.move_right_point(d, hand_setup(d).right_mm + 90),
    "third point": lambda d: eye_edits.move_third_point(d, third_of(d) * 1.2),
    "centre": lambda d: eye_edits.move_centre_of_vision(
        d, (d.eye.centre_of_vision_mm[0] + 8, d.eye.centre_of_vision_mm[1] + 5)
    ),
    "step back": lambda d: eye_edits.step_back(d, d.eye.station_distance_mm * 1.5),
    "eye place": lambda d: eye_edits.move_eye(d, (d.eye.x_mm + 300, d.eye.y_mm - 200)),
    "eye height": lambda d: eye_edits.set_eye_height(d, 1900.0),
    "heading": lambda d: eye_edits.set_heading(d, 7.0),
    "tilt": lambda d: eye_edits.set_tilt(d, d.eye.tilt_deg + 4),
    "look towards": lambda d: eye_edits.look_towards(d, (400.0, 2500.0)),
    "tilt towards": lambda d: eye_edits.tilt_towards(d, (2000.0, 900.0)),
    "size": lambda d: eye_edits.size_on_page(d, 1.3),
}
KEEPS_DRAWN = {"eye level", "left point", "right point", "third point", "centre", "step back"}


def third_of(document):
    return eye_edits.points_of_setup(document)["third"][1]


@pytest.mark.parametrize("name", VIEWS)
@pytest.mark.parametrize("edit", EDITS)
def test_the_near_corner_keeps_its_place_on_the_paper(name, edit):
    before = view(name)
    try:
        after = EDITS[edit](before)
    except (SetupError, AttributeError, KeyError):
        assert edit in ("left point", "right point", "third point")
        assert name in ("one-point", "square, tilted", "two-point")
        return
    assert after != before
    assert after.volumes == before.volumes
    corner = near_corner(before.eye, before.lead)
    places = [scene_of(document).pictures[0].sheet[corner] for document in (before, after)]
    assert places[1] == pytest.approx(places[0], abs=1e-8)
    if edit in KEEPS_DRAWN:
        assert near_edge(after).drawn_mm == pytest.approx(near_edge(before).drawn_mm, abs=1e-8)


def moved_marks(before, after):
    """Which points of the set-up an edit has moved (by more than a nanometre)."""
    a, b = eye_edits.points_of_setup(before), eye_edits.points_of_setup(after)
    return {family for family in a if math.dist(a[family], b[family]) > 1e-6}


@pytest.mark.parametrize("name", ["two-point", "three-point", "looking up"])
def test_pulling_one_vanishing_point_leaves_the_others(name):
    before = view(name)
    for edit, family in (("left point", "left"), ("right point", "right")):
        after = EDITS[edit](before)
        assert moved_marks(before, after) == {family}
        assert after.eye.centre_of_vision_mm[0] == pytest.approx(
            before.eye.centre_of_vision_mm[0], abs=1e-9
        )
        assert eye_level(after.eye) == pytest.approx(eye_level(before.eye), abs=1e-9)
    if name != "two-point":
        assert moved_marks(before, EDITS["third point"](before)) == {"third"}
        assert moved_marks(before, EDITS["centre"](before)) == {"third"}
    else:
        assert moved_marks(before, EDITS["centre"](before)) == set()


def test_a_pulled_point_lands_where_it_is_pulled():
    for name in ("two-point", "three-point"):
        assert eye_edits.points_of_setup(eye_edits.move_left_point(view(name), -333.0))["left"][
            0
        ] == pytest.approx(-333.0, abs=1e-9)
    assert third_of(eye_edits.move_third_point(view("three-point"), -1500.0)) == pytest.approx(
        -1500.0, abs=1e-8
    )
    level = eye_edits.move_eye_level(view("three-point"), 260.0)
    assert eye_level(level.eye) == pytest.approx(260.0, abs=1e-9)
    centred = eye_edits.move_centre_of_vision(view("looking up"), (190.0, 210.0))
    assert centred.eye.centre_of_vision_mm == pytest.approx((190.0, 210.0), abs=1e-9)


@given(floats(0.4, 5), st.sampled_from(sorted(VIEWS)))
def test_stepping_back_only_spreads_the_points_from_the_centre_of_vision(factor, name):
    before = view(name)
    assume(factor > 0.5 or name != "looking up")
    after = eye_edits.step_back(before, before.eye.station_distance_mm * factor)
    assert after.eye.heading_deg == pytest.approx(before.eye.heading_deg, abs=1e-10)
    centre = np.array(before.eye.centre_of_vision_mm)
    points = eye_edits.points_of_setup(after)
    for family, place in eye_edits.points_of_setup(before).items():
        spread = centre + factor * (np.array(place) - centre)
        assert points[family] == pytest.approx(spread, abs=1e-7)
    if before.eye.tilt_deg == 0:
        assert after.eye.height_mm == pytest.approx(before.eye.height_mm, abs=1e-8)


def test_size_on_the_page_leaves_the_perspective_alone():
    before = view("three-point")
    after = eye_edits.size_on_page(before, 1.25)
    a, b = scene_of(before).pictures[1].sheet, scene_of(after).pictures[1].sheet
    corner = np.array(near_edge(before).corner_mm)
    assert b - corner == pytest.approx(1.25 * (a - corner), abs=1e-8)
    assert (after.eye.place, after.eye.tilt_deg) == (before.eye.place, before.eye.tilt_deg)
    scaled = eye_edits.draw_to_scale(before, 0.5)
    assert scale_at_near_corner(scaled) == pytest.approx(0.5)


def test_the_near_edge_is_placed_and_pulled_with_the_points_standing():
    before = view("two-point")
    placed = eye_edits.place_near_corner(before, (150.0, 60.0))
    assert near_edge(placed).corner_mm == pytest.approx((150.0, 60.0), abs=1e-9)
    assert near_edge(placed).drawn_mm == pytest.approx(near_edge(before).drawn_mm, abs=1e-9)
    assert moved_marks(before, placed) == set()
    drawn = eye_edits.draw_near_edge(before, 90.0)
    assert near_edge(drawn).drawn_mm == pytest.approx(90.0, abs=1e-9)
    x, y = near_edge(before).corner_mm
    top = eye_edits.pull_near_edge_top(before, (x + 30, y + 75.0))
    assert near_edge(top).drawn_mm == pytest.approx(75.0, abs=1e-9)
    end = y + near_edge(before).drawn_mm
    foot = eye_edits.pull_near_edge_foot(before, (x, end - 40.0))
    assert near_edge(foot).corner_mm == pytest.approx((x, end - 40.0), abs=1e-9)
    assert near_edge(foot).drawn_mm == pytest.approx(40.0, abs=1e-9)
    assert {d.volumes for d in (placed, drawn, top, foot)} == {before.volumes}


def test_the_foot_is_pulled_along_a_leaning_upright_with_its_top_standing():
    before = view("three-point")
    top = scene_of(before).pictures[0].sheet[near_corner(before.eye, before.lead) | 4]
    foot = np.array(near_edge(before).corner_mm)
    after = eye_edits.pull_near_edge_foot(before, tuple(top + 0.5 * (foot - top)))
    moved = scene_of(after).pictures[0].sheet[near_corner(after.eye, after.lead) | 4]
    assert moved == pytest.approx(top, abs=1e-8)
    assert near_edge(after).drawn_mm == pytest.approx(0.5 * near_edge(before).drawn_mm, abs=1e-8)


def test_the_eye_on_the_plan_goes_on_looking_past_the_near_corner():
    before = view("two-point")
    after = eye_edits.move_eye(before, (500.0, 100.0))
    assert after.eye.place == pytest.approx((500.0, 100.0, before.eye.height_mm))
    assert after.eye.station_distance_mm == before.eye.station_distance_mm
    foot = near_edge_world(before.eye, before.lead)[0]

    def off(document):
        at = document.eye
        return at.heading_deg - math.degrees(math.atan2(foot[0] - at.x_mm, foot[1] - at.y_mm))

    assert off(after) == pytest.approx(off(before), abs=1e-9)


def test_what_cannot_be_is_refused_and_leaves_the_sheet_alone():
    one, two, three = view("one-point"), view("two-point"), view("three-point")
    for edit, document in (
        (lambda d: eye_edits.move_left_point(d, 0.0), one),
        (lambda d: eye_edits.move_left_point(d, 300.0), two),
        (lambda d: eye_edits.move_third_point(d, -500.0), two),
        (lambda d: eye_edits.move_third_point(d, 400.0), three),
        (lambda d: eye_edits.move_centre_of_vision(d, (210.0, 1e4)), three),
        (lambda d: eye_edits.draw_near_edge(d, -3.0), two),
        (lambda d: eye_edits.set_tilt(d, 100.0), two),
        (lambda d: eye_edits.step_back(d, 0.0), two),
        (lambda d: eye_edits.step_back(d, float("nan")), two),
        (lambda d: eye_edits.set_heading(d, 180.0), two),
        (lambda d: eye_edits.move_eye_level(d, 10.0), sheet(by=eye(tilt_deg=-90.0))),
        (lambda d: eye_edits.place_near_corner(d, (1.0, 1.0)), bare()),
    ):
        with pytest.raises(IsometronError, match=r"\.$"):
            edit(document)


def test_an_empty_sheet_is_set_up_by_its_lie():
    blank = bare(eye(heading_deg=30.0))
    moved = eye_edits.move_right_point(blank, 1500.0)
    assert eye_edits.points_of_setup(moved)["right"][0] == pytest.approx(1500.0, abs=1e-9)
    assert moved.eye.place == blank.eye.place
    assert near_edge(blank) is None and scale_at_near_corner(blank) is None
    assert station(eye_edits.set_tilt(blank, -30.0)).tilt_deg == -30.0
    assert eye_edits.raise_centre_of_vision(blank, 150.0).eye.centre_of_vision_mm[1] == 150.0

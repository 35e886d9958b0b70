import math

import pytest

from isometron.document.edits import eye_edits, volume_edits
from isometron.document.edits.sheet_edits import set_ruler
from isometron.document.near_edge import hand_setup, near_edge
from isometron.drawing.measures import near_corner_angle
from isometron.drawing.picks.point import PointPick
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.volume import Volume
from isometron.remarks.remark import Severity
from isometron.remarks.rules import corners_off_axis
from isometron.remarks.second_look import (
    SecondLook,
    call_back,
    remark_key,
    second_look,
    set_aside,
)
from tests.scenes import bare, case, crowd, eye, sheet


def remarks(document):
    found = {}
    for remark in second_look(document, scene_of(document)):
        found.setdefault(remark.rule, []).append(remark)
    return found


def squeezed():
    """A case between two vanishing points that are far too close."""
    start = sheet(case(yaw_deg=40.0))
    return eye_edits.move_left_point(eye_edits.move_right_point(start, 290.0), 120.0)


def quiet():
    """A case well inside the cone, drawn with a long ruler."""
    start = sheet(case(yaw_deg=30.0, y_mm=2600.0, x_mm=-100.0))
    return set_ruler(start, 2000.0)


def test_nothing_is_remarked_when_all_is_well():
    assert remarks(quiet()) == {}
    assert remarks(bare()) == {}


def test_a_volume_out_of_the_cone_is_told_its_worst_angle():
    far_off = sheet(case(x_mm=1300.0))
    (remark,) = remarks(far_off)["outside_the_cone"]
    picture = scene_of(far_off).pictures[0]
    worst = max(
        math.degrees(math.acos((y - 0.0) / math.dist((0, 0, 1500.0), (x, y, z))))
        for x, y, z in picture.world.tolist()
    )
    assert remark.value == pytest.approx(worst, abs=1e-9)
    assert remark.severity is Severity.SERIOUS and remark.unit == "deg"
    percent = 100 / math.cos(math.radians(worst)) - 100
    assert f"{percent:.0f} % too long" in remark.text
    assert "behind the eye" in remarks(sheet(case(y_mm=-900.0)))["outside_the_cone"][0].text


@pytest.mark.parametrize("rule", ["outside_the_cone", "near_corner_too_sharp", "points_too_close"])
def test_stepping_back_cures_what_its_button_says_and_hardly_more(rule):
    start = squeezed()
    (remark,) = remarks(start)[rule]
    remedy = remark.remedy()
    cured = remedy.edit(start)
    assert rule not in remarks(cured)
    assert f"{cured.eye.station_distance_mm / 10:g} cm" in remedy.label
    assert near_edge(cured).corner_mm == pytest.approx(near_edge(start).corner_mm, abs=1e-7)
    assert near_edge(cured).drawn_mm == pytest.approx(near_edge(start).drawn_mm, abs=1e-7)
    short = eye_edits.step_back(start, 0.97 * cured.eye.station_distance_mm)
    if rule == "near_corner_too_sharp":
        assert near_corner_angle(short.eye, scene_of(short).pictures[0]) < 91.0
    else:
        assert rule in remarks(short)


def test_a_remedy_for_another_volume_steps_back_for_that_one():
    both = sheet(case(y_mm=4000.0), case(name="Filter tin", x_mm=900.0, y_mm=1500.0))
    (remark,) = remarks(both)["outside_the_cone"]
    assert remark.volume == 1 and "Filter tin" in remark.title
    cured = remark.remedy().edit(both)
    assert corners_off_axis(cured.eye, scene_of(cured).pictures[1]).max() <= 30.0 + 1e-9


def test_crowded_points_are_counted_in_drawn_heights():
    (remark,) = remarks(squeezed())["points_too_close"]
    setup = hand_setup(squeezed())
    assert remark.value == pytest.approx(setup.right_mm - setup.left_mm)
    sheet_y = scene_of(squeezed()).pictures[0].sheet[:, 1]
    assert f"{remark.value / (sheet_y.max() - sheet_y.min()):.1f} ×" in remark.text


@pytest.mark.parametrize(("turn", "remarked"), [(45.0, True), (45.4, True), (44.0, False)])
def test_a_volume_at_45_degrees_goes_static(turn, remarked):
    start = volume_edits.turn_volume(quiet(), turn)
    found = remarks(start).get("static_turn", [])
    assert bool(found) == remarked
    if found:
        assert found[0].value == pytest.approx(turn)
        cured = found[0].remedy().edit(start)
        assert cured.volume.yaw_deg == pytest.approx(30.0)
        assert "static_turn" not in remarks(cured)


def test_an_edge_on_the_eye_level_is_an_accident_that_raising_the_eye_undoes():
    start = volume_edits.move_volume(quiet(), (-100.0, 2600.0, 1500.0 - 180.0))
    (remark,) = remarks(start)["edge_along_eye_level"]
    assert remark.value == pytest.approx(0.0, abs=1e-9)
    assert "edge_along_eye_level" not in remarks(remark.remedy().edit(start))
    clear = volume_edits.move_volume(start, (-100.0, 2600.0, 1500.0 - 180.0 - 10.0))
    assert "edge_along_eye_level" not in remarks(clear)


def test_an_upright_face_seen_edge_on_is_an_accident_that_a_step_aside_undoes():
    start = sheet(Volume("Case", 300.0, 300.0, 200.0, 0.0, 2600.0, 1000.0, 0.0))
    (remark,) = remarks(start)["face_edge_on"]
    assert remark.value == pytest.approx(0.0, abs=1e-9)
    assert "face_edge_on" not in remarks(remark.remedy().edit(start))


def test_a_point_beyond_the_ruler_is_read_with_where_its_line_leaves_the_paper():
    start = sheet(case(yaw_deg=30.0))
    reading = PointPick(0, family="right").reading(start, scene_of(start))
    told = {row.label: row.value for row in reading.rows}
    x, y = near_edge(start).corner_mm
    vx = hand_setup(start).right_mm
    assert told["from near corner"] == pytest.approx(math.dist((x, y), (vx, 180.0)))
    at_edge = y + (180.0 - y) * (420.0 - x) / (vx - x)
    assert f"right edge, {at_edge / 10:.2f}".rstrip("0") in told["its line leaves"]
    assert told["for your ruler"] == "out of reach"


def test_a_remark_set_aside_is_not_made_again_until_it_is_called_back():
    hanging = sheet(case(), case(name="Tin", x_mm=900.0, key=1), case(name="Lid", z_mm=0.0, key=2))
    before = second_look(hanging, scene_of(hanging))
    floats = [r for r in before if r.rule == "floating"]
    assert {hanging.volumes[r.volume].name for r in floats} == {"Eyepiece case", "Tin"}
    aside = set_aside(hanging, remark_key(hanging, floats[0]))
    after = second_look(aside, scene_of(aside))
    assert [r.text for r in after] == [r.text for r in before if r is not floats[0]]
    look = SecondLook()
    assert not look.work(look.steps(aside, scene_of(aside)), 1e6)
    assert [r.text for r in look.remarks] == [r.text for r in after] and look.aside == 1
    assert sheet_from_text(sheet_as_text(aside).encode(), "it") == aside
    back = call_back(aside)
    assert [r.text for r in second_look(back, scene_of(back))] == [r.text for r in before]


def test_a_face_square_to_us_may_have_a_sharp_front_corner():
    assert "near_corner_too_sharp" not in remarks(sheet(case(yaw_deg=0.0, x_mm=-900.0)))


def test_the_worst_comes_first():
    crowded = sheet(*crowd(12), by=eye())
    order = [(r.severity, -r.excess) for r in second_look(crowded, scene_of(crowded))]
    assert order == sorted(order) and len({severity for severity, _ in order}) > 1
    first = second_look(squeezed(), scene_of(squeezed()))[0]
    assert first.severity is Severity.SERIOUS and first.text.endswith(".")

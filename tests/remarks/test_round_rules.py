"""What the second look says about rounds, and when it keeps silent."""

from dataclasses import replace

import pytest

from isometron.document.document import Document
from isometron.document.edits.shapes import rounding
from isometron.drawing.scene import scene_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.volume import Volume
from isometron.remarks.second_look import second_look
from tests.scenes import case, eye, seen_by, sheet


def wheel(x, y=3000.0, z=0.0, yaw=25.0, **changes):
    return Volume("Wheel", 620, 200, 620, x, y, z, yaw, shape=lathe.wheel(), **changes)


def told(*volumes, by=None, cone_deg=60.0, **kit):
    document = Document(views=seen_by(by or eye()), volumes=volumes, selected=0)
    choices = replace(document.choices, cone_deg=cone_deg)
    document = replace(document, kit=replace(document.kit, **kit), choices=choices)
    return {r.rule: r for r in second_look(document, scene_of(document))}


def test_a_thin_ellipse_and_a_round_one_are_told():
    level = case(z_mm=1495.0, y_mm=2600.0, circles=(FaceCircle(4),), height_mm=5.0)
    assert told(level)["thin_or_open_ellipse"].value < 5
    ahead = Volume("Lens", 200, 100, 200, -100, 3000, 1400, shape=lathe.wheel())
    assert told(ahead)["thin_or_open_ellipse"].value > 80
    assert "thin_or_open_ellipse" not in told(wheel(0.0))


def test_wheels_of_one_side_that_stand_askew_or_open_differently_are_told():
    straight = (wheel(-700.0), replace(wheel(1162.0), y_mm=3000 + 1862 * 0.4663, key=1))
    assert "wheels_disagree" not in told(*straight)
    askew = (straight[0], replace(straight[1], yaw_deg=31.0))
    assert "askew" in told(*askew)["wheels_disagree"].title
    near = eye(x_mm=1271.0, y_mm=-494.0, heading_deg=30.0)
    assert "open differently" in told(*straight, by=near)["wheels_disagree"].title


def test_the_rule_of_the_minor_axis_is_told_only_where_it_costs_a_pencil_line():
    assert "minor_axis_off_axle" not in told(wheel(-100.0, z=1200.0, yaw=35.0))
    aside = told(wheel(1500.0))["minor_axis_off_axle"]
    assert aside.value > 0.5 and "leans off its axle" in aside.title


def test_circles_outside_the_cone_or_beside_the_eye_are_serious():
    out = told(wheel(1800.0), cone_deg=40.0)
    assert out["circle_outside_the_cone"].value > 20 and "outside_the_cone" not in out
    beside = case(
        width_mm=3000,
        depth_mm=3000,
        height_mm=100,
        x_mm=-1500,
        y_mm=-1400,
        yaw_deg=0,
        circles=(FaceCircle(4),),
    )
    assert "hyperbola" in told(beside)["circle_beside_the_eye"].text


def test_no_guide_fits_is_said_of_the_circle_in_work():
    one = wheel(0.0)
    assert "no_guide_fits" not in told(
        one,
        guide_degrees=tuple(float(d) for d in range(5, 90)),
        guide_sizes_mm=tuple(i / 2 for i in range(2, 400)),
    )
    assert told(one, guide_degrees=(15.0,), guide_sizes_mm=(20.0,))["no_guide_fits"].value > 1
    assert "no_guide_fits" not in told(one, guide_degrees=())


@pytest.mark.parametrize(("z", "words"), [(80.0, "hangs in the air"), (-50.0, "sinks into")])
def test_a_wheel_off_the_ground_is_set_down_by_its_remedy(z, words):
    remark = told(wheel(0.0, z=z))["wheel_off_the_ground"]
    assert words in remark.title and remark.value == pytest.approx(z)
    document = sheet(wheel(0.0, z=z))
    done = remark.remedy().edit(document)
    assert done.volume.z_mm == pytest.approx(0.0)
    assert "wheel_off_the_ground" not in told(done.volume)
    assert "floating" not in told(wheel(0.0, z=z))


def test_a_cylinder_is_not_told_off_for_the_corners_of_its_box():
    tin = rounding.make_round(sheet(case(yaw_deg=45.0, z_mm=0.0)), "cylinder").volume
    rules = told(tin)
    assert not {"static_turn", "near_corner_too_sharp", "face_edge_on", "points_too_close"} & set(
        rules
    )

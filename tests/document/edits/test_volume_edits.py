import numpy as np
import pytest
from hypothesis import given

from isometron.document.document import ChoiceError, Choices, Document
from isometron.document.edits import choosing, volume_edits
from isometron.document.edits.places import laying, sliding
from isometron.document.edits.sheet_edits import (
    change_format,
    set_cone,
    set_ruler,
    set_unit,
    turn_sheet,
)
from isometron.document.edits.stances import STANCES, take_stance
from isometron.document.history import History
from isometron.document.near_edge import hand_setup, near_corner, near_edge
from isometron.drawing.measures import directions_of, kind_of_view
from isometron.drawing.scene import scene_of
from isometron.perspective.errors import IsometronError
from isometron.remarks.second_look import second_look
from tests.scenes import bare, case, crowd, eye, floats, sheet


def drawn(document, corner):
    return scene_of(document).pictures[document.selected].sheet[corner]


@pytest.mark.parametrize("tilt", [0.0, -30.0, 15.0])
@pytest.mark.parametrize("yaw", [10.0, 130.0, -100.0, 200.0, 0.0])
@pytest.mark.parametrize("axis", [0, 1, 2])
def test_a_far_edge_slid_to_a_place_is_drawn_there(axis, yaw, tilt):
    start = sheet(case(yaw_deg=yaw), by=eye(tilt_deg=tilt))
    wanted = volume_edits.set_side(start, axis, 555.0)
    near = near_corner(start.eye, start.volume)
    far = near ^ (1 << axis)
    slid = volume_edits.slide_far_edge(start, axis, 0.0, tuple(drawn(wanted, far)))
    assert slid.volume.sides[axis] == pytest.approx(555.0, abs=1e-6)
    assert drawn(slid, far) == pytest.approx(drawn(wanted, far), abs=1e-8)
    assert drawn(slid, near) == pytest.approx(drawn(start, near), abs=1e-9)
    others = [i for i in range(3) if i != axis]
    assert [slid.volume.sides[i] for i in others] == [start.volume.sides[i] for i in others]


def test_no_far_edge_lies_beyond_the_vanishing_point():
    start = sheet(case(yaw_deg=30.0))
    with pytest.raises(IsometronError, match="beyond the vanishing point"):
        volume_edits.slide_far_edge(start, 0, 0.0, (hand_setup(start).right_mm + 5, 180.0))


def test_a_cube_has_the_height_of_its_near_edge():
    start = sheet(case(yaw_deg=130.0), by=eye(tilt_deg=-20.0))
    cube = volume_edits.make_cube(start)
    assert cube.volume.sides == (180.0, 180.0, 180.0)
    assert near_edge(cube).corner_mm == pytest.approx(near_edge(start).corner_mm, abs=1e-9)
    assert near_edge(cube).drawn_mm == pytest.approx(near_edge(start).drawn_mm, abs=1e-9)
    for axis, side in enumerate(start.volume.sides):
        other = volume_edits.make_cube(start, axis)
        assert other.volume.sides == (side,) * 3
        assert near_edge(other).corner_mm == pytest.approx(near_edge(start).corner_mm, abs=1e-9)
    long = volume_edits.make_proportion(start, (3.0, 2.0, 1.5))
    assert long.volume.sides == pytest.approx((360.0, 240.0, 180.0))


@given(floats(60, 360), floats(10, 120), floats(15, 90))
def test_a_near_edge_laid_on_the_paper_is_drawn_there_and_closes_as_a_cube(x, y, length):
    blank = bare(eye(heading_deg=25.0, centre_of_vision_mm=(210.0, 200.0)))
    laid = laying.lay_near_edge(blank, (x, y), (x + 3.0, y + length))
    edge = near_edge(laid)
    assert edge.corner_mm == pytest.approx((x, y), abs=1e-7)
    assert edge.drawn_mm == pytest.approx(length, abs=1e-7)
    box = laid.volume
    assert box.width_mm == box.depth_mm == box.height_mm
    assert box.z_mm == pytest.approx(0.0, abs=1e-7)
    # On the ground the eye height is the measure: true / eye height = drawn / drop below the level.
    assert box.height_mm == pytest.approx(1500.0 * length / (200.0 - y), rel=1e-9)


def test_an_edge_above_the_eye_level_hangs_and_one_drawn_downward_is_turned():
    blank = bare(eye(heading_deg=25.0))
    hung = laying.lay_near_edge(blank, (200.0, 220.0), (200.0, 260.0))
    assert hung.volume.z_mm > 1500.0
    assert near_edge(hung).drawn_mm == pytest.approx(40.0, abs=1e-7)
    down = laying.lay_near_edge(blank, (200.0, 120.0), (200.0, 60.0))
    assert near_edge(down).corner_mm == pytest.approx((200.0, 60.0), abs=1e-6)
    with pytest.raises(IsometronError, match="from its foot to its top"):
        laying.lay_near_edge(blank, (200.0, 60.0), (200.0, 60.2))


def test_a_volume_slides_over_the_ground_under_a_still_eye():
    start = sheet(case(z_mm=0.0))
    corner = near_corner(start.eye, start.volume)
    grip = start.volume.corners()[corner]
    moved = sliding.slide_over_ground(start, grip, (260.0, 40.0), snap=False).document
    assert drawn(moved, corner) == pytest.approx([260.0, 40.0], abs=1e-8)
    assert moved.eye == start.eye and moved.volume.z_mm == pytest.approx(0.0, abs=1e-9)
    with pytest.raises(IsometronError, match="no ground"):
        sliding.slide_over_ground(start, grip, (260.0, 400.0))


def test_volumes_are_added_copied_named_and_taken_away():
    one = laying.add_box(bare(eye(heading_deg=25.0)))
    two = volume_edits.duplicate_volume(one)
    assert [box.name for box in two.volumes] == ["Box 1", "Box 2"]
    apart = two.volumes[1].corners()[0] - two.volumes[0].corners()[0]
    assert np.linalg.norm(apart) == pytest.approx(1.5 * one.volume.width_mm)
    named = choosing.rename_volume(two, "  Lens   tin ")
    assert named.volume.name == "Lens tin"
    left = choosing.remove_chosen(named)
    assert left.volumes == one.volumes and left.selected == 0
    assert choosing.remove_chosen(left).selected is None
    with pytest.raises(IsometronError, match="No volume is chosen"):
        volume_edits.make_cube(bare())


@pytest.mark.parametrize("stance", STANCES, ids=lambda s: s.name)
@pytest.mark.parametrize(
    "boxes",
    [(case(),), (case(width_mm=3000.0, z_mm=0.0),), crowd(6), (case(height_mm=2000.0, z_mm=0.0),)],
    ids=["case", "plank", "crowd", "cabinet"],
)
def test_a_stance_shows_all_of_the_work_inside_the_cone(stance, boxes):
    taken = take_stance(sheet(*boxes), stance)
    scene = scene_of(taken)
    corners = np.concatenate([picture.sheet for picture in scene.pictures])
    assert (corners > 0).all() and (corners < (420.0, 297.0)).all()
    extent = corners.max(axis=0) - corners.min(axis=0)
    assert 0.6 <= (extent / (400.0, 277.0)).max() <= 0.8, "of the sheet inside its margins"
    marks = np.array([taken.eye.height_mm, taken.eye.station_distance_mm])
    marks = np.append(marks, taken.eye.centre_of_vision_mm)
    assert np.abs(marks / 5.0 - np.round(marks / 5.0)).max() < 1e-9, "whole half centimetres"
    rules = {remark.rule for remark in second_look(taken, scene)}
    assert "outside_the_cone" not in rules
    kinds = {
        "square to us": "one-point",
        "looking down": "three-point",
        "looking up": "three-point",
    }
    view = kind_of_view(directions_of(taken.eye, scene.pictures[0]))
    assert view == kinds.get(stance.name, "two-point")
    seen = {"from the front": {0, 2}, "low down": {0, 2}, "from behind": {1, 3}}
    shown = set(np.flatnonzero(scene.pictures[0].shown).tolist()) - {4, 5}
    assert shown == seen.get(stance.name, shown)
    assert taken.volumes == sheet(*boxes).volumes


def test_a_vehicle_is_seen_from_where_people_stand_or_kneel():
    body = sheet(case(width_mm=3000.0, depth_mm=1500.0, height_mm=1400.0, z_mm=0.0))
    heights = {s.name: take_stance(body, s).eye.height_mm for s in STANCES}
    assert heights["edge nearest"] == heights["from the front"] == 1550.0
    assert 300.0 <= heights["low down"] <= 500.0
    high = take_stance(sheet(case(z_mm=5000.0)), STANCES[1])
    assert high.eye.height_mm == pytest.approx(5090.0, abs=2.5), "straight at what lies high up"


def test_a_stance_on_an_empty_sheet_sets_the_directions():
    assert [kind.__class__.__name__ for kind in
            (hand_setup(take_stance(bare(), stance)) for stance in STANCES)] == [
        "OnePoint", "TwoPoint", "ThreePoint", "ThreePoint", "TwoPoint", "TwoPoint", "TwoPoint",
    ]  # fmt: skip


def test_another_sheet_keeps_the_drawing_about_its_middle():
    start = sheet()
    small = change_format(start, "A4", lying=False)
    shift = np.array([105.0 - 210.0, 148.5 - 148.5])
    assert drawn(small, 3) == pytest.approx(drawn(start, 3) + shift, abs=1e-9)
    assert turn_sheet(small, lying=True).sheet.width_mm == 297.0
    assert turn_sheet(small, lying=False) is small


def test_choices_outside_reason_are_refused():
    for edit in (
        lambda d: set_cone(d, 170.0),
        lambda d: set_cone(d, float("nan")),
        lambda d: set_ruler(d, 1.0),
        lambda d: set_unit(d, "m"),
    ):
        with pytest.raises(ChoiceError, match=r"\.$"):
            edit(bare())
    with pytest.raises(ChoiceError, match="not on this sheet"):
        Document(selected=3)
    assert Choices().unit == "cm"


def test_the_usual_ruler_is_the_one_of_the_unit_and_ones_own_stays():
    inches = set_unit(bare(), "in")
    assert (inches.kit.ruler_mm, inches.kit.ruler_step_mm) == (304.8, 25.4 / 16)
    assert set_unit(inches, "mm").kit == bare().kit
    own = set_ruler(bare(), 450.0)
    assert set_unit(own, "in").kit == own.kit


def test_history_goes_back_and_forth_and_knows_what_is_unsaved():
    history = History(sheet())
    first, cube = history.document, volume_edits.make_cube(sheet())
    history.take("nothing", sheet())
    history.take("make it a cube", cube)
    assert (history.undo_name, history.redo_name, history.unsaved) == ("make it a cube", None, True)
    history.mark_saved()
    history.take("choose", choosing.select(cube, None))
    assert not history.unsaved and history.undo_name == "make it a cube"
    history.undo()
    assert history.document == first and history.unsaved
    history.redo()
    assert history.document.volumes == cube.volumes
    history.undo()
    history.take("turn", volume_edits.turn_volume(first, 5.0))
    assert history.redo_name is None
    for _ in range(3):
        history.undo()
    assert history.document == first

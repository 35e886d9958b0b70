import math

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from isometron.document.document import Document
from isometron.document.edits.eye_edits import points_of_setup
from isometron.document.edits.stances import SQUARE, take_stance
from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.document.near_edge import hand_setup, near_edge
from isometron.drawing.measures import directions_of, kind_of_view
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import read_sheet, sample_sheet
from isometron.perspective.eye import eye_level
from isometron.ui.bench.asking import Unsaved
from isometron.ui.bench.place_table import number_of
from isometron.ui.board.tools import LAY_EDGE
from tests.scenes import case, sheet


def tab(at, number):
    """Click an index tab."""
    place = at.bench.rail.tabRect(number).center()
    QTest.mouseClick(at.bench.rail, Qt.MouseButton.LeftButton, pos=place)
    at.settle()


def view_of(document):
    picture = scene_of(document).pictures[document.selected]
    return kind_of_view(directions_of(document.eye, picture))


def test_a_stranger_turns_the_sample_into_a_three_point_cube_and_finds_it_again(desk, tmp_path):
    at = desk()
    assert view_of(at.document) == "two-point"
    tab(at, 0)
    at.press("Looking down")
    assert view_of(at.document) == "three-point"
    tab(at, 1)
    at.press("Make it a cube")
    assert at.document.volume.sides == (180.0, 180.0, 180.0)
    assert "three-point" in at.bench.state.text() and "not saved" in at.bench.state.text()
    at.answers.saves = tmp_path / "cube.isometron"
    at.run("Save")
    assert "saved" in at.bench.state.text() and not at.bench.isWindowModified()
    saved = tmp_path / "cube.isometron"
    assert read_sheet(saved) == at.document
    at.answers.draws = tmp_path / "cube.pdf"
    at.run("Draw to a file…")
    assert (tmp_path / "cube.pdf").read_bytes().startswith(b"%PDF")
    again = desk(Document())
    again.answers.opens = saved
    again.run("Open…")
    assert again.document == at.document
    assert [p.name for p in again.bench.keeping.recent()] == ["cube.isometron"]


def test_from_a_blank_sheet_to_a_box_with_the_mouse_alone(desk):
    at = desk(Document())
    view = at.board.view
    at.run("Lay down near edges")
    assert at.board.armed is LAY_EDGE
    foot = view.point((180.0, 70.0)).toPoint()
    at.drag(foot, (0, -round(80 * view.scale)))
    assert at.board.armed is LAY_EDGE
    at.key(Qt.Key.Key_Escape)
    assert at.board.armed is None
    box = at.document.volume
    assert box.width_mm == box.depth_mm == box.height_mm
    edge = near_edge(at.document)
    assert edge.corner_mm == pytest.approx((180.0, 70.0), abs=0.5 / view.scale)
    assert edge.drawn_mm == pytest.approx(80.0, abs=1.0 / view.scale)
    at.run("Undo")
    assert at.document.volumes == ()


STAYS = {
    "vp left": ("right", "corner", "drawn"),
    "vp right": ("left", "corner", "drawn"),
    "vp third": ("left", "right", "corner", "drawn"),
    "centre of vision": ("left", "right", "corner", "drawn"),
    "near corner": ("left", "right", "third", "drawn"),
    "near top": ("left", "right", "third", "corner"),
    "far width": ("left", "right", "third", "corner", "drawn", "eye"),
    "far depth": ("left", "right", "third", "corner", "drawn", "eye"),
    "eye level": ("corner", "drawn"),
}


def state_of(document):
    edge = near_edge(document)
    return {
        **points_of_setup(document),
        "corner": edge.corner_mm,
        "drawn": (edge.drawn_mm,),
        "eye": document.eye.place,
    }


@pytest.mark.sample(4)
@pytest.mark.parametrize("key", STAYS)
def test_each_handle_follows_the_pointer_and_what_stays_stays(desk, key):
    at = desk(sheet(case()) if key == "near corner" else None)
    at.type("tilt", "-22")
    at.board.fit_board()
    before, grabbed = at.document, at.place(key)
    start, scale = at.handle(key).place, at.board.view.scale
    by = {"vp left": (-21, 0), "vp third": (0, 18), "near top": (0, -9)}.get(key, (12, -6))
    at.drag(grabbed, by)
    after = at.document
    assert after != before
    for name in STAYS[key]:
        assert state_of(after)[name] == pytest.approx(state_of(before)[name], abs=1e-6), name
    moved = np.subtract(at.handle(key).place, start) * scale
    if key in ("near corner", "centre of vision"):
        assert moved == pytest.approx([by[0], -by[1]], abs=0.01)
    elif key in ("vp left", "vp right"):
        assert moved[0] == pytest.approx(by[0], abs=0.01)
    elif key in ("eye level", "vp third"):
        assert moved[1] == pytest.approx(-by[1], abs=0.01)
    else:  # along the edge or the fan: the nearest place on it
        off = np.array([by[0], -by[1]]) - moved
        assert np.hypot(*moved) > 0.5 and abs(off @ moved) < 0.05 * np.hypot(*moved) * np.hypot(*by)
    assert at.bench.session.undo_name.startswith("drag ")
    at.run("Undo")
    assert at.document == before
    at.run("Redo")
    assert at.document == after


def test_shift_on_the_upper_bar_changes_the_true_height_and_leaves_the_eye(desk):
    at = desk()
    eye = at.document.eye
    at.drag(at.place("near top"), (0, -30), shift=True)
    assert at.document.eye == eye
    grown = 30 / at.board.view.scale / near_edge(at.document).drawn_mm
    assert at.document.volume.height_mm == pytest.approx(180 / (1 - grown), rel=1e-6)


def test_a_volume_dragged_by_its_body_slides_over_its_own_level(desk):
    at = desk()
    side = at.bench.session.scene.pictures[1].sheet[[0, 2, 6, 4]].mean(axis=0)
    before = at.document
    at.drag(at.board.view.point(tuple(side)), (40, 20))
    after = at.document
    assert after.selected == 1 and after.eye == before.eye
    assert after.volumes[1].z_mm == pytest.approx(724.0)
    assert math.dist(after.volumes[1].place, before.volumes[1].place) > 20
    assert after.volumes[0] == before.volumes[0]
    assert at.bench.session.undo_name == "drag bench"


def test_a_point_beyond_the_board_is_dragged_by_its_flag(desk):
    at = desk()
    flag = next(f for f in at.board.flags if f.handle.key == "vp right")
    x = hand_setup(at.document).right_mm
    at.drag(flag.banner.center(), (-60, 0))
    assert hand_setup(at.document).right_mm == pytest.approx(x - 60 / at.board.view.scale)
    paper = at.board.view.rectangle((0, 0, 420, 297))
    assert not any(f.banner.intersects(paper) for f in at.board.flags)
    assert "→" in flag.text


def test_the_foot_of_a_thing_among_others_moves_it_and_with_shift_the_eye(desk):
    at = desk()
    before = at.document
    at.drag(at.place("near corner"), (14, -5), alt=True)
    assert at.document.eye == before.eye and at.document.volume.place != before.volume.place
    assert at.document.volumes[1] == before.volumes[1]
    at.run("Undo")
    at.drag(at.place("near corner"), (14, -5), shift=True)
    assert at.document.volumes == before.volumes and at.document.eye != before.eye


def test_an_impossible_drag_holds_the_last_possible_state_and_says_why(desk):
    at = desk()
    at.board.fit_board()
    start = at.place("vp left")
    centre = at.place("centre of vision")
    at.drag(start, (centre.x() - start.x() + 30, 0), drop=False)
    assert "must lie between" in at.board.plate.text()
    assert at.document.eye.station_distance_mm > 1
    at.key(Qt.Key.Key_Escape)
    assert at.document == sample_sheet()


TYPED = {
    "eye level": ("25.5 cm", lambda d: eye_level(d.eye), 255.0),
    "VP left": ("-4 in", lambda d: hand_setup(d).left_mm, -101.6),
    "VP right": ("900 mm", lambda d: hand_setup(d).right_mm, 900.0),
    "centre of vision across": ("20", lambda d: d.eye.centre_of_vision_mm[0], 200.0),
    "centre of vision up": ("26", lambda d: eye_level(d.eye), 260.0),
    "near corner across": ("15,5", lambda d: near_edge(d).corner_mm[0], 155.0),
    "near corner up": ("3 1/2 in", lambda d: near_edge(d).corner_mm[1], 88.9),
    "near edge drawn": ("80mm", lambda d: near_edge(d).drawn_mm, 80.0),
    "eye across": ("-50", lambda d: d.eye.x_mm, -500.0),
    "eye away": ("-1.5 m", lambda d: d.eye.y_mm, -1500.0),
    "eye height": ("150", lambda d: d.eye.height_mm, 1500.0),
    "heading": ("28", lambda d: d.eye.heading_deg, 28.0),
    "tilt": ("-12,5", lambda d: d.eye.tilt_deg, -12.5),
    "station distance": ("70", lambda d: d.eye.station_distance_mm, 700.0),
    "size on page": ("1 : 3", lambda d: 485 / d.eye.station_distance_mm, None),
    "cone of vision": ("50", lambda d: d.choices.cone_deg, 50.0),
    "ruler": ("2 m", lambda d: d.kit.ruler_mm, 2000.0),
    "sheet width": ("60", lambda d: d.sheet.width_mm, 600.0),
    "width": ('9 5/8"', lambda d: d.volume.width_mm, 9.625 * 25.4),
    "depth": ("300 mm", lambda d: d.volume.depth_mm, 300.0),
    "height": ("20", lambda d: d.volume.height_mm, 200.0),
    "turned": ("12", lambda d: d.volume.yaw_deg, 12.0),
    "stands right": ("5", lambda d: d.volume.x_mm, 50.0),
    "above ground": ("77", lambda d: d.volume.z_mm, 770.0),
}


def test_every_number_can_be_typed_in_any_unit_and_undone(desk):
    at = desk()
    for name, (text, number, value) in TYPED.items():
        before = at.document
        at.type(name, text)
        assert at.document != before, name
        if value is not None:
            assert number(at.document) == pytest.approx(value, abs=1e-6), name
        at.run("Undo")
        assert at.document == before


def test_what_is_no_number_is_marked_and_told_and_changes_nothing(desk):
    at = desk()
    before = at.document
    wrong = (("wide", "is not known here"), ("-3", "gives no volume"), ("1..", "not a"))
    for text, words in wrong:
        at.type("width", text)
        assert words in at.board.plate.text()
        assert at.document == before
    at.field("width").clearFocus()
    at.board.setFocus()
    field = at.field("width")
    assert field.text() == "1.." and field.property("wrong"), "what was typed stays"
    at.type("depth", "25 cm")
    assert field.text() == "36 cm" and not field.property("wrong")
    at.type("width", "1..")
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "36 cm" and not field.property("wrong")


def test_the_proportion_is_typed_and_the_list_chooses(desk):
    at = desk()
    ratio = at.field("width : depth : height")
    ratio.setFocus()
    ratio.selectAll()
    QTest.keyClicks(ratio, "4 : 2 : 1")
    QTest.keyClick(ratio, Qt.Key.Key_Return)
    assert at.document.volume.sides == pytest.approx((720.0, 360.0, 180.0))
    row = at.bench.card("build").list
    QTest.mouseClick(row.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(40, 40))
    at.settle()
    assert at.document.volume.name == "Bench"
    row.setFocus()
    QTest.keyClick(row, Qt.Key.Key_Down)
    assert at.document.volume.name == "Filter tin"
    assert at.bench.session.undo_name == "make it w : d : h"


def test_the_board_is_worked_by_keyboard_alone(desk):
    at = desk()
    at.board.setFocus()
    keys = [handle.key for handle in at.board.handles]
    for _ in range(keys.index("near corner") + 1):
        at.key(Qt.Key.Key_PageDown)
    assert at.board.plate.text().startswith("Near corner — arrow keys")
    x, y = near_edge(at.document).corner_mm
    at.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    at.key(Qt.Key.Key_Up)
    at.key(Qt.Key.Key_Left, Qt.KeyboardModifier.ControlModifier)
    assert near_edge(at.document).corner_mm == pytest.approx((x + 9.9, y + 1.0), abs=1e-8)
    at.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert near_edge(at.document).corner_mm == pytest.approx((x + 10, y + 1.0), abs=1e-8)
    at.key(Qt.Key.Key_Delete)
    assert len(at.document.volumes) == 2
    at.key(Qt.Key.Key_1, Qt.KeyboardModifier.ControlModifier)
    assert view_of(at.document) == "one-point"


def test_plan_and_elevation_move_the_same_eye(desk):
    at = desk()
    at.bench.open_place("stand")
    at.settle()
    plan, side = at.bench.plan, at.bench.side
    before = at.document
    at.drag(plan.handles()["eye"][0], (20, 0), on=plan)
    assert at.document.eye.place[:2] != before.eye.place[:2]
    assert at.document.eye.height_mm == before.eye.height_mm
    assert near_edge(at.document).corner_mm == pytest.approx(near_edge(before).corner_mm)
    at.drag(plan.handles()["sight line"][0], (15, 0), on=plan)
    assert at.document.eye.heading_deg > before.eye.heading_deg - 30
    at.drag(side.handles()["eye height"][0], (0, -12), on=side)
    assert at.document.eye.height_mm > before.eye.height_mm
    at.drag(side.handles()["tilt"][0], (0, 14), on=side)
    assert at.document.eye.tilt_deg < -5
    assert view_of(at.document) == "three-point"
    for _ in range(4):
        at.run("Undo")
    assert at.document == before


def test_a_remedy_is_one_undoable_step(desk):
    start = take_stance(sample_sheet(), SQUARE)
    at = desk(start)
    at.type("station distance", "20")
    assert "leaves the cone" in at.bench.strip.remarks[0].title
    crowded = at.document
    label = at.bench.strip.list.rows.solve(0).label
    assert label.startswith("Step back to")
    at.press(label)
    assert at.document.eye.station_distance_mm > crowded.eye.station_distance_mm
    at.run("Undo")
    assert at.document == crowded


def test_unsaved_work_is_asked_about_and_bad_files_harm_nothing(desk, tmp_path):
    path = tmp_path / "case.isometron"
    at = desk()
    at.run("Make it a cube")
    cube = at.document
    at.run("New")
    assert at.answers.asked == 1 and at.document == cube
    bad = tmp_path / "bad.isometron"
    bad.write_text("{")
    at.answers.opens = bad
    at.run("Open…")
    assert "damaged" in at.answers.told[-1] and at.document == cube
    at.answers.saves = tmp_path / "no" / "case.isometron"
    at.answers.unsaved = Unsaved.SAVE
    at.run("New")
    assert "folder does not exist" in at.answers.told[-1] and at.document == cube
    assert not at.bench.close()
    at.answers.saves = path
    at.run("New")
    assert read_sheet(path) == cube and at.document.volumes == ()
    asked = at.answers.asked
    at.run("Sample: eyepiece case")
    assert at.answers.asked == asked and at.document == sample_sheet()
    at.answers.draws = tmp_path / "no" / "case.svg"
    at.run("Draw to a file…")
    assert "folder does not exist" in at.answers.told[-1]


def test_from_a_blank_sheet_to_a_box_and_a_cylinder_in_the_sun_and_a_print(desk, tmp_path):
    """Every press, drag and typed number counts: at most sixteen."""
    at, actions = desk(Document()), 0

    def does(act, *given):
        nonlocal actions
        actions += 1
        act(*given)
        at.settle()

    view = at.board.view
    does(at.run, "Lay down near edges")
    does(at.drag, view.point((150.0, 70.0)).toPoint(), (0, -round(60 * view.scale)))
    does(at.key, Qt.Key.Key_Escape)
    does(at.run, "Cylinder")
    does(tab, at, number_of("finish"))
    does(at.press, "Sun")
    assert isinstance(at.document.light, Sun)
    card = at.bench.open_card
    page = card.page(0)
    steps = page.choice("steps of grey")
    does(steps.setCurrentIndex, 0)
    steps.activated.emit(0)
    at.settle()
    assert at.document.shading.steps == 3
    shown = at.board.shading._shown
    assert {wash.name for wash in shown.washes} >= {"values", "cast shadow"}
    pad = page["sun"]
    before = at.document.light
    place = pad.at(pad.points()[0]).toPoint()
    QTest.mousePress(pad, Qt.MouseButton.LeftButton, pos=place)
    QTest.mouseMove(pad, place + QPoint(20, 6))
    QTest.mouseRelease(pad, Qt.MouseButton.LeftButton, pos=place + QPoint(20, 6))
    actions += 1
    at.settle()
    assert at.document.light.azimuth_deg != before.azimuth_deg
    assert at.document.light.elevation_deg == before.elevation_deg
    at.answers.draws = tmp_path / "lit.pdf"
    does(at.run, "Draw to a file…")
    assert (tmp_path / "lit.pdf").read_bytes().startswith(b"%PDF") and actions <= 16
    at.run("Undo")
    assert at.document.light == before
    handle = next(h for h in at.board._handles if h.key == "light shadows")
    at.press("No light")
    assert at.document.light is None and at.board.shading._shown is None
    assert handle.title == "Point of the shadows"
    at.press("Lamp")
    assert isinstance(at.document.light, Lamp) and at.board.shading._shown is not None


def test_a_worm_and_a_bird_on_one_eye_level_and_a_page_of_four_views(desk, tmp_path):
    """From a blank sheet to the pair printed in at most ten actions; four views of the crawler in
    at most fourteen."""
    for first, presses, most, count in (
        (Document(), ["Worm and bird"], 10, 2),
        (sample_sheet("supply crawler"), ["From behind", "Side", "Detail"], 14, 4),
    ):
        at, actions = desk(first), 0

        def does(act, *given):
            nonlocal actions
            actions += 1
            act(*given)
            at.settle()  # noqa: B023

        if not first.volumes:
            view = at.board.view
            does(at.run, "Lay down near edges")
            does(at.drag, view.point((150.0, 70.0)).toPoint(), (0, -round(60 * view.scale)))
            does(at.key, Qt.Key.Key_Escape)
        does(at.bench.open_place, "stand")
        does(at.press, "Views")
        for words in presses:
            does(at.press, words)
        assert len(at.document.views) == count
        at.answers.draws = tmp_path / f"page {count}.pdf"
        does(at.run, "Draw to a file…")
        assert at.answers.draws.read_bytes().startswith(b"%PDF") and actions <= most
        in_work = at.document.view
        at.run("Next view")
        assert at.document.view != in_work
        before = at.document.views
        handle = next(h for h in at.board._handles if h.key == "frame 1")
        at.drag(at.board.view.point(handle.place).toPoint(), (-30, 20))
        now = at.document.views[at.document.view].frame
        assert now.width_mm < before[at.document.view].frame.width_mm
        at.run("Undo")
        assert at.document.views == before
        at.type("frame left", "12 mm")
        assert at.document.views[at.document.view].frame.left_mm == 12.0
        at.press("Keep this eye's lines")
        assert at.document.views[at.document.view].before == at.document.eye


def test_a_cube_is_made_of_the_side_last_typed_or_picked_and_says_which(desk):
    at = desk()
    at.type("width", "25 cm")
    at.run("Make it a cube")
    assert at.document.volume.sides == (250.0, 250.0, 250.0)
    assert "25 cm, its width" in at.board.plate.text()
    at.run("Undo")
    at.type("depth", "31 cm")
    at.press("Make it a cube")
    assert at.document.volume.sides == (310.0, 310.0, 310.0)
    at.run("Undo")
    picture = at.bench.session.scene.pictures[0]
    for axis, side in enumerate(at.document.volume.sides):
        edge = picture.body.edge_axes.tolist().index(axis)
        at.bench.session.read(EdgePick(0, edge))
        at.run("Make it a cube")
        assert at.document.volume.sides == pytest.approx((side,) * 3)
        at.run("Undo")

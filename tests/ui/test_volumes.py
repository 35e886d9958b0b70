"""Journeys with whole frameworks: faces, groups, copies, starters and tables."""

import itertools

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QPoint, QRect, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel

from isometron.deeds.deed import Matter
from isometron.document.edits.starters import STARTERS
from isometron.document.near_edge import drawn_place, near_edge
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.files.sheet_file import read_sheet, sample_sheet
from isometron.framework.bodies.cuts import Cut
from isometron.ui.bench.asking import Unsaved
from isometron.ui.bench.starter_dialog import StarterDialog
from isometron.ui.board.handles.bodies import face_handle
from isometron.ui.parts.theme import LIGHT_ROOM
from tests.scenes import case, sheet


def test_a_picked_face_slides_and_the_old_edge_stays_as_a_ghost(desk):
    at = desk()
    top = at.face_place(0, 5)
    at.click(top)
    assert isinstance(at.bench.session.pick, FacePick)
    before = at.bench.session.scene.pictures[0].seen_lines
    scale = at.board.view.scale
    held = at.board.view.sheet(top.toPointF())
    at.drag(top, (0, -40), alt=True)
    volume = at.document.volume
    assert volume.height_mm > 200 and volume.sides[:2] == (360.0, 240.0)
    picture = at.bench.session.scene.pictures[0]
    middle = picture.box_world[[4, 5, 6, 7]].mean(axis=0)
    x, y = drawn_place(at.document.eye, middle)
    assert y == pytest.approx(held[1] + 40 / scale, abs=1.5 / scale + 0.5)
    assert x == pytest.approx(held[0], abs=3.0)
    assert np.array_equal(at.bench.session.ghost[: len(before)], before)
    assert at.bench.session.undo_name == "drag face of Eyepiece case"
    at.run("Undo")
    assert at.document.volume.height_mm == 180.0


def test_a_face_snaps_to_a_neighbour_and_says_so_while_alt_holds_it_off(desk):
    tall = case(name="Tall", height_mm=230.0, x_mm=500.0, y_mm=2200.0, key=1)
    at = desk(sheet(case(), tall))
    top = at.face_place(0, 5)
    at.click(top)
    rise = at.board.view.scale * 600 / 2100 * 48.0
    at.drag(top, (0, -round(rise)), drop=False)
    assert at.document.volume.height_mm == pytest.approx(230.0, abs=1e-9)
    assert at.board._stopped_at == "in line with Tall"
    QTest.mouseRelease(at.board, Qt.MouseButton.LeftButton, pos=top)
    at.run("Undo")
    at.drag(at.face_place(0, 5), (0, -round(rise)), alt=True)
    assert at.document.volume.height_mm != pytest.approx(230.0, abs=1e-3)


def test_several_volumes_are_chosen_moved_lifted_and_grouped_together(desk):
    at = desk()
    at.click(at.face_place(0, 5))
    at.click(at.face_place(1, 2), control=True)
    assert at.document.chosen == (0, 1)
    before = [v.place for v in at.document.volumes]
    at.drag(at.face_place(0, 5), (30, 12), alt=True)
    run = np.subtract([v.place for v in at.document.volumes], before)
    assert np.allclose(run[0], run[1]) and np.hypot(*run[0][:2]) > 5 and abs(run[0][2]) < 1e-9
    assert np.allclose(run[2], 0)
    at.drag(at.face_place(0, 2), (0, -20), shift=True, alt=True)
    lift = np.subtract([v.place for v in at.document.volumes], before) - run
    assert lift[0] == pytest.approx(lift[1]) and lift[0][2] > 5 and np.allclose(lift[0][:2], 0)
    at.run("Group")
    assert at.document.volumes[0].group == at.document.volumes[1].group == "Group 1"
    at.run("Choose all")
    assert at.document.chosen == (0, 1, 2)
    at.run("Take the volume away")
    assert at.document.volumes == ()
    at.run("Undo")
    assert len(at.document.volumes) == 3


def test_arrow_keys_nudge_on_paper_or_truly(desk):
    at = desk()
    at.board.setFocus()
    x, y = near_edge(at.document).corner_mm
    at.key(Qt.Key.Key_Right)
    at.key(Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert near_edge(at.document).corner_mm == pytest.approx((x + 1.0, y - 10.0), abs=1e-8)
    at.run("Arrow keys move true mm")
    before = np.array(at.document.volume.place)
    at.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert np.linalg.norm(np.array(at.document.volume.place) - before) == pytest.approx(10.0)


def test_the_list_shows_hides_locks_and_turns_solid(desk):
    at = desk()
    rows = at.bench.card("build").list

    def switch(row, from_right):
        place = QPoint(rows.width() - 8 - 19 * from_right - 9, 26 * row + 13)
        QTest.mouseClick(rows.viewport(), Qt.MouseButton.LeftButton, pos=place)
        at.settle()

    switch(2, 2)
    assert not at.document.volumes[2].shown
    assert not len(at.bench.session.scene.pictures[2].seen_lines)
    switch(0, 0)
    at.type("width", "30")
    assert "pinned" in at.board.plate.text() and at.document.volumes[0].width_mm == 360.0
    switch(0, 1)
    assert at.document.volumes[0].see_through is True
    rows.setFocus()
    QTest.keyClick(rows, Qt.Key.Key_T, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(rows, Qt.Key.Key_L, Qt.KeyboardModifier.ShiftModifier)
    assert at.document.volumes[0].see_through is False and not at.document.volumes[0].locked
    QTest.keyClick(rows, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert [v.name for v in at.document.volumes] == ["Bench", "Eyepiece case", "Filter tin"]
    QTest.keyClicks(rows, "fi")
    assert at.document.selected == 2, "letters find a name"


def test_modules_counts_and_the_bounding_volume_are_typed(desk):
    at = desk()
    at.deed("set module", module="w = 12 cm")
    at.type("width", "3.5 w")
    assert at.document.volume.width_mm == pytest.approx(420.0)
    at.type("depth", "1/2 width")
    assert at.document.volume.depth_mm == pytest.approx(210.0)
    at.deed("set module", module="w = 10 cm")
    assert at.document.volume.sides == pytest.approx((350.0, 175.0, 180.0))
    at.deed("stretch whole", bounding_height="36 cm")
    assert at.document.volume.sides == pytest.approx((700.0, 350.0, 360.0))
    at.type("width", "u = 2 w + 4 cm")
    assert at.document.volume.width_mm == pytest.approx(240.0), "a module made where it is typed"
    at.type("depth", "2 u + half of Bench - 1 cm")
    assert at.document.volume.depth_mm == pytest.approx(2 * 240.0 + 430.0 / 2 - 10.0)
    at.deed("set module", module="w = 9 cm")
    assert at.document.volume.sides[:2] == pytest.approx((220.0, 2 * 220.0 + 205.0))
    at.type("above ground", "1/2 of sheet height + 5' 3\"")
    assert at.document.volume.z_mm == pytest.approx(297.0 / 2 + 63 * 25.4)
    kept = at.document
    at.type("width", "2 width + 1 u")
    assert "refers to itself" in at.board.plate.text() and at.document == kept


def test_shape_place_copies_and_lines_do_what_their_deeds_say(desk):
    at = desk()
    at.deed("lean sides", lean_left="20°")
    lean = at.document.volume.shape.left_mm
    assert lean == pytest.approx(180.0 * np.tan(np.radians(20.0)))
    at.deed("lean sides", lean_left="30 cm")
    assert at.document.volume.shape.left_mm == pytest.approx(300.0)
    at.deed("lean sides", lean_right="10 cm")
    assert "folds" in at.slip.panel.told.text() and at.document.volume.shape.right_mm == 0.0
    at.deed("whole box")
    at.deed("cut L")
    assert at.document.volume.contents_mm3 == pytest.approx(0.75 * 360 * 240 * 180)
    at.deed("stand on", what_it_stands_on="Bench")
    assert at.document.volume.on.parent == at.document.volumes[1].key
    at.deed("turn in space", pitch="15")
    assert at.document.volume.pitch_deg == pytest.approx(15.0)
    at.deed("turn in space", pitch="0")
    at.deed("repeat", copies="2")
    assert [v.name for v in at.document.volumes[3:]] == ["Eyepiece case 1", "Eyepiece case 2"]
    at.deed("draw section", square_to="depth")
    assert at.document.volumes[4].marks == at.document.volume.marks != ()
    at.deed("floor line")
    assert at.document.aids[0].kind == "floor line" and len(at.bench.session.scene.aid_lines)
    at.bench.wishes.pick(EdgePick(at.document.selected, 8))
    at.deed("divide edge", parts_or_places="3")
    assert len(at.document.volume.marks) == 2


def test_copied_volumes_are_pasted_on_another_sheet(desk):
    at, other = desk(), desk(sheet())
    at.run("Copy")
    other.run("Paste")
    assert other.document.volume.name == "Eyepiece case 1"
    assert other.document.volume.sides == (360.0, 240.0, 180.0)
    QApplication.clipboard().setText("a shopping list")
    kept = other.document
    other.run("Paste")
    assert "no volumes to paste" in other.board.plate.text() and other.document == kept


@pytest.mark.sample(3)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda s: s.name)
def test_a_starter_begins_a_framework_that_is_saved_and_found_again(desk, tmp_path, starter):
    at = desk()
    at.answers.unsaved = Unsaved.DISCARD
    at.run("New")
    first = starter.questions[0]
    at.answers.answers_to_starter = {first.name: 1.05 * first.proposed}
    at.run(f"{starter.name}…")
    fewest = {"Turned object": 1, "Trailer": 4}.get(starter.name, 2)
    assert len(at.document.volumes) >= fewest
    at.answers.saves = tmp_path / "framework.isometron"
    at.run("Save")
    assert read_sheet(tmp_path / "framework.isometron") == at.document
    at.answers.answers_to_starter = None
    at.run(f"{starter.name}…")
    assert read_sheet(tmp_path / "framework.isometron") == at.document


def test_the_starter_dialog_draws_as_it_is_typed_and_refuses_what_cannot_be(desk):
    at = desk()
    dialog = StarterDialog(at.bench, STARTERS[0], LIGHT_ROOM, "mm")
    before = dialog.picture.shown_now

    def typed(name, text):
        field = dialog.fields[name]
        field.setText(text)
        field.setModified(True)
        field.editingFinished.emit()

    typed("height", "3.1")
    assert dialog.values["height"] == 3.1 and dialog.picture.shown_now is not before
    typed("ground clearance", "9")
    assert "no room" in dialog.wrong.text() and dialog.values["ground clearance"] == 0.4
    typed("wheelbase", "long")
    assert "is no number" in dialog.wrong.text()
    dialog.show()
    names = list(dialog.fields)
    for name, after in itertools.pairwise(names):
        dialog.fields[name].setFocus()
        QTest.keyClick(dialog.fields[name], Qt.Key.Key_Return)
        assert dialog.isVisible() and dialog.focusWidget() is dialog.fields[after]
    QTest.mouseClick(dialog.put, Qt.MouseButton.LeftButton)
    assert dialog.result() == StarterDialog.DialogCode.Accepted
    dialog.deleteLater()


def test_dimensions_and_meshes_leave_and_come_back_through_the_menu(desk, tmp_path):
    at = desk(sample_sheet("observing chair"))
    at.answers.sends = tmp_path / "chair.csv"
    at.run("Write dimensions…")
    text = (tmp_path / "chair.csv").read_text()
    assert text.count("\n") == 1 + len(at.document.volumes)
    (tmp_path / "chair.csv").write_text(text.replace("Seat,box,500.0", "Seat,box,620.0"))
    at.answers.table = tmp_path / "chair.csv"
    at.run("Take dimensions…")
    assert at.document.volumes[0].width_mm == 620.0
    kept = at.document
    (tmp_path / "chair.csv").write_text("nonsense")
    at.run("Take dimensions…")
    assert "not a table" in at.answers.told[-1] and at.document == kept
    at.answers.sends = tmp_path / "chair.obj"
    at.run("Send the volumes out…")
    assert (tmp_path / "chair.obj").read_text().count("\no ") >= 8


@pytest.mark.sample(3)
@pytest.mark.parametrize("matter", list(Matter), ids=lambda m: m.name)
def test_no_words_are_clipped_on_the_slip(desk, matter):
    at = desk(sample_sheet("supply crawler"))
    group = at.slip.groups[matter]
    group.unfold()
    at.settle()
    for label in group.findChildren(QLabel):
        if label.isVisibleTo(group) and not label.wordWrap():
            assert label.width() >= label.sizeHint().width() - 1, label.text()
    for tile in group.tiles.tiles.values() if group.tiles and group.isVisible() else ():
        words = tile.fontMetrics().boundingRect(
            QRect(0, 0, tile.width() - 52, 200), Qt.TextFlag.TextWordWrap, tile.text()
        )
        assert words.height() <= tile.height() and words.width() <= tile.width() - 50, tile.text()


def test_the_bounding_volume_is_pulled_and_everything_inside_follows(desk):
    at = desk(sheet(case(yaw_deg=0.0), case(name="Lid", yaw_deg=0.0, z_mm=1180.0, key=1)))
    at.run("Choose all")
    at.drag(at.place("bounds height"), (0, -30))
    first, second = at.document.volumes
    grown = first.height_mm / 180.0
    assert grown > 1.1 and second.height_mm == pytest.approx(first.height_mm)
    assert second.z_mm == pytest.approx(1000.0 + first.height_mm)
    assert first.sides[:2] == pytest.approx((360.0, 240.0))
    at.drag(at.place("bounds height"), (0, 20), shift=True)
    first = at.document.volumes[0]
    assert first.width_mm / 360.0 == pytest.approx(first.depth_mm / 240.0)
    assert first.width_mm < 360.0


def test_twins_ghosts_and_openings_are_made_with_the_slip(desk):
    at = desk()
    at.deed("mirror", mirrored_across="Bench", mirror_square_to="depth")
    twin = at.document.volume
    assert twin.name == "Eyepiece case twin 1"
    bench = at.document.volumes[1].corners()
    middle = (bench[0] + bench[7])[1] / 2
    source = at.document.volumes[0].world()
    assert sorted(twin.world()[:, 1]) == pytest.approx(sorted(2 * middle - source[:, 1]))
    at.type("width", "20")
    assert "twin 1 follows it" in at.board.plate.text()
    assert [at.document.volumes[i].width_mm for i in (0, at.document.selected)] == [200.0, 200.0]
    at.deed("let go")
    at.type("width", "21")
    assert [at.document.volumes[i].width_mm for i in (0, at.document.selected)] == [200.0, 210.0]
    at.deed("same again turned", turn_of_the_copy="25")
    assert at.document.volumes[-2].ghost and at.document.volume.yaw_deg == pytest.approx(
        25.0 - 180.0
    )
    assert at.document.volume.sides == at.document.volumes[-2].sides
    at.deed("pierce", wall="2 cm")
    width, depth, height = at.document.volume.sides
    kept = width * depth * height - width * (depth - 40) * (height - 40)
    assert at.document.volume.contents_mm3 == pytest.approx(kept)
    before = at.document
    panel = at.deed("pierce", wall="50 cm")
    assert "no opening" in panel.told.text() and at.document == before
    at.deed("fill cuts")
    assert at.document.volume.cuts == ()


def test_a_place_is_said_in_words_and_shown_as_it_was_said(desk):
    at = desk()
    at.bench.wishes.choose(2)
    at.type("turned", "0")
    at.slip.groups[Matter.PLACE].unfold()
    place = at.field("place in words")
    at.write(place, "2 cm 5 mm right of Eyepiece case, flush with the front of Eyepiece case")
    case, tin = at.document.volumes[0], at.document.volumes[2]
    along = (tin.corners() - case.pose[0]) @ case.pose[1].T
    assert along.min(axis=0)[:2] == pytest.approx([case.width_mm + 25.0, 0.0])
    assert place.text().startswith("2.5 cm right of Eyepiece case")
    kept = at.document
    at.write(place, "3 cm beside Eyepiece case")
    assert "is no place" in at.board.plate.text() and at.document == kept


def test_volumes_are_dragged_in_the_list_and_into_groups(desk):
    at = desk(sheet(*(case(name=f"Case {i}", key=i, x_mm=500.0 * i) for i in range(4))))
    shown, port = at.bench.card("build").list, at.bench.card("build").list.viewport()

    def row(number, share):
        rect = shown.visualRect(shown.rows.index(number))
        return QPoint(rect.left() + 30, round(rect.top() + share * rect.height()))

    def drag(start, end):
        by = end - start
        at.drag(start, (by.x(), by.y()), on=port)

    drag(row(0, 0.5), row(3, 0.9))
    assert [v.name for v in at.document.volumes] == ["Case 1", "Case 2", "Case 3", "Case 0"]
    drag(row(2, 0.5), row(0, 0.05))
    assert [v.name for v in at.document.volumes] == ["Case 3", "Case 1", "Case 2", "Case 0"]
    assert at.document.volume.name == "Case 3"
    drag(row(1, 0.5), row(3, 0.5))
    groups = {v.name: v.group for v in at.document.volumes}
    assert groups["Case 1"] == groups["Case 0"] == "Group 1" and not groups["Case 2"]
    at.run("Undo")
    assert not any(v.group for v in at.document.volumes)
    QTest.keyClicks(shown, "case 2")
    at.settle()
    assert at.document.volume.name == "Case 2"


def test_keys_of_commands_work_while_a_field_has_the_focus(desk, tmp_path):
    at = desk()
    at.answers.draws = tmp_path / "drawn.svg"
    field = at.field("height")
    field.setFocus()
    for key, left in ((Qt.Key.Key_E, True), (Qt.Key.Key_Left, False), (Qt.Key.Key_C, False)):
        event = QKeyEvent(QEvent.Type.ShortcutOverride, key, Qt.KeyboardModifier.ControlModifier)
        event.accept()
        field.event(event)
        assert event.isAccepted() is not left, "some desktops move about in a field by Ctrl+E"
    QTest.keyClick(field, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    assert (tmp_path / "drawn.svg").exists()
    QTest.keyClick(
        field, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    )
    assert len(set(at.document.volume.sides)) == 1
    QTest.keyClicks(field, "7")
    QTest.keyClick(field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert field.selectedText() == field.text()


def test_nothing_typed_for_one_sheet_lives_on_in_the_next(desk):
    at = desk()
    at.deed("floor line at", behind="77 cm")
    at.board.zoom(3.0)
    at.run("Measure between two things")
    at.answers.unsaved = Unsaved.DISCARD
    at.run("New")
    at.run("Add a box")
    assert at.deed("floor line at")["behind"].text() == "30 cm" and at.board.armed is None
    paper = at.board.view.rectangle(at.document.sheet.paper)
    assert at.board.rect().contains(paper.toAlignedRect())


def test_old_lines_stand_until_they_are_dismissed(desk):
    at = desk()
    first = at.bench.session.scene.pictures[0].seen_lines
    at.run("Keep the old lines")
    at.type("height", "20 cm")
    second = at.bench.session.scene.pictures[0].seen_lines
    at.type("height", "25 cm")
    ghost = at.bench.session.ghost
    assert len(ghost) == len(first) + len(second) and np.array_equal(ghost[: len(first)], first)
    at.run("Keep the old lines")
    assert not len(at.bench.session.ghost)


def test_dialogs_start_where_one_last_was_with_the_name_of_the_sheet(desk, tmp_path):
    at = desk()
    places = []
    at.answers.where = lambda _title, proposal, _formats: places.append(proposal)
    at.run("Draw to a file…")
    elsewhere = tmp_path / "elsewhere"
    elsewhere.mkdir()
    at.answers.where = lambda _title, proposal, _formats: elsewhere / "drawn.pdf"
    at.run("Draw to a file…")
    at.answers.where = lambda _title, proposal, _formats: places.append(proposal)
    at.run("Draw to a file…")
    assert places[1].parent == elsewhere and places[0].name == places[1].name
    assert places[1].stem == at.bench.keeping.name


def test_a_face_of_a_cut_tells_the_cut_not_the_volume(desk):
    cut = Cut((0.25, -0.1, 0.5), (0.75, 1.1, 1.1))
    at = desk(sheet(case(cuts=(cut,))))
    picture = at.bench.session.scene.pictures[0]
    floor = next(
        f for f in range(picture.body.faces)
        if picture.body.normals[f][2] > 0.9 and abs(picture.body.offsets[f] - 90.0) < 1e-6
    )  # fmt: skip
    handle = face_handle(at.document, FacePick(0, floor), tuple(picture.sheet.mean(axis=0)))
    assert handle.number(at.document, at.bench.session.scene) == "9 cm"


def test_cuts_are_typed_changed_and_taken_away(desk):
    at = desk()
    panel = at.deed("cut span")
    at.fill(panel, "cut along width", "1/2 to 1")
    assert "Takes out: " in panel.told.text() and not at.bench.session.kept.volume.cuts
    at.fill(panel, "cut along height", "9cm 18cm")
    at.do(panel)
    assert at.document.volume.contents_mm3 == pytest.approx(0.75 * 360 * 240 * 180)
    at.deed("change cut", **{"which cut": 0, "cut along width now": "3/4 to 1"})
    assert at.document.volume.contents_mm3 == pytest.approx(7 / 8 * 360 * 240 * 180)
    panel = at.deed("change cut", **{"cut along width now": "3 to 1"})
    assert "no part" in panel.told.text() and at.document.volume.cuts[0].low[0] == 0.75
    at.deed("fill cut", which_cut=0)
    assert at.document.volume.cuts == ()


def test_a_row_says_how_many_there_will_be_before_it_is_set(desk):
    at = desk()
    panel = at.deed("set in row")
    at.fill(panel, "in all", "9")
    at.fill(panel, "over", "5 m")
    assert panel.told.text() == "9 in all, 58 cm from one to the next, 22 cm between them"
    at.fill(panel, "over", "20 cm")
    assert "no room" in panel.told.text()
    at.fill(panel, "over", "500 cm")
    at.do(panel)
    assert len([v for v in at.document.volumes if v.name.startswith("Eyepiece case")]) == 9
    panel = at.deed("set in row", row_along="the picked edge")
    assert "edge" in panel.told.text() and len(at.document.volumes) == 11


def test_an_answer_that_a_starter_refuses_stays_in_its_field_and_is_named(desk):
    at = desk()
    ring = next(one for one in STARTERS if one.name == "Ring of piers")
    dialog = StarterDialog(at.bench, ring, LIGHT_ROOM, "cm")
    field = dialog.fields["piers"]
    field.setText("30")
    field.setModified(True)
    field.editingFinished.emit()
    assert field.text() == "30" and field.property("wrong")
    assert dialog.wrong.text().startswith("Piers: ") and dialog.values["piers"] == 10
    dialog.fields["diameter"].setText("21 m")
    dialog.fields["diameter"].setModified(True)
    dialog.fields["diameter"].editingFinished.emit()
    assert dialog.values["diameter"] == 21_000.0
    field.setModified(True)
    field.editingFinished.emit()
    assert dialog.values["piers"] == 30 and not field.property("wrong") and not dialog.wrong.text()

"""The slip, the finder and the menus over the table of deeds: the same words and keys everywhere,
nothing moves under the pointer, the keyboard is never trapped."""

import pytest
from PyQt6.QtCore import QPoint, QRectF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLineEdit

from isometron.deeds.deed import PARTS, Matter
from isometron.deeds.line import asked_by, shared_out
from isometron.deeds.table import deeds, matters
from isometron.document.document import Document
from isometron.document.edits import eye_edits, lighting
from isometron.document.edits.starters import STARTERS
from isometron.document.lights.table import LIGHTS
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.files.sheet_file import sample_sheet
from isometron.perspective.eye import eye_level
from isometron.ui.bench.commands.table import COMMANDS
from isometron.ui.bench.finder import Entry, found, found_line
from isometron.ui.bench.place_table import PLACES
from tests.scenes import case, sheet

EVERY = sorted(deeds())
CONTROLS = (QAbstractButton, QLineEdit, QComboBox)
SOME = (None, EdgePick(0, 2), FacePick(0, 2))


@pytest.fixture
def shown(desk):
    """A desk with the example of a deed, and what is picked on it."""
    at = desk(Document())

    def show(key):
        example = deeds()[key].shows()
        at.bench.session.open(example.document, None)
        at.bench.open_place("build")
        at.bench.session.read(example.pick)
        at.bench.session.refresh()
        at.settle()
        return at, example

    return show


def test_a_deed_has_the_same_words_and_key_on_slip_menu_and_in_the_finder(shown):
    at, _example = shown("add box")
    actions = {command.key: (command, action) for command, action in at.bench.actions_of}
    entries = at.bench._found()
    for key, deed in deeds().items():
        command, action = actions[key]
        assert (action.text(), command.tip, command.keys) == (deed.text, deed.tip, deed.keys)
        for word in f"{deed.text} {deed.finds}".split():
            assert any(one.text == deed.text for one in found(entries, word)), (key, word)
    for matter, group in at.slip.groups.items():
        group.unfold()
        told = {row.deed.key: row.label.text() for row in group.rows}
        told |= {t.deed.key: t.text() for t in (group.tiles.tiles.values() if group.tiles else ())}
        assert told == {k: d.text for k, d in deeds().items() if matters()[k] is matter}


@pytest.mark.sample(5)
@pytest.mark.parametrize("key", EVERY)
def test_a_deed_is_previewed_done_by_return_and_done_again_or_says_what_is_lacking(shown, key):
    at, example = shown(key)
    deed, before = deeds()[key], at.document
    if not deed.ready(example.document, None) and not set(PARTS) & set(deed.acts_on):
        at.bench.session.open(Document(), None)
        at.settle()
        assert not at.bench.do_deed(deed) and at.board.plate.text() == deed.lacking(
            Document(), None
        )
        return
    if deed.in_place:
        row = at.slip.row(key)
        assert at.bench.do_deed(deed) and row.asked.widget.hasFocus()
        return
    at.bench.do_deed(deed)
    at.settle()
    panel = at.slip.panel
    assert (panel is not None) == bool(deed.parameters)
    if panel is not None:
        for one in panel.asked:
            if one.parameter.key in example.values:
                at.fill(panel, one.parameter.key, typed(one, example.values[one.parameter.key]))
        assert at.bench.session.kept == before, "a preview keeps nothing"
        at.do(panel)
        assert at.slip.panel is None, at.slip.panel.told.text()
    if at.document != before:
        once = at.document
        at.run("Undo")
        assert at.document == before
        at.bench.session.read(example.pick)
        at.key(Qt.Key.Key_F4)
        assert at.document == once


def typed(asked, value):
    if isinstance(asked.widget, QComboBox):
        return asked.widget.findData(value) if asked.parameter.offers else int(value)
    return asked.widget.write(value) if isinstance(value, float) else str(value)


def places(bench):
    """Where every control that is seen lies in the window, by what it is."""
    return {
        widget: widget.mapTo(bench, QPoint(0, 0))
        for kind in CONTROLS
        for widget in bench.findChildren(kind)
        if widget.isVisible() and not widget.visibleRegion().isEmpty()
    }


@pytest.mark.sample(5)
@pytest.mark.parametrize("key", [key for key in EVERY if not deeds()[key].in_place])
def test_nothing_moves_under_the_pointer_but_what_lies_below_the_pressed_deed(shown, key):
    at, example = shown(key)
    deed, bench, part = deeds()[key], at.bench, at.slip._part
    of_part = part is not None and part in deed.acts_on
    if not of_part:
        at.slip.groups[matters()[key]].unfold()
        at.settle()
    tiles = at.slip._parts[part] if of_part else at.slip.groups[matters()[key]].tiles
    tile, slips = tiles.tiles[key], bench.column.slips.currentWidget()
    slips.ensureWidgetVisible(tile)
    at.settle()
    before, seen = places(bench), bench.slip._fitting(bench.slip._shown)
    foot = tile.mapTo(bench, QPoint(0, tile.height())).y()
    at.bench.wishes.deed(deed, _given(example)) if not deed.parameters else tiles.press(tile)
    at.settle()
    after = places(bench)
    if bench.slip._fitting(bench.slip._shown) != seen:
        return  # another thing is in work now, or the thing is another
    for widget in before.keys() & after.keys():
        below = slips.isAncestorOf(widget) and before[widget].y() >= foot
        assert below or before[widget] == after[widget], (widget.objectName(), widget)


def _given(example):
    from isometron.deeds.deed import Given

    return Given(example.values, example.pick)


@pytest.mark.sample(2)
@pytest.mark.parametrize("place", [place.key for place in PLACES])
def test_tab_reaches_out_of_everything_and_escape_lets_go(desk, place):
    at = desk(sample_sheet())
    at.bench.open_place(place)
    at.settle()
    for pick in SOME:
        at.bench.wishes.pick(pick)
        at.settle()
        at.bench.rail.setFocus()
        met = []
        for _press in range(200):
            met.append(QApplication.focusWidget())
            QTest.keyClick(met[-1], Qt.Key.Key_Tab)
            if QApplication.focusWidget() is at.bench.rail:
                break
        assert QApplication.focusWidget() is at.bench.rail, (pick, met[-1])
        for widget in dict.fromkeys(met):
            assert widget.accessibleName() or getattr(widget, "text", lambda: "")(), widget
    at.board.setFocus()
    at.key(Qt.Key.Key_Escape)
    assert at.bench.session.pick is None and at.document == sample_sheet()


def test_a_number_typed_goes_to_the_first_field_of_what_is_picked(desk):
    at = desk(sheet(case(yaw_deg=0.0)))
    for pick, text, axis, mm in (
        (FacePick(0, 2), "5", 1, 240.0 + 50.0),
        (EdgePick(0, 2), "40", 0, 400.0),
        (None, "36", 0, 360.0),
    ):
        at.bench.wishes.pick(pick)
        at.settle()
        at.board.setFocus()
        for letter in text:
            QTest.keyClicks(QApplication.focusWidget(), letter)
        assert at.bench.session.dragging or pick is None, "it is seen while it is typed"
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
        at.settle()
        assert at.document.volume.sides[axis] == pytest.approx(mm), pick
    kept = at.document
    at.bench.wishes.pick(FacePick(0, 2))
    at.settle()
    at.board.setFocus()
    QTest.keyClicks(at.board, "9")
    assert at.document != kept
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Escape)
    at.settle()
    assert at.document == kept and at.slip.panel is None and at.board.hasFocus()


def test_the_finder_takes_any_word_tells_the_key_and_does_it(desk):
    at = desk()
    at.board.setFocus()
    QTest.keyClick(at.board, "/")
    assert at.bench.finder.hasFocus()
    QTest.keyClicks(at.bench.finder, "symmetry")
    assert [entry.text for entry in at.bench.finder.answers.entries] == ["Mirrored twin"]
    QTest.keyClick(at.bench.finder, Qt.Key.Key_Return)
    at.settle()
    assert at.slip.panel.deed.key == "mirror" and not at.bench.finder.answers.isVisible()
    at.run("Find a deed")
    QTest.keyClicks(at.bench.finder, "and vanishing points")
    assert at.bench.finder.answers.entries[0].key == "F3"
    QTest.keyClick(at.bench.finder, Qt.Key.Key_Escape)
    assert at.board.hasFocus() and not at.bench.finder.text()
    field = at.field("width")
    field.setFocus()
    QTest.keyClicks(field, "1/2 depth")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert at.document.volume.width_mm == pytest.approx(120.0), "a stroke in a field is typed"


def test_every_starter_is_told_any_of_its_numbers_in_a_line():
    words = [
        (one.text, one.finds, one.group, one.key, tuple(t.called for t in one.takes))
        for one in COMMANDS
    ]
    entries = [
        Entry(text, "", "", f"{finds} {group} {key}", True, int, takes, int if takes else None)
        for text, finds, group, key, takes in words
    ]
    wrong = []
    for starter in STARTERS:
        for question in starter.questions:
            line = f"{starter.name} {question.name} 7".lower()
            (first, *_others), after = found_line(entries, line)
            parts = shared_out(asked_by(starter), after)
            if first.text != f"{starter.name}…" or parts != {question.name: "7"}:
                wrong.append((line, first.text, after))
    assert not wrong


def test_the_steps_taken_are_a_list_one_goes_back_along(desk):
    at = desk()
    made = [at.document]
    for mm in ("40 cm", "50 cm", "60 cm"):
        at.type("width", mm)
        made.append(at.document)
    names = [name for name, _by in at.bench.session.steps]
    assert names == ["width"] * 3
    for by, stands in ((-2, made[1]), (1, made[2]), (1, made[3])):
        entry = next(one for n, one in enumerate(_listed(at)) if at.bench.session.steps[n][1] == by)
        entry.run()
        assert at.document.volumes == stands.volumes
    at.bench.session.go(-3)
    assert at.document.volumes == made[0].volumes
    assert [by for _name, by in at.bench.session.steps] == [3, 2, 1]


def _listed(at):
    command = next(c for c in COMMANDS if c.key == "steps")
    return command.lists(at.bench)


def test_control_drags_a_copy_and_a_number_typed_meanwhile_makes_it_a_row(desk):
    at = desk(sheet(case(yaw_deg=0.0)))
    start = at.face_place(0, 2)
    held = Qt.KeyboardModifier.ControlModifier
    before = at.document.volume.place
    QTest.mousePress(at.board, Qt.MouseButton.LeftButton, held, start)
    for step in (20, 60, 90):
        at._move(at.board, start + QPoint(step, 0), held)
    assert len(at.document.volumes) == 2 and at.document.volumes[0].place == before
    QTest.keyClicks(at.board, "4")
    at._move(at.board, start + QPoint(110, 0), held)
    QTest.mouseRelease(at.board, Qt.MouseButton.LeftButton, held, start + QPoint(110, 0))
    at.settle()
    one, *others = at.document.volumes
    assert len(others) == 3 and one.place == before
    steps = [[b - a for a, b in zip(one.place, other.place, strict=True)] for other in others]
    assert steps[2] == pytest.approx([3 * mm for mm in steps[0]], abs=1e-6) and any(steps[0])
    assert at.bench.session.undo_name == "copies of eyepiece case"
    at.run("Undo")
    assert len(at.document.volumes) == 1


def test_what_was_said_is_kept_until_it_is_read(desk):
    at = desk()
    at.bench.refuse("One thing cannot be done.")
    at.bench.tell("Another has been done.")
    said = at.bench.strip.said
    assert said.text() == "2 said"
    told = [action.text() for action in said.menu_of().actions()]
    assert told == ["Another has been done.", "One thing cannot be done."] and said.text() == "Said"


def test_space_tapped_goes_to_the_next_answer_and_held_it_pans(desk):
    at = desk(sheet(case(), case(name="Behind", y_mm=2600.0, key=1)))
    ends = at.bench.session.scene.pictures[0].sheet[[4, 5]].mean(axis=0)
    place = at.board.view.point(tuple(ends)).toPoint()
    at.click(place)
    met = [at.bench.session.pick]
    for _tap in range(8):
        at.key(Qt.Key.Key_Space)
        if at.bench.session.pick == met[0]:
            break
        met.append(at.bench.session.pick)
    assert len(met) == len(set(met)) > 1 and at.bench.session.pick == met[0]
    held = at.bench.session.pick
    QTest.keyPress(at.board, Qt.Key.Key_Space)
    at.drag(place, (30, 10))
    QTest.keyRelease(at.board, Qt.Key.Key_Space)
    assert at.bench.session.pick == held


def test_a_picked_edge_slides_and_a_picked_corner_pulls(desk):
    at = desk(sheet(case(yaw_deg=30.0)))
    picture = at.bench.session.scene.pictures[0]
    edge = next(
        n for n in range(4, 8) if picture.world[picture.edges[n]][:, 2].min() > 1100.0
        and picture.sheet[picture.edges[n]][:, 1].mean() < picture.sheet[4:, 1].mean()
    )  # fmt: skip
    place = at.board.view.point(tuple(picture.sheet[picture.edges[edge]].mean(axis=0))).toPoint()
    at.click(place)
    assert at.bench.session.pick == EdgePick(0, edge)
    before = at.document.volume
    at.drag(place, (0, -30), alt=True)
    after = at.document.volume
    assert after.height_mm > before.height_mm + 10.0 and after.sides[:2] == before.sides[:2]
    at.run("Undo")
    corner = int(picture.sheet[4:, 1].argmin()) + 4
    at.bench.wishes.pick(CornerPick(0, corner))
    at.settle()
    spot = at.board.view.point(tuple(picture.sheet[corner])).toPoint()
    at.drag(spot, (6, 14))
    pulled = at.document.volume
    assert pulled.height_mm == before.height_mm
    assert all(abs(a - b) > 1.0 for a, b in zip(pulled.sides[:2], before.sides[:2], strict=True))
    opposite = corner ^ 3
    assert pulled.corners()[opposite] == pytest.approx(before.corners()[opposite], abs=1e-6)
    drawn = at.bench.session.scene.pictures[0].sheet[corner]
    there = at.board.view.point(tuple(drawn))
    assert (there.x(), there.y()) == pytest.approx((spot.x() + 6, spot.y() + 14), abs=1.5)


def test_eye_level_light_picture_and_remark_have_slips_of_their_own(desk):
    lit = lighting.put_on(deeds()["picture eye"].shows().document, next(iter(LIGHTS.values())))
    laid = lit.with_eye(lit.laid.eye)
    at, near = desk(laid), laid.eye.station_distance_mm / 3
    slip = at.slip

    def seen():
        return {matter for matter, group in slip.groups.items() if group.isVisible()}

    at.click(at.board.view.point((8.0, 8.0)).toPoint())
    assert slip.title.text() == "Picture" and seen() == {Matter.PICTURE}
    at.write(slip.shown_row("strength of the picture"), "1/5")
    assert at.document.laid.strength == pytest.approx(0.2)
    at.bench.session.edit("nearer", lambda d: eye_edits.step_back(d, near))
    at.settle()
    level = at.board.view.point((12.0, eye_level(at.document.eye))).toPoint()
    at.click(level)
    assert slip.title.text() == "Eye level" and seen() == {Matter.EYE}
    at.write(slip.shown_row("height of the eye level"), "23.1")
    assert eye_level(at.document.eye) == pytest.approx(231.0)
    assert slip.title.text() == "Eye level", "it stays picked while it is moved"
    at.click(at.place("light shadows"))
    assert slip.title.text() == "Sun" and seen() == {Matter.LIGHT}
    at.write(slip.shown_row("elevation of the sun"), "61")
    assert at.document.light.elevation_deg == pytest.approx(61.0)
    at.bench.strip.open(True)
    at.settle()
    shown = at.bench.strip.list
    row = shown.visualRect(shown.rows.index(0))
    at.click(row.bottomLeft() + QPoint(60, -8), on=shown.viewport())
    remark = at.bench.strip.remarks[0]
    assert (slip.title.text(), slip.remark.words.text()) == (remark.title, remark.text)
    assert seen() == set() and slip.remark.remedy.isVisible()
    slip.remark.remedy.click()
    at.settle()
    assert remark.title not in [one.title for one in at.bench.strip.remarks]
    assert slip.remark.isHidden(), "a remark lives no longer than what it is about"
    at.click(at.board.view.point((12.0, 231.0)).toPoint())
    assert slip.title.text() == "Eye level"
    assert at.bench.do_deed(deeds()["width"]) and slip.groups[Matter.SIZE].isVisible()


def say(at, line):
    at.bench.find_deed()
    QTest.keyClicks(at.bench.finder, line)
    shown = at.bench.finder.answers.entries[0].text
    QTest.keyClick(at.bench.finder, Qt.Key.Key_Return)
    at.settle()
    return shown


def test_a_deed_and_a_starter_are_said_in_a_line_or_stay_open_to_be_mended(desk):
    at = desk(Document())
    assert say(at, "box 110 × 60 × 30 cm, 35 cm above ground") == "Add a box"
    assert at.document.volume.sides == pytest.approx((1100.0, 600.0, 300.0))
    assert at.document.volume.z_mm == pytest.approx(350.0)
    assert len(at.bench.session.steps) == 1, "one line is one step"
    at.key(Qt.Key.Key_F4)
    assert at.document.volumes[1].sides == pytest.approx((1100.0, 600.0, 300.0))
    say(at, "box 30x20x11 in")
    assert at.document.volume.sides == pytest.approx((762.0, 508.0, 279.4))
    at.run("Undo")
    assert say(at, "width 7 cm") == "width" and at.document.volume.width_mm == pytest.approx(70.0)
    say(at, "wheel 55 cm")
    assert at.document.volume.height_mm == pytest.approx(550.0) and at.slip.panel is None
    before = at.document
    say(at, "pair seventy 7x cm")
    assert at.document == before
    say(at, "pair 7x cm")
    assert at.document == before and at.slip.panel["track"].text() == "7x cm"
    assert not at.slip.panel["track"].visibleRegion().isEmpty(), "what is to be mended is seen"
    at.key(Qt.Key.Key_Escape)
    for line, why in (("pair 3, 4", "more than it asks for"), ("cut step 1/2, nowhere 3", "")):
        say(at, line)
        assert at.document == before and why in at.board.plate.text()
    assert say(at, "vehicle boxes all cabin, wheelbase 190 cm, 60 cm") == "Vehicle…"
    front, rear = (next(v for v in at.document.volumes if v.name == n) for n in WHEELS)
    assert rear.x_mm - front.x_mm == pytest.approx(1900.0) and front.height_mm == 600.0


WHEELS = ("Front wheel", "Rear wheel")


def test_the_finder_has_room_for_a_line_while_one_is_typed(desk):
    at = desk()
    at.bench.resize(1024, 700)
    at.settle()
    finder, usual = at.bench.finder, at.bench.finder.geometry()
    at.bench.find_deed()
    assert finder.width() > 1.5 * usual.width() and finder.geometry().right() < at.bench.width()
    QTest.keyClick(finder, Qt.Key.Key_Escape)
    assert finder.geometry() == usual


def test_a_number_typed_during_a_drag_sets_what_the_handle_is_about(desk):
    at = desk(sheet(case()))
    for key, text, told in (
        ("eye level", "25", lambda d: eye_level(d.eye)),
        ("far width", "25", lambda d: d.volume.width_mm),
        ("vp right", "80", lambda d: eye_edits.points_of_setup(d)["right"][0]),
    ):
        handle = at.handle(key)
        level = at.board.view.point((60.0, eye_level(at.document.eye))).toPoint()
        flag = at.board.flags[-1].banner.center().toPoint()
        start = {"eye level": level, "vp right": flag}.get(key) or at.place(key)
        at.drag(start, (9, 6), drop=False)
        assert at.bench.session.dragging, key
        for letter in text:
            QTest.keyClicks(QApplication.focusWidget(), letter)
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
        QTest.mouseRelease(at.board, Qt.MouseButton.LeftButton, pos=start)
        at.settle()
        assert told(at.document) == pytest.approx(10.0 * float(text), abs=1e-6), handle.key


def test_a_choice_shows_its_entries_whole_and_a_list_no_half_row(desk):
    at = desk(sample_sheet("supply crawler"))
    panel = at.deed("put opening")
    for field in panel.findChildren(QComboBox):
        field.make_room()
        assert field.view().minimumWidth() > field.view().sizeHintForColumn(0)
    rows = at.bench.card("build").list
    assert rows.viewport().height() % rows.sizeHintForRow(0) == 0


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700)])
def test_a_sentence_lies_over_no_flag_and_a_starter_leaves_the_hand_on_the_board(desk, size):
    at = desk(sample_sheet())
    at.bench.resize(*size)
    at.settle()
    at.bench.refuse("This cannot be done: " + "say something shorter, then try it again. " * 4)
    at.settle()
    assert at.board.flags and at.board.plate.isVisible()
    for flag in at.board.flags:
        assert not flag.banner.intersects(QRectF(at.board.plate.geometry()))
    at.answers.answers_to_starter = {"wheelbase": 3.0}
    at.run("Vehicle…")
    assert at.board.hasFocus()

"""The Build order tab in the real window: steps, keys, ticks, lines, following on paper."""

import time

import numpy as np
import pytest
from pypdf import PdfReader
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest

from isometron.construction.economy import MOST_MOVES, told_count
from isometron.construction.moves import Join, Upright
from isometron.document.document import Document
from isometron.document.edits import building_edits
from isometron.files.sheet_file import read_sheet
from isometron.perspective.errors import StoppedError
from isometron.perspective.projection import project
from isometron.perspective.watching import ticking
from isometron.ui.bench.app import application
from isometron.ui.bench.waiting import Waiting, patiently
from isometron.ui.cards.building.step_list import box_in
from tests.scenes import case, sheet


@pytest.fixture
def bench(desk):
    at = desk(sheet(case(z_mm=0.0), case(name="Tin", x_mm=700.0, yaw_deg=-15.0, z_mm=0.0)))
    at.bench.open_place("draw")
    at.settle()
    return at


def card_of(at):
    return at.bench.card("draw")


def test_steps_are_played_forward_and_back_by_keys(bench):
    card = card_of(bench)
    assert card.steps.number == 0 and bench.board._stage is not None
    for _ in range(7):
        bench.run("Next step")
    assert card.steps.number == 7
    new = {s.name for s in bench.board._stage.strokes if s.age == "new"}
    assert new == {m.name for m in card.order.steps[7].moves if m.name.startswith("l")}
    bench.run("Step before")
    assert card.steps.number == 6
    bench.bench.open_place("build")
    assert bench.board._stage is None


def test_ticks_are_kept_in_the_file_and_undone(bench, tmp_path):
    card = card_of(bench)
    bench.run("Done, next step")
    bench.run("Done, next step")
    keys = [step.key for step in card.order.steps[:2]]
    assert bench.document.building.done == set(keys) and card.steps.number == 2
    bench.answers.saves = tmp_path / "done.isometron"
    bench.run("Save")
    assert read_sheet(tmp_path / "done.isometron").building.done == set(keys)
    bench.run("Undo")
    assert bench.document.building.done == {keys[0]}
    row = card.steps.steps()[4]
    card.steps.scrollTo(row)
    box = box_in(card.steps.visualRect(row)).center()
    QTest.mouseClick(card.steps.viewport(), Qt.MouseButton.LeftButton, pos=box)
    bench.settle()
    assert card.order.steps[4].key in bench.document.building.done


def test_a_clicked_line_finds_its_step(bench):
    card = card_of(bench)
    for _ in range(12):
        bench.run("Next step")
    stage = bench.board._stage
    stroke = next(s for s in stage.strokes if card.order.step_of(s.name).endswith("near-edge"))
    middle = stroke.points.mean(axis=0)
    bench.click(bench.board.view.point((float(middle[0]), float(middle[1]))).toPoint())
    assert card.order.steps[card.steps.number].key.endswith("near-edge")


def test_the_order_follows_the_framework_and_the_method(bench):
    card = card_of(bench)
    lines = card.order.lines_drawn
    card.method.setCurrentText("plan projection")
    card.method.activated.emit(1)
    bench.settle()
    assert bench.document.building.method == "plan projection" and card.order.lines_drawn != lines
    bench.bench.session.edit("take away", lambda d: Document(views=d.views, building=d.building))
    bench.settle()
    assert card.order is None and "nothing to build" in card.words.text()
    assert bench.board._stage is None
    bench.run("Undo")
    bench.settle()
    assert card.order is not None


def test_steps_are_hidden_and_chapters_moved_only_where_geometry_allows(bench):
    card = card_of(bench)
    count = len(card.steps.steps())
    bench.run("Next step")
    bench.press("Hide")
    assert len(card.steps.steps()) == count - 1 and len(bench.document.building.hidden) == 1
    tin = next(i for i, s in enumerate(card.order.steps) if s.key.startswith("v1."))
    card.steps.choose_key(card.order.steps[tin].key)
    bench.press("Chapter up")
    keys = [c.key for c in card.order.chapters]
    assert keys.index("v1") < keys.index("v0")
    bench.press("Chapter up")
    assert "leave it behind" in bench.board.plate.text()
    assert [c.key for c in card.order.chapters] == keys
    bench.press("As it was")
    assert not bench.document.building.hidden and not bench.document.building.chapters


def test_no_move_is_cut_off_on_the_card_or_full_screen(bench):
    card = card_of(bench)
    count = [told_count(step.moves) for step in card.order.steps]
    number = count.index(max(count))
    moves = range(count[number])
    assert len(moves) == MOST_MOVES
    card.turn(number - card.steps.number)
    bench.settle()
    assert len(card.moves.text().splitlines()) == len(moves)
    bench.run("Follow on paper")
    page = card.page
    page.turn(number - page.number)
    assert page.number == number and len(page.moves.text().splitlines()) == len(moves)
    page.close()


def test_the_order_is_followed_full_screen_and_ticked_there(bench):
    bench.run("Follow on paper")
    page = card_of(bench).page
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Space, Qt.Key.Key_Left):
        QTest.keyClick(page, key)
    application().processEvents()
    assert page.number == 1 and page.text.font().pointSizeF() > 15
    assert page.text.text() == page._stages.steps[1].text
    assert page._stages.steps[1].key in bench.document.building.done
    page.resize(1280, 800)
    assert not page.grab().isNull()
    QTest.keyClick(page, Qt.Key.Key_Escape)
    bench.settle()
    assert card_of(bench).steps.number == 1 and not page.isVisible()


def test_the_booklet_is_written_through_the_menu(bench, tmp_path):
    bench.answers.sends = tmp_path / "steps.txt"
    bench.run("Write the build order…")
    assert "Build order by measuring points" in (tmp_path / "steps.txt").read_text()
    pages = []
    for name in ("Write the build order…", "Write a short build order…"):
        bench.answers.sends = tmp_path / "steps.pdf"
        bench.run(name)
        pages.append(len(PdfReader(tmp_path / "steps.pdf").pages))
    assert pages[0] > 2 * pages[1] and "Build order written" in bench.board.plate.text()
    bench.answers.sends = tmp_path / "steps.odd"
    bench.run("Write the build order…")
    assert "what order" in bench.answers.told[-1]
    assert np.isfinite(bench.board.view.scale)


def typed(field, text):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)


def test_the_kit_on_the_table_is_what_the_order_is_written_for(bench, tmp_path):
    card = card_of(bench)
    thirds = [m for m in card.order.moves() if isinstance(m, Join) and m.by and m.second]
    hand = card.order.by_hand_mm
    card.table.click()
    bench.settle()
    typed(card.kit["ruler"], "60")
    typed(card.kit["a mark errs"], "1 mm")
    bench.press("Set square")
    bench.settle()
    kit = bench.document.kit
    assert (kit.ruler_mm, kit.hand.mark_mm, kit.set_square) == (600.0, 1.0, False)
    longer = [m for m in card.order.moves() if isinstance(m, Join) and m.by and m.second]
    assert len(longer) < len(thirds)
    assert not any(isinstance(m, Upright) for m in card.order.moves())
    assert card.order.by_hand_mm > 1.5 * hand
    typed(card.kit["spare paper"], "-3")
    assert bench.document.kit == kit, "a wrong number changes nothing"
    bench.answers.saves = tmp_path / "kit.isometron"
    bench.run("Save")
    assert read_sheet(tmp_path / "kit.isometron").kit == kit
    card.table.click()
    assert card.steps.isVisible() and not card.kit.isVisible()


def test_a_word_finds_the_next_step_that_has_it(bench):
    card = card_of(bench)
    typed(card.word, "Tin")
    first = card.steps.number
    assert "Tin" in card.order.steps[first].text
    QTest.keyClick(card.word, Qt.Key.Key_Return)
    assert card.steps.number > first
    typed(card.word, "no such word")
    assert "No step speaks of" in bench.board.plate.text()


def test_what_was_placed_by_eye_is_measured_and_taken_over(bench):
    card = card_of(bench)
    bench.bench.session.edit("by eye", lambda d: building_edits.build_by(d, "by eye", None))
    bench.settle()
    key, closing = next((k, c) for k, c in card.order.closings.items() if "close-width" in k)
    card.steps.choose_key(key)
    assert card.answer.isVisible()
    before, should = bench.document.volumes[0], card.came.number
    typed(card.came, f"{(should + 4.0) / 10:.3f}")
    bench.settle()
    after = bench.document.volumes[0]
    assert after.width_mm > before.width_mm and after.sides[1:] == before.sides[1:]
    # the same edge is now drawn where it was measured
    eye = bench.document.eye
    far = np.array(closing.corner) + after.width_mm * np.array(closing.along)
    drawn = project(eye, np.array([closing.corner, far])).sheet
    assert np.hypot(*(drawn[1] - drawn[0])) == pytest.approx(should + 4.0, abs=0.006)
    typed(card.came, "900")
    assert bench.document.volumes[0] == after and bench.board.plate.text()
    QTest.keyClick(card.came, Qt.Key.Key_Escape)
    QTest.keyClick(card.came, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    bench.settle()
    assert bench.document.volumes[0] == before


def test_long_work_shows_how_far_it_is_and_can_be_stopped(qapp):
    begun, told = [], []

    def work():
        for i in ticking(range(2000), 2000):
            begun.append(i)
            time.sleep(0.002)

    def stop():
        dialog = next(w for w in qapp.topLevelWidgets() if isinstance(w, Waiting) and w.isVisible())
        told.append(dialog.bar.value())
        QTest.mouseClick(dialog.stop, Qt.MouseButton.LeftButton)

    QTimer.singleShot(700, stop)
    with pytest.raises(StoppedError, match="nothing has changed"):
        patiently(work, "Writing…")
    assert 0 < told[0] < 1000 and len(begun) < 2000
    with pytest.raises(ZeroDivisionError):
        patiently(lambda: 1 / 0, "Dividing…")

"""The rarer ways of the pages: pads by keys, faces of round bodies, copies, places, handles
told."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from isometron.document.edits.choosing import choose_also, select
from isometron.document.edits.shapes import profiles, rounding
from isometron.files.sheet_file import sample_sheet
from isometron.framework.kinds.extruded import Extruded
from isometron.perspective.lengths import read_length
from tests.scenes import case, sheet

AXLE, FACES, TURNED, PROFILE = range(1, 5)


def key(widget, *keys, shift=False):
    held = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
    for one in keys:
        QTest.keyClick(widget, one, held)


def test_a_profile_is_shaped_by_keys_alone(desk):
    at = desk(sheet())
    page = at.page(PROFILE, "rounds")
    at.press("Begin")
    pad = page["pad"]
    pad.setFocus()
    count = len(pad.points())
    key(pad, Qt.Key.Key_PageDown, Qt.Key.Key_PageDown, Qt.Key.Key_PageDown)
    at.settle()
    start = pad.points()[2]
    for one in (Qt.Key.Key_Left, Qt.Key.Key_Down):
        key(pad, one)
        at.settle()
    assert pad.points()[2] == pytest.approx((start[0] - 1, start[1] - 1))
    key(pad, Qt.Key.Key_Left, shift=True)
    at.settle()
    assert pad.points()[2] == pytest.approx((start[0] - 11, start[1] - 1))
    middle = pad.at((start[0] / 2, 180.0))
    QTest.mouseDClick(pad, Qt.MouseButton.LeftButton, pos=middle.toPoint())
    at.settle()
    assert len(pad.points()) == count + 1
    added = next(n for n, p in enumerate(pad.points()) if abs(p[0] - start[0] / 2) < 3)
    pad.chosen = added
    key(pad, Qt.Key.Key_Delete)
    at.settle()
    assert len(pad.points()) == count and len(at.document.volumes) == 1
    for _ in range(count - 3):
        pad.chosen = 0
        key(pad, Qt.Key.Key_Delete)
        at.settle()
    before = at.document
    pad.chosen = 0
    key(pad, Qt.Key.Key_Delete)
    at.settle()
    assert at.document == before and at.board.plate.text(), "three points are the least"
    at.run("Undo")
    assert len(pad.points()) == 4 or at.document != before


def test_radii_by_keys_and_a_form_needs_two_of_them(desk):
    at = desk(rounding.make_round(sheet(), "cylinder"))
    pad = at.page(TURNED, "rounds")["pad"]
    pad.setFocus()
    key(pad, Qt.Key.Key_PageUp)
    key(pad, Qt.Key.Key_Left, shift=True)
    at.settle()
    shares = [share for _, share in at.document.volume.shape.stations]
    assert min(shares) < 0.95
    before = at.document
    key(pad, Qt.Key.Key_Delete)
    at.settle()
    assert at.document == before and at.board.plate.text()


def test_circles_are_drawn_on_the_ends_of_a_round_body_and_on_a_picked_face(desk):
    at = desk(sheet())
    page = at.page(FACES, "rounds")
    at.press("Draw it")
    assert "No face is picked" in at.board.plate.text()
    at.click(at.face_place(0, 5))
    page = at.page(FACES, "rounds")
    at.write(page["radius"], "40 mm")
    at.write(page["concentric"], "100%, 50%")
    at.press("Draw it")
    circle = at.document.volume.circles[0]
    assert (circle.face, circle.radius_mm, circle.shares) == (5, 40.0, (1.0, 0.5))
    at.press("Clear")
    card = at.bench.card("build")
    card.form.setCurrentText("cylinder")
    at.press("Make it so")
    page = at.page(FACES, "rounds")
    page["face"].setCurrentText("top")
    at.press("Draw it")
    assert at.document.volume.circles[0].face == 1
    before = at.document
    page["face"].setCurrentText("top")
    at.press("Arch")
    assert "upright side" in at.board.plate.text()
    page["face"].setCurrentText("base")
    at.press("Round end")
    assert "left, right, front or back" in at.board.plate.text() and at.document == before


@pytest.mark.parametrize("text", ["abc w", "nan w", "1e999 w", "3,, x"])
def test_lengths_in_modules_that_are_none_are_refused_with_a_sentence(desk, text):
    at = desk(sample_sheet("supply crawler"))
    wheel = next(i for i, v in enumerate(at.document.volumes) if v.name == "Front wheel")
    at.bench.session.edit("choose", lambda d: select(d, wheel))
    page = at.page(AXLE, "rounds")
    before = at.document
    at.write(page["inner circles"], text)
    assert at.document == before and at.board.plate.text().endswith(".")
    at.write(page["further axles"], text)
    at.press("Add the wheels")
    assert at.document == before and "could not convert" not in at.board.plate.text()


def test_a_round_end_and_a_wheel_arch_from_the_page(desk):
    at = desk(sheet(case(width_mm=900.0)))
    page = at.page(FACES, "rounds")
    page["face"].setCurrentText("right")
    at.press("Round end")
    assert isinstance(at.document.volume.shape, Extruded)
    at.run("Undo")
    page["face"].setCurrentText("front")
    at.press("Wheel arch")
    assert "Choose the wheel first" in at.board.plate.text()
    wheel = case(name="Wheel", x_mm=300.0, y_mm=2150.0, z_mm=900.0, key=5)
    two = rounding.make_round(select(sheet(case(width_mm=900.0, key=1), wheel), 1), "wheel")
    two = rounding.set_diameter(rounding.turn_axle(two, 1), 200.0)
    at.bench.session.edit("put a wheel there", lambda _: choose_also(select(two, 1), 0))
    at.settle()
    page = at.page(FACES, "rounds")
    page["face"].setCurrentText("front")
    at.press("Wheel arch")
    assert isinstance(at.document.volumes[0].shape, Extruded)
    assert at.document.volumes[0].body.surfaces.swept[0].radius == pytest.approx(110.0)


@pytest.mark.parametrize("name", ["supply crawler", "observing chair", "telescope tube"])
def test_every_handle_tells_its_number_in_the_unit_of_the_sheet(desk, name):
    at = desk(sample_sheet(name))
    assert len(at.board.handles) > 5
    for handle in at.board.handles:
        words = handle.number(at.document, at.bench.session.scene)
        assert words and "nan" not in words and "inf" not in words
        if handle.key == "far width":
            told = read_length(words.split(",")[0], "cm")
            assert told == pytest.approx(at.document.volume.width_mm, abs=0.06)


def test_a_point_of_a_profile_tells_where_it_lies_in_the_side_view(desk):
    at = desk(profiles.begin_profile(sheet(), 1))
    handle = next(h for h in at.board.handles if h.key.startswith("knot") and h.key.endswith(" 2"))
    assert handle.number(at.document, at.bench.session.scene) == "36 cm along, 18 cm up"


def test_repeats_and_twins_are_set_from_the_page(desk):
    at = desk(sheet(case(), case(name="Dome room", x_mm=700.0, y_mm=2400.0)))
    page = at.page(5)
    at.write(page["copies"], "3")
    page["mirrored across"].setCurrentIndex(page["mirrored across"].count() - 1)
    before = at.document
    for words, more in (("Mirror", 1), ("Repeat it", 3), ("Round the middle", 3)):
        at.press(words)
        assert len(at.document.volumes) == len(before.volumes) + more
        at.run("Undo")
    assert at.document == before
    for words in ("Ghost", "Ghost"):
        at.press(words)
    assert at.document == before
    at.write(page["group"], "Annex")
    assert at.document.volume.group == "Annex"

"""The rarer ways of the slip: pads by keys, faces of round bodies, copies, places, handles
told."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from isometron.deeds.deed import Matter
from isometron.deeds.table import deeds
from isometron.document.edits.choosing import choose_also, select
from isometron.document.edits.shapes import profiles, rounding
from isometron.files.sheet_file import sample_sheet
from isometron.framework.kinds.extruded import Extruded
from isometron.perspective.lengths import read_length
from tests.scenes import case, sheet


def key(widget, *keys, shift=False):
    held = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
    for one in keys:
        QTest.keyClick(widget, one, held)


def test_a_profile_is_shaped_by_keys_alone(desk):
    at = desk(sheet())
    at.deed("begin profile", view="side view")
    pad = at.pad(Matter.PROFILE)["pad"]
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
    pad = at.pad(Matter.ROUNDS)["pad"]
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
    at.click(at.face_place(0, 5))
    at.deed("draw circle", radius="40 mm", concentric="100%, 50%")
    circle = at.document.volume.circles[0]
    assert (circle.face, circle.radius_mm, circle.shares) == (5, 40.0, (1.0, 0.5))
    at.deed("clear circles")
    at.deed("make round", round_form="cylinder")
    at.bench.wishes.pick(None)
    at.deed("draw circle", face="top", radius="0")
    assert at.document.volume.circles[0].face == 1
    before = at.document
    assert "upright side" in at.deed("cut arch", face="top").told.text()
    panel = at.deed("round end", face="base")
    assert "left, right, front or back" in panel.told.text() and at.document == before


@pytest.mark.parametrize("text", ["abc w", "nan w", "1e999 w", "3,, x"])
def test_lengths_in_modules_that_are_none_are_refused_with_a_sentence(desk, text):
    at = desk(sample_sheet("supply crawler"))
    wheel = next(i for i, v in enumerate(at.document.volumes) if v.name == "Front wheel")
    at.bench.session.edit("choose", lambda d: select(d, wheel))
    before = at.document
    at.type("inner circles", text)
    assert at.document == before and at.board.plate.text().endswith(".")
    panel = at.deed("add axles", further_axles=text)
    assert at.document == before and panel.told.text().endswith(".")


def test_a_round_end_and_a_wheel_arch(desk):
    at = desk(sheet(case(width_mm=900.0)))
    at.deed("round end", face="right")
    assert isinstance(at.document.volume.shape, Extruded)
    at.run("Undo")
    assert not at.bench.do_deed(deeds()["wheel arch"])
    assert "Choose several" in at.board.plate.text()
    wheel = case(name="Wheel", x_mm=300.0, y_mm=2150.0, z_mm=900.0, key=5)
    two = rounding.make_round(select(sheet(case(width_mm=900.0, key=1), wheel), 1), "wheel")
    two = rounding.set_diameter(rounding.turn_axle(two, 1), 200.0)
    at.bench.session.edit("put a wheel there", lambda _: choose_also(select(two, 1), 0))
    at.deed("wheel arch", face="front")
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


def test_repeats_and_twins_are_set(desk):
    at = desk(sheet(case(), case(name="Dome room", x_mm=700.0, y_mm=2400.0)))
    before = at.document
    room = at.document.volumes[1 - at.document.selected].name
    for key, more, values in (
        ("mirror", 1, {"mirrored across": room}),
        ("repeat", 3, {"copies": "3"}),
        ("repeat round", 3, {"round what": room, "copies": "3"}),
    ):
        at.deed(key, **values)
        assert len(at.document.volumes) == len(before.volumes) + more
        at.run("Undo")
    assert at.document == before
    for _ in range(2):
        at.deed("ghost")
    assert at.document == before
    at.type("group it is in", "Annex")
    assert at.document.volume.group == "Annex"

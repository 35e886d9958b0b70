"""The sheet turned under the hand: what is drawn there is what is drawn on it straight."""

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtTest import QTest

from isometron.render.view import View
from isometron.ui.parts.theme import PAPER


@pytest.mark.parametrize("turn", [0.0, 15.0, -105.0, 180.0])
def test_a_turned_view_and_back_is_where_it_was_and_turns_counter_clockwise(turn):
    box = QRectF(30.0, 20.0, 700.0, 500.0)
    view = View.fit((0.0, 0.0, 420.0, 297.0), box, turn_deg=turn)
    rng = np.random.default_rng(3)
    for x, y in rng.uniform(-500, 900, (20, 2)).tolist():
        at = view.point((x, y))
        assert view.sheet(at) == pytest.approx((x, y), abs=1e-9)
        right, up = at.x() - view.left, view.bottom - at.y()
        turned = complex(x, y) * np.exp(1j * np.radians(turn)) * view.scale
        assert (right, up) == pytest.approx((turned.real, turned.imag), abs=1e-9)
        (x0, y0, *_end) = view.to_device(np.array([[x, y, 0.0, 0.0]]))[0]
        assert (x0, y0) == pytest.approx((at.x(), at.y()), abs=1e-9)
    assert box.adjusted(-1e-6, -1e-6, 1e-6, 1e-6).contains(view.rectangle((0, 0, 420.0, 297.0)))
    about = QPointF(300.0, 200.0)
    round_it = view.turned(35.0, about).turned(-35.0, about)
    assert (round_it.left, round_it.bottom) == pytest.approx((view.left, view.bottom), abs=1e-9)


def test_a_drag_on_a_turned_sheet_goes_where_the_pointer_is(desk):
    at = desk()
    at.run("Turn the sheet left")
    at.run("Turn the sheet left")
    view = at.board.view
    assert view.turn_deg == pytest.approx(30.0)
    before = at.handle("near corner").place
    at.drag(at.place("near corner"), (20, 0))
    after = at.handle("near corner").place
    shown = at.board.view.point(after) - at.board.view.point(before)
    assert shown.x() == pytest.approx(20.0, abs=2.0) and shown.y() == pytest.approx(0.0, abs=2.0)
    paper = at.bench.grab().toImage()
    corner = at.board.mapTo(at.bench, at.board.view.point((4.0, 4.0)).toPoint())
    assert paper.pixelColor(corner) == QColor(PAPER)
    at.run("Lay the sheet straight")
    assert at.board.view.turn_deg == 0.0


def test_following_on_paper_turns_the_sheet_too(desk):
    at = desk()
    at.bench.open_place("draw")
    at.run("Follow on paper")
    page = at.bench.card("draw").page
    before = page.picture.grab().toImage()
    for key in (Qt.Key.Key_F2, Qt.Key.Key_F3):
        QTest.keyClick(page, key, Qt.KeyboardModifier.ShiftModifier)
        if key == Qt.Key.Key_F2:
            assert page.picture.turn_deg == page.closer.turn_deg == 15.0
            assert page.picture.grab().toImage() != before
    assert page.picture.turn_deg == 0.0 and page.picture.grab().toImage() == before
    page.close()

"""A blank sheet says how to begin, lets it be done there, and first numbers are round ones."""

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton

from isometron.document.document import Document
from isometron.document.edits.eye_edits import set_eye_height
from isometron.document.edits.places.laying import lay_near_edge
from isometron.document.edits.places.origin import origin_ahead
from isometron.document.near_edge import near_edge
from isometron.drawing.scene import scene_of
from isometron.perspective.projection import project
from isometron.ui.board.tools import LAY_EDGE


def blank(desk):
    return desk(origin_ahead(Document()))


def test_a_blank_sheet_says_how_to_begin_until_the_first_mark(desk):
    at = blank(desk)
    begin = at.board.begin
    assert begin.isVisible()
    level = at.board.view.point((0.0, 200.0)).y()
    assert not begin.geometry().top() <= level <= begin.geometry().bottom()
    assert at.board.rect().contains(begin.geometry())
    texts = [button.text() for button in begin.findChildren(QAbstractButton)]
    assert "Add a box" in texts and "Vehicle…" in texts
    for field, text in zip(begin._fields, ("15 cm", "8 cm", "7 cm"), strict=True):
        at.write(field, text)
    at.press("Cube on it")
    assert not begin.isVisible()
    edge = near_edge(at.document)
    assert edge.corner_mm == pytest.approx((150.0, 80.0)) and edge.drawn_mm == pytest.approx(70.0)
    at.bench.session.undo()
    at.settle()
    assert begin.isVisible()
    add = next(
        button for button in begin.findChildren(QAbstractButton) if button.text() == "Add a box"
    )
    for leave in (lambda: at.bench.open_place("practice"), add.click):
        at.bench.open_place("build")
        add.setFocus()
        leave()
        at.settle()
        front = at.bench.middle.currentWidget()
        assert front.hasFocus(), "the keyboard goes to what comes to the front"


@pytest.mark.parametrize("alt", [False, True])
def test_an_edge_laid_down_keeps_to_the_rulers_marks_and_to_round_numbers(desk, alt):
    at = blank(desk)
    origin = np.array(at.document.origin_mm)
    (before,) = project(at.document.eye, origin[None]).sheet
    at.run("Lay down near edges")
    assert not at.board.begin.isVisible()
    foot = at.board.view.point((151.3, 78.8))
    top = at.board.view.point((152.0, 147.9))
    by = (top - foot).toPoint()
    at.drag(foot, (by.x(), by.y()), alt=alt)
    edge, volume = near_edge(at.document), at.document.volume
    step = np.array([*edge.corner_mm, edge.drawn_mm]) / 5.0
    assert (np.abs(step - np.round(step)).max() < 1e-6) != alt
    if not alt:
        assert edge.corner_mm == pytest.approx((150.0, 80.0)) and edge.drawn_mm == pytest.approx(70)
        round_ones = np.array([volume.height_mm, at.document.eye.height_mm]) / 5.0
        assert np.abs(round_ones - np.round(round_ones)).max() < 1e-9
    second = lay_near_edge(at.document, (300.0, 70.0), (300.0, 110.0))
    assert second.eye == at.document.eye, "only a blank sheet's"
    typed = set_eye_height(origin_ahead(Document()), 417.0)
    laid = lay_near_edge(typed, (150.0, 80.0), (150.0, 150.0))
    assert laid.eye.height_mm == 417.0, "what the person typed stays"
    (after,) = project(at.document.eye, np.array([at.document.origin_mm])).sheet
    assert after == pytest.approx(before), "the origin keeps its place on the paper"
    assert scene_of(at.document).pictures[0].world[0][2] == pytest.approx(0.0, abs=1e-9)


def test_the_moves_of_the_note_are_the_commands_themselves(desk):
    at = blank(desk)
    at.run("Lay down near edges")
    assert at.board.armed is LAY_EDGE and not at.board.begin.isVisible()
    at.key(Qt.Key.Key_Escape)
    assert at.board.begin.isVisible()
    at.press("Add a box")
    assert len(at.document.volumes) == 1
    edge = near_edge(at.document)
    assert np.array(edge.corner_mm) % 5.0 == pytest.approx(0.0)
    QTest.qWait(1)
    assert isinstance(at.board.view.point((0, 0)), QPointF)


def test_the_first_near_edge_is_dragged_on_a_blank_sheet_with_nothing_in_hand(desk):
    at = desk(Document())
    view = at.board.view
    start = view.point((60.0, 70.0)).toPoint()
    at.click(start)
    assert not at.document.volumes and at.board.armed is None
    at.drag(start, (0, -round(50 * view.scale)))
    (box,) = at.document.volumes
    assert near_edge(at.document).corner_mm == pytest.approx((60.0, 70.0), abs=1.0)
    assert len(set(box.sides)) == 1 and at.board.armed is None
    kept, left = at.document, at.board.view.left
    at.drag(at.board.view.point((400.0, 20.0)).toPoint(), (-20, 0))
    assert at.document == kept and at.board.view.left == pytest.approx(left - 20), "then it pans"

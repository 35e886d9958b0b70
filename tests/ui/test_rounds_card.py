"""Rounds in the real window: wheels, radii, profiles, circles picked on the board."""

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from isometron.deeds.deed import Matter
from isometron.document.document import Document
from isometron.document.edits.choosing import select
from isometron.document.edits.shapes import rounding
from isometron.drawing.rounds import circles_of
from isometron.files.sheet_file import read_sheet, sample_sheet
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.turned import Turned
from tests.scenes import sheet


def rows(at):
    return dict(at.slip.table.rows.told)


def test_a_wheel_is_added_measured_paired_and_found_again(desk, tmp_path):
    at = desk(Document())
    at.run("Add a wheel")
    at.type("diameter", "62 cm")
    assert at.document.volume.width_mm == at.document.volume.height_mm == 620.0
    assert at.document.volume.z_mm == pytest.approx(0.0, abs=1e-9)
    at.type("inner circles", "38, 11")
    at.deed("pair wheel", track="130")
    at.deed("add axles", further_axles="190 cm")
    assert len(at.document.volumes) == 3
    at.answers.saves = tmp_path / "wheels.isometron"
    at.run("Save")
    assert read_sheet(tmp_path / "wheels.isometron") == at.document
    for _ in range(4):
        at.run("Undo")
    assert len(at.document.volumes) == 1 and at.document.volume.width_mm != 620.0


def test_a_circle_clicked_on_the_board_is_read_and_gets_its_aids(desk):
    crawler = sample_sheet("supply crawler")
    at = desk(crawler)
    wheel = next(i for i, v in enumerate(crawler.volumes) if v.name == "Front wheel")
    circle = max(
        (c for c in circles_of(at.bench.session.scene, wheel) if c.name == "rim"),
        key=lambda c: -np.linalg.norm(c.centre - np.array(crawler.eye.place)),
    )
    x, y = circle.ellipse.point(np.array([200.0]))[0]
    at.click(at.board.view.point((float(x), float(y))).toPoint())
    assert at.document.selected == wheel and at.document.circle == circle.number
    assert (at.slip.title.text(), at.slip.of.text()) == ("Rim", "of Front wheel")
    assert rows(at)["opens to"].startswith(f"{circle.ellipse.degree_deg:.1f}"[:4])
    page = at.pad(Matter.ROUNDS)
    assert page["circle"].currentIndex() == circle.number
    assert "short axis misses the axle" in page["words"].text()
    at.type("guide degrees", "33-36/1")
    assert at.document.kit.guide_degrees == (33.0, 34.0, 35.0, 36.0)
    at.type("guide degrees", "many")
    assert "is no list" in at.board.plate.text()
    at.deed("ellipse aids")
    assert not at.document.choices.ellipse_aids


def test_radii_are_dragged_added_and_taken_away_on_the_pad(desk):
    at = desk(Document())
    at.run("Cylinder")
    pad = at.pad(Matter.ROUNDS)["pad"]
    height = at.document.volume.height_mm
    top = pad.at(pad.points()[1])
    at.drag(top, (-20, 0), on=pad)
    shape = at.document.volume.shape
    assert isinstance(shape, Turned) and shape.stations[1][1] < 0.95
    assert at.document.volume.height_mm == pytest.approx(height, rel=0.02)
    middle = (pad.at(pad.points()[0]) + pad.at(pad.points()[1])) / 2
    QTest.mouseDClick(pad, Qt.MouseButton.LeftButton, pos=middle.toPoint())
    at.settle()
    assert len(at.document.volume.shape.stations) == 3
    joined = at.field("joined")
    joined.setCurrentIndex(1)
    joined.activated.emit(1)
    at.settle()
    assert at.document.volume.shape.join == "smooth"
    pad.setFocus()
    QTest.keyClick(pad, Qt.Key.Key_PageDown)
    QTest.keyClick(pad, Qt.Key.Key_PageDown)
    QTest.keyClick(pad, Qt.Key.Key_Delete)
    at.settle()
    assert len(at.document.volume.shape.stations) == 2
    before = at.document
    at.type("heights and radii", "0 4, 3 5, 2 1")
    assert "in order" in at.board.plate.text() and at.document == before
    at.type("heights and radii", "0 4, 3 5, 8 2")
    assert [round(v, 6) for v in np.ravel(rounding.stations_mm(at.document.volume))] == [
        0,
        40,
        30,
        50,
        80,
        20,
    ]
    at.type("cross-contours of the round", "3")
    assert at.document.volume.marks[0].shares == pytest.approx((1 / 3, 2 / 3))


def test_a_profile_moves_alike_on_the_pad_and_on_the_board(desk, tmp_path):
    at = desk(sheet())
    at.deed("begin profile", view="side view")
    page = at.pad(Matter.PROFILE)
    assert isinstance(at.document.volume.shape, Extruded)
    pad = page["pad"]
    corner = next(n for n, p in enumerate(pad.points()) if p == (360.0, 180.0))
    at.drag(pad.at(pad.points()[corner]), (-30, 12), on=pad)
    moved = at.document.volume.shape.rings[0][corner]
    assert moved.x < 0.95 and moved.y < 1
    on_board = at.place(f"knot 0 {corner}")
    at.drag(on_board, (0, 25))
    assert at.document.volume.shape.rings[0][corner].y < moved.y - 0.05
    pad.chosen = corner
    at.press("Smooth")
    assert at.document.volume.shape.rings[0][corner].smooth
    at.type("widths", "0 60%, 1/2 100%, 1 70%")
    assert len(at.document.volume.shape.widths) == 3
    line = at.field("centre line")
    line.setCurrentIndex(1)
    line.activated.emit(1)
    at.settle()
    assert at.document.volume.marks[0].axis == 1
    start = at.document
    at.drag(pad.at(pad.points()[0]), (300, -60), on=pad)
    assert "crosses itself" in at.board.plate.text()
    assert at.document.volume.contents_mm3 > 0.2 * start.volume.contents_mm3
    file = tmp_path / "side.svg"
    file.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="40mm" viewBox="0 0 90 40">'
        '<path d="M0 40 L0 10 Q45 -10 90 10 L90 40 Z"/></svg>'
    )
    at.answers.outline = file
    at.press("From SVG…")
    assert at.document.volume.width_mm == pytest.approx(90.0, abs=1e-6)
    file.write_text("nothing")
    before = at.document
    at.press("From SVG…")
    assert "no SVG drawing" in at.answers.told[-1] and at.document == before


def test_holes_arches_and_knobs_are_made_on_faces(desk):
    at = desk(sheet())
    at.deed("round hole", face="front")
    assert at.document.volume.circles[0].through
    contents = at.document.volume.contents_mm3
    before = at.document
    panel = at.deed("round hole", radius="99 m")
    assert at.document == before and panel.told.text()
    at.deed("clear circles")
    assert at.document.volume.contents_mm3 > contents
    at.deed("cut arch", arch_width="6", arch_middle="10")
    assert isinstance(at.document.volume.shape, Extruded)
    at.deed("set on face", face="top", what="knob")
    assert at.document.volume.shape.name == "knob" and len(at.document.volumes) == 2
    at.bench.wishes.choose(0)
    at.deed("make round", round_form="cylinder")
    assert at.document.volumes[0].shape.name == "cylinder"


def test_the_edge_of_a_round_body_is_read_when_nothing_is_picked(desk):
    crawler = sample_sheet("supply crawler")
    body = next(i for i, v in enumerate(crawler.volumes) if v.name == "Crawler body")
    at = desk(select(crawler, body))
    assert at.slip.title.text() == "Edge along the height"
    assert rows(at)["true length"].endswith("cm")
    assert at.board.view.point((0.0, 0.0)) != QPointF()

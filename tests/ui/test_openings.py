"""Openings typed on the slip, drawn on a face by hand, and moved by their own marks."""

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from isometron.document.edits.faces import on_faces
from isometron.framework.circles import flat_plane
from isometron.framework.face_rings import extent_of
from isometron.framework.kinds.block import BLOCK
from isometron.perspective.projection import project
from tests.kinds import volume
from tests.scenes import sheet

PLAIN = Qt.KeyboardModifier.NoModifier


def cabinet(z_mm=900.0):
    return volume(BLOCK, (600.0, 600.0, 600.0), x_mm=-300.0, z_mm=z_mm)


def extent(at, number):
    one = at.document.volume.face_rings[number]
    low, size = extent_of(one, flat_plane(at.document.volume.unopened, one.face))
    return [*low.tolist(), *size.tolist()]


def test_pigeonholes_are_typed_at_once_changed_and_taken_away(desk):
    at = desk(sheet(cabinet()))
    at.deed(
        "put opening",
        **{"side of the opening": 1, "from left": "2cm", "up": "2cm", "opening wide": "56cm"},
        **{"opening high": "56cm", "opening deep": "15 mm"},
        **{"across": "2", "upward": "4", "gap": "8 mm"},
    )
    rings = at.document.volume.face_rings
    assert len(rings) == 8 and all(one.deep_mm == 15.0 for one in rings)
    assert extent(at, 7) == pytest.approx([304.0, 446.0, 276.0, 134.0])
    panel = at.deed("change opening")
    at.fill(panel, "which opening", 7)
    assert panel["opening high now"].text() == "13.4 cm"
    at.fill(panel, "opening high now", "10cm")
    at.do(panel)
    assert extent(at, 7) == pytest.approx([304.0, 446.0, 276.0, 100.0])
    panel = at.deed("change opening")
    at.fill(panel, "which opening", 7)
    at.fill(panel, "opening high now", "60cm")
    at.do(panel)
    assert extent(at, 7)[3] == pytest.approx(100.0), "what does not fit changes nothing"
    assert panel.told.text().endswith(".")
    at.deed("fill opening", which_opening=7)
    assert len(at.document.volume.face_rings) == 7
    at.deed("put outline", points_of_the_outline="1 1, 5 1, 3", outline_runs="curved")
    assert len(at.document.volume.face_rings) == 7


def path_on(at, face, places):
    """Places of a face (shares), as places of the board."""
    one = at.document.volume
    plane, (place, axes) = flat_plane(one.unopened, face), one.pose
    own = [plane.place(x * plane.extents[0], y * plane.extents[1]) for x, y in places]
    drawn = project(at.document.eye, np.array(own) @ axes + place).sheet
    return [at.board.view.point((float(x), float(y))).toPoint() for x, y in drawn]


def test_a_window_drawn_by_hand_lies_on_its_face_and_its_marks_move_it(desk):
    at = desk(sheet(cabinet()))
    face = on_faces.face_to(at.document.volume, 2)
    turn = np.linspace(0.0, 2 * np.pi, 36)
    run = path_on(at, face, np.stack([0.5 + 0.2 * np.cos(turn), 0.5 + 0.3 * np.sin(turn)], axis=1))
    at.run("Draw an outline on a face")
    QTest.mousePress(at.board, Qt.MouseButton.LeftButton, PLAIN, run[0])
    for place in run:
        at._move(at.board, QPointF(place), PLAIN)
    QTest.mouseRelease(at.board, Qt.MouseButton.LeftButton, PLAIN, run[-1])
    at.settle()
    at.key(Qt.Key.Key_Escape)
    (one,) = at.document.volume.face_rings
    assert one.face == face and 8 <= len(one.ring) < 36 and all(k.smooth for k in one.ring)
    assert extent(at, 0) == pytest.approx([180.0, 120.0, 240.0, 360.0], abs=12.0)
    before = extent(at, 0)
    start = at.place("opening 0 middle")
    at.drag(start, (12, -4))
    moved = extent(at, 0)
    assert moved[2:] == pytest.approx(before[2:]) and moved[0] > before[0] + 5.0
    at.drag(at.place("opening 0 corner"), (-8, 10))
    smaller = extent(at, 0)
    assert smaller[:2] == pytest.approx(moved[:2], abs=0.5) and smaller[2] < moved[2]
    at.run("Undo")
    at.run("Undo")
    assert extent(at, 0) == pytest.approx(before)


def test_picked_edges_are_chamfered_rounded_and_sharp_again(desk):
    at = desk(sheet(cabinet(300.0)))
    whole = 600.0**3
    at.click(at.face_place(0, 5))
    at.deed("chamfer edge", taken_off="5cm")
    frustum = 50.0 / 6 * (600.0**2 + 4 * 550.0**2 + 500.0**2)
    assert at.document.volume.contents_mm3 == pytest.approx(whole - 50.0 * 600.0**2 + frustum)
    at.deed("sharp edges")
    assert at.document.volume.contents_mm3 == pytest.approx(whole)
    picture = at.bench.session.scene.pictures[0]
    edge = picture.seen_edges[8].drawn[0].reshape(2, 2).mean(axis=0)
    at.click(at.board.view.point((float(edge[0]), float(edge[1]))).toPoint())
    at.deed("round edge", taken_off="5cm")
    assert at.document.volume.bare.smooth.sum() == 16
    panel = at.deed("narrow end", narrows_to="1/2")
    assert "side profile" in panel.told.text()

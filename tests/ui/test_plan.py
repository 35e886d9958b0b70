"""Volumes and the ground origin in the station plan, the side elevation and on the board: one
state, three pictures."""

import numpy as np
import pytest
from PyQt6.QtCore import QPointF

from isometron.document.document import Document
from isometron.document.edits.places.origin import origin_ahead
from isometron.perspective.projection import project
from tests.scenes import case, sheet


def middle(document, index=0):
    corners = document.volumes[index].corners()
    return (corners[0] + corners[7]) / 2


def in_plan(at, world):
    """Where a ground place lies in the station plan, px; the sheet's heading points up."""
    h = np.radians(at.document.eye.heading_deg)
    across, ahead = np.array([np.cos(h), -np.sin(h)]), np.array([np.sin(h), np.cos(h)])
    place = (float(world[:2] @ across), float(world[:2] @ ahead))
    return at.bench.plan._view.point(place).toPoint()


def test_a_volume_is_pushed_turned_and_lifted_and_the_eye_stays(desk):
    at = desk(sheet(case(), case(name="Tin", x_mm=900.0, key=1)))
    at.bench.plan.grab(), at.bench.side.grab()
    start, eye, scale = at.document, at.document.eye, at.bench.plan._view.scale
    at.drag(in_plan(at, middle(start, 1)), (-12, 9), on=at.bench.plan)
    assert at.document.selected == 1 and at.document.eye == eye
    moved = middle(at.document, 1) - middle(start, 1)
    assert moved == pytest.approx([-12 / scale, -9 / scale, 0.0], abs=1.5 / scale)
    at.bench.plan.grab()
    knob = at.bench.plan.handles()["turn"][0]
    centre = middle(at.document, 1)
    at.drag(knob.toPoint(), (0, -30), on=at.bench.plan)
    volume = at.document.volume
    assert middle(at.document, 1) == pytest.approx(centre) and volume.yaw_deg > 30.0
    assert volume.sides == start.volumes[1].sides and at.document.eye == eye
    at.bench.side.grab()
    view = at.bench.side._view
    ahead = float(middle(at.document, 1)[1] - eye.y_mm)
    place = view.point((ahead, float(middle(at.document, 1)[2]))).toPoint()
    at.drag(place, (0, -8), on=at.bench.side)
    assert at.document.volume.z_mm == pytest.approx(1000.0 + 8 / view.scale, abs=1.5 / view.scale)
    assert at.document.eye == eye
    while at.bench.session.undo_name:
        at.bench.session.undo()
    assert at.document.volumes == start.volumes


def test_a_new_sheet_counts_from_an_origin_that_can_be_seen_moved_and_typed(desk):
    at = desk(origin_ahead(Document()))
    origin = np.array(at.document.origin_mm)
    (x, y), *_rest = project(at.document.eye, origin[None]).sheet.tolist()
    assert 0 < x < 420 and 0 < y < 297 and origin[2] == 0 and origin[1] > 0
    at.run("Add a box")
    origin = np.array(at.document.origin_mm)
    at.type("stands right", "0")
    at.type("stands away", "0")
    assert at.document.volume.place[:2] == tuple(origin[:2])
    corner = project(at.document.eye, at.document.volume.world()).sheet[0]
    assert corner == pytest.approx([x, y])
    at.type("stands away", "60")
    kept = at.document.volumes
    at.drag(at.place("origin"), (30, 0))
    assert at.document.volumes == kept and at.document.origin_mm[0] > origin[0]
    at.settle()
    assert at.field("stands right").number < 0
    at.deed("set origin", origin_right="25 cm")
    assert at.document.origin_mm[0] == 250.0
    at.bench.plan.grab()
    knob = at.bench.plan.handles()["origin"][0]
    at.drag(knob.toPoint(), (6, 0), on=at.bench.plan)
    gone = at.document.origin_mm[0] - 250.0
    assert gone == pytest.approx(6 / at.bench.plan._view.scale, rel=0.3)
    assert isinstance(knob, QPointF)

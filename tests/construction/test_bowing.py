"""The build order of a curved sheet, against the projection itself."""

import numpy as np
import pytest

from isometron.construction.bowing import bow_of
from isometron.construction.machine import Machine, exact_measures
from isometron.construction.order import order_of
from isometron.drawing.scene import scene_of
from isometron.files.building.orders import text_of
from isometron.files.sheet_file import sample_sheet
from isometron.perspective.curved import place_points
from tests.scenes import eye

CURVED = sample_sheet("curved crawler")


def test_an_edge_bows_by_what_its_places_say_and_its_template_errs_by_what_is_told():
    by = eye(curved=True, station_distance_mm=200.0)
    start, end = np.array([-900.0, 1200.0, 2400.0]), np.array([1400.0, 1500.0, 2500.0])
    bow = bow_of(by, start, end)
    t = np.linspace(0, 1, 5001)[:, None]
    drawn = place_points(by, start + t * (end - start)).sheet
    first, deepest, last = bow.places
    chord = (last - first) / np.hypot(*(last - first))
    off = np.abs((drawn - first) @ (-chord[1], chord[0]))
    assert off.max() == pytest.approx(bow.deep_mm, abs=1e-3) and bow.deep_mm > 5.0
    others = np.array([deepest, last])
    middle = np.linalg.solve(2 * (others - first), (others**2).sum(axis=1) - first @ first)
    away = np.abs(np.hypot(*(drawn - middle).T) - bow.radius_mm)
    assert away.max() == pytest.approx(bow.error_mm, rel=0.02, abs=1e-3)


def test_the_order_of_a_curved_sheet_lands_where_the_corners_are_drawn():
    order = order_of(CURVED)
    machine = Machine(1, exact_measures)
    for chapter in order.chapters:
        for step in chapter.steps:
            for move in step.moves:
                machine.make(move)
    picture = scene_of(CURVED).pictures[0]
    places = [machine.drawn.place(landing.name) for landing in order.landings]
    for landing, place in zip(order.landings, places, strict=True):
        assert place == pytest.approx(landing.place, abs=1e-6)
    seen = picture.sheet[sorted(set(picture.edges[[bool(s) for s in picture.visible]].ravel()))]
    drawn = np.array(places)
    assert all(np.hypot(*(drawn - corner).T).min() < 1e-6 for corner in seen)
    text = text_of(CURVED).decode()
    assert "sheet is curved" in text and "A template of" in text

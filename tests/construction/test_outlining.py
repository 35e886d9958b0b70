"""Outlines and free curves taken over by few marks."""

from itertools import pairwise

import numpy as np
import pytest

from isometron.construction.draft import Draft
from isometron.construction.moves import Curve, Join
from isometron.construction.order import order_of
from isometron.construction.outlining import chained, mark_curves
from isometron.construction.strokes import smooth
from isometron.document.building import EVERYTHING
from isometron.document.edits import building_edits
from isometron.drawing.curves import along_cubics
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_sheet
from isometron.perspective.conics import points_at, straight
from isometron.perspective.projection import project

ALONG = np.linspace(0.0, 1.0, 1501)


def fine(places):
    """Places between places, 200 to a part."""
    return np.concatenate([np.linspace(a, b, 200) for a, b in pairwise(places)])


def gaps(ones, others):
    """How far each of some places lies from the nearest of others."""
    return np.array([np.hypot(*(others - one).T).min() for one in ones])


@pytest.mark.sample(1)
@pytest.mark.parametrize("name", ("red lamp", "supply crawler", "telescope tube"))
def test_what_is_drawn_through_the_marks_is_the_outline_and_all_of_it(name):
    document = building_edits.reach(sample_sheet(name), EVERYTHING)
    order, scene = order_of(document), scene_of(document)
    for outline in (s.key for s in order.steps if s.key.endswith(".outline")):
        key = int(outline[1:].split(".")[0])
        picture = next(p for p in scene.pictures if p.volume.key == key)
        shown = [a for i, a in enumerate(picture.outlines) if (picture.arc_numbers == -1 - i).any()]
        places = [points_at(arc[None].repeat(len(ALONG), 0), ALONG) for arc in shown]
        true = np.concatenate([project(document.eye, one).sheet for one in places])
        drawn = []
        for move in order.moves(s for s in order.steps if s.key.startswith(outline)):
            if isinstance(move, Join):
                ends = order.drawn.place(move.first), order.drawn.place(move.second)
                drawn.append(fine(np.array(ends)))
            elif isinstance(move, Curve):
                marks = [order.drawn.place(p) for p in move.points]
                drawn.append(fine(along_cubics(smooth(marks))))
                assert 3 <= len(marks) < 20
        assert gaps(true[::30], np.concatenate(drawn)).max() < 0.5
        assert gaps(np.concatenate(drawn)[::40], true).max() < 0.5


def test_parts_of_a_curve_become_one_whichever_way_round_they_come():
    turn = np.linspace(0.0, 2.0, 61)
    whole = np.stack([np.cos(turn), np.sin(turn)], axis=1)
    parts = [whole[i : i + 11] for i in range(0, 60, 10)]
    rng = np.random.default_rng(4)
    for _trial in range(20):
        mixed = [parts[i][:: rng.choice([-1, 1])] for i in rng.permutation(6)]
        (one,) = chained(mixed)
        assert np.allclose(one, whole) or np.allclose(one[::-1], whole)
    assert len(chained([whole, whole + 9.0])) == 2


@pytest.mark.parametrize("sweep", (40.0, 90.0, 150.0))
@pytest.mark.parametrize("corner", (0.0, 25.0, 90.0, 140.0))
def test_a_corner_stays_a_corner_and_what_has_no_length_is_not_drawn(sweep, corner):
    """A straight part, then an arc that leaves it at an angle: on a plane square to us."""
    draft = Draft(sample_sheet("red lamp"), 0.5)
    eye = np.array(draft.eye.place)
    across, up = np.array([1.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0])
    middle = eye + 900.0 * np.array([0.0, 1.0, 0.0]) - 200.0 * up

    def at(x, z):
        return middle + x * across + z * up

    turns = np.radians(corner - 90.0 + np.array([0.0, sweep / 2, sweep]))
    centre = -60.0 * np.array([np.cos(turns[0]), np.sin(turns[0])])
    rim = centre + 60.0 * np.stack([np.cos(turns), np.sin(turns)], axis=1)
    weight = np.cos(np.radians(sweep / 2))
    tip = centre + 60.0 / weight * np.array([np.cos(turns[1]), np.sin(turns[1])])
    arc = np.array([[*at(*rim[0]), 1], [*(weight * at(*tip)), weight], [*at(*rim[2]), 1]])
    line = straight(np.array([at(-150.0, 0.0)]), np.array([at(*rim[0])]))[0]
    none = straight(np.array([at(5.0, 5.0)]), np.array([at(5.0, 5.0)]))[0]
    mark_curves(draft, [arc, none, line], "a curve")
    draft.step("curve", "Draw.")
    draft.chapter("curve", "Curve")
    moves = draft.chapters[0].steps[0].moves
    drawn = draft.machine.drawn
    parts = [
        fine(np.array([drawn.place(m.first), drawn.place(m.second)]))
        if isinstance(m, Join)
        else fine(along_cubics(smooth([drawn.place(p) for p in m.points])))
        for m in moves
        if isinstance(m, Join | Curve)
    ]
    assert len(parts) == (2 if corner else 1)
    places = [points_at(np.array([one] * len(ALONG)), ALONG) for one in (line, arc)]
    true = np.concatenate([project(draft.eye, one).sheet for one in places])
    assert gaps(true[::30], np.concatenate(parts)).max() < 0.5
    assert gaps(np.concatenate(parts)[::40], true).max() < 0.5

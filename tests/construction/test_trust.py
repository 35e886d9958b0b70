"""How far from its place a point comes to lie, against closed forms and fresh drawings."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.construction.machine import execute
from isometron.construction.moves import Cross, Join, Level, Mark, StepOff, Upright
from isometron.construction.order import order_of
from isometron.construction.trust import by_hand, expected, rounding_bounds
from isometron.document.building import METHODS, Building
from isometron.document.kit import Hand
from isometron.files.sheet_file import sample_sheet

START = (Mark("a", (20.0, 30.0)), Mark("b", (220.0, 30.0)))
RAYLEIGH = math.sqrt(-2 * math.log(0.05))
"""95 of 100 places lie within so many times the spread of either direction."""


def spread(moves, name, hand, **more):
    trials = by_hand(moves, hand, 0.5, trials=40_000, **more)
    return expected(trials, execute(moves), [name])[name]


def test_each_error_of_a_hand_does_what_it_should():
    still = Hand(0.0, 0.0, 0.0, 0.0)
    assert spread(START, "a", replace(still, mark_mm=0.3)) == pytest.approx(
        0.3 * RAYLEIGH, rel=0.02
    )
    off = (*START, Level("l", "a"), StepOff("p", "l", "a", 100.0))
    assert spread(off, "p", replace(still, carry_mm=0.4)) == pytest.approx(0.4 * 1.96, rel=0.02)
    turned = math.radians(0.2) * 100.0 * 1.96
    assert spread(off, "p", replace(still, square_deg=0.2)) == pytest.approx(turned, rel=0.02)
    # a ruled line passes both its points 0.2 mm off: beyond them it strays in proportion
    line = (*START, Join("m", "a", "b"), Mark("c", (420.0, 30.0)), Upright("u", "c"))
    far = (*line, Cross("p", "m", "u"))
    strays = 0.2 * math.hypot(1.0, 2.0) * 1.96
    exact = expected(
        by_hand(far, replace(still, line_mm=0.2), 0.5, trials=40_000), execute(far), ["p"]
    )["p"]
    assert exact == pytest.approx(strays, rel=0.05)  # the upright strays a little too
    third = (*START, Join("m", "a", "b", by=(120.0, 30.0)), *line[3:], Cross("p", "m", "u"))
    assert spread(third, "p", replace(still, mark_mm=0.3)) > 0.3 * 4.0, "a near mark guides less"


def test_without_errors_only_the_rounding_is_left():
    moves = (Mark("a", (20.2, 30.3)), Mark("b", (40.0, 30.0)))
    trials = by_hand(moves, Hand(0.0, 0.0, 0.0, 0.0), 0.5, trials=3)
    assert np.allclose(trials.points["a"], [[20.0] * 3, [30.5] * 3])


@pytest.mark.sample(4)
@pytest.mark.parametrize("method", METHODS)
@pytest.mark.parametrize("name", ["eyepiece case", "telescope tube", "supply crawler"])
def test_fresh_drawings_keep_to_what_is_expected(name, method):
    document = replace(sample_sheet(name), building=Building(method))
    order = order_of(document)
    fresh = by_hand(order.moves(), document.kit.hand, order.step_mm, trials=2000, seed=77)
    shares = []
    for landing in order.landings:
        off = np.hypot(*(fresh.points[landing.name] - np.array(landing.place)[:, None]))
        shares.append(float((off <= order.hand[landing.name]).mean()))
    assert min(shares) > 0.92 and max(shares) < 0.98 and 0.94 < np.mean(shares) < 0.96
    assert order.by_hand_mm == max(order.hand.values()) and order.farthest


def test_bounds_of_chapters_are_those_of_the_whole():
    order = order_of(sample_sheet("turned eyepiece cases"))
    groups = [
        order.moves(chapter.steps) for chapter in order.chapters if order.moves(chapter.steps)
    ]
    whole, apart = rounding_bounds([order.moves()], 0.5), rounding_bounds(groups, 0.5)
    assert whole.keys() == apart.keys()
    assert all(apart[name] == pytest.approx(whole[name], abs=1e-12) for name in whole)

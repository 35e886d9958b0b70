"""The ruler machine by itself: each move by hand, and what it refuses."""

import math

import numpy as np
import pytest

from isometron.construction.machine import (
    MoveError,
    execute,
)
from isometron.construction.moves import (
    Cross,
    Curve,
    Ellipse,
    Join,
    Level,
    Mark,
    Parallel,
    StepOff,
    Upright,
)
from isometron.construction.order import order_of
from isometron.construction.trust import rounding_bounds
from isometron.document.building import METHODS, Building
from tests.construction.table import on_the_ruler
from tests.scenes import case, eye, sheet

START = (Mark("a", (10.2, 20.3)), Mark("b", (110.0, 70.0)))


def test_each_move_does_what_its_name_says():
    drawn = execute(
        (
            *START,
            Join("ab", "a", "b"),
            Upright("u", "b"),
            Level("l", "a"),
            Parallel("p", "ab", "b"),
            Cross("c", "u", "l"),
            StepOff("d", "l", "c", -30.0),
            StepOff("e", "u", "c", 12.0),
            StepOff("f", "ab", "a", 50.0),
            Ellipse("o", "c", 30.0, 10.0, 25.0),
            Curve("s", ("a", "b", "c")),
        )
    )
    assert drawn.place("c") == pytest.approx((110.0, 20.3))
    assert drawn.place("d") == pytest.approx((80.0, 20.3))
    assert drawn.place("e") == pytest.approx((110.0, 32.3))
    way = np.array([99.8, 49.7]) / math.hypot(99.8, 49.7)
    assert drawn.place("f") == pytest.approx(tuple(np.array([10.2, 20.3]) + 50 * way))
    assert drawn.lines["p"][1][:, 0].astype(float) == pytest.approx(way)
    assert drawn.ellipses["o"][:, 0] == pytest.approx([110.0, 20.3, 30.0, 10.0, 25.0])


@pytest.mark.parametrize(
    ("moves", "words"),
    [
        ((Join("l", "a", "b"),), "before it is made"),
        ((*START, Cross("c", "u", "v")), "before it is drawn"),
        ((*START, Level("l", "a"), Level("m", "b"), Cross("c", "l", "m")), "never cross"),
        ((*START, Mark("c", (10.2, 20.3)), Join("l", "a", "c")), "in one place"),
        ((*START, Curve("s", ("a", "z"))), "before it is made"),
    ],
)
def test_what_no_ruler_can_do_is_refused(moves, words):
    with pytest.raises(MoveError, match=words):
        execute(moves)


@pytest.mark.sample(12)
@pytest.mark.parametrize("tilt", [0.0, -25.0, 20.0])
@pytest.mark.parametrize("yaw", [0.0, 0.3, 30.0, 45.0])
@pytest.mark.parametrize("method", METHODS)
def test_a_line_that_a_measure_tilts_is_still_stepped_along_the_same_way(method, yaw, tilt):
    document = sheet(case(yaw_deg=yaw), by=eye(tilt_deg=tilt), building=Building(method))
    order = order_of(document)
    assert 0.3 < order.worst_mm < 4.0, "no step is taken backwards when the bounds are found"


def test_rounded_measures_stay_within_the_stated_bound():
    rng = np.random.default_rng(3)
    for _ in range(50):
        a, b, c, d = (tuple(rng.uniform(20, 280, 2)) for _ in range(4))
        moves = (
            *(Mark(n, p) for n, p in zip("abcd", (a, b, c, d), strict=True)),
            Join("ab", "a", "b"),
            Join("cd", "c", "d"),
            Cross("x", "ab", "cd"),
            StepOff("y", "ab", "x", float(rng.uniform(-80, 80))),
        )
        exact = execute(moves)
        (_, one), (_, two) = exact.lines["ab"], exact.lines["cd"]
        if abs(float(one[0, 0] * two[1, 0] - one[1, 0] * two[0, 0])) < 0.15:
            continue
        rounded, bounds = on_the_ruler(moves, 0.5), rounding_bounds([moves], 0.5)
        for name in "abxy":
            moved = math.dist(exact.place(name), rounded.place(name))
            assert moved <= bounds[name]
    assert on_the_ruler((Mark("a", (10.2, 20.3)),), 0.5).place("a") == (10.0, 20.5)

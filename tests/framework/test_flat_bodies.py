import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.framework.bodies.cuts import Cut
from isometron.framework.bodies.whole import Whole
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.turning import axes_of, turns_of
from isometron.perspective.errors import VolumeError
from tests.scenes import floats

L_PLAN = ((0, 0), (1, 0), (1, 0.4), (0.4, 0.4), (0.4, 1), (0, 1))
SIDES = (200.0, 300.0, 400.0)


def bare(shape, cuts=()):
    return Whole(shape, SIDES, cuts).bare


def closed(solid):
    """Every corner of a face lies in its plane, every edge joins two faces, Euler's count holds."""
    size = np.ptp(solid.vertices, axis=0).max()
    for face, rings in enumerate(solid.rings):
        ring = solid.vertices[[v for one in rings for v in one]]
        assert np.abs((ring - ring[0]) @ solid.normals[face]).max() < 1e-9 * size
    around = {
        frozenset(p) for rings in solid.rings for r in rings for p in itertools.pairwise((*r, r[0]))
    }
    assert around == {frozenset(edge) for edge in solid.edges.tolist()}
    holes = sum(len(rings) - 1 for rings in solid.rings)
    return len(solid.vertices) - len(solid.edges) + len(solid.rings) - holes


@given(*(floats(0, 80) for _ in range(4)))
def test_a_leaning_box_holds_what_the_prismoid_formula_says(front, back, left, right):
    solid = bare(Taper(front, back, left, right))
    top = (200 - left - right) * (300 - front - back)
    middle = (200 - (left + right) / 2) * (300 - (front + back) / 2)
    prismoid = 400 / 6 * (200 * 300 + 4 * middle + top)
    assert solid.contents_of_parts_mm3 == pytest.approx(prismoid, rel=1e-12)
    assert solid.convex and closed(solid) == 2


def test_a_ridge_has_six_corners_and_a_tip_five():
    ridge, tip = bare(Taper(150, 150)), bare(Taper(150, 150, 100, 100))
    assert [len(ridge.vertices), len(ridge.edges), len(ridge.rings)] == [6, 9, 5]
    assert [len(tip.vertices), len(tip.edges), len(tip.rings)] == [5, 8, 5]
    assert tip.contents_of_parts_mm3 == pytest.approx(200 * 300 * 400 / 3)


def test_prisms_hold_area_times_height():
    corner = bare(Plan(L_PLAN))
    assert corner.contents_of_parts_mm3 == pytest.approx((0.4 + 0.6 * 0.4) * 200 * 300 * 400)
    assert not corner.convex and closed(corner) == 2
    chamfered = bare(Plan(RECTANGLE, 30.0))
    assert chamfered.contents_of_parts_mm3 == pytest.approx((200 * 300 - 2 * 30**2) * 400)
    rounded = bare(Plan(RECTANGLE, 30.0, True), (Cut((0.4, -1, 0.5), (0.6, 2, 2)),))
    exact = (200 * 300 - (4 - math.pi) * 30**2 - 40 * 300 / 2) * 400
    held = rounded.contents_of_parts_mm3
    assert held == pytest.approx(exact, rel=2e-4) and held < exact, "chords, once it is cut"


def test_cuts_take_what_inclusion_and_exclusion_say():
    step = Cut((0.5, 0, 0.5), (1, 1, 1))
    hole = Cut((0.25, 0, 0.1), (0.4, 1, 0.4))
    both = bare(BLOCK, (step, hole))
    assert both.contents_of_parts_mm3 == pytest.approx(200 * 300 * 400 * (1 - 0.25 - 0.15 * 0.3))
    assert closed(both) == 0  # a hole right through makes a ring of it
    over = bare(BLOCK, (step, Cut((0.25, 0, 0.25), (0.75, 1, 0.75))))
    assert over.contents_of_parts_mm3 == pytest.approx(200 * 300 * 400 * (1 - 0.25 - 0.25 + 0.0625))


def test_a_turned_cut_takes_what_sampling_says():
    cut = Cut((0.3, 0.3, 0.4), (0.8, 0.7, 1.3), 25.0, 10.0, -15.0)
    solid = bare(BLOCK, (cut,))
    points = np.random.default_rng(5).uniform((0, 0, 0), SIDES, (200_000, 3))
    low, high = np.array(cut.low) * SIDES, np.array(cut.high) * SIDES
    own = (points - low) @ axes_of(25.0, 10.0, -15.0).astype(float).T
    kept = 1 - ((own > 0) & (own < high - low)).all(axis=1).mean()
    assert solid.contents_of_parts_mm3 / (200 * 300 * 400) == pytest.approx(kept, abs=4e-3)
    assert closed(solid) == 2


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: bare(Taper(200, 200)), "folds the volume"),
        (lambda: bare(BLOCK, (Cut((0, 0, 0), (1, 1, 1)),)), "removes everything"),
        (lambda: Cut((0, 0, 0), (0, 1, 1)), "no size"),
        (lambda: Plan(((0, 0), (1, 1), (1, 0), (0, 1))), "crosses itself"),
        (lambda: Plan(((0, 0), (1, 1))), "3 to"),
        (lambda: bare(Plan(RECTANGLE, 120.0)), "meet each other"),
        (lambda: Taper(math.nan), "must be a length or an angle"),
    ],
)
def test_shapes_that_cannot_be_are_refused_in_a_sentence(make, words):
    with pytest.raises(VolumeError, match=words):
        make()


@given(floats(-180, 180), floats(-89.9, 89.9), floats(-180, 180))
def test_turns_are_read_back_from_their_axes(yaw, pitch, roll):
    axes = axes_of(yaw, pitch, roll).astype(float)
    assert np.allclose(axes @ axes.T, np.eye(3), atol=1e-15)
    assert np.linalg.det(axes) == pytest.approx(1.0)
    again = axes_of(*turns_of(axes)).astype(float)
    assert np.allclose(again, axes, atol=1e-12)


@given(st.sampled_from([-90.0, 90.0]), floats(-180, 180), floats(-180, 180))
def test_straight_up_or_down_the_axes_still_come_back(pitch, yaw, roll):
    axes = axes_of(yaw, pitch, roll).astype(float)
    assert np.allclose(axes_of(*turns_of(axes)).astype(float), axes, atol=1e-9)


def test_yaw_pitch_and_roll_turn_as_the_conventions_say():
    width, depth, _ = axes_of(90.0).astype(float)
    assert width == pytest.approx([0, 1, 0]) and depth == pytest.approx([-1, 0, 0])
    assert axes_of(0.0, 90.0)[1].astype(float) == pytest.approx([0, 0, 1])  # pitched: depth rises
    assert axes_of(0.0, 0.0, 90.0)[0].astype(float) == pytest.approx([0, 0, -1])

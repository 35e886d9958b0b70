"""Sorting out what cannot meet loses nothing that does, and follows curves to their ends."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.framework.bodies.hulls import hulls_of
from isometron.framework.bodies.whole import Whole
from isometron.framework.figures import figure_of
from isometron.hiding.meeting import pierce
from isometron.hiding.nearness import may_meet
from isometron.hiding.walking import Patch, arc_of, quadric_of, walk
from isometron.perspective.conics import points_at
from tests.kinds import SOLID, name, volume
from tests.scenes import floats


@given(st.data())
def test_no_pair_of_surfaces_that_meet_is_sorted_out(data):
    pick = st.sampled_from(SOLID)
    (one, sides), (other, others) = data.draw(pick), data.draw(pick)
    turns = [data.draw(floats(-60, 60)) for _ in range(6)]
    off = [data.draw(floats(-90, 90)) for _ in range(3)]
    a = figure_of(volume(one, sides, pitch_deg=turns[0], roll_deg=turns[1], yaw_deg=turns[2]))
    b = figure_of(
        volume(
            other, others, x_mm=-60 + off[0], y_mm=2000 + off[1], z_mm=1440 + off[2],
            pitch_deg=turns[3], roll_deg=turns[4], yaw_deg=turns[5],
        )
    )  # fmt: skip
    near, meeting = may_meet(a, b), pierce(a, b, 0, 1)
    for i, j in np.concatenate([meeting.faces, meeting.arc_faces]).tolist():
        assert near[i, j]
    assert np.array_equal(near, may_meet(b, a).T)


@pytest.mark.parametrize(("kind", "sides"), SOLID, ids=name)
def test_hulls_hold_their_surfaces(kind, sides):
    body = Whole(kind, sides).bare
    hulls = hulls_of(body)
    counts = np.diff(hulls.first)
    assert (counts >= 3).all()
    ways = np.random.default_rng(1).normal(size=(40, 3))
    if body.surfaces is None:
        return
    rims, owner = body.surfaces.rims, body.surfaces.rim_surface
    for number in np.unique(owner).tolist():
        own = hulls.points[hulls.first[number] : hulls.first[number + 1]] @ ways.T
        mine = rims[owner == number]
        for t in np.linspace(0, 1, 9):
            along = points_at(mine, np.full(len(mine), t)) @ ways.T
            assert (along <= own.max(axis=0) + 1e-6).all()
            assert (along >= own.min(axis=0) - 1e-6).all()


def cylinder(along, radius):
    """x² + y² = r² about an axis, as a form."""
    form = np.diag([1.0, 1.0, 1.0, -radius * radius])
    form[along, along] = 0.0
    return Patch(quadric_of(form), (), ())


def test_two_crossing_cylinders_meet_in_the_curve_that_is_known():
    thick, thin = cylinder(2, 50.0), cylinder(0, 30.0)
    start = (np.sqrt(50.0**2 - 30.0**2), 30.0, 0.0)
    steps = walk(thick, thin, start, 1.0, 100.0)
    arcs = np.array([arc_of(thick, thin, step) for step in steps])
    assert np.allclose(arcs[0, 0, :3], start) and np.allclose(arcs[-1, 2, :3], start, atol=1e-9)
    for t in np.linspace(0, 1, 17):
        x, y, z = points_at(arcs, np.full(len(arcs), t)).T
        assert np.abs(np.hypot(x, y) - 50.0).max() < 2.2e-4
        assert np.abs(np.hypot(y, z) - 30.0).max() < 2.2e-4 and (x > 0).all()
    angle = np.unwrap(np.arctan2(arcs[:, 0, 2], arcs[:, 0, 1]))
    assert abs(abs(angle[-1] - angle[0]) + abs(angle[1] - angle[0]) - 2 * np.pi) < 0.5


def test_a_walk_ends_at_the_rim_and_where_surfaces_only_touch():
    thick, thin = cylinder(2, 50.0), cylinder(0, 30.0)
    half = Patch(thin.quadric, ((0.0, 1.0, 0.0, 0.0),), ())  # y ≥ 0
    steps = walk(thick, half, (40.0, 30.0, 0.0), 1.0, 100.0)
    x, y, z = steps[-1][2]
    assert (x, y, abs(z)) == pytest.approx((50.0, 0.0, 30.0), abs=1e-6)
    touching = Patch(quadric_of(np.diag([1.0, 1.0, 0.0, -(50.0**2)])), (), ())
    assert walk(thick, touching, (50.0, 0.0, 0.0), 1.0, 100.0) == []

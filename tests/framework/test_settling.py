from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.framework.bodies.cuts import Cut
from isometron.framework.bounding import bounding_volume, scaled_with
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.marks import Mark, draw_marks, even
from isometron.framework.modules import Count, Module, read_dimension, resolve
from isometron.framework.placing import Anchor, Mirrored, Stepped, Swung
from isometron.framework.settling import anchored, settle
from isometron.framework.volume import Volume
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.projection import project
from tests.scenes import eye, floats

turns = floats(-180, 180)
tips = floats(-80, 80)


@st.composite
def volumes(draw, key=0):
    return Volume(
        f"Case {key}",
        *(draw(floats(10, 500)) for _ in range(3)),
        *(draw(floats(-1000, 1000)) for _ in range(3)),
        draw(turns),
        draw(tips),
        draw(tips),
        key=key,
    )


def matrix(volume):
    """4 × 4 from own to world, straight from the conventions."""
    (cy, sy), (cp, sp), (cr, sr) = (
        (np.cos(np.radians(a)), np.sin(np.radians(a)))
        for a in (volume.yaw_deg, volume.pitch_deg, volume.roll_deg)
    )
    rz = np.array([[cy, -sy, 0], [sy, cy, 0], [0, 0, 1]])
    rx = np.array([[1, 0, 0], [0, cp, -sp], [0, sp, cp]])
    ry = np.array([[cr, 0, sr], [0, 1, 0], [-sr, 0, cr]])
    whole = np.eye(4)
    whole[:3, :3], whole[:3, 3] = rz @ rx @ ry, volume.place
    return whole


@given(volumes(0), volumes(1), volumes(2), volumes(3), st.tuples(*[floats(0, 1)] * 3))
def test_what_stands_on_another_follows_it_rigidly(base, on, top, moved, shares):
    on = anchored(on, base, shares)
    top = anchored(top, on, (0.0, 0.0, 0.0))
    (a, b, c), _ = settle((top, on, base), ())
    assert np.allclose(a.corners(), top.corners(), atol=1e-6)
    assert np.allclose(b.corners(), on.corners(), atol=1e-6)
    elsewhere = replace(
        base,
        x_mm=moved.x_mm,
        y_mm=moved.y_mm,
        z_mm=moved.z_mm,
        yaw_deg=moved.yaw_deg,
        pitch_deg=moved.pitch_deg,
        roll_deg=moved.roll_deg,
    )
    (a, b, c), _ = settle((top, on, elsewhere), ())
    carry = matrix(c) @ np.linalg.inv(matrix(base))
    for before, after in ((on, b), (top, a)):
        corners = np.column_stack([before.corners(), np.ones(8)]) @ carry.T
        assert np.allclose(after.corners(), corners[:, :3], atol=1e-5)


@given(volumes(0), volumes(1), floats(20, 900))
def test_a_share_of_the_parents_side_keeps_its_share(base, child, longer):
    child = anchored(child, base, (0.5, 0.0, 1.0))
    grown = replace(base, width_mm=longer)
    (_, after), _ = settle((grown, child), ())
    own = np.linalg.inv(matrix(base)) @ np.append(child.place, 1.0)
    own_after = np.linalg.inv(matrix(grown)) @ np.append(after.place, 1.0)
    assert own_after[0] - own[0] == pytest.approx(0.5 * (longer - base.width_mm), abs=1e-6)
    assert own_after[1:3] == pytest.approx(own[1:3], abs=1e-6)


@given(volumes(0), volumes(1), st.integers(0, 2))
def test_a_twin_is_the_mirror_image_corner_by_corner(source, about, axis):
    source = replace(source, shape=Taper(0.1 * source.depth_mm, 0.0, 0.2 * source.width_mm, 0.0))
    twin = Volume("Twin", 1.0, 1.0, 1.0, key=2, like=Mirrored(0, 1, axis))
    (_, _, twin), _ = settle((source, about, twin), ())
    normal = matrix(about)[:3, axis]
    middle = (about.corners()[0] + about.corners()[7]) / 2
    image = source.world() - 2 * ((source.world() - middle) @ normal)[:, None] * normal
    gaps = np.linalg.norm(twin.world()[:, None] - image[None], axis=2).min(axis=0)
    assert gaps.max() < 1e-6 and len(twin.world()) == len(image)


@given(volumes(0), st.integers(1, 9), st.tuples(*[floats(-300, 300)] * 3), floats(-170, 170))
def test_repeats_step_and_swing_by_equal_true_steps(source, count, step, angle):
    row = Volume("Row", 1.0, 1.0, 1.0, key=1, like=Stepped(0, count, step))
    ring = Volume("Ring", 1.0, 1.0, 1.0, key=2, like=Swung(0, count, (10.0, 20.0, 30.0), 2, angle))
    (_, row, ring), _ = settle((source, row, ring), ())
    assert np.allclose(row.corners(), source.corners() + count * np.array(step), atol=1e-8)
    c, s = np.cos(np.radians(count * angle)), np.sin(np.radians(count * angle))
    own = source.corners() - (10, 20, 30)
    swung = own @ np.array([[c, s, 0], [-s, c, 0], [0, 0, 1]]) + (10, 20, 30)
    assert np.allclose(ring.corners(), swung, atol=1e-6)


def test_settling_what_is_settled_changes_nothing_at_all():
    base = Volume("Base", 100.0, 80.0, 60.0, 3.0, 4.0, 5.0, 33.3, key=0)
    child = anchored(
        Volume("Child", 10.0, 20.0, 30.0, 7.0, 8.0, 90.0, 12.3, key=1), base, (0.3, 0, 1)
    )
    twin = Volume("Twin", 1.0, 1.0, 1.0, key=2, like=Mirrored(1, 0, 0))
    counted = Volume("Counted", 1.0, 1.0, 1.0, key=3, counts=(Count(3.1, "w"), None, None))
    once = settle((base, child, twin, counted), (Module("w", 62.0),))
    again = settle(*once)
    assert again == once and all(a is b for a, b in zip(once[0], again[0], strict=True))


def test_counts_are_worked_out_through_modules_sides_and_other_volumes():
    w = Module("w", 620.0)
    track = Module("track", 1.0, Count(2.1, "w"))
    body = Volume(
        "Body", 1, 1, 1, key=0, counts=(Count(4.5, "w"), Count(1, "track"), Count(0.5, "depth"))
    )
    cabin = Volume("Cabin", 1, 1, 1, key=1, counts=(Count(0.5, "Body.width"), None, None))
    (body, cabin), modules = settle((body, cabin), (w, track))
    assert body.sides == pytest.approx((2790.0, 1302.0, 651.0))
    assert cabin.width_mm == pytest.approx(1395.0) and modules[1].mm == pytest.approx(1302.0)


def test_what_refers_to_itself_is_refused():
    with pytest.raises(VolumeError, match=r"itself \(a → b → a\)"):
        resolve({}, {"a": Count(1, "b"), "b": Count(2, "a")})
    with pytest.raises(VolumeError, match="no “gone”"):
        resolve({}, {"a": Count(1, "gone")})
    here = Anchor(1, (0, 0, 0), (0, 0, 0))
    there = Anchor(0, (0, 0, 0), (0, 0, 0))
    pair = (Volume("A", 1, 1, 1, key=0, on=here), Volume("B", 1, 1, 1, key=1, on=there))
    with pytest.raises(VolumeError, match="hang on itself"):
        settle(pair, ())
    cut = Volume("Cut", 9, 9, 9, key=0, cuts=(Cut((0, 0, 0), (0.5, 1, 1), 30.0),))
    twin = Volume("Twin", 1, 1, 1, key=2, like=Mirrored(0, 1))
    with pytest.raises(VolumeError, match="turned cut has no twin"):
        settle((cut, Volume("B", 1, 1, 1, key=1), twin), ())


def test_what_hung_on_a_volume_that_is_gone_keeps_its_place():
    child = Volume("Child", 10, 20, 30, 7, 8, 9, key=1, on=Anchor(0, (0, 0, 1), (0, 0, 0)))
    twin = Volume("Twin", 5, 6, 7, 1, 2, 3, key=2, like=Stepped(9, 1, (1, 1, 1)))
    (left, free), _ = settle((child, twin), ())
    assert left == replace(child, on=None) and free == replace(twin, like=None)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("3.2 w", Count(3.2, "w")),
        ("1/2 height", Count(0.5, "height")),
        ("W", Count(1.0, "w")),
        ("width / 3", Count(1 / 3, "width")),
        ("2 × Bench top.depth", Count(2.0, "Bench top.depth")),
        ("24.5 cm", 245.0),
        ("9 5/8 in", 9.625 * 25.4),
        ("12", 120.0),
    ],
)
def test_dimensions_are_read_as_people_write_them(text, value):
    assert read_dimension(text, "cm", ["w", "height", "width", "Bench top.depth"]) == value


@pytest.mark.parametrize("text", ["3 elbows", "0 w", "w / 0", "1/0 w", "", "--"])
def test_what_is_no_dimension_is_refused(text):
    with pytest.raises(LengthError):
        read_dimension(text, "cm", ["w"])


@given(st.lists(volumes(), min_size=1, max_size=4), turns, st.tuples(*[floats(0.2, 4)] * 3))
def test_the_bounding_volume_touches_what_it_holds_and_scales_it(some, yaw, factors):
    bounds = bounding_volume(some, yaw)
    own = np.concatenate([v.world() for v in some]) - bounds.place
    own = own @ bounds.axes().astype(float).T
    assert own.min(axis=0) == pytest.approx([0, 0, 0], abs=1e-8)
    assert own.max(axis=0) == pytest.approx(bounds.sides, abs=1e-7)
    even_factors = (factors[0],) * 3
    grown = bounding_volume(scaled_with(some, bounds, even_factors), yaw)
    assert grown.sides == pytest.approx([s * factors[0] for s in bounds.sides], rel=1e-9)
    square = [replace(v, yaw_deg=yaw, pitch_deg=0.0, roll_deg=0.0) for v in some]
    bounds = bounding_volume(square, yaw)
    grown = bounding_volume(scaled_with(square, bounds, factors), yaw)
    ratio = [s * f for s, f in zip(bounds.sides, factors, strict=True)]
    assert grown.sides == pytest.approx(ratio, rel=1e-9)


def test_a_volume_turned_otherwise_is_not_skewed():
    some = [Volume("A", 10, 10, 10), Volume("B", 10, 10, 10, 20, 0, 0, 30.0)]
    with pytest.raises(VolumeError, match="B is turned otherwise"):
        scaled_with(some, bounding_volume(some, 0.0), (2.0, 1.0, 1.0))


@given(st.integers(2, 12), floats(-60, 60), st.sampled_from([0, 1]))
def test_divisions_keep_their_cross_ratio_on_the_paper(parts, yaw, axis):
    volume = Volume("Case", 400.0, 300.0, 200.0, 0.0, 2000.0, 0.0, yaw)
    marks = draw_marks((Mark("face", 5, axis, even(parts)),), volume.bare, volume.sides)
    place, axes = volume.pose
    a, b = marks.starts @ axes + place, marks.ends @ axes + place
    ring = volume.world()[list(volume.body.rings[5][0])]
    first, last = (ring[0], ring[1]) if axis == 0 else (ring[1], ring[2])
    drawn = project(eye(), np.array([first, *a, last])).sheet
    along = np.hypot(*(drawn - drawn[0]).T)
    t = np.concatenate([[0.0], even(parts), [1.0]])
    for i in range(1, parts - 1):
        p, q = along[[0, i, i + 1, -1]], t[[0, i, i + 1, -1]]
        cross = [(v[2] - v[0]) * (v[3] - v[1]) / ((v[2] - v[1]) * (v[3] - v[0])) for v in (p, q)]
        assert cross[0] == pytest.approx(cross[1], rel=1e-10)
    assert np.allclose((a - b)[0], (a - b)[-1], atol=1e-9)


def test_a_centre_line_runs_once_round_through_the_middle():
    volume = Volume(
        "L",
        400.0,
        300.0,
        200.0,
        shape=Plan(((0, 0), (1, 0), (1, 0.4), (0.4, 0.4), (0.4, 1), (0, 1))),
    )
    marks = draw_marks((Mark("section", 0, 0, (0.2,)),), volume.bare, volume.sides)
    assert marks.section.all() and np.allclose(marks.starts[:, 0], 80.0)
    length = np.linalg.norm(marks.ends - marks.starts, axis=1).sum()
    assert length == pytest.approx(2 * (300 + 200))
    for bad in ((0.0,), (1.5,), ()):
        with pytest.raises(VolumeError):
            Mark("section", 0, 0, bad)


@pytest.mark.sample(3)
@pytest.mark.parametrize("hangs", ["on", "like", "counts"])
@pytest.mark.parametrize("order", [1, -1])
def test_a_chain_of_any_length_settles_and_a_ring_of_any_length_is_refused(hangs, order):
    def link(key, upon):
        return {
            "on": {"on": Anchor(upon, (0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 0.0, 0.0))},
            "like": {"like": Stepped(upon, 1, (1.0, 0.0, 0.0))},
            "counts": {"counts": (Count(1.001, f"V{upon}.width"), None, None)},
        }[hangs]

    count = 1500
    first = Volume("V0", 100.0, 90.0, 80.0, key=0)
    rest = [
        replace(Volume(f"V{k}", 100.0, 90.0, 80.0, key=k), **link(k, k - 1))
        for k in range(1, count)
    ]
    settled, _modules = settle([first, *rest][::order], ())
    last = next(one for one in settled if one.key == count - 1)
    if hangs == "counts":
        assert last.width_mm == pytest.approx(100 * 1.001 ** (count - 1), rel=1e-9)
    else:
        assert last.x_mm == pytest.approx(count - 1)
    assert settle(settled, ())[0] == settled
    with pytest.raises(VolumeError, match="itself") as told:
        settle([replace(first, **link(0, count - 1)), *rest][::order], ())
    assert len(str(told.value)) < 200

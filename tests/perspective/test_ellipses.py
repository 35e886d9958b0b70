"""The picture of a circle against fifty digits; rules of thumb with their measured errors."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from mpmath import matrix, mp, mpf, sqrt

from isometron.perspective.ellipses import (
    Ellipse,
    apart,
    circle_picture,
    distance_to,
    nearest_guide,
    rule_gap,
)
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Eye, sight_axes
from isometron.perspective.projection import project
from tests import exact
from tests.scenes import eye

FIVE = [mpf(k) * 2 * mp.pi / 5 for k in range(5)]


def fitted(by, centre, normal, radius):
    """The ellipse through five exactly projected points of a circle: centre, half axes, tilt."""
    n = [mpf(float(v)) for v in normal]
    length = sqrt(exact.dot(n, n))
    n = [v / length for v in n]
    helper = [mpf(1), mpf(0), mpf(0)] if abs(n[0]) < 0.9 else [mpf(0), mpf(1), mpf(0)]
    e = [helper[i] - exact.dot(helper, n) * n[i] for i in range(3)]
    length = sqrt(exact.dot(e, e))
    e = [v / length for v in e]
    g = [n[1] * e[2] - n[2] * e[1], n[2] * e[0] - n[0] * e[2], n[0] * e[1] - n[1] * e[0]]
    r, u, f = exact.sight_axes(by)
    place = (by.x_mm, by.y_mm, by.height_mm)
    rows = []
    points = []
    for t in FIVE:
        world = [
            mpf(float(centre[i])) + mpf(radius) * (mp.cos(t) * e[i] + mp.sin(t) * g[i])
            for i in range(3)
        ]
        v = [w - mpf(p) for w, p in zip(world, place, strict=True)]
        d = mpf(by.station_distance_mm)
        points.append(
            (d * exact.dot(v, r) / exact.dot(v, f), d * exact.dot(v, u) / exact.dot(v, f))
        )
    x0, y0 = sum(p[0] for p in points) / 5, sum(p[1] for p in points) / 5
    size = max(abs(p[0] - x0) + abs(p[1] - y0) for p in points)
    for px, py in points:
        x, y = (px - x0) / size, (py - y0) / size
        rows.append([x * x, x * y, y * y, x, y])
    a, b, c, d, e5 = mp.lu_solve(matrix(rows), matrix([1] * 5))
    det = 4 * a * c - b * b
    cx, cy = (b * e5 - 2 * c * d) / det, (b * d - 2 * a * e5) / det
    level = 1 + a * cx * cx + b * cx * cy + c * cy * cy
    middle, half = (a + c) / 2, sqrt(((a - c) / 2) ** 2 + (b / 2) ** 2)
    long, short = size * sqrt(level / (middle - half)), size * sqrt(level / (middle + half))
    tilt = mp.degrees(mp.atan2(-b, c - a) / 2)
    ox, oy = by.centre_of_vision_mm
    return (cx * size + x0 + ox, cy * size + y0 + oy), long, short, tilt


def circles(seed, extreme):
    """Seeded circles before seeded eyes: near the eye's plane, near the eye level, far off axis."""
    rng = np.random.default_rng(seed)
    for _ in range(25):
        by = Eye(
            *rng.uniform(-2e3, 2e3, 2),
            rng.uniform(200, 3000),
            rng.uniform(-180, 180),
            rng.uniform(-50, 50),
            rng.uniform(200, 2000),
            (200.0, 150.0),
        )
        away = np.array([*rng.uniform(-1, 1, 2) * (3.0 if extreme == "far off" else 0.4), 1.0])
        depth = rng.uniform(800, 6000)
        centre = np.array(by.place) + depth * away @ sight_axes(by).astype(float)
        normal = rng.normal(size=3)
        radius = depth * rng.uniform(0.02, 0.25)
        if extreme == "eye level":
            normal = np.array([0.0, 0.0, 1.0])
            centre[2] = by.height_mm + rng.choice([-1, 1]) * depth * 10 ** rng.uniform(-4, -1)
        if extreme == "eye's plane":
            ahead = sight_axes(by)[2].astype(float)
            reach = math.sqrt(1 - (normal @ ahead / np.linalg.norm(normal)) ** 2)
            radius = depth / reach * (1 - 10 ** rng.uniform(-3, -1))
        yield by, centre, normal, radius


@pytest.mark.parametrize("extreme", ["plain", "far off", "eye level", "eye's plane"])
def test_an_ellipse_agrees_with_one_fitted_through_exact_points(extreme):
    for by, centre, normal, radius in circles(7, extreme):
        ellipse = circle_picture(by, centre, normal, radius).ellipse
        (x, y), long, short, tilt = fitted(by, centre, normal, radius)
        bound = (1e-9 if ellipse.degree_deg >= 1 else 1e-6) * float(long)
        assert abs(ellipse.centre_mm[0] - x) < bound and abs(ellipse.centre_mm[1] - y) < bound
        assert abs(ellipse.semi_major_mm - long) < bound
        assert abs(ellipse.semi_minor_mm - short) < bound
        turned = math.radians(apart(ellipse.major_axis_deg, float(tilt)))
        assert turned * float(long - short) < bound * 10


def small_circle(off_deg, degree, spin, towards=0.0):
    """A small circle so far off axis, of about an openness, its normal turned round the sight."""
    by = eye(height_mm=0.0)
    t = math.radians(off_deg)
    sight = np.array(
        [math.sin(t) * math.cos(towards), math.cos(t), math.sin(t) * math.sin(towards)]
    )
    side = np.cross(sight, [0.3, 0.1, 1.0])
    side /= np.linalg.norm(side)
    other = np.cross(sight, side)
    open_ = math.radians(degree)
    aside = math.cos(spin) * side + math.sin(spin) * other
    return circle_picture(by, 3000 * sight, math.sin(open_) * sight + math.cos(open_) * aside, 1.0)


@pytest.mark.parametrize(
    ("off", "degree", "low", "high"),
    [
        (10, 40, 0.9, 1.6),
        (10, 70, 7.0, 9.0),
        (20, 40, 4.0, 6.5),
        (20, 60, 13.0, 17.0),
        (30, 50, 18.0, 23.0),
    ],
)
def test_the_rule_of_the_minor_axis_misses_by_what_was_measured(off, degree, low, high):
    misses = [small_circle(off, degree, spin).miss_deg for spin in np.linspace(0, math.pi, 90)]
    assert low <= max(misses) <= high


def test_the_centre_of_a_circle_is_not_the_centre_of_its_ellipse():
    for share, percent in ((0.1, 12), (0.3, 35)):
        picture = circle_picture(
            eye(),
            np.array([0, 2000.0, 500.0]),
            np.array([0, 0, 1.0]),
            share * math.hypot(2000, 1000),
        )
        off = math.dist(picture.centre_mm, picture.ellipse.centre_mm)
        assert 100 * off / picture.ellipse.semi_minor_mm == pytest.approx(percent, abs=12)


def test_a_circle_square_to_us_stays_round_and_one_beside_us_is_no_ellipse():
    ahead = np.array([0.0, 1.0, 0.0])
    whole = circle_picture(eye(), np.array([0.0, 3000.0, 1500.0]), ahead, 100.0).ellipse
    assert whole.semi_major_mm == pytest.approx(20) and whole.degree_deg == pytest.approx(90)
    up = np.array([0.0, 0.0, 1.0])
    assert circle_picture(eye(), np.array([0, 1000.0, 0]), up, 1200.0).conic == "hyperbola"
    assert circle_picture(eye(), np.array([0, 1000.0, 0]), up, 1000.0).conic == "parabola"
    with pytest.raises(VolumeError, match="radius"):
        circle_picture(eye(), np.zeros(3), up, math.nan)


@given(
    st.floats(-80, 80), st.floats(-180, 180), st.floats(200, 5000), st.floats(-40, 40),
    st.floats(0, 180), st.floats(0.01, 0.3),
)  # fmt: skip
def test_a_circle_seen_edge_on_is_the_line_between_its_outermost_points(
    tilt, heading, away, aside, lean, share
):
    by = eye(tilt_deg=tilt, heading_deg=heading)
    right, up, ahead = (np.array(one, dtype=float) for one in sight_axes(by))
    sight = ahead + math.tan(math.radians(aside)) * right
    across = math.cos(math.radians(lean)) * right + math.sin(math.radians(lean)) * up
    normal = np.cross(sight, across)  # so that the eye lies in the circle's own plane
    centre, radius = np.array(by.place) + away * sight, share * away
    picture = circle_picture(by, centre, normal, radius)
    assert (picture.conic, picture.ellipse, picture.miss_deg) == ("line", None, None)
    n = normal / np.linalg.norm(normal)
    e = np.cross(n, [1.0, 0, 0]) if abs(n[0]) < 0.9 else np.cross(n, [0, 1.0, 0])
    e /= np.linalg.norm(e)
    turn = np.radians(np.arange(0, 360, 0.01))[:, None]
    seen = project(by, centre + radius * (np.cos(turn) * e + np.sin(turn) * np.cross(n, e))).sheet
    ends = np.array(picture.segment_mm)
    long = np.linalg.norm(ends[1] - ends[0])
    run = (ends[1] - ends[0]) / long
    along, off = (seen - ends[0]) @ run, (seen - ends[0]) @ np.array([-run[1], run[0]])
    assert abs(off).max() < 1e-8 * max(long, 1)
    assert [along.min(), along.max()] == pytest.approx([0, long], abs=1e-6 * long)


def test_a_round_picture_has_no_long_axis_and_what_lies_behind_has_no_picture():
    ahead, up = np.array([0.0, 1.0, 0.0]), np.array([0.0, 0.0, 1.0])
    whole = circle_picture(eye(), np.array([0.0, 3000.0, 1500.0]), ahead, 100.0)
    assert (whole.conic, whole.miss_deg) == ("round", None)
    for normal in (ahead, up):
        for depth in (-1000.0, -50.0):
            behind = circle_picture(eye(), np.array([0.0, depth, 1200.0]), normal, 50.0)
            assert (behind.conic, behind.ellipse, behind.centre_mm) == ("behind", None, None)


@given(st.floats(1, 200), st.floats(0.01, 1), st.floats(-89, 89))
def test_the_gap_of_the_rule_is_the_furthest_the_two_ellipses_part(long, share, turn):
    true = Ellipse((30.0, 40.0), long, share * long, 20.0)
    drawn = Ellipse((30.0, 40.0), long, share * long, 20.0 + turn)
    fine = true.point(np.linspace(0, 360, 4001))
    coarse = drawn.point(np.linspace(0, 360, 181))
    brute = np.min(np.hypot(*(coarse[:, None] - fine[None]).transpose(2, 0, 1)), axis=1).max()
    assert rule_gap(true, 110.0 + turn) == pytest.approx(brute, rel=2e-3, abs=2e-3 * long)


@given(st.floats(-300, 300), st.floats(-300, 300), st.floats(0.05, 1))
def test_the_distance_to_an_ellipse_is_the_shortest(x, y, share):
    turn = np.linspace(0, 2 * math.pi, 20001)
    brute = np.hypot(100 * np.cos(turn) - x, 100 * share * np.sin(turn) - y).min()
    found = float(distance_to(100.0, 100.0 * share, np.array([x]), np.array([y]))[0])
    assert found == pytest.approx(brute, abs=0.02)


def test_the_nearest_guide_is_the_one_that_errs_least():
    ellipse = Ellipse((0.0, 0.0), 27.3, 15.9, 12.0)
    degrees, sizes = (20.0, 35.0, 40.0), (50.0, 54.0, 60.0)
    guide = nearest_guide(ellipse, degrees, sizes)
    true = ellipse.point(np.linspace(0, 360, 3601))

    def error(degree, size):
        other = Ellipse((0.0, 0.0), size / 2, size / 2 * math.sin(math.radians(degree)), 12.0)
        laid = other.point(np.linspace(0, 360, 721))
        return np.min(np.hypot(*(laid[:, None] - true[None]).transpose(2, 0, 1)), axis=1).max()

    errors = {(d, s): error(d, s) for d in degrees for s in sizes}
    assert (guide.degree_deg, guide.long_axis_mm) == min(errors, key=errors.get)
    assert guide.error_mm == pytest.approx(min(errors.values()), abs=0.02)
    assert nearest_guide(ellipse, (), sizes) is None


@pytest.mark.parametrize(
    ("degree", "long"), [(59.8, 45.0), (53.0, 198.0), (53.0, 46.9), (12.4, 9.0), (88.0, 101.5)]
)
def test_of_guides_that_err_alike_the_other_axis_decides(degree, long):
    degrees = tuple(float(d) for d in range(10, 85, 5))
    sizes = tuple(float(s) for s in (*range(4, 41, 2), 45, *range(50, 101, 10), 9))
    ellipse = Ellipse((0.0, 0.0), long / 2, long / 2 * math.sin(math.radians(degree)), 0.0)
    guide = nearest_guide(ellipse, degrees, sizes)
    assert guide.larger == (long > 101)
    errors = {
        (d, s): sorted(
            (abs(s - long) / 2, abs(s / 2 * math.sin(math.radians(d)) - ellipse.semi_minor_mm))
        )[::-1]
        for d in degrees
        for s in sizes
    }
    assert (guide.degree_deg, guide.long_axis_mm) == min(errors, key=errors.get)


def test_an_ellipse_seen_edge_on_is_the_line_between_its_ends():
    x, y = np.array([0.0, 3.0, -7.0, 5.0]), np.array([0.0, 2.0, 0.0, -1.0])
    line = distance_to(5.0, 0.0, x, y)
    assert line == pytest.approx([0.0, 2.0, 2.0, 1.0])
    assert distance_to(5.0, 1e-9, x, y) == pytest.approx(line, abs=1e-8)

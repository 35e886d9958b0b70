"""Ellipses fitted to rims: exact without noise, as good as can be with it."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.marks import Lens, Marks, Picture, Round
from isometron.reading.reading import read_marks
from isometron.reading.rims import RimError, feet, fit_rim
from tests.scenes import some


def along(values, t):
    cx, cy, a, b, angle = values
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    return np.stack([a * np.cos(t), b * np.sin(t)], axis=1) @ turn.T + (cx, cy)


@pytest.mark.parametrize("shape", [(30, 12.5), (30, 29.9), (400, 3), (0.02, 0.01)])
@pytest.mark.parametrize("turn", [-1.4, 0.0, 0.4, 1.5])
def test_any_arc_of_an_ellipse_is_found_again(shape, turn):
    values = np.array([100.0, -80.0, *shape, turn])
    found = fit_rim(along(values, np.linspace(0.4, 3.9, 25)))
    assert found.values[:4] == pytest.approx(values[:4], rel=1e-6)
    if shape[0] > 1.1 * shape[1]:
        apart = (found.values[4] - turn + np.pi / 2) % np.pi - np.pi / 2
        assert abs(apart) < 1e-6
    assert found.degree_deg == pytest.approx(np.degrees(np.arcsin(shape[1] / shape[0])), abs=1e-4)


def test_the_foot_of_a_distance_is_the_nearest_place():
    rng = np.random.default_rng(3)
    points = np.concatenate([rng.normal(0, 30, (200, 2)), [[0, 0], [10, 0], [0, 10], [29, 0]]])
    t = feet(points, 30.0, 12.0)
    near = np.hypot(*(points - np.stack([30 * np.cos(t), 12 * np.sin(t)], axis=1)).T)
    every = np.linspace(0, 2 * np.pi, 20_001)
    ring = np.stack([30 * np.cos(every), 12 * np.sin(every)], axis=1)
    least = [np.hypot(*(ring - p).T).min() for p in points]
    assert (near <= np.array(least) + 1e-9).all()


def bound(values, t, noise):
    """The least covariance any estimate can have: places along the rim are unknown too, so only
    what moves the rim at right angles to itself counts."""
    step = 1e-6
    normal = along(values, t + step) - along(values, t - step)
    normal = np.stack([normal[:, 1], -normal[:, 0]], axis=1)
    normal /= np.hypot(*normal.T)[:, None]
    rows = []
    for i in range(5):
        ahead, behind = values.copy(), values.copy()
        ahead[i] += step
        behind[i] -= step
        rows.append(((along(ahead, t) - along(behind, t)) / (2 * step) * normal).sum(axis=1))
    return noise**2 * np.linalg.inv(np.array(rows) @ np.array(rows).T)


def test_errors_are_as_small_as_they_can_be_and_stated_as_they_are(many):
    values, t = np.array([10.0, 20.0, 30.0, 12.5, 0.4]), np.linspace(0, 2 * np.pi, 60)
    rng, count = np.random.default_rng(1), many(80, 3000)
    least = np.sqrt(np.diag(bound(values, t, 0.3)))
    errors, pulls = [], []
    for _ in range(count):
        points = along(values, t)
        found = fit_rim(points + 0.3 * rng.standard_normal(points.shape))
        errors.append(found.values - values)
        pulls.append(errors[-1] / (0.3 * np.sqrt(np.diag(found.covariance))))
    spare = 3 / np.sqrt(2 * count)
    assert (np.sqrt(np.mean(np.square(errors), axis=0)) < (1.02 + spare) * least).all()
    assert np.abs(np.std(pulls, axis=0) - 1).max() < 0.05 + spare


@pytest.mark.parametrize(
    "points",
    [
        [(0, 0)] * 9,
        [(i, 2 * i) for i in range(9)],
        [(0, 0), (1, 0), (0, 1)],
        [(i, i * i) for i in range(-4, 5)][:5],
    ],
)
def test_what_is_no_rim_is_refused_with_a_sentence(points):
    with pytest.raises(RimError, match=r"mark|edge-on"):
        fit_rim(np.array(points, dtype=float))


def seen_ring(middle, radius, tilt_deg, roll_deg, rng, noise=0.4):
    """Points of a level circle in a picture of 1200 × 900 px, 1000 px before the eye."""
    turn = 2 * np.pi * np.arange(60) / 60
    x, y, z = middle
    world = np.stack([x + radius * np.cos(turn), y + radius * np.sin(turn), 0 * turn + z], axis=1)
    tilt, roll = math.radians(tilt_deg), math.radians(roll_deg)
    away = world @ [0, math.cos(tilt), math.sin(tilt)]
    right = 1000 * world[:, 0] / away
    up = 1000 * (world @ [0, -math.sin(tilt), math.cos(tilt)]) / away
    c, s = math.cos(roll), math.sin(roll)
    place = np.stack([600 + c * right - s * up, 450 + s * right + c * up], axis=1)
    return tuple(map(tuple, (place + noise * rng.standard_normal(place.shape)).tolist()))


def true_level(tilt_deg, roll_deg, x):
    """The height of the eye level at a place across that picture."""
    high, roll = -1000 * math.tan(math.radians(tilt_deg)), math.radians(roll_deg)
    along = (x - 600 + math.sin(roll) * high) / math.cos(roll)
    return 450 + math.sin(roll) * along + math.cos(roll) * high


PICTURE = Picture(1200, 900, (600, 450))
RINGS = (((20, 1000, -250), 120), ((-30, 1000, -120), 150))


@pytest.mark.sample(1)
@pytest.mark.parametrize(("tilt", "roll"), some([(5, 0), (-18, 2), (-35, 3)], 1))
def test_two_upright_rims_tell_the_eye_level_as_surely_as_they_say(tilt, roll):
    rng, pulls = np.random.default_rng(abs(tilt)), []
    for _trial in range(12):
        rims = tuple(Round(seen_ring(*r, tilt, roll, rng), "height") for r in RINGS)
        told = read_marks(Marks(PICTURE, (), rims, noise=0.4))
        for x, one in zip((0, 1200), told.eye_level, strict=True):
            pulls.append((one.value - true_level(tilt, roll, x)) / one.standard_error)
        assert told.view.roll_deg.value == pytest.approx(roll, abs=0.15) and not told.refused
    assert 0.5 < np.std(pulls) < 1.5 and abs(np.mean(pulls)) < 0.8


def test_one_rim_tells_the_eye_level_with_the_lens_or_as_a_straight_line():
    rng = np.random.default_rng(5)
    one = Round(seen_ring(*RINGS[0], -18, 0, rng), "height", "lid")
    told = read_marks(Marks(PICTURE, (), (one,), noise=0.4, lens=Lens(1000, 30)))
    for x, level in zip((0, 1200), told.eye_level, strict=True):
        assert abs(level.value - true_level(-18, 0, x)) < 3 * level.standard_error < 60
    flat = tuple((x, 333 + 0.02 * x + 0.3 * rng.standard_normal()) for x in range(100, 700, 20))
    left, right = read_marks(Marks(PICTURE, (), (Round(flat, "height"),))).eye_level
    assert abs(left.value - 333) < 4 * left.standard_error < 2
    assert abs(right.value - 357) < 4 * right.standard_error < 3
    for rims, picture, words in (
        ((one,), PICTURE, "second rim"),
        ((one, one), Picture(1200, 900), "uncropped"),
        ((replace(one, axle="width"),), PICTURE, "two families"),
    ):
        told = read_marks(Marks(picture, (), rims, noise=0.4))
        assert told.eye_level is None and words in told.refused[0].would_help

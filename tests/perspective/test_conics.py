"""Arcs of conics against plain projection of points, and roots against another library."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.polynomial import polynomial
from scipy.special import ellipeinc

from isometron.perspective.conics import (
    between,
    chords,
    circle_arcs,
    conic_arc,
    in_front,
    lengths,
    pictures,
    points_at,
    roots,
    seen_from,
)
from isometron.perspective.projection import project
from tests.scenes import eye, floats


def powers(c):
    total, degree = np.zeros(1), len(c) - 1
    for i, value in enumerate(c):
        one = polynomial.polymul(
            polynomial.polypow([0, 1], i), polynomial.polypow([1, -1], degree - i)
        )
        total = polynomial.polyadd(total, value * math.comb(degree, i) * one)
    return total


@given(st.lists(floats(-10, 10), min_size=5, max_size=5))
def test_roots_are_those_another_library_finds(c):
    c = np.round(c, 3)
    found = np.sort(roots(c[None])[1])
    value = polynomial.polyval(found, powers(c))
    assert (np.abs(value) <= 1e-9 * max(np.abs(c).max(), 1e-9)).all()
    known = polynomial.polyroots(powers(c))
    simple = [z.real for z in known if abs(z.imag) < 1e-12 and 1e-6 < z.real < 1 - 1e-6]
    lone = [z for z in simple if sum(abs(z - w) < 1e-4 for w in known) == 1]
    assert all(np.abs(found - z).min(initial=np.inf) < 1e-9 for z in lone)


@given(floats(-60, 60), floats(-90, 90), floats(10, 800), floats(5, 355))
def test_the_picture_of_an_arc_runs_through_the_pictures_of_its_points(tilt, start, radius, sweep):
    by = eye(tilt_deg=tilt)
    ahead = np.array([0.0, math.cos(math.radians(tilt)), math.sin(math.radians(tilt))])
    centre = np.array(by.place) + 2500 * ahead
    across, along = radius * np.array([1.0, 0, 0]), radius * np.array([0, 0.6, 0.8])
    arcs = circle_arcs(centre, across, along, start, sweep)
    drawn = pictures(by, seen_from(by, arcs))
    for t in (0.0, 0.3, 0.77, 1.0):
        share = np.full(len(arcs), t)
        on_circle = points_at(arcs, share)
        assert np.allclose(np.linalg.norm(on_circle - centre, axis=1), radius, rtol=1e-12)
        flat = points_at(drawn, share)
        assert np.abs(flat - project(by, on_circle).sheet).max() < 1e-9
    part = between(drawn, np.full(len(arcs), 0.2), np.full(len(arcs), 0.9))
    a, b = np.full(len(arcs), 0.2), np.full(len(arcs), 0.9)
    assert np.abs(points_at(part, np.zeros(len(arcs))) - points_at(drawn, a)).max() < 1e-9
    assert np.abs(points_at(part, np.ones(len(arcs))) - points_at(drawn, b)).max() < 1e-9


def test_what_lies_behind_the_eye_is_cut_off_where_it_passes_us():
    by = eye()
    arcs = circle_arcs(
        np.array([0.0, 500.0, 0.0]), np.array([900.0, 0, 0]), np.array([0, 900.0, 0])
    )
    relative = seen_from(by, arcs)
    numbers, spans = in_front(by, relative)
    turned = 0.0
    for number, (a, b) in zip(numbers, spans, strict=True):
        for t in (a, b):
            depth = points_at(arcs[number][None], np.array([t]))[0, 1]
            assert depth > 0.99 and (t in (0.0, 1.0) or abs(depth - 1) < 1e-6)
        ends = [points_at(arcs[number][None], np.array([t]))[0] - (0, 500.0, 0) for t in (a, b)]
        turned += math.acos(np.dot(*ends) / 900**2)
    assert math.isclose(turned, 2 * math.pi - 2 * math.acos(499 / 900), rel_tol=1e-9)


def test_a_conic_arc_keeps_to_its_conic_and_its_side():
    form = np.array([[2.0, 0.3, -1.0], [0.3, -1.5, 0.4], [-1.0, 0.4, -2.0]])  # a hyperbola
    x = np.array([1.6, 2.0, 2.4])
    a, b = form[1, 1], 2 * (form[0, 1] * x + form[1, 2])
    y = (-b - np.sqrt(b * b - 4 * a * (form[0, 0] * x * x + 2 * form[0, 2] * x + form[2, 2]))) / (
        2 * a
    )
    points = np.stack([x, y, np.ones(3)], axis=1)
    arc = conic_arc(points[0], points[2], form, points[1])
    for t in np.linspace(0, 1, 9):
        at = np.append(points_at(arc[None], np.array([t]))[0], 1.0)
        assert abs(at @ form @ at) < 1e-12
    assert (
        min(
            np.abs(points_at(arc[None], np.array([t]))[0] - points[1, :2]).max()
            for t in np.linspace(0, 1, 2001)
        )
        < 1e-3
    )


def test_chords_for_the_screen_miss_the_arc_by_less_than_they_say():
    arcs = circle_arcs(np.zeros(3), np.array([80.0, 0, 0]), np.array([0, 80.0, 0]))
    flat = np.delete(arcs, 2, axis=2)
    for run in chords(flat, 0.05):
        middles = (run[1:] + run[:-1]) / 2
        assert (80 - np.hypot(middles[:, 0], middles[:, 1])).max() < 0.05


def test_chords_of_an_arc_of_more_than_half_a_turn_stay_on_it():
    half = math.radians(130.0)  # the middle weight is the cosine of half the turn: below 0
    c, s = math.cos(half), math.sin(half)
    arc = np.array([[80 * c, -80 * s, 1.0], [80.0, 0.0, c], [80 * c, 80 * s, 1.0]])
    points = chords(arc[None], 0.01)[0]
    assert np.allclose(np.hypot(*points.T), 80.0, rtol=1e-9)
    middles = (points[1:] + points[:-1]) / 2
    assert np.hypot(*middles.T).min() > 80.0 - 0.02
    assert points[:, 0].max() > 79.9, "it runs the long way round"


@pytest.mark.parametrize("sweep", [3.0, 90.0, 200.0, 360.0])
@pytest.mark.parametrize("flat", [1.0, 0.6, 0.05])
def test_lengths_of_arcs_are_those_of_the_elliptic_integral(sweep, flat):
    """Ellipses of half axes 70 and 70·flat in space, from any angle on: E(φ, m) by scipy."""
    turned = np.array([[0.6, 0.8, 0.0], [-0.8, 0.6, 0.0]])
    across, along = 70 * turned[0], 70 * flat * turned[1]
    arcs = circle_arcs(np.array([5.0, -3.0, 2.0]), across, along, 20.0, sweep)
    # from the long axis on, the length is b∫√(1 + (a²/b² − 1) sin²) = b E(φ, 1 − a²/b²)
    m = 1 - 1 / flat**2
    ends = np.radians([20.0, 20.0 + sweep])
    true = 70 * flat * (ellipeinc(ends[1], m) - ellipeinc(ends[0], m))
    assert lengths(arcs).sum() == pytest.approx(true, rel=1e-9)
    straight = np.array([[[0, 0, 1], [1.5, 2, 1], [3, 4, 1]]], dtype=float)
    assert lengths(straight) == pytest.approx([5.0], rel=1e-14) and lengths(arcs[:0]).size == 0

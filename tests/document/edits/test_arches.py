"""Arches, round ends and lids: what they take away and add, and what is refused."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits.choosing import select
from isometron.document.edits.shapes import arches, rounding
from isometron.framework.bodies.extruded import flats_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.taper import Taper
from isometron.framework.outlines import chorded, parity
from isometron.perspective.errors import VolumeError
from tests.scenes import case, sheet

WHOLE = 300 * 100 * 200


def box(**changes):
    return sheet(case(width_mm=300.0, depth_mm=100.0, height_mm=200.0, **changes))


def is_solid(volume, u, v):
    """Whether the outline of an extrusion holds a place, mm along its two cross axes."""
    inside = False
    for ring in flats_of(volume.shape.rings, volume.shape.axis, volume.sides):
        inside ^= bool(parity(chorded(ring, 0.01), np.array([[u, v]]))[0])
    return inside


@pytest.mark.parametrize("axis", [0, 1])
def test_an_arch_is_open_below_its_bow_and_nowhere_else(axis):
    wide = 300.0 if axis == 1 else 100.0
    made = arches.cut_arch(box(), axis, wide / 2, 60.0, 50.0).volume
    middle = wide / 2
    for u, v in ((0, 1), (0, 79), (29, 1), (29, 49), (20, 71), (-29, 25)):
        assert not is_solid(made, middle + u, v), (u, v)
    for u, v in ((31, 1), (0, 81), (25, 70), (-31, 49), (40, 120)):
        assert is_solid(made, middle + u, v), (u, v)


def test_two_arches_stand_side_by_side():
    first = arches.cut_arch(box(), 1, 80.0, 60.0, 40.0)
    both = arches.cut_arch(first, 1, 220.0, 60.0, 40.0).volume
    one = 100 * (60 * 40 + math.pi * 30**2 / 2)
    assert both.contents_mm3 == pytest.approx(WHOLE - 2 * one)
    assert not is_solid(both, 80, 20) and not is_solid(both, 220, 20) and is_solid(both, 150, 20)


@pytest.mark.parametrize("rise", [-20.0, 0.0, 35.0])
def test_a_wheel_arch_takes_away_part_of_a_circle(rise):
    made = arches.cut_wheel_arch(box(), 1, 150.0, rise, 60.0).volume
    half = math.acos(-rise / 60.0)
    part = 60.0**2 * (half - math.sin(2 * half) / 2)  # the circle above the base
    assert made.contents_mm3 == pytest.approx(WHOLE - 100 * part)
    assert not is_solid(made, 150.0, rise + 59.0) and is_solid(made, 150.0, rise + 61.0)


@pytest.mark.parametrize("far", [False, True])
@pytest.mark.parametrize("axis", [0, 1])
def test_a_round_end_is_half_a_circle_at_that_end(axis, far):
    made = arches.round_end(_long(axis), axis, far).volume
    wide, high = (made.sides[0] if axis == 1 else made.sides[1]), 200.0
    corner = wide - 1.0 if far else 1.0
    assert not is_solid(made, corner, 1.0) and not is_solid(made, corner, high - 1.0)
    assert is_solid(made, corner, high / 2)
    other = 1.0 if far else wide - 1.0
    assert is_solid(made, other, 1.0) and is_solid(made, other, high - 1.0)


def _long(axis):
    sides = {"width_mm": 100.0, "depth_mm": 300.0} if axis == 0 else {}
    return sheet(case(**{"width_mm": 300.0, "depth_mm": 100.0, "height_mm": 200.0} | sides))


def _tapered(document):
    index = document.selected
    return document.with_volume(index, replace(document.volume, shape=Taper(front_mm=20.0)))


def _drum(document):
    return rounding.make_round(document, "cylinder")


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda d: arches.cut_arch(d, 1, 20.0, 60.0, 40.0), "runs out of the side"),
        (lambda d: arches.cut_arch(d, 1, 150.0, -5.0, 40.0), "runs out of the side"),
        (lambda d: arches.cut_arch(d, 1, 150.0, 120.0, 150.0), "higher than the volume"),
        (lambda d: arches.cut_arch(_tapered(d), 1, 150.0, 60.0, 40.0), "whole box first"),
        (lambda d: arches.cut_arch(_drum(d), 1, 50.0, 60.0, 40.0), "whole box first"),
        (lambda d: arches.cut_arch(arches.extrude_box(d, 0), 1, 150.0, 60.0, 9.0), "other way"),
        (lambda d: arches.cut_wheel_arch(d, 1, 150.0, 80.0, 60.0), "does not reach the base"),
        (lambda d: arches.cut_wheel_arch(d, 1, 30.0, 0.0, 60.0), "runs out of the side"),
        (
            lambda d: arches.cut_wheel_arch(
                arches.cut_wheel_arch(d, 1, 150.0, 0.0, 60.0), 1, 180.0, 0.0, 60.0
            ),
            "no straight base there",
        ),
        (lambda d: arches.round_end(arches.extrude_box(d, 1), 1, True), "Only a whole box"),
        (
            lambda d: arches.cut_arch(
                rounding.add_circle(d, FaceCircle(5, (0.5, 0.5), 9.0)), 1, 150.0, 60.0, 9.0
            ),
            "other sides carry circles",
        ),
        (lambda d: arches.round_end(d, 0, True), "too short for half a circle"),
        (lambda d: arches.set_on_face(d, "knob", 5, (0.5, 0.5), (0.0, 15.0)), "type both"),
    ],
)
def test_what_cannot_be_cut_is_refused_and_nothing_is_lost(make, words):
    start = box()
    with pytest.raises(VolumeError, match=words):
        make(start)
    assert start == box()


@pytest.mark.parametrize("what", arches.LIDS)
def test_what_is_set_on_a_face_follows_it(what):
    made = arches.set_on_face(box(), what, 5, (0.25, 0.5), (40.0, 12.0))
    place, axes = made.volumes[-1].pose
    foot = place + np.array([20.0, 20.0, 0.0]) @ axes
    body_place, body_axes = made.volumes[0].pose
    assert body_axes @ (foot - body_place) == pytest.approx([75.0, 50.0, 200.0])
    body = made.volumes[0]
    grown = made.with_volume(0, replace(body, height_mm=260.0, width_mm=400.0))
    place, axes = grown.volumes[-1].pose
    foot = place + np.array([20.0, 20.0, 0.0]) @ axes
    assert body_axes @ (foot - grown.volumes[0].pose[0]) == pytest.approx([100.0, 50.0, 260.0])


def test_a_hole_and_an_arch_stand_in_one_side():
    holed = rounding.add_circle(box(), FaceCircle(2, (0.5, 0.8), 15.0, through=True))
    assert holed.volume.circles[0].through
    contents = holed.volume.contents_mm3
    assert contents == pytest.approx(WHOLE - 100 * math.pi * 15**2)
    arched = arches.cut_arch(select(holed, 0), 1, 150.0, 60.0, 50.0).volume
    assert isinstance(arched.shape, Extruded)
    assert arched.contents_mm3 == pytest.approx(contents - 100 * (60 * 50 + math.pi * 30**2 / 2))

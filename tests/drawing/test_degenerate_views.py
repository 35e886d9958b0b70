"""Exactly degenerate views of every kind of volume against fifty digits: nothing is drawn where it
is not, nothing is called what it is not."""

import math
import re

import numpy as np
import pytest
from mpmath import cos, mpf, pi, sin, sqrt

from isometron.construction.order import order_of
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import scene_of
from isometron.files.report import report_text
from isometron.files.sheet_page import svg_of
from isometron.perspective.errors import IsometronError
from isometron.perspective.projection import NEAR_MM
from isometron.remarks.second_look import second_look
from tests import exact, kinds
from tests.scenes import eye, seeds, sheet

VIEWS = {
    "top edge-on": eye(height_mm=1600.0),
    "base edge-on": eye(height_mm=1440.0),
    "side edge-on": eye(x_mm=-60.0),
    "on the middle axle": eye(x_mm=0.0, height_mm=1500.0),
    "corner at the eye": eye(x_mm=-60.0, y_mm=2000.0, height_mm=1440.0),
    "inside": eye(x_mm=0.0, y_mm=2060.0),
    "face in the eye's plane": eye(x_mm=300.0, y_mm=2000.0),
    "behind": eye(y_mm=4000.0),
    "straight down": eye(x_mm=0.0, y_mm=2060.0, height_mm=4000.0, tilt_deg=-90.0),
    "straight down off the side": eye(x_mm=400.0, y_mm=1500.0, height_mm=4000.0, tilt_deg=-90.0),
    "straight up": eye(x_mm=0.0, y_mm=2000.0, height_mm=100.0, tilt_deg=90.0),
    "looking along the ground": eye(height_mm=0.0),
    "square, tilted": eye(height_mm=3000.0, tilt_deg=-45.0),
}
ROUND = 24


def circle_places(by, circle):
    """Places (x, y, depth) of a circle on the sheet, in fifty digits."""
    centre = [mpf(float(v)) for v in circle.centre]
    one, other = ([mpf(float(v)) for v in axis] for axis in circle.axes)
    found = []
    for number in range(ROUND):
        c, s = (mpf(circle.radius_mm) * f(2 * pi * number / ROUND) for f in (cos, sin))
        world = [p + c * a + s * b for p, a, b in zip(centre, one, other, strict=True)]
        right, up, ahead = exact.sight_axes(by)
        run = [w - mpf(e) for w, e in zip(world, by.place, strict=True)]
        found.append((exact.dot(run, right), exact.dot(run, up), exact.dot(run, ahead)))
    return found


def drawn(by, place):
    right, up, depth = place
    d = mpf(by.station_distance_mm)
    cx, cy = by.centre_of_vision_mm
    return float(cx + d * right / depth), float(cy + d * up / depth)


def nearest_depth(by, circle):
    """Least and greatest depth of a circle: of its middle, and its radius times the sine of the
    angle between its axle and the sight line either way."""
    ahead = exact.sight_axes(by)[2]
    run = [mpf(float(c)) - mpf(e) for c, e in zip(circle.centre, by.place, strict=True)]
    lean = [exact.dot([mpf(float(v)) for v in axis], ahead) for axis in circle.axes]
    reach = mpf(circle.radius_mm) * sqrt(lean[0] ** 2 + lean[1] ** 2)
    return float(exact.dot(run, ahead) - reach), float(exact.dot(run, ahead) + reach)


def check_circle(by, circle):
    low, high = nearest_depth(by, circle)
    state = circle.picture.conic
    places = circle_places(by, circle)
    if high <= 0:
        assert state == "behind"
        return
    if state in ("parabola", "hyperbola", "behind"):
        assert low <= NEAR_MM * (1 + 1e-9)
        return
    if low <= NEAR_MM:  # the plane of the eye, seen edge-on: a part of a line
        assert state == "line"
        return
    points = np.array([drawn(by, place) for place in places])
    size = max(1.0, float(np.ptp(points, axis=0).max()))
    if state == "line":
        (start, end) = (np.array(p) for p in circle.picture.segment_mm)
        run = (end - start) / np.linalg.norm(end - start)
        off = points - start
        assert np.abs(off[:, 0] * run[1] - off[:, 1] * run[0]).max() < 1e-9 * size
        along = off @ run
        length = float(np.linalg.norm(end - start))
        assert along.min() > -1e-7 * size and along.max() < length + 1e-7 * size
        assert np.ptp(along) > 0.95 * length
        return
    ellipse = circle.ellipse
    turn = math.radians(ellipse.major_axis_deg)
    off = points - np.array(ellipse.centre_mm)
    major = off @ np.array([math.cos(turn), math.sin(turn)]) / ellipse.semi_major_mm
    minor = off @ np.array([-math.sin(turn), math.cos(turn)]) / ellipse.semi_minor_mm
    thin = ellipse.semi_major_mm / ellipse.semi_minor_mm
    assert np.abs(np.hypot(major, minor) - 1).max() < 1e-9 * thin**2
    assert state == ("round" if thin == 1.0 else "ellipse") or thin - 1 < 1e-6


@pytest.mark.sample(3)
@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("turn", seeds(1, 2))
def test_every_kind_is_drawn_truly_or_not_at_all(view, turn, many):
    by, every = VIEWS[view], list(enumerate(kinds.EVERY))
    for number, (kind, sides) in every[list(VIEWS).index(view) % 3 :: many(3, 1)]:
        yaw = 25.0 * ((number + len(view) + turn) % 2)
        document = sheet(kinds.volume(kind, sides, yaw_deg=yaw), by=by)
        scene = scene_of(document)
        (picture,) = scene.pictures
        for world, place in zip(picture.world, picture.sheet, strict=True):
            x, y, depth = exact.seen(by, world)
            if depth <= NEAR_MM:
                assert np.isnan(place).all()
                continue
            size = max(1.0, float(depth), abs(float(x)), abs(float(y)))
            assert place == pytest.approx([float(x), float(y)], abs=1e-9 * size)
        assert np.isfinite(picture.lines).all() and np.isfinite(picture.arcs).all()
        for circle in all_circles(scene):
            check_circle(by, circle)
        told = report_text(document) + " ".join(r.text for r in second_look(document, scene))
        assert "NaN" not in told and "nan" not in told.split()
        assert b"nan" not in svg_of(document, scene)
        if not number % 4:
            try:
                assert order_of(document).steps is not None
            except IsometronError as refused:
                assert str(refused).endswith(".") and not re.search(r"\b[pl]\d", str(refused))

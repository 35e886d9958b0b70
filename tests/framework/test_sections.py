"""Section lines of curved bodies and circles on faces, against the plain definitions."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.framework.bodies.body import CIRCLE, SECTION
from isometron.framework.bodies.lathe import segments_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import Turned
from isometron.framework.marks import Mark
from isometron.framework.outlines import Knot, chorded, circle, flat
from isometron.framework.placing import Mirrored
from isometron.framework.settling import settle
from isometron.framework.volume import Volume
from isometron.perspective.conics import points_at, straight
from isometron.perspective.errors import VolumeError

VASE = Turned(((0.0, 0.7), (0.2, 1.0), (0.5, 0.35), (0.8, 0.6), (1.0, 0.5)), join="smooth")
SIDES = (120.0, 120.0, 200.0)
HOUSE = (Knot(0, 0), Knot(0.3, 0, -1.0), Knot(0.6, 0), Knot(1, 0), Knot(1, 0.6), Knot(0.4, 1))


def vase(axis=2, **changes):
    sides = [120.0, 120.0, 120.0]
    sides[axis] = 200.0
    return Volume("Red lamp", *sides, shape=replace(VASE, axis=axis), **changes)


def drawn(volume, kind):
    """Points (n, 3) of all curves, and straight section lines, of a kind, own mm."""
    body, marks = volume.body, volume.drawn_marks
    arcs = body.arcs[body.arc_kinds == kind]
    if kind == SECTION:
        arcs = np.concatenate([arcs, straight(marks.starts, marks.ends)])
    t = np.tile(np.linspace(0, 1, 33), (len(arcs), 1))
    return np.concatenate(
        [points_at(arc[None].repeat(33, 0), s) for arc, s in zip(arcs, t, strict=True)]
    )


def radius_at(shape, height, length, radius):
    """The radius of a turned form at a height, from its stations' pieces."""
    pieces = segments_of(shape.stations, shape.join, length, radius)
    piece = next(p for p in pieces if p.low <= height <= p.high)
    return math.sqrt(max(piece.a + piece.b * height + piece.c * height**2, 0.0))


@pytest.mark.parametrize("axis", range(3))
@pytest.mark.parametrize("share", [0.2, 0.37, 0.93])
def test_a_cross_contour_is_the_circle_of_the_form_there(axis, share):
    points = drawn(vase(axis, marks=(Mark("section", 0, axis, (share,)),)), SECTION)
    across = [a for a in range(3) if a != axis]
    rho = np.hypot(*(points[:, across] - 60.0).T)
    assert points[:, axis] == pytest.approx(np.full(len(points), share * 200.0), abs=1e-9)
    assert rho == pytest.approx(np.full(len(rho), radius_at(VASE, share * 200, 200, 60)), rel=1e-9)


@pytest.mark.parametrize(("axis", "cut"), [(2, 0), (2, 1), (0, 1), (0, 2), (1, 0), (1, 2)])
@pytest.mark.parametrize("share", [0.5, 0.3])
def test_a_section_along_the_axle_is_its_profile(axis, cut, share):
    points = drawn(vase(axis, marks=(Mark("section", 0, cut, (share,)),)), SECTION)
    off = (share - 0.5) * 120.0
    assert points[:, cut] == pytest.approx(np.full(len(points), 60.0 + off), abs=1e-9)
    aside = 3 - axis - cut
    inside = (points[:, axis] > 1e-6) & (points[:, axis] < 200 - 1e-6)
    for place in points[inside][::7]:
        expected = radius_at(VASE, place[axis], 200, 60)
        assert math.hypot(off, place[aside] - 60.0) == pytest.approx(expected, rel=1e-7)
    reach = {h: radius_at(VASE, h, 200, 60) for h in (0.0, 200.0)}
    for height, radius in reach.items():
        end = points[np.abs(points[:, axis] - height) < 1e-9][:, aside] - 60.0
        if radius > abs(off):
            assert np.abs(end).max() == pytest.approx(math.sqrt(radius**2 - off**2), rel=1e-9)
    if share == 0.5:
        both = np.sort(points[inside][:, aside] - 60.0)
        assert both == pytest.approx(-both[::-1], abs=1e-9), "the profile stands on both sides"


def test_a_tube_has_no_line_across_its_open_ends():
    tube = Volume(
        "Telescope tube", *SIDES, shape=lathe.TUBE, marks=(Mark("section", 0, 0, (0.5,)),)
    )
    at_ends = drawn(tube, SECTION)
    at_ends = at_ends[np.abs(at_ends[:, 2]) < 1e-9]
    assert np.abs(at_ends[:, 1] - 60.0).min() > 40.0


@pytest.mark.parametrize("axis", range(3))
def test_a_section_of_an_extrusion_runs_round_it(axis):
    widths = ((0.0, 0.5), (0.5, 1.0), (1.0, 0.7))
    shape = Extruded((HOUSE, circle(0.75, 0.4, 0.1)), axis=1, widths=widths)
    body = Volume("Hut", 200, 80, 100, shape=shape, marks=(Mark("section", 0, axis, (0.45,)),))
    points, sides = drawn(body, SECTION), np.array(body.sides)
    assert len(points) > 90
    assert points[:, axis] == pytest.approx(np.full(len(points), 0.45 * sides[axis]), abs=1e-9)
    forms = body.body.surfaces.forms
    homogeneous = np.append(points, np.ones((len(points), 1)), axis=1)
    values = np.abs(np.einsum("ni,pij,nj->np", homogeneous, forms, homogeneous))
    assert (values.min(axis=1) < 1e-6).all(), "each point lies on one of its surfaces"
    width = np.interp(points[:, 0] / 200, *np.array(widths).T)
    assert (np.abs(points[:, 1] / 80 - 0.5) <= width / 2 + 1e-9).all()


@pytest.mark.parametrize("axis", range(3))
def test_a_section_of_a_slanting_extrusion_is_the_slanted_outline(axis):
    slant = (0.3, 0.1)
    shape = Extruded((HOUSE,), axis=1, slant=slant)
    hut = Volume("Hut", 200, 80, 100, shape=shape, marks=(Mark("section", 0, axis, (0.4,)),))
    points = drawn(hut, SECTION)
    assert len(points) > 60 and np.ptp(points[:, axis]) < 1e-9
    share = points[:, 1] / 80
    back = points[:, [0, 2]] - share[:, None] * np.array(slant) * (200, 100)
    ring = chorded(flat(HOUSE, 200, 100), 0.2)
    run = np.roll(ring, -1, axis=0) - ring
    off = back[:, None] - ring
    t = np.clip((off * run).sum(axis=2) / (run * run).sum(axis=1), 0.0, 1.0)
    gap = np.linalg.norm(off - t[..., None] * run, axis=2).min(axis=1)
    on_ends = (np.abs(share) < 1e-9) | (np.abs(share - 1) < 1e-9)
    assert gap[~on_ends].max() < 1e-3 and (~on_ends).sum() > 30


SOLIDS = [
    Volume("Case", 300, 200, 150),
    Volume("Case", 300, 200, 150, shape=Taper(front_mm=40.0, left_mm=30.0)),
    Volume("Pier block", 300, 200, 150, shape=Plan(((0, 0), (1, 0.1), (0.9, 1), (0.2, 0.8)))),
]


@pytest.mark.parametrize("solid", SOLIDS, ids=lambda v: v.called)
@pytest.mark.parametrize("middle", [(0.5, 0.5), (0.4, 0.55)])
def test_the_largest_circle_touches_the_rim_of_its_face_and_stays_on_it(solid, middle):
    rings = solid.body.rings
    for face in range(len(rings)):
        one = replace(solid, circles=(FaceCircle(face, middle),))
        points = drawn(one, CIRCLE)
        normal, corners = solid.body.normals[face], solid.body.vertices[list(rings[face][0])]
        assert np.abs((points - corners[0]) @ normal).max() < 1e-9
        ends = np.roll(corners, -1, axis=0)
        gaps = []
        for a, b in zip(corners, ends, strict=True):
            inward = np.cross(normal, b - a) / np.linalg.norm(b - a)
            gaps.append(((points - a) @ inward).min())
        assert min(gaps) == pytest.approx(0.0, abs=0.05) and min(gaps) > -1e-9


def test_an_arc_on_a_face_begins_and_turns_as_told():
    one = Volume(
        "Case", 300, 200, 150, circles=(FaceCircle(4, (0.5, 0.5), 50.0, (1.0, 0.5), 90, -90),)
    )
    points = drawn(one, CIRCLE)
    rho = np.hypot(points[:, 0] - 150, points[:, 1] - 100)
    assert sorted(set(rho.round(6))) == [25.0, 50.0]
    angles = np.degrees(np.arctan2(points[:, 1] - 100, points[:, 0] - 150))
    assert angles.min() == pytest.approx(0.0, abs=1e-6)
    assert angles.max() == pytest.approx(90.0, abs=1e-6)


@pytest.mark.parametrize("face", range(6))
def test_a_circle_on_a_face_is_mirrored_with_its_volume(face):
    source = Volume(
        "Case", 300, 200, 150, x_mm=400.0, key=0,
        circles=(FaceCircle(face, (0.3, 0.6), 40.0, start_deg=20.0, sweep_deg=130.0),),
    )  # fmt: skip
    about = Volume("Middle", 100, 100, 100, key=1)
    twin = replace(source, key=2, circles=(), like=Mirrored(0, 1, 0))
    settled, _ = settle((source, about, twin), ())
    places = []
    for volume in (settled[0], settled[2]):
        place, axes = volume.pose
        places.append(drawn(volume, CIRCLE) @ axes + place)
    flipped = places[0] * (-1, 1, 1) + (100.0, 0, 0)
    off = np.linalg.norm(flipped[:, None] - places[1][None], axis=2).min(axis=1)
    assert off.max() < 0.2 and len(places[0]) == len(places[1])


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: FaceCircle(0, (math.nan, 0.5)), "share of its face"),
        (lambda: FaceCircle(0, radius_mm=-1.0), "radius above 0"),
        (lambda: FaceCircle(0, sweep_deg=0.0), "more than 0°"),
        (lambda: FaceCircle(0, shares=(1.5,)), "Concentric"),
        (lambda: FaceCircle(0, shares=(1.0, 0.5), through=True), "one whole circle"),
        (lambda: Volume("C", 9, 9, 9, circles=(FaceCircle(7),)).body, "face is gone"),
        (lambda: Volume("C", 9, 9, 9, circles=(FaceCircle(0, (2.0, 2.0)),)), None),
        (lambda: vase(circles=(FaceCircle(3),)).body, "two ends only"),
    ],
)
def test_a_circle_that_cannot_be_is_refused_with_a_sentence(make, words):
    if words is None:
        assert make().body.circles[0].radius_mm > 0, "off the face, but a circle"
        return
    with pytest.raises(VolumeError, match=words):
        make()

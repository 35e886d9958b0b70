"""Fittings, checked on the corners of what they make: where each stands, how it leans, that it
follows its carrier, and what is refused."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.deeds.deed import Given
from isometron.deeds.table import deed
from isometron.document.document import Document
from isometron.document.edits.choosing import select, with_new
from isometron.drawing.picks.face import FacePick
from isometron.drawing.scene import scene_of
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.remarks.second_look import second_look

W, D, H = 300.0, 200.0, 160.0


def box(**own):
    return with_new(Document(), [Volume("Carrier", W, D, H, 40.0, 70.0, 0.0, 25.0, **own)])


def put(document, key, pick=None, **values):
    given = {name.replace("_", " "): value for name, value in values.items()}
    assert set(given) <= {one.key for one in deed(key).parameters}
    done = deed(key).with_given(Given(given, pick))(document)
    assert done.selected == document.selected
    return done


def own(document, index):
    """The corners of a volume in the carrier's directions, from the carrier's corner 0."""
    place, axes = document.volumes[0].pose
    volume = document.volumes[index]
    its = volume.world() if volume.shape.leans else volume.corners()
    return (its - place) @ axes.T


@pytest.mark.parametrize(("rake", "splay"), [(0.0, 0.0), (9.0, 14.0), (-6.0, 0.0)])
def test_legs_stand_on_the_ground_and_lean_as_they_are_told(rake, splay):
    made = put(
        box(),
        "put legs",
        leg_height="90 mm",
        leg_thickness="12 mm",
        legs_set_in="8 mm",
        rake_of_the_legs=rake,
        splay_of_the_legs=splay,
    )
    assert len(made.volumes) == 5
    middles = []
    for n in range(1, 5):
        corners = own(made, n)
        foot, top = corners[np.isclose(corners[:, 2], -90)], corners[np.isclose(corners[:, 2], 0)]
        assert len(foot) == len(top) == 4
        assert (made.volumes[n].corners()[:, 2] >= -1e-9).all()
        off = foot.mean(axis=0) - top.mean(axis=0)
        outward = np.sign(top.mean(axis=0)[:2] - [W / 2, D / 2])
        leans = np.degrees(np.arctan2(off[:2] * outward, 90.0))
        assert leans == pytest.approx([splay, rake], abs=1e-9)
        middles.append(np.abs(top.mean(axis=0)[:2] - [W / 2, D / 2]))
    assert np.array(middles) == pytest.approx(np.tile([W / 2 - 14, D / 2 - 14], (4, 1)))
    # a higher carrier keeps them on the ground
    lifted = made.with_volume(0, replace(made.volumes[0], z_mm=130.0))
    assert min(v.corners()[:, 2].min() for v in lifted.volumes) == pytest.approx(0.0, abs=1e-6)


def test_round_feet_stand_within_a_round_base():
    document = with_new(Document(), [Volume("Drum", D, D, H, 5.0, 6.0, 0.0, 10.0, shape=CYLINDER)])
    made = put(document, "put legs", section_of_the_legs=1, legs_set_in="5 mm", leg_thickness="2cm")
    for n in range(1, 5):
        middle = own(made, n).mean(axis=0)[:2] - D / 2
        assert np.hypot(*middle) == pytest.approx(D / 2 - 5.0 - 10.0)


@pytest.mark.parametrize(("face", "upright"), [*itertools.product(range(6), (0, 1))])
def test_a_handle_stands_on_its_face_and_follows_it(face, upright):
    made = put(
        box(),
        "put handle",
        FacePick(0, face),
        handle_length="80 mm",
        handle_stands_out="30 mm",
        handle_thickness="8 mm",
        handle_runs=upright,
    )
    made = made.with_volume(0, made.volumes[0].with_sides((W, D, 2 * H)))
    axis, far = divmod(face, 2)
    sides = np.array([W, D, 2 * H])
    corners = own(made, 1)
    low, high = corners.min(axis=0), corners.max(axis=0)
    base = sides[axis] if far else 0.0
    assert (low[axis] if far else high[axis]) == pytest.approx(base, abs=1e-6)
    assert high[axis] - low[axis] == pytest.approx(30.0)
    first, second = [one for one in range(3) if one != axis]
    long = second if upright else first
    assert (high - low)[long] == pytest.approx(80.0)
    assert (low + high)[[first, second]] / 2 == pytest.approx(sides[[first, second]] / 2)


@pytest.mark.parametrize(("hinge", "shape"), [*itertools.product(range(4), ("box", "drum"))])
def test_a_lid_opens_about_its_edge(hinge, shape):
    start = (
        box()
        if shape == "box"
        else box(shape=CYLINDER).with_volume(0, Volume("Drum", D, D, H, shape=CYLINDER))
    )
    wide, deep = start.volumes[0].sides[:2]
    shut, opened = (
        put(
            start,
            "put lid",
            lid_thickness="10 mm",
            lid_stands_out="5 mm",
            lid_open=deg,
            hinge=hinge,
        )
        for deg in (0.0, 70.0)
    )
    corners = own(shut, 1)
    assert corners.min(axis=0) == pytest.approx([-5.0, -5.0, H])
    assert corners.max(axis=0) == pytest.approx([wide + 5, deep + 5, H + 10])
    turned = own(opened, 1)
    axis, at, sign = ((1, deep, -1.0), (1, 0.0, 1.0), (0, 0.0, 1.0), (0, wide, -1.0))[hinge]
    off, up = (corners[:, axis] - at) * sign, corners[:, 2] - H
    cos, sin = math.cos(math.radians(70)), math.sin(math.radians(70))
    assert (turned[:, axis] - at) * sign == pytest.approx(off * cos - up * sin)
    assert turned[:, 2] - H == pytest.approx(off * sin + up * cos)
    look = second_look(opened, scene_of(opened))
    assert not {one.rule for one in look} & {"floating", "overlapping_volumes"}


@pytest.mark.parametrize("face", range(6))
@pytest.mark.parametrize("behind", [0.0, 6.0])
def test_slats_begin_on_the_face_and_slope_down_outward(face, behind):
    made = put(
        box(),
        "put louvre",
        FacePick(0, face),
        slats=5,
        louvre_wide="90 mm",
        louvre_high="100 mm",
        slat_depth="14 mm",
        slat_thickness="3 mm",
        slope_of_the_slats=25.0,
        slats_begin_behind=f"{behind} mm",
        middle_across=0.4,
    )
    axis, far = divmod(face, 2)
    way = 1.0 if far else -1.0
    base = (W, D, H)[axis] if far else 0.0
    first, second = [one for one in range(3) if one != axis]
    levels = []
    for n in range(1, 6):
        corners = own(made, n)
        out = (corners[:, axis] - base) * way
        assert out.min() == pytest.approx(-behind, abs=1e-6)
        assert np.ptp(corners[:, first]) == pytest.approx(90.0)
        assert corners[:, first].mean() == pytest.approx(0.4 * (W, D, H)[first])
        inner, outer = corners[np.argsort(out)[:4]], corners[np.argsort(out)[4:]]
        fall = (inner - outer).mean(axis=0)[second]
        reach = abs((inner - outer).mean(axis=0)[axis])
        assert math.degrees(math.atan2(fall, reach)) == pytest.approx(25.0)
        levels.append(inner.mean(axis=0)[second])
    assert np.diff(levels) == pytest.approx([20.0] * 4)


@pytest.mark.parametrize("side", [0, 1])
def test_wheels_stand_in_arches_on_both_sides(side):
    values = {"face": (0, 3)[side], "wheel_diameter_in_the_arch": "50 mm"}
    made = put(
        box(),
        "put wheels",
        places_of_the_axles="1/4, 3/4",
        wheel_width_in_the_arch="15 mm",
        ground_clearance="20 mm",
        **values,
    )
    across, along = (1, 0) if side == 0 else (0, 1)
    width, length = (W, D, H)[across], (W, D, H)[along]
    places = []
    for n in range(1, 5):
        corners = own(made, n)
        assert made.volumes[n].corners()[:, 2].min() == pytest.approx(0.0, abs=1e-9)
        low, high = corners[:, across].min(), corners[:, across].max()
        assert [low, high] == pytest.approx([0, 15] if low < width / 2 else [width - 15, width])
        places.append((round(corners[:, along].mean() / length, 6), low < width / 2))
    assert set(places) == set(itertools.product((0.25, 0.75), (True, False)))
    # what is left of the body, by the areas of two segments of circles
    radius, rise = 27.5, 25.0 - 20.0
    half = math.acos(-rise / radius)
    segment = radius**2 * (half - math.sin(half) * math.cos(half))
    assert made.volumes[0].contents_mm3 == pytest.approx(W * D * H - 2 * segment * width)
    # a wheel that is moved takes its arch along
    moved = made.with_volume(1, replace(made.volumes[1], **_moved(made.volumes[1], 7.0)))
    assert moved.volumes[0].contents_mm3 == pytest.approx(made.volumes[0].contents_mm3)
    assert all(one.miss_mm(moved.parts) < 1e-6 for one in moved.intentions)


def _moved(wheel, mm):
    x, y, z = np.array(wheel.place) + mm * wheel.axes()[0].astype(float)
    return {"x_mm": float(x), "y_mm": float(y), "z_mm": float(z)}


@pytest.mark.parametrize(
    ("key", "values", "words"),
    [
        ("put legs", {"leg_thickness": "2/3"}, "no room"),
        ("put legs", {"rake_of_the_legs": 70.0}, "leans less than 60"),
        ("put legs", {"section_of_the_legs": 1, "splay_of_the_legs": 5.0}, "stand upright"),
        ("put legs", {"leg_height": "no"}, "no"),
        ("put handle", {"handle_thickness": "1/2"}, "No hand goes through"),
        ("put handle", {"handle_length": "9 m", "face": 3}, "lies beyond it"),
        ("put louvre", {"slats": 0}, "1 to 40 slats"),
        ("put louvre", {"slat_thickness": "1/5"}, "no gaps"),
        ("put louvre", {"middle_across": 0.9}, "runs out of its face"),
        ("put lid", {"lid_thickness": "0"}, "no size"),
        ("put wheels", {"places_of_the_axles": "1/2, 11/20"}, "run into each other"),
        ("put wheels", {"places_of_the_axles": "1/50"}, "runs out of the side"),
        ("put wheels", {"places_of_the_axles": ""}, "1 to 12 axles"),
        ("put wheels", {"wheel_width_in_the_arch": "2/3"}, "no room between its sides"),
        ("put wheels", {"face": 6}, "upright side"),
    ],
)
def test_what_has_no_room_is_refused(key, values, words):
    start = box()
    with pytest.raises(VolumeError, match=words):
        put(start, key, **values)
    assert start == box()


def test_wheels_are_not_put_on_what_hangs_on_another():
    two = put(box(), "put lid")
    with pytest.raises(VolumeError, match="hangs on nothing"):
        put(select(two, 1), "put wheels")


@pytest.mark.parametrize("key", ["put handle", "put louvre"])
@pytest.mark.parametrize("shape", [CYLINDER, Taper(20.0, 20.0, 0.0, 0.0)])
def test_nothing_is_put_where_a_volume_has_no_flat_side(key, shape):
    start = with_new(Document(), [Volume("Carrier", D, D, H, shape=shape)])
    for face in range(6):
        flat = face >= 4 or (shape != CYLINDER and face < 2)
        if flat:
            assert len(put(start, key, FacePick(0, face)).volumes) > 1
        else:
            with pytest.raises(VolumeError, match="no flat side there"):
                put(start, key, FacePick(0, face))


def test_what_rolls_on_its_wheels_does_not_float():
    made = put(box(), "put wheels")
    assert "floating" not in {one.rule for one in second_look(made, scene_of(made))}

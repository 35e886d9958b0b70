"""Edits of rounds and profiles: what follows, what stays, what is refused."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.document.edits import volume_edits
from isometron.document.edits.choosing import choose_also, select
from isometron.document.edits.places import places_along
from isometron.document.edits.places.standing import mirror
from isometron.document.edits.shapes import arches, ellipses, profiles, rounding, shaping
from isometron.document.edits.stances import STANCES, take_stance
from isometron.document.edits.starters import TURNED, VEHICLE, with_starter
from isometron.document.near_edge import drawn_place
from isometron.drawing.measures import kind_of_sheet
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import scene_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Knot, flat
from isometron.perspective.errors import IsometronError, LengthError, VolumeError
from tests.scenes import case, eye, sheet


def wheel(**changes):
    """A wheel of the supply crawler, half a metre ahead of its body."""
    return rounding.make_round(
        sheet(case(width_mm=620.0, depth_mm=180.0, height_mm=620.0, **changes)), "wheel"
    )


def circles(document):
    return all_circles(scene_of(document))


def test_a_wheel_grown_by_its_diameter_keeps_its_foot_and_its_axle():
    before = wheel(z_mm=0.0, yaw_deg=20.0)
    after = rounding.set_diameter(before, 700.0)
    a, b = (next(c for c in circles(d) if c.name == "tyre") for d in (before, after))
    assert b.centre[2] - a.centre[2] == pytest.approx(40.0)
    assert b.centre[:2] == pytest.approx(a.centre[:2]) and after.volume.z_mm == 0.0


def test_a_round_volume_stays_round_whichever_side_is_changed():
    document = wheel()
    for axis in (0, 2):
        grown = document.with_volume(0, document.volume.resized(axis, 500.0, fixed_corner=0))
        assert grown.volume.sides == (500.0, 180.0, 500.0)
    laid = rounding.turn_axle(document, 2)
    assert laid.volume.sides == (620.0, 620.0, 180.0) and laid.volume.shape.axis == 2


def test_a_pair_and_further_axles_follow_their_wheel():
    document = rounding.pair_wheel(wheel(), 1200.0)
    document = rounding.add_axles(select(document, 0), [1860.0, 2480.0])
    moved = document.with_volume(0, replace(document.volumes[0], x_mm=77.0))
    tyres = [c for c in circles(moved) if c.name == "tyre"][::4]
    first = tyres[0].centre
    own = [(c.centre - first) @ moved.volumes[0].pose[1].T for c in tyres]
    assert [round(v[0]) for v in own] == [0, 0, 1860, 2480]
    assert [round(v[1]) for v in own] == [0, 1200, 0, 0]
    with pytest.raises(VolumeError, match="wider than one wheel"):
        rounding.pair_wheel(wheel(), 100.0)


def test_axles_of_a_paired_wheel_bring_their_twins():
    document = choose_also(sheet(case(), case(name="Body", x_mm=0.0, y_mm=1500.0)), 0)
    document = rounding.make_round(select(document, 0), "wheel")
    document = mirror(document, 1, 1)
    grown = rounding.add_axles(select(document, 0), [900.0])
    assert [v.name for v in grown.volumes][-2:] == ["Wheel 1", "Wheel twin 1"]


def test_radii_typed_by_height_are_the_form_and_back():
    document = rounding.make_round(sheet(case(z_mm=0.0)), "cylinder")
    radii = ((0.0, 40.0), (30.0, 45.0), (80.0, 20.0))
    made = rounding.set_stations(document, radii)
    assert np.allclose(rounding.stations_mm(made.volume), radii)
    assert made.volume.sides == pytest.approx((90.0, 90.0, 80.0)) and made.volume.z_mm == 0.0
    assert (
        rounding.read_stations(
            "0 4cm; 30 4.5 cm, 80mm 2cm".replace(" cm", "cm"), "mm", (80.0, 45.0)
        )
        == radii
    )
    by_shares = rounding.read_stations("0 4cm, 3/8 100%, 100% 2cm", "mm", (80.0, 45.0))
    assert np.allclose(by_shares, radii)
    for words, text in (("in order", "0 4, 9 2, 5 1"), ("Type heights", "0 4"), ("x", "0 x, 1 2")):
        with pytest.raises(LengthError, match=words):
            rounding.read_stations(text, "mm", (80.0, 45.0))


def test_a_bore_and_inner_circles_are_measured_by_their_diameters():
    document = rounding.set_rings(rounding.set_bore(wheel(), 100.0), [380.0, 160.0])
    sizes = sorted({round(2 * c.radius_mm, 6) for c in circles(document)})
    assert sizes == [100.0, 160.0, 380.0, pytest.approx(0.94 * 620), 620.0]
    with pytest.raises(VolumeError, match="narrower"):
        rounding.set_bore(document, 619.0)
    with pytest.raises(VolumeError, match="smaller diameter"):
        rounding.set_rings(document, [700.0])


def test_a_wheel_arch_is_a_circle_about_the_axle():
    start = with_starter(Document(), VEHICLE, VEHICLE.proposal)
    body = next(i for i, v in enumerate(start.volumes) if v.name == "Body")
    plain = shaping.make_box(select(start, body))
    wheel_ = next(v for v in plain.volumes if v.name == "Front wheel")
    made = arches.arch_over(plain, wheel_, 1, (0, 2), 1.2)
    sweep = made.volumes[body].body.surfaces.swept[0]
    own = made.volumes[body].pose[1] @ (
        np.array(wheel_.place)
        + np.array(wheel_.sides) / 2 @ wheel_.pose[1]
        - np.array(made.volumes[body].place)
    )
    assert sweep.centre == pytest.approx(own[[0, 2]]) and sweep.radius == pytest.approx(1.2 * 310)
    assert isinstance(start.volumes[body].shape, Extruded), "the starter has its arches already"


def test_arches_round_ends_and_holes_take_away_what_they_should():
    box = sheet(case(width_mm=300.0, depth_mm=100.0, height_mm=200.0))
    whole = 300 * 100 * 200
    arch = arches.cut_arch(box, 1, 150.0, 80.0, 60.0).volume
    assert arch.contents_mm3 == pytest.approx(whole - 100 * (80 * 60 + math.pi * 40**2 / 2))
    end = arches.round_end(box, 1, True).volume
    assert end.contents_mm3 == pytest.approx(100 * (200 * 200 + math.pi * 100**2 / 2))
    hole = rounding.add_circle(box, FaceCircle(4, (0.3, 0.5), 25.0, through=True)).volume
    assert hole.contents_mm3 == pytest.approx(whole - 200 * math.pi * 25**2)
    for edit in (
        lambda: arches.cut_arch(box, 1, 20.0, 80.0, 10.0),
        lambda: arches.cut_arch(box, 1, 150.0, 80.0, 190.0),
        lambda: arches.cut_wheel_arch(box, 1, 150.0, 90.0, 50.0),
        lambda: rounding.add_circle(box, FaceCircle(4, (0.05, 0.5), 40.0, through=True)),
        lambda: rounding.add_circle(box, FaceCircle(99)),
    ):
        with pytest.raises(IsometronError):
            edit()


@pytest.mark.parametrize("face", range(6))
@pytest.mark.parametrize("what", arches.LIDS)
def test_a_knob_stands_on_its_face_with_its_axle_square_to_it(face, what):
    document = sheet(case(yaw_deg=33.0))
    made = arches.set_on_face(document, what, face, (0.25, 0.5), (30.0, 12.0))
    knob, box = made.volume, made.volumes[0]
    axis, positive = divmod(face, 2)
    outward = box.pose[1][axis] * (1 if positive else -1)
    assert knob.pose[1][2] == pytest.approx(outward)
    base = np.array(knob.place) + 15 * (knob.pose[1][0] + knob.pose[1][1])
    own = box.pose[1] @ (base - np.array(box.place)) / np.array(box.sides)
    expected = [0.0, 0.0, 0.0]
    expected[axis] = float(positive)
    first, second = [a for a in range(3) if a != axis]
    expected[first], expected[second] = 0.25, 0.5
    assert own == pytest.approx(expected)
    grown = made.with_volume(0, replace(box, width_mm=500.0))
    assert np.linalg.norm(np.array(grown.volumes[1].place) - np.array(knob.place)) == pytest.approx(
        140.0 * (0.25 if axis else positive)
    )


def test_a_point_of_a_profile_is_the_same_on_the_pad_and_in_the_framework():
    document = profiles.begin_profile(sheet(by=eye(tilt_deg=-10.0)), 1)
    document = profiles.show_plane(document, 0.5)
    flat = profiles.move_knot(document, 0, 2, (300.0, 230.0))
    place = drawn_place(flat.eye, profiles.knot_world(flat.volume, 0, 2))
    on_sheet = profiles.move_knot_on_sheet(document, 0, 2, place)
    for one, other in zip(flat.volume.shape.rings[0], on_sheet.volume.shape.rings[0], strict=True):
        assert (one.x, one.y) == pytest.approx((other.x, other.y))
    assert flat.volume.sides == pytest.approx((360.0, 240.0, 230.0))
    assert flat.volume.sides == pytest.approx(on_sheet.volume.sides)


def test_refitting_a_box_to_its_outline_moves_nothing_in_the_world():
    document = profiles.begin_profile(sheet(case(yaw_deg=40.0)), 1)
    before = [profiles.knot_world(document.volume, 0, k) for k in range(4)]
    after = profiles.move_knot(document, 0, 0, (-60.0, -25.0))
    for k in (1, 2, 3):
        assert profiles.knot_world(after.volume, 0, k) == pytest.approx(before[k])
    xs = [k.x for k in after.volume.shape.rings[0]]
    assert min(xs) == pytest.approx(0.0) and max(xs) == pytest.approx(1.0)


def test_points_are_added_taken_away_and_smoothed_but_never_crossed():
    document = profiles.begin_profile(sheet(), 1)
    grown = profiles.add_knot(document, 0, 2, (180.0, 220.0))
    assert len(grown.volume.shape.rings[0]) == 5
    smooth = profiles.smooth_knot(grown, 0, 3, True)
    assert smooth.volume.contents_mm3 > grown.volume.contents_mm3
    again = profiles.remove_knot(grown, 0, 3)
    assert again.volume.sides == pytest.approx(document.volume.sides)
    with pytest.raises(VolumeError, match="crosses itself"):
        profiles.move_knot(document, 0, 0, (500.0, 90.0))
    three = profiles.remove_knot(document, 0, 0)
    with pytest.raises(VolumeError, match="at least three"):
        profiles.remove_knot(three, 0, 0)


def test_widths_narrow_the_profile_alike_on_both_sides():
    document = profiles.begin_profile(sheet(), 1)
    made = profiles.set_widths(document, profiles.read_widths("0 50%, 1/2 100%, 1 50%"))
    assert made.volume.contents_mm3 == pytest.approx(0.75 * document.volume.contents_mm3, rel=1e-5)
    assert profiles.write_widths(made.volume.shape.widths) == "0 50%, 0.5 100%, 1 50%"
    middle = made.volume.depth_mm / 2
    corners = made.volume.body.vertices
    mirrored = np.array([0, 2 * middle, 0]) + corners * (1, -1, 1)
    assert len(corners) == 12, "six stations of the outline on each side"
    assert np.linalg.norm(corners[:, None] - mirrored, axis=2).min(axis=1).max() < 1e-9
    for text in ("0 50%", "0 50%, x", "0 0%, 1 1"):
        with pytest.raises(IsometronError):
            profiles.set_widths(document, profiles.read_widths(text))


def test_contours_and_centre_lines_come_and_go():
    document = profiles.set_centre_line(profiles.begin_profile(sheet(), 1), True)
    document = profiles.set_contours(document, (0.25, 0.5))
    assert profiles.has_centre_line(document.volume) and profiles.contours_of(document.volume) == (
        0.25,
        0.5,
    )
    assert (
        places_along.write_shares((1 / 3, 2 / 3)) == "3"
        and places_along.write_shares((0.25, 0.5)) == "0.25 0.5"
    )
    bare = profiles.set_contours(profiles.set_centre_line(document, False), ())
    assert not bare.volume.marks


def test_an_outline_brought_in_keeps_its_own_size():
    ring = (Knot(10, 20), Knot(110, 20, 0.4), Knot(110, 90), Knot(10, 90))
    made = profiles.bring_outline(sheet(), (ring,), 1)
    low, high = profiles.extents(flat(ring, 1.0, 1.0))
    assert made.volume.width_mm == pytest.approx(high[0] - low[0])
    assert made.volume.height_mm == pytest.approx(70.0) and made.volume.depth_mm == 240.0


def test_a_turned_object_begins_from_its_diameters():
    made = with_starter(Document(), TURNED, TURNED.proposal).volume
    assert isinstance(made.shape, Turned) and made.shape.join == "smooth"
    radii = [r for _, r in rounding.stations_mm(made)]
    assert radii == pytest.approx([45.0, 23.0, 60.0, 35.0])
    with pytest.raises(VolumeError, match="different heights"):
        with_starter(Document(), TURNED, {**TURNED.proposal, "waist at": 0.62})


def test_lists_of_guides_are_read_as_they_are_written():
    assert ellipses.read_list("10-30/10, 45") == (10.0, 20.0, 30.0, 45.0)
    assert ellipses.write_list(ellipses.read_list("10-80/5, 85.5")) == "10-80/5, 85.5"
    with pytest.raises(LengthError, match="is no list"):
        ellipses.read_list("ten")
    with pytest.raises(IsometronError, match="between 1° and 90°"):
        ellipses.set_guides(sheet(), (0.5,), None)


@pytest.mark.parametrize("name", ["cylinder", "wheel"])
def test_a_round_volume_keeps_its_axle_and_its_foot_whatever_is_changed(name):
    document = rounding.add_round(sheet(by=eye(tilt_deg=-10.0)), name)
    before = document.volume
    axle = before.shape.axle
    for edit in (
        lambda d: volume_edits.turn_volume(d, 71.0),
        *(lambda d, axis=axis: volume_edits.set_side(d, axis, 333.0) for axis in range(3)),
        volume_edits.make_cube,
    ):
        after = edit(document).volume
        run = after.corners().mean(axis=0) - before.corners().mean(axis=0)
        run -= run @ before.pose[1][axle] * before.pose[1][axle]  # along it the near end stays
        assert run[:2] == pytest.approx([0.0, 0.0], abs=1e-9)
        assert after.corners()[:, 2].min() == pytest.approx(before.corners()[:, 2].min())


@pytest.mark.parametrize("stance", STANCES[:4], ids=lambda s: s.name)
@pytest.mark.parametrize("starter", [VEHICLE, TURNED], ids=lambda s: s.name)
def test_a_starter_on_a_blank_sheet_keeps_the_kind_of_view(stance, starter):
    blank = take_stance(Document(), stance)
    kinds = {"square to us": "one-point", "edge nearest": "two-point"}
    done = with_starter(blank, starter, starter.proposal)
    assert kind_of_sheet(done) == kinds.get(stance.name, "three-point")

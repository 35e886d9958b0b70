"""Whatever a volume is, what is asked of its body is answered: each case once went wrong for round,
tapered or carried ones."""

from dataclasses import replace

import numpy as np
import pytest

from isometron.construction.order import order_of
from isometron.document.edits import volume_edits
from isometron.document.edits.choosing import select
from isometron.document.edits.shapes import arches, cutting, profiles, rounding, shaping
from isometron.document.edits.sheet_edits import show_see_through
from isometron.document.near_edge import box_near_corner, near_corner, near_place
from isometron.drawing.fans import fan
from isometron.drawing.measures import edge_measures, face_foreshortening, from_near_corner
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.readings import reading_of
from isometron.drawing.scene import scene_of
from isometron.files.report import report_of
from isometron.framework.bodies.body import DIVISION
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.outlines import Knot
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.remarks.second_look import second_look
from tests.kinds import SOLID, WEDGE, name, volume
from tests.scenes import case, eye, sheet

HOLE = FaceCircle(2, (0.5, 0.5), 40.0, through=True)


def told(document):
    return report_of(document)["volumes"][0]


def edge_places(one):
    places = [tuple(np.round(corner["world_mm"], 6)) for corner in one["corners"]]
    return {frozenset((places[e["from"]], places[e["to"]])) for e in one["edges"]}


def test_a_round_hole_takes_no_edge_and_no_fan_of_a_box():
    plain, drilled = (
        show_see_through(sheet(case(circles=circles)), False) for circles in ((), (HOLE,))
    )
    one, other = told(plain), told(drilled)
    assert len(other["edges"]) == 12 and edge_places(one) == edge_places(other)
    reach = [
        sum(
            len(fan(d.eye, scene_of(d).pictures[0], family, 9000.0, see_through=False))
            for family in ("left", "right", "third")
        )
        for d in (plain, drilled)
    ]
    assert reach[0] == reach[1] > 0
    ids = {round_["kind"] for round_ in report_of(drilled)["rounds"]}
    assert ids == {"hole"}


def test_a_rounded_prism_has_the_corners_and_edges_that_are_there():
    table = sheet(case(shape=Plan(RECTANGLE, 30.0, True)))
    one = told(table)
    assert len(one["corners"]) == 16 and len(one["edges"]) == 8 and len(one["curves"]) == 8
    (edge,) = from_near_corner(table.eye, scene_of(table).pictures[0])
    assert edge.axis in (0, 1) and edge.true_mm == pytest.approx(table.volume.sides[edge.axis] - 60)


def test_a_straight_edged_extrusion_tells_its_own_corners_and_foreshortening():
    wedge = sheet(case(shape=Extruded((WEDGE,), axis=1)))
    one = told(wedge)
    assert len(one["corners"]) == 8 and len(one["edges"]) == 12 and not one["curves"]
    width, _, height = wedge.volume.sides
    tops = {
        tuple(np.round((np.array(c["world_mm"]) - wedge.volume.place) @ wedge.volume.pose[1].T, 6))
        for c in one["corners"]
    }
    assert (0.4 * width, 0.0, height) in {tuple(map(float, t)) for t in tops}
    assert all(0 < e["foreshortening"] <= 1.0 + 1e-9 for e in one["edges"])
    picture = scene_of(wedge).pictures[0]
    assert len(from_near_corner(wedge.eye, picture)) == 3
    for face in range(picture.body.faces):
        assert reading_of(wedge, scene_of(wedge), FacePick(0, face)).rows


def test_two_boxes_that_pierce_each_other_do_so_when_one_is_drilled():
    one = case(z_mm=900.0)
    beam = Volume("Beam", 600.0, 60.0, 60.0, -150.0, 2130.0, 940.0, 30.0, key=1)
    for circles in ((), (FaceCircle(5, (0.2, 0.2), 20.0, through=True),)):
        document = sheet(replace(one, circles=circles), beam)
        scene = scene_of(document)
        (meeting,) = scene.meetings.values()
        assert len(meeting.starts) >= 8
        rules = {remark.rule for remark in second_look(document, scene)}
        assert "overlapping_volumes" in rules
        length = np.linalg.norm(meeting.ends - meeting.starts, axis=1).sum()
        assert length == pytest.approx(report_length(document))


def report_length(document):
    (join,) = report_of(document)["joins"]
    ends = np.array(join["lines_mm"])
    return np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).sum()


def test_a_face_with_an_arch_in_it_is_divided_where_it_is_there():
    arched = arches.cut_arch(sheet(case()), 1, 180.0, 120.0, 60.0)
    front = rounding.face_picked(arched.volume, 0)
    body = arched.volume.body
    front = int(np.argmin(body.normals[:, 1]))
    divided = shaping.divide_face(arched, front, 0, (0.25, 0.5, 0.75))
    picture = scene_of(divided).pictures[0]
    lines = picture.mark_lines(DIVISION)
    assert len(lines) == 3
    marks = divided.volume.drawn_marks
    heights = sorted(np.round(np.linalg.norm(marks.ends - marks.starts, axis=1), 6).tolist())
    assert heights == pytest.approx([60.0, 180.0, 180.0])  # above the arch there is less of it


def test_make_it_so_takes_an_extrusion_to_any_form():
    begun = profiles.begin_profile(sheet(), 1)
    for form in ("cylinder", "cone", "wheel", "sphere", "tube"):
        made = rounding.make_round(begun, form)
        assert made.volume.shape.called in (form, "turned form") and made.volume.contents_mm3 > 0


def test_an_opening_goes_right_through_a_leaning_slab():
    slab = shaping.lean(sheet(case()), "front", 140.0)
    slab = shaping.lean(slab, "back", -140.0)
    pierced = cutting.pierce_opening(slab, 1, 30.0)
    way = pierced.volume.body
    loops = [face for face in range(way.faces) if len(way.loops(face)) == 2]
    assert len(loops) == 2, "it opens on both sides"
    taken = slab.volume.contents_mm3 - pierced.volume.contents_mm3
    assert taken == pytest.approx(240 * 300 * 120)


def test_an_edge_of_a_leaning_slat_reads_its_true_length():
    slat = shaping.lean(sheet(case(width_mm=100.0, depth_mm=20.0, height_mm=60.0)), "left", 12.5)
    scene = scene_of(slat)
    lengths = edge_measures(slat.eye, scene.pictures[0]).true_mm
    slant = np.hypot(60.0, 12.5)
    assert np.isclose(lengths, slant, rtol=1e-12).sum() == 2
    edge = int(np.flatnonzero(np.isclose(lengths, slant))[0])
    assert reading_of(slat, scene, EdgePick(0, edge)).rows[0].value == pytest.approx(slant)


@pytest.mark.parametrize("edit", [
    lambda d: shaping.cut_plan_corners(d, 20.0, rounded=False),
    lambda d: shaping.cut_plan_corners(d, 5.0, rounded=True),
    lambda d: shaping.lean(d, "left", 20.0),
])  # fmt: skip
def test_no_edit_throws_a_profile_away_in_silence(edit):
    arched = arches.cut_arch(sheet(case()), 1, 180.0, 120.0, 60.0)
    with pytest.raises(VolumeError, match=r"\.$"):
        edit(arched)


def test_stations_and_name_of_a_wheel_may_change_and_it_rolls_on():
    wheel = rounding.make_round(sheet(), "wheel")
    changed = rounding.set_stations(wheel, [(0.0, 90.0), (50.0, 120.0), (100.0, 90.0)])
    assert wheel.volume.shape.rolls and changed.volume.shape.rolls
    assert not rounding.make_round(sheet(), "cylinder").volume.shape.rolls


def test_the_back_of_a_box_square_to_us_opens_to_all_of_itself():
    square = sheet(Volume("Case", 360, 240, 180, -180, 2000, 1400), by=eye())
    picture = scene_of(square).pictures[0]
    assert face_foreshortening(square.eye, picture, 3) == pytest.approx(1.0, abs=1e-9)
    assert face_foreshortening(square.eye, picture, 2) == pytest.approx(1.0, abs=1e-9)
    labels = {row.label for row in reading_of(square, scene_of(square), FacePick(0, 3)).rows}
    assert "area foreshortened to" in labels and "opens to" not in labels


@pytest.mark.sample(5)
@pytest.mark.parametrize(("kind", "sides"), SOLID, ids=name)
def test_near_corner_fans_sides_and_build_order_hang_on_the_body_itself(kind, sides):
    document = sheet(volume(kind, sides))
    scene = scene_of(document)
    picture = scene.pictures[0]
    corner = near_corner(document.eye, document.volume)
    held = document.volume.enclosing()
    place = near_place(document.eye, document.volume)
    if corner is not None:
        assert place == pytest.approx(picture.world[corner])
        depths = picture.depth[np.abs(picture.world[:, 2] - place[2]) < 1e-6]
        assert picture.depth[corner] <= depths.min() + 1e-6
    assert (place >= held.min(axis=0) - 1e-6).all() and (place <= held.max(axis=0) + 1e-6).all()
    assert 0 <= box_near_corner(document.eye, document.volume) <= 3
    ends = picture.sheet
    for family in ("left", "right", "centre", "third"):
        for x, y in fan(document.eye, picture, family, 9000.0, see_through=True)[:, :2]:
            assert np.hypot(*(ends - (x, y)).T).min() < 1e-6, "a fan begins at a corner it has"
    longer = volume_edits.set_side(document, 2, 1.5 * sides[2])
    assert longer.volume.height_mm == pytest.approx(1.5 * sides[2])
    assert order_of(document, scene).chapters
    again = select(document, 0)
    assert second_look(again, scene) is not None


def test_a_body_without_corners_is_near_at_its_lowest_near_point():
    ball = sheet(Volume("Ball", 200, 200, 200, -100, 2000, 1400, shape=lathe.SPHERE))
    assert near_corner(ball.eye, ball.volume) is None
    x, y, z = near_place(ball.eye, ball.volume)
    assert (x, y, z) == pytest.approx((0.0, 2100.0, 1400.0)), "the foot of its axle"


def test_a_tapered_and_a_knotted_profile_count_their_own_corners():
    roof = told(sheet(case(shape=Taper(60.0, 60.0))))
    house = (Knot(0, 0), Knot(1, 0), Knot(1, 0.6), Knot(0.5, 1), Knot(0, 0.6))
    hut = told(sheet(case(shape=Extruded((house,), axis=1))))
    assert len(roof["corners"]) == 8 and len(hut["corners"]) == 10 and len(hut["edges"]) == 15

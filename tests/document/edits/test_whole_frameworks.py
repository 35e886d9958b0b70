"""Edits of whole frameworks: choosing, standing, shaping, sliding, proportion, starters."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.document.document import Document
from isometron.document.edits import choosing, proportioning, volume_edits
from isometron.document.edits.eye_edits import fit_on_page
from isometron.document.edits.places import aiding, places_along, sliding, snapping, standing
from isometron.document.edits.shapes import cutting, shaping
from isometron.document.edits.starters import (
    CRATES,
    RING_OF_PIERS,
    SEAT,
    STARTERS,
    VEHICLE,
    WALL_LAMP,
    with_starter,
)
from isometron.document.near_edge import drawn_place
from isometron.drawing.scene import scene_of
from isometron.framework.bodies.cuts import Cut
from isometron.framework.marks import Mark
from isometron.framework.modules import Added, Count
from isometron.perspective.errors import IsometronError, VolumeError
from isometron.perspective.projection import project
from isometron.remarks.second_look import second_look
from tests.scenes import bare, case, eye, floats, sheet

TIN = case(name="Tin", width_mm=90.0, depth_mm=80.0, height_mm=60.0, x_mm=500.0, z_mm=1000.0, key=1)


def test_choosing_more_keeps_the_lead_and_lets_off():
    document = sheet(case(), TIN, case(name="Lid", key=2))
    both = choosing.choose_also(document, 2)
    assert both.chosen == (0, 2) and both.selected == 2
    assert choosing.choose_also(both, 2).chosen == (0,)
    assert choosing.choose_also(choosing.choose_also(both, 2), 0).selected is None
    grouped = choosing.group_chosen(both)
    assert [v.group for v in grouped.volumes] == ["Group 1", "", "Group 1"]
    assert choosing.choose_group(choosing.select(grouped, 0)).chosen == (0, 2)
    assert choosing.choose_all(document).chosen == (0, 1, 2)
    moved = choosing.move_in_list(choosing.select(document, 2), -2)
    assert [v.name for v in moved.volumes] == [
        "Lid",
        "Eyepiece case",
        "Tin",
    ] and moved.selected == 0
    left = choosing.remove_chosen(both)
    assert [v.name for v in left.volumes] == ["Tin"] and left.chosen == (0,)


def test_what_is_locked_stays_and_says_so():
    locked = choosing.lock(sheet(case(), TIN), 0, True)
    for edit in (
        lambda d: volume_edits.set_side(d, 0, 99.0),
        choosing.remove_chosen,
        lambda d: sliding.nudge_truly(d, 5.0, 0.0),
    ):
        with pytest.raises(VolumeError, match="Eyepiece case is pinned"):
            edit(locked)
    assert volume_edits.set_side(choosing.lock(locked, 0, False), 0, 99.0).volume.width_mm == 99.0


def test_renaming_takes_along_what_is_counted_in_the_name():
    document = proportioning.type_side(
        choosing.select(sheet(case(), TIN), 1), 0, Count(0.5, "Eyepiece case.width")
    )
    renamed = choosing.rename_volume(choosing.select(document, 0), "Lens case")
    grown = volume_edits.set_side(renamed, 0, 400.0)
    assert grown.volumes[1].width_mm == pytest.approx(200.0)
    assert grown.volumes[1].counts[0].of == "Lens case.width"


def test_pasted_volumes_have_keys_and_names_of_their_own_and_hang_together():
    stood = standing.stand_on(choosing.select(sheet(case(), TIN), 1), 0)
    pasted = choosing.paste(stood, stood.volumes)
    assert [v.name for v in pasted.volumes[2:]] == ["Eyepiece case 1", "Tin 1"]
    assert len({v.key for v in pasted.volumes}) == 4 and pasted.chosen == (2, 3)
    assert pasted.volumes[3].on.parent == pasted.volumes[2].key
    alone = choosing.paste(stood, stood.volumes[1:])
    assert alone.volume.on is None


def test_set_on_top_against_and_along_an_edge_it_follows():
    document = choosing.select(sheet(case(), TIN), 1)
    on = standing.stand_on(document, 0)
    assert on.volume.z_mm == pytest.approx(1180.0)
    taller = volume_edits.set_side(choosing.select(on, 0), 2, 300.0)
    assert taller.volumes[1].z_mm == pytest.approx(1300.0)
    beside = standing.set_against(document, 0, 1)
    own = case().pose[1] @ (beside.volume.world() - case().pose[0]).T
    assert own[0].min() == pytest.approx(360.0, abs=1e-9) and beside.volume.yaw_deg == 30.0
    third = standing.set_along_edge(document, 0, 2, 1 / 3)
    ends = case().corners()[[4, 5]]
    assert third.volume.place == pytest.approx(ends[0] + (ends[1] - ends[0]) / 3)
    free = standing.let_stand_free(on)
    assert volume_edits.set_side(choosing.select(free, 0), 2, 300.0).volumes[1] == free.volumes[1]
    ground = standing.stand_on_ground(on)
    assert ground.volume.world()[:, 2].min() == pytest.approx(0.0, abs=1e-12)
    with pytest.raises(VolumeError, match="hang on itself"):
        standing.stand_on(choosing.select(on, 0), 1)


@given(
    floats(-180, 180), floats(-80, 80), floats(-180, 180), st.sampled_from(standing.TURNING_POINTS)
)
def test_turning_keeps_true_size_and_the_point_it_turns_about(yaw, pitch, roll, about):
    document = sheet()
    point = standing.turning_point(document, about, 5)
    own = case().pose[1] @ (point - case().pose[0])
    turned = standing.turn_about(document, (yaw, pitch, roll), point).volume
    assert turned.sides == case().sides
    assert turned.pose[0] + own @ turned.pose[1] == pytest.approx(point, abs=1e-8)


@given(st.integers(0, 11), floats(-179, 179))
def test_turned_round_an_edge_the_edge_stays(edge, angle):
    document = sheet()
    before = document.volume.world()[document.volume.body.edges[edge]]
    turned = standing.turn_round_edge(document, edge, angle).volume
    after = turned.world()[turned.body.edges[edge]]
    assert np.allclose(before, after, atol=1e-6)
    moved = np.linalg.norm(turned.world() - case().world(), axis=1).max()
    assert moved <= 500.0 * abs(np.radians(angle)) + 1e-6 and (moved > 1.0 or abs(angle) < 1.0)


def test_the_same_again_turned_leaves_a_ghost_of_the_same_true_size():
    document = standing.same_again_turned(sheet(), 75.0)
    old, new = document.volumes
    assert old.ghost and not new.ghost and new.sides == old.sides and new.yaw_deg == 75.0
    middle = [(v.corners()[0] + v.corners()[7]) / 2 for v in document.volumes]
    assert middle[0] == pytest.approx(middle[1])


def test_copies_follow_and_can_be_let_go():
    row = standing.repeat(sheet(), 3, (400.0, 0.0, 0.0))
    assert [v.name for v in row.volumes[1:]] == [
        "Eyepiece case 1",
        "Eyepiece case 2",
        "Eyepiece case 3",
    ]
    taller = volume_edits.set_side(row, 2, 333.0)
    assert {v.height_mm for v in taller.volumes} == {333.0}
    with pytest.raises(VolumeError, match="copy that follows"):
        volume_edits.set_side(choosing.select(taller, 2), 2, 10.0)
    free = standing.let_go(choosing.select(taller, 2))
    assert volume_edits.set_side(free, 2, 10.0).volumes[2].height_mm == 10.0
    with pytest.raises(VolumeError, match="1 to"):
        standing.repeat(sheet(), 0, (1.0, 0.0, 0.0))


def test_leans_outlines_cuts_and_thickness():
    leant = shaping.lean_by_angle(sheet(), "front", 45.0)
    assert leant.volume.shape.insets == pytest.approx((180.0, 0.0, 0.0, 0.0))
    with pytest.raises(VolumeError, match="folds"):
        shaping.lean(leant, "back", 100.0)
    assert shaping.make_box(leant).volume == case()
    slab = shaping.give_thickness(sheet(), 5, 18.0).volume
    assert slab.height_mm == 18.0 and slab.z_mm == pytest.approx(1000.0 + 180.0 - 18.0)
    opened = cutting.pierce_opening(sheet(), 1, 30.0).volume
    assert opened.contents_mm3 == pytest.approx(240 * (360 * 180 - 300 * 120))
    with pytest.raises(VolumeError, match="no opening"):
        cutting.pierce_opening(sheet(), 1, 90.0)
    for name, share in (("L", 0.75), ("T", 1 - 0.7 * 0.6), ("U", 1 - 0.4 * 0.7), ("notch", 0.925)):
        cut = cutting.cut_by_fractions(sheet(), cutting.NOTCHES[name]).volume
        assert cut.contents_mm3 == pytest.approx(share * 360 * 240 * 180)


def test_one_volume_is_cut_out_of_another_where_it_stands():
    tool = case(
        name="Tool", width_mm=100.0, x_mm=40.0, y_mm=2020.0, z_mm=1100.0, yaw_deg=50.0, key=1
    )
    document = sheet(case(), tool)
    cut = cutting.cut_out(document, 1)
    assert len(cut.volumes) == 1 and cut.selected == 0
    points = np.random.default_rng(2).uniform(0, 1, (100_000, 3)) * case().sides
    world = points @ case().pose[1] + case().pose[0]
    own = (world - tool.pose[0]) @ tool.pose[1].T
    kept = 1 - ((own > 0) & (own < tool.sides)).all(axis=1).mean()
    assert cut.volume.contents_mm3 / (360 * 240 * 180) == pytest.approx(kept, abs=6e-3)
    with pytest.raises(VolumeError, match="out of itself"):
        cutting.cut_out(document, 0)


@pytest.mark.parametrize(
    ("text", "shares"),
    [("2", (0.5,)), ("3", (1 / 3, 2 / 3)), ("1/4, 2/3", (0.25, 2 / 3)), ("0.5 .25", (0.25, 0.5))],
)
def test_fractions_are_read_as_people_write_them(text, shares):
    assert places_along.read_shares(text) == pytest.approx(shares)


@pytest.mark.parametrize("text", ["", "1", "0/3", "5/4", "half", "1/0"])
def test_what_divides_nothing_is_refused(text):
    with pytest.raises(VolumeError):
        places_along.read_shares(text)


@given(st.sampled_from([0, 1, 2, 3, 5]), floats(-12, 12), floats(-12, 12))
def test_a_face_slides_along_its_own_direction_under_the_pointer(face, right, up):
    document = sheet()
    scene = scene_of(document)
    place = scene.pictures[0].sheet[list(scene.pictures[0].body.rings[face][0])].mean(axis=0)
    grip = sliding.grip_face(document, 0, face, (float(place[0]), float(place[1])))
    try:
        slid = sliding.slide_face(
            document, grip, (float(place[0] + right), float(place[1] + up)), snap=False
        )
    except IsometronError:
        return
    after, axis = slid.document.volume, face // 2
    opposite = [c for c in range(8) if bool(c >> axis & 1) != bool(face % 2)]
    assert np.allclose(after.corners()[opposite], case().corners()[opposite], atol=1e-8)
    outward = case().pose[1][axis] * (1 if face % 2 else -1)
    held = grip.held + (after.sides[axis] - case().sides[axis]) * outward
    if after.sides[axis] > 0.02:
        drawn = np.array(drawn_place(document.eye, held))
        run = np.array(drawn_place(document.eye, held + outward)) - drawn
        assert abs((place + (right, up) - drawn) @ run) < 1e-6 * np.hypot(*run)


def test_faces_snap_to_other_volumes_and_whole_modules_unless_held_off():
    tall = case(name="Tall", height_mm=260.0, x_mm=900.0, key=1)
    document = proportioning.type_module(sheet(case(), tall), "w = 100 mm")
    scene = scene_of(document)
    top = scene.pictures[0].sheet[[4, 5, 7, 6]].mean(axis=0)
    grip = sliding.grip_face(document, 0, 5, (float(top[0]), float(top[1])))

    def slid(mm, **how):
        place = drawn_place(document.eye, grip.held + (0.0, 0.0, mm))
        return sliding.slide_face(document, grip, place, **how)

    near = slid(78.0)
    assert near.document.volume.height_mm == pytest.approx(260.0, abs=1e-9)
    assert near.words == "in line with Tall"
    module = slid(21.5)
    assert module.document.volume.height_mm == pytest.approx(200.0) and module.words == "2 w"
    free = slid(78.0, snap=False)
    assert free.document.volume.height_mm == pytest.approx(258.0, abs=1e-6) and not free.words


def test_the_wall_of_a_cut_slides_and_the_box_stays():
    document = cutting.cut_by_fractions(sheet(), (Cut((0.5, 0.0, 0.5), (1.0, 1.0, 1.0)),))
    solid = document.volume.body
    floor = next(
        i
        for i, n in enumerate(solid.normals)
        if n[2] > 0.9 and abs(solid.vertices[solid.rings[i][0][0]][2] - 90.0) < 1e-6
    )
    place = project(document.eye, document.volume.world()[list(solid.rings[floor][0])]).sheet.mean(
        axis=0
    )
    grip = sliding.grip_face(document, 0, floor, (float(place[0]), float(place[1])))
    lower = drawn_place(document.eye, grip.held - (0.0, 0.0, 45.0))
    after = sliding.slide_face(document, grip, lower, snap=False).document.volume
    assert after.sides == case().sides and after.cuts[0].low == pytest.approx((0.5, 0.0, 0.25))


def test_volumes_slide_into_line_and_lift_onto_what_is_there():
    document = sheet(
        case(yaw_deg=0.0, z_mm=0.0), case(name="Tin", x_mm=800.0, yaw_deg=0.0, z_mm=0.0, key=1)
    )
    document = choosing.select(document, 1)
    held = document.volume.corners()[0]
    aim = drawn_place(document.eye, held + (3.0, 4.0, 0.0))
    slid = sliding.slide_over_ground(document, held, aim)
    assert slid.document.volume.y_mm == pytest.approx(2000.0, abs=1e-9)
    assert "in line with Eyepiece case" in slid.words
    up = drawn_place(document.eye, held + (0.0, 0.0, 178.5))
    lifted = sliding.lift(document, held, up)
    assert lifted.document.volume.z_mm == pytest.approx(180.0, abs=1e-9)
    assert lifted.document.volume.place[:2] == document.volume.place[:2]


def test_nudges_are_in_paper_mm_or_true_mm():
    document = sheet(case(z_mm=0.0), by=eye(heading_deg=20.0))
    corner = lambda d: np.array(drawn_place(d.eye, d.volume.corners()[0]))  # noqa: E731
    assert corner(sliding.nudge_on_paper(document, 3.0, -2.0)) - corner(document) == pytest.approx(
        [3, -2]
    )
    moved = np.subtract(
        sliding.nudge_truly(document, 30.0, 40.0).volume.place, document.volume.place
    )
    c, s = np.cos(np.radians(20.0)), np.sin(np.radians(20.0))
    assert moved == pytest.approx([30 * c + 40 * s, -30 * s + 40 * c, 0.0])


def test_modules_drive_what_is_counted_in_them_and_a_dragged_side_keeps_its_module():
    document = proportioning.type_module(sheet(), "w = 120 mm")
    document = proportioning.type_side(document, 0, Count(3.0, "w"))
    document = proportioning.type_module(document, "w = 10 cm")
    assert document.volume.width_mm == pytest.approx(300.0)
    dragged = volume_edits.set_side(document, 0, 420.0)
    assert dragged.volume.counts[0].number == pytest.approx(4.2)
    plain = proportioning.type_side(dragged, 0, 500.0)
    assert plain.volume.counts[0] is None
    kept = proportioning.remove_module(dragged, "w")
    assert kept.volume.width_mm == pytest.approx(420.0) and kept.modules == ()
    for text, words in (
        ("w = 2 w", "refers to itself"),
        ("w", "such as w ="),
        ("7 = 1 mm", "is a word"),
    ):
        with pytest.raises(VolumeError, match=words):
            proportioning.type_module(document, text)
    twice = proportioning.type_side(document, 0, Count(2.0, "width"))
    assert twice.volume.width_mm == pytest.approx(600.0)
    assert twice.volume.counts[0].number == pytest.approx(6.0)
    assert proportioning.read_side(document, 0, "90 %") == Count(0.9, "width")
    with pytest.raises(VolumeError, match="refers to itself"):
        proportioning.type_side(document, 0, Count(2.0, "width", (Added(1.0, "w"),)))


def test_the_bounding_volume_of_what_is_chosen_takes_a_ratio():
    document = choosing.choose_all(
        sheet(case(yaw_deg=0.0), case(name="Tin", x_mm=700.0, yaw_deg=90.0, key=1))
    )
    row = standing.repeat(choosing.select(document, 0), 1, (0.0, 500.0, 0.0))
    row = proportioning.make_bounds_ratio(choosing.choose_all(row), (6.0, 4.0, 1.0))
    assert proportioning.bounds_of_chosen(row).sides == pytest.approx((1080.0, 720.0, 180.0))
    even = proportioning.stretch_bounds(row, 2, 90.0, keep_ratio=True)
    assert proportioning.bounds_of_chosen(even).sides == pytest.approx((540.0, 360.0, 90.0))
    with pytest.raises(VolumeError, match="some length"):
        proportioning.stretch_bounds(row, 0, -1.0, keep_ratio=True)


@pytest.mark.sample(4)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda s: s.name)
def test_a_starter_gives_a_framework_that_stands_with_nothing_to_remark_about_it(starter):
    blank = Document() if starter is RING_OF_PIERS else bare()  # that eye never sees a ring whole
    document = with_starter(blank, starter, starter.proposal)
    lowest = min(v.reach_along(np.array([0, 0, 1.0]))[0] for v in document.volumes)
    assert lowest > 1000.0 if starter is WALL_LAMP else lowest == pytest.approx(0.0, abs=1e-6)
    rules = {remark.rule for remark in second_look(document, scene_of(document))}
    assert not rules & {"floating", "overlapping_volumes", "off_the_sheet", "outside_the_cone"}
    twice = with_starter(document, starter, starter.proposal)
    assert len(twice.volumes) == 2 * len(document.volumes)
    assert len({v.name for v in twice.volumes}) == len(twice.volumes)
    with pytest.raises(VolumeError):
        with_starter(bare(), starter, {**starter.proposal, starter.questions[0].name: -1.0})


def test_the_vehicle_keeps_its_proportion_when_its_wheel_changes():
    document = with_starter(bare(), VEHICLE, VEHICLE.proposal)
    bigger = proportioning.type_module(document, "w = 930 mm")
    for small, large in zip(document.volumes, bigger.volumes, strict=True):
        assert large.sides == pytest.approx([1.5 * s for s in small.sides])
    where = {v.name: v for v in bigger.volumes}
    step = where["Rear wheel"].x_mm - where["Front wheel"].x_mm
    assert step == pytest.approx(3.0 * 930.0)
    assert where["Body"].z_mm == pytest.approx(0.4 * 930.0)


def test_seat_and_stack_measure_what_was_asked():
    seat = with_starter(bare(), SEAT, {**SEAT.proposal, "seat height": 500.0})
    assert next(v for v in seat.volumes if v.name == "Seat").world()[:, 2].max() == pytest.approx(
        500.0
    )
    stack = with_starter(bare(), CRATES, {**CRATES.proposal, "layers": 4.0, "columns": 1.0})
    assert len(stack.volumes) == 4
    assert stack.volumes[3].world()[:, 2].max() == pytest.approx(800.0)
    middle = [v.world()[:, :2].mean(axis=0) for v in stack.volumes]
    assert np.allclose(middle, middle[0])


def test_fitted_on_the_page_the_view_is_the_same_and_nothing_is_cut():
    document = sheet(case(), TIN, by=eye(centre_of_vision_mm=(900.0, -300.0)))
    fitted = fit_on_page(document)
    drawn = project(fitted.eye, np.concatenate([v.world() for v in fitted.volumes])).sheet
    assert drawn.min() > 10 and drawn[:, 0].max() < 410 and drawn[:, 1].max() < 290
    assert (fitted.eye.place, fitted.eye.heading_deg) == (
        document.eye.place,
        document.eye.heading_deg,
    )


def test_edits_refuse_what_cannot_be_and_leave_the_document():
    document = sheet(case(), TIN)
    none = choosing.select(document, None)
    for edit in (
        lambda: choosing.remove_chosen(none),
        lambda: standing.set_along_edge(document, 1, 0, 2.0),
        lambda: standing.mirror(document, 0),
        lambda: standing.repeat_round(document, 2, (0.0, 0.0, 0.0), 2, 0.0),
        lambda: shaping.divide_edge(document, 99, (0.5,)),
        lambda: shaping.cut_plan_corners(document, 500.0, rounded=True),
        lambda: replace(document, also=frozenset({9})),
        lambda: choosing.paste(document, []),
    ):
        with pytest.raises(IsometronError):
            edit()
    assert document == sheet(case(), TIN)


def test_nothing_snaps_to_what_goes_along_with_it():
    document = with_starter(bare(), VEHICLE, VEHICLE.proposal)
    names = [one.name for one in document.volumes]
    for moving, along in ((["Rear wheel"], ["Rear wheel twin"]), (["Body"], ["Cabin"])):
        stay = snapping.still(document, [names.index(name) for name in moving])
        for stops in (snapping.stops_along, snapping.middles_along):
            told = " ".join(words() for words in stops(stay, np.eye(3)[0]).words)
            assert not any(name in told for name in (*moving, *along))
            assert "Front wheel" in told


@given(
    st.floats(-1500, 1500),
    st.integers(0, 2),
    st.floats(-400, 400),
    st.floats(-400, 400),
    st.lists(st.floats(-600, 600), min_size=1, max_size=12),
)
def test_a_snap_is_the_target_nearest_on_the_paper_and_within_reach(mm, axis, x, y, places):
    along = case(yaw_deg=20.0).pose[1][axis]
    start = np.array([x, 2600.0 + y, 900.0])
    targets = [snapping.Target(v, str(i)) for i, v in enumerate(places)]
    drawn = project(eye(), start + np.array([mm, *places])[:, None] * along)
    if not drawn.seen.all():
        return
    off = np.hypot(*(drawn.sheet[1:] - drawn.sheet[0]).T)
    truly_close = set(np.argsort(np.abs(np.array(places) - mm), kind="stable")[:8].tolist())
    reachable = [i for i in truly_close if off[i] <= 2.0]
    found = snapping.nearest(eye(), start, along, mm, snapping.Stops.of(targets))
    if not reachable:
        assert found is None
    else:
        assert off[int(found.words)] == pytest.approx(min(off[i] for i in reachable))


def told(stops):
    return [snapping.Target(mm, say()) for mm, say in zip(stops.mm, stops.words, strict=True)]


@given(st.floats(0.2, 3.0), st.sampled_from([0, 1]))
def test_what_a_face_snaps_to_lies_exactly_in_line(height, axis):
    other = case(name="Other", height_mm=180.0 * height, x_mm=-700.0, yaw_deg=75.0, key=1)
    document = sheet(case(), other)
    for target in told(
        snapping.stops_along(snapping.still(document, [0]), np.array([0.0, 0.0, 1.0]))
    ):
        if target.words == "in line with Other":
            assert min(abs(target.mm - z) for z in other.world()[:, 2]) < 1e-6
        if target.words == "half of Other":
            assert target.mm == pytest.approx(1000.0 + 90.0 * height)
    marked = replace(other, marks=(Mark("edge", 8, 0, (0.25,)),))
    divided = replace(document, volumes=(case(), marked))
    found = told(snapping.stops_along(snapping.still(divided, [0]), np.array([0.0, 0.0, 1.0])))
    marks = [t.mm for t in found if t.words == "division of Other"]
    assert marks == pytest.approx([1000.0 + 45.0 * height] * len(marks)) and marks


def test_aids_stand_where_they_were_asked_for():
    document = sheet(case(z_mm=0.0), TIN, by=eye(heading_deg=15.0))
    wall = aiding.add_aid(document, "back wall", 250.0)
    ahead = np.array(
        [-np.sin(np.radians(wall.aids[0].yaw_deg)), np.cos(np.radians(wall.aids[0].yaw_deg))]
    )
    reach = max(float((v.world()[:, :2] @ ahead).max()) for v in document.volumes)
    assert np.array(wall.aids[0].place_mm) @ ahead == pytest.approx(reach + 250.0)
    starts, ends = wall.aids[0].lines()
    assert np.allclose(ends[1:, 2], 4000.0) and np.allclose(starts[:, 2], 0.0)
    shelf = aiding.add_aid(wall, "shelf edge", 100.0)
    assert shelf.aids[1].height_mm == 0.0 and len(shelf.aids) == 2
    assert aiding.clear_aids(shelf).aids == ()
    with pytest.raises(VolumeError, match="no drawing aid"):
        aiding.add_aid(document, "ceiling", 1.0)


def test_lines_of_the_room_run_level_across_or_to_the_points():
    document = sheet(case(z_mm=0.0), TIN, by=eye(heading_deg=15.0))
    for kind, count in (("floor line", 1), ("shelf edge", 1), ("shelf", 2), ("path", 2)):
        level = aiding.add_aid(document, kind, 100.0, level=True, thick_mm=40.0)
        starts, ends = level.aids[0].lines()
        drawn = [scene_of(level).aid_lines, (starts, ends)]
        assert len(starts) == count and len(drawn[0])
        assert drawn[0][:, 1] == pytest.approx(drawn[0][:, 3])
        runs = aiding.add_aid(document, kind, 100.0, thick_mm=40.0)
        lines = scene_of(runs).aid_lines
        assert np.abs(lines[:, 1] - lines[:, 3]).max() > 1.0
    shelf = aiding.add_aid(document, "shelf", 0.0, thick_mm=40.0).aids[0].lines()[0]
    assert shelf[0] - shelf[1] == pytest.approx([0.0, 0.0, 40.0])
    path = aiding.add_aid(document, "path", 0.0, thick_mm=900.0).aids[0].lines()[0]
    assert np.linalg.norm(path[0] - path[1]) == pytest.approx(900.0)
    with pytest.raises(VolumeError, match="thickness"):
        aiding.add_aid(document, "shelf", 0.0)


def test_a_grid_lies_square_on_the_ground_and_a_carried_height_stays_true():
    document = replace(sheet(case(z_mm=0.0), by=eye(tilt_deg=-8.0)), origin_mm=(100.0, 2500.0, 0.0))
    grid = aiding.lay_grid(aiding.lay_grid(document, 70.0), 120.0)
    starts, ends = grid.aids[0].lines()
    assert len(grid.aids) == 1 and len(starts) == 26
    assert np.linalg.norm(ends - starts, axis=1) == pytest.approx([12 * 120.0] * 26)
    assert np.linalg.norm(np.diff(starts[:13], axis=0), axis=1) == pytest.approx([120.0] * 12)
    assert (starts[:13] + ends[:13]).mean(axis=0) / 2 == pytest.approx([100.0, 2500.0, 0.0])
    across = (ends - starts) / (12 * 120.0)
    assert across[0] @ across[13] == pytest.approx(0.0) and across[0] @ document.volume.axes()[0]
    with pytest.raises(VolumeError, match="side"):
        aiding.lay_grid(document, 0.0)
    place = drawn_place(document.eye, np.array([-400.0, 3100.0, 0.0]))
    carried = aiding.carry_height(document, place).aids[0]
    (foot, first, top), (head, _foot, there) = carried.lines()
    assert foot == pytest.approx([-400.0, 3100.0, 0.0]) and head == pytest.approx(there)
    assert head - foot == pytest.approx([0.0, 0.0, document.volume.height_mm])
    assert top - first == pytest.approx(head - foot)
    with pytest.raises(VolumeError, match="ground"):
        aiding.carry_height(document, (200.0, 290.0))


def test_a_sheet_carries_modules_through_typing_and_taking_away():
    document = proportioning.type_module(sheet(), "w = 620 mm")
    document = proportioning.type_module(document, "track = 2.1 w")
    assert proportioning.modules_in_words(document) == "w = 62 cm\ntrack = 130.2 cm = 2.1 w"
    assert proportioning.ratio_in_words(document, case()) == "0.581 : 0.387 : 0.29  in w"
    left = proportioning.remove_module(document, "w")
    assert [(m.name, m.count) for m in left.modules] == [("track", None)]
    assert left.modules[0].mm == pytest.approx(1302.0)
    assert "None yet" in proportioning.modules_in_words(sheet())


def test_an_outline_of_its_own_is_typed_in_measures():
    corners = shaping.read_outline("0 0, 60 0; 60 40 , 0 250mm", "cm")
    prism = shaping.set_own_outline(sheet(), corners).volume
    assert prism.sides == pytest.approx((600.0, 400.0, 180.0))
    assert prism.contents_mm3 == pytest.approx((600 * 400 - 600 * 150 / 2) * 180)
    for text in ("0 0, 1 1", "0 0, 1 1, 2", "0 0, 5 5, 9 9", "0 0, 0 1, 0 2", "0 0, 4 0, 0 4, 4 4"):
        with pytest.raises(IsometronError):
            shaping.set_own_outline(sheet(), shaping.read_outline(text, "cm"))


@pytest.mark.parametrize("turn", [0.0, 40.0])
def test_a_row_is_evenly_spread_over_its_length_and_follows(turn):
    post = case(name="Post", width_mm=60.0, depth_mm=80.0, yaw_deg=turn, z_mm=0.0)
    along = post.pose[1][0]
    document = standing.repeat_over(sheet(post), 9, along, 3000.0)
    reach = np.array([volume.reach_along(along) for volume in document.volumes])
    assert len(reach) == 9 and reach[-1, 1] - reach[0, 0] == pytest.approx(3000.0)
    gaps = reach[1:, 0] - reach[:-1, 1]
    assert gaps == pytest.approx([(3000.0 - 9 * 60.0) / 8] * 8)
    taller = volume_edits.set_side(document, 2, 333.0)
    assert {volume.height_mm for volume in taller.volumes} == {333.0}
    for count, length in ((1, 3000.0), (5, 60.0), (3, float("nan"))):
        with pytest.raises(VolumeError):
            standing.repeat_over(sheet(post), count, along, length)

"""Hidden lines of whole frameworks against ray casting, and lines where volumes meet."""

from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits.choosing import choose_all, group, select
from isometron.document.edits.sheet_edits import show_see_through
from isometron.drawing.measures import shared_points, sloping_points, true_area
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.point import PointPick
from isometron.drawing.readings import reading_of
from isometron.drawing.scene import left_behind, scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.files.report import report_of
from isometron.framework.aids import Aid
from isometron.framework.bodies.body import DIVISION, EDGE, JOIN, SECTION
from isometron.framework.bodies.cuts import Cut
from isometron.framework.kinds.block import Block
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.marks import Mark
from isometron.framework.triangles import triangles_of
from isometron.framework.volume import Volume
from isometron.perspective.eye import eye_level
from tests.exact import blocked, surely_blocked
from tests.scenes import case, eye, seeds, sheet

L_PLAN = ((0, 0), (1, 0), (1, 0.4), (0.4, 0.4), (0.4, 1), (0, 1))


def any_volume(rng, number):
    sides = rng.uniform(100, 500, 3).tolist()
    leans = (rng.uniform(0, 0.4, 4) * [sides[1], sides[1], sides[0], sides[0]]).tolist()
    round_plan = Plan(RECTANGLE, 0.2 * min(sides[:2]), bool(rng.integers(2)))
    shape = (Block(), Taper(*leans), Plan(L_PLAN), round_plan)[rng.integers(4)]
    cuts = ()
    if rng.random() < 0.4:
        low = rng.uniform(-0.2, 0.5, 3)
        high = (low + rng.uniform(0.3, 0.8, 3)).tolist()
        turned = rng.uniform(-30, 30, 3).tolist() if rng.random() < 0.5 else (0.0, 0.0, 0.0)
        cuts = (Cut(tuple(low.tolist()), tuple(high), *turned),)
    tips = rng.uniform(-40, 40, 2).tolist() if rng.random() < 0.4 else (0.0, 0.0)
    place = rng.uniform((-500, 1500, 0), (500, 2600, 500)).tolist()
    yaw = float(rng.uniform(-180, 180))
    marks = (Mark("section", 0, 0, (0.37,)),)
    return Volume(f"V{number}", *sides, *place, yaw, *tips, shape=shape, cuts=cuts, marks=marks)


def triangles(scene):
    found = [triangles_of(picture.volume) for picture in scene.pictures]
    return [vertices[corners] for vertices, corners in found]


def sights(place, targets, owner, skins):
    """Which of some places, each of one of the volumes, no sight reaches, and for which of them
    that is sure: not where their own volume is thin before them, nor where another's skin, which
    may lie just before them where volumes pierce each other, is missed by little."""
    stopped, sure = np.zeros((2, len(targets)), dtype=bool)
    for number, skin in enumerate(skins):
        mine = owner == number
        others = np.concatenate([other for i, other in enumerate(skins) if i != number])
        own = surely_blocked(place, targets[mine], skin)
        thin = blocked(place, targets[mine], skin, skin=1e-3) & ~own[0]
        theirs = surely_blocked(place, targets[mine], others, clear=1)
        stopped[mine] = own[0] | theirs[0]
        open_to_us = own[1] & theirs[1] & ~thin
        sure[mine] = (own[0] & own[1]) | (theirs[0] & theirs[1]) | open_to_us
    return stopped, sure


@pytest.mark.parametrize("seed", seeds(6, 40))
def test_every_line_is_seen_exactly_where_a_sight_ray_reaches_it(seed):
    rng = np.random.default_rng(seed)
    volumes = [any_volume(rng, i) for i in range(5)]
    document = sheet(*volumes, by=eye(height_mm=900.0, tilt_deg=float(rng.uniform(-20, 10))))
    scene = scene_of(document)
    targets, seen, owner = [], [], []
    for number, picture in enumerate(scene.pictures):
        count = len(picture.lines)
        items, span = picture.standing.items, picture.pieces.span[:count]
        some = np.isin(picture.line_kinds, (EDGE, SECTION)) & (np.ptp(span, axis=1) > 1e-3)
        start = items.starts[picture.pieces.item[:count][some]]
        run = items.ends[picture.pieces.item[:count][some]] - start
        for share in (0.1, 0.5, 0.9):
            at = span[some] @ (1 - share, share)
            targets.append(start + at[:, None] * run)
            seen.append(picture.pieces.seen[:count][some])
            owner.append(np.full(len(at), number))
    targets, seen, owner = (np.concatenate(rows) for rows in (targets, seen, owner))
    place, skins = np.array(document.eye.place), triangles(scene)
    if any(picture.body.bent for picture in scene.pictures):
        stopped, sure = sights(place, targets, owner, skins)
    else:
        stopped = blocked(place, targets, np.concatenate(skins))
        sure = np.ones(len(targets), dtype=bool)
    assert sure.sum() > 150
    assert np.array_equal(stopped[sure], ~seen[sure])


def test_two_crossing_beams_meet_in_the_eight_lines_of_the_hand_drawn_cross():
    along = Volume("Along", 600, 100, 100, -300, 2000, 0)
    through = Volume("Through", 100, 600, 60, -50, 1750, 20)
    scene = scene_of(sheet(along, through))
    (join,) = scene.meetings.values()
    length = np.linalg.norm(join.ends - join.starts, axis=1)
    assert sorted(length.tolist()) == pytest.approx([60.0] * 4 + [100.0] * 4)
    assert set(np.round(join.starts[:, 1], 9)) == {2000.0, 2100.0}
    picture = scene.pictures[0]
    rows = picture.line_kinds == JOIN
    starts = picture.standing.items.starts[picture.pieces.item[: len(rows)][rows]]
    seen = starts[picture.pieces.seen[: len(rows)][rows]]
    assert len(seen) and (seen[:, 1] < 2000.0 + 1e-6).all()  # only the front four corners


def test_volumes_that_only_touch_draw_no_lines_between_them_but_their_edges():
    base = Volume("Base", 400, 300, 200, 0, 2000, 0)
    upon = Volume("Upon", 200, 300, 100, 100, 2000, 200)
    scene = scene_of(sheet(base, upon))
    assert not any(meeting.there for meeting in scene.meetings.values())
    whole = [sum(b - a for a, b in spans) for spans in scene.pictures[1].visible]
    assert whole[0] == pytest.approx(1.0)  # the joint is drawn once, whole


def test_a_flush_joint_within_a_group_is_no_edge():
    base = Volume("Base", 400, 300, 200, 0, 2000, 0)
    upon = Volume("Upon", 200, 300, 100, 100, 2000, 200)
    document = group(choose_all(sheet(base, upon)), "Body")
    scene = scene_of(document)
    front_top, front_foot = scene.pictures[0].visible[2], scene.pictures[1].visible[0]
    assert front_foot == ()  # the foot of the upper one runs across the flush front
    lost = [(100 / 400, 300 / 400)]
    kept = [(0.0, lost[0][0]), (lost[0][1], 1.0)]
    assert np.allclose(front_top, kept, atol=1e-4)
    apart = group(document, "")
    assert scene_of(apart, scene).pictures[1].visible[0] != ()


def test_solid_and_see_through_can_be_mixed():
    front = Volume("Front", 300, 100, 300, -150, 1500, 1350, see_through=False)
    behind = Volume("Behind", 100, 100, 100, -50, 2000, 1450)
    document = show_see_through(sheet(front, behind), True)
    scene = scene_of(document)
    assert not len(scene.pictures[1].seen_lines) and not len(scene.pictures[1].hidden_lines)
    clear = replace(document, volumes=(replace(front, see_through=True), behind))
    scene = scene_of(clear, scene)
    assert len(scene.pictures[1].hidden_lines) == 12
    assert len(scene.pictures[0].hidden_lines) == 8  # only its face square to us shows
    away = replace(document, volumes=(replace(front, shown=False), behind))
    assert len(scene_of(away, scene).pictures[1].seen_lines) == 4
    ghost = replace(document, volumes=(replace(front, ghost=True), behind))
    shown = scene_of(ghost, scene).pictures
    assert len(shown[1].seen_lines) == 4 and len(shown[0].ghost_lines) == 4


def test_aids_are_hidden_by_what_stands_before_them():
    document = sheet(case(z_mm=0.0))
    bare = replace(document, aids=(Aid("floor line", (0.0, 8000.0)),))
    scene = scene_of(bare)
    level = 180.0 - 600.0 * 1500.0 / 8000.0
    assert np.allclose(scene.aid_lines[:, [1, 3]], level)
    left, _, right, _ = scene.pictures[0].bounds
    tall = replace(bare, volumes=(case(z_mm=0.0, height_mm=2500.0),))
    cut = scene_of(tall, scene).aid_lines
    assert len(scene.aid_lines) == 1 and len(cut) == 2
    assert cut[0, 2] >= left - 1e-6 and cut[1, 0] <= right + 1e-6


def test_only_what_changed_is_worked_again_and_gives_the_same_picture():
    rng = np.random.default_rng(3)
    document = sheet(*[any_volume(rng, i) for i in range(8)])
    scene = scene_of(document)
    for step in range(6):
        volume = document.volumes[step]
        moved = replace(volume, x_mm=volume.x_mm + 40.0)
        document = replace(
            document, volumes=(*document.volumes[:step], moved, *document.volumes[step + 1 :])
        )
        scene = scene_of(document, scene)
        afresh = scene_of(document)
        for a, b in zip(scene.pictures, afresh.pictures, strict=True):
            assert np.allclose(a.seen_lines, b.seen_lines, equal_nan=True)
            assert np.allclose(a.hidden_lines, b.hidden_lines, equal_nan=True)


def test_what_has_just_been_changed_is_left_behind_as_it_was():
    before = scene_of(sheet(case(), case(name="Tin", x_mm=900.0)))
    taller = sheet(case(height_mm=400.0), case(name="Tin", x_mm=900.0))
    lines = left_behind(before, scene_of(taller))
    assert np.array_equal(lines, before.pictures[0].seen_lines)
    assert not len(
        left_behind(before, scene_of(select(sheet(case(), case(name="Tin", x_mm=900.0)), 1)))
    )


def test_sloping_edges_vanish_where_their_direction_says():
    roof = case(shape=Taper(60.0, 60.0, 0.0, 0.0), yaw_deg=30.0)
    document = sheet(roof)
    picture = scene_of(document).pictures[0]
    points = sloping_points(document.eye, picture)
    assert {p.above for p in points} == {True, False} and len(points) == 2
    rise = np.degrees(np.arctan2(180.0, 60.0))
    bearing = np.radians(30.0 + 90.0)
    for point, way in zip(sorted(points, key=lambda p: p.sheet_mm[1]), (-1, 1), strict=True):
        x, y, z = np.cos(bearing), np.sin(bearing), way * np.tan(np.radians(rise))
        expected = (210.0 + 600.0 * x / y, 180.0 + 600.0 * z / y)
        assert point.sheet_mm == pytest.approx(expected, abs=1e-8)
        assert point.above == (point.sheet_mm[1] > eye_level(document.eye))


def test_volumes_turned_alike_share_their_points():
    document = sheet(case(), case(name="Tin", x_mm=900.0, yaw_deg=-60.0), case(yaw_deg=10.0))
    one, square, other = scene_of(document).pictures
    assert set(shared_points(document.eye, one, square)) == {"left", "right", "parallel"}
    assert shared_points(document.eye, one, other) == ("parallel",)


def test_faces_of_any_shape_are_read():
    holed = case(cuts=(Cut((0.25, 0.0, 0.25), (0.75, 1.0, 0.75)),))
    document = sheet(holed)
    scene = scene_of(document)
    body = scene.pictures[0].body
    face = next(i for i, rings in enumerate(body.rings) if len(rings) == 2)
    assert true_area(scene.pictures[0], face) == pytest.approx(0.75 * 360 * 180)
    for number in range(len(body.rings)):
        assert reading_of(document, scene, FacePick(0, number)).rows
    for number in range(len(body.edges)):
        reading = reading_of(document, scene, EdgePick(0, number))
        assert reading.rows[0].value == pytest.approx(
            np.linalg.norm(np.diff(scene.pictures[0].world[body.edges[number]], axis=0))
        )
    assert DIVISION not in scene.pictures[0].line_kinds


def test_a_point_says_who_shares_it():
    document = sheet(case(), case(name="Tin", x_mm=900.0), case(name="Lid", yaw_deg=10.0))
    rows = {
        r.label: r.value
        for r in reading_of(document, scene_of(document), PointPick(0, family="left")).rows
    }
    assert rows["shared with"] == "Tin"


@pytest.mark.parametrize("seed", seeds(6, 30))
def test_an_eye_within_at_and_among_volumes_draws_no_nonsense(seed):
    rng = np.random.default_rng(1000 + seed)
    volumes = [any_volume(rng, i) for i in range(3)]
    corners = volumes[0].corners()
    inside, corner = (corners[0] + corners[7]) / 2, corners[seed % 8]
    x, y, z = (inside, inside + rng.normal(0, 200, 3), corner)[seed % 3].tolist()
    way = {
        "heading_deg": float(rng.choice([0.0, 90.0, 33.0])),
        "tilt_deg": (0.0, -90.0, 41.0)[seed % 3],
    }
    document = sheet(*volumes, by=eye(x_mm=x, y_mm=y, height_mm=z, **way))
    document = replace(document, aids=(Aid("back wall", (0.0, 3000.0)),))
    scene = scene_of(document)
    assert all(np.isfinite(strokes.lines).all() for strokes in sheet_strokes(document, scene))
    assert report_of(document, scene)["volumes"]
    body = scene.pictures[0].body
    for kind, count in ((EdgePick, len(body.edges)), (FacePick, len(body.rings))):
        assert all(reading_of(document, scene, kind(0, i)).rows for i in range(count))


@pytest.mark.parametrize("tilt", [0.0, -15.0])
@pytest.mark.parametrize("see_through", [False, True])
def test_the_eye_level_is_left_out_behind_what_is_solid(tilt, see_through):
    """Against the outline of the hull of each volume's drawn corners, crossed by the level."""
    import shapely

    boxes = (case(z_mm=1450.0), case(name="Tin", x_mm=500.0, y_mm=3000.0, z_mm=1400.0, key=1))
    document = sheet(*boxes, by=eye(tilt_deg=tilt))
    document = replace(document, choices=replace(document.choices, see_through=see_through))
    scene = scene_of(document)
    level = eye_level(document.eye)
    line = shapely.LineString([(-3000, level), (3000, level)])
    hulls = [shapely.MultiPoint(picture.sheet).convex_hull for picture in scene.pictures]
    left = line if see_through else line.difference(shapely.union_all(hulls))
    clear = shapely.box(-2000, -5000, 2000, 5000)
    seen = shapely.MultiLineString(scene.level_lines.reshape(-1, 2, 2).tolist())
    assert seen.intersection(clear).length == pytest.approx(left.intersection(clear).length)
    assert left.intersection(clear).length < 3999.0 or see_through
    moved = replace(boxes[0], x_mm=-700.0)
    after = document.with_volume(0, moved)
    assert scene_of(after, scene).level_lines == pytest.approx(scene_of(after).level_lines)

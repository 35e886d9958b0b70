from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits import choosing, eye_edits, volume_edits
from isometron.document.edits.shapes.cutting import NOTCHES
from isometron.document.edits.stances import EDGE_NEAREST, take_stance
from isometron.drawing.scene import scene_of
from isometron.framework.bodies.edging import Edging
from isometron.framework.circles import FaceCircle
from isometron.framework.figures import figure_of
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.triangles import triangles_of
from isometron.framework.volume import Volume
from isometron.hiding.sight import sight_of
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import points_at
from tests.exact import blocked, surely_blocked
from tests.framework.test_openings import opened
from tests.kinds import FLAT, SOLID, volume
from tests.scenes import case, crowd, eye, seeds, sheet


def check_against_rays(document, samples):
    """How many of some places along every edge are told otherwise than by a sight ray."""
    places, seen = [], []
    for picture in scene_of(document).pictures:
        ends = picture.world[picture.edges]
        for (start, end), spans in zip(ends, picture.visible, strict=True):
            borders = np.array([t for span in spans for t in span] + [0.0, 1.0])
            sure = np.abs(samples[:, None] - borders).min(axis=1) > 1e-4
            t = samples[sure]
            places.append(start + t[:, None] * (end - start))
            within = [(a <= t) & (t <= b) for a, b in spans]
            seen.append(np.any(within, axis=0) if within else np.zeros(len(t), dtype=bool))
    stopped = blocked(np.array(document.eye.place), np.concatenate(places), skins(document.volumes))
    return int((stopped == np.concatenate(seen)).sum())


@pytest.mark.parametrize("seed", seeds(2, 8))
def test_what_is_seen_agrees_with_rays_shot_at_every_edge(seed):
    crowded = take_stance(sheet(*crowd(9, seed)), EDGE_NEAREST)
    assert check_against_rays(crowded, np.linspace(0.01, 0.99, 23)) == 0
    tilted = eye_edits.set_tilt(eye_edits.set_eye_height(crowded, 3500.0), -35.0)
    assert check_against_rays(tilted, np.linspace(0.02, 0.98, 17)) == 0


def test_a_single_box_shows_nine_edges_and_hides_three():
    picture = scene_of(sheet()).pictures[0]
    assert sorted(len(spans) for spans in picture.visible) == [0] * 3 + [1] * 9
    assert picture.shown.tolist() == [True, False, True, False, False, True]
    assert len(picture.seen_lines) == 9 and len(picture.hidden_lines) == 3


@pytest.mark.parametrize(
    ("x", "z", "faces"), [(-900.0, 0.0, 3), (-180.0, 0.0, 2), (-180.0, 1400.0, 1)]
)
def test_square_to_us_three_two_or_one_faces_show_by_where_the_volume_stands(x, z, faces):
    square = sheet(case(yaw_deg=0.0, x_mm=x, z_mm=z))
    assert scene_of(square).pictures[0].shown.sum() == faces


@pytest.mark.parametrize("height", [0.0, 180.0])
@pytest.mark.parametrize("yaw", [0.0, 20.0, 30.0])
def test_an_eye_in_the_plane_of_a_face_sees_all_its_edges(height, yaw):
    """A line in a face that is seen edge-on is touched by what lies before it, never hidden."""
    by = eye(x_mm=-40.0, height_mm=height)
    for shape, cuts in ((BLOCK, ()), (Taper(0.6, 0.6), ()), (BLOCK, NOTCHES["L"])):
        if shape is not BLOCK and height:
            continue
        box = case(z_mm=0.0, yaw_deg=yaw, shape=shape, cuts=cuts)
        (picture,) = scene_of(sheet(box, by=by)).pictures
        level = np.abs(picture.world[picture.edges][..., 2] - height).max(axis=1) < 1e-9
        assert level.sum() >= 4
        for number in np.flatnonzero(level):
            assert picture.visible[number] == ((0.0, 1.0),)


def test_a_stacked_box_does_not_hide_the_edge_it_stands_on():
    low = Volume("Bench", 400.0, 400.0, 100.0, -200.0, 2000.0, 0.0, 0.0)
    high = Volume("Case", 400.0, 200.0, 300.0, -200.0, 2000.0, 100.0, 0.0)
    bench, top = scene_of(sheet(low, high)).pictures
    front_of_bench, foot_of_case = 2, 0
    assert bench.visible[front_of_bench] == ((0.0, 1.0),)
    assert top.visible[foot_of_case] == ((0.0, 1.0),)
    assert bench.visible[3] == ()


def test_half_covered_edges_are_cut_where_the_cover_ends():
    # Seen square from straight ahead, a screen at half the depth hides exactly twice its width.
    back = Volume("Shutter", 800.0, 10.0, 400.0, -400.0, 4000.0, 1300.0)
    screen = Volume("Screen", 100.0, 10.0, 2000.0, -50.0, 2000.0, 500.0)
    spans = scene_of(sheet(back, screen)).pictures[0].visible[0]
    assert np.array(spans) == pytest.approx(np.array([[0.0, 0.375], [0.625, 1.0]]), abs=1e-3)
    left, right = -50 / 2000 * 4000, 50 / 2000 * 4000  # the screen's front is nearest
    assert spans[0][1] * 800 - 400 == pytest.approx(left, abs=1e-9)
    assert spans[1][0] * 800 - 400 == pytest.approx(right, abs=1e-9)


def test_from_inside_a_box_all_its_edges_before_us_are_seen():
    room = Volume("Gallery", 4000.0, 4000.0, 3000.0, -2000.0, -1000.0, 0.0)
    picture = scene_of(sheet(room)).pictures[0]
    assert not picture.shown.any()
    ahead = [spans for spans in picture.visible if spans]
    assert len(ahead) == 8
    assert all(span == (0.0, 1.0) for spans in ahead[:2] for span in spans)
    cut = picture.visible[4][0]
    assert cut[0] == pytest.approx((1000 + 1) / 4000, abs=1e-6) and cut[1] == 1.0
    assert np.isfinite(picture.seen_lines).all()


def test_a_scene_brought_up_to_date_equals_one_made_afresh():
    document = take_stance(sheet(*crowd(30)), EDGE_NEAREST)
    scene = scene_of(document)
    for step in range(6):
        document = choosing.select(document, 5 * step)
        document = volume_edits.set_side(document, step % 3, 150.0 + 90 * step)
        document = volume_edits.turn_volume(document, 11.0 * step)
        updated = scene_of(document, scene)
        afresh = scene_of(document)
        for a, b in zip(updated.pictures, afresh.pictures, strict=True):
            assert a.visible == b.visible
            assert np.array_equal(a.seen_lines, b.seen_lines)
            assert np.array_equal(a.hidden_lines, b.hidden_lines)
        kept = sum(a is b for a, b in zip(updated.pictures, scene.pictures, strict=True))
        assert 0 < kept < 30
        scene = updated
    assert scene_of(document, scene) is scene
    fewer = choosing.remove_chosen(document)
    assert len(scene_of(fewer, scene).pictures) == 29


def test_nothing_behind_the_eye_is_drawn():
    behind = sheet(case(y_mm=-3000.0))
    picture = scene_of(behind).pictures[0]
    assert not len(picture.seen_lines) and not len(picture.hidden_lines)
    assert all(spans == () for spans in picture.visible)
    beside = sheet(Volume("Wall", 50.0, 9000.0, 900.0, 400.0, -3000.0, 0.0), by=eye())
    lines = scene_of(beside).pictures[0]
    drawn = np.concatenate([lines.seen_lines, lines.hidden_lines])
    assert len(drawn) and np.isfinite(drawn).all()


def skins(figures):
    """The triangles (t, 3, 3) of some volumes."""
    meshes = [triangles_of(volume) for volume in figures]
    return np.concatenate([vertices[faces] for vertices, faces in meshes])


def seen_places(sight, long_mm=12.0):
    """Places (p, 3) well within the longer pieces of a sight, and whether each is seen."""
    places, seen = [], []
    for one, pieces in zip(sight.standing, sight.pieces, strict=True):
        every = one.items.arcs[pieces.item]
        run = points_at(every, pieces.span[:, 0]) - points_at(every, pieces.span[:, 1])
        some = np.linalg.norm(run, axis=1) > long_mm
        arcs = every[some]
        for share in (0.2, 0.5, 0.8):
            at = pieces.span[some] @ (1 - share, share)
            places.append(points_at(arcs, at) + sight.viewpoint.origin)
            seen.append(pieces.seen[some])
    return np.concatenate(places), np.concatenate(seen)


def among_kinds():
    return [
        volume(kind, sides, x_mm=-500.0 + 170 * (i % 6), y_mm=1900.0 + 260 * (i // 6), key=i)
        for i, (kind, sides) in enumerate(SOLID)
    ]


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    "way",
    [(-0.4, -0.8, 0.45), pytest.param((0.9, -0.1, 0.2), marks=pytest.mark.full), (0.0, 0.0, 1.0)],
)
def test_a_direction_sees_what_parallel_rays_reach(way):
    volumes = among_kinds()
    way = np.array(way) / np.linalg.norm(way)
    figures = [figure_of(volume) for volume in volumes]
    sight = sight_of(Viewpoint(way, far=True), figures, np.ones(len(figures), dtype=bool))
    places, seen = seen_places(sight)
    stopped, sure = surely_blocked(way, places, skins(volumes), far=True)
    assert sure.sum() > 150 and np.array_equal(stopped[sure], ~seen[sure])


def test_through_openings_a_lamp_and_the_eye_see_what_rays_reach():
    box = opened(opened(volume(BLOCK, FLAT), 2, "arched", 0.7, through=True), 0, deep_mm=30.0)
    roof = opened(volume(Taper(20, 20), FLAT, x_mm=200.0), 2, "round", 0.6, through=True)
    drum = opened(volume(CYLINDER, (160.0,) * 3, x_mm=-300.0), 1, "square", 0.5, deep_mm=90.0)
    pierced = volume(BLOCK, FLAT, x_mm=100.0, y_mm=2300.0, z_mm=1560.0)
    pierced = replace(pierced, circles=(FaceCircle(2, radius_mm=20.0, through=True),))
    pierced = replace(pierced, edgings=tuple(Edging(n, 30.0, 20.0) for n in (0, 1, 9)))
    volumes = [replace(one, key=i) for i, one in enumerate((box, roof, drum, pierced))]
    figures = [figure_of(one) for one in volumes]
    for place in ((0.0, 1500.0, 1560.0), (-200.0, 1800.0, 1700.0), (60.0, 1960.0, 1500.0)):
        sight = sight_of(Viewpoint(np.array(place)), figures, np.ones(4, dtype=bool))
        places, seen = seen_places(sight, 6.0)
        stopped, sure = surely_blocked(np.array(place), places, skins(volumes))
        assert sure.sum() > 60 and np.array_equal(stopped[sure], ~seen[sure])


def test_a_lamp_among_the_volumes_sees_what_rays_reach_with_no_picture_at_all():
    volumes = among_kinds()
    figures = [figure_of(volume) for volume in volumes]
    place = np.array([-60.0, 2080.0, 1900.0])
    sight = sight_of(Viewpoint(place), figures, np.ones(len(figures), dtype=bool))
    places, seen = seen_places(sight)
    stopped, sure = surely_blocked(place, places, skins(volumes))
    assert sure.sum() > 150 and np.array_equal(stopped[sure], ~seen[sure])


def test_a_point_ever_farther_off_tends_to_its_direction():
    figures = [figure_of(volume) for volume in among_kinds()]
    way = np.array([-0.48, -0.6, 0.64])
    solid = np.ones(len(figures), dtype=bool)
    far = sight_of(Viewpoint(way, far=True), figures, solid)
    worst = []
    for distance in (1e4, 1e5, 1e6):
        near = sight_of(Viewpoint(distance * way), figures, solid)
        apart = [
            abs(np.subtract(*(np.ptp(p.span[(p.item == i) & p.seen], axis=1).sum() for p in pair)))
            for pair in zip(near.pieces, far.pieces, strict=True)
            for i in range(int(pair[1].item.max(initial=-1)) + 1)
        ]
        worst.append(float(np.mean(apart)))
    assert worst[1] < worst[0] / 4 and worst[2] < worst[1] / 4, worst


def test_a_sight_brought_up_to_date_over_all_kinds_equals_one_made_afresh():
    volumes = among_kinds()
    figures = [figure_of(volume) for volume in volumes]
    viewpoint = Viewpoint(np.array([0.0, 0.0, 1500.0]))
    solid = np.ones(len(figures), dtype=bool)
    sight = sight_of(viewpoint, figures, solid)
    rng = np.random.default_rng(4)
    for step in range(5):
        index = int(rng.integers(len(volumes)))
        moved = replace(volumes[index], x_mm=volumes[index].x_mm + float(rng.uniform(-90, 90)))
        volumes[index] = replace(moved, shown=step != 5)
        figures[index] = figure_of(volumes[index])
        solid = solid.copy()
        solid[index] = step % 3 > 0
        sight = sight_of(viewpoint, figures, solid, (), sight)
        afresh = sight_of(viewpoint, figures, solid)
        assert sight.meetings.keys() == afresh.meetings.keys()
        for one, other in zip(sight.pieces, afresh.pieces, strict=True):
            assert np.array_equal(one.item, other.item) and np.array_equal(one.seen, other.seen)
            assert np.abs(one.span - other.span).max(initial=0.0) < 1e-9
            assert np.array_equal(one.drawn, other.drawn)

"""What lies under the pointer, against brute force; and a pick that lives through edits."""

from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits.places import sliding
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.curve import CirclePick, CurvePick, circle_with
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.surface import SurfacePick
from isometron.drawing.scene import scene_of
from isometron.drawing.touching import pick_at
from isometron.files.sheet_file import sample_sheet
from isometron.framework.bodies.cuts import Cut
from isometron.framework.kinds.block import BLOCK
from isometron.hiding.facets import facets_of
from isometron.perspective.conics import points_at
from isometron.perspective.projection import project, sight_ray
from tests.kinds import EVERY, FLAT, volume
from tests.scenes import case, sheet

STEP, NOTCH = Cut((0.5, -0.1, 0.5), (1.1, 1.1, 1.1)), Cut((0.3, -0.1, 0.4), (0.6, 0.5, 1.1))
PLACED = [volume(kind, sides) for kind, sides in EVERY]
CUT = [replace(volume(BLOCK, FLAT), cuts=cuts) for cuts in ((STEP,), (NOTCH,), (STEP, NOTCH))]
PICKS = {
    EdgePick: lambda body: len(body.edges),
    FacePick: lambda body: body.faces,
    CornerPick: lambda body: len(body.vertices),
    CirclePick: lambda body: len(body.circles),
    CurvePick: lambda body: len(body.arcs),
    SurfacePick: lambda body: 0 if body.surfaces is None else len(body.surfaces.forms),
}


def skin_of(scene):
    """All triangles (n, 3, 3) of a scene, with the volume and the surface (n, 2) of each."""
    triangles, owners = [], []
    for number, picture in enumerate(scene.pictures):
        for surface, ring in facets_of(picture.body):
            world = ring @ picture.axes + picture.figure.place
            for i in range(1, len(world) - 1):
                triangles.append(world[[0, i, i + 1]])
                owners.append((number, surface))
    return np.array(triangles), owners


def first_met(document, skin, place):
    """The nearest surface on the ray through a place, of triangles of the skin, by brute force."""
    origin, ray = np.array(document.eye.place), sight_ray(document.eye, place)
    triangles, owners = skin
    one, two = triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0]
    across, away = np.cross(ray, two), origin - triangles[:, 0]
    size = (one * across).sum(axis=1)
    size[np.abs(size) < 1e-9] = np.nan
    u = (away * across).sum(axis=1) / size
    turned = np.cross(away, one)
    v, t = turned @ ray / size, (two * turned).sum(axis=1) / size
    t = np.where((u >= 0) & (v >= 0) & (u + v <= 1) & (t > 0), t, np.inf)
    return owners[int(t.argmin())] if np.isfinite(t.min()) else (0, -1)


@pytest.mark.sample(7)
@pytest.mark.parametrize("one", range(len(PLACED + CUT)))
def test_a_click_takes_the_surface_that_a_ray_meets_first(one):
    behind = replace(volume(BLOCK, FLAT), y_mm=2400.0, key=9)
    document = sheet((PLACED + CUT)[one], behind)
    scene = scene_of(document)
    rng = np.random.default_rng(one)
    low, high = scene.pictures[0].extent.reshape(2, 2)
    told, skin = 0, skin_of(scene)
    for place in rng.uniform(low - 2, high + 2, (60, 2)):
        around = {first_met(document, skin, place + step) for step in ((0, 0), (0.4, 0), (0, 0.4))}
        if len(around) > 1:
            continue  # chords of a round side miss its outline by a little
        pick = pick_at(document, scene, tuple(place.tolist()), 1e-9)
        found = (0, -1) if pick is None else (pick.volume, pick.index)
        assert found == around.pop()
        told += 1
    assert told > 30


@pytest.mark.parametrize("cut", range(len(CUT)))
def test_the_middle_of_every_drawn_edge_takes_that_edge_and_no_hidden_part(cut):
    document = sheet(CUT[cut])
    scene = scene_of(document)
    picture = scene.pictures[0]
    for row in np.flatnonzero(picture.pieces.drawn[: len(picture.lines)]).tolist():
        place = tuple(picture.lines[row].reshape(2, 2).mean(axis=0).tolist())
        assert pick_at(document, scene, place, 0.05).index == picture.pieces.item[row]
    solid = replace(document, choices=replace(document.choices, see_through=False))
    scene = scene_of(solid)
    for row in np.flatnonzero(~scene.pictures[0].pieces.seen).tolist():
        place = tuple(picture.lines[row].reshape(2, 2).mean(axis=0).tolist())
        assert not isinstance(pick_at(solid, scene, place, 0.05), EdgePick)


@pytest.mark.sample(1)
@pytest.mark.parametrize("seed", range(3))
def test_a_pick_lives_through_edits_or_ends_and_never_points_into_the_void(seed):
    rng = np.random.default_rng(seed)
    forms = [replace(one, key=7) for one in PLACED + CUT]
    other = replace(PLACED[3], key=2, x_mm=400.0)
    for _ in range(60):
        before, after = (forms[i] for i in rng.integers(0, len(forms), 2))
        old = sheet(before, other)
        new = sheet(*[[after], [other, after], [other]][rng.integers(0, 3)])
        scene, then = scene_of(old), scene_of(new)
        for kind, count in PICKS.items():
            for number in range(count(before.body)):
                pick = kind(0, number)
                there = pick.carried(scene, then)
                assert pick.carried(scene, scene) == pick
                if there is None:
                    continue
                assert new.volumes[there.volume].key == 7
                there.reading(new, then)
                there.swipe(then)
                was, now = pick.place(scene.pictures[0], number), None
                if before.shape != after.shape and was is not None:
                    now = there.place(then.pictures[there.volume], there.index)
                    assert now == pytest.approx(was, abs=1e-6)


def test_what_a_cut_leaves_standing_stays_picked():
    """An L cut numbers everything anew: the edges it left keep their pick, the cut ones lose it."""
    whole, cut = sheet(volume(BLOCK, FLAT)), sheet(CUT[0])
    scene, then = scene_of(whole), scene_of(cut)
    there = [EdgePick(0, i).carried(scene, then) for i in range(12)]
    ends = [None if p is None else then.pictures[0].body.true_mm[p.index] for p in there]
    kept = [i for i, mm in enumerate(ends) if mm is not None]
    assert kept == [0, 1, 4, 5, 6, 8, 10]
    assert [ends[i] for i in kept] == [whole.volume.body.true_mm[i] for i in kept]
    step = next(i for i in range(then.pictures[0].body.faces) if FacePick(0, i) not in [
        FacePick(0, f).carried(scene, then) for f in range(6)
    ])  # fmt: skip
    assert FacePick(0, step).carried(then, scene) is None


@pytest.mark.parametrize("face", range(6))
def test_a_face_dragged_through_its_opposite_stops_at_the_least_size(face):
    document = sheet(volume(BLOCK, FLAT))
    for way in ((4000.0, 300.0), (-4000.0, -300.0), (10.0, -4000.0), (10.0, 4000.0)):
        grip = sliding.grip_face(document, 0, face, (200.0, 150.0))
        try:
            done = sliding.slide_face(document, grip, way, snap=False)
        except Exception as error:  # beyond its vanishing point no length reaches
            assert "vanishing point" in str(error) or "size" in str(error)
            continue
        side = done.document.volume.sides[grip.axis]
        assert side >= 1.0 - 1e-9
        assert (done.words == "least size") == (side == pytest.approx(1.0))


def test_a_curve_reads_its_true_and_its_drawn_length():
    """Against the same curve walked in 20 000 steps, in the world and through its projection."""
    document = sample_sheet("supply crawler")
    scene = scene_of(document)
    number = next(n for n, v in enumerate(document.volumes) if v.name == "Crawler body")
    picture = scene.pictures[number]
    arc = next(n for n in range(len(picture.body.arcs)) if circle_with(picture, n) is None)
    told = {row.label: row.value for row in CurvePick(number, arc).reading(document, scene).rows}
    world = points_at(np.repeat(picture.figure.arcs[arc][None], 20001, 0), np.linspace(0, 1, 20001))
    drawn = project(document.eye, world).sheet
    for name, places in (("true length", world), ("on the paper", drawn)):
        walked = np.linalg.norm(np.diff(places, axis=0), axis=1).sum()
        assert told[name] == pytest.approx(walked, rel=1e-6)
    assert told["seen"] in ("whole", "in part", "hidden")
    outline = CurvePick(number, -1).reading(document, scene)
    assert outline.title == "Outline of Crawler body"


def test_the_grip_of_a_picked_face_stands_in_its_middle_and_points_outward():
    document = sheet(case())
    scene = scene_of(document)
    picture = scene.pictures[0]
    for face in range(6):
        ((middle, out),) = FacePick(0, face).swipe(scene).pushes
        corners = picture.world[[i for i in range(8) if (i >> face // 2 & 1) == face % 2]]
        normal = picture.body.normals[face] @ picture.volume.pose[1]
        told = project(
            document.eye, np.array([corners.mean(axis=0), corners.mean(axis=0) + normal])
        )
        assert middle == pytest.approx(told.sheet[0], abs=1e-9)
        assert (out - middle) @ (told.sheet[1] - told.sheet[0]) > 0

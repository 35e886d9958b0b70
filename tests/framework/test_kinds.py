"""What holds for every kind of volume, the registered ones and one made up here."""

import itertools
import json
import re
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
import pytest
import trimesh

from isometron.construction.order import order_of
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.readings import reading_of
from isometron.drawing.scene import scene_of
from isometron.files.report import report_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.bodies.body import EDGE
from isometron.framework.bodies.facets import flat_triangles
from isometron.framework.bodies.flat import from_faces
from isometron.framework.kinds.block import Block
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.registry import KINDS
from isometron.framework.placing import Mirrored
from isometron.framework.settling import settle
from isometron.framework.triangles import triangles_of
from isometron.remarks.second_look import second_look
from tests.exact import blocked, surely_blocked
from tests.kinds import EVERY, EXAMPLES, SOLID, name, volume
from tests.scenes import case, sheet

SOURCE = Path(__file__).parents[2] / "src" / "isometron"


def test_every_registered_kind_has_an_example_here():
    assert list(EXAMPLES) == list(KINDS)


def test_hardly_anybody_asks_for_one_very_kind():
    kinds = "|".join(kind.__name__ for kind in KINDS.values())
    asked = re.compile(rf"isinstance\([^()]*(?:\([^()]*\))?[^()]*\b(?:{kinds})\b")
    asked_by_word = re.compile(r"\.shape\.(?:word|name|called) (?:==|!=|in)")
    found = [
        (path.name, line.strip())
        for path in SOURCE.rglob("*.py")
        if path.parent.name != "kinds"
        for line in path.read_text().splitlines()
        if asked.search(line) or asked_by_word.search(line)
    ]
    assert len(found) < 12, found


@pytest.mark.sample(5)
@pytest.mark.parametrize(("kind", "sides"), EVERY, ids=name)
def test_mirrored_twice_it_is_itself(kind, sides):
    twice = kind.mirrored().mirrored()
    one, other = volume(kind, sides), volume(twice, sides)
    assert np.allclose(one.enclosing(), other.enclosing(), atol=1e-9)
    assert other.contents_mm3 == pytest.approx(one.contents_mm3, rel=1e-12)


@pytest.mark.sample(5)
@pytest.mark.parametrize(("kind", "sides"), EVERY, ids=name)
def test_scaled_it_holds_as_much_more(kind, sides):
    larger = kind.scaled((1.7, 1.7, 1.7))
    grown = volume(larger, tuple(1.7 * side for side in sides))
    assert grown.contents_mm3 == pytest.approx(1.7**3 * volume(kind, sides).contents_mm3, rel=1e-9)
    lengths = volume(kind, sides).body.true_mm
    assert grown.body.true_mm == pytest.approx(1.7 * lengths, rel=1e-9)


@pytest.mark.sample(5)
@pytest.mark.parametrize(("kind", "sides"), SOLID, ids=name)
def test_its_mesh_is_closed_as_large_and_reaches_as_far(kind, sides):
    one = volume(kind, sides, pitch_deg=20.0, roll_deg=-35.0)
    mesh = trimesh.Trimesh(*triangles_of(one), process=False)
    assert mesh.is_watertight and mesh.volume == pytest.approx(one.contents_mm3, rel=0.008)
    ways = np.random.default_rng(2).normal(size=(7, 3))
    for way in ways / np.linalg.norm(ways, axis=1, keepdims=True):
        low, high = one.reach_along(way)
        along = mesh.vertices @ way
        assert low - 0.01 <= along.min() <= low + 0.5
        assert high - 0.5 <= along.max() <= high + 0.01
        held = one.enclosing() @ way
        assert held.min() <= low + 1e-6 and high - 1e-6 <= held.max()


@pytest.mark.parametrize(("kind", "sides"), SOLID, ids=name)
def test_its_body_is_closed(kind, sides):
    body = volume(kind, sides).body
    drawn = body.arc_kinds == EDGE
    assert (body.edge_faces >= 0).all() and (body.arc_faces[drawn] >= 0).all()
    ends = body.vertices[body.edges]
    lies_on = ends[:, :, None] @ body.normals.T - body.offsets
    for edge, faces in enumerate(body.edge_faces.tolist()):
        for face in (f for f in faces if f < body.faces):
            assert np.abs(lies_on[edge, :, 0, face]).max() < 1e-7
    for face in range(body.faces):
        for loop in body.loops(face):
            points = loop[:, [0, 2], :3] / loop[:, [0, 2], 3:]
            gaps = np.linalg.norm(points[:, 1] - np.roll(points[:, 0], -1, axis=0), axis=1)
            assert gaps.max() < 1e-7, "its outline runs round and home"
        assert body.area_of(face) > 0


@pytest.mark.sample(5)
@pytest.mark.parametrize(("kind", "sides"), SOLID, ids=name)
def test_what_is_seen_of_it_and_behind_it_is_what_sight_rays_reach(kind, sides):
    one = volume(kind, sides, pitch_deg=12.0)
    document = sheet(one, case(x_mm=-180.0, y_mm=2250.0, z_mm=1380.0, key=1))
    scene = scene_of(document)
    targets, seen = [], []
    for picture in scene.pictures:
        items, pieces = picture.standing.items, picture.pieces
        long = np.ptp(pieces.span, axis=1) > 0.02
        for share in (0.15, 0.5, 0.85):
            at = pieces.span @ (1 - share, share)
            arcs = items.arcs[pieces.item]
            b = np.stack([(1 - at) ** 2, 2 * at * (1 - at), at**2], axis=1)
            places = np.einsum("kic,ki->kc", arcs, b)
            targets.append((places[:, :3] / places[:, 3:])[long] + np.array(document.eye.place))
            seen.append(pieces.seen[long])
    targets, seen = np.concatenate(targets), np.concatenate(seen)
    meshes = [triangles_of(picture.volume) for picture in scene.pictures]
    corners = np.concatenate([vertices[faces] for vertices, faces in meshes])
    eye = np.array(document.eye.place)
    if scene.pictures[0].body.bent:
        stopped, sure = surely_blocked(eye, targets, corners)
    else:
        stopped, sure = blocked(eye, targets, corners), np.ones(len(seen), dtype=bool)
    assert sure.sum() > 40 and np.array_equal(stopped[sure], ~seen[sure])


@pytest.mark.parametrize(("kind", "sides"), EVERY, ids=name)
def test_saved_it_opens_the_same(kind, sides):
    document = sheet(volume(kind, sides))
    text = sheet_as_text(document)
    assert sheet_from_text(text.encode(), "it") == document
    assert sheet_as_text(sheet_from_text(text.encode(), "it")) == text


@dataclass(frozen=True)
class Tent(Kind):
    """A triangular roof whose ridge lies a share of the width along; only here."""

    ridge: float
    word = "tent"
    called = "tent"
    axle = None
    rolls = False
    leans = None
    outline = None

    def body(self, sides, holes):
        w, d, h = sides
        r = self.ridge * w
        points = [(0, 0, 0), (w, 0, 0), (w, d, 0), (0, d, 0), (r, 0, h), (r, d, h)]
        rings = [(0, 3, 2, 1), (0, 1, 4), (3, 5, 2), (0, 4, 5, 3), (1, 2, 5, 4)]
        return from_faces(np.array(points, dtype=float), [[list(ring)] for ring in rings])

    def faceted(self, sides):
        return self.body(sides, ())

    def contents_mm3(self, sides, holes):
        return sides[0] * sides[1] * sides[2] / 2

    def triangles(self, sides, holes):
        return flat_triangles(self.body(sides, ()))

    def profile(self, sides, holes):
        return None

    def footprint(self, sides):
        w, d, _ = sides
        return np.array([(0.0, 0.0, 0.0), (w, 0, 0), (w, d, 0), (0, d, 0)])

    def mirrored(self):
        return Tent(1.0 - self.ridge)

    def scaled(self, factors):
        return self

    def face_plane(self, body, sides, circle):
        return Block().face_plane(body, sides, circle)

    def mirrored_circle(self, circle, body, twin, width_mm):
        return None

    def circle_called(self, circle, circles):
        return circle.called


def test_a_kind_that_leaves_an_answer_out_cannot_be_made():
    @dataclass(frozen=True)
    class Dumb(Kind):
        word = "dumb"

    with pytest.raises(TypeError, match="abstract"):
        Dumb()


def test_a_new_kind_is_drawn_mirrored_measured_saved_and_opened(monkeypatch):
    monkeypatch.setitem(KINDS, "tent", Tent)
    tent = volume(Tent(0.2), (200.0, 140.0, 110.0), z_mm=0.0)
    about = case(z_mm=0.0, key=1)
    twin = replace(tent, name="Twin", key=2, like=Mirrored(0, 1, 0))
    document = sheet(tent, about, twin)
    volumes, _ = settle(document.volumes, ())
    document = replace(document, volumes=volumes)
    assert volumes[2].shape == Tent(0.8)
    scene = scene_of(document)
    assert len(scene.pictures[0].seen_lines) > 4
    told = report_of(document, scene)["volumes"][0]
    assert told["kind"] == "tent" and told["tent"] == {"ridge": 0.2}
    assert len(told["corners"]) == 6 and len(told["edges"]) == 9
    assert told["contents_mm3"] == pytest.approx(200 * 140 * 110 / 2)
    slope = np.linalg.norm([40.0, 0, 110.0])
    assert sum(e["true_mm"] == pytest.approx(slope) for e in told["edges"]) == 2
    for number in range(9):
        assert reading_of(document, scene, EdgePick(0, number)).rows
    assert any("Part" in chapter.title for chapter in order_of(document, scene).chapters)
    second_look(document, scene)
    text = sheet_as_text(document)
    assert json.loads(text)["volumes"][0]["tent"] == {"ridge": 0.2}
    assert sheet_from_text(text.encode(), "it") == document
    assert {frozenset(p) for p in itertools.pairwise((0, 1, 4))} <= {
        frozenset(edge) for edge in tent.body.edges.tolist()
    }

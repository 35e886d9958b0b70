"""Openings in faces: what they take away, what they show, and what is refused."""

from dataclasses import replace

import numpy as np
import pytest
import trimesh

from isometron.document.edits.faces import on_faces
from isometron.document.edits.shapes import cutting, rounding, shaping
from isometron.document.lights.sun import Sun
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.areas import areas_of
from isometron.drawing.stands import touching
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.bent_sides import side_of
from isometron.framework.bodies import openings
from isometron.framework.bodies.body import CIRCLE
from isometron.framework.circles import flat_plane
from isometron.framework.face_rings import OPENINGS, FaceRing, ring_of
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.taper import Taper
from isometron.framework.placing import Mirrored
from isometron.framework.settling import settle
from isometron.framework.triangles import triangles_of
from isometron.hiding.contact import holds
from isometron.perspective.conics import points_at
from isometron.perspective.errors import VolumeError
from tests.kinds import FLAT, SOLID, volume
from tests.scenes import case, crossed, sheet

ARCHES = [case for case in SOLID if isinstance(case[0], Extruded)][:1]
"""An extrusion with an arched underside."""


def opened(one, face, shape="round", share=0.3, **how):
    """A volume with an opening in the middle of a face."""
    plane = flat_plane(one.unopened, face)
    size = share * min(plane.extents)
    middle = plane.shares(one.unopened.middle_of(face))
    corner = tuple(m * e - size / 2 for m, e in zip(middle, plane.extents, strict=True))
    ring = ring_of(shape, plane, corner, (size, size))
    return replace(one, face_rings=(*one.face_rings, FaceRing(face, ring, **how)))


def area_of(shape, size):
    return {
        "square": size * size,
        "round": np.pi * size * size / 4,
        "arched": size * size / 2 + np.pi * size * size / 8,
    }[shape]


@pytest.mark.sample(4)
@pytest.mark.parametrize(("which", "shape"), crossed(range(len(SOLID)), OPENINGS))
def test_every_flat_face_of_anything_takes_an_opening_of_its_true_contents(which, shape):
    kind, sides = SOLID[which]
    whole, taken_by = volume(kind, sides), 0
    for face in range(whole.unopened.faces):
        try:
            one = opened(whole, face, shape, deep_mm=6.0)
            body = one.body
        except VolumeError:
            continue  # a face too narrow about its middle, or too thin behind it
        size = 0.3 * min(flat_plane(whole.unopened, face).extents)
        taken = whole.contents_mm3 - one.contents_mm3
        assert taken == pytest.approx(6.0 * area_of(shape, size), rel=1e-9)
        mesh = trimesh.Trimesh(*triangles_of(one), process=False)
        assert mesh.is_watertight
        taken_by += 1
        assert body.normals[: whole.body.faces] == pytest.approx(whole.body.normals)
        assert body.vertices[: len(whole.bare.vertices)] == pytest.approx(whole.bare.vertices)
    assert taken_by or kind.called == "tube"  # its wall is too thin


@pytest.mark.parametrize("shape", OPENINGS)
def test_through_leaning_sides_it_takes_what_finer_and_finer_chords_take(monkeypatch, shape):
    one = volume(Taper(20, 12, 30, -15), FLAT)
    one = opened(opened(one, 2, shape, through=True), 5, shape, 0.2, deep_mm=9.0)
    gaps = []
    for chord in (3.0, 1.5):
        monkeypatch.setattr(openings, "CHORD_DEG", chord)
        gaps.append(trimesh.Trimesh(*triangles_of(one)).volume - one.contents_mm3)
    limit = (4 * gaps[1] - gaps[0]) / 3  # chords miss by the square of their length
    assert abs(limit) < 1e-7 * one.contents_mm3
    assert one.body.circles[0].role == "hole" if shape == "round" else not one.body.circles


def test_what_leaves_its_face_or_meets_another_is_refused_in_a_sentence():
    box = volume(BLOCK, FLAT)
    plane = flat_plane(box.unopened, 2)
    ring = ring_of("square", plane, (10.0, 10.0), (50.0, 50.0))
    for bad, words in (
        (opened(box, 2, share=1.0, deep_mm=5.0), "within its face"),
        (opened(box, 2, deep_mm=140.0), "less deep"),
        (opened(box, 2, deep_mm=500.0), "less deep"),
        (opened(opened(box, 2, through=True), 0, through=True), "less deep"),
        (opened(opened(box, 2, through=True), 2, "square", through=True), "less deep"),
        (replace(box, face_rings=(FaceRing(17, ring, 5.0),)), "face is gone"),
    ):
        with pytest.raises(VolumeError, match=words):
            _unused = bad.body
    with pytest.raises(VolumeError, match=r"less deep|within"):
        _unused = opened(volume(Taper(70, 70), FLAT), 2, "square", 0.9, deep_mm=60.0).body


def test_it_is_saved_and_mirrored_twice_it_is_itself():
    one = replace(opened(volume(BLOCK, FLAT), 0, "arched", deep_mm=8.0, twin=0), key=0)
    one = opened(one, 2, "round", through=True)
    twin = replace(volume(BLOCK, FLAT), name="Twin", key=1, like=Mirrored(0, 0, 1))
    both, _ = settle((one, twin), ())
    again = replace(twin, name="Again", key=2, like=Mirrored(1, 1, 1))
    three, _ = settle((*both, again), ())
    assert three[1].contents_mm3 == pytest.approx(one.contents_mm3, rel=1e-12)
    for here, there in zip(three[0].face_rings, three[2].face_rings, strict=True):
        assert here.face == there.face and here.twin == there.twin
    document = sheet(*three)
    assert sheet_from_text(sheet_as_text(document).encode(), "it").volumes == document.volumes


def test_the_mirrored_one_follows_and_an_outline_is_drawn_where_its_face_is_there():
    document = sheet(volume(BLOCK, (400.0, 300.0, 200.0)))
    lamp = on_faces.Wanted("round", "10cm", "5cm", "4cm", "4cm", "drawn", twin=0)
    document = on_faces.put_on(document, lambda v: on_faces.face_to(v, 2), lamp)
    middles = [c.centre[[0, 2]] for c in document.volume.body.circles]
    assert middles == [pytest.approx([120.0, 70.0]), pytest.approx([280.0, 70.0])]
    document = on_faces.change_ring(document, 0, "left", "6cm")
    middles = [c.centre[[0, 2]] for c in document.volume.body.circles]
    assert middles == [pytest.approx([80.0, 70.0]), pytest.approx([320.0, 70.0])]
    # a window across the lamp takes the part of it away that would hang in the air
    window = on_faces.Wanted("square", "80mm", "1cm", "8cm", "15cm", "2cm")
    document = on_faces.put_on(document, lambda v: on_faces.face_to(v, 2), window)
    half, whole = document.volume.drawn_rings
    points = np.concatenate([half[:, [0, 2], :3] / half[:, [0, 2], 3:]]).reshape(-1, 3)
    assert points[:, 0].max() == pytest.approx(80.0) and len(whole) == 4
    told = on_faces.typed_of(document.volume, 1, "cm")
    assert told == {"left": "8 cm", "up": "1 cm", "wide": "8 cm", "high": "15 cm", "deep": "2 cm"}
    bare = on_faces.take_ring(on_faces.take_ring(document, 1), 0)
    assert bare.volume.face_rings == () and len(bare.volume.body.arcs) == 0


@pytest.mark.parametrize(
    ("kind", "sides"),
    [(lathe.CYLINDER, (200.0, 200.0, 300.0)), (lathe.DOME, (200.0,) * 3), *ARCHES],
)
@pytest.mark.parametrize("shape", OPENINGS)
def test_an_outline_on_a_bent_side_lies_on_it_by_its_true_lengths(kind, sides, shape):
    document = sheet(volume(kind, sides))
    side = side_of(document.volume.unopened, -1)
    size = 0.2 * min(side.extents)
    wanted = on_faces.Wanted(shape, "middle", "middle", f"{size} mm", f"{size} mm", "drawn")
    document = on_faces.put_on(document, lambda v: -1, wanted)
    body = document.volume.body
    mine = np.flatnonzero(body.arc_kinds == CIRCLE)
    for share in (0.0, 0.25, 0.5, 0.9):
        places = points_at(body.arcs[mine], np.full(len(mine), share))
        x = np.concatenate([places, np.ones((len(places), 1))], axis=1)
        forms = body.surfaces.forms[body.arc_faces[mine, 0]]
        off = np.abs(np.einsum("ni,nij,nj->n", x, forms, x))
        assert off.max() < 1e-6 * max(sides) ** 2
    ends = (
        points_at(body.arcs[mine], np.zeros(len(mine))),
        points_at(body.arcs[mine], np.ones(len(mine))),
    )
    around = {"square": 4 * size, "round": np.pi * size, "arched": 2 * size + np.pi * size / 2}
    if kind is lathe.CYLINDER or kind is ARCHES[0][0]:  # unrolled without stretching
        long = np.linalg.norm(ends[1] - ends[0], axis=1).sum()
        assert long == pytest.approx(around[shape], rel=5e-3)
    told = on_faces.typed_of(document.volume, 0, "mm")
    assert float(told["wide"].split()[0]) == pytest.approx(size, abs=0.06)
    with pytest.raises(VolumeError, match="type drawn"):
        on_faces.change_ring(document, 0, "deep", "through")


def test_a_window_on_a_drum_looks_to_the_front_and_its_twin_to_the_back():
    document = sheet(volume(lathe.CYLINDER, (200.0, 200.0, 300.0)))
    wanted = on_faces.Wanted("square", "middle", "5cm", "4cm", "6cm", "drawn", twin=1)
    document = on_faces.put_on(document, on_faces.front_or_side, wanted)
    front, back = document.volume.drawn_rings
    middles = [(one[:, 0, :3] / one[:, 0, 3:]).mean(axis=0) for one in (front, back)]
    assert middles[0][1] < 10.0 and middles[1][1] > 190.0
    assert middles[0][0] == pytest.approx(100.0, abs=2.0) == pytest.approx(middles[1][0], abs=4.0)
    lowest = min(float((one[:, 0, 2] / one[:, 0, 3]).min()) for one in (front, back))
    assert lowest == pytest.approx(50.0)
    aside = on_faces.change_ring(document, 0, "left", "20cm").volume.drawn_rings
    xs = [float((one[:, 0, 0] / one[:, 0, 3]).mean()) for one in aside]
    assert xs[0] == pytest.approx(xs[1], abs=1.0) and xs[0] < 60.0, "both on the left"


def test_openings_stay_in_their_places_when_the_body_is_cut_or_leans():
    document = sheet(volume(BLOCK, (400.0, 300.0, 200.0)))
    hole = on_faces.Wanted("round", "8cm", "8cm", "4cm", "4cm", "1cm")
    document = on_faces.put_on(document, lambda v: on_faces.face_to(v, 2), hole)
    middle = document.volume.body.circles[0].centre
    stepped = cutting.step_cut(document, "left", upper=True, inward=0.1, deep=0.2)
    assert stepped.volume.body.circles[0].centre == pytest.approx(middle)
    leaning = shaping.lean(document, "front", 30.0)
    assert len(leaning.volume.body.circles) == 2
    round_one = rounding.make_round(document, "cylinder")
    assert round_one.volume.face_rings == ()


@pytest.mark.parametrize(
    ("field", "text"),
    [("left", "soon"), ("wide", "0"), ("high", "-3cm"), ("deep", "a lot"), ("wide", "9m")],
)
def test_what_cannot_be_read_is_told_and_changes_nothing(field, text):
    document = sheet(volume(BLOCK, FLAT))
    hole = on_faces.Wanted("square", "middle", "middle", "1/3", "1/3", "1cm")
    document = on_faces.put_on(document, lambda v: on_faces.face_to(v, 2), hole)
    with pytest.raises(VolumeError):
        on_faces.change_ring(document, 0, field, text)


@pytest.mark.parametrize(("shape", "deep"), crossed(OPENINGS, ["30 mm", "through", "drawn"]))
def test_openings_that_touch_each_other_are_cut_lit_and_leaned_against(shape, deep):
    """Side by side without a gap: rings that meet in a place, or along a side."""
    typed = on_faces.Wanted(
        shape, "middle", "middle", "60 mm", "60 mm", deep, across=3, upward=2, each=True
    )
    document = on_faces.put_on(sheet(case(z_mm=0.0)), on_faces.front_or_side, typed)
    box = document.volumes[0]
    mesh = trimesh.Trimesh(*triangles_of(box), process=False)
    took = 6 * area_of(shape, 60.0) * {"through": 240.0, "30 mm": 30.0, "drawn": 0.0}[deep]
    assert mesh.is_watertight
    assert 360.0 * 240.0 * 180.0 - mesh.volume == pytest.approx(took, rel=2e-3, abs=1e-6)
    beside = replace(box, key=5, x_mm=box.x_mm - 500.0, face_rings=())
    both = replace(document, volumes=(box, beside), light=Sun(220.0, 35.0))
    scene = scene_of(both)
    assert areas_of(both, scene) and touching(both, scene, 0) == {}
    within = (*box.world()[:, :2].mean(axis=0), 60.0)
    assert holds(scene.pictures[0].figure, np.array(within)) == (deep != "through")

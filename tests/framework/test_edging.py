"""Chosen edges chamfered and rounded: what they take away, what stays, and what is refused."""

import math
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from isometron.document.edits.faces import on_faces
from isometron.document.edits.shapes import arches, edge_edits, shaping
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.bodies.cuts import Cut
from isometron.framework.bodies.edging import Edging, outer, same_edge
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.taper import Taper
from isometron.framework.placing import Mirrored
from isometron.framework.settling import settle
from isometron.framework.triangles import triangles_of
from isometron.perspective.errors import VolumeError
from tests.kinds import volume
from tests.scenes import sheet

SIDES = (400.0, 300.0, 200.0)
WHOLE = 400.0 * 300.0 * 200.0


def box(*edgings, **changes):
    return volume(BLOCK, SIDES, edgings=edgings, **changes)


def edge_between(one, first, second):
    """The number of the edge between the faces of a box that look two ways."""
    body = one.sharp
    pair = {on_faces.face_to(one, first), on_faces.face_to(one, second)}
    return next(i for i, faces in enumerate(body.edge_faces.tolist()) if set(faces) == pair)


@pytest.mark.parametrize(("first", "second", "long"), [(0, 2, 200.0), (2, 5, 400.0), (1, 5, 300.0)])
def test_an_edge_taken_off_takes_its_triangle_or_what_lies_outside_its_arc(first, second, long):
    edge = edge_between(box(), first, second)
    chamfered = box(Edging(edge, 30.0, 50.0))
    assert chamfered.contents_mm3 == pytest.approx(WHOLE - 30.0 * 50.0 / 2 * long)
    assert chamfered.bare.faces == 7 and not chamfered.bare.smooth.any()
    rounded = box(Edging(edge, 40.0, 40.0, True))
    taken = (1600.0 - np.pi * 400.0) * long
    chords = 15  # of 6°: each cuts r²(α − sin α)/2 off besides
    sliver = chords * 1600.0 * (np.radians(6.0) - np.sin(np.radians(6.0))) / 2 * long
    assert rounded.contents_mm3 == pytest.approx(WHOLE - taken - sliver, rel=1e-9)
    assert rounded.bare.smooth.sum() == chords + 1, "no line is drawn along the round"
    assert trimesh.Trimesh(*triangles_of(rounded), process=False).is_watertight


def test_a_round_on_a_sloping_edge_touches_both_faces():
    leaning = volume(Taper(60.0, 0.0, 0.0, 0.0), SIDES)
    edge = edge_between(leaning, 2, 5)
    one = replace(leaning, edgings=(Edging(edge, 25.0, 25.0, True),))
    start, end = leaning.sharp.vertices[leaning.sharp.edges[edge]]
    along = (end - start) / np.linalg.norm(end - start)
    off = np.linalg.norm(np.cross(one.bare.vertices - start, along), axis=1)
    touching = np.isclose(off, 25.0)
    front, top = (leaning.sharp.normals[on_faces.face_to(leaning, side)] for side in (2, 5))
    for normal in (front, top):
        reach = (one.bare.vertices[touching] - start) @ normal
        assert np.isclose(reach, 0.0, atol=1e-9).sum() == 2
    assert on_faces.face_to(one, 2) is not None


def test_edges_meet_in_mitres_and_inner_ones_stay():
    document = sheet(box(cuts=(Cut((0.5, 0.0, 0.5), (1.0, 1.0, 1.0)),)))
    step = document.volume
    faces = np.flatnonzero(step.bare.normals[:, 2] > 0.9)
    tread = min(faces, key=lambda f: step.bare.offsets[f])
    edges = edge_edits.edges_of_face(step, int(tread))
    assert len(edges) == 4
    done = edge_edits.take_off(document, edges, 10.0, 10.0, rounded=False).volume
    assert len(done.edgings) == 3, "the inner edge stays"
    with pytest.raises(VolumeError, match="inner edge"):
        inner = next(e for e in edges if not outer(step.sharp, e))
        edge_edits.take_off(document, [inner], 10.0, 10.0, rounded=False)
    top = edge_edits.edges_of_face(box(), 5)
    lid = edge_edits.take_off(sheet(box()), top, 20.0, 20.0, rounded=False).volume
    frustum = 20.0 / 6 * (400 * 300 + 4 * 380 * 280 + 360 * 260)
    assert lid.contents_mm3 == pytest.approx(400.0 * 300.0 * 180.0 + frustum)


def test_what_the_body_has_stays_and_follows_twins_files_and_leans():
    document = sheet(box(key=0))
    hole = on_faces.Wanted("round", "middle", "middle", "8cm", "8cm", "2cm")
    document = on_faces.put_on(document, lambda v: on_faces.face_to(v, 2), hole)
    edge = edge_between(document.volume, 2, 5)
    document = edge_edits.take_off(document, [edge], 30.0, 30.0, rounded=True)
    one = document.volume
    assert len(one.body.circles) == 2 and len(one.edgings) == 1
    plain = document.volume.sharp
    assert one.contents_mm3 < plain.contents_of_parts_mm3 - np.pi * 1600.0 * 20.0
    twin = replace(box(), name="Twin", key=1, edgings=(), like=Mirrored(0, 0, 0))
    both, _ = settle((one, twin), ())
    assert both[1].contents_mm3 == pytest.approx(one.contents_mm3, rel=1e-12)
    kept = sheet(*both)
    assert sheet_from_text(sheet_as_text(kept).encode(), "it").volumes == kept.volumes
    leaning = shaping.lean(document, "front", 20.0).volume
    assert len(leaning.edgings) == 1 and len(leaning.body.circles) == 2
    assert edge_edits.give_back(document).volume.edgings == ()


def test_a_profile_with_an_arch_takes_it_as_a_true_arc():
    document = arches.cut_arch(sheet(box()), 1, 200.0, 100.0, 60.0)
    arched = document.volume
    assert arched.body.bent
    body = arched.bare
    ends = body.vertices[body.edges]
    upper = [
        i for i, (a, b) in enumerate(ends)
        if a[2] > 199.0 and b[2] > 199.0 and abs(b[1] - a[1]) > 299.0
    ]  # fmt: skip
    done = edge_edits.take_off(document, upper, 40.0, 40.0, rounded=True).volume
    taken = 2 * (1600.0 - np.pi * 400.0) * 300.0
    assert done.contents_mm3 == pytest.approx(arched.contents_mm3 - taken, rel=1e-12)
    with pytest.raises(VolumeError, match="less"):
        edge_edits.take_off(document, upper, 500.0, 500.0, rounded=False)


def test_a_chamfer_along_an_arched_wall_keeps_its_arch_whole():
    document = arches.cut_arch(sheet(box()), 1, 200.0, 100.0, 60.0)
    arched = document.volume
    ends = arched.bare.vertices[arched.bare.edges]
    top = [
        i for i, (a, b) in enumerate(ends)
        if min(a[2], b[2]) > 199.0 and max(a[1], b[1]) < 1.0
    ]  # fmt: skip
    done = edge_edits.take_off(document, top, 30.0, 50.0, rounded=False).volume
    assert done.contents_mm3 == pytest.approx(arched.contents_mm3 - 750.0 * 400.0, rel=1e-9)
    assert len(done.body.arcs) == len(arched.body.arcs), "the arch is as it was"
    mesh = trimesh.Trimesh(*triangles_of(done), process=False)
    assert mesh.is_watertight and mesh.volume == pytest.approx(done.contents_mm3, rel=1e-3)
    both = edge_edits.take_off(
        sheet(done), edge_edits.edges_of_face(done, on_faces.face_to(done, 3)), 20.0, 20.0,
        rounded=False,
    ).volume  # fmt: skip
    assert len(both.edgings) == 5, "front top; top, foot and both uprights of the back"
    with pytest.raises(VolumeError, match="take off less"):
        edge_edits.take_off(document, top, 160.0, 160.0, rounded=False)
    with pytest.raises(VolumeError, match="chamfered only"):
        edge_edits.take_off(document, top, 10.0, 10.0, rounded=True)


def test_a_box_narrows_as_a_nose_does():
    done = edge_edits.narrow(sheet(box()), "left", 0.5, 0.25).volume
    trapezium = 100.0 * (150.0 + 300.0) / 2
    assert done.contents_mm3 == pytest.approx((trapezium + 300.0 * 300.0) * 200.0, rel=1e-5)
    both = edge_edits.narrow(sheet(done), "right", 0.5, 0.25).volume
    assert both.contents_mm3 == pytest.approx((2 * trapezium + 200.0 * 300.0) * 200.0, rel=1e-5)
    with pytest.raises(VolumeError, match="narrows"):
        edge_edits.narrow(sheet(box()), "left", 1.5, 0.25)


def test_chamfers_of_what_bends_are_those_of_the_same_flat_body():
    drilled = replace(box(), circles=(FaceCircle(2, (0.5, 0.5), 20.0, through=True),))
    for edges in ((4, 5), (1, 9, 11)):
        edgings = tuple(Edging(edge, 15.0, 25.0) for edge in edges)
        flat = replace(box(), edgings=tuple(
            replace(one, edge=same_edge(drilled.sharp, one.edge, box().sharp)) for one in edgings
        ))  # fmt: skip
        one = replace(drilled, edgings=edgings)
        hole = math.pi * 400.0 * 300.0
        assert one.contents_mm3 == pytest.approx(flat.contents_mm3 - hole, rel=1e-8)
        mine = {tuple(np.round(v, 6)) for v in one.bare.vertices}
        assert mine == {tuple(np.round(v, 6)) for v in flat.bare.vertices}
        assert len(one.bare.edges) == len(flat.bare.edges)

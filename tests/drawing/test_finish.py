"""Line weights, surroundings, mirror images and composition marks of a finished sheet."""

import io
import zipfile
from dataclasses import replace

import numpy as np
import pytest
import shapely
from PIL import Image

from isometron.document.edits import finishing, lighting
from isometron.document.edits.places import aiding
from isometron.document.errors import ChoiceError
from isometron.document.finish import Finish
from isometron.document.light import FLAT, HATCH
from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.drawing.finish.mirror import mirror_lines
from isometron.drawing.finish.weights import silhouette_of, weighted_lines
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.areas import areas_of
from isometron.drawing.shading.surroundings import BACKGROUND
from isometron.drawing.strokes import sheet_strokes
from isometron.files.formats import DRAWING, Asked
from isometron.files.sheet_file import read_sheet, sample_sheet, write_sheet
from isometron.perspective.projection import project
from isometron.render.painting import QtPainting
from tests.scenes import case, eye, sheet

SUN = Sun(230.0, 38.0)
ON_GROUND = case(name="Case", x_mm=-200.0, y_mm=2600.0, z_mm=0.0)
LOW = eye(height_mm=300.0)
CRAWLER = sample_sheet("supply crawler")


def long(lines):
    return float(np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]).sum())


def finished(document, **choices):
    return finishing.set_finish(document, **choices)


def test_a_box_has_six_heavy_edges_round_it_and_three_lighter_ones_within():
    document = finished(sheet(ON_GROUND, by=LOW), weighted=True)
    scene = scene_of(document)
    drawn = {one.name: one for one in weighted_lines(scene, document.finish)}
    assert [drawn[n].pencil.width_mm for n in ("object lines", "outline")] == [0.35, 0.7]
    assert len(drawn["outline"].lines) == 6 and len(drawn["object lines"].lines) == 3
    assert long(drawn["outline"].lines) == pytest.approx(silhouette_of(scene).length, rel=1e-4)


def test_weights_leave_every_seen_line_where_it_was_and_the_nearest_third_is_heaviest():
    plain = scene_of(CRAWLER)
    every = sum(long(p.seen_lines) for p in plain.pictures)
    for nearer in (False, True):
        document = finished(CRAWLER, weighted=True, nearer=nearer)
        told = weighted_lines(plain, document.finish)
        assert sum(long(one.lines) for one in told) == pytest.approx(every, rel=1e-9)
    wide = {one.name: one.pencil.width_mm for one in told}
    assert wide["outline, near"] > wide["outline"] > wide["outline, far"]
    layers = {strokes.layer.name for strokes in sheet_strokes(document, scene_of(document))}
    assert {"outline, near", "object lines"} <= layers
    with pytest.raises(ChoiceError, match="line weight"):
        finished(CRAWLER, edge_mm=-0.1)


@pytest.mark.parametrize("light", [SUN, Lamp((-700.0, 900.0, 1500.0))])
@pytest.mark.parametrize("aid", ["path", "back wall", "shelf", "floor line", None])
def test_surroundings_volumes_and_shadows_share_the_paper_without_gap_or_overlap(aid, light):
    document = lighting.set_light(sheet(ON_GROUND, by=LOW), light)
    if aid is not None:
        document = aiding.add_aid(document, aid, 40.0, thick_mm=30.0 if aid == "shelf" else 900.0)
    document = finished(document, surroundings=True, mirror=True)
    scene = scene_of(document)
    areas = areas_of(document, scene)
    paper = shapely.box(0.0, 0.0, document.sheet.width_mm, document.sheet.height_mm)
    apart = [area.shape for area in areas if area.kind != "contact"]
    assert sum(shape.area for shape in apart) == pytest.approx(
        shapely.union_all(apart).area, rel=1e-6
    )
    assert shapely.union_all([area.shape for area in areas]).covers(shapely.buffer(paper, -1e-3))
    steps = {area.kind: area.step for area in areas if area.kind in BACKGROUND}
    behind = "sky" if aid in ("path", None) else "shelf" if aid == "shelf" else "wall"
    assert "floor" in steps and (steps[behind] != steps["floor"] or aid == "shelf")
    by_hand = finishing.set_surrounding(document, "floor", 3)
    told = [a.step for a in areas_of(by_hand, scene_of(by_hand)) if a.kind == "floor"]
    assert told == [3] and finishing.set_surrounding(by_hand, "floor", None) == document


def test_the_mirror_shows_what_a_box_under_the_ground_would():
    """The mirror image of a box is the box as deep below: its lines and areas are drawn there."""
    document = lighting.set_light(sheet(ON_GROUND, by=LOW), SUN)
    below = replace(ON_GROUND, z_mm=-ON_GROUND.height_mm, key=7)
    corners = project(document.eye, np.array(below.corners())).sheet
    document = finished(document, mirror=True)
    scene = scene_of(document)
    lines, arcs = mirror_lines(document, scene)
    assert len(lines) >= 5 and not len(arcs)
    places = lines.reshape(-1, 2)
    edges = [shapely.LineString(corners[[a, b]]) for a in range(8) for b in range(a) if _edge(a, b)]
    off = [min(edge.distance(shapely.Point(place)) for edge in edges) for place in places]
    assert max(off) < 1e-6
    image = shapely.union_all(
        [area.shape for area in areas_of(document, scene) if area.kind == "mirror image"]
    )
    whole = shapely.MultiPoint(corners).convex_hull
    box = shapely.union_all(
        [a.shape for a in areas_of(document, scene) if a.kind in ("face", "shadow")]
    )
    assert image.symmetric_difference(whole.difference(box)).area < 1e-3
    steps = {a.step for a in areas_of(document, scene) if a.kind == "mirror image"}
    assert min(steps) >= 1 and not mirror_lines(finished(document, mirror=False), scene)[0].size
    under = document.with_eye(replace(document.eye, height_mm=-300.0, tilt_deg=10.0))
    assert not mirror_lines(under, scene_of(under))[0].size


def _edge(a, b):
    return (a ^ b) in (1, 2, 4)


def test_a_crop_stays_on_the_sheet_and_keeps_its_other_corner():
    document = finishing.mark_crop(CRAWLER, True)
    crop = document.finish.crop
    moved = finishing.drag_crop(document, 1, (900.0, 100.0)).finish.crop
    assert (moved.left_mm, moved.bottom_mm) == (crop.left_mm, crop.bottom_mm)
    assert moved.left_mm + moved.width_mm == 420.0
    tiny = finishing.drag_crop(document, 0, (419.0, 296.0)).finish.crop
    assert tiny.width_mm == pytest.approx(10.0) and tiny.height_mm == pytest.approx(10.0)
    wide = finishing.set_crop(document, "width_mm", 5000.0).finish.crop
    assert (wide.left_mm, wide.width_mm) == (0.0, 420.0)
    assert finishing.drag_crop(CRAWLER, 0, (1.0, 1.0)) == CRAWLER
    with pytest.raises(ChoiceError, match="safe margin"):
        finished(CRAWLER, margin_mm=-4.0)


def test_a_finished_sheet_is_written_read_and_leaves_in_named_layers(tmp_path, qapp):
    document = lighting.set_light(sheet(ON_GROUND, by=LOW), SUN)
    document = finished(
        finishing.mark_crop(document, True),
        **{"weighted": True, "nearer": True, "surroundings": True, "mirror": True, "thirds": True},
        steps=(1, None, 2, None, 0),
        margin_mm=7.5,
    )
    write_sheet(document, tmp_path / "finished.isometron")
    assert read_sheet(tmp_path / "finished.isometron") == document
    assert b"finish" not in (tmp_path / "finished.isometron").read_bytes().split(b"volumes")[0]
    write_sheet(replace(document, finish=Finish()), tmp_path / "bare.isometron")
    assert b'"finish"' not in (tmp_path / "bare.isometron").read_bytes()
    for way in (FLAT, HATCH):
        own = lighting.set_shading(document, way=way)
        for ending in (".svg", ".pdf", ".dxf", ".ora"):
            DRAWING.write(own, tmp_path / f"out{ending}", Asked(QtPainting(), dpi=40.0))
        assert (b"composition-marks" in (tmp_path / "out.svg").read_bytes()) and (
            b"mirror image" in (tmp_path / "out.dxf").read_bytes()
        )
        with zipfile.ZipFile(tmp_path / "out.ora") as layers:
            stack = layers.read("stack.xml").decode()
            merged = Image.open(io.BytesIO(layers.read("mergedimage.png")))
            first = Image.open(io.BytesIO(layers.read("data/layer001.png")))
        names = ["outline, near", "object lines", "mirror image", "composition marks", "paper"]
        names += ["floor", "cast shadow"] if way == FLAT else ["hatching"]
        assert all(f'name="{name}"' in stack for name in names)
        assert merged.size == first.size and first.mode == "RGBA"


@pytest.mark.parametrize("aid", ["back wall", "shelf", "path"])
def test_surroundings_seen_from_their_edge_or_from_within_are_pictures(aid):
    document = aiding.add_aid(sheet(ON_GROUND, by=LOW), aid, 40.0, thick_mm=30.0)
    document = finished(lighting.set_light(document, SUN), surroundings=True, mirror=True)
    x, y = document.aids[-1].place_mm
    for height in (0.0, 1e-9, document.aids[-1].height_mm, 4000.0, -5.0):
        at = document.with_eye(replace(document.eye, x_mm=x, y_mm=y, height_mm=height))
        with np.errstate(all="raise"):
            areas = areas_of(at, scene_of(at))
        assert all(0 <= area.step < document.shading.steps for area in areas)

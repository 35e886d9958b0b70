"""Shadows and values against rays asked of every body, and the points a hand builds them with."""

import math
from dataclasses import dataclass, replace

import numpy as np
import pytest
import shapely

from isometron.construction.order import order_of
from isometron.document.document import Document
from isometron.document.edits import lighting
from isometron.document.edits.places import aiding
from isometron.document.errors import ChoiceError
from isometron.document.light import HATCH, NUMBERS, WAYS, Light, Shading
from isometron.document.lights.lamp import Lamp, drag_lamp, drag_lamp_foot, lamp_of
from isometron.document.lights.sun import Sun, drag_ray_point, drag_shadow_point, turn_sun
from isometron.drawing.layers import HATCHING
from isometron.drawing.scene import scene_of
from isometron.drawing.shading import areas
from isometron.drawing.shading.areas import areas_of, eye_chart
from isometron.drawing.shading.light_points import ground_shadows, ray_point, shadow_point
from isometron.drawing.shading.receivers import GROUND_PLANE, receivers_of, shadow_on
from isometron.drawing.shading.shown import hatching_of, numbers_of, washes_of
from isometron.drawing.shading.values import span_of, steps_of, value_of
from isometron.files.dxf import dxf_of
from isometron.files.report import report_of
from isometron.files.sheet_file import read_sheet, sample_sheet, write_sheet
from isometron.files.sheet_page import pdf_of, svg_of
from isometron.framework.figures import figure_of
from isometron.framework.kinds.turned import CYLINDER
from isometron.hiding.areas import seen_areas, skin_of
from isometron.hiding.contact import holds
from isometron.perspective.projection import project
from isometron.remarks.second_look import second_look
from tests.exact import surely_blocked
from tests.hiding.test_sight import among_kinds, skins
from tests.kinds import volume
from tests.published import checker
from tests.scenes import case, eye, sheet, some

CRAWLER = sample_sheet("supply crawler")
PART = replace(CRAWLER, volumes=CRAWLER.volumes[:3])
FEW = sheet(
    case(z_mm=0.0),
    volume(CYLINDER, (200.0, 200.0, 300.0), y_mm=2300.0, key=4),
    by=eye(height_mm=450.0),
)
"""Less of it, for what need not be asked of all."""
LIGHTS = {
    "a sun": Sun(230.0, 38.0),
    "a low sun ahead": Sun(-20.0, 12.0),
    "nearly overhead": Sun(30.0, 84.0),
    "a lamp": Lamp((-600.0, 1500.0, 2600.0)),
}


def lit(document, light, **shading):
    return lighting.set_shading(lighting.set_light(document, light), **shading)


@pytest.mark.sample(1)
@pytest.mark.parametrize("name", LIGHTS)
def test_a_place_of_the_ground_lies_in_the_shadow_just_where_no_ray_reaches_it(name):
    light = LIGHTS[name]
    volumes = [one for one in among_kinds() if min(one.world()[:, 2], default=0) > -1.0][:8]
    figures = [figure_of(volume) for volume in volumes]
    skin = skin_of(figures, range(len(figures)))
    shadow = shadow_on(GROUND_PLANE, skin, light)
    left, bottom, right, top = shadow.bounds
    rng = np.random.default_rng(5)
    places = np.column_stack([rng.uniform((left, bottom), (right, top), (600, 2)), np.zeros(600)])
    corners = skins(volumes)
    start = np.array(light.place_mm) if isinstance(light, Lamp) else np.array(light.toward)
    stopped, sure = surely_blocked(start, places, corners, far=isinstance(light, Sun), miss=1.0)
    inside = shapely.contains_xy(shadow, places[:, :2])
    sure &= shapely.distance(shadow.boundary, shapely.points(places[:, :2])) > 8.0
    assert sure.sum() > 150 and np.array_equal(inside[sure], stopped[sure])


@pytest.mark.sample(1)
@pytest.mark.parametrize("name", some(LIGHTS, 2))
def test_areas_add_up_to_the_silhouette_and_lit_parts_are_reached_by_rays(name):
    document = lit(CRAWLER, LIGHTS[name], steps=5)
    scene = scene_of(document)
    areas = areas_of(document, scene)
    faces = [area for area in areas if area.volume >= 0]
    figures = [picture.figure for picture in scene.pictures]
    seen = seen_areas(eye_chart(scene.eye), skin_of(figures, range(len(figures))))
    silhouette = shapely.union_all(seen.seen).area
    assert sum(area.mm2 for area in faces) == pytest.approx(silhouette, rel=1e-7)
    corners = skins(document.volumes)
    light = document.light
    start = np.array(light.place_mm) if isinstance(light, Lamp) else np.array(light.toward)
    rng, asked = np.random.default_rng(1), 0
    for area in faces:
        figure = figures[area.volume]
        if area.face >= figure.body.faces or area.cosine <= 0.02:
            continue
        normal, offset = figure.normals[area.face], figure.offsets[area.face]
        left, bottom, right, top = area.shape.bounds
        flat = rng.uniform((left, bottom), (right, top), (60, 2))
        inner = shapely.buffer(area.shape, -0.7)
        flat = flat[shapely.contains_xy(inner, flat)]
        if not len(flat):
            continue
        chart = eye_chart(scene.eye)
        places = chart.world(flat, np.tile(normal, (len(flat), 1)), np.full(len(flat), offset))
        stopped, sure = surely_blocked(start, places, corners, far=isinstance(light, Sun), miss=1.0)
        assert (stopped[sure] == (area.kind == "shadow")).all(), (area.volume, area.face)
        asked += int(sure.sum())
    assert asked > 60


def test_shadows_run_to_the_two_vanishing_points_of_the_light():
    eye = CRAWLER.eye
    for light in (Sun(230.0, 38.0), Sun(50.0, 25.0)):
        ground, rays = shadow_point(eye, light), ray_point(eye, light)
        tops = np.array([[0.0, 0.0, 400.0], [900.0, 300.0, 700.0]])
        feet, ends = tops * (1, 1, 0), ground_shadows(light, tops)
        drawn = [project(eye, places).sheet for places in (tops, feet, ends)]
        for top, foot, end in zip(*drawn, strict=True):
            for start, point in ((foot, ground), (top, rays)):
                run, away = end - start, np.array(point.sheet_mm) - start
                across = abs(run[0] * away[1] - run[1] * away[0])
                assert across < 1e-6 * np.hypot(*run) * np.hypot(*away)
        assert ground.sheet_mm[1] == pytest.approx(eye.centre_of_vision_mm[1])
        behind = light.azimuth_deg == 230.0
        assert (rays.sheet_mm[1] < ground.sheet_mm[1]) == behind, "behind us it lies below"
    aside = Sun(eye.heading_deg + 90.0, 30.0)
    assert (
        shadow_point(eye, aside).sheet_mm is None or abs(shadow_point(eye, aside).sheet_mm[0]) > 1e9
    ), "from exactly the side both run alike"
    assert shadow_point(eye, Sun(0.0, 90.0)) is None
    lamp = Lamp((0.0, 3000.0, 2000.0))
    assert ray_point(eye, lamp).direction == lamp.place_mm
    high = np.array([[0.0, 0.0, 2500.0], [0.0, 0.0, -5.0]])
    assert (
        np.isnan(ground_shadows(lamp, high)).all()
        and np.isnan(ground_shadows(Sun(10.0, 0.0), high)).all()
    )


def test_a_lamp_moved_far_away_tends_to_the_sun():
    sun = Sun(230.0, 38.0)
    scene = scene_of(CRAWLER)
    skin = skin_of([picture.figure for picture in scene.pictures], range(len(scene.pictures)))
    true, apart = shadow_on(GROUND_PLANE, skin, sun), []
    for far in (1e4, 1e5, 8e5):
        lamp = Lamp(tuple(far * v for v in sun.toward))
        other = shadow_on(GROUND_PLANE, skin, lamp)
        apart.append(shapely.symmetric_difference(true, other).area / true.area)
    assert apart[0] > apart[1] > apart[2] and apart[2] < 0.01


def test_degenerate_lights_give_a_picture_or_a_sentence():
    middle = np.mean(FEW.volumes[0].world(), axis=0)
    for light in (
        Sun(0.0, 0.0),
        Sun(0.0, 90.0),
        Sun(FEW.eye.heading_deg + 90.0, 30.0),
        Sun(FEW.volumes[0].yaw_deg, 30.0),
        Lamp(tuple(middle.tolist())),
        Lamp(FEW.eye.place),
        Lamp((0.0, 0.0, -500.0)),
        Lamp((0.0, 0.0, 0.0)),
    ):
        document = lit(FEW, light)
        areas = areas_of(document, scene_of(document))
        assert areas and all(math.isfinite(area.mm2) for area in areas)
        assert svg_of(document) and report_of(document)["light"]["kind"] in ("sun", "lamp")
    assert areas_of(lit(Document(), Sun(1.0, 2.0)), scene_of(Document())) == ()
    for bad in (
        lambda: Sun(math.nan, 10.0),
        lambda: Sun(0.0, -1.0),
        lambda: Lamp((math.inf, 0.0, 0.0)),
        lambda: Shading(steps=9),
        lambda: Shading(way="dots"),
        lambda: turn_sun(CRAWLER, azimuth_deg=3.0),
        lambda: lamp_of(CRAWLER),
    ):
        with pytest.raises(ChoiceError):
            bad()


@pytest.mark.parametrize("light", [Sun(90.0, 90.0), Sun(0.0, 0.0), Lamp((0.0, 900.0, 700.0))])
def test_areas_that_fall_together_are_drawn_a_hair_beside_and_it_is_said(light, monkeypatch):
    document = lit(sheet(case(z_mm=0.0)), light)
    scene = scene_of(document)
    exact, real = areas_of(document, scene), areas._areas
    assert areas.light_in_words(document, scene) == ""

    def fails(scene, tried, *others):
        if tried == light:
            raise shapely.errors.GEOSException("found non-noded intersection")
        return real(scene, tried, *others)

    monkeypatch.setattr(areas, "_areas", fails)
    told = areas_of(document, scene)
    assert "turned by a hair" in areas.light_in_words(document, scene)
    for one in exact:
        same = shapely.union_all([o.shape for o in told if o[:3] == one[:3]])
        assert shapely.difference(one.shape, same).area < 1e-3 * one.mm2 + 1e-3


@pytest.mark.parametrize("kind", range(6))
def test_a_lamp_is_inside_a_body_just_where_all_rays_from_it_leave_through_its_skin(kind):
    """Rays every way, not one way up: an independent count."""
    flat = [one for one in among_kinds() if len(one.world()) and not figure_of(one).body.bent]
    figure, skin = figure_of(flat[kind]), skins([flat[kind]])
    rng, low, high = np.random.default_rng(kind), figure.reach[:3], figure.reach[3:]
    way = rng.normal(size=3)
    for _n in range(30):
        place = low - 0.1 * (high - low) + 1.2 * (high - low) * rng.random(3)
        e1, e2 = skin[:, 1] - skin[:, 0], skin[:, 2] - skin[:, 0]
        p = np.cross(way, e2)
        det = (e1 * p).sum(1)
        with np.errstate(divide="ignore", invalid="ignore"):
            u = ((place - skin[:, 0]) * p).sum(1) / det
            q = np.cross(place - skin[:, 0], e1)
            v, t = (q @ way) / det, (e2 * q).sum(1) / det
        crossed = (u >= 0) & (v >= 0) & (u + v <= 1) & (t > 0)
        assert holds(figure, place) == bool(crossed.sum() % 2)


def test_a_lamp_in_a_case_is_told_and_lifted_out():
    inside = lit(sheet(case(z_mm=0.0)), Lamp((100.0, 2150.0, 90.0)))
    (remark,) = [o for o in second_look(inside, scene_of(inside)) if o.rule == "lamp inside"]
    assert "inside Eyepiece case" in remark.title
    on = replace(inside, light=inside.light.moved(2, 180.0))
    (told,) = [o.title for o in second_look(on, scene_of(on)) if o.rule == "lamp inside"]
    assert told == "The lamp lies on Eyepiece case"
    out = remark.remedy().edit(inside)
    assert out.light.place_mm[2] == pytest.approx(270.0)
    assert "lamp inside" not in {one.rule for one in second_look(out, scene_of(out))}


def test_a_face_whose_plane_holds_the_light_is_in_shade_and_in_no_shadow():
    box = sample_sheet("eyepiece case")
    for azimuth in (90.0, 180.0, 270.0, 0.0):  # rounding leaves a cosine of 1e-16 or so
        document = lit(box, Sun(azimuth, 40.0), steps=5)
        for area in areas_of(document, scene_of(document)):
            if area.volume == 0 and area.kind != "cast" and abs(area.cosine) < 1e-9:
                assert (area.kind, area.step) == ("face", 3)


def test_equal_faces_get_equal_steps_and_a_hand_may_give_another():
    cosines = np.array([1.0, 0.9, 0.9, 0.1, -0.3, -0.3])
    normals = np.array([[0, 0, 1.0]] * 5 + [[0, 0, -1.0]])
    steps = steps_of(cosines, normals[:, 2], 5).tolist()
    assert steps[1] == steps[2] and steps == sorted(steps) and steps[-2:] == [3, 4]
    assert all(steps_of(cosines, normals[:, 2], n).max() == n - 1 for n in (3, 4, 5, 6))
    assert [value_of(step, 5) for step in (0, 4)] == [0.0, 1.0]
    spread = steps_of(np.cos(np.radians([40.0, 44.0, 48.0])), normals[:3, 2], 5, (40.0, 48.0))
    assert spread.tolist() == [0, 1, 2], "the planes that are seen share the lit steps"
    document = lit(CRAWLER, Sun(230.0, 38.0), steps=5)
    area = next(a for a in areas_of(document, scene_of(document)) if a.kind == "face")
    other = lighting.set_step(document, area.volume, area.face, (area.step + 2) % 5)
    again = [
        a
        for a in areas_of(other, scene_of(other))
        if (a.kind, a.volume, a.face) == ("face", area.volume, area.face)
    ]
    assert {a.step for a in again} == {(area.step + 2) % 5}
    assert lighting.set_step(other, area.volume, area.face, None) == document


def test_hatch_strokes_lie_in_their_areas_and_run_to_the_point_of_their_face():
    document = lit(CRAWLER, Sun(230.0, 38.0), steps=5, way=HATCH)
    scene = scene_of(document)
    strokes = hatching_of(document, scene)
    assert len(strokes) > 200 and washes_of(document, scene) == []
    areas = shapely.union_all([area.shape for area in areas_of(document, scene) if area.step > 0])
    near = shapely.buffer(areas, 1e-6)
    assert shapely.covers(near, shapely.linestrings(strokes.reshape(-1, 2, 2))).all()
    upright = np.abs(strokes[:, 0] - strokes[:, 2]) < 1e-9
    assert upright.sum() > 40, "upright faces are hatched upright in a two-point view"
    assert HATCHING.name.encode() in dxf_of(document)
    numbers = lit(CRAWLER, Sun(230.0, 38.0), way=NUMBERS)
    labels = numbers_of(numbers, scene_of(numbers))
    assert {label.words for label in labels} <= set("12345") and len(labels) > 5


def test_the_light_is_written_read_drawn_and_reported(tmp_path):
    check = checker("report")
    for number, way in enumerate(WAYS):
        for light in (Sun(230.0, 38.0), Lamp((-600.0, 1500.0, 2600.0)))[number % 2 :][:1]:
            document = lit(FEW, light, way=way, steps=5)
            write_sheet(document, tmp_path / "lit.isometron")
            assert read_sheet(tmp_path / "lit.isometron") == document
            assert b"cast-shadow" in svg_of(document) or way == HATCH
            assert pdf_of(document).startswith(b"%PDF")
    document = lit(PART, light, way=way, steps=5)
    report = report_of(document)
    check(report)
    corner = report["volumes"][0]["corners"][0]
    assert corner["shadow_mm"][2] == 0.0 and len(corner["shadow_sheet_mm"]) == 2
    face = max(report["volumes"][0]["faces"], key=lambda one: one["drawn_area_mm2"])
    assert face["step"] is not None and 0 <= face["value"] <= 1 and face["visible_outline_mm"]
    ground = [one for one in report["shadows"] if one["receives"] == "ground"]
    assert {one["casts"] for one in ground} == {one["id"] for one in report["volumes"]}
    assert report_of(CRAWLER)["light"] is None


def test_dragging_the_points_of_the_light_is_the_same_as_typing_it():
    document = lit(CRAWLER, Sun(230.0, 38.0))
    for edit, where in (
        (drag_ray_point, ray_point),
        (drag_shadow_point, shadow_point),
    ):
        for place in ((120.0, -90.0), (350.0, 420.0)):
            moved = edit(document, place)
            at = where(moved.eye, moved.light).sheet_mm
            aim = place if where is ray_point else (place[0], document.eye.centre_of_vision_mm[1])
            assert at == pytest.approx(aim, abs=1e-6)
    low = drag_ray_point(document, (120.0, -90.0)).light
    high = drag_ray_point(document, (120.0, 420.0)).light
    away = (
        math.sin(math.radians(CRAWLER.eye.heading_deg)),
        math.cos(math.radians(CRAWLER.eye.heading_deg)),
    )
    assert np.dot(low.toward[:2], away) < 0 < np.dot(high.toward[:2], away)
    hung = lit(CRAWLER, lighting.usual(CRAWLER, Lamp))
    for edit, where in ((drag_lamp, ray_point), (drag_lamp_foot, shadow_point)):
        start = where(hung.eye, hung.light).sheet_mm
        aim = (start[0], start[1] - 12.0)
        moved = edit(hung, aim)
        assert where(moved.eye, moved.light).sheet_mm == pytest.approx(aim, abs=1e-6)
    assert drag_lamp_foot(hung, (200.0, 900.0)) == hung
    corner = (400.0, 900.0, 500.0)
    for start in (document, hung):
        moved = lighting.drag_shadow_tip(start, (250.0, 30.0), corner)
        fallen = ground_shadows(moved.light, np.array([corner]))
        assert project(moved.eye, fallen).sheet[0] == pytest.approx((250.0, 30.0), abs=1e-6)
        assert lighting.drag_shadow_tip(start, (250.0, 900.0), corner) == start


def test_planes_that_read_as_one_are_told_and_the_light_turned_apart():
    box = sample_sheet("eyepiece case")
    alike = []
    for azimuth in range(0, 360, 15):
        document = lit(box, Sun(float(azimuth), 40.0), steps=4)
        told = [
            one
            for one in second_look(document, scene_of(document))
            if one.rule == "planes read as one"
        ]
        alike += [(document, one) for one in told]
    assert alike
    document, remark = next((d, one) for d, one in alike if one.remedy() is not None)
    turned = remark.remedy().edit(document)
    assert turned.light.elevation_deg == 40.0
    by = (turned.light.azimuth_deg - document.light.azimuth_deg + 180) % 360 - 180
    assert abs(by) == remark.value and f"{abs(by):.0f}°" in remark.text
    again = second_look(turned, scene_of(turned))
    assert remark.volume not in [o.volume for o in again if o.rule == "planes read as one"]


def test_areas_that_cannot_be_told_apart_are_refused_in_a_sentence(monkeypatch, tmp_path):
    def fails(*_given):
        raise shapely.errors.GEOSException("side location conflict")

    monkeypatch.setattr(areas, "_areas", fails)
    document = lit(CRAWLER, Sun(12.0, 34.0))
    for asked in (svg_of, pdf_of, report_of, lambda d: washes_of(d, scene_of(d))):
        with pytest.raises(areas.ShadingError, match="turn it a little"):
            asked(document)


@pytest.mark.parametrize("kind", ["shelf", "back wall"])
def test_shadows_fall_on_shelves_and_walls_and_leave_the_ground_behind_them(kind):
    document = sample_sheet("eyepiece case" if kind == "shelf" else "turned eyepiece cases")
    aid = aiding.add_aid(document, kind, 40.0, thick_mm=20.0 if kind == "shelf" else 0.0)
    document = lit(aid, Sun(document.eye.heading_deg - 150.0, 25.0))
    scene = scene_of(document)
    chart = eye_chart(scene.eye)
    skin = skin_of([p.figure for p in scene.pictures], range(len(scene.pictures)))
    ground, *_others, other = receivers_of(scene.aids, chart.origin)
    assert other.name == kind and ground.name == "ground"
    shape = shadow_on(other, skin, document.light)
    assert shape.area > 0
    left, bottom, right, top = shape.bounds
    rng = np.random.default_rng(2)
    flat = rng.uniform((left, bottom), (right, top), (300, 2))
    flat = flat[shapely.contains_xy(other.part, flat)]
    toward = np.array(document.light.toward)
    stopped, sure = surely_blocked(
        toward, other.world(flat), skins(document.volumes), far=True, miss=1.0
    )
    sure &= shapely.distance(shape.boundary, shapely.points(flat)) > 5.0
    inside = shapely.contains_xy(shape, flat)
    assert sure.sum() > 60 and np.array_equal(inside[sure], stopped[sure])
    beyond = np.array(document.aids[-1].place_mm) - 50.0 * (
        other.normal[:2] if kind == "back wall" else _toward(document)
    )
    assert not shapely.contains_xy(ground.part, *beyond), "no ground is seen behind it"
    kinds = {one["receives"] for one in report_of(document)["shadows"] if one["casts"]}
    assert kind in kinds
    contact = [area for area in areas_of(document, scene) if area.kind == "contact"]
    assert bool(contact) or kind == "shelf"


def _toward(document):
    """From a shelf's edge toward us."""
    way = np.array(document.eye.place[:2]) - document.aids[-1].place_mm
    return way / np.hypot(*way)


@pytest.mark.sample(2)
@pytest.mark.parametrize("steps", [3, 4, 5, 6])
def test_no_two_planes_of_a_box_share_a_step_while_one_is_free_and_what_does_can_be_parted(
    steps, many
):
    for seed in range(many(30, 120)):
        rng = np.random.default_rng(seed)
        yaw, tilt = float(rng.uniform(-90, 90)), float(rng.choice([-25.0, -12.0, 0.0]))
        box = sheet(case(yaw_deg=yaw, z_mm=0.0), by=eye(tilt_deg=tilt))
        sun = lighting.usual(box, Sun) if seed % 2 else Sun(*rng.uniform((0, 5), (360, 85)))
        document = replace(box, light=sun, shading=Shading(steps=steps))
        scene = scene_of(document)
        picture = scene.pictures[0]
        faces = np.flatnonzero(picture.shown)
        normals = picture.figure.normals[faces]
        cosines = normals @ np.array(sun.toward)
        told = steps_of(cosines, normals[:, 2], steps, span_of(scene.pictures, sun))
        lit = np.degrees(np.arccos(cosines[cosines > 1e-6]))
        apart = len(lit) < 2 or np.diff(np.sort(lit)).min() > 1.0
        if apart and len(lit) <= max(steps - 2, 1):
            assert len(set(told[cosines > 1e-6].tolist())) == len(lit), (seed, yaw)
        order = np.argsort(-cosines[cosines > 1e-6])
        assert (np.diff(told[cosines > 1e-6][order]) >= 0).all(), "never darker toward the light"
        for remark in second_look(document, scene):
            if remark.rule == "planes read as one" and apart and steps == 3:
                assert remark.remedy() is not None


@dataclass(frozen=True)
class Borrowed(Light):
    """A light of no kind the program knows, that shines as another."""

    of: Light
    word, rank, called, put_on, fields = "borrowed", 9, "borrowed", None, {}
    grips = numbers = ()
    points = property(lambda self: self.of.points)
    source = property(lambda self: self.of.source)
    usual = classmethod(lambda cls, heading_deg, corners: cls(Sun.usual(heading_deg, corners)))
    beside = turned = lifted = lambda self, by: Borrowed(self.of.beside(by))

    def casting(self, corner, ground):
        return Borrowed(self.of.casting(corner, ground))

    def in_words(self, unit):
        return "a borrowed light"

    def building_in_words(self, shadows_at, rays_at):
        return f"{shadows_at}, {rays_at}"


@pytest.mark.parametrize("light", [Sun(230.0, 38.0), Lamp((-600.0, 1500.0, 2600.0))])
def test_a_light_of_another_kind_shines_with_nothing_else_changed(light):
    """Nobody asks which light it is: shadows, values, places and orders come from what it says."""
    own, other = lit(FEW, light), lit(FEW, Borrowed(light))
    scene = scene_of(own)
    assert svg_of(own, scene) == svg_of(other, scene)
    assert pdf_of(own, scene) == pdf_of(other, scene)
    assert [a.shape.wkb for a in areas_of(own, scene)] == [
        a.shape.wkb for a in areas_of(other, scene)
    ]
    assert ray_point(own.eye, light) == ray_point(own.eye, other.light)
    assert shadow_point(own.eye, light) == shadow_point(own.eye, other.light)
    dragged = lighting.drag_shadow_tip(other, (300.0, 40.0), (0.0, 2000.0, 100.0)).light
    assert dragged.of == lighting.drag_shadow_tip(own, (300.0, 40.0), (0.0, 2000.0, 100.0)).light
    told = [[move for step in order_of(d).steps for move in step.moves] for d in (own, other)]
    assert told[0] == told[1] and any("shadow" in step.key for step in order_of(other).steps)

"""Every build order is executed by the ruler machine, which knows the listed moves only."""

import math
import re
from dataclasses import replace

import numpy as np
import pytest

from isometron.construction.machine import execute
from isometron.construction.moves import LINES, Cross, Mark, StepOff, Upright, is_laid, needs
from isometron.construction.order import order_of
from isometron.construction.reach import Wanted
from isometron.construction.steps import OrderError, Step, arranged
from isometron.construction.targets import aid_for
from isometron.document.building import (
    EVERYTHING,
    FRAMEWORK,
    METHODS,
    SEEN,
    BuildError,
    Building,
)
from isometron.document.document import Document
from isometron.document.edits import building_edits, choosing, lighting, sheet_edits
from isometron.document.edits.eye_edits import fit_on_page
from isometron.document.edits.places import standing
from isometron.document.edits.stances import LOOKING_UP, STANCES, take_stance
from isometron.document.kit import Kit
from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.drawing.rounds import circles_of
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.light_points import ground_shadows
from isometron.files.sheet_file import SAMPLES, sample_sheet
from isometron.framework.bodies.cuts import Cut
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.marks import Mark as Division
from isometron.framework.volume import Volume
from isometron.perspective.projection import project
from tests.construction.table import beyond_kit, on_the_ruler
from tests.drawing.test_curves import ARCHED, VASE
from tests.scenes import case, crossed, eye, seeds, sheet

SHAPES = [
    {},
    {"shape": Taper(20, 10, 15, 0)},
    {"cuts": (Cut((0.5, 0, 0.5), (1, 1, 1)),)},
    {"shape": Plan(RECTANGLE, 25.0, False)},
    {"marks": (Division("face", 5, 0, (1 / 3, 2 / 3)), Division("section", 0, 0, (0.5,)))},
    {"circles": (FaceCircle(5), FaceCircle(2, radius_mm=30.0))},
    {"shape": lathe.CYLINDER},
    {"shape": VASE},
    {"shape": Extruded((ARCHED,), axis=1)},
    {"shape": lathe.wheel()},
]


def framework(seed):
    """A seeded framework in a one-, two- or three-point view, some of it turned otherwise or
    tipped, some standing on other parts of it."""
    rng = np.random.default_rng(seed)
    volumes = []
    for i in range(int(rng.integers(2, 5))):
        more = SHAPES[int(rng.integers(len(SHAPES)))]
        size = rng.uniform(120, 420, 3)
        axis = getattr(more.get("shape"), "axis", None)
        if axis is not None and not isinstance(more["shape"], Extruded):
            size[:] = size[0]
        turn = 0.0 if rng.random() < 0.6 else float(rng.uniform(-80, 80))
        tip = rng.uniform(-35, 35, 2).tolist() if rng.random() < 0.25 else [0.0, 0.0]
        place = (float(rng.uniform(-300, 500)), float(rng.uniform(0, 900)), 0.0)
        volumes.append(Volume(f"Part {i}", *size.tolist(), *place, turn, *tip, **more))
    document = Document(volumes=tuple(volumes), selected=0)
    document = fit_on_page(take_stance(document, STANCES[seed % len(STANCES)]))
    if seed % 5 == 4:
        document = sheet_edits.set_unit(document, "in")
    return document


def off(drawn, order):
    """How far every landing is from where it must be, mm."""
    return np.array([np.hypot(*np.subtract(drawn.place(p.name), p.place)) for p in order.landings])


@pytest.mark.parametrize("method", METHODS)
@pytest.mark.parametrize("seed", seeds(1, 9))
def test_an_executed_order_lands_on_the_exact_projection(seed, method):
    document = framework(seed)
    document = replace(document, building=Building(method, points_first=seed % 2 == 0))
    scene = scene_of(document)
    order = order_of(document, scene)
    moves = order.moves()
    drawn = execute(moves)
    assert off(drawn, order).max() < 1e-6
    corners = [picture.sheet for picture in scene.pictures if not picture.body.bent]
    places = np.array([p.place for p in order.landings])
    for corner in np.concatenate([np.empty((0, 2)), *corners]):
        assert np.hypot(*(places - corner).T).min() < 1e-6, "every corner is landed on"
    exact = {
        tuple(np.round([*c.ellipse.centre_mm, c.ellipse.semi_major_mm, c.ellipse.semi_minor_mm], 6))
        for i in range(len(document.volumes))
        for c in circles_of(scene, i)
        if c.ellipse is not None
    }
    assert {tuple(np.round(e[:4, 0].astype(float), 6)) for e in drawn.ellipses.values()} == exact
    rounded = on_the_ruler(moves, order.step_mm)
    bounds = np.array([order.bounds[p.name] for p in order.landings])
    assert (off(rounded, order) <= bounds + 1e-9).all()
    assert order.worst_mm == bounds.max() > 0


@pytest.mark.sample(4)
@pytest.mark.parametrize("name", SAMPLES)
def test_no_step_refers_to_what_an_earlier_step_has_not_made(name, many):
    for method in many(METHODS[1:2], METHODS):
        order = order_of(replace(sample_sheet(name), building=Building(method)))
        made = set()
        keys = [step.key for step in order.steps]
        assert len(keys) == len(set(keys))
        for step in order.steps:
            for move in step.moves:
                assert set(needs(move)) <= made
                made.add(move.name)
            assert step.text and set(step.objects) <= made and set(step.rubs) <= made


def test_a_method_is_what_its_name_says():
    document = sheet(case(depth_mm=360.0, height_mm=360.0, z_mm=0.0))
    made = {m: order_of(replace(document, building=Building(m))) for m in METHODS}
    kinds = {
        m: [type(move) for step in o.steps if ".close-" in step.key for move in step.moves]
        for m, o in made.items()
    }
    assert set(kinds["by eye"]) == {StepOff}
    assert Mark in kinds["plan projection"] and Cross in kinds["plan projection"]
    words = {m: " ".join(step.text for step in o.steps) for m, o in made.items()}
    assert "measuring point" in words["measuring points"] and "SP" in words["plan projection"]
    assert "diagonal of the square" in words["diagonal point"]
    assert not any(step.borrowed for o in made.values() for step in o.steps)


def test_what_a_method_cannot_do_it_borrows_and_says_so():
    tilted = fit_on_page(take_stance(sheet(case(z_mm=0.0)), LOOKING_UP))
    assert tilted.eye.tilt_deg
    order = order_of(replace(tilted, building=Building("plan projection")))
    assert {s.borrowed for s in order.steps if ".close-" in s.key} == {"measuring points"}


def test_the_station_point_comes_first_when_the_person_wants_it_so():
    near = sheet(case(z_mm=0.0, yaw_deg=40.0), by=eye(station_distance_mm=350.0))
    document = replace(near, building=Building(points_first=False))
    order = order_of(document)
    keys = [step.key for step in order.steps]
    assert "points.station" in keys and off(execute(order.moves()), order).max() < 1e-6
    assert "points.station" not in [s.key for s in order_of(near).steps]


@pytest.mark.parametrize(
    ("yaw", "aid"), [(30.0, "strip"), (12.0, "edge marks"), (2.0, "divided edges"), (0.0, None)]
)
def test_a_point_off_the_paper_is_reached_by_the_aid_its_distance_asks_for(yaw, aid):
    document = sheet(case(z_mm=0.0, yaw_deg=yaw), by=eye(station_distance_mm=500.0))
    order = order_of(document)
    text = " ".join(s.text for s in order.steps if s.key.startswith("points."))
    words = {"strip": "Tape a strip", "edge marks": "two marks", "divided edges": "equal numbers"}
    assert aid is None or words[aid] in text
    assert off(execute(order.moves()), order).max() < 1e-6
    if aid == "divided edges":
        marks = [m.place for s in order.steps if s.key.startswith("points.VP r") for m in s.moves]
        far = (p for p in _points(document) if aid_for(document, p) == "divided edges")
        target = np.array(next(far))
        for one, other in zip(marks[::2], marks[1::2], strict=True):
            a, b = np.array(one), np.array(other)
            run, to = b - a, target - a
            assert abs(run[0] * to[1] - run[1] * to[0]) < 1e-6 * np.hypot(*run) * np.hypot(*to)


def _points(document):
    from isometron.drawing.measures import directions_of

    found = directions_of(document.eye, scene_of(document).pictures[0])
    return [d.vanishing.sheet_mm for d in found if d.vanishing.sheet_mm is not None]


def test_lines_are_shared_and_not_drawn_twice():
    for method in METHODS:
        order = order_of(replace(sample_sheet("turned eyepiece cases"), building=Building(method)))
        drawn = execute(order.moves())
        lines = [drawn.lines[m.name] for m in order.moves() if isinstance(m, LINES)]
        twins = 0
        for i, (p, d) in enumerate(lines):
            for q, e in lines[i + 1 :]:
                away = (q - p)[:, 0].astype(float)
                bend = abs(float(d[0, 0] * e[1, 0] - d[1, 0] * e[0, 0]))
                gap = abs(float(d[0, 0]) * away[1] - float(d[1, 0]) * away[0])
                twins += bend < 1e-9 and gap < 1e-6
        assert twins <= 0.05 * len(lines)
        edges = 12 * len(sample_sheet("turned eyepiece cases").volumes)
        assert order.lines_drawn <= 2.2 * edges


@pytest.mark.parametrize("method", METHODS)
def test_awkward_views_get_a_workable_way_and_never_a_wrong_one(method):
    level = case(z_mm=1500.0, height_mm=100.0)  # its base is seen exactly edge-on
    square = case(yaw_deg=0.0, z_mm=0.0)  # one-point
    flat = case(yaw_deg=1e-4, z_mm=0.0)  # a fan all but parallel to the measuring line
    half = case(yaw_deg=45.0, z_mm=0.0, x_mm=0.0)  # the ground's diagonal is parallel to us
    behind = (case(z_mm=0.0), case(name="Tin", x_mm=0.0, y_mm=9000.0, z_mm=0.0, width_mm=4.0))
    for volumes in ((level,), (square,), (flat,), (half,), behind):
        order = order_of(replace(sheet(*volumes), building=Building(method)))
        assert off(execute(order.moves()), order).max() < 1e-6


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    ("name", "share"), [("supply crawler", 0.6), ("red lamp", 0.65), ("observing chair", 0.95)]
)
def test_only_what_shows_is_made_and_all_of_it(name, share):
    document = sample_sheet(name)
    assert not document.choices.see_through
    scene = scene_of(document)
    order = order_of(document, scene)
    everything = order_of(building_edits.reach(document, EVERYTHING))
    framework = order_of(building_edits.reach(document, FRAMEWORK))
    assert order.lines_drawn <= share * everything.lines_drawn
    assert framework.lines_drawn < everything.lines_drawn
    for one in (order, framework):
        assert off(execute(one.moves()), one).max() < 1e-6
    places = np.array([p.place for p in order.landings])
    for picture in scene.pictures:
        if not picture.body.bent:
            for corner in picture.sheet[picture.seen_corners]:
                assert np.hypot(*(places - corner).T).min() < 1e-6, "every seen corner is made"
    seen = {
        tuple(np.round(c.ellipse.centre_mm, 6))
        for i, picture in enumerate(scene.pictures)
        for c in circles_of(scene, i)
        if c.ellipse is not None and Wanted(document, picture).circle(c)
    }
    made = {tuple(np.round(e[:2], 6)) for e in order.ellipses.values()}
    assert made == seen


def test_a_see_through_sheet_shows_what_is_hidden_and_makes_it():
    solid = sample_sheet("supply crawler")
    document = sheet_edits.show_see_through(solid, True)
    order = order_of(document)
    assert order.lines_drawn > 1.4 * order_of(solid).lines_drawn
    hidden = [len(chapter.steps) for chapter in order.chapters if chapter.key.startswith("v")]
    assert len(hidden) == len(document.volumes), "every volume has its chapter"
    with pytest.raises(BuildError, match="no reach"):
        Building(reach="far")


def test_what_cannot_be_built_is_refused_with_a_sentence():
    with pytest.raises(OrderError, match="nothing to build"):
        order_of(Document())
    near = sheet(case(y_mm=-200.0, depth_mm=900.0, z_mm=0.0))
    with pytest.raises(OrderError, match="step back"):
        order_of(near)
    with pytest.raises(BuildError, match="no method"):
        Building("guessing")


def test_names_are_told_as_they_are_written():
    odd = sheet(case(name="{count}", yaw_deg=20.0), case(name="{lines} <b>&", x_mm=700.0))
    told = " ".join(step.text for step in order_of(odd).steps)
    assert "{count}" in told and "{lines} <b>&" in told


def test_chapters_change_places_where_the_geometry_allows():
    apart = sheet(case(z_mm=0.0), case(name="Tin", x_mm=700.0, yaw_deg=-15.0, z_mm=0.0))
    order = order_of(apart)
    keys = [chapter.key for chapter in order.chapters]
    swapped = ("sheet", "points", keys[3], keys[2], "finish")
    changed = arranged(order, swapped)
    assert [c.key for c in changed.chapters] == list(swapped)
    assert off(execute(changed.moves()), changed).max() < 1e-6
    with pytest.raises(OrderError, match="leave it behind"):
        arranged(order, (keys[2], "sheet", "points"))
    first = arranged(order, ("finish", "sheet", "points"))
    assert first.chapters[-1].key == "finish"  # what rubs out all lines


def test_the_order_follows_the_framework_and_keeps_its_keys():
    document = sheet(case(z_mm=0.0))
    before = order_of(document)
    grown = order_of(document.with_volume(0, document.volume.resized(2, 300.0, fixed_corner=0)))
    assert [s.key for s in before.steps][:8] == [s.key for s in grown.steps][:8]
    stood = standing.same_again_turned(document, 80.0)
    assert len(order_of(stood).chapters) == len(before.chapters), "a ghost is not built"
    hidden = choosing.show(sheet(case(z_mm=0.0), case(name="Tin", x_mm=500.0, z_mm=0.0)), 1, False)
    assert len(order_of(hidden).chapters) == len(before.chapters)


def test_measures_are_told_as_the_ruler_reads_them():
    document = sheet(case(z_mm=0.0))
    inches = order_of(sheet_edits.set_unit(document, "in"))
    assert inches.step_mm == 25.4 / 16
    text = " ".join(step.text for step in inches.steps)
    assert " in" in text and " cm" not in text and "/16" in text
    corner = project(document.eye, np.array([document.volume.place])).sheet[0]
    step = next(s for s in order_of(document).steps if s.key.endswith("near-edge"))
    told = f"{round(corner[0] * 2) / 20:g} cm right"
    assert told in step.text


def test_what_reaches_behind_us_is_left_out_and_said():
    near = case(name="Wall", y_mm=-200.0, depth_mm=900.0, z_mm=0.0, key=1)
    order = order_of(sheet(case(z_mm=0.0), near))
    told = [step.text for step in order.steps if step.key == "sheet.left-out"]
    assert told == [
        "Left out: Wall, part of which lies beside or behind us. Step back to build it."
    ]
    assert not any(chapter.key == "v1" for chapter in order.chapters)
    assert off(execute(order.moves()), order).max() < 1e-6


@pytest.mark.sample(4)
@pytest.mark.parametrize(("name", "method"), crossed(SAMPLES, METHODS))
def test_a_hand_can_mark_every_place_and_every_sentence_reads(name, method):
    document = sample_sheet(name)
    order = order_of(replace(document, building=Building(method)))
    assert not beyond_kit(order.steps, order.drawn, document.sheet, document.kit)
    for step in order.steps:
        for one in (move for move in step.moves if is_laid(move)):
            uses = [s.key for s in order.steps for m in s.moves if one.name in needs(m)]
            assert uses == [step.key], "a ruler is laid for one tick of its own step"
            assert one.name not in step.objects
        assert not re.search(r"\bby by\b|\b1 light lines\b|not at all|  |\{|–the ", step.text)
    labels = [order.labels[m.name] for s in order.steps for m in s.moves if m.name[0] == "p"]
    assert len(labels) == len(set(labels)), "no two points are called alike"
    numbers = [int(label) for label in labels if label.isdecimal()]
    assert numbers == list(range(1, len(numbers) + 1)), "points are counted one by one"


KITS = (
    Kit(),
    Kit(ruler_mm=200.0, spare_paper_mm=0.0),
    Kit(set_square=False, ruler_mm=400.0),
    Kit(ruler_mm=150.0, spare_paper_mm=100.0, set_square=False),
)


@pytest.mark.sample(1)
@pytest.mark.parametrize("kit", KITS)
@pytest.mark.parametrize("seed", seeds(1, 12))
def test_an_order_keeps_to_what_lies_on_the_table_or_says_what_is_missing(kit, seed):
    document = replace(framework(seed), kit=kit)
    for method in METHODS:
        for reach in (SEEN, FRAMEWORK):
            order = order_of(replace(document, building=Building(method, reach=reach)))
            assert off(execute(order.moves()), order).max() < 1e-6
            missing = beyond_kit(order.steps, order.drawn, document.sheet, kit)
            told = [step.text for step in order.steps if step.key == "sheet.beyond-kit"]
            assert bool(missing) == bool(told), (missing, told)
            assert not told or "take a longer ruler" in told[0] or "tape more paper" in told[0]


def test_what_no_kit_can_do_is_found():
    order = order_of(sheet(case(z_mm=0.0)))
    drawn, paper = order.drawn, sheet().sheet
    a, b = (next(m for m in order.moves() if isinstance(m, kind)) for kind in (Mark, Upright))
    far = Mark("p0", (-500.0, 10.0))
    long = StepOff("p0", b.name, a.name, 301.0)
    many = tuple(replace(a, name=f"q{i}") for i in range(7))
    for moves, kit in (
        ((far,), Kit()),
        ((long,), Kit()),
        ((b,), Kit(set_square=False)),
        (many, Kit()),
    ):
        drawn.points["p0"] = drawn.points[a.name]
        assert beyond_kit([Step("one", "Do it.", moves)], drawn, paper, kit) == ["one"]


@pytest.mark.parametrize("method", METHODS)
def test_a_length_that_no_ruler_reaches_makes_no_endless_order(method):
    vast = sheet(case(z_mm=0.0, width_mm=1e6, depth_mm=1e6, height_mm=1e6))
    kit = Kit(ruler_mm=50.0, spare_paper_mm=0.0, set_square=False)
    order = order_of(replace(vast, kit=kit, building=Building(method)))
    assert len(order.moves()) < 60
    assert [step.key for step in order.steps if step.key == "sheet.beyond-kit"]


@pytest.mark.sample(2)
@pytest.mark.parametrize("light", ["sun", "lamp", "from the side", "overhead"])
def test_the_shadow_of_a_box_is_laid_by_ruler_where_it_falls(light):
    """Its corners land on the projections of where the rays meet the ground, in every method."""
    boxes = sample_sheet("turned eyepiece cases")
    lights = {
        "sun": lighting.usual(boxes, Sun),
        "lamp": lighting.usual(boxes, Lamp),
        "from the side": Sun(boxes.eye.heading_deg - 90.0, 40.0),
        "overhead": Sun(0.0, 90.0),
    }
    plain = order_of(boxes)
    document = lighting.set_light(boxes, lights[light])
    for method in METHODS:
        order = order_of(building_edits.build_by(document, method, None))
        chapter = [one for one in order.chapters if one.key == "shadow"]
        shadows = [one for one in order.landings if one.what.startswith("shadow of a corner")]
        assert bool(chapter) == bool(shadows) == (light != "overhead")
        for landing in order.landings:
            assert math.dist(order.drawn.place(landing.name), landing.place) < 1e-6
        if shadows:
            world = np.concatenate([volume.world() for volume in document.volumes])
            fallen = ground_shadows(document.light, world)
            drawn = project(document.eye, fallen[np.isfinite(fallen).all(axis=1)]).sheet
            for landing in shadows:
                assert np.hypot(*(drawn - landing.place).T).min() < 1e-6
    off = order_of(lighting.set_shading(document, shadows=False))
    assert [step.text for c in off.chapters for step in c.steps] == [
        step.text for c in plain.chapters for step in c.steps
    ]

"""Measuring between two things, against brute force and by hand."""

import io
from dataclasses import replace

import ezdxf
import numpy as np
import pytest
from scipy.optimize import lsq_linear

from isometron.document.edits.choosing import remove_chosen, with_new_volume
from isometron.document.edits.places import measuring, sliding
from isometron.document.edits.volume_edits import set_side
from isometron.drawing.dimension_marks import ends_of, marks_of, off_at
from isometron.drawing.measuring import (
    Form,
    Thing,
    between_things,
    measure,
    pinned,
    reading_between,
)
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.curve import CirclePick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.scene import scene_of
from isometron.files.dxf import dxf_of
from isometron.files.report import report_of
from isometron.files.sheet_file import sample_sheet, sheet_as_text, sheet_from_text
from isometron.files.sheet_page import pdf_of, svg_of
from isometron.framework.dimensions import Dimension, Held
from isometron.framework.modules import Module
from tests.scenes import case, sheet


def random_thing(rng, form):
    way = rng.normal(size=3)
    reach = rng.choice([np.inf, rng.uniform(1, 50)]) if form is Form.LINE else np.inf
    return Thing(form, rng.uniform(-100, 100, 3), way / np.linalg.norm(way), float(reach))


def free(thing):
    """The directions (3, n) in which a point of a thing is free, and how far (n,) either way."""
    if thing.form is Form.PLACE:
        return np.empty((3, 0)), np.empty(0)
    if thing.form is Form.LINE:
        return thing.way[:, None], np.array([thing.reach])
    return np.linalg.svd(thing.way[None])[2][1:].T, np.full(2, np.inf)


def on(thing, place):
    """How far a place lies off a thing."""
    ways, reach = free(thing)
    shares = np.linalg.lstsq(ways, place - thing.place, rcond=None)[0]
    return np.linalg.norm(thing.place + ways @ np.clip(shares, -reach, reach) - place)


@pytest.mark.parametrize("forms", [(a, b) for a in Form for b in Form])
def test_the_shortest_way_is_the_least_squares_of_all(forms):
    rng = np.random.default_rng(3)
    for _ in range(40):
        one, two = (random_thing(rng, form) for form in forms)
        found, back = between_things(one, two), between_things(two, one)
        assert max(on(one, found.one), on(two, found.two)) < 1e-9
        lines = [thing for thing in (one, two) if thing.form is Form.LINE]
        if Form.PLANE in forms and (forms[0] is forms[1] or np.inf in [a.reach for a in lines]):
            continue  # they meet somewhere: told by their middles
        assert back.mm == pytest.approx(found.mm, abs=1e-9)
        ways, reaches = zip(free(one), free(two), strict=True)
        system, reach = np.hstack([ways[0], -ways[1]]), np.concatenate(reaches)
        gap = two.place - one.place
        if system.shape[1]:
            shares = lsq_linear(system, gap, (-reach, reach), tol=1e-14).x
            gap = system @ shares - gap
        assert found.mm == pytest.approx(np.linalg.norm(gap), abs=1e-6)


def test_parallel_things_are_measured_where_they_lie_beside_each_other():
    up = np.array([0.0, 0.0, 1.0])
    edge = Thing(Form.LINE, np.array([0.0, 0.0, 5.0]), up, 5.0)
    other = Thing(Form.LINE, np.array([3.0, 4.0, 10.0]), up, 5.0)
    found = between_things(edge, other)
    assert found.mm == pytest.approx(5.0) and found.one[2] == pytest.approx(7.5)
    beyond = Thing(Form.LINE, np.array([3.0, 4.0, 30.0]), up, 8.0)
    assert between_things(edge, beyond).mm == pytest.approx(np.hypot(5.0, 12.0))
    floor = Thing(Form.PLANE, np.zeros(3), up)
    assert between_things(Thing(Form.PLANE, np.array([9.0, 9.0, 4.0]), -up), floor).mm == 4.0
    assert between_things(floor, edge).mm == 0.0 and between_things(floor, edge).angle_deg == 90.0


def test_the_wheels_of_the_crawler_are_a_wheelbase_apart():
    document = sample_sheet("supply crawler")
    scene = scene_of(document)
    wheels = [i for i, v in enumerate(document.volumes) if v.shape.axle is not None]
    picks = [CirclePick(i) for i in wheels]
    apart = [measure(scene, picks[0], pick).mm for pick in picks[1:]]
    middles = [document.volumes[i].corners().mean(axis=0) for i in wheels]
    axle, along, _up = document.volumes[wheels[0]].pose[1][[1, 0, 2]]
    base = abs(float((middles[1] - middles[0]) @ along))
    track = abs(float((middles[2] - middles[0]) @ axle))
    outer = track + document.volumes[wheels[0]].depth_mm  # from outer rim to outer rim
    assert apart == pytest.approx([base, outer, base]) and base > track > 0.0


def lid():
    return sheet(
        case(), case(name="Lid", key=1, z_mm=1300.0, height_mm=40.0), modules=(Module("w", 60.0),)
    )


def test_a_reading_tells_the_length_its_directions_and_what_is_drawn():
    document = lid()
    scene = scene_of(document)
    reading = reading_between(document, scene, FacePick(0, 5), FacePick(1, 4))
    rows = {row.label: row for row in reading.rows}
    assert reading.title == "From top of Eyepiece case to base of Lid"
    assert rows["true length"].value == "12 cm = 2 w"
    assert rows["in height"].value == "12 cm = 2 w"
    assert rows["in width"].value == "0 cm = 0 w"
    corner = reading_between(document, scene, CornerPick(0, 0), CornerPick(1, 7))
    rows = {row.label: row.value for row in corner.rows}
    assert rows["true length"].startswith(f"{np.sqrt(36.0**2 + 24.0**2 + 34.0**2):.2f}")
    slope = reading_between(document, scene, EdgePick(0, 0), EdgePick(1, 4))
    assert {row.label: row.value for row in slope.rows}["at an angle of"] == pytest.approx(90.0)


def test_a_pinned_measure_follows_is_kept_drawn_and_goes_with_its_volume():
    document = lid()
    scene = scene_of(document)
    mark = pinned(document, scene, FacePick(0, 5), FacePick(1, 4))
    document = measuring.pin(document, mark)
    with pytest.raises(Exception, match="already"):
        measuring.pin(document, mark)
    assert ends_of(document, mark)[1] == pytest.approx(120.0)
    raised = sliding.moved_by(replace(document, selected=1), np.array([0.0, 0.0, 30.0]))
    assert marks_of(raised)[0].label.words == "15 cm"
    taller = set_side(document, 2, 200.0)
    assert marks_of(taller)[0].label.words == "10 cm"
    kept = sheet_from_text(sheet_as_text(document).encode(), "a sheet")
    assert kept.dimensions == document.dimensions
    told = report_of(document)["dimensions"][0]
    assert told["volumes"] == ["Eyepiece case", "Lid"] and told["true_mm"] == pytest.approx(120.0)
    assert np.allclose(told["ends_mm"], ends_of(document, mark)[0])
    drawn = [svg_of(document).decode(), dxf_of(document).decode()]
    assert all("12 cm" in text and "dimensions" in text for text in drawn)
    words = ezdxf.read(io.StringIO(drawn[1])).modelspace().query("TEXT")[0]
    assert tuple(words.dxf.align_point)[:2] == pytest.approx(marks_of(document)[0].label.foot())
    assert len(pdf_of(document)) > len(pdf_of(lid()))
    beside = measuring.set_beside(document, 0, off_at(document, mark, (250.0, 200.0)))
    x, y = 250.0, 200.0
    (x0, y0, x1, y1) = marks_of(beside)[0].lines[0]
    assert (x1 - x0) * (y - y0) == pytest.approx((y1 - y0) * (x - x0))
    third = with_new_volume(document, case(name="Third", x_mm=900.0))
    assert remove_chosen(third).dimensions == document.dimensions
    assert remove_chosen(document).dimensions == ()
    assert measuring.take_off(document, 0).dimensions == ()


@pytest.mark.parametrize("off", [9.0, -9.0])
@pytest.mark.parametrize("size", [2.4, 6.0])
def test_the_words_of_a_mark_stand_clear_of_its_line_on_the_outer_side(off, size):
    """On a small screen letters are larger than on paper, and lay across the line."""
    mark = Dimension(Held(0, (0.0, 0.0, 0.0)), Held(0, (1.0, 0.0, 0.0)), off)
    document = measuring.pin(sheet(case()), mark)
    (found,) = marks_of(document)
    (x0, y0, x1, y1), foot = found.lines[0], np.array(found.label.foot(size))
    run = np.array([x1 - x0, y1 - y0]) / np.hypot(x1 - x0, y1 - y0)
    up = np.array([-np.sin(a := np.radians(found.label.angle_deg)), np.cos(a)])
    left = np.array([-run[1], run[0]])
    beside = [left @ (place - [x0, y0]) for place in (foot, foot + size * up)]
    assert min(np.abs(beside)) == pytest.approx(0.9) and np.sign(beside[0]) == np.sign(off)

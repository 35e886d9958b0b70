"""Every kind of mistake that a hand makes is found on its sketches, and hardly anything else."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.document.edits.pictures import bringing, marking
from isometron.document.edits.pictures.bringing import set_dpi
from isometron.document.errors import ChoiceError
from isometron.document.marks import FAINT, Edge, Known, MarksError, Row
from isometron.document.picture import EDGE, Mark, PictureFile, SheetPicture
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import scene_of
from isometron.files.report import report_of
from isometron.files.sheet_file import sample_sheet
from isometron.framework.circles import FaceCircle
from isometron.perspective.errors import StoppedError
from isometron.perspective.projection import project
from isometron.perspective.watching import Wanted, watched
from isometron.reading.of_picture import picture_in, reading_of
from isometron.reading.rims import fit_rim
from isometron.reading.sketch.curves import rims_on
from isometron.reading.sketch.judging import faults_in, judge
from isometron.reading.sketch.own_sheet import as_framework, corners_of, faint_ones, own_sheet
from isometron.reading.sketch.sizes import (
    BY_DPI,
    BY_LENGTHS,
    doubted_corners,
    format_of,
    laid_out,
    scales_of,
    size_of,
)
from isometron.stand_ins.hand import Hand, Mistake, sketch, truth_of_sketch

CASE = sample_sheet("eyepiece case")
BOX = CASE.volumes[0]


def with_circles(*places):
    """The case with circles of 90 mm on its front."""
    circles = tuple(FaceCircle(2, place, 90.0) for place in places)
    return replace(CASE, volumes=(replace(BOX, circles=circles), *CASE.volumes[1:]))


ONE, TWO = with_circles((0.5, 0.5)), with_circles((0.22, 0.5), (0.78, 0.5))


def straightened(document, hand):
    content = sketch(document, hand)
    corners = corners_of(content)
    return own_sheet(content, "sketch", corners, size_of("A3", corners))


def edges_of(document, longer=40.0):
    told = truth_of_sketch(document, Hand())["strokes"]
    return [
        one
        for one in told
        if one["kind"] == "edge" and math.dist(one["from_mm"], one["to_mm"]) > longer
    ]


def missing(rng):
    stroke = edges_of(CASE, 50.0)[rng.integers(6)]
    length = math.dist(stroke["from_mm"], stroke["to_mm"])
    by = math.degrees(math.atan(4.5 / length)) * rng.choice([-1, 1])
    return Mistake("miss", stroke["volume"], stroke["part"], float(by))


def levelled(rng):
    climbing = [
        one
        for one in edges_of(CASE)
        if one["volume"] == 0
        and 6.0 < abs(one["to_mm"][1] - one["from_mm"][1]) < 20.0
        and abs(one["to_mm"][0] - one["from_mm"][0]) > 40.0
    ]
    return Mistake("level", 0, climbing[rng.integers(len(climbing))]["part"], 1.0)


SWELL = {"off its ellipse"}
KINDS = {
    "miss": (CASE, missing, {"misses its point", "upright leans", "drawn level"}),
    "level": (CASE, levelled, {"drawn level", "misses its point"}),
    "corner": (
        CASE,
        lambda rng: Mistake("corner", 0, 7, 8.0 * rng.choice([-1, 1])),
        {"far corner", "misses its point"},
    ),
    "inside": (ONE, lambda rng: Mistake("swell", 0, 0, -rng.uniform(5.0, 6.0)), SWELL),
    "outside": (ONE, lambda rng: Mistake("swell", 0, 0, rng.uniform(5.0, 6.0)), SWELL),
    "size": (
        TWO,
        lambda rng: Mistake("size", 0, 1, rng.choice([-1, 1]) * rng.uniform(9, 12)),
        {"wheels disagree"},
    ),
}


@pytest.mark.sample(2)
@pytest.mark.parametrize("kind", KINDS)
def test_each_kind_of_mistake_is_found(kind, many):
    """At three times what can be detected, and hardly ever anything else said."""
    document, made, rules = KINDS[kind]
    count, found, other = many(1, 60), 0, 0
    for seed in range(count):
        hand = Hand(seed=seed + 7, slant=(0.1, -0.2) if seed % 3 else None)
        hand = replace(hand, mistakes=(made(np.random.default_rng(seed)),))
        picture = straightened(document, hand)
        told = judge(picture, reading_of(picture))
        found += any(one.rule in rules for one in told)
        other += sum(one.rule not in rules for one in told)
    assert found >= 0.95 * count and other <= 0.1 * count


@pytest.mark.full
def test_what_all_uprights_have_in_common_and_a_fan_without_a_point_are_told_once(many):
    for seed in range(many(1, 20)):
        leaning = tuple(Mistake("lean", volume, 0, 3.0) for volume in range(len(CASE.volumes)))
        picture = straightened(CASE, Hand(seed=seed, mistakes=leaning))
        (fault,) = judge(picture, reading_of(picture))
        assert fault.rule == "uprights lean" and fault.by_deg == pytest.approx(3.0, abs=0.4)
    apart = tuple(Mistake("scatter", volume, 0, by) for volume, by in enumerate((10.0, -8.0, 6.0)))
    picture = straightened(CASE, Hand(seed=2, mistakes=apart))
    assert "shares no point" in {one.rule for one in judge(picture, reading_of(picture))}


@pytest.mark.full
def test_rims_are_found_where_they_were_drawn_and_faint_construction_is_not_judged():
    hand = Hand(seed=3, construction=True)
    picture = straightened(TWO, hand)
    px = picture.width / 420
    told = sorted(all_circles(scene_of(TWO)), key=lambda c: c.ellipse.centre_mm)
    found = sorted((fit_rim(np.array(rim.points)).values for rim in picture.rounds), key=list)
    assert len(found) == len(told) == 2
    for values, circle in zip(found, told, strict=True):
        ellipse = circle.ellipse
        true = (*ellipse.centre_mm, ellipse.semi_major_mm, ellipse.semi_minor_mm)
        assert np.array(values[:4]) / px == pytest.approx(true, abs=0.4)
    assert {rim.axle for rim in picture.rounds} == {"depth"}
    hidden = [one for one in truth_of_sketch(TWO, hand)["strokes"] if one["faint"]]
    assert sum(edge.faint for edge in picture.edges) == pytest.approx(len(hidden), abs=5)
    assert all(edge.weight in (1.0, FAINT) for edge in picture.edges)
    assert judge(picture, reading_of(picture)) == []
    assert faint_ones([0.8, 0.3, 0.82, 0.28, 0.79, 0.31]) == [False, True] * 3
    for plain in ([], [0.5], [0.6, 0.62, 0.64, 0.66, 0.68, 0.7]):
        assert not any(faint_ones(plain)), "nothing tells two kinds apart"


@pytest.mark.full
def test_corners_of_the_paper_put_wrong_are_doubted_by_sides_and_by_lines():
    content = sketch(CASE, Hand(seed=2))
    corners = [np.array(one) for one in corners_of(content)]
    taken = picture_in(content, "a.jpg")
    assert doubted_corners(taken, corners) == ""
    corners[2] = corners[2] + (-70.0, -110.0)
    assert "upper right" in doubted_corners(taken, corners)
    picture = own_sheet(content, "a", [tuple(one) for one in corners], (420.0, 297.0))
    rules = {one.rule for one in judge(picture, reading_of(picture))}
    assert rules & {"eye level climbs", "uprights lean"}, "all lines disagree together"


def test_a_scan_by_its_dpi_and_a_part_by_two_lengths():
    hand = Hand(slant=None, px_per_mm=6.0)
    picture = picture_in(sketch(CASE, hand), "scan.jpg")
    assert picture.dpi == pytest.approx(6.0 * 25.4, rel=0.01)
    corners, size = laid_out(picture, BY_DPI)
    assert size == pytest.approx((420.0, 297.0), rel=0.01)
    assert corners[2] == (picture.width, picture.height)
    bare = replace(picture, dpi=None)
    assert (format_of(picture), format_of(bare)) == ("A3", None)
    assert format_of(replace(picture, paper_mm=(210.0, 297.0))) == "A4", "as it was straightened"
    with pytest.raises(MarksError, match="type it beside"):
        laid_out(bare, BY_DPI)
    document = set_dpi(bringing.bring_picture(Document(), bare), 6.0 * 25.4)
    assert laid_out(document.photograph, BY_DPI)[1] == pytest.approx((420.0, 297.0))
    with pytest.raises(ChoiceError, match="dots per inch"):
        set_dpi(document, 0.1)
    with pytest.raises(MarksError, match="check the dpi"):
        laid_out(replace(bare, dpi=9000.0), BY_DPI)

    def part(one, two, first, second):
        edges = (Edge((0, 0), one, "width"), Edge((5, 5), (5 + two[0], 5 + two[1]), "depth"))
        known = (Known("length", (0,), first), Known("length", (1,), second))
        return replace(bare, edges=edges, known=known)

    true = 0.21, 0.17
    runs = (300.0, 40.0), (-30.0, 200.0)
    lengths = [math.hypot(true[0] * x, true[1] * y) for x, y in runs]
    assert scales_of(part(*runs, *lengths)) == pytest.approx(true)
    assert laid_out(part(*runs, *lengths), BY_LENGTHS)[1][0] == pytest.approx(0.21 * bare.width)
    alike = (300.0, 0.0), (200.0, 4.0)
    assert scales_of(part(*alike, 60.0, 40.0)) == pytest.approx((0.2, 0.2), rel=1e-3)
    with pytest.raises(MarksError, match="contradict"):
        scales_of(part(*runs, 10.0, 400.0))
    with pytest.raises(MarksError, match="Mark two lines"):
        scales_of(bare)


def test_repeats_that_do_not_shrink_by_rule_are_told_where_they_belong():
    """Marker masts at even steps along the width of the case, one of them put aside."""
    picture = straightened(CASE, Hand(seed=4))
    px = picture.width / 420
    start, along = np.array([0.0, 0.0, 0.0]), np.array(CASE.lead.axes()[0])
    world = np.array([start + along * 70.0 * n for n in range(6)])
    places = project(CASE.eye, world).sheet * px
    for aside, rules in ((0.0, set()), (4.0, {"repeats do not shrink by rule"})):
        moved = places.copy()
        way = (places[-1] - places[0]) / math.dist(places[-1], places[0])
        moved[3] += way * aside * px
        row = Row(tuple(map(tuple, moved.tolist())), "width")
        faults = judge(replace(picture, rows=(row,)), reading_of(replace(picture, rows=(row,))))
        assert {one.rule for one in faults} == rules
        if aside:
            assert faults[0].by_mm == pytest.approx(aside, abs=0.8)


def test_what_is_ticked_off_stays_in_the_list_and_leaves_remarks_and_corrections():
    stroke = edges_of(CASE, 60.0)[0]
    hand = Hand(seed=5, mistakes=(Mistake("miss", stroke["volume"], stroke["part"], 3.0),))
    document = as_framework(bringing.bring_picture(CASE, straightened(CASE, hand)))
    (fault,) = faults_in(document)

    def said(one):
        return [r for r in report_of(one)["remarks"] if r["rule"].startswith("sketch")]

    (remark,) = said(document)
    assert remark["value"] == fault.by_mm
    assert remark["rule"] == f"sketch, {EDGE} {fault.mark.number}: {fault.rule}"
    mended = marking.tick_off(document, fault.mark, True)
    (still,) = faults_in(mended)
    assert still.mended and still.by_mm == fault.by_mm and said(mended) == []
    assert faults_in(marking.tick_off(mended, fault.mark, False)) == [fault]
    square = SheetPicture("a", PictureFile(b"\xff\xd8\xff"), 420, 297, paper_mm=(420.0, 297.0))
    assert report_of(bringing.bring_picture(CASE, square))["remarks"] is not None
    assert fault.mark == Mark(EDGE, fault.mark.number)


def test_a_texture_has_no_rims_and_looking_for_them_can_be_stopped():
    y, x = np.mgrid[0:1400, 0:2000]
    rings = np.where(np.hypot(x - 1000, y - 700) % 30 < 2, 40, 240).astype(np.uint8)
    assert rims_on(rings, [], 4.76) == []
    few = np.where((np.abs(np.hypot(x - 1000, y - 700) - 300) < 2), 40, 240).astype(np.uint8)
    assert len(rims_on(few, [], 4.76)) == 1
    with watched(Wanted()) as by, pytest.raises(StoppedError):
        by.wanted = False
        rims_on(few, [], 4.76)

"""One's own sketch: straightened, its strokes found, and what is off told by how much."""

import contextlib
import io
import json
import math
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from isometron.cli import main
from isometron.document.document import Document
from isometron.document.edits.pictures import bringing, marking
from isometron.document.edits.stances import LOOKING_DOWN, take_stance
from isometron.document.errors import ChoiceError
from isometron.document.marks import MarksError
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import (
    SKETCH_SAMPLE,
    SKETCH_SHEET,
    sample_picture,
    sample_sheet,
    write_sheet,
)
from isometron.framework.circles import FaceCircle
from isometron.perspective.errors import IsometronError
from isometron.reading.comparing import compare
from isometron.reading.laying import lay_sheet
from isometron.reading.of_picture import (
    corner_at,
    likely_axle,
    likely_corner,
    likely_family,
    reading_of,
    rim_in,
    snapped,
)
from isometron.reading.pictures import read_picture
from isometron.reading.rims import fit_rim
from isometron.reading.sketch.judging import faults_in, judge
from isometron.reading.sketch.own_sheet import as_framework, corners_of, own_sheet
from isometron.reading.sketch.paper import homography, in_order, paper_corners, through
from isometron.reading.sketch.sizes import size_of
from isometron.stand_ins.hand import Hand, HandError, Mistake, mistake_of, sketch, truth_of_sketch


def cross(one, two):
    return one[0] * two[1] - one[1] * two[0]


CASE = sample_sheet("eyepiece case")


def straightened(document, hand):
    content = sketch(document, hand)
    corners = corners_of(content)
    return own_sheet(content, "sketch", corners, size_of("A3", corners))


@pytest.mark.sample(2)
@pytest.mark.parametrize("slant", [(0.12, -0.28), (-0.3, 0.1), (0.0, -0.5), None])
def test_the_corners_of_the_paper_are_found_and_a_scan_fills_the_picture(slant):
    hand = Hand(slant=slant, px_per_mm=3.0)
    content, told = sketch(CASE, hand), truth_of_sketch(CASE, hand)
    corners = corners_of(content)
    assert np.abs(np.array(corners) - told["corners"]).max() < 0.4
    assert size_of("A4", corners) == (297.0, 210.0)
    y, x = np.mgrid[0:300, 0:400]
    plate = np.where((x - 200) ** 2 + (y - 150) ** 2 < 100**2, 230, 40).astype(np.uint8)
    assert paper_corners(plate) is None, "a round plate is no sheet of paper"
    assert read_picture(content, "a.jpg").size == tuple(told["picture"].values())


def test_straightening_is_exact_to_the_corners_and_refuses_what_is_no_sheet():
    rng = np.random.default_rng(2)
    for _trial in range(20):
        true = np.eye(3) + 0.2 * rng.standard_normal((3, 3))
        true[2] = [*(3e-4 * rng.standard_normal(2)), 1.0]
        mm = np.array([[0, 0], [420, 0], [420, 297], [0, 297]], dtype=float)
        px = through(true, mm)
        area = cross(px[1] - px[0], px[3] - px[0])
        if area <= 0:
            continue
        way = homography([tuple(p) for p in px], (420.0, 297.0))
        some = rng.uniform((0, 0), (420, 297), (9, 2))
        assert through(way, through(true, some)) == pytest.approx(some, abs=1e-7)
    good = [(0.0, 0.0), (9.0, 0.0), (9.0, 5.0), (0.0, 5.0)]
    assert in_order([good[2], good[0], good[3], good[1]]) == good
    for bad in (
        [(0, 0), (9, 0), (9, 5), (9, 5)],
        [(0, 0), (5, 0), (9, 0), (0, 5)],
        [(0, 0), (0, 5), (9, 5), (9, 0)],
        [(0, 0), (9, 5), (9, 0), (0, 5)],
        [(0, 0), (9, 0), (math.nan, 5), (0, 5)],
        [(0, 0), (9, 0), (9, 5)],
    ):
        with pytest.raises(MarksError, match="drag each"):
            homography(bad, (420.0, 297.0))


@pytest.mark.sample(1)
@pytest.mark.parametrize("hand", [Hand(seed=3), Hand(seed=4, searching=3, unsteady_mm=0.4)])
@pytest.mark.full
def test_searched_lines_of_one_edge_are_one_stroke_where_it_was_meant(hand):
    picture = straightened(CASE, hand)
    px = picture.width / 420
    told = [s for s in truth_of_sketch(CASE, hand)["strokes"] if s["kind"] == "edge"]
    assert len(told) <= len(picture.edges) <= 1.1 * len(told)
    misses = []
    for stroke in told:
        one, two = np.array(stroke["from_mm"]), np.array(stroke["to_mm"])
        way = (two - one) / np.hypot(*(two - one))
        offs = [
            max(
                abs(way[0] * (p[1] / px - one[1]) - way[1] * (p[0] / px - one[0]))
                for p in (e.start, e.end)
            )
            for e in picture.edges
            if math.dist(np.add(e.start, e.end) / 2 / px, (one + two) / 2) < 12
        ]
        misses.append(min(offs))
    assert np.mean(misses) < 2 * hand.unsteady_mm and max(misses) < 2.0


def test_a_faultless_sketch_is_left_alone(many):
    strokes = faults = 0
    for seed in range(many(1, 60)):
        slant = (0.1, -0.2) if seed % 3 else None
        picture = straightened(CASE, Hand(seed=seed, slant=slant))
        strokes += sum(not edge.left for edge in picture.edges)
        faults += len(judge(picture, reading_of(picture)))
    assert strokes > 15 and faults <= 0.02 * strokes


def test_a_stroke_that_misses_is_found_with_its_size_and_how_to_redraw_it(many):
    plain = truth_of_sketch(CASE, Hand())["strokes"]
    long = [s for s in plain if math.dist(s["from_mm"], s["to_mm"]) > 60]
    found, wrong, count = 0, [], many(2, 60)
    for seed in range(count):
        stroke = long[seed % len(long)]
        length = math.dist(stroke["from_mm"], stroke["to_mm"])
        by = math.degrees(math.atan(4.5 / length)) * (-1) ** seed
        hand = Hand(seed=seed + 50, mistakes=(Mistake("miss", 0, 0, by),))
        hand = replace(hand, mistakes=(Mistake("miss", stroke["volume"], stroke["part"], by),))
        picture = straightened(CASE, hand)
        px = picture.width / 420
        true = next(s for s in truth_of_sketch(CASE, hand)["strokes"] if s["mistakes"])
        middle = np.add(true["from_mm"], true["to_mm"]) / 2
        for fault in judge(picture, reading_of(picture), hand=None):
            edge = picture.edges[fault.mark.number]
            if math.dist(np.add(edge.start, edge.end) / 2 / px, middle) < 12:
                found += 1
                wrong.append(fault.by_deg - abs(by))
                one, two = map(np.array, fault.redraw)
                near = min(
                    (np.array(p) / px for p in (edge.start, edge.end)),
                    key=lambda p, a=one, b=two: abs(cross(b - a, p - a)),
                )
                assert abs(cross(two - one, near - one)) / math.dist(one, two) < 0.01
                for place in (one, two):
                    assert (
                        min(abs(place[0]), abs(place[0] - 420), abs(place[1]), abs(place[1] - 297))
                        < 0.5
                    )
    assert found >= 0.8 * count and abs(np.mean(wrong)) < 0.25 and np.std(wrong) < 0.6


def test_a_rim_that_leaves_its_ellipse_is_told_from_a_true_one(many):
    face = FaceCircle(2, (0.5, 0.5), 80.0)
    document = replace(CASE, volumes=(replace(CASE.volumes[0], circles=(face,)), *CASE.volumes[1:]))
    circle = next(c for c in all_circles(scene_of(document)) if c.volume == 0)
    (cx, cy), tilt = circle.ellipse.centre_mm, math.radians(circle.ellipse.major_axis_deg)
    a, b = circle.ellipse.semi_major_mm, circle.ellipse.semi_minor_mm
    wide = math.hypot(a * math.cos(tilt), b * math.sin(tilt)) + 1
    high = math.hypot(a * math.sin(tilt), b * math.cos(tilt)) + 1
    for mistakes in ((Mistake("swell", 0, circle.number, 4.0),), *many([], [()])):
        picture = straightened(document, Hand(seed=2, searching=0, mistakes=mistakes))
        px = picture.width / 420
        box = (((cx - wide) * px, (cy - high) * px), ((cx + wide) * px, (cy + high) * px))
        points = rim_in(picture.file.content, box, px)
        sheet = bringing.bring_picture(Document(), picture)
        axle = likely_axle(picture, points, reading_of(picture))
        sheet = marking.add_round(sheet, points, axle).photograph
        rules = {fault.rule: fault for fault in judge(sheet, reading_of(sheet))}
        assert set(rules) == ({"off its ellipse"} if mistakes else set())
        if mistakes:
            assert rules["off its ellipse"].by_percent == pytest.approx(4.0, abs=1.2)


def test_the_commands_draw_by_hand_and_judge(tmp_path, capsys):
    write_sheet(CASE, tmp_path / "case.isometron")
    out = tmp_path / "sketch.jpg"
    asked = ["sample-hand", str(tmp_path / "case.isometron"), "-o", str(out), "--seed", "5"]
    assert main([*asked, "--mistake", "miss:0:3:2.5"]) == 0
    told = json.loads(out.with_suffix(".json").read_text())
    assert told["mistakes"] == [{"kind": "miss", "volume": 0, "part": 3, "by": 2.5}]
    content = out.read_bytes()
    corners = corners_of(content)
    picture = own_sheet(content, "sketch.jpg", corners, size_of("A3", corners))
    write_sheet(bringing.bring_picture(Document(), picture), tmp_path / "judged.isometron")
    capsys.readouterr()
    assert main(["read", str(tmp_path / "judged.isometron")]) == 0
    (remark,) = json.loads(capsys.readouterr().out)["remarks"]
    assert remark["rule"] == "misses its point" and remark["by_deg"] == pytest.approx(2.5, abs=0.4)
    assert len(remark["redraw"]) == 2 and remark["by_mm"] > 3
    assert main([*asked, "--mistake", "smudge:0:3:2"]) == 2
    with pytest.raises(HandError, match="type, say"):
        mistake_of("miss:1")
    with pytest.raises(HandError, match="No hand draws so"):
        Hand(searching=99)
    with pytest.raises(HandError, match="nothing to draw"):
        sketch(Document(), Hand())


@pytest.mark.sample(1)
@pytest.mark.parametrize(("side", "by"), [(0, 12.0), (1, -10.0)])
def test_a_side_that_is_not_as_meant_is_told_by_how_much_to_move_it(side, by):
    hand = Hand(seed=side + 1, mistakes=(Mistake("long", 0, side, by),))
    document = bringing.mean_framework(bringing.bring_picture(CASE, straightened(CASE, hand)))
    picture = document.photograph
    px, read = picture.width / 420, reading_of(picture)
    assert read.reading.view.station_distance.value / px == pytest.approx(485.0, rel=0.01)
    wrong = max(one.mm for one in compare(document, scene_of(document), read))
    assert wrong > 2.5, "its far edges lie aside from those of the framework"
    box = CASE.volumes[0]
    sides = list(box.sides)
    sides[side] *= 1 + by / 100
    drawn = replace(box, width_mm=sides[0], depth_mm=sides[1])
    seen = scene_of(replace(CASE, volumes=(drawn, *CASE.volumes[1:]))).pictures[0].sheet * px
    at, *far = (tuple(map(float, seen[corner])) for corner in (0, 1, 2, 4))
    ends = [(likely_family(picture, at, end, read.reading), end) for end in far]
    corner, first = likely_corner(picture, at, ends, 1.0), len(picture.edges)
    document = marking.add_corner(document, corner, at, ends)
    document = marking.say_known(document, "ratio", [first, first + 1], box.width_mm / box.depth_mm)
    told = judge(document.photograph, reading_of(document.photograph))
    fault = next(one for one in told if one.rule == "not as meant")
    assert fault.by_percent == pytest.approx(100 * abs((sides[0] / sides[1]) / 1.5 - 1), abs=1.0)
    true = scene_of(CASE).pictures[0].sheet
    if side == 0:
        moved = math.dist(seen[1] / px - seen[0] / px, true[1] - true[0])
        assert fault.by_mm == pytest.approx(moved, abs=1.5)


def test_against_the_framework_it_was_meant_to_be_all_mistakes_are_found_and_nothing_else(many):
    mistakes = (Mistake("miss", 0, 3, 2.5), Mistake("miss", 1, 0, 1.4), Mistake("long", 0, 0, 12.0))
    for seed, some in ((7, ()), (4, mistakes), (1, ()), (2, mistakes))[-many(1, 4) :]:
        picture = straightened(CASE, Hand(seed=seed, mistakes=some))
        document = as_framework(bringing.bring_picture(CASE, picture))
        faults = faults_in(document)
        rules = sorted(fault.rule for fault in faults)
        assert rules == sorted(["misses its point"] * 2 + ["beside the framework"]) * bool(some)
        assert all(fault.redraw is not None and fault.by_mm > 1.5 for fault in faults)
    moved = document.with_eye(replace(document.eye, height_mm=900.0))
    told = {fault.rule for fault in faults_in(moved)}
    assert told <= {"misses its point"}, "from another eye the sketch is judged by itself"


def test_what_was_meant_is_refused_where_it_cannot_be_told():
    plain = bringing.bring_picture(CASE, straightened(CASE, Hand(seed=1, px_per_mm=3.0)))
    other = replace(plain, sheet=replace(plain.sheet, width_mm=297.0, height_mm=210.0))
    thing = bringing.change_picture(plain, lambda p: replace(p, paper_mm=None))
    for document, words in (
        (other, "different formats"),
        (thing, "no straightened sheet"),
        (replace(plain, volumes=(), selected=None), "No framework"),
    ):
        with pytest.raises(ChoiceError, match=words):
            bringing.mean_framework(document)


def test_the_sample_sketch_shows_its_four_mistakes_with_their_sizes_and_no_other():
    content = sample_picture(SKETCH_SAMPLE)
    corners = corners_of(content)
    picture = own_sheet(content, "sketch", corners, size_of("A3", corners))
    document = as_framework(bringing.bring_picture(sample_sheet(SKETCH_SHEET), picture))
    faults = faults_in(document)
    missed = sorted(
        one.by_deg for one in faults if one.rule in ("misses its point", "upright leans")
    )
    assert missed == pytest.approx([1.4, 2.5, 3.2], abs=0.3)
    (beside,) = [one for one in faults if one.rule == "beside the framework"]
    assert len(faults) == 4
    true, longer = (scene_of(d).pictures[0].sheet for d in (CASE, _longer(CASE)))
    aside = np.hypot(*(true - longer).T)
    assert 1.0 < beside.by_mm < aside.max(), "the far edge, drawn 12 % too far along its fan"


def _longer(document):
    box = document.volumes[0]
    return replace(document, volumes=(replace(box, width_mm=1.12 * box.width_mm),))


@pytest.mark.sample(2)
@pytest.mark.parametrize("content", ["white", "black", "noise", "one stroke"])
def test_what_shows_nothing_harms_nothing(content):
    """Blank paper, no paper, a hand that clicks one place twice or far beside the picture."""
    grey = np.full((120, 160), 0 if content == "black" else 255, dtype=np.uint8)
    if content == "noise":
        grey = np.random.default_rng(1).integers(0, 255, grey.shape, dtype=np.uint8)
    elif content == "one stroke":
        grey[50:52, 20:140] = 20
    kept = io.BytesIO()
    Image.fromarray(grey).save(kept, "PNG")
    encoded = kept.getvalue()
    sheet = own_sheet(encoded, "a\n<b>", corners_of(encoded), (420.0, 297.0))
    document = bringing.bring_picture(CASE, sheet)
    for asked in (faults_in, as_framework, lay_sheet):
        with contextlib.suppress(IsometronError):
            asked(document)
    for one, two in (((5, 5), (5, 5)), ((-50, -50), (-10, -10)), ((1e6, 0), (0, 1e6))):
        assert snapped(encoded, one, two, 9.0) == (one, two), "far off or nothing: as it was drawn"
        assert corner_at(encoded, one, [two, one], 9.0)[0] == one
        with pytest.raises(MarksError, match="No rim"):
            rim_in(encoded, (one, two))


@pytest.mark.full
def test_a_rim_off_its_axle_or_degree_is_told_by_how_much_where_the_eye_is_told():
    face = FaceCircle(2, (0.5, 0.5), 100.0)
    rimmed = (replace(CASE.volumes[0], circles=(face,)), *CASE.volumes[1:])
    down = take_stance(replace(CASE, volumes=rimmed), LOOKING_DOWN)
    number = next(c for c in all_circles(scene_of(down)) if c.volume == 0).number
    hands = [
        Hand(seed=2, searching=0, mistakes=m) for m in ((), (Mistake("axis", 0, number, 9.0),))
    ]
    true, turned = (
        bringing.bring_picture(Document(), straightened(down, hand)).photograph for hand in hands
    )
    assert judge(true, reading_of(true)) == []
    (fault,) = judge(turned, reading_of(turned))
    assert fault.rule == "rim off its axle" and fault.by_deg == pytest.approx(9.0, abs=1.0)
    assert "clockwise" in fault.text
    # the same rim, its short axis stretched: by as many degrees as the two ellipses differ
    (rim,) = true.rounds
    cx, cy, long, short, angle = fit_rim(np.array(rim.points)).values
    for grow, said in ((1.25, "A rim is too open"), (0.75, "A rim is too narrow")):
        t = np.linspace(0, 2 * np.pi, 80, endpoint=False)
        c, s = math.cos(angle), math.sin(angle)
        own = np.stack([long * np.cos(t), grow * short * np.sin(t)], axis=1)
        points = own @ np.array([[c, s], [-s, c]]) + (cx, cy)
        drawn = replace(true, rounds=(replace(rim, points=tuple(map(tuple, points.tolist()))),))
        (fault,) = [f for f in judge(drawn, reading_of(true)) if f.rule == "rim off its degree"]
        apart = math.degrees(abs(math.asin(grow * short / long) - math.asin(short / long)))
        assert fault.title == said and fault.by_deg == pytest.approx(apart, abs=1.5)

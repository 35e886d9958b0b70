"""Sketches by a second hand, read and judged by themselves."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.marks import Edge
from isometron.document.picture import ROUND, PictureFile, SheetPicture
from isometron.reading.model import vanishing
from isometron.reading.of_picture import STRAY, reading_of
from isometron.reading.sketch.agreed import agreed
from isometron.reading.sketch.judging import judge
from isometron.reading.sketch.meant import meant
from isometron.reading.sketch.own_sheet import corners_of, own_sheet
from isometron.reading.sketch.sizes import size_of
from tests.reading.sketch.other_hand import KINDS, drawing, set_out

FIRST = 1000
"""Seeds from here on are reported; what decides is set by others, 0 to 7."""

NAMED = {
    "angle": {"misses its point", "far corner"},
    "lean": {"upright leans"},
    "level": {"drawn level"},
    "axis": {"rim off its axle"},
    "size": {"wheels disagree"},
    "swell": {"off its ellipse"},
    "aside": {"eye level aside"},
}
"""Which rules tell a mistake by its kind."""


def told_of(true):
    """The faults of a drawing, each with what it is said of: a line, a rim, or nothing."""
    corners = corners_of(true.content)
    picture = own_sheet(true.content, "a sketch", corners, size_of(true.paper, corners))
    found = []
    for fault in judge(picture, reading_of(picture)):
        found.append((fault, about(true, picture, fault)))
    return picture, found


def about(true, picture, fault):
    """The line or rim of a drawing that a fault is said of."""
    scale = picture.paper_mm[0] / picture.width
    if fault.mark.kind == ROUND:
        middle = np.mean(picture.rounds[fault.mark.number].points, axis=0) * scale
        near = [math.dist(middle, rim.centre) for rim in true.rims]
        return true.rims[int(np.argmin(near))] if near and min(near) < 8 else None
    return line_at(true, picture, fault.mark.number)


def line_at(true, picture, number):
    """The line of a drawing along which a stroke of the picture was found."""
    edge, scale = picture.edges[number], picture.paper_mm[0] / picture.width
    ends = np.array([edge.start, edge.end]) * scale
    off = []
    for line in true.lines:
        run = line.ends[1] - line.ends[0]
        length = float(np.hypot(*run))
        share = np.clip((ends - line.ends[0]) @ run / length**2, 0, 1)
        off.append(float(np.hypot(*(ends - line.ends[0] - share[:, None] * run).T).max()))
    return true.lines[int(np.argmin(off))] if min(off) < 6 else None


def outcome(true):
    """Whether the planted mistake was found, named, or its stroke is asked about (None where there
    is none), and what else was said."""
    picture, told = told_of(true)
    hits = [fault for fault, thing in told if thing is not None and thing.mistake]
    others = [fault.rule for fault, thing in told if thing is None or not thing.mistake]
    if not true.mistake:
        return None, None, None, others
    named = any(one.rule in NAMED[true.mistake] for one in hits)
    return bool(hits), named, not hits and asked(true, picture), others


def asked(true, picture):
    """Whether the stroke with the mistake is one of those that are asked about."""
    unsure = [n for n, one in enumerate(picture.edges) if one.left and one.family == STRAY]
    about_them = [line_at(true, picture, number) for number in unsure]
    return any(line is not None and line.mistake for line in about_them)


def drawn_for(kind, seed):
    """Lines of a sheet as a hand draws them (n, 2, 2), px of 0.2 mm, what each is for, and the
    width of the sheet."""
    chance = np.random.default_rng([5, seed])
    paper, lines, _hidden, _rims, hand, _mistake, _level = set_out(kind, seed, chance)
    some = [one for one in lines if math.dist(*one.ends) > 8]
    ends = np.array([one.ends for one in some])
    found = 5 * (ends + chance.normal(0, hand / 2, ends.shape))
    return found, [one.family for one in some], 297.0 if paper == "A4" else 420.0


def test_each_stroke_is_taken_for_what_it_was_drawn_for():
    right, wrong, whole = 0, 0, 0
    for kind, seed in itertools.product(("plain", "level", "turned"), range(6)):
        lines, families, wide = drawn_for(kind, seed)
        told = meant(lines, 0.2, wide).names
        for one, other in (("width", "depth"), ("depth", "width")):  # which is which is a choice
            called = {"width": one, "depth": other, "height": "height", "eye level": "eye level"}
            pairs = [(t, called[f]) for t, f in zip(told, families, strict=True) if f in called]
            if sum(t == f for t, f in pairs) >= len(pairs) / 2:
                right += sum(t == f for t, f in pairs)
                wrong += sum(t not in (f, "") for t, f in pairs)
                whole += len(pairs)
    assert whole > 250 and right >= 0.93 * whole and wrong <= 0.03 * whole


def test_hatching_is_no_family_and_turned_things_have_their_own():
    lines, _families, wide = drawn_for("plain", 2)
    way = np.array([np.cos(0.8), np.sin(0.8)])
    hatch = np.array([[(500 + 12 * n, 300), (500 + 12 * n, 300) + 80 * way] for n in range(26)])
    told = meant(np.concatenate([lines, hatch]), 0.2, wide).names
    before = meant(lines, 0.2, wide).names
    assert told[: len(lines)] == before
    assert not {*told[len(lines) :]} & {"width", "depth", "height"}
    assert meant(np.empty((0, 2, 2)), 0.2, 297.0).names == []
    assert meant(lines[:1], 0.2, wide).names == [""]
    chance = np.random.default_rng(3)
    ends = chance.uniform(0, 1500, (60, 1, 2))
    scribble = np.concatenate([ends, ends + chance.normal(0, 150, ends.shape)], axis=1)
    assert not any(meant(scribble, 0.2, wide).names), "a scribble was meant for nothing"
    points = np.array([[[5, 5], [5, 5]], [[0, 0], [90, 0]], [[0, 0], [0, 90]]], float)
    assert len(meant(points, 0.2, wide).names) == 3, "a stroke without length"
    same = np.repeat(lines[:1], 5, axis=0)
    assert len(meant(same, 0.2, wide).names) == 5, "strokes on each other"


def test_what_all_others_contradict_does_not_shape_the_eye():
    true = drawing("plain", 0)
    picture, told = told_of(true)
    assert picture.paper_mm in ((420.0, 297.0), (297.0, 210.0)) and told == []
    marks = reading_of(picture).marks
    number = next(n for n, one in enumerate(picture.edges) if one.family == "width")
    edge, px = marks.edges[number], picture.width / picture.paper_mm[0]
    edges = list(marks.edges)
    edges[number] = replace(edge, end=(edge.end[0], edge.end[1] + 7.0 * px))
    left = agreed(replace(marks, edges=tuple(edges)), 0.25 * px)
    plain = agreed(marks, 0.25 * px)
    assert number not in left.seen.loose[2].tolist() or number in left.wrong
    for one, other in zip(vanishing(left.state)[0], vanishing(plain.state)[0], strict=True):
        assert abs(float(one @ other)) > 0.999 * float(np.linalg.norm(one) * np.linalg.norm(other))


def test_an_eye_level_drawn_beside_the_points_is_told_and_one_on_them_is_left_alone():
    told = {}
    for off in (0.0, 14.0, -14.0):
        lines, families, wide = drawn_for("level", 0)
        lines[families.index("eye level"), :, 1] += 5 * off
        names = meant(lines, 0.2, wide).names
        edges = tuple(
            Edge(
                *map(tuple, ends.tolist()),
                name or STRAY,
                open_ends=True,
                found=True,
                left=name in ("", "eye level"),
            )
            for ends, name in zip(lines, names, strict=True)
        )
        file = PictureFile(b"\xff\xd8\xff")
        size = (round(5 * wide), round(5 * wide / math.sqrt(2)))
        picture = SheetPicture("a", file, *size, cropped=True, edges=edges)
        picture = replace(picture, paper_mm=(wide, wide / math.sqrt(2)))
        told[off] = [one for one in judge(picture, reading_of(picture)) if "eye" in one.rule]
    assert told[0.0] == []
    assert ["below it" in one.text for one in (*told[14.0], *told[-14.0])] == [True, False]
    assert all(one.by_mm == pytest.approx(14.0, abs=4.0) for one in (*told[14.0], *told[-14.0]))


@pytest.mark.full
def test_of_many_sketches_little_is_said_that_is_not_so():
    outcomes = [outcome(drawing(kind, FIRST + n)) for kind in KINDS for n in range(18)]
    planted = [one for one in outcomes if one[0] is not None]
    assert sum(len(one[3]) for one in outcomes) <= 0.35 * len(outcomes)
    assert sum(bool(found or asks) for found, _named, asks, _o in planted) >= 0.5 * len(planted)
    assert sum(bool(named) for _f, named, _a, _o in planted) >= 0.9 * sum(p[0] for p in planted)

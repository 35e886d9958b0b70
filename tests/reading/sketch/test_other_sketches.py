"""Sketches by a second hand, read and judged by themselves."""

import math

import numpy as np

from isometron.document.picture import ROUND
from isometron.reading.of_picture import reading_of
from isometron.reading.sketch.judging import judge
from isometron.reading.sketch.own_sheet import corners_of, own_sheet
from isometron.reading.sketch.sizes import size_of
from tests.reading.sketch.other_hand import drawing

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
    edge = picture.edges[fault.mark.number]
    ends = np.array([edge.start, edge.end]) * scale
    off = []
    for line in true.lines:
        run = line.ends[1] - line.ends[0]
        length = float(np.hypot(*run))
        share = np.clip((ends - line.ends[0]) @ run / length**2, 0, 1)
        off.append(float(np.hypot(*(ends - line.ends[0] - share[:, None] * run).T).max()))
    return true.lines[int(np.argmin(off))] if min(off) < 6 else None


def outcome(true):
    """Whether the planted mistake was found and named (None where there is none), and what else
    was said."""
    _picture, told = told_of(true)
    hits = [fault for fault, thing in told if thing is not None and thing.mistake]
    others = [fault.rule for fault, thing in told if thing is None or not thing.mistake]
    found = bool(hits) if true.mistake else None
    named = any(one.rule in NAMED[true.mistake] for one in hits) if true.mistake else None
    return found, named, others


def test_a_sketch_by_a_second_hand_is_straightened_to_its_size():
    true = drawing("plain", 0)
    picture, told = told_of(true)
    assert picture.paper_mm in ((420.0, 297.0), (297.0, 210.0))
    assert told == []

"""What lies on the sheet after each step, how it is told, and where its letters go."""

import itertools
import math
import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.construction.labels import label_centres
from isometron.construction.machine import Machine, exact_measures
from isometron.construction.moves import (
    Cross,
    Curve,
    Ellipse,
    Join,
    Level,
    Mark,
    Parallel,
    StepOff,
    Upright,
    draws,
)
from isometron.construction.order import order_of
from isometron.construction.stages import Stages
from isometron.construction.strokes import (
    KEPT,
    NEW,
    OBJECT,
    OLD,
    PAST,
    RUB,
    smooth,
)
from isometron.construction.telling import Teller, tilt_in_words, where_in_words
from isometron.document.building import EVERYTHING, FRAMEWORK, METHODS, Building
from isometron.document.edits import building_edits, sheet_edits
from isometron.drawing.curves import ellipse_cubics
from isometron.drawing.scene import scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.files.sheet_file import SAMPLES, sample_sheet
from isometron.perspective.lengths import read_length
from isometron.perspective.vanishing import vanishing_point
from tests.scenes import crossed, floats

WAYS = "up|down|to the right|to the left"
PLACES = (
    (" right", " left of the paper", " right of the paper", " from the right edge"),
    (" up", " below the paper", " above the paper", " down"),
)
BY = r"(?:, by a (?:third )?mark (.+?), (.+?))?"
PAPER = (0.0, 0.0, 420.0, 297.0)


def sheet_size(document):
    return document.sheet.width_mm, document.sheet.height_mm


class Reader:
    """A person who has nothing but the sentences: draws what they say and knows points by their
    letters and lines by how they are spoken of."""

    def __init__(self, unit, paper):
        self.paper = paper
        self.unit, self.machine = unit, Machine(1, exact_measures)
        self.points, self.lines, self.count = {}, {}, 0

    def _new(self):
        self.count += 1
        return f"n{self.count}"

    def _mm(self, words):
        return read_length(words.replace("−", "-"), self.unit)

    def _place(self, across, up):
        """mm from the paper's left and lower edges, by how a place is told."""
        found = []
        for told, size, ways in zip((across, up), self.paper, PLACES, strict=True):
            if told.startswith("at the "):
                found.append(0.0 if told.split()[2] in ("left", "lower") else size)
                continue
            plain = re.sub(r" in \d goes$", "", told)
            way = next(w for w in ways if plain.endswith(w))
            mm = self._mm(plain.removesuffix(way))
            found.append((mm, -mm, size + mm, size - mm)[ways.index(way)])
        return tuple(found)

    def draw(self, told):
        if found := re.fullmatch(r"Mark (.+): (.+?), (.+?)\.", told):
            move = Mark(self._new(), self._place(found[2], found[3]))
            self.points[found[1]] = move.name
        elif found := re.fullmatch(rf"Join (.+) and (.+?){BY}\.", told):
            by = self._place(found[3], found[4]) if found[3] else None
            move = Join(self._new(), self.points[found[1]], self.points.get(found[2], ""), by=by)
            self.lines[f"{found[1]}–{found[2]}"] = move.name
        elif found := re.fullmatch(
            rf"Lay the ruler from (.+) to (.+?){BY}: it meets (.+) in (.+)\.", told
        ):
            by = self._place(found[3], found[4]) if found[3] else None
            ruler = Join(self._new(), self.points[found[1]], self.points.get(found[2], ""), by=by)
            self.machine.make(ruler)
            move = Cross(self._new(), ruler.name, self.lines[found[5]])
            self.points[found[6]] = move.name
        elif found := re.fullmatch(r"Draw an upright through (.+)\.", told):
            move = Upright(self._new(), self.points[found[1]])
            self.lines[f"the upright through {found[1]}"] = move.name
        elif found := re.fullmatch(r"Draw a level line through (.+)\.", told):
            move = Level(self._new(), self.points[found[1]])
            self.lines[f"the level line through {found[1]}"] = move.name
        elif found := re.fullmatch(r"Draw a parallel to (.+) through (.+?)\.", told):
            move = Parallel(self._new(), self.lines[found[1]], self.points[found[2]])
            self.lines[f"the parallel through {found[2]}"] = move.name
            self.lines[f"the parallel to {found[1]} through {found[2]}"] = move.name
        elif found := re.fullmatch(r"(.+?) is where (.+) meets (.+)\.", told):
            move = Cross(self._new(), self.lines[found[2]], self.lines[found[3]])
            self.points[found[1]] = move.name
        elif found := re.fullmatch(
            r"Step (.+?) (up|down|to the right|to the left) from (.+?) along (.+): (.+)\.", told
        ):
            mm = self._mm(found[1]) * (1 if found[2] in ("up", "to the right") else -1)
            move = StepOff(self._new(), self.lines[found[4]], self.points[found[3]], mm)
            self.points[found[5]] = move.name
        elif found := re.fullmatch(
            r"Place (.+) by eye (above|below|right of|left of) (.+) along (.+), and measure it: "
            r"(.+)\.",
            told,
        ):
            mm = self._mm(found[5]) * (1 if found[2] in ("above", "right of") else -1)
            move = StepOff(self._new(), self.lines[found[4]], self.points[found[3]], mm)
            self.points[found[1]] = move.name
        elif found := re.fullmatch(r"Ellipse about (.+?): (.+) by (.+), long axis (.+)\.", told):
            words = found[4].rstrip("°").replace("−", "-")
            tilt = 0.0 if words == "level" else float(words.split()[1])
            half = self._mm(found[2]) / 2, self._mm(found[3]) / 2
            move = Ellipse(self._new(), self.points[found[1]], *half, tilt)
        else:
            found = re.fullmatch(r"Curve through (.+)\.", told)
            assert found, told
            move = Curve(self._new(), tuple(self.points[p] for p in found[1].split(", ")))
        self.machine.make(move)


EVERY = [
    pytest.param(method, name, marks=() if (i + j) % 2 else pytest.mark.full)
    for i, method in enumerate(METHODS)
    for j, name in enumerate(SAMPLES)
]


@pytest.mark.sample(6)
@pytest.mark.parametrize(("method", "name"), EVERY)
def test_the_sentences_alone_are_enough_to_draw_it(method, name):
    unit = {"observing chair": "in", "red lamp": "mm"}.get(name, "cm")
    document = sheet_edits.set_unit(sample_sheet(name), unit)
    order = order_of(replace(document, building=Building(method)))
    reader, teller = Reader(unit, sheet_size(document)), Teller(order, unit)
    for step in order.steps:
        for told in teller.step(step):
            reader.draw(told)
    assert len(order.landings) > 14
    for landing in order.landings:
        label = teller.point(landing.name)
        drawn = reader.machine.drawn.place(reader.points[label])
        off = math.dist(drawn, landing.place)
        assert off <= order.bounds[landing.name] + 1e-9, (landing.what, off)


def test_places_off_the_paper_and_level_axes_are_told_as_such():
    def told(mm):
        return f"{mm:g} mm"

    assert where_in_words((12.0, 30.0), told) == "12 mm right, 30 mm up"
    assert where_in_words((-12.0, -3.0), told) == "12 mm left of the paper, 3 mm below the paper"
    assert tilt_in_words(0.01) == "long axis level"
    assert tilt_in_words(-12.34) == "long axis tilted −12.3°"


@pytest.mark.parametrize("name", ["supply crawler", "telescope tube"])
def test_a_line_is_drawn_at_least_as_far_as_the_points_found_on_it(name):
    document = sample_sheet(name)
    order = order_of(document)
    stages, wide = Stages(order, document.sheet), (-1e5, -1e5, 1e5, 1e5)
    found = {}
    for number, step in enumerate(order.steps):
        stage = stages.after(number, wide)
        ends = {s.name: s.ends for s in stage.strokes if s.ends is not None}
        for move in step.moves:
            on = {Cross: ("first", "second"), StepOff: ("line",)}.get(type(move), ())
            for line in (getattr(move, field) for field in on):
                found.setdefault(line, []).append(stages.drawn.place(move.name))
        for line, places in found.items():
            if line in ends:
                start, end = ends[line]
                run = (end - start) / np.linalg.norm(end - start)
                along = (np.array(places) - start) @ run
                assert along.min() > -1e-6 and along.max() < np.linalg.norm(end - start) + 1e-6
    assert len(found) > 20


def test_ages_say_what_is_new_what_stays_and_what_is_past():
    document = building_edits.reach(sample_sheet("supply crawler"), EVERYTHING)
    order = order_of(document)
    stages = Stages(order, document.sheet)
    begin = next(i for i, s in enumerate(order.steps) if s.key == "v1.shape-points.part-2")
    chapter = {m.name for s in order.steps[:begin] if s.key.startswith("v1.") for m in s.moves}
    ages = {s.name: s.age for s in stages.after(begin, PAPER).strokes}
    assert {NEW, OLD, KEPT, PAST} <= set(ages.values())
    for name, age in ages.items():
        if age in (OLD, PAST):
            assert (name in chapter) == (age == OLD)


@pytest.mark.sample(4)
@pytest.mark.parametrize(("name", "method"), crossed(SAMPLES, METHODS))
def test_the_end_is_the_finished_drawing(name, method):
    """Every light line is rubbed out once, in its family; what is left is the sheet as drawn."""
    document = building_edits.build_by(sample_sheet(name), method, True)
    order = order_of(document)
    stages = Stages(order, document.sheet)
    rubbed = [line for step in order.steps for line in step.rubs]
    light = {m.name for s in order.steps for m in s.moves if draws(m)} - stages.kept
    level = {m.name for s in order.steps if s.key == "sheet.eye-level" for m in s.moves}
    assert len(rubbed) == len(set(rubbed)) and set(rubbed) == light - level
    for step in (s for s in order.steps if s.rubs):
        counts = [int(n) for n in re.findall(r"\d+(?= (?:to|meas|help))", step.text)]
        assert sum(counts) == len(step.rubs), step.text
    axes = [axis for v in document.volumes for axis in v.axes()]
    points = [p for p in (vanishing_point(document.eye, a).sheet_mm for a in axes) if p is not None]
    for line in (line for s in order.steps if s.key == "finish.rub" for line in s.rubs):
        start, along = (v[:, 0].astype(float) for v in order.drawn.lines[line])
        ways = [np.array(p) - start for p in points]
        assert min(abs(x * along[1] - y * along[0]) for x, y in ways) < 1e-4
    last = stages.after(len(order.steps) - 1, PAPER)
    heavy = [s.ends for s in last.strokes if s.age == OBJECT and s.ends is not None]
    layers = {s.layer.name: s for s in sheet_strokes(document, scene_of(document))}
    rows = layers["object lines"].lines.tolist()
    assert {tuple(ends.ravel().tolist()) for ends in heavy} == {tuple(row) for row in rows}
    assert not {s.name for s in last.strokes} & {m.name for m in order.moves()}
    trim = stages.after(stages.trim, PAPER)
    assert {s.name for s in trim.strokes if s.age == RUB} <= stages.kept
    boxes = order_of(building_edits.reach(document, FRAMEWORK))
    gone = {line for step in boxes.steps for line in step.rubs}
    uprights = {m.name for m in boxes.moves() if isinstance(m, Upright)}
    assert not boxes.finished and not gone & uprights


@given(floats(1, 90), floats(0.05, 1), floats(-90, 90), floats(0, 360))
def test_the_cubics_of_an_ellipse_lie_on_it(long, share, tilt, turn):
    cubics = ellipse_cubics(np.array([100.0, 80.0, long, share * long, tilt]))
    assert np.allclose(cubics[:-1, 3], cubics[1:, 0]) and np.allclose(cubics[-1, 3], cubics[0, 0])
    t = (turn % 45) / 45
    weights = np.array([(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t**3])
    for place in np.einsum("j,kjd->kd", weights, cubics) - (100.0, 80.0):
        c, s = math.cos(math.radians(tilt)), math.sin(math.radians(tilt))
        u, v = c * place[0] + s * place[1], c * place[1] - s * place[0]
        assert math.hypot(u / long, v / (share * long)) == pytest.approx(1.0, abs=5e-6)


@given(st.lists(st.tuples(floats(0, 400), floats(0, 290)), min_size=2, max_size=7, unique=True))
def test_a_curve_runs_through_its_points_without_a_corner(places):
    cubics = smooth(places)
    assert np.allclose(cubics[:, 0], places[:-1]) and np.allclose(cubics[:, 3], places[1:])
    for before, after in itertools.pairwise(cubics):
        assert np.allclose(before[3] - before[2], after[1] - after[0])


@given(
    st.lists(st.tuples(floats(0, 300), floats(0, 200)), min_size=1, max_size=9, unique=True),
    floats(6, 30),
)
def test_letters_keep_off_each_other_where_there_is_room(places, width):
    places = np.array(places) * 3.0
    sizes = np.tile([width, 9.0], (len(places), 1))
    centres = label_centres(places, sizes, 6.0, np.array([-50.0, -50.0, 950.0, 650.0]))
    far = np.linalg.norm(places[:, None] - places[None], axis=2) + 1e9 * np.eye(len(places))
    for i, j in itertools.combinations(range(len(places)), 2):
        apart = np.abs(centres[i] - centres[j]) - (sizes[i] + sizes[j]) / 2
        if far[i].min() > 60 and far[j].min() > 60:
            assert apart.max() >= -1e-9
    reach = np.abs(centres - places) - sizes / 2
    assert (reach.max(axis=1) >= 0).all(), "no letter covers its own point"
    assert (reach.max(axis=1) < 6.0 * 3.6 + 1e-9).all(), "and none is far from it"


def test_letters_of_a_crowd_do_not_cover_each_other():
    places = np.array([[100.0 + 4 * i, 100.0] for i in range(5)])
    sizes = np.tile([14.0, 8.0], (5, 1))
    centres = label_centres(places, sizes, 5.0, np.array([0.0, 0.0, 300.0, 200.0]))
    for i, j in itertools.combinations(range(5), 2):
        assert (np.abs(centres[i] - centres[j]) - sizes[0]).max() >= -1e-9


def test_a_closer_look_shows_the_points_of_a_small_step_and_none_of_a_wide_one():
    document = sample_sheet("red lamp")
    order = order_of(document)
    stages = Stages(order, document.sheet)
    shown = 0
    for number in range(len(order.steps)):
        stage = stages.after(number, PAPER)
        part = stages.closer(stage, 1.6)
        curves = [s.points for s in stage.strokes if s.age == NEW and s.cubics is not None]
        made = np.concatenate([[s.place for s in stage.spots] or np.empty((0, 2)), *curves])
        on_paper = [(x, y) for x, y in made.tolist() if 1 < x < 419 and 1 < y < 296]
        if part is None:
            wide, tall = np.ptp(on_paper, axis=0) if on_paper else (999.0, 0.0)
            assert max(tall, wide / 1.6) > 0.3 * 297
            continue
        shown += 1
        assert (part[2] - part[0]) / (part[3] - part[1]) == pytest.approx(1.6)
        for x, y in on_paper:
            assert part[0] < x < part[2] and part[1] < y < part[3]
    assert shown > 15

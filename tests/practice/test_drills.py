"""Every drill: exact answers score zero, errors have their sign, exercises are fair."""

import io
import re
from dataclasses import replace

import numpy as np
import pytest
from pypdf import PdfReader

from isometron.cli import main
from isometron.construction.order import order_of
from isometron.construction.stages import Stages
from isometron.files.practice import exercises_svg
from isometron.framework.volume import Volume
from isometron.perspective.ellipses import Ellipse
from isometron.perspective.eye import Eye
from isometron.perspective.projection import project
from isometron.practice.asks import Answer, Choice
from isometron.practice.drill import HIGH_MM, WHOLE_WAY, WIDE_MM, PracticeError, drill_of, drills
from isometron.practice.drills.cube import judge_of
from isometron.practice.drills.ellipses import judge_ellipse
from isometron.practice.drills.freehand import Meant, judge_line
from isometron.practice.hand import SampleHand
from isometron.practice.paper.layout import BOTTOMS_MM, LEFT_MM, PAGE_MM
from isometron.practice.scenery import Standing, pair

SWEEP = [pytest.param(7), pytest.param(600, marks=pytest.mark.full)]


@pytest.mark.sample(12)
@pytest.mark.parametrize("count", SWEEP)
@pytest.mark.parametrize("key", list(drills()))
def test_no_exercise_is_degenerate_and_the_exact_answer_has_no_error(key, count):
    for seed in range(count):
        exercise = drill_of(key).exercise(seed, (seed % 11) / 10)
        lines = [exercise.lines, exercise.drawn, *(aid.lines for aid in exercise.aids)]
        lines.append(exercise.asks.drawn(exercise.truth))
        assert np.isfinite(np.concatenate(lines)).all() and (len(lines[0]) or exercise.photo)
        assert max(abs(miss.error) for miss in exercise.told(exercise.truth).misses) < 1e-6
        for place in exercise.truth.places:
            assert -1e-9 <= place[0] <= WIDE_MM and -1e-9 <= place[1] <= HIGH_MM
        for held, true in zip(exercise.asks.held, exercise.truth.places, strict=True):
            assert held.kept(true) == pytest.approx(true, abs=1e-9)
            assert np.hypot(*np.subtract(held.start, true)) > 0.3, "nobody is given the answer"
        if exercise.asks.held:
            assert not exercise.told(exercise.first_answer()).within
        again = drill_of(key).exercise(seed, (seed % 11) / 10)
        assert again.truth == exercise.truth and np.array_equal(again.lines, exercise.lines)


@pytest.mark.parametrize("key", list(drills()))
def test_a_hand_with_a_bias_errs_by_it_and_a_mirrored_answer_by_its_opposite(key):
    exercise = drill_of(key).exercise(7, 0.5)
    if isinstance(exercise.asks, Choice):
        wrong = Answer(choice=(exercise.truth.choice + 1) % len(exercise.asks.choices))
        assert not exercise.told(wrong).within and exercise.told(exercise.truth).within
        return
    told = [
        {m.measure: m for m in exercise.told(SampleHand(bias, 0.0).answer(exercise)).misses}
        for bias in (1.5, -1.5)
    ]
    for measure, miss in told[0].items():
        assert miss.error == pytest.approx(-told[1][measure].error, rel=0.01, abs=1e-3)
        assert miss.error == pytest.approx(1.5 * miss.hand, rel=0.1)


@pytest.mark.parametrize("key", ["cube", "cube3", "square", "ratio"])
def test_what_hangs_on_the_centre_of_vision_shows_it(key):
    """The picture of a right angle is told by the sheet only with its centre of vision."""
    for seed in range(6):
        exercise = drill_of(key).exercise(seed, 0.5)
        eye = exercise.framework.eye if exercise.framework else None
        ends = exercise.lines.reshape(-1, 2, 2)
        short = ends[np.hypot(*(ends[:, 1] - ends[:, 0]).T) < 4.1].mean(axis=1)
        crossed = [
            p for n, p in enumerate(short) if np.hypot(*(short[:n] - p).T).min(initial=9) < 1e-9
        ]
        assert len(crossed) == 1
        if eye is not None:
            assert crossed[0] == pytest.approx(eye.centre_of_vision_mm)


@pytest.mark.parametrize("turn", [20.0, 45.0, 68.0])
def test_the_far_edges_of_a_cube_are_told_by_the_length_they_say(turn):
    """A place 20 % farther along the true edge is told as 20 % long, whatever the view."""
    by = Eye(0.0, 0.0, 1500.0, 0.0, 0.0, 180.0, (100.0, 110.0))
    standing = Standing(by, Volume("Case", 500.0, 500.0, 500.0, 60.0, 1700.0, 0.0, turn))
    world = standing.world
    far = [project(by, (world[0] + 1.2 * (world[i] - world[0]))[None]).sheet[0] for i in (1, 2)]
    misses = judge_of(standing, ("right", "left"))(Answer(places=tuple(map(tuple, far))))
    assert [miss.error for miss in misses] == pytest.approx([20.0, 20.0], abs=1e-6)
    assert all("20 % long" in miss.words and "too deep" in miss.words for miss in misses)


def test_mirrored_exercises_give_mirrored_errors():
    """Everything mirrored across the sheet: lengths err alike, directions the other way."""

    def flipped(places):
        return tuple((WIDE_MM - x, y) for x, y in places)

    turn, names = 33.0, ("right", "left")
    by = Eye(0.0, 0.0, 1500.0, 0.0, 0.0, 160.0, (100.0, 100.0))
    over = replace(by, centre_of_vision_mm=(WIDE_MM - 100.0, 100.0))
    one = Standing(by, Volume("Case", 500.0, 400.0, 500.0, 60.0, 1700.0, 0.0, turn))
    two = Standing(over, Volume("Case", 400.0, 500.0, 500.0, -60.0, 1700.0, 0.0, 90.0 - turn))
    assert np.allclose(flipped(one.sheet[[1, 2]]), two.sheet[[2, 1]])
    places = [pair(one.sheet[n] + (2.0, 1.0)) for n in (1, 2)]
    told = {m.measure: m.error for m in judge_of(one, names)(Answer(places=tuple(places)))}
    back = judge_of(two, names[::-1], (2, 1))(Answer(places=flipped(places)))
    assert {m.measure: m.error for m in back} == pytest.approx(
        {"left": told["right"], "right": told["left"]}
    )
    true, own = Ellipse((60.0, 50.0), 30.0, 12.0, 25.0), Ellipse((62.0, 51.0), 33.0, 15.0, 31.0)
    ways = [
        {m.measure: m.error for m in judge_ellipse(a, b)}
        for a, b in (
            (true, own),
            tuple(e._replace(centre_mm=flipped([e.centre_mm])[0], major_axis_deg=-e.major_axis_deg)
                  for e in (true, own)),
        )
    ]  # fmt: skip
    signs = {"centre across": -1, "axis": -1}
    assert ways[1] == pytest.approx({name: signs.get(name, 1) * v for name, v in ways[0].items()})
    ends, stroke = (
        np.array([[20.0, 30.0], [120.0, 80.0]]),
        ((21.0, 30.0), (70.0, 58.0), (122.0, 80.0)),
    )
    there = judge_line(Meant(*ends), Answer(stroke=stroke))
    mirrored = judge_line(Meant(*np.array(flipped(ends))), Answer(stroke=flipped(stroke)))
    assert [m.error for m in mirrored] == pytest.approx([-m.error for m in there])


def test_answers_of_another_kind_and_seeds_out_of_range_are_refused_in_a_sentence():
    cube, line = drill_of("cube").exercise(1), drill_of("line").exercise(1)
    for asked in (
        lambda: cube.told(Answer(places=((1.0, 2.0),))),
        lambda: cube.told(Answer(places=((float("nan"), 2.0), (1.0, 1.0)))),
        lambda: line.told(Answer(stroke=((1.0, 1.0),))),
        lambda: drill_of("which").exercise(1).told(Answer(choice=9)),
        lambda: drill_of("ratio").exercise(1).told(Answer()),
        lambda: drill_of("ratio").exercise(1).told(Answer(number=0.0)),
        lambda: drill_of("degree").exercise(1).told(Answer(number=-500.0)),
        lambda: drill_of("degree").exercise(1).told(Answer(number=90.5)),
        lambda: drill_of("degree").exercise(1).told(Answer(number=float("nan"))),
        lambda: drill_of("cube").exercise(-1),
        lambda: drill_of("cube").exercise(1, 2.0),
        lambda: drill_of("juggling"),
    ):
        with pytest.raises(PracticeError):
            asked()


def test_paper_and_screen_show_the_same_exercise(tmp_path, capsys):
    out = tmp_path / "cube.svg"
    given = ["practice", "cube", "--seed", "12", "--difficulty", "0.5", "-o", str(out)]
    assert main(given) == 0
    exercise = drill_of("cube").exercise(12, 0.5)
    drawn = np.array(
        [
            [float(v) for v in re.findall(r'"(-?[0-9.]+)"', line)[-4:]]
            for line in out.read_text().splitlines()
            if "<line" in line
        ]
    )
    left, bottom = LEFT_MM, PAGE_MM[1] - BOTTOMS_MM[0]
    flipped = exercise.lines * (1, -1, 1, -1) + (left, bottom, left, bottom)
    for line in flipped:
        assert np.abs(drawn - line).max(axis=1).min() < 1e-6
    assert out.read_bytes() == exercises_svg([exercise])
    sheet, answers = tmp_path / "three.pdf", tmp_path / "answers.pdf"
    assert main(["practice", "shadow", "--count", "3", "-o", str(sheet)]) == 0
    assert main(["practice", "shadow", "--count", "3", "--answers", "-o", str(answers)]) == 0
    pages = PdfReader(io.BytesIO(sheet.read_bytes())).pages
    assert len(pages) == 2 and sheet.read_bytes() != answers.read_bytes()
    assert float(pages[0].mediabox.width) == pytest.approx(210 / 25.4 * 72, abs=1e-3)
    assert main(["practice", "--list"]) == 0
    assert set(drills()) == {line.split()[0] for line in capsys.readouterr().out.splitlines()}
    for bad in (
        ["practice"],
        ["practice", "cube"],
        [*given[:-1], "x.txt"],
        ["practice", "no", "-o", "x.pdf"],
    ):
        assert main(bad) == 2
    assert capsys.readouterr().err.count("isometron: ") == 4


@pytest.mark.parametrize("key", list(drills()))
def test_the_build_order_of_an_exercise_lands_on_its_exact_answer(key):
    for seed in range(1 + (key in ("cube", "turned"))):
        exercise = drill_of(key).exercise(seed, 0.5)
        assert (exercise.helps[-1:] == (WHOLE_WAY,)) == (exercise.framework is not None)
        if exercise.framework is None:
            continue
        order = order_of(exercise.framework)
        assert order.steps and Stages(order, exercise.framework.sheet).steps
        landed = np.array([landing.place for landing in order.landings])
        for place in exercise.truth.places if key in ("cube", "cube3", "turned") else ():
            assert np.hypot(*(landed - place).T).min() < 1e-6


def test_the_diagonal_and_the_height_of_a_division_cross_over_its_place():
    for seed in range(20):
        exercise = drill_of("divide").exercise(seed, 0.8)
        (one, two), (three, four) = exercise.aids[0].lines.reshape(2, 2, 2)
        shares = np.linalg.solve(np.stack([two - one, three - four], axis=1), three - one)
        crossed = one + shares[0] * (two - one)
        assert crossed[0] == pytest.approx(exercise.truth.places[0][0], abs=1e-9)

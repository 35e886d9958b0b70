"""Exercises on paper: photographs of answered pages say what was drawn, and ask what is unsure."""

import io
import json

import numpy as np
import pytest
from PIL import Image, ImageFilter

from isometron.cli import main
from isometron.perspective.errors import IsometronError
from isometron.practice.drill import MOST_SEED, PracticeError, drill_of, drills
from isometron.practice.hand import SampleHand
from isometron.practice.paper import sample
from isometron.practice.paper.layout import code_of, exercise_of, for_paper
from isometron.practice.paper.reading import read_page
from isometron.practice.paper.sample import photographed, strokes_for
from isometron.stand_ins.hand import Hand
from tests.scenes import some


def pen(seed, **more):
    return Hand(seed=seed, searching=0, overshoot_mm=0.3, unsteady_mm=0.15, px_per_mm=6.0, **more)


def page(key, seed):
    exercises = [drill_of(key).exercise(seed + n, 0.5) for n in (0, 1)]
    hand = SampleHand(0.0, 2.5, seed)
    return exercises, [hand.answer(exercise) for exercise in exercises]


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    "key", some(["masts", "oval", "line", "cube3", "divide", "level", "ellipse"], 3)
)
def test_a_photograph_of_an_answered_page_says_what_was_drawn(key):
    exercises, answers = page(key, 4)
    found = read_page(photographed(exercises, answers, pen(4)))
    assert [one.exercise.seed for one in found] == [one.seed for one in exercises]
    for one, answer in zip(found, answers, strict=True):
        assert one.whole
        drawn = {m.measure: m for m in one.exercise.told(answer).misses}
        for miss in one.exercise.told(one.answer).misses:
            assert abs(miss.error - drawn[miss.measure].error) < 3 * miss.hand


@pytest.mark.parametrize("long_mm", some([6.0, 4.0], 1))
def test_short_ticks_across_a_line_are_found(long_mm, monkeypatch):
    """A careful person marks a place with a tick no longer than it must be."""

    def ticks(exercise, answer):
        found = []
        for held, place in zip(exercise.asks.held, answer.places, strict=True):
            across = np.array([-held.along[1][1], held.along[1][0]]) * long_mm / 2
            found.append(np.stack([np.array(place) - across, np.array(place) + across]))
        return found

    exercises, answers = page("cube", 9)
    monkeypatch.setattr(sample, "strokes_for", ticks)
    for one, answer in zip(
        read_page(photographed(exercises, answers, pen(9))), answers, strict=True
    ):
        assert one.whole
        assert np.hypot(*(np.array(one.answer.places) - answer.places).T).max() < 0.6


@pytest.mark.parametrize("quarter", some([1, 2, 3], 1))
@pytest.mark.full
def test_a_page_may_lie_any_way_round_under_the_camera(quarter):
    exercises, answers = page("square", 8)
    picture = Image.open(io.BytesIO(photographed(exercises, answers, pen(8, slant=(-0.2, -0.3)))))
    content = io.BytesIO()
    picture.rotate(90 * quarter, expand=True).save(content, "PNG")
    for one, answer in zip(read_page(content.getvalue()), answers, strict=True):
        assert one.sure == (True,)
        assert np.hypot(*np.subtract(one.answer.places[0], answer.places[0])) < 0.6


@pytest.mark.parametrize("light", some([((0.6, 0.6, 60, 0.7),), ((1.0, 0.3, 85, 0.5),)], 1))
def test_lamplight_shade_and_a_poor_camera_are_read_through(light):
    """Warm light takes blue away, shade lies across the page, the file is small and soft."""
    warm, shade, quality, blur = light
    exercises, answers = page("divide", 6)
    picture = Image.open(io.BytesIO(photographed(exercises, answers, pen(6, slant=(0.3, -0.4)))))
    across = np.linspace(0, 1, picture.width)[None, :, None]
    lit = np.asarray(picture) * (1 - shade * across) * (1.0, 1 - 0.1 * warm, 1 - 0.35 * warm)
    content = io.BytesIO()
    soft = Image.fromarray(lit.astype(np.uint8)).filter(ImageFilter.GaussianBlur(blur))
    soft.save(content, "JPEG", quality=quality)
    for one, answer in zip(read_page(content.getvalue()), answers, strict=True):
        assert one.whole
        assert np.hypot(*np.subtract(one.answer.places[0], answer.places[0])) < 0.6


@pytest.mark.full
def test_what_is_not_drawn_or_drawn_twice_is_unsure_and_never_guessed(monkeypatch):
    exercises, answers = page("cube", 2)
    empty = photographed(exercises, [], pen(2))
    assert [one.sure for one in read_page(empty)] == [(False, False)] * 2
    other = SampleHand(-14.0, 0.0, 1).answer(exercises[0])
    assert read_page(photographed(exercises[:1], [answers[0]], pen(2)))[0].whole
    monkeypatch.setattr(
        sample,
        "strokes_for",
        lambda exercise, answer: [
            path for one in (answer, other) for path in strokes_for(exercise, one)
        ],
    )
    assert not read_page(photographed(exercises[:1], [answers[0]], pen(2)))[0].whole


def test_codes_name_every_exercise_that_can_be_printed():
    for number, key in enumerate(drills()):
        seed = (MOST_SEED, 0, 999, 1000, 123_456_789)[number % 5]
        exercise = for_paper(drill_of(key).exercise(seed, 0.3333))
        again = exercise_of(code_of(exercise))
        assert (again.drill, again.seed, again.difficulty) == (key, seed, 0.33)
        assert np.array_equal(again.lines, exercise.lines)
        spoilt = code_of(exercise)
        spoilt[3] = (spoilt[3] + 1) % 1000
        assert exercise_of(spoilt) is None


def test_pictures_that_are_no_page_are_refused_in_a_sentence():
    noise = np.random.default_rng(1).integers(0, 255, (400, 300, 3), dtype=np.uint8)
    for colours in (noise, np.full((300, 200, 3), 255, np.uint8), noise[:1, :1]):
        content = io.BytesIO()
        Image.fromarray(colours).save(content, "PNG")
        with pytest.raises(IsometronError):
            read_page(content.getvalue())
    with pytest.raises(IsometronError):
        read_page(b"no picture")
    exercises, answers = page("cube", 2)
    whole = Image.open(io.BytesIO(photographed(exercises, answers, pen(2))))
    content = io.BytesIO()
    whole.crop((0, 0, whole.width, whole.height // 2)).save(content, "PNG")
    with pytest.raises(PracticeError, match="four marks"):
        read_page(content.getvalue())


def test_the_command_writes_an_answered_page_and_reads_it_again(tmp_path, capsys):
    photo = tmp_path / "page.jpg"
    told = ["practice", "repeat", "--seed", "5", "--count", "2", "--by-hand", "8", "-o", str(photo)]
    assert main(told) == 0 and main(["practice", "--read", str(photo)]) == 0
    found = json.loads(capsys.readouterr().out)
    assert [(one["drill"], one["seed"], one["found"]) for one in found] == [
        ("repeat", 5, True),
        ("repeat", 6, True),
    ]
    for one in found:  # the hand draws eight times its own error too far, plus its unsteadiness
        miss = one["misses"][0]
        assert miss["error"] / miss["hand"] == pytest.approx(8.0, abs=4.0)
    for bad in ([*told[:-1], str(tmp_path / "x.pdf")], ["practice", "--read", str(tmp_path)]):
        assert main(bad) == 2

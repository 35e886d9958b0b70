"""What is said of a hand: by simulated persons, over years of series."""

import numpy as np
import pytest

from isometron.practice.adapting import RATE, SERIES, next_difficulty, next_drill
from isometron.practice.asks import Answer
from isometron.practice.drill import drill_of, drills
from isometron.practice.habit import MEASURES, evidence, habit_of
from isometron.practice.hand import SampleHand
from isometron.practice.pages import curves_of, wrongs_of
from isometron.practice.planning import in_words, plan_of
from isometron.practice.series import Done, Person, Series, entry_of


def test_an_interval_holds_the_bias_it_is_about_in_95_of_100_trials():
    rng = np.random.default_rng(8)
    held = 0
    for _n in range(2000):
        habit = habit_of(rng.normal(9.0, 6.0, 12).tolist())
        held += abs(habit.bias - 9.0) <= habit.within
    assert held / 2000 == pytest.approx(0.95, abs=0.015)


@pytest.mark.parametrize("noise", ["normal", "heavy", "lopsided hands"])
def test_a_hand_without_bias_is_told_of_one_in_at_most_five_of_a_hundred_persons(noise, many):
    """A year of series over fifteen measures, asked at the end of every series."""
    rng, told, persons = np.random.default_rng(3), 0, many(10, 80)
    for _n in range(persons):
        named = False
        for _measure in range(15):
            errors = rng.normal(0, 1, 400)
            if noise == "heavy":
                errors = rng.standard_t(3, 400)
            if noise == "lopsided hands":
                errors = errors * np.exp(rng.normal(0, 0.8, 400))
            named |= any(
                habit_of(errors[:n].tolist()).named for n in range(SERIES, 401, 2 * SERIES)
            )
        told += named
    assert told / persons <= 0.05


def test_a_hand_with_a_bias_is_told_of_it_with_its_size_before_long():
    person, hand = Person(), SampleHand(bias=1.2, unsteady=1.0, seed=5)
    found = []
    for number in range(6):
        series = Series(person, 1000 * number, "divide")
        while not series.over:
            exercise = series.exercise()
            series.answer(exercise, hand.answer(exercise))
        found = series.says()
        if found:
            break
    assert found and found[0].startswith("Divide an edge, place on the edge: a habit, like “")
    plan = plan_of(person)
    assert [one.why for one in plan if one.key == "divide"] == ["a habit"] and plan[
        0
    ].key == "divide"
    assert plan_of(Person())[0].why == "not tried yet" and "Divide an edge" in in_words(plan)
    habit = person.habits()["divide: place on the edge"]
    assert habit.named and abs(habit.bias) > habit.within
    assert person.weights()["divide"] > 1.5 == 1.5 * person.weights()["cube"]


def test_difficulty_settles_where_three_of_four_answers_lie_within_the_tolerance():
    rng, difficulty, within = np.random.default_rng(1), 0.9, []
    for _n in range(6000):
        good = bool(rng.random() < 1.0 - difficulty)  # a hand that is right less often the harder
        within.append(good)
        difficulty = next_difficulty(difficulty, within=good)
    assert np.mean(within[500:]) == pytest.approx(RATE, abs=0.02)
    drawn = [next_drill({"a": 1.0, "b": 3.0}, seed) for seed in range(2000)]
    assert drawn.count("b") / 2000 == pytest.approx(0.75, abs=0.03)
    assert evidence(np.zeros(5)) == 1.0 and evidence(np.ones(5)) == float("inf")
    assert drill_of("cube").exercise(1).told(drill_of("cube").exercise(1).truth).within


def test_the_bias_of_a_sample_hand_is_told_within_its_interval_in_95_of_100_trials(many):
    """The hand errs by its bias in every exercise's own measure, which changes with the view."""
    held, trials = 0, many(40, 160)
    for trial in range(trials):
        hand, person, true = SampleHand(1.5, 1.0, trial), Person(), []
        for number in range(12):
            exercise = drill_of("height").exercise(1000 * trial + number, 0.4)
            verdict = exercise.told(hand.answer(exercise))
            person.takes(exercise, verdict)
            true.append(1.5 * verdict.misses[0].hand)
        habit = person.habits()["height: height"]
        held += abs(habit.bias - np.mean(true)) <= habit.within
    assert held / trials == pytest.approx(0.95, abs=many(0.08, 0.04))


def test_a_hand_that_improves_shows_it_in_its_curve_and_errors_of_helps_say_nothing():
    entries, person = [], Person()
    for number in range(60):
        hand = SampleHand(3.0 * (1 - number / 60), 3.0 * (1 - number / 60) + 0.2, number)
        exercise = drill_of("level").exercise(number, 0.4)
        helped = "fans" if number % 3 == 0 else ""
        answer = hand.answer(exercise)
        done = Done(exercise, answer, exercise.told(answer), helped=helped)
        person.takes(exercise, done.verdict, helped)
        entries.append(entry_of(done, person))
    (curve,) = curves_of(entries)
    assert len(curve.errors) == 40 == len(person.errors["level: eye level"])
    assert curve.spreads[-1] < 0.4 * curve.spreads[12] and curve.means[-1] < 0.4 * curve.means[12]


def test_what_goes_wrong_and_every_measure_of_the_drills_is_counted():
    measures = set()
    for key in drills():
        exercise = drill_of(key).exercise(3, 0.5)
        for miss in exercise.told(exercise.truth).misses:
            measures |= {(key, miss.measure)} if miss.unit else set()
    assert 40 < len(measures) <= MEASURES, "the bound is shared out over all of them"
    person, entries = Person(), []
    for number in range(20):
        exercise = drill_of("which").exercise(number, 0.4)
        answer = Answer(choice=(exercise.truth.choice + (number % 4 == 0)) % 3)
        done = Done(exercise, answer, exercise.told(answer))
        person.takes(exercise, done.verdict)
        entries.append(entry_of(done, person))
    assert wrongs_of(entries) == ["Which point: wrong 5 times of 20."]

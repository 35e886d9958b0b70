"""A series of exercises: what comes next, what is kept, what is said at its end."""

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from isometron.practice.adapting import (
    FIRST,
    SERIES,
    next_difficulty,
    next_drill,
    weight_of,
)
from isometron.practice.asks import Answer
from isometron.practice.drill import Exercise, Miss, Verdict, counted_in, drill_of, drills, miss_of
from isometron.practice.habit import Habit, habit_of
from isometron.practice.kept import LARGEST
from isometron.practice.log import Entry, now
from isometron.practice.paper.layout import for_paper
from isometron.words import _, many


@dataclass
class Person:
    """What is known of a person from the drills so far: the difficulty of each, and the errors of
    every measure in their order with what a practised hand makes of itself."""

    difficulty: dict[str, float] = field(default_factory=dict)
    errors: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))
    hands: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))
    named: set[str] = field(default_factory=set)
    wrong: dict[str, list[bool]] = field(default_factory=lambda: defaultdict(list))
    """Of every drill, whether each answer so far lay beyond a practised hand, or was wrong."""

    def takes(self, exercise: Exercise, verdict: Verdict, helped: str = "") -> None:
        """Learn from an answer. One with a help never makes it harder, and says nothing of a
        habit."""
        key = exercise.drill
        before = self.difficulty.get(key, FIRST)
        if not (helped and verdict.within):
            self.difficulty[key] = next_difficulty(before, within=verdict.within)
        else:
            self.difficulty[key] = before
        if not helped:
            self.wrong[key].append(not verdict.within)
        for miss in verdict.misses:
            if miss.unit and not helped:
                self.errors[f"{key}: {miss.measure}"].append(miss.error)
                self.hands[f"{key}: {miss.measure}"].append(miss.hand)

    def habits(self) -> dict[str, Habit]:
        """What every measure says."""
        told = {
            name: habit_of(errors, hands=self.hands[name]) for name, errors in self.errors.items()
        }
        return {name: habit for name, habit in told.items() if habit is not None}

    def weights(self) -> dict[str, float]:
        """How often each drill is drawn: oftener where the person is biased."""
        found = dict.fromkeys(drills(), 1.0)
        for name, habit in self.habits().items():
            key = name.split(":")[0]
            if name in self.named and key in found:
                found[key] = max(found[key], weight_of(habit.bias, habit.spread))
        return found


def person_of(entries: list[Entry]) -> Person:
    """What a log says of a person."""
    person = Person()
    for entry in entries:
        if entry.kind != "drill":
            continue
        misses = entry.kept.get("misses", [])
        if misses and not entry.kept.get("helped"):
            verdict = Verdict(tuple(map(miss_of, misses)))
            person.wrong[entry.about].append(not verdict.within)
        for miss in misses:
            name = f"{entry.about}: {miss['measure']}"
            if miss["unit"] and not entry.kept.get("helped"):
                person.errors[name].append(float(miss["error"]))
                person.hands[name].append(float(miss["hand"]))
        person.difficulty[entry.about] = float(entry.kept.get("next", FIRST))
    person.named = {name for name, habit in person.habits().items() if habit.named}
    return person


class Done(NamedTuple):
    """An exercise that has been answered: in so many seconds, with which help ("" for none)."""

    exercise: Exercise
    answer: Answer
    verdict: Verdict
    seconds: float = 0.0
    helped: str = ""


class Series:
    """Ten exercises, of one drill or of those the person needs most; or those that are given."""

    def __init__(
        self,
        person: Person,
        seed: int,
        key: str | None = None,
        given: Sequence[Exercise] = (),
    ) -> None:
        self.person, self.seed, self.key, self.given = person, seed, key, tuple(given)
        self.done: list[Done] = []
        self.skipped = 0

    @property
    def length(self) -> int:
        """How many exercises there are."""
        return len(self.given) or SERIES

    @property
    def number(self) -> int:
        """How many exercises have been answered or skipped."""
        return len(self.done) + self.skipped

    @property
    def stage(self) -> int:
        """How far it has come, of `length`: what is skipped counts where no other one comes."""
        return self.number if self.given else len(self.done)

    @property
    def over(self) -> bool:
        """Whether all have been answered: of those that are given, or skipped; else another one
        comes for each that is skipped."""
        return self.stage >= self.length

    def skip(self) -> None:
        """Leave an exercise unanswered: nothing is learned from it, nothing kept."""
        self.skipped += 1

    def exercise(self) -> Exercise:
        """The next exercise."""
        if self.given:
            return self.given[self.number]
        seed = self.seed + 1009 * self.number
        key = self.key or next_drill(self.person.weights(), seed)
        return drill_of(key).exercise(seed, self.person.difficulty.get(key, FIRST))

    def ahead(self, count: int) -> list[Exercise]:
        """The next so many exercises, as paper can say them; none of them counts as answered."""
        coming = Series(self.person, self.seed, self.key)
        found = []
        for _n in range(count):
            exercise = for_paper(coming.exercise())
            coming.done.append(Done(exercise, exercise.truth, Verdict(())))
            found.append(exercise)
        return found

    def answer(
        self, exercise: Exercise, answer: Answer, *, seconds: float = 0.0, helped: str = ""
    ) -> Done:
        """Judge an answer and learn from it. Raises PracticeError."""
        done = Done(exercise, answer, exercise.told(answer), seconds, helped)
        self.person.takes(exercise, done.verdict, helped)
        self.done.append(done)
        return done

    def summary(self) -> list[str]:
        """The series in sentences: how many lay within a practised hand, which lay farthest off,
        and what it says of the person."""
        within = sum(done.verdict.within for done in self.done)
        told = [
            many(
                "{within} of {n} answer within what a practised hand and eye make of themselves.",
                "{within} of {n} answers within what a practised hand and eye make of themselves.",
                len(self.done),
            ).format(within=within, n=len(self.done))
        ]
        if self.skipped:
            told[0] += " " + _("{n} skipped.").format(n=self.skipped)
        if within < len(self.done):
            off = [(done, miss) for done in self.done for miss in done.verdict.misses]
            done, miss = max(off, key=lambda one: one[1].hands)
            told.append(
                _("Farthest off: {drill}, “{words}”.").format(
                    drill=drills()[done.exercise.drill].title, words=miss.words or miss.measure
                )
            )
        return [*told, *(self.says() or [_("Nothing in your answers speaks of a habit yet.")])]

    def says(self) -> list[str]:
        """Habits that the test allows to name at the end of the series."""
        told = self.person.habits()
        self.person.named |= {name for name, habit in told.items() if habit.named}
        own: dict[str, list[Miss]] = {}
        for done in self.done:
            for miss in done.verdict.misses:
                own.setdefault(f"{done.exercise.drill}: {miss.measure}", []).append(miss)
        return [
            _habit_in_words(name, told[name], own[name])
            for name in sorted(self.person.named)
            if name in own
        ]


def _habit_in_words(name: str, habit: Habit, own: Sequence[Miss]) -> str:
    """A habit in a sentence, with the words of the answer of this series that is most like it,
    where one is."""
    key, measure = name.split(": ", 1)
    near = min(own, key=lambda miss: (not miss.words, abs(miss.error - habit.bias)))
    told = _("{bias}{unit} ± {within} on the average of {count}").format(
        bias=f"{habit.bias:+.1f}",
        unit=counted_in(near.unit),
        within=f"{habit.within:.1f}",
        count=habit.answers,
    )
    title = drills()[key].title
    if abs(near.error - habit.bias) > habit.spread or not near.words:
        words = _("{drill}, {measure}: a habit: {told}.")
        return words.format(drill=title, measure=measure, told=told)
    return _("{drill}, {measure}: a habit, like “{like}”: {told}.").format(
        drill=title, measure=measure, like=near.words.removeprefix(f"{measure}: "), told=told
    )


def entry_of(done: Done, person: Person) -> Entry:
    """An answered exercise as an entry of the log."""
    exercise, answer = done.exercise, done.answer
    kept = {
        "seed": exercise.seed,
        "difficulty": exercise.difficulty,
        "next": person.difficulty[exercise.drill],
        "answer": {
            "places": [list(place) for place in answer.places],
            "choice": answer.choice,
            "number": answer.number,
            "stroke": [list(place) for place in answer.stroke],
        },
        "misses": [miss._asdict() for miss in done.verdict.misses],
        "seconds": round(done.seconds, 1),
        "helped": done.helped,
    }
    return Entry(now(), "drill", exercise.drill, kept)


def again(entry: Entry) -> tuple[Exercise, Answer] | None:
    """The exercise of an entry with the answer given; None for one that is no drill, or of which
    too little was kept. Raises PracticeError for a drill that is no more."""
    kept = entry.kept
    if entry.kind != "drill" or not {"seed", "difficulty", "answer"} <= kept.keys():
        return None
    told, difficulty = kept["answer"], float(kept["difficulty"])
    places = [float(v) for place in (*told["places"], *told["stroke"]) for v in place]
    if not all(math.isfinite(v) and abs(v) <= LARGEST for v in places) or not 0 <= difficulty <= 1:
        return None
    exercise = drill_of(entry.about).exercise(int(kept["seed"]), difficulty)
    answer = Answer(
        tuple((float(x), float(y)) for x, y in told["places"]),
        told["choice"],
        told["number"],
        tuple((float(x), float(y)) for x, y in told["stroke"]),
    )
    return exercise, answer

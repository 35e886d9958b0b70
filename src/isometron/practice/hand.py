"""A simulated person who answers exercises with a chosen bias and unsteadiness."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from isometron.nearness import NEAR
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.asks import Answer, Choice, Number, Stroke
from isometron.practice.drill import Exercise

PROBE_MM, ROUNDS = 0.02, 6


@dataclass
class SampleHand:
    """Answers so that the errors of every measure are `bias` times what a practised hand makes of
    itself, plus noise of `unsteady` times that; seeded."""

    bias: float = 0.0
    unsteady: float = 1.0
    seed: int = 0

    def __post_init__(self) -> None:
        self._rng = np.random.default_rng(self.seed)

    def answer(self, exercise: Exercise) -> Answer:
        """An answer to an exercise."""
        truth = exercise.truth
        asks = exercise.asks
        if isinstance(asks, Choice):
            wrong = self._rng.random() < 0.1 * self.unsteady
            count = len(asks.choices)
            shift = int(self._rng.integers(1, count)) if wrong and count > 1 else 0
            return Answer(choice=((truth.choice or 0) + shift) % count)
        if isinstance(asks, Number):
            number = truth.number or 0.0
            off = self._wanted(exercise)[0]
            own = number * (1 + off / 100) if not asks.unit else number + off
            return Answer(number=float(np.clip(own, asks.least, asks.most)))
        return self._solved(exercise, _strokes if isinstance(asks, Stroke) else _places)

    def _wanted(self, exercise: Exercise) -> Array:
        """The error of every measure, by its name."""
        exact = sorted(exercise.told(exercise.truth).misses)
        noise = self._rng.normal(size=len(exact))
        return np.array([miss.hand for miss in exact]) * (self.bias + self.unsteady * noise)

    def _solved(
        self, exercise: Exercise, ways: Callable[[Exercise], tuple[int, Callable[[Array], Answer]]]
    ) -> Answer:
        """The least change of the exact answer that errs as wanted (Gauss–Newton)."""
        count, answer = ways(exercise)

        def errors(by: Array) -> Array:
            return np.array([miss.error for miss in sorted(exercise.told(answer(by)).misses)])

        wanted, by = self._wanted(exercise), np.zeros(count)
        for _round in range(ROUNDS):
            now = errors(by)
            slopes = np.stack(
                [(errors(by + PROBE_MM * step) - now) / PROBE_MM for step in np.eye(count)], axis=1
            )
            by = by + np.linalg.lstsq(slopes, wanted - now, rcond=NEAR)[0]
        return answer(by)


def _places(exercise: Exercise) -> tuple[int, Callable[[Array], Answer]]:
    """How the held points move: along their lines, or anywhere."""
    held = exercise.asks.held
    ways = [np.eye(2) if one.along is None else np.array([one.along[1]]) for one in held]
    cuts = np.cumsum([len(way) for way in ways])

    def answer(by: Array) -> Answer:
        parts = zip(exercise.truth.places, np.split(by, cuts[:-1]), ways, strict=True)
        return Answer(places=tuple(_point(np.array(at) + part @ way) for at, part, way in parts))

    return int(cuts[-1]), answer


def _strokes(exercise: Exercise) -> tuple[int, Callable[[Array], Answer]]:
    """How a stroke is deformed: its half size stretched and sheared by mm, moved, bowed."""
    true = np.array(exercise.truth.stroke)
    if len(true) == 2:
        true = true[0] + np.linspace(0.0, 1.0, 25)[:, None] * (true[1] - true[0])
    middle = true.mean(axis=0)
    own = (true - middle) / np.abs(true - middle).max()
    share = np.linspace(0.0, 1.0, len(true))
    run = true[-1] - true[0]
    across = np.array([-run[1], run[0]]) / max(float(np.hypot(*run)), 1e-9)

    def answer(by: Array) -> Answer:
        bow = 4 * share * (1 - share) * by[6]
        moved = true + own @ by[:4].reshape(2, 2).T + by[4:6] + bow[:, None] * across
        return Answer(stroke=tuple(_point(place) for place in moved))

    return 7, answer


def _point(place: Array) -> Place:
    return float(place[0]), float(place[1])

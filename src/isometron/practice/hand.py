"""A simulated person who answers exercises with a chosen bias and unsteadiness."""

from dataclasses import dataclass, replace

import numpy as np

from isometron.practice.drill import Answer, Exercise, Point


@dataclass
class SampleHand:
    """Answers so that the errors of every measure are `bias` times what a steady hand makes of
    itself, plus noise of `unsteady` times that; seeded."""

    bias: float = 0.0
    unsteady: float = 1.0
    seed: int = 0

    def __post_init__(self) -> None:
        self._rng = np.random.default_rng(self.seed)

    def answer(self, exercise: Exercise) -> Answer:
        """An answer to an exercise."""
        truth = exercise.truth
        if exercise.choices:
            wrong = self._rng.random() < 0.1 * self.unsteady
            count = len(exercise.choices)
            shift = int(self._rng.integers(1, count)) if wrong and count > 1 else 0
            return Answer(choice=((truth.choice or 0) + shift) % count)
        if exercise.asks_number:
            number = truth.number or 0.0
            hand = exercise.told(truth).misses[0].hand
            off = (self.bias + self.unsteady * self._rng.normal()) * hand
            return Answer(number=number * (1 + off / 100) if not exercise.unit else number + off)
        if exercise.asks_stroke:
            return Answer(stroke=self._stroke(truth.stroke))
        return replace(truth, places=self._places(exercise))

    def _places(self, exercise: Exercise) -> tuple[Point, ...]:
        """Every held point moved until its own error is as wanted."""
        places = list(exercise.truth.places)
        exact = {miss.measure: miss for miss in exercise.told(exercise.truth).misses}
        for n, held in enumerate(exercise.held):
            way = np.array(held.along[1] if held.along else _toward(exercise, n))
            measure = next((name for name in exact if held.what in name), next(iter(exact)))
            wanted = (self.bias + self.unsteady * self._rng.normal()) * exact[measure].hand
            step = 0.02
            probe = list(exercise.truth.places)
            probe[n] = tuple(np.array(probe[n]) + step * way)
            told = {m.measure: m.error for m in exercise.told(Answer(places=tuple(probe))).misses}
            slope = (told[measure] - exact[measure].error) / step
            mm = wanted / slope if abs(slope) > 1e-9 else 0.0
            x, y = (np.array(places[n]) + mm * way).tolist()
            places[n] = (x, y)
        return tuple(places)

    def _stroke(self, ends: tuple[Point, ...]) -> tuple[Point, ...]:
        start, end = np.array(ends[0]), np.array(ends[1])
        long = float(np.hypot(*(end - start)))
        across = np.array([start[1] - end[1], end[0] - start[0]]) / max(long, 1e-9)
        bow = 0.4 * (self.bias + self.unsteady * self._rng.normal())
        miss = np.radians(0.3) * long * (self.bias + self.unsteady * self._rng.normal())
        t = np.linspace(0, 1, 25)[:, None]
        places = start + t * (end - start) + (4 * t * (1 - t) * bow + t * miss) * across
        return tuple((float(x), float(y)) for x, y in places)


def _toward(exercise: Exercise, number: int) -> tuple[float, float]:
    """A direction in which a free point is wrong: away from where it first stands."""
    start, true = np.array(exercise.held[number].start), np.array(exercise.truth.places[number])
    way = true - start
    x, y = (way / max(float(np.hypot(*way)), 1e-9)).tolist()
    return x, y

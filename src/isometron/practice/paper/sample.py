"""The sample hand answers a printed page, and it is photographed."""

from collections.abc import Sequence

import numpy as np

from isometron.pages.raster import raster_of
from isometron.perspective.eye import Array
from isometron.practice.asks import Answer, Stroke
from isometron.practice.drill import Exercise
from isometron.practice.paper.layout import BOTTOMS_MM, LEFT_MM, pages_of
from isometron.stand_ins.hand import Hand, draw_over, taken

CURVE = 8
"""More lines than so are chords of a curve."""


def photographed(exercises: Sequence[Exercise], answers: Sequence[Answer], hand: Hand) -> bytes:
    """A photograph of one printed page on which a hand has drawn answers."""
    rng = np.random.default_rng(hand.seed)
    page = raster_of(pages_of(exercises)[0], hand.px_per_mm).astype(float)
    grey = np.ones(page.shape[:2], dtype=np.float32)
    for exercise, answer, bottom in zip(exercises, answers, BOTTOMS_MM, strict=False):
        for path in strokes_for(exercise, answer):
            draw_over(grey, path + np.array([LEFT_MM, bottom]), hand, rng)
    return taken(page * np.clip(grey, 0, 1)[..., None], hand, rng)


def strokes_for(exercise: Exercise, answer: Answer) -> list[Array]:
    """The paths (n, 2), sheet mm, that a hand draws to answer: the lines that the answer traces, a
    tick where it traces none."""
    if isinstance(exercise.asks, Stroke):
        return [np.array(answer.stroke)]
    lines = exercise.asks.drawn(answer)
    paths = [np.stack([line[:2], line[2:]]) for line in lines]
    if len(lines) > CURVE:
        paths = [np.concatenate([lines[:, :2], lines[-1:, 2:]])]
    for held, place in zip(exercise.asks.held, answer.places, strict=True):
        touched = any(
            _off(path, np.array(place)) < 0.5 and np.hypot(*(path[-1] - path[0])) > 3
            for path in paths
        )
        if held.along is not None and not touched:
            across = np.array([-held.along[1][1], held.along[1][0]]) * 5.0
            paths.append(np.stack([np.array(place) - across, np.array(place) + across]))
    return paths


def _off(path: Array, place: Array) -> float:
    """How far a place lies off a straight path, mm."""
    run = path[-1] - path[0]
    share = float(np.clip((place - path[0]) @ run / max(float(run @ run), 1e-9), 0, 1))
    return float(np.hypot(*(path[0] + share * run - place)))

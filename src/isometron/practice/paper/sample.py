"""The sample hand answers a printed page, and it is photographed."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from isometron.perspective.eye import Array
from isometron.practice.drill import Answer, Exercise
from isometron.practice.paper.layout import BOTTOMS_MM, LEFT_MM, PAGE_MM, Page, pages_of
from isometron.stand_ins.hand import Hand, draw_over, taken

FINER = 4
CURVE = 8
"""More lines than so are chords of a curve."""


def photographed(exercises: Sequence[Exercise], answers: Sequence[Answer], hand: Hand) -> bytes:
    """A photograph of one printed page on which a hand has drawn answers."""
    rng = np.random.default_rng(hand.seed)
    page = _printed(pages_of(exercises)[0], hand.px_per_mm)
    grey = np.ones(page.shape[:2], dtype=np.float32)
    for exercise, answer, bottom in zip(exercises, answers, BOTTOMS_MM, strict=False):
        for path in strokes_for(exercise, answer):
            draw_over(grey, path + np.array([LEFT_MM, bottom]), hand, rng)
    return taken(page * np.clip(grey, 0, 1)[..., None], hand, rng)


def strokes_for(exercise: Exercise, answer: Answer) -> list[Array]:
    """The paths (n, 2), sheet mm, that a hand draws to answer: the lines that the answer traces, a
    tick where it traces none."""
    if exercise.asks_stroke:
        return [np.array(answer.stroke)]
    lines = exercise.traced(answer.places) if answer.places else np.empty((0, 4))
    paths = [np.stack([line[:2], line[2:]]) for line in lines]
    if len(lines) > CURVE:
        paths = [np.concatenate([lines[:, :2], lines[-1:, 2:]])]
    for held, place in zip(exercise.held, answer.places, strict=True):
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


def _printed(page: Page, px_per_mm: float) -> NDArray[np.float64]:
    """A page as a printer lays it on paper (rows, columns, 3); words are left out."""
    import cv2

    wide, high = (round(side * px_per_mm) for side in PAGE_MM)
    fine = np.full((high * FINER, wide * FINER, 3), (246, 244, 238), dtype=np.uint8)
    scale = px_per_mm * FINER

    def pixel(x: float, y: float) -> tuple[int, int]:
        return round(x * scale - 0.5), round((PAGE_MM[1] - y) * scale - 0.5)

    for ink in page.inks:
        colour = tuple(int(ink.colour[n : n + 2], 16) for n in (1, 3, 5))
        for x0, y0, x1, y1 in ink.lines.tolist():
            cv2.line(
                fine, pixel(x0, y0), pixel(x1, y1), colour, max(round(ink.width_mm * scale), 1)
            )
    for x, y, across, up in page.cells.tolist():
        (left, bottom), (right, top) = pixel(x, y), pixel(x + across, y + up)
        fine[top + 1 : bottom + 1, left + 1 : right + 1] = 20
    small = cv2.resize(fine, (wide, high), interpolation=cv2.INTER_AREA)
    return np.asarray(small, dtype=float)

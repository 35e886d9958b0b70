"""The eye level of a drawing, and an eye that is lowered."""

from dataclasses import replace
from typing import Any

import numpy as np

from isometron.perspective.eye import Array
from isometron.perspective.projection import project
from isometron.perspective.vanishing import vanishing_point
from isometron.practice.asks import Answer, Held, Places
from isometron.practice.drill import HIGH_MM, WIDE_MM, Aid, Exercise, Miss, drill, worst_first
from isometron.practice.scenery import (
    EYE_MM,
    HAND_MM,
    box_of,
    crosses,
    exact_or,
    eye_of,
    fans,
    level_line,
    on_sheet,
    pair,
    practised,
)
from isometron.words import _

LEVEL_MM = 1.5
"""How near a practised eye tells an eye level."""


def level_exercise(
    task: str, lines: Array, level: float, start: float, drawn: Array, aid: Aid
) -> Exercise:
    """The exercise of sliding a mark at the right to the eye level."""
    x = WIDE_MM - 14.0

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = answer.places[0][1] - level
        words = exact_or(error, too_high(error))
        return (Miss(_("eye level"), error, "mm", LEVEL_MM, words),)

    return Exercise(
        task, lines, Answer(places=((x, level),)), judge, drawn,
        asks=Places(
            (Held(_("eye level"), (x, start), ((x, 0.0), (0.0, 1.0))),),
            lambda places: np.array([[0.0, places[0][1], WIDE_MM, places[0][1]]])),
        aids=(aid,),
    )  # fmt: skip


def too_high(error_mm: float) -> str:
    """By how much something lies too high or too low."""
    way = _("high") if error_mm > 0 else _("low")
    return _("{mm} mm too {way}").format(mm=f"{abs(error_mm):.1f}", way=way)


@drill("level", _("Find the eye level"), _("Find the eye level of a drawing without one."))
def level(rng: Any, difficulty: float) -> Exercise | None:
    """The eye level by the lines of a box."""
    eye = eye_of(rng, 0.4 + 0.6 * difficulty, high=(0.5, 1.8))
    standing = box_of(rng, eye, (600.0, 500.0, float(rng.uniform(250.0, 800.0))))
    if not standing.fair:
        return None
    return level_exercise(
        _("Set the eye level of this drawing: slide the mark at the right."),
        standing.edges(), eye.centre_of_vision_mm[1], float(rng.uniform(0.3, 0.55)) * HIGH_MM,
        level_line(eye), Aid(_("fans"), fans(standing)),
    )  # fmt: skip


@drill("lower", _("Lower the eye"), _("Place near edge and points anew when the eye goes down."))
def lower(rng: Any, difficulty: float) -> Exercise | None:
    """The eye sinks, and its level is drawn lower on the sheet: foot and top of the near edge, and
    both points, anew."""
    eye = replace(eye_of(rng, 0.0, high=(1.3, 2.2)), station_distance_mm=float(rng.uniform(62, 74)))
    standing = box_of(rng, eye, (500.0, 500.0, float(rng.uniform(300.0, 600.0))),
                      float(rng.uniform(40.0 - 6 * difficulty, 50.0 + 6 * difficulty)))  # fmt: skip
    down, sunk = float(rng.uniform(0.3, 0.7)), float(rng.uniform(14.0, 34.0))
    x, y = eye.centre_of_vision_mm
    lowered = replace(eye, height_mm=down * eye.height_mm, centre_of_vision_mm=(x, y - sunk))
    ends = project(lowered, standing.world[[0, 4]]).sheet
    points = [vanishing_point(lowered, standing.way(n)).sheet_mm for n in (2, 1)]
    before = [vanishing_point(eye, standing.way(n)).sheet_mm for n in (2, 1)]
    if not standing.fair or any(one is None for one in (*points, *before)):
        return None
    true = np.array([*ends, *points])
    if not on_sheet(true, 3.0):
        return None
    lines: list[tuple[float, float]] = [(0.0, 1.0), (0.0, 1.0), (1.0, 0.0), (1.0, 0.0)]
    names = (_("foot"), _("top"), _("left point"), _("right point"))
    starts = [
        *standing.sheet[[0, 4]],
        *(
            place + (place - true[2:].mean(axis=0)) * float(rng.uniform(-0.3, -0.15))
            for place in true[2:]
        ),
    ]
    if np.hypot(*(np.array(starts) - true).T).min() < 1.5:
        return None
    held = tuple(
        Held(name, pair(at), (pair(on * (1.0 - np.array(way))), way))
        for name, at, on, way in zip(names, starts, true, lines, strict=True)
    )

    def judge(answer: Answer) -> tuple[Miss, ...]:
        misses = []
        for place, at, name, way in zip(answer.places, true, names, lines, strict=True):
            error = float((np.array(place) - at) @ way)
            side = _("far right") if error > 0 else _("far left")
            told = _("{mm} mm too {way}").format(mm=f"{abs(error):.1f}", way=side)
            told = too_high(error) if way[1] else told
            hand = practised(HAND_MM, EYE_MM)
            misses.append(Miss(name, error, "mm", hand, f"{name}: {exact_or(error, told)}"))
        return worst_first(misses)

    new = level_line(lowered)
    doubled = np.concatenate([new, new + np.array([0.0, 0.8, 0.0, 0.8])])
    given = [level_line(eye), doubled, standing.edges(), crosses(np.array(before))]
    return Exercise(
        _("The eye sinks to {percent} % of its height; its new level is doubled. Place foot, top "
          "and both points anew.").format(percent=round(100 * down)),
        np.concatenate(given), Answer(places=tuple(pair(place) for place in true)), judge,
        np.concatenate([ends.reshape(1, 4), _fans_to(ends, true[2:])]), asks=Places(
            held,
            lambda places: np.array([[*places[0], *places[1]]])),
        aids=(Aid(_("points carried down"), _down(np.array(before), sunk)),),
    )  # fmt: skip


def _fans_to(ends: Array, points: Array) -> Array:
    """(4, 4) from both ends of an edge to both points."""
    return np.array([[*end, *point] for end in ends for point in points])


def _down(points: Array, by: float) -> Array:
    """(n, 4) from places straight down."""
    return np.concatenate([points, points - (0.0, by)], axis=1)

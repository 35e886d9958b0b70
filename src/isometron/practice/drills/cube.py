"""Close the cube from its near edge and fans; also turned anew beside another."""

from collections.abc import Callable
from typing import Any

import numpy as np

from isometron.perspective.eye import Array
from isometron.practice.drill import Answer, Exercise, Held, Miss, drill
from isometron.practice.scenery import (
    HAND_MM,
    Standing,
    along_ground,
    box_of,
    exact_or,
    eye_of,
    fans,
    level_line,
    line_on,
    pair,
    slope_mm,
)
from isometron.words import _

SIDE_MM = 500.0


def close_box(standing: Standing, task: str, given: Array, helps: Array | None = None) -> Exercise:
    """The exercise of closing a box whose near edge stands."""
    drawn = standing.sheet
    held, truth = [], []
    names = (_("right far edge"), _("left far edge"))
    for corner, name in zip((1, 2), names, strict=True):
        way = (drawn[corner] - drawn[0]) / np.hypot(*(drawn[corner] - drawn[0]))
        start = drawn[0] + 0.35 * (drawn[corner] - drawn[0])
        line = (pair(drawn[0]), pair(way))
        held.append(Held(name, pair(start), line, through=(0.0, 1.0)))
        truth.append(pair(drawn[corner]))
    return Exercise(
        "", 0, 0.0, task, given, Answer(places=tuple(truth)), judge_of(standing, names),
        standing.edges(), held=tuple(held), helps=np.empty((0, 4)) if helps is None else helps,
    )  # fmt: skip


def judge_of(standing: Standing, names: tuple[str, str]) -> Callable[[Answer], tuple[Miss, ...]]:
    """Judges two far edges by the true lengths that they say."""

    def judge(answer: Answer) -> tuple[Miss, ...]:
        world, eye = standing.world, standing.eye
        misses = []
        for place, corner, name in zip(answer.places, (1, 2), names, strict=True):
            true = float(np.linalg.norm(world[corner] - world[0]))
            way = (world[corner] - world[0]) / true
            long = along_ground(eye, world[0], way, place)
            error = 100.0 * (long / true - 1.0)
            drawn = standing.sheet[corner]
            off = float(np.hypot(*(np.array(place) - drawn)))
            deep = _("too deep") if error > 0 else _("not deep enough")
            sense = _("long") if error > 0 else _("short")
            told = _("{mm} mm {deep}, {percent} % {sense}").format(
                mm=f"{off:.1f}", deep=deep, percent=f"{abs(error):.0f}", sense=sense
            )
            words = f"{name}: {exact_or(off, told)}"
            hand = HAND_MM / max(slope_mm(eye, world[0], way, true), 1e-6)
            misses.append(Miss(name, error, "%", hand, words))
        return tuple(sorted(misses, key=lambda miss: -abs(miss.error)))

    return judge


@drill("cube", _("Close the cube"), _("Place the far edges of a cube: how long it reads."))
def cube(rng: Any, difficulty: float) -> Exercise | None:
    """A cube from its near edge and fans."""
    eye = eye_of(rng, difficulty)
    turn = float(rng.uniform(45.0 - 27.0 * difficulty, 45.0 + 27.0 * difficulty))
    standing = box_of(rng, eye, (SIDE_MM,) * 3, turn)
    if not standing.fair:
        return None
    given = np.concatenate([level_line(eye), fans(standing), standing.edges(8)])
    across = line_on(standing.sheet[0], standing.sheet[3])  # to the 45° point
    return close_box(standing, _("Close the cube: place its two far edges."), given, across)


@drill("turned", _("The same cube turned"), _("A cube beside one, turned to another angle."))
def turned(rng: Any, difficulty: float) -> Exercise | None:
    """A second cube beside a first one, turned."""
    eye = eye_of(rng, difficulty)
    sides = [(-0.36, -0.14), (0.14, 0.36)]
    rng.shuffle(sides)
    first, other = (
        box_of(rng, eye, (SIDE_MM,) * 3, float(rng.uniform(20.0, 70.0)), (side[0], side[1]))
        for side in sides
    )
    if not (first.fair and other.fair) or abs(first.box.yaw_deg - other.box.yaw_deg) < 12.0:
        return None
    a, b = first.sheet, other.sheet
    apart = a[:, 0].max() + 4.0 < b[:, 0].min() or b[:, 0].max() + 4.0 < a[:, 0].min()
    if not apart:
        return None
    given = np.concatenate([level_line(eye), first.edges(), fans(other), other.edges(8)])
    return close_box(other, _("The same cube, turned: place its two far edges."), given)

"""Close the cube from its near edge and fans: in two points and three, flat on the ground, and
turned anew beside another."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import on_level, project
from isometron.practice.asks import Answer, Held, Places
from isometron.practice.drill import Aid, Exercise, Miss, drill, worst_first
from isometron.practice.scenery import (
    Standing,
    aids_of,
    along_ground,
    box_of,
    centre,
    exact_or,
    eye_of,
    fans,
    length_hand,
    level_line,
    line_on,
    measured,
    on_sheet,
    pair,
    percent,
)
from isometron.words import _

SIDE_MM = 500.0
FAR_EDGES = (_("right far edge"), _("left far edge"))
UP = np.array([0.0, 0.0, 1.0])


def close_box(standing: Standing, task: str, given: Array, aids: tuple[Aid, ...]) -> Exercise:
    """The exercise of closing a box whose near edge stands."""
    return Exercise(
        task,
        given,
        Answer(places=(pair(standing.sheet[1]), pair(standing.sheet[2]))),
        judge_of(standing, FAR_EDGES),
        standing.edges(),
        asks=Places(
            tuple(held_on(standing, *which) for which in zip((1, 2), FAR_EDGES, strict=True)),
            lambda places: np.concatenate([upright_at(standing, place) for place in places]),
        ),
        aids=aids,
        framework=standing.document,
    )


def held_on(standing: Standing, corner: int, name: str) -> Held:
    """A point on the fan to a corner, at first too near."""
    drawn = standing.sheet
    start = drawn[0] + 0.35 * (drawn[corner] - drawn[0])
    return Held(name, pair(start), (pair(drawn[0]), pair(standing.run(corner))))


def upright_at(standing: Standing, place: Place) -> Array:
    """(1, 4) an edge as high as the box on a place of the ground; none beyond the eye level."""
    foot = on_level(standing.eye, place, 0.0)
    if foot is None:
        return np.empty((0, 4))
    drawn = project(standing.eye, np.stack([foot, foot + standing.box.height_mm * UP])).sheet
    return np.asarray(drawn.reshape(1, 4)) if np.isfinite(drawn).all() else np.empty((0, 4))


def judge_of(
    standing: Standing, names: Sequence[str], corners: Sequence[int] = (1, 2)
) -> Callable[[Answer], tuple[Miss, ...]]:
    """Judges far edges by the true lengths that they say."""

    def judge(answer: Answer) -> tuple[Miss, ...]:
        world, eye = standing.world, standing.eye
        misses = []
        for place, corner, name in zip(answer.places, corners, names, strict=True):
            true, way = float(np.linalg.norm(world[corner] - world[0])), standing.way(corner)
            error = 100.0 * (along_ground(eye, world[0], way, place) / true - 1.0)
            off = float(np.hypot(*(np.array(place) - standing.sheet[corner])))
            deep = _("too deep") if error > 0 else _("not deep enough")
            sense = _("long") if error > 0 else _("short")
            told = _("{mm} mm {deep}, {percent} % {sense}").format(
                mm=f"{off:.1f}", deep=deep, percent=percent(error), sense=sense
            )
            hand = length_hand(eye, world[0], way, true)
            misses.append(Miss(name, error, "%", hand, f"{name}: {exact_or(off, told)}"))
        return worst_first(misses)

    return judge


@drill("cube", _("Close the cube"), _("Place the far edges of a cube: how long it reads."))
def cube(rng: Any, difficulty: float) -> Exercise | None:
    """A cube from its near edge and fans."""
    eye = eye_of(rng, difficulty)
    turn = float(rng.uniform(45.0 - 27.0 * difficulty, 45.0 + 27.0 * difficulty))
    standing = box_of(rng, eye, (SIDE_MM,) * 3, turn)
    if not standing.fair:
        return None
    given = np.concatenate([level_line(eye), centre(eye), fans(standing), standing.edges(8)])
    diagonal = line_on(standing.sheet[0], standing.sheet[3])
    aids = (Aid(_("45° point"), diagonal), Aid(_("measuring point"), measured(standing)))
    task = _("The cross is the centre of vision. Close the cube: place its two far edges.")
    return close_box(standing, task, given, aids)


@drill("cube3", _("The cube from above"), _("Place the far edges of a cube in three-point."))
def cube3(rng: Any, difficulty: float) -> Exercise | None:
    """A cube in three-point, looked down on."""
    tilt = -float(rng.uniform(15.0, 30.0 + 12.0 * difficulty))
    eye = eye_of(rng, difficulty, high=(1.6, 3.0), level=(0.45, 0.6), tilt_deg=tilt)
    standing = box_of(rng, eye, (SIDE_MM,) * 3, float(rng.uniform(25.0, 65.0)))
    if not standing.fair:
        return None
    given = np.concatenate([centre(eye), fans(standing), standing.edges(8)])
    aids = (Aid(_("measuring point"), measured(standing)),)
    task = _(
        "The cross is the centre of vision, the uprights run to a third point below. Close the "
        "cube: place its two far edges."
    )
    return close_box(standing, task, given, aids)


@drill("square", _("A square on the ground"), _("Close a square that lies on the ground."))
def square(rng: Any, difficulty: float) -> Exercise | None:
    """A square of which one side stands: how deep it goes on the other."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (700.0, 700.0, 100.0), float(rng.uniform(15.0, 75.0)))
    drawn, world = standing.sheet, standing.world
    if not on_sheet(drawn[:4], 6.0):
        return None
    corner, other = (1, 2) if rng.random() < 0.5 else (2, 1)
    name = _("far side")
    second = line_on(drawn[other], drawn[3])
    side = drawn[[0, other]].reshape(1, 4)

    def traced(places: Sequence[Place]) -> Array:
        foot = on_level(eye, places[0], 0.0)
        if foot is None:
            return np.empty((0, 4))
        ends = project(eye, np.stack([foot, foot + world[other] - world[0]])).sheet
        return np.asarray(ends.reshape(1, 4)) if np.isfinite(ends).all() else np.empty((0, 4))

    sides = [line_on(drawn[0], drawn[corner]), second, side]
    given = np.concatenate([level_line(eye), centre(eye), *sides])
    return Exercise(
        _("The cross is the centre of vision. One side of a square on the ground stands: close "
          "the square."),
        given,
        Answer(places=(pair(drawn[corner]),)),
        judge_of(standing, (name,), (corner,)),
        standing.edges(0, 1, 4, 5),
        asks=Places((held_on(standing, corner, name),), traced),
        aids=(Aid(_("45° point"), line_on(drawn[0], drawn[3])),
              Aid(_("measuring point"), measured(standing))),
    )  # fmt: skip


@drill("turned", _("The same cube turned"), _("A cube beside one, turned to another angle."))
def turned(rng: Any, difficulty: float) -> Exercise | None:
    """A second cube beside a first one, turned."""
    eye = eye_of(rng, difficulty)
    sides = ((-0.36, -0.14), (0.14, 0.36))[:: int(rng.choice([-1, 1]))]
    first, other = (
        box_of(rng, eye, (SIDE_MM,) * 3, float(rng.uniform(20.0, 70.0)), side, (2.8, 5.5))
        for side in sides
    )
    if not (first.fair and other.fair) or abs(first.box.yaw_deg - other.box.yaw_deg) < 12.0:
        return None
    a, b = first.sheet, other.sheet
    apart = a[:, 0].max() + 4.0 < b[:, 0].min() or b[:, 0].max() + 4.0 < a[:, 0].min()
    if not apart:
        return None
    given = np.concatenate([level_line(eye), first.edges(), fans(other), other.edges(8)])
    task = _("The same cube, turned: place its two far edges.")
    return close_box(other, task, given, aids_of(other)[1:])

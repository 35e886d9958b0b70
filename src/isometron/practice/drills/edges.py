"""Divisions of a receding edge, and a rear wheel at some wheel diameters."""

from collections.abc import Sequence
from typing import Any

import numpy as np

from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.practice.asks import Answer, Held, Places
from isometron.practice.drill import Aid, Exercise, Miss, drill
from isometron.practice.scenery import (
    Standing,
    along_ground,
    box_of,
    exact_or,
    eye_of,
    fans,
    length_hand,
    level_line,
    measured,
    pair,
    percent,
    ring,
)
from isometron.words import _

SHARES = ((1, 2), (1, 3), (2, 3), (1, 4), (3, 4), (2, 5), (3, 5))
RADIUS_MM = 300.0


@drill("divide", _("Divide an edge"), _("Find a share of a receding edge: middle, thirds, fifths."))
def divide(rng: Any, difficulty: float) -> Exercise | None:
    """A share of the lower right edge of a box."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (900.0, 500.0, 500.0), float(rng.uniform(15.0, 60.0)))
    if not standing.fair:
        return None
    some = SHARES[: 3 + round(4 * difficulty)]
    part, of = some[int(rng.integers(len(some)))]
    world, drawn = standing.world, standing.sheet
    long = float(np.linalg.norm(world[1] - world[0]))
    way = standing.way(1)
    truth = project(eye, (world[0] + part / of * long * way)[None]).sheet[0]
    run = standing.run(1)
    hand = length_hand(eye, world[0], way, long)

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = 100 * (along_ground(eye, world[0], way, answer.places[0]) / long - part / of)
        off = float((np.array(answer.places[0]) - truth) @ run)
        told = _("{mm} mm too {way}, {percent} % of the edge").format(
            mm=f"{abs(off):.1f}",
            way=_("far") if error > 0 else _("near"),
            percent=percent(error),
        )
        return (Miss(_("place on the edge"), error, "%", hand, exact_or(off, told)),)

    first = float(rng.uniform(0.04, 0.1)) if rng.random() < 0.5 else float(rng.uniform(0.9, 0.96))
    start = drawn[0] + first * (drawn[1] - drawn[0])
    if np.hypot(*(start - truth)) < 8.0:
        return None
    upright = np.array([[*truth, *project(eye, (world[0] + part / of * long * way
                        + np.array([0, 0, standing.box.height_mm]))[None]).sheet[0]]])  # fmt: skip
    return Exercise(
        _("Mark {part}/{of} of the lower right edge, from the near corner on.").format(
            part=part, of=of),
        np.concatenate([level_line(eye), standing.edges()]), Answer(places=(pair(truth),)), judge,
        upright, asks=Places((Held(_("mark"), pair(start), (pair(drawn[0]), pair(run))),)),
        aids=(Aid(_("diagonal and height"), _crossed(standing, 1 - part / of)),),
    )  # fmt: skip


def _crossed(standing: Standing, share: float) -> Array:
    """(2, 4) the diagonal of the right face from its near top, and the line at a share of its
    height: they cross over the place that lies the rest of the length along."""
    ends = standing.world[[0, 1]] + np.array([0.0, 0.0, share * standing.box.height_mm])
    level = project(standing.eye, ends).sheet
    return np.stack([standing.sheet[[4, 1]].ravel(), level.ravel()])


@drill("wheelbase", _("The rear wheel"), _("Set the rear wheel at some wheel diameters."))
def wheelbase(rng: Any, difficulty: float) -> Exercise | None:
    """A rear wheel on the ground line of a front wheel."""
    eye = eye_of(rng, difficulty, high=(0.7, 1.6))
    count = round(float(rng.uniform(2.0, 3.0 + difficulty)) * 2) / 2
    base = 2 * RADIUS_MM * count
    standing = box_of(rng, eye, (base, 600.0, 2 * RADIUS_MM), float(rng.uniform(12.0, 50.0)))
    world = standing.world
    way = standing.way(1)
    up = np.array([0.0, 0.0, 1.0])
    wheels = [
        ring(foot + RADIUS_MM * up, RADIUS_MM * way, RADIUS_MM * up, eye)
        for foot in (world[0], world[0] + base * way)
    ]
    if not standing.fair or not all(np.isfinite(w).all() and (w > 4.0).all() for w in wheels):
        return None
    drawn = standing.sheet
    run = standing.run(1)
    hand = length_hand(eye, world[0], way, base)

    def judge(answer: Answer) -> tuple[Miss, ...]:
        long = along_ground(eye, world[0], way, answer.places[0])
        error = 100 * (long / base - 1)
        off = float((np.array(answer.places[0]) - drawn[1]) @ run)
        told = _("{mm} mm too {way}: the body reads {n} wheels, {percent} % {sense}").format(
            mm=f"{abs(off):.1f}", way=_("far") if error > 0 else _("near"),
            n=f"{long / (2 * RADIUS_MM):.1f}", percent=percent(error),
            sense=_("long") if error > 0 else _("short"),
        )  # fmt: skip
        return (Miss(_("wheelbase"), error, "%", hand, exact_or(off, told)),)

    def traced(places: Sequence[Place]) -> Array:
        long = along_ground(eye, world[0], way, places[0])
        middle = world[0] + long * way + RADIUS_MM * up
        rim = ring(middle, RADIUS_MM * way, RADIUS_MM * up, eye)
        return rim if np.isfinite(rim).all() else np.empty((0, 4))

    start = drawn[0] + 0.4 * (drawn[1] - drawn[0])
    given = np.concatenate([level_line(eye), wheels[0], fans(standing)[:2]])
    return Exercise(
        _("Set the foot of the rear wheel: {n} wheel diameters from foot to foot.").format(
            n=f"{count:g}"),
        given, Answer(places=(pair(drawn[1]),)), judge, wheels[1],
        asks=Places(
            (Held(_("foot of the rear wheel"), pair(start), (pair(drawn[0]), pair(run))),),
            traced),
         aids=(Aid(_("measuring point"), measured(standing)),),
    )  # fmt: skip

"""The tip of a shadow, and which plane is the darkest."""

from itertools import permutations
from typing import Any

import numpy as np

from isometron.document.lights.sun import Sun
from isometron.drawing.shading.light_points import ground_shadows, ray_point, shadow_point
from isometron.perspective.eye import Array
from isometron.perspective.projection import project
from isometron.practice.asks import Answer, Choice, Held, Places
from isometron.practice.drill import HIGH_MM, WIDE_MM, Aid, Exercise, Miss, drill, right_or_not
from isometron.practice.scenery import (
    EYE_PERCENT,
    HAND_MM,
    box_of,
    exact_or,
    eye_of,
    level_line,
    line_on,
    pair,
    percent,
    practised,
)
from isometron.words import _

CHOICES = (_("the left plane"), _("the right plane"), _("the top"))
APART = 0.12
"""Two planes are told apart when their cosines to the light differ by more."""


@drill("shadow", _("The tip of a shadow"), _("Find where the shadow of a post ends."))
def shadow(rng: Any, difficulty: float) -> Exercise | None:
    """A post, the two points of the light, the tip asked."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (40.0, 40.0, float(rng.uniform(300.0, 700.0))))
    sun = Sun(float(rng.uniform(20.0, 340.0)), float(rng.uniform(25.0, 60.0)))
    foot = standing.world[0]
    top = foot + np.array([0.0, 0.0, standing.box.height_mm])
    ground, rays = shadow_point(eye, sun), ray_point(eye, sun)
    if ground is None or rays is None or ground.sheet_mm is None or rays.sheet_mm is None:
        return None
    tip = ground_shadows(sun, top[None])
    drawn = project(eye, np.stack([foot, top, tip[0]])).sheet
    inner = (drawn > 5.0).all() and (drawn < (WIDE_MM - 5.0, HIGH_MM - 5.0)).all()
    if not (np.isfinite(drawn).all() and inner) or np.hypot(*(drawn[2] - drawn[0])) < 15.0:
        return None
    long = float(np.hypot(*(drawn[2] - drawn[0])))
    run = (drawn[2] - drawn[0]) / long
    toward = [np.array(p.sheet_mm) - at for p, at in ((ground, drawn[0]), (rays, drawn[1]))]
    stubs = [
        np.concatenate([at, at + np.sign(way @ (drawn[2] - at)) * 12 * way / np.hypot(*way)])
        for way, at in zip(toward, drawn[:2], strict=True)
    ]

    def judge(answer: Answer) -> tuple[Miss, ...]:
        off = np.array(answer.places[0]) - drawn[2]
        error = 100 * float(off @ run) / long
        mm = float(np.hypot(*off))
        told = _("{mm} mm off, the shadow {percent} % too {way}").format(
            mm=f"{mm:.1f}", percent=percent(error), way=_("long") if error > 0 else _("short")
        )
        hand = practised(100 * HAND_MM / long, EYE_PERCENT)
        return (Miss(_("shadow"), error, "%", hand, exact_or(mm, told)),)

    given = np.concatenate([level_line(eye), drawn[:2].reshape(1, 4), np.array(stubs)])
    start = drawn[0] + 0.4 * (drawn[2] - drawn[0]) + np.array([0.0, 4.0])
    built = np.array([[*drawn[0], *drawn[2]], [*drawn[1], *drawn[2]]])
    return Exercise(
        _("The short strokes say where shadow and ray run: set the tip of the post's shadow."),
        given, Answer(places=(pair(drawn[2]),)), judge, built,
        asks=Places(
            (Held(_("tip of the shadow"), pair(start)),),
            lambda places: np.array([[*drawn[0], *places[0]], [*drawn[1], *places[0]]])),
        aids=(Aid(_("way of the shadow"), line_on(drawn[0], drawn[2])),),
    )  # fmt: skip


ORDERS = tuple(permutations(range(3)))


@drill("values", _("The darkest plane"), _("Say which of three planes the light leaves darkest."))
def values(rng: Any, difficulty: float) -> Exercise | None:
    """Three planes under a sun: the darkest."""
    lit = _lit(rng, difficulty)
    if lit is None:
        return None
    task, lines, cosines = lit
    order = np.argsort(cosines)
    if cosines[order[1]] - cosines[order[0]] < APART * (1.6 - difficulty):
        return None
    no = [_("no: {plane} is").format(plane=plane) for plane in CHOICES]
    truth = int(order[0])
    return Exercise(
        task + _("which plane is the darkest?"), lines, Answer(choice=truth),
        right_or_not(_("darkest plane"), truth, no), asks=Choice(CHOICES),
    )  # fmt: skip


@drill("order", _("Order of values"), _("Say which of three planes is light, middle and dark."))
def order(rng: Any, difficulty: float) -> Exercise | None:
    """Three planes under a sun, from the lightest to the darkest."""
    lit = _lit(rng, difficulty)
    if lit is None:
        return None
    task, lines, cosines = lit
    sorted_ = np.sort(np.maximum(cosines, 0.0))
    if np.diff(sorted_).min() < APART * (1.4 - difficulty):
        return None
    truth = ORDERS.index(tuple(np.argsort(-cosines).tolist()))
    names = (_("left"), _("right"), _("top"))
    choices = tuple(" – ".join(names[n] for n in one) for one in ORDERS)
    no = [_("no: {order}").format(order=one) for one in choices]
    return Exercise(
        task + _("name the planes from light to dark."), lines, Answer(choice=truth),
        right_or_not(_("order of values"), truth, no), asks=Choice(choices),
    )  # fmt: skip


def _lit(rng: Any, difficulty: float) -> tuple[str, Array, Array] | None:
    """A cube under a sun behind us: where the sun stands in words, the lines of the cube, and the
    cosines (3,) of its left plane, right plane and top to the light."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (500.0, 500.0, 500.0))
    azimuth, high = int(rng.integers(100, 261)), int(rng.integers(15, 76))
    if not standing.fair:
        return None
    normals = np.array([-standing.way(1), -standing.way(2), [0.0, 0.0, 1.0]])
    side = _("left") if azimuth > 180 else _("right")
    words = _("The sun stands behind us, {turn}° to the {side} and {high}° high: ").format(
        turn=abs(180 - azimuth), side=side, high=high
    )
    lines = np.concatenate([level_line(eye), standing.edges()])
    return words, lines, normals @ np.array(Sun(float(azimuth), float(high)).toward)

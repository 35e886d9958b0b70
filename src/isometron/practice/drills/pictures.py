"""A picture by the sample camera, and a sketch by the sample hand."""

from dataclasses import replace
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.asks import Answer, Choice
from isometron.practice.drill import HIGH_MM, Aid, Exercise, drill, right_or_not
from isometron.practice.drills.levels import level_exercise
from isometron.practice.scenery import (
    Standing,
    box_of,
    eye_of,
    fans,
    level_line,
    on_sheet,
    pair,
)
from isometron.stand_ins.camera import Camera, photograph
from isometron.stand_ins.hand import Hand, Mistake, drawn_by
from isometron.words import _

PICTURE_PX = 720
NAMES = "abcdefghijkl"


@drill("photo", _("Eye level of a picture"), _("Find the eye level of a photograph."))
def photo(rng: Any, difficulty: float) -> Exercise | None:
    """A photograph by the sample camera, two cases before a wall: where its eye level lies."""
    eye = eye_of(rng, 0.4 + 0.6 * difficulty, high=(0.5, 1.8), level=(0.5, 0.9))
    sides = [(-0.34, -0.1), (0.1, 0.34)]
    standings = [
        box_of(rng, eye, tuple(rng.uniform(300.0, 700.0, 3).tolist()), None, side, (2.4, 5.0))
        for side in sides
    ]
    one, two = standings
    if not (one.fair and two.fair) or _overlap(one, two):
        return None
    level = eye.centre_of_vision_mm[1]
    grain = int(rng.integers(1 << 30))
    far = float(max(one.world[:, 1].max(), two.world[:, 1].max()) + rng.uniform(300.0, 3000.0))
    wall = Volume("Wall", 2e4, 100.0, 2e4, -1e4, far, 0.0, float(rng.uniform(-4.0, 4.0)))
    scene = _sheet(one, two.box, wall)
    camera = Camera(width_px=PICTURE_PX, aim=False, exif=False, grain=4.0, seed=grain)
    start = level + float(rng.choice([-1, 1])) * float(rng.uniform(12.0, 30.0))
    if not 5.0 < start < HIGH_MM - 5.0:
        return None
    asked = level_exercise(
        _("Set the eye level of this photograph: slide the mark at the right."),
        np.empty((0, 4)), level, start,
        np.concatenate([level_line(eye), one.edges(), two.edges()]),
        Aid(_("fans"), np.concatenate([fans(one), fans(two)])),
    )  # fmt: skip
    return replace(asked, photo=lambda: photograph(scene, camera, "PNG"))


def _overlap(one: Standing, two: Standing) -> bool:
    """Whether two boxes cover each other across the sheet."""
    return bool(one.sheet[:, 0].max() > two.sheet[:, 0].min())


def _sheet(one: Standing, *others: Volume) -> Document:
    """Boxes on one sheet."""
    document = one.document
    return replace(document, volumes=(*document.volumes, *others))


@drill("mistake", _("Find the mistake"), _("Find the line of a sketch that misses its point."))
def mistake(rng: Any, difficulty: float) -> Exercise | None:
    """A case drawn by the sample hand: one line misses its vanishing point."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, tuple(rng.uniform(350.0, 700.0, 3).tolist()))
    if not standing.fair:
        return None
    off = float(rng.choice([-1, 1])) * float(rng.uniform(5.0, 7.0)) * (1.4 - 0.7 * difficulty)
    wrong = int(rng.choice([0, 2, 4, 6, 5, 7]))  # a level edge that is seen from above
    hand = Hand(
        unsteady_mm=0.25,
        searching=0,
        overshoot_mm=2.0,
        mistakes=(Mistake("miss", 0, wrong, off),),
        seed=int(rng.integers(1 << 30)),
    )
    strokes = drawn_by(standing.document, hand)
    lines = np.concatenate([np.concatenate([p[:-1], p[1:]], axis=1) for _s, p in strokes])
    if not on_sheet(lines.reshape(-1, 2), 2.0):
        return None
    truths = [n for n, (stroke, _p) in enumerate(strokes) if stroke.mistakes]
    if len(truths) != 1:
        return None
    truth, middle = truths[0], standing.sheet.mean(axis=0)
    words = [_beside(path, middle, name) for (_s, path), name in zip(strokes, NAMES, strict=False)]
    choices = tuple(name for name, _place in words)
    true = standing.edges(strokes[truth][0].part)
    no = [_("no: {name} misses its point by {deg}°").format(name=name, deg=f"{abs(off):.0f}")
          for name in choices]  # fmt: skip
    return Exercise(
        _("One line of this sketch misses its point: which?"),
        np.concatenate([level_line(eye), lines]), Answer(choice=truth),
        right_or_not(_("mistake"), truth, no), true, asks=Choice(choices), words=tuple(words),
        aids=(Aid(_("fans"), fans(standing)),),
    )  # fmt: skip


def _beside(path: Array, middle: Array, name: str) -> tuple[str, Place]:
    """A name beside the middle of a stroke, on its outer side."""
    centre = path[len(path) // 2]
    run = path[-1] - path[0]
    across = np.array([-run[1], run[0]]) / max(float(np.hypot(*run)), 1e-9)
    side = 1.0 if float((centre - middle) @ across) >= 0 else -1.0
    return name, pair(centre + 3.5 * side * across)

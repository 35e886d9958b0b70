"""Freehand lines: straight, and where they should run."""

from typing import Any

import numpy as np

from isometron.practice.drill import HIGH_MM, WIDE_MM, Answer, Exercise, Miss, drill
from isometron.practice.scenery import exact_or, pair
from isometron.words import _

FREE_MM, FREE_DEG = 0.8, 0.6
"""How straight and how true a practised hand draws a line without a ruler."""


@drill("line", _("A line freehand"), _("Draw a straight line from one point to another."))
def line(rng: Any, difficulty: float) -> Exercise | None:
    """Two points, and the stroke between them."""
    low, high = np.array([15.0, 15.0]), np.array([WIDE_MM - 15.0, HIGH_MM - 15.0])
    ends = rng.uniform(low, high, (2, 2))
    long = float(np.hypot(*(ends[1] - ends[0])))
    if not 40.0 + 60.0 * difficulty < long < 110.0 + 80.0 * difficulty:
        return None
    way = (ends[1] - ends[0]) / long
    across = np.array([-way[1], way[0]])

    def judge(answer: Answer) -> tuple[Miss, ...]:
        places = np.array(answer.stroke, dtype=float)
        if np.hypot(*(places[0] - ends[1])) < np.hypot(*(places[0] - ends[0])):
            places = places[::-1]
        chord = places[-1] - places[0]
        size = max(float(np.hypot(*chord)), 1e-9)
        own = np.array([-chord[1], chord[0]]) / size
        bows = (places - places[0]) @ own
        bow = float(bows[np.abs(bows).argmax()])
        turn = float(np.degrees(np.arctan2(across @ chord, way @ chord)))
        miss = float(across @ (places[-1] - ends[1]))
        told = (
            Miss(_("straightness"), bow, "mm", FREE_MM / 2, exact_or(bow, _(
                "bows {mm} mm to the {way}").format(mm=f"{abs(bow):.1f}",
                way=_("left") if bow > 0 else _("right")))),
            Miss(_("direction"), turn, "°", FREE_DEG / 2, exact_or(miss, _(
                "runs {deg}° to the {way}").format(deg=f"{abs(turn):.1f}",
                way=_("left") if turn > 0 else _("right")))),
        )  # fmt: skip
        return tuple(sorted(told, key=lambda one: -abs(one.error) / one.hand))

    cross = [[-2.0, 0, 2.0, 0], [0, -2.0, 0, 2.0]]
    given = np.concatenate([np.array(cross) + np.tile(end, 2) for end in ends])
    return Exercise(
        "", 0, 0.0, _("Draw the line from one cross to the other, in one stroke."), given,
        Answer(stroke=(pair(ends[0]), pair(ends[1]))), judge, ends.reshape(1, 4), asks_stroke=True,
    )  # fmt: skip

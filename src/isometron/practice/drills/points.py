"""Vanishing points: aiming at one off the page, and which point an edge goes to."""

from typing import Any

import numpy as np

from isometron.framework.box import EDGES
from isometron.perspective.vanishing import vanishing_point
from isometron.practice.drill import HIGH_MM, WIDE_MM, Answer, Exercise, Held, Miss, drill
from isometron.practice.scenery import HAND_MM, box_of, exact_or, eye_of, level_line, pair
from isometron.words import _

REACH_MM = 60.0
CHOICES = (_("left point"), _("right point"), _("no point: it stays upright"))


@drill("aim", _("Aim at a point off the page"), _("Draw a line to a vanishing point off the page."))
def aim(rng: Any, difficulty: float) -> Exercise | None:
    """A line from a corner to the point that two given lines run to."""
    eye = eye_of(rng, 0.3 * difficulty)
    standing = box_of(rng, eye, (700.0, 500.0, 500.0))
    drawn = standing.sheet
    way = standing.world[1] - standing.world[0]
    point = vanishing_point(eye, way).sheet_mm
    if not standing.fair or point is None or not 0.1 < (point[0] - WIDE_MM) / WIDE_MM < 3.0:
        return None
    at = np.array(point)
    starts = np.array([[20.0, eye.centre_of_vision_mm[1] + d] for d in (-45.0, 18.0)])
    ends = starts + (WIDE_MM - 20.0) / (at[0] - starts[:, :1]) * (at - starts)
    corner = np.array([rng.uniform(40.0, 110.0), rng.uniform(20.0, HIGH_MM - 70.0)])
    run = (at - corner) / np.hypot(*(at - corner))
    truth = corner + REACH_MM * run
    off = np.radians(rng.choice([-1, 1]) * rng.uniform(6.0, 14.0))
    turned = np.array([[np.cos(off), -np.sin(off)], [np.sin(off), np.cos(off)]]) @ run
    hand = float(np.degrees(np.arctan(HAND_MM / REACH_MM)))

    def judge(answer: Answer) -> tuple[Miss, ...]:
        got = np.array(answer.places[0]) - corner
        side = float(run[0] * got[1] - run[1] * got[0])
        error = float(np.degrees(np.arctan2(side, float(run @ got))))
        miss_mm = float(np.tan(np.radians(np.clip(error, -80, 80))) * (WIDE_MM - corner[0]))
        told = _("{deg}° too {way}: {mm} mm off at the edge of the paper").format(
            deg=f"{abs(error):.1f}",
            way=_("high") if error > 0 else _("low"),
            mm=f"{abs(miss_mm):.0f}",
        )
        return (Miss(_("direction"), error, "°", hand, exact_or(miss_mm, told)),)

    lines = np.concatenate([level_line(eye), np.concatenate([starts, ends], axis=1)])
    marks = np.array([[corner[0] - 2, corner[1], corner[0] + 2, corner[1]],
                      [corner[0], corner[1] - 2, corner[0], corner[1] + 2]])  # fmt: skip
    del drawn
    return Exercise(
        "", 0, 0.0,
        _("The two lines run to one point off the page: draw the line from the cross to it."),
        np.concatenate([lines, marks]), Answer(places=(pair(truth),)), judge,
        np.concatenate([corner, truth])[None],
        held=(Held(_("end of the line"), pair(corner + REACH_MM * turned), tied=pair(corner)),),
    )  # fmt: skip


@drill("which", _("Which point"), _("Say which vanishing point an edge goes to."))
def which(rng: Any, difficulty: float) -> Exercise | None:
    """One edge of a box is marked: where does it run?"""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (float(rng.uniform(300, 800)), 500.0, float(rng.uniform(300, 700))))
    if not standing.fair:
        return None
    edge = int(rng.integers(len(EDGES)))
    axis = int(np.argmax(np.abs(EDGES[edge][1] - EDGES[edge][0]) == np.array([1, 2, 4])))
    truth = (1, 0, 2)[axis]
    start, end = standing.sheet[EDGES[edge]]
    across = np.array([start[1] - end[1], end[0] - start[0]])
    across = across / np.hypot(*across) * 0.8
    thick = np.array([[*(start + across), *(end + across)], [*(start - across), *(end - across)]])

    def judge(answer: Answer) -> tuple[Miss, ...]:
        right = answer.choice == truth
        words = (
            _("right") if right else _("no: it goes to the {point}").format(point=CHOICES[truth])
        )
        return (Miss(_("point"), float(not right), "", 0.0, words),)

    return Exercise(
        "", 0, 0.0, _("Which point does the doubled edge go to?"),
        np.concatenate([level_line(eye), standing.edges(), thick]), Answer(choice=truth), judge,
        np.empty((0, 4)), choices=CHOICES,
    )  # fmt: skip

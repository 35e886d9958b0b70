"""Freehand lines: straight, and where they should run."""

from typing import Any, NamedTuple

import numpy as np

from isometron.perspective.eye import Array
from isometron.practice.asks import Answer, Stroke
from isometron.practice.drill import HIGH_MM, WIDE_MM, Exercise, Miss, drill, worst_first
from isometron.practice.scenery import crosses, exact_or, pair
from isometron.words import _

FREE_MM, FREE_DEG = 0.8, 0.6
"""How straight and how true a practised hand draws a line without a ruler."""

EDGE_MM = 15.0


class Meant(NamedTuple):
    """A line that is meant: both ends (2,) sheet mm."""

    start: Array
    end: Array


def judge_line(meant: Meant, answer: Answer) -> tuple[Miss, ...]:
    """Bow and direction of a stroke against the line that is meant, whichever end it began at."""
    run = meant.end - meant.start
    long = float(np.hypot(*run))
    way = run / long
    across = np.array([-way[1], way[0]])
    places = np.array(answer.stroke, dtype=float)
    if float((places[-1] - places[0]) @ way) < 0:
        places = places[::-1]
    chord = places[-1] - places[0]
    own = np.array([-chord[1], chord[0]]) / max(float(np.hypot(*chord)), 1e-9)
    bows = (places - places[0]) @ own
    bow = float(bows[np.abs(bows).argmax()])
    turn = float(np.degrees(np.arctan2(across @ chord, way @ chord)))
    aside = float(np.tan(np.radians(np.clip(turn, -80, 80))) * long)
    left, right = _("left"), _("right")
    told = (
        Miss(_("straightness"), bow, "mm", FREE_MM / 2, exact_or(bow, _(
            "bows {mm} mm to the {way}").format(mm=f"{abs(bow):.1f}",
            way=left if bow > 0 else right))),
        Miss(_("direction"), turn, "°", FREE_DEG / 2, exact_or(aside, _(
            "runs {deg}° to the {way}, {mm} mm aside at its end").format(
            deg=f"{abs(turn):.1f}", way=left if turn > 0 else right, mm=f"{abs(aside):.1f}"))),
    )  # fmt: skip
    return worst_first(told)


def drawn_freehand(task: str, given: Array, meant: Meant) -> Exercise:
    """The exercise of drawing a line that is meant."""
    return Exercise(
        task,
        given,
        Answer(stroke=(pair(meant.start), pair(meant.end))),
        lambda answer: judge_line(meant, answer),
        np.array([[*meant.start, *meant.end]]),
        asks=Stroke(),
    )


def _two_places(rng: Any, difficulty: float) -> Array | None:
    """(2, 2) two places of the sheet, the farther apart the harder."""
    low = np.array([EDGE_MM, EDGE_MM])
    ends: Array = rng.uniform(low, np.array([WIDE_MM, HIGH_MM]) - EDGE_MM, (2, 2))
    long = float(np.hypot(*(ends[1] - ends[0])))
    return ends if 40.0 + 60.0 * difficulty < long < 110.0 + 80.0 * difficulty else None


@drill("line", _("A line freehand"), _("Draw a straight line from one point to another."))
def line(rng: Any, difficulty: float) -> Exercise | None:
    """Two points, and the stroke between them."""
    ends = _two_places(rng, difficulty)
    if ends is None:
        return None
    task = _("Draw the line from one cross to the other, in one stroke.")
    return drawn_freehand(task, crosses(ends), Meant(*ends))


@drill("parallel", _("A parallel freehand"), _("Draw a line beside another, as it runs."))
def parallel(rng: Any, difficulty: float) -> Exercise | None:
    """A line, and a cross beside it to draw its parallel through."""
    ends = _two_places(rng, difficulty)
    if ends is None:
        return None
    way = (ends[1] - ends[0]) / np.hypot(*(ends[1] - ends[0]))
    beside = np.array([-way[1], way[0]]) * float(rng.uniform(15.0, 30.0 + 30.0 * difficulty))
    other = ends + beside * float(rng.choice([-1, 1]))
    if not ((other > EDGE_MM) & (other < np.array([WIDE_MM, HIGH_MM]) - EDGE_MM)).all():
        return None
    given = np.concatenate([ends.reshape(1, 4), crosses(other[0])])
    task = _("From the cross draw a line parallel to the one that stands, as long, in one stroke.")
    return drawn_freehand(task, given, Meant(*other))


@drill("upright", _("An upright freehand"), _("Draw an upright through a point."))
def upright(rng: Any, difficulty: float) -> Exercise | None:
    """A cross at the foot, and the upright from it."""
    long = float(rng.uniform(30.0 + 20.0 * difficulty, 50.0 + 50.0 * difficulty))
    foot = np.array([rng.uniform(EDGE_MM, WIDE_MM - EDGE_MM), rng.uniform(EDGE_MM, 30.0)])
    top = foot + np.array([0.0, long])
    tick = np.array([[EDGE_MM, top[1], WIDE_MM - EDGE_MM, top[1]]])
    task = _("From the cross draw an upright as far as the level line, in one stroke.")
    return drawn_freehand(task, np.concatenate([tick, crosses(foot)]), Meant(foot, top))


@drill("toward", _("Toward a point freehand"), _("Draw a line through a point toward another."))
def toward(rng: Any, difficulty: float) -> Exercise | None:
    """Two crosses: the line begins at the first and aims at the second, stopping half-way."""
    ends = _two_places(rng, 0.6 + 0.4 * difficulty)
    if ends is None:
        return None
    middle = ends.mean(axis=0)
    way = (ends[1] - ends[0]) / np.hypot(*(ends[1] - ends[0]))
    across = np.array([-way[1], way[0]]) * 4.0
    stop = np.array([[*(middle - across), *(middle + across)]])
    task = _("Begin at the upper cross and draw toward the lower one, as far as the short stroke.")
    start, goal = (ends[0], ends[1]) if ends[0][1] > ends[1][1] else (ends[1], ends[0])
    given = np.concatenate([crosses(np.array([start, goal])), stop])
    return drawn_freehand(task, given, Meant(start, middle))

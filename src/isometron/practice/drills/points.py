"""Vanishing points: aiming at one off the page, which point an edge goes to, the kind of a view."""

from typing import Any

import numpy as np

from isometron.framework.box import EDGES
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array
from isometron.perspective.vanishing import vanishing_point
from isometron.practice.asks import Answer, Choice, Held, Places
from isometron.practice.drill import HIGH_MM, WIDE_MM, Aid, Exercise, Miss, drill, right_or_not
from isometron.practice.scenery import (
    EYE_DEG,
    HAND_MM,
    Standing,
    box_of,
    crosses,
    exact_or,
    eye_of,
    fans,
    level_line,
    pair,
    practised,
)
from isometron.words import _

REACH_MM = 60.0
AIM_DEG = practised(float(np.degrees(np.arctan(HAND_MM / REACH_MM))), EYE_DEG)
"""How true a practised person aims a line of REACH_MM."""

CHOICES = (_("left point"), _("right point"), _("no point: it stays upright"))
KINDS = (_("one-point"), _("two-point"), _("three-point"))
SHOWN = (
    _("top and left side"),
    _("top and right side"),
    _("underside and left side"),
    _("underside and right side"),
    _("only its front"),
)


def turned_from(run: Array, got: Array) -> float:
    """By how many degrees a direction (2,) is turned from another, counter-clockwise."""
    return float(np.degrees(np.arctan2(run[0] * got[1] - run[1] * got[0], float(run @ got))))


def turned_by(run: Array, degrees: float) -> Array:
    """(2,) a direction turned counter-clockwise."""
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return np.asarray(np.array([[c, -s], [s, c]]) @ run)


@drill("aim", _("Aim off the page"), _("Draw a line to a vanishing point off the page."))
def aim(rng: Any, difficulty: float) -> Exercise | None:
    """A line from a corner to the point that two given lines run to."""
    eye = eye_of(rng, 0.3 * difficulty)
    standing = box_of(rng, eye, (700.0, 500.0, 500.0))
    point = vanishing_point(eye, standing.way(1)).sheet_mm
    if not standing.fair or point is None or not 0.1 < (point[0] - WIDE_MM) / WIDE_MM < 3.0:
        return None
    at = np.array(point)
    starts = np.array([[20.0, eye.centre_of_vision_mm[1] + d] for d in (-45.0, 18.0)])
    ends = starts + (WIDE_MM - 20.0) / (at[0] - starts[:, :1]) * (at - starts)
    corner = np.array([rng.uniform(40.0, 110.0), rng.uniform(20.0, HIGH_MM - 70.0)])
    run = (at - corner) / np.hypot(*(at - corner))
    truth = corner + REACH_MM * run
    turned = turned_by(run, float(rng.choice([-1, 1])) * float(rng.uniform(6.0, 14.0)))

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = turned_from(run, np.array(answer.places[0]) - corner)
        miss_mm = float(np.tan(np.radians(np.clip(error, -80, 80))) * (WIDE_MM - corner[0]))
        told = _("{deg}° too {way}: {mm} mm off at the edge of the paper").format(
            deg=f"{abs(error):.1f}",
            way=_("high") if error > 0 else _("low"),
            mm=f"{abs(miss_mm):.0f}",
        )
        return (Miss(_("direction"), error, "°", AIM_DEG, exact_or(miss_mm, told)),)

    lines = np.concatenate([level_line(eye), np.concatenate([starts, ends], axis=1)])
    return Exercise(
        _("The two lines run to one point off the page: draw the line from the cross to it."),
        np.concatenate([lines, crosses(corner)]), Answer(places=(pair(truth),)), judge,
        np.concatenate([corner, truth])[None],
        asks=Places(
            (Held(_("end of the line"), pair(corner + REACH_MM * turned)),),
            lambda places: np.array([[*corner, *places[0]]])),
        aids=(Aid(_("ladder"), _ladder(at, starts, corner)),),
    )  # fmt: skip


def _ladder(point: Array, starts: Array, corner: Array) -> Array:
    """(n, 4) two upright measures between the given lines, divided alike: equal marks of both lie
    on lines to the point."""
    found = []
    for x in (corner[0], 0.5 * (corner[0] + WIDE_MM)):
        ends = [one[1] + (x - one[0]) / (point[0] - one[0]) * (point[1] - one[1]) for one in starts]
        found.append([x, ends[0], x, ends[1]])
        found += [[x - 1.5, y, x + 1.5, y] for y in np.linspace(ends[0], ends[1], 5)]
    return np.array(found)


@drill("opposite", _("The opposite point"), _("Send the next edge to the opposite point."))
def opposite(rng: Any, difficulty: float) -> Exercise | None:
    """The right or left half of a box stands; the top edge that goes on from its far corner."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (float(rng.uniform(350, 700)), 500.0, float(rng.uniform(250, 500))))
    drawn = standing.sheet
    right = bool(rng.random() < 0.5)
    corner, other, near_edges = (5, 6, (0, 2, 8, 9)) if right else (6, 5, (4, 6, 8, 10))
    start, run = drawn[corner], drawn[7] - drawn[corner]
    long = float(np.hypot(*run))
    if not standing.fair or long < 12.0:
        return None
    run, wrong = run / long, _back(drawn, corner)
    names = (_("left point"), _("right point")) if right else (_("right point"), _("left point"))
    turned = turned_by(run, float(rng.choice([-1, 1])) * float(rng.uniform(12.0, 30.0)))
    reach = max(long, 20.0)
    if not 4.0 < start[1] + reach * turned[1] < HIGH_MM - 4.0:
        return None

    def judge(answer: Answer) -> tuple[Miss, ...]:
        got = np.array(answer.places[0]) - start
        error = turned_from(run, got)
        told = _("{deg}° too {way} for the {point}").format(
            deg=f"{abs(error):.1f}", point=names[0],
            way=_("far left") if error > 0 else _("far right"),
        )  # fmt: skip
        if abs(turned_from(wrong, got)) < abs(error):
            told = _("it runs on to the {wrong}; from here the edge goes to the opposite one, the "
                     "{point}").format(wrong=names[1], point=names[0])  # fmt: skip
        words = _("exact") if abs(error) < 0.05 else told
        return (Miss(_("direction"), error, "°", AIM_DEG, words),)

    back = drawn[7] - drawn[other]
    return Exercise(
        _("From the cross goes the next edge of the top: draw where it runs."),
        np.concatenate([level_line(eye), standing.edges(*near_edges), crosses(start)]),
        Answer(places=(pair(start + long * run),)), judge,
        np.array([[*start, *drawn[7]], [*drawn[other], *(drawn[other] + back)]]),
        asks=Places(
            (Held(_("end of the edge"), pair(start + reach * turned)),),
            lambda places: np.array([[*start, *places[0]]])),
        aids=(Aid(_("fans"), fans(standing)),), framework=standing.document,
    )  # fmt: skip


def _back(drawn: Array, corner: int) -> Array:
    """(2,) the direction in which the edge to a corner of the top would run on."""
    way = drawn[corner] - drawn[4]
    return np.asarray(way / np.hypot(*way))


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

    no = [_("no: it goes to the {point}").format(point=one) for one in CHOICES[:2]]
    no.append(_("no: it stays upright"))
    return Exercise(
        _("Which point does the doubled edge go to?"),
        np.concatenate([level_line(eye), standing.edges(), thick]), Answer(choice=truth),
        right_or_not(_("point"), truth, no), asks=Choice(CHOICES),
    )  # fmt: skip


@drill("kind", _("The kind of view"), _("Say whether a view is one-, two- or three-point."))
def kind(rng: Any, difficulty: float) -> Exercise | None:
    """A box in one of the three; the harder, the nearer to another."""
    truth = int(rng.integers(3))
    tilt = 0.0
    if truth == 2:
        tilt = float(rng.choice([-1, 1])) * float(rng.uniform(22.0 - 14.0 * difficulty, 35.0))
    eye = eye_of(rng, difficulty, high=(0.3, 2.6), level=(0.3, 0.8), tilt_deg=tilt)
    turn = 0.0 if truth == 0 else float(rng.uniform(26.0 - 18.0 * difficulty, 64.0))
    standing = box_of(rng, eye, tuple(rng.uniform(350.0, 700.0, 3).tolist()), turn)
    if not standing.fair:
        return None
    no = [_("no: it is {kind}").format(kind=one) for one in KINDS]
    return Exercise(
        _("How many points do the edges of this box run to?"), standing.edges(),
        Answer(choice=truth), right_or_not(_("kind of view"), truth, no), asks=Choice(KINDS),
    )  # fmt: skip


@drill("faces", _("Which faces show"), _("Say which faces of a box square to us show."))
def faces(rng: Any, difficulty: float) -> Exercise | None:
    """The front of a box, the eye level and the point on it: what else shows."""
    eye = eye_of(rng, difficulty, high=(1.0, 1.6), level=(0.45, 0.6))
    wide, deep, high = rng.uniform(300.0, 600.0, 3).tolist()
    away = float(rng.uniform(1500.0, 3000.0))
    foot = float(rng.uniform(-0.9, 0.9)) * 1000.0 + eye.height_mm - high / 2
    left = float(rng.uniform(-0.5, 0.5)) * away
    standing = Standing(eye, Volume("Case", wide, deep, high, left, away, foot, 0.0))
    drawn = standing.sheet
    if not standing.fair:
        return None
    point, (low, top) = np.array(eye.centre_of_vision_mm), drawn[[0, 5]]
    clear = np.concatenate([low - point, point - top])
    if np.abs(clear).min() < 9.0 - 6.0 * difficulty:
        return None
    over, under = bool(point[1] > top[1]), bool(point[1] < low[1])
    to_left, to_right = bool(point[0] < low[0]), bool(point[0] > top[0])
    if (over or under) != (to_left or to_right):
        return None
    truth = 4 if not (over or under) else 2 * under + to_right
    no = [_("no: {faces}").format(faces=one) for one in SHOWN]
    return Exercise(
        _("A box stands square to us: what shows of it besides its front?"),
        np.concatenate([level_line(eye), crosses(point), standing.edges(0, 2, 8, 9)]),
        Answer(choice=truth), right_or_not(_("faces"), truth, no), standing.edges(),
        asks=Choice(SHOWN),
    )  # fmt: skip

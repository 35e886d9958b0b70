"""What repeats along a receding line: a bay, the next mast of a row, a height carried back."""

from collections.abc import Sequence
from typing import Any

import numpy as np

from isometron.nearness import NEAR
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.practice.asks import Answer, Held, Places
from isometron.practice.drill import Aid, Exercise, Miss, drill, worst_first
from isometron.practice.scenery import (
    EYE_DEG,
    EYE_MM,
    EYE_PERCENT,
    HAND_MM,
    Standing,
    along_ground,
    box_of,
    crosses,
    exact_or,
    eye_of,
    fans,
    length_hand,
    level_line,
    on_sheet,
    pair,
    percent,
    practised,
)
from isometron.words import _

UP = np.array([0.0, 0.0, 1.0])


def _row(rng: Any, difficulty: float, count: int) -> Standing | None:
    """A long wall of equal bays, as a thin box: its width runs along it."""
    eye = eye_of(rng, difficulty)
    bay = float(rng.uniform(350.0, 600.0))
    high = float(rng.uniform(350.0, 700.0))
    standing = box_of(rng, eye, (count * bay, 60.0, high), float(rng.uniform(12.0, 62.0)))
    return standing if on_sheet(standing.sheet[[0, 1, 4, 5]], 6.0) else None


def _uprights(standing: Standing, *longs: float) -> Array:
    """(n, 4) uprights as high as the wall, so far along it, mm."""
    feet = standing.world[0] + np.array(longs)[:, None] * standing.way(1)
    ends = np.concatenate([feet, feet + standing.box.height_mm * UP])
    drawn = project(standing.eye, ends).sheet
    return np.concatenate([drawn[: len(feet)], drawn[len(feet) :]], axis=1)


@drill("repeat", _("Repeat a bay"), _("Place the end of the next equal bay."))
def repeat(rng: Any, difficulty: float) -> Exercise | None:
    """One bay of a wall stands: the end of the next one, or of the second next."""
    bays = 2 if rng.random() < 1.0 - difficulty else 3
    standing = _row(rng, difficulty, bays)
    if standing is None:
        return None
    drawn, eye, world = standing.sheet, standing.eye, standing.world
    bay, way, run = standing.box.width_mm / bays, standing.way(1), standing.run(1)
    first = _uprights(standing, 0.0, bay)
    hand = length_hand(eye, world[0] + (bays - 1) * bay * way, way, bay)

    def judge(answer: Answer) -> tuple[Miss, ...]:
        long = along_ground(eye, world[0], way, answer.places[0])
        error = 100 * (long - bays * bay) / bay
        off = float((np.array(answer.places[0]) - drawn[1]) @ run)
        told = _("{mm} mm too {way}: {percent} % of a bay").format(
            mm=f"{abs(off):.1f}", way=_("far") if error > 0 else _("near"), percent=percent(error)
        )
        return (Miss(_("end of the bay"), error, "%", hand, exact_or(off, told)),)

    def traced(places: Sequence[Place]) -> Array:
        long = along_ground(eye, world[0], way, places[0])
        upright = _uprights(standing, long)
        return upright if np.isfinite(upright).all() else np.empty((0, 4))

    middle = project(eye, (world[0] + bay * way + standing.box.height_mm / 2 * UP)[None]).sheet[0]
    reach = first[0, 2:] + 2.2 * (middle - first[0, 2:])
    start = first[1, :2] + 3.0 * run
    asked = _("the next bay") if bays == 2 else _("the third bay")
    return Exercise(
        _("One bay of a wall stands. All are equal: place the end of {which}.").format(which=asked),
        np.concatenate([level_line(eye), fans(standing)[[0, 1]], first]),
        Answer(places=(pair(drawn[1]),)),
        judge,
        _uprights(standing, *(n * bay for n in range(2, bays + 1))),
        asks=Places((Held(_("end of the bay"), pair(start), (pair(drawn[0]), pair(run))),), traced),
        aids=(Aid(_("diagonal"), np.concatenate([first[0, 2:], reach])[None]),),
    )


@drill("masts", _("The next mast"), _("Place the next mast of a row: foot and top."))
def masts(rng: Any, difficulty: float) -> Exercise | None:
    """Two masts of a row stand, nothing between them: where the third stands, and its top."""
    standing = _row(rng, difficulty, 2)
    if standing is None:
        return None
    eye, world, way = standing.eye, standing.world, standing.way(1)
    gap, high = standing.box.width_mm / 2, standing.box.height_mm
    posts = _uprights(standing, 0.0, gap, 2 * gap)
    foot, top = posts[2, :2], posts[2, 2:]
    tall, run = float(top[1] - foot[1]), standing.run(1)
    hand = length_hand(eye, world[0] + gap * way, way, gap)

    def judge(answer: Answer) -> tuple[Miss, ...]:
        one, two = (np.array(place) for place in answer.places)
        spaced = 100 * (along_ground(eye, world[0], way, answer.places[0]) - 2 * gap) / gap
        aside = float((one - foot) @ np.array([-run[1], run[0]]))
        taller = 100 * (float(two[1] - top[1])) / tall
        lean = float(np.degrees(np.arctan2(-(two[0] - top[0]), tall)))
        told = (
            Miss(_("spacing"), spaced, "%", hand, _("mast {percent} % of the gap too {way}").format(
                percent=percent(spaced), way=_("far") if spaced > 0 else _("near"))),
            Miss(_("foot"), aside, "mm", practised(HAND_MM, EYE_MM),
                 _("its foot {mm} mm too {way}").format(
                     mm=f"{abs(aside):.1f}", way=_("high") if aside > 0 else _("low"))),
            Miss(_("top"), taller, "%", practised(100 * HAND_MM / tall, EYE_PERCENT),
                 _("its top {percent} % too {way}").format(
                     percent=percent(taller), way=_("high") if taller > 0 else _("low"))),
            Miss(_("lean"), lean, "°",
                 practised(float(np.degrees(HAND_MM / tall)), EYE_DEG),
                 _("it leans {deg}° to the {way}").format(
                     deg=f"{abs(lean):.1f}", way=_("left") if lean > 0 else _("right"))),
        )  # fmt: skip
        seen = tuple(one for one in worst_first(told) if abs(one.error) >= 0.05)
        quiet = [one._replace(words="") for one in told if one not in seen]
        if not seen:
            quiet[0] = quiet[0]._replace(words=_("exact"))
        return (*seen, *quiet)

    start = pair(foot + np.array([6.0, 9.0]))
    return Exercise(
        _("Two marker masts on level ground: place foot and top of the next one."),
        np.concatenate([level_line(eye), posts[:2]]),
        Answer(places=(pair(foot), pair(top))),
        judge,
        posts[2:],
        asks=Places(
            (Held(_("foot"), start), Held(_("top"), (start[0], start[1] + 0.6 * tall))),
            lambda places: np.array([[*places[0], *places[1]]])),
        aids=(
            Aid(_("fans"), np.concatenate([posts[0, [0, 1]], posts[2, :2], posts[0, 2:],
                                           posts[2, 2:]]).reshape(2, 4)),
            Aid(_("middle of the mast"), _middles(standing, gap, high)),
        ),
    )  # fmt: skip


def _middles(standing: Standing, gap: float, high: float) -> Array:
    """(1, 4) from the top of the first post through the middle of the second to the ground line."""
    near, two = standing.world[0], standing.way(1)
    ends = np.stack([near + high * UP, near + 2 * gap * two])
    return np.asarray(project(standing.eye, ends).sheet.reshape(1, 4))


@drill("height", _("Carry a height back"), _("Carry a height back along the eye level."))
def height(rng: Any, difficulty: float) -> Exercise | None:
    """A post stands near us; how high is one as tall elsewhere on the ground?"""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (60.0, 60.0, float(rng.uniform(400.0, 1200.0))), None)
    near, high = standing.world[0], standing.box.height_mm
    aside = float(rng.choice([-1, 1])) * float(rng.uniform(500.0, 1800.0))
    far = near + np.array([aside, float(rng.uniform(900.0, 2000.0 + 3000.0 * difficulty)), 0.0])
    drawn = project(eye, np.stack([near, near + high * UP, far, far + high * UP])).sheet
    if not on_sheet(drawn, 6.0) or abs(drawn[0, 0] - drawn[2, 0]) < 15.0:
        return None
    tall = float(drawn[3, 1] - drawn[2, 1])
    if tall < 8.0:
        return None

    def judge(answer: Answer) -> tuple[Miss, ...]:
        off = float(answer.places[0][1] - drawn[3, 1])
        error = 100 * off / tall
        told = _("{mm} mm too {way}, {percent} % of its height").format(
            mm=f"{abs(off):.1f}", way=_("high") if off > 0 else _("low"), percent=percent(error)
        )
        hand = practised(100 * HAND_MM / tall, EYE_PERCENT)
        return (Miss(_("height"), error, "%", hand, exact_or(off, told)),)

    x, y = pair(drawn[2])
    start = (x, y + float(rng.choice([0.5, 1.5])) * tall)
    if not on_sheet(np.array([start]), 2.0):
        return None
    meets = _on_level_line(drawn, eye.centre_of_vision_mm[1])
    return Exercise(
        _("As tall a post stands on the cross further back: set its top."),
        np.concatenate([level_line(eye), drawn[:2].reshape(1, 4), crosses(drawn[2])]),
        Answer(places=(pair(drawn[3]),)),
        judge,
        drawn[2:].reshape(1, 4),
        asks=Places(
            (Held(_("height"), start, ((x, y), (0.0, 1.0))),),
            lambda places: np.array([[x, y, *places[0]]]),
        ),
        aids=(Aid(_("way along the ground"), meets),),
    )


def _on_level_line(drawn: Array, level: float) -> Array:
    """(n, 4) from the near foot through the far one to the eye level, and back to the near top."""
    near, top, far = drawn[0], drawn[1], drawn[2]
    rise = float(far[1] - near[1])
    if abs(rise) < NEAR:
        return np.empty((0, 4))
    point = near + (level - near[1]) / rise * (far - near)
    return np.array([[*near, *point], [*top, *point]])

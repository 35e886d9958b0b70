"""The tip of a shadow, and which plane is the darkest."""

from typing import Any

import numpy as np

from isometron.document.light import Sun
from isometron.drawing.shading.light_points import ground_shadows, ray_point, shadow_point
from isometron.perspective.projection import project
from isometron.practice.drill import HIGH_MM, WIDE_MM, Answer, Exercise, Held, Miss, drill
from isometron.practice.scenery import HAND_MM, box_of, exact_or, eye_of, level_line, pair
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
            mm=f"{mm:.1f}", percent=f"{abs(error):.0f}", way=_("long") if error > 0 else _("short")
        )
        return (Miss(_("shadow"), error, "%", 100 * HAND_MM / long, exact_or(mm, told)),)

    given = np.concatenate([level_line(eye), drawn[:2].reshape(1, 4), np.array(stubs)])
    start = drawn[0] + 0.4 * (drawn[2] - drawn[0]) + np.array([0.0, 4.0])
    built = np.array([[*drawn[0], *drawn[2]], [*drawn[1], *drawn[2]]])
    return Exercise(
        "", 0, 0.0,
        _("The short strokes say where shadow and ray run: set the tip of the post's shadow."),
        given, Answer(places=(pair(drawn[2]),)), judge, built,
        held=(Held(_("tip of the shadow"), pair(start)),),
    )  # fmt: skip


@drill("values", _("The darkest plane"), _("Say which of three planes the light leaves darkest."))
def values(rng: Any, difficulty: float) -> Exercise | None:
    """Three planes under a sun."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (500.0, 500.0, 500.0))
    sun = Sun(float(rng.uniform(100.0, 260.0)), float(rng.uniform(15.0, 75.0)))
    if not standing.fair:
        return None
    world = standing.world
    left, right = (world[0] - world[1], world[0] - world[2])
    normals = np.array([left / np.linalg.norm(left), right / np.linalg.norm(right), [0, 0, 1.0]])
    cosines = np.sort(normals @ np.array(sun.toward))
    told = np.argsort(normals @ np.array(sun.toward))
    if cosines[1] - cosines[0] < APART * (1.6 - difficulty):
        return None
    truth = int(told[0])

    def judge(answer: Answer) -> tuple[Miss, ...]:
        right_one = answer.choice == truth
        words = _("right") if right_one else _("no: {plane} is").format(plane=CHOICES[truth])
        return (Miss(_("darkest plane"), float(not right_one), "", 0.0, words),)

    azimuth, high = round(sun.azimuth_deg), round(sun.elevation_deg)
    side = _("left") if azimuth > 180 else _("right")
    return Exercise(
        "", 0, 0.0,
        _("The sun stands behind us, {turn}° to the {side} and {high}° high: which plane is the "
          "darkest?").format(turn=abs(180 - azimuth), side=side, high=high),
        np.concatenate([level_line(eye), standing.edges()]), Answer(choice=truth), judge,
        np.empty((0, 4)), choices=CHOICES,
    )  # fmt: skip

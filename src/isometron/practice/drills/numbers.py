"""Numbers read off a drawing: how long a box is, whether it is a cube, how open a rim."""

from typing import Any

import numpy as np

from isometron.perspective.ellipses import circle_picture
from isometron.practice.asks import Answer, Number
from isometron.practice.drill import Aid, Exercise, Miss, drill
from isometron.practice.scenery import (
    aids_of,
    box_of,
    centre,
    eye_of,
    level_line,
    percent,
    ring,
)
from isometron.words import _

READ_PERCENT, READ_DEG = 4.0, 2.0
"""How well a practised eye reads a ratio and a degree."""

LENGTHS, OPENINGS = Number(0.1, 20.0), Number(0.0, 90.0, "°", 30.0)
TOO_LONG = Number(-90.0, 400.0, " %", 0.0)
"""What can be meant: a length in heights, how open an ellipse is, how much too long a cube is."""


@drill("ratio", _("Read a ratio"), _("Read how long or how deep a drawn box is for its height."))
def ratio(rng: Any, difficulty: float) -> Exercise | None:
    """Length or depth to height of a box; the centre of vision is marked."""
    eye = eye_of(rng, difficulty)
    high, axis = 400.0, int(rng.integers(2))
    shares = np.round(rng.uniform(0.6, 2.6, 2), 2)
    standing = box_of(rng, eye, (*(shares * high).tolist(), high), float(rng.uniform(15.0, 75.0)))
    if not standing.fair:
        return None
    share = float(shares[axis])
    side = (_("lower right edge"), _("lower left edge"))[axis]

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = 100 * ((answer.number or 0.0) / share - 1)
        told = _("{percent} % too {way}: it is {true} : 1").format(
            percent=percent(error), way=_("long") if error > 0 else _("short"), true=f"{share:g}"
        )
        words = _("exact: {true} : 1").format(true=f"{share:g}") if abs(error) < 0.5 else told
        return (Miss(_("length : height"), error, "%", READ_PERCENT / 2, words),)

    return Exercise(
        _("The cross is the centre of vision. How long is the {side}, in heights?").format(
            side=side),
        np.concatenate([level_line(eye), centre(eye), standing.edges()]), Answer(number=share),
        judge, asks=LENGTHS, aids=aids_of(standing), framework=standing.document,
    )  # fmt: skip


@drill("isit", _("Is it a cube?"), _("Read by how much a drawn box is too long for a cube."))
def isit(rng: Any, difficulty: float) -> Exercise | None:
    """A box as deep as high; its lower right edge is as long, longer or shorter."""
    eye = eye_of(rng, difficulty)
    most = 45.0 - 25.0 * difficulty
    off = 0.0 if rng.random() < 0.2 else float(round(rng.uniform(-most / 1.5, most)))
    long = 500.0 * (1 + off / 100)
    standing = box_of(rng, eye, (long, 500.0, 500.0), float(rng.uniform(20.0, 70.0)))
    if not standing.fair:
        return None

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = (answer.number or 0.0) - off
        sense = _("too long") if off > 0 else _("too short")
        true = _("{percent} % {sense}").format(percent=percent(off), sense=sense)
        true = _("a cube") if off == 0 else true
        told = (
            _("{percent} % more than it is: it is {true}")
            if error > 0
            else _("{percent} % less than it is: it is {true}")
        )
        words = told.format(percent=percent(error), true=true)
        exact = _("exact: {true}").format(true=true)
        return (Miss(_("too long"), error, "%", READ_PERCENT / 2,
                     exact if abs(error) < 0.5 else words),)  # fmt: skip

    return Exercise(
        _("As deep as high: by how much is the right side too long for a cube (− for too short, 0 "
          "for a cube)?"),
        np.concatenate([level_line(eye), standing.edges()]), Answer(number=off), judge,
        asks=TOO_LONG, aids=aids_of(standing), framework=standing.document,
    )  # fmt: skip


@drill("degree", _("The degree of a rim"), _("Say how open the ellipse of a level rim is."))
def degree(rng: Any, difficulty: float) -> Exercise | None:
    """How open a level rim is at a height, from a square that is drawn at another."""
    eye = eye_of(rng, difficulty)
    side = 500.0
    standing = box_of(rng, eye, (side, side, float(rng.uniform(200.0, 900.0))))
    if not standing.fair:
        return None
    middle = standing.world[[4, 7]].mean(axis=0)
    up = np.array([0.0, 0.0, 1.0])
    ellipse = circle_picture(eye, middle, up, side / 2).ellipse
    if ellipse is None or ellipse.degree_deg < 6.0:
        return None
    true = ellipse.degree_deg
    across, along = ((standing.world[i] - standing.world[4]) / 2 for i in (5, 6))

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = (answer.number or 0.0) - true
        told = _("{deg}° too {way}: it opens to {true}°").format(
            deg=f"{abs(error):.0f}", way=_("open") if error > 0 else _("flat"), true=f"{true:.0f}"
        )
        words = _("exact: {true}°").format(true=f"{true:.0f}") if abs(error) < 0.5 else told
        return (Miss(_("degree"), error, "°", READ_DEG / 2, words),)

    return Exercise(
        _("A circle lies in the top of this box: to how many degrees does it open?"),
        np.concatenate([level_line(eye), standing.edges()]), Answer(number=true), judge,
        ring(middle, across, along, eye), asks=OPENINGS,
        aids=(Aid(_("long axis"), _long_axis(ellipse)),),
    )  # fmt: skip


def _long_axis(ellipse: Any) -> Any:
    """(1, 4) the long axis of an ellipse."""
    return ellipse.point(np.array([0.0, 180.0])).reshape(1, 4)

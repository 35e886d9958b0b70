"""Numbers read off a drawing: how long a box is, how open a rim."""

from typing import Any

import numpy as np

from isometron.perspective.ellipses import circle_picture
from isometron.practice.drill import Answer, Exercise, Miss, drill
from isometron.practice.scenery import box_of, eye_of, level_line, ring
from isometron.words import _

READ_PERCENT, READ_DEG = 4.0, 2.0
"""How well a practised eye reads a ratio and a degree."""

LENGTHS, OPENINGS_DEG = (0.1, 20.0), (0.0, 90.0)
"""What can be meant: a length in heights, and how open an ellipse is."""


@drill("ratio", _("Read a ratio"), _("Read how long a drawn box is for its height."))
def ratio(rng: Any, difficulty: float) -> Exercise | None:
    """Length to height of a box."""
    eye = eye_of(rng, difficulty)
    high = 400.0
    share = round(float(rng.uniform(0.6, 2.6)), 2)
    standing = box_of(rng, eye, (share * high, high, high), float(rng.uniform(15.0, 60.0)))
    if not standing.fair:
        return None

    def judge(answer: Answer) -> tuple[Miss, ...]:
        assert answer.number is not None
        error = 100 * (answer.number / share - 1)
        told = _("{percent} % too {way}: it is {true} : 1").format(
            percent=f"{abs(error):.0f}",
            way=_("long") if error > 0 else _("short"),
            true=f"{share:g}",
        )
        words = _("exact: {true} : 1").format(true=f"{share:g}") if abs(error) < 0.5 else told
        return (Miss(_("length : height"), error, "%", READ_PERCENT / 2, words),)

    return Exercise(
        "", 0, 0.0,
        _("The depth equals the height. How long is the lower right edge, in heights?"),
        np.concatenate([level_line(eye), standing.edges()]), Answer(number=share), judge,
        np.empty((0, 4)), between=LENGTHS,
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
        assert answer.number is not None
        error = answer.number - true
        told = _("{deg}° too {way}: it opens to {true}°").format(
            deg=f"{abs(error):.0f}", way=_("open") if error > 0 else _("flat"), true=f"{true:.0f}"
        )
        words = _("exact: {true}°").format(true=f"{true:.0f}") if abs(error) < 0.5 else told
        return (Miss(_("degree"), error, "°", READ_DEG / 2, words),)

    return Exercise(
        "", 0, 0.0, _("A circle lies in the top of this box: to how many degrees does it open?"),
        np.concatenate([level_line(eye), standing.edges()]), Answer(number=true), judge,
        ring(middle, across, along, eye), between=OPENINGS_DEG, unit="°",
    )  # fmt: skip

"""The eye level of a drawing, and an eye that is lowered."""

from dataclasses import replace
from typing import Any

import numpy as np

from isometron.perspective.projection import project
from isometron.practice.drill import HIGH_MM, WIDE_MM, Answer, Exercise, Held, Miss, drill
from isometron.practice.scenery import HAND_MM, box_of, exact_or, eye_of, level_line, pair
from isometron.words import _


@drill("level", _("Find the eye level"), _("Find the eye level of a drawing without one."))
def level(rng: Any, difficulty: float) -> Exercise | None:
    """The eye level by the lines of a box."""
    eye = eye_of(rng, 0.4 + 0.6 * difficulty, high=(0.5, 1.8))
    standing = box_of(rng, eye, (600.0, 500.0, float(rng.uniform(250.0, 800.0))))
    if not standing.fair:
        return None
    y, x = eye.centre_of_vision_mm[1], WIDE_MM - 14.0

    def judge(answer: Answer) -> tuple[Miss, ...]:
        error = answer.places[0][1] - y
        told = _("{mm} mm too {way}").format(
            mm=f"{abs(error):.1f}", way=_("high") if error > 0 else _("low")
        )
        return (Miss(_("eye level"), error, "mm", 1.5, exact_or(error, told)),)

    start = float(rng.uniform(0.3, 0.55)) * HIGH_MM
    return Exercise(
        "", 0, 0.0, _("Set the eye level of this drawing: slide the mark at the right."),
        standing.edges(), Answer(places=((x, y),)), judge, level_line(eye),
        held=(Held(_("eye level"), (x, start), ((x, 0.0), (0.0, 1.0)), through=(1.0, 0.0)),),
    )  # fmt: skip


@drill("lower", _("Lower the eye"), _("Place the near edge anew when the eye goes down."))
def lower(rng: Any, difficulty: float) -> Exercise | None:
    """Foot and top of the near edge after the eye has sunk; the eye level stays on the sheet."""
    eye = eye_of(rng, difficulty, high=(1.3, 2.2))
    standing = box_of(rng, eye, (500.0, 500.0, float(rng.uniform(300.0, 600.0))))
    down = float(rng.uniform(0.3, 0.7))
    lowered = replace(eye, height_mm=down * eye.height_mm)
    edge = standing.world[[0, 4]]
    drawn = project(lowered, edge).sheet
    if not standing.fair or not (drawn > 4.0).all() or not (drawn[:, 1] < HIGH_MM - 4.0).all():
        return None
    x, names = float(drawn[0, 0]), (_("foot"), _("top"))

    def judge(answer: Answer) -> tuple[Miss, ...]:
        misses = []
        for place, true, name in zip(answer.places, drawn, names, strict=True):
            error = place[1] - float(true[1])
            told = _("{mm} mm too {way}").format(
                mm=f"{abs(error):.1f}", way=_("high") if error > 0 else _("low")
            )
            misses.append(Miss(name, error, "mm", HAND_MM, f"{name}: {exact_or(error, told)}"))
        return tuple(sorted(misses, key=lambda miss: -abs(miss.error)))

    before = standing.sheet[[0, 4]]
    held = tuple(
        Held(name, pair(at), ((x, 0.0), (0.0, 1.0))) for name, at in zip(names, before, strict=True)
    )
    return Exercise(
        "", 0, 0.0,
        _("The eye sinks to {percent} % of its height and the eye level stays here: place foot and "
          "top of the near edge anew.").format(percent=round(100 * down)),
        np.concatenate([level_line(eye), standing.edges()]),
        Answer(places=tuple(pair(place) for place in drawn)), judge, drawn.reshape(1, 4), held=held,
    )  # fmt: skip

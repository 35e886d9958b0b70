"""Deeds with the light: sun or lamp, its numbers, and how its values are shown."""

from collections.abc import Callable
from functools import cache, partial
from typing import Any

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    choice,
    in_place,
    plain,
)
from isometron.deeds.example import Example, box
from isometron.document.document import Document
from isometron.document.edits import lighting
from isometron.document.edits.stances import LOOKING_DOWN, take_stance
from isometron.document.light import FLAT, HATCH, NONE, NUMBERS, Light, LightNumber
from isometron.document.lights.table import LIGHTS
from isometron.words import _, said

MATTER = Matter.LIGHT

WAYS = (FLAT, HATCH, NUMBERS, NONE)
WAY_WORDS = (said("flat tones"), said("hatching"), said("numbers"), said("shadows only"))
STEPS = ("3", "4", "5", "6")
DRAWN = (said("left out"), said("drawn"))

FURTHER = 25.0
"""Degrees, or tenths of a metre, that a number of a light is changed by in its drawing."""


@cache
def _seen() -> Document:
    """A cube on ground that is seen from above."""
    return take_stance(box().document, LOOKING_DOWN)


def _lit(light: type[Light]) -> Document:
    return lighting.put_on(_seen(), light)


def _first() -> Example:
    return Example(_lit(next(iter(LIGHTS.values()))))


def _of_light(what: Callable[[Document], Any]) -> Callable[[Document, Given], Any]:
    return lambda document, given: None if document.light is None else what(document)


def _on(light: type[Light]) -> Deed:
    return Deed(
        f"light {light.word}",
        light.put_on.text,
        light.put_on.tip,
        light.put_on.name,
        plain(partial(lighting.put_on, light=light)),
        acts_on=(ActsOn.SHEET,),
        shows=lambda: Example(_seen()),
        finds=_("light shadow"),
    )


def _number(light: type[Light], number: LightNumber) -> Deed:
    def now(document: Document, given: Given) -> float | None:
        return number.value(document.light) if isinstance(document.light, light) else None

    def edit(document: Document, value: float) -> Document:
        if not isinstance(document.light, light):
            document = lighting.put_on(document, light)
        return lighting.set_number(document, number, value)

    usual = number.value(lighting.usual(_seen(), light))
    measured = Measured.ANGLE if number.angle else Measured.LENGTH
    ends = {} if number.angle else {"least": -1e6, "most": 1e6}
    return in_place(
        Parameter(
            number.key,
            number.tip,
            measured,
            label=number.words,
            now=now,
            **ends,  # type: ignore[arg-type]
        ),
        edit,
        usual + (FURTHER if number.angle else 4 * FURTHER),
        name=number.words,
        acts_on=(ActsOn.LIGHT,),
        shows=lambda: Example(_lit(light)),
    )


def _shown(key: str, tip: str, words: tuple[str, ...], what: str, values: tuple[Any, ...]) -> Deed:
    def now(document: Document) -> int:
        return values.index(getattr(document.shading, what))

    sample = 0 if what == "shadows" else 1
    return in_place(
        choice(key, tip, words, now=_of_light(now)),
        lambda document, number: lighting.set_shading(document, **{what: values[int(number)]}),
        sample,
        acts_on=(ActsOn.LIGHT,),
        shows=_first,
    )


DEEDS = (
    *(_on(light) for light in LIGHTS.values()),
    Deed(
        "light off",
        _("No light"),
        _("Take the light off."),
        _("take the light off"),
        plain(partial(lighting.set_light, light=None)),
        acts_on=(ActsOn.LIGHT,),
        shows=_first,
    ),
    *(_number(light, one) for light in LIGHTS.values() for one in light.numbers),
    _shown(
        said("cast shadows"),
        _("Draw what the light does not reach: on the ground and on faces."),
        DRAWN,
        "shadows",
        (False, True),
    ),
    _shown(
        said("values shown as"),
        _("Flat tones, strokes to the vanishing points, numbers as a key, or none."),
        WAY_WORDS,
        "way",
        WAYS,
    ),
    _shown(
        said("steps of grey"),
        _("How many steps your pencils or markers have."),
        STEPS,
        "steps",
        tuple(int(one) for one in STEPS),
    ),
)

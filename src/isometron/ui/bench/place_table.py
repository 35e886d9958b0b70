"""The places of work, in the order of the work: key, name, tip, and the cards it brings.

Cards are imported when their place is first opened.
"""

from collections.abc import Callable
from enum import Enum
from typing import NamedTuple

from isometron.ui.parts.card import EditCard
from isometron.ui.parts.wishes import Wishes
from isometron.words import _


class Leaf(NamedTuple):
    """One card of a place: what it is called there, and how it is made."""

    name: str
    make: Callable[[Wishes], EditCard]


class Lies(Enum):
    """When the slip lies under the card of a place."""

    ALWAYS = "always"
    PICKED = "when something is picked"
    NEVER = "never"


class Place(NamedTuple):
    """One place of work. slip: when the slip lies under its card, plan: whether plan and side
    elevation do."""

    key: str
    name: str
    tip: str
    leaves: tuple[Leaf, ...]
    slip: Lies = Lies.PICKED
    plan: bool = False


def _stand(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.eye.card import EyeCard

    return EyeCard(wishes)


def _build(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.volumes.card import VolumesCard

    return VolumesCard(wishes)


def _draw(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.building.card import BuildCard

    return BuildCard(wishes)


def _finish(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.light.card import LightCard

    return LightCard(wishes)


def _picture(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.pictures.card import PictureCard

    return PictureCard(wishes)


def _practice(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.practice.card import PracticeCard

    return PracticeCard(wishes)


def _log(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.log.card import LogCard

    return LogCard(wishes)


PLACES = [
    Place(
        "stand",
        _("Stand"),
        _("Where we stand: the paper, the eye level, the views of the page."),
        (Leaf(_("Stand"), _stand),),
        plan=True,
    ),
    Place(
        "build",
        _("Build"),
        _("The volumes of the framework, and what to begin with."),
        (Leaf(_("Build"), _build),),
        Lies.ALWAYS,
    ),
    Place(
        "draw",
        _("Draw"),
        _("The ruler moves, in the order a hand makes them."),
        (Leaf(_("Draw"), _draw),),
        Lies.NEVER,
    ),
    Place(
        "finish",
        _("Finish"),
        _("Light and values, line weights, marks of the composition."),
        (Leaf(_("Finish"), _finish),),
    ),
    Place(
        "picture",
        _("Picture"),
        _("A photograph or a sketch: what its edges and rims say."),
        (Leaf(_("Picture"), _picture),),
        Lies.ALWAYS,
    ),
    Place(
        "practice",
        _("Practice"),
        _("Short drills, and the log of your work day by day."),
        (Leaf(_("Drills"), _practice), Leaf(_("Log"), _log)),
        slip=Lies.NEVER,
    ),
]


def number_of(key: str) -> int:
    """Where a place stands on the rail."""
    return [place.key for place in PLACES].index(key)

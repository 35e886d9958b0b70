"""The index tabs, in the order of the work: key, name, tip, and how the card is made.

Cards are imported when their tab is first opened.
"""

from collections.abc import Callable
from typing import NamedTuple

from isometron.ui.parts.card import EditCard
from isometron.ui.parts.wishes import Wishes
from isometron.words import _


class Tab(NamedTuple):
    """One index tab."""

    key: str
    name: str
    tip: str
    make: Callable[[Wishes], EditCard]


def _eye(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.eye.card import EyeCard

    return EyeCard(wishes)


def _volumes(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.volumes.card import VolumesCard

    return VolumesCard(wishes)


def _rounds(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.rounds.card import RoundsCard

    return RoundsCard(wishes)


def _building(wishes: Wishes) -> EditCard:
    from isometron.ui.cards.building.card import BuildCard

    return BuildCard(wishes)


def _light(wishes: Wishes) -> EditCard:
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


TABS = [
    Tab("eye", _("Eye"), _("The paper, the eye level and where we stand."), _eye),
    Tab("volumes", _("Volumes"), _("The boxes and their true measures."), _volumes),
    Tab("rounds", _("Rounds"), _("Ellipses, wheels, turned forms and profiles."), _rounds),
    Tab(
        "building",
        _("Build order"),
        _("The ruler moves, in the order a hand makes them."),
        _building,
    ),
    Tab("light", _("Light"), _("Sun or lamp, shadows, and the values of all faces."), _light),
    Tab(
        "picture",
        _("Picture"),
        _("A photograph: what its edges and rims say of eye and proportions."),
        _picture,
    ),
    Tab("practice", _("Practice"), _("Short drills: how far you miss, and which way."), _practice),
    Tab("log", _("Log"), _("Your work day by day: errors, habits, notes."), _log),
]


def number_of(key: str) -> int:
    """Where a tab stands on the rail."""
    return [tab.key for tab in TABS].index(key)

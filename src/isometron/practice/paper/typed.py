"""What a person types from a sheet of paper: which exercises stand on it, and measures."""

import math
import re
from collections.abc import Sequence

from isometron.perspective.places import Place
from isometron.practice.drill import Exercise, PracticeError, drill_of
from isometron.words import _, quoted

MOST = 40
"""Exercises on one printed sheet: twenty pages."""

NUMBER = r"[-+]?\d+(?:[.,]\d+)?"


def in_words(exercises: Sequence[Exercise]) -> str:
    """Exercises as their sheet names them."""
    return "; ".join(f"{one.drill} · {one.seed} · {one.difficulty:g}" for one in exercises)


def exercises_in(text: str) -> list[Exercise]:
    """The exercises that words name: drill, seed and difficulty as printed, with “;” between them.
    Raises PracticeError."""
    found = []
    for part in text.split(";"):
        words = part.replace("·", " ").split()
        if len(words) != 3 or not re.fullmatch(r"\d{1,10}", words[1]):
            raise PracticeError(
                _("“{text}” names no exercise: type what stands at its head, say, cube · 3 · 0.3.")
                .format(text=quoted(part.strip()))
            )  # fmt: skip
        try:
            difficulty = float(words[2].replace(",", "."))
        except ValueError:
            difficulty = math.nan
        found.append(drill_of(words[0]).exercise(int(words[1]), difficulty))
    if len(found) > MOST:
        raise PracticeError(_("One sheet holds 1 to {most} exercises.").format(most=MOST))
    return found


def places_in(text: str, count: int | None = None) -> tuple[Place, ...]:
    """Places typed as mm from the lower left corner of the exercise, right and up: “41.5 20; 90
    18.5”. count: how many there must be, None for at least two. Raises PracticeError."""
    found = []
    for part in text.split(";"):
        told = re.fullmatch(rf"\s*({NUMBER})\s*(?:/|\s)\s*({NUMBER})\s*", part)
        if told is None:
            raise PracticeError(
                _("Type mm to the right and mm up for each point, say, 41.5 20; 90 18.5.")
            )
        x, y = (float(value.replace(",", ".")) for value in told.groups())
        found.append((x, y))
    wanted = 2 if count is None else count
    if len(found) != wanted and not (count is None and len(found) > wanted):
        raise PracticeError(_("Type {count} places, with “;” between them.").format(count=wanted))
    return tuple(found)


def in_measures(places: Sequence[Place]) -> str:
    """Places as they are typed."""
    return "; ".join(f"{x:.1f} {y:.1f}" for x, y in places)

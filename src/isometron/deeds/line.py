"""A deed said in one line: its words, then what it asks for, parted by commas, in its order or each
after its own name. ``box 110 × 60 × 30 cm, 35 cm above ground``."""

import re
from collections.abc import Callable, Sequence

from isometron.deeds.deed import Measured, Parameter, choice
from isometron.document.edits.starters import Starter
from isometron.perspective.errors import VolumeError
from isometron.words import _, many, quoted, said

_VALUE = re.compile(r"(?:^|\s)(?=[-+−]?[.,]?\d)")
_PARTS = re.compile(r"\s*(?:;|,(?!\d))\s*")


def split_line(text: str) -> tuple[str, str]:
    """The words of a line, and what is given after them: from the first number, or a colon, on."""
    named, colon, rest = text.partition(":")
    if colon and not re.search(r"\d", named):
        return named.strip(), rest.strip()
    found = _VALUE.search(text)
    if found is None:
        return text.strip(), ""
    return text[: found.start()].strip(), text[found.end() :].strip()


MEASURED = {
    "length": Measured.LENGTH,
    "ratio": Measured.LENGTH,
    "angle": Measured.ANGLE,
    "count": Measured.COUNT,
}


def asked_by(starter: Starter) -> tuple[Parameter, ...]:
    """The questions of a starter, as what a line may give to it."""
    return tuple(
        Parameter(one.name, _(one.tip), MEASURED[one.kind])
        if one.kind in MEASURED
        else choice(one.name, _(one.tip), one.choices or (said("no"), said("yes")))
        for one in starter.questions
    )


def shared_out(parameters: Sequence[Parameter], text: str) -> dict[str, str]:
    """What is given to each parameter, by its key, in words: a part that begins with the name of
    one goes to it, others to the next without any that they can stand for; the last, when it takes
    words, takes all that is left. Raises VolumeError where there is more than is asked for."""
    given: dict[str, str] = {}
    parts = [part for part in _PARTS.split(text) if part]
    while parts:
        named = _named(parameters, parts[0])
        if named is not None:
            one, words = named
        else:
            left = [one for one in parameters if one.key not in given]
            if not left:
                raise VolumeError(
                    many(
                        "“{part}” is more than it asks for: give it {n} value at most.",
                        "“{part}” is more than it asks for: give it {n} values at most.",
                        len(parameters),
                    ).format(part=quoted(parts[0]), n=len(parameters))
                )
            one, words = next((p for p in left if _fits(p, parts[0])), left[0]), parts[0]
        takes_all = one is parameters[-1] and one.measured is Measured.WORDS
        given[one.key] = ", ".join([words, *parts[1:]]) if takes_all else words
        parts = [] if takes_all else parts[1:]
    return given


def _fits(parameter: Parameter, part: str) -> bool:
    """Whether a part can stand for a parameter: a choice by its words, a number by digits."""
    if parameter.choices:
        return one_of([_(words) for words in parameter.choices], part) is not None
    if parameter.measured in (Measured.WORDS, Measured.LISTED):
        return True
    return any(letter.isdigit() for letter in part)


def one_of(choices: Sequence[str], part: str) -> int | None:
    """Which of some choices is meant: what is called so, begins so, or has a word that does."""
    told, every = part.strip().casefold(), [words.casefold() for words in choices]
    ways: tuple[Callable[[str], bool], ...] = (
        lambda words: words == told,
        lambda words: words.startswith(told),
        lambda words: any(word.startswith(told) for word in words.split()),
    )
    for means in ways:
        found = next((number for number, words in enumerate(every) if means(words)), None)
        if found is not None:
            return found
    return None


def _named(parameters: Sequence[Parameter], part: str) -> tuple[Parameter, str] | None:
    """The parameter whose name a part begins with, the longest, and what is left of the part."""
    folded = part.casefold()
    found = [
        (len(name), one)
        for one in parameters
        for name in {one.called.casefold(), _(one.key).casefold()}
        if folded.startswith(f"{name} ") or folded.startswith(f"{name}:")
    ]
    if not found:
        return None
    length, one = max(found, key=lambda at: at[0])
    return one, part[length:].lstrip(" :")

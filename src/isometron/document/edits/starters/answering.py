"""Answers to a starter's questions said in words, as in its form."""

from collections.abc import Mapping

from isometron.document.edits.starters.starter import Question, Starter
from isometron.document.errors import ChoiceError
from isometron.perspective.errors import IsometronError, LengthError
from isometron.perspective.lengths import (
    read_angle,
    read_fraction,
    read_length,
    write_angle,
    write_length,
)
from isometron.words import _, quoted, said

NO_YES = (said("no"), said("yes"))


def plain_name(name: str) -> str:
    """The name of a question as a word of a command: wheel-diameter."""
    return name.replace(" ", "-")


def answer_in_words(question: Question, value: float, unit: str) -> str:
    """An answer as it may be said."""
    if question.kind in ("yes", "choice"):
        every = question.choices or NO_YES
        return _(every[round(value) - bool(question.choices)])
    if question.kind == "length":
        return write_length(value, unit)
    return write_angle(value) if question.kind == "angle" else f"{value:.4g}"


def answers_from(
    starter: Starter,
    said: Mapping[str, str],
    unit: str,
    others: Mapping[str, float] | None = None,
) -> dict[str, float]:
    """All answers: those said by the names of questions (or as `plain_name`), the others as they
    are, or as proposed. A ratio may be said as a length, a length in modules. Raises ChoiceError
    for a question that is not asked and words that are none of its choices, LengthError."""
    asked = {plain_name(one.name): one for one in starter.questions}
    unknown = [name for name in said if plain_name(name) not in asked]
    if unknown:
        raise ChoiceError(
            _("“{name}” is not asked here; these are: {all}.").format(
                name=quoted(unknown[0]), all=", ".join(asked)
            )
        )
    values = starter.proposal | dict(others or {})
    told = {plain_name(name): words for name, words in said.items()}
    for name in sorted(told, key=lambda name: asked[name].kind != "length"):
        try:
            values[asked[name].name] = _read(starter, asked[name], told[name], unit, values)
        except IsometronError as error:
            raise type(error)(f"{name}: {error}") from error
    return values


def _read(
    starter: Starter, question: Question, words: str, unit: str, values: Mapping[str, float]
) -> float:
    if question.kind in ("yes", "choice"):
        every = question.choices or NO_YES
        if words.casefold() in every:
            return float(every.index(words.casefold()) + bool(question.choices))
        told = _("“{value}” is none of these: {every}.")
        raise ChoiceError(told.format(value=quoted(words), every=", ".join(every)))
    if question.kind == "angle":
        return read_angle(words)
    modules = {one.name: one.mm for one in starter.make(values).modules}
    if question.kind == "length":
        return read_length(words, unit, modules)
    try:
        number = read_fraction(words)
    except LengthError:
        if question.kind == "count":
            raise
        return read_length(words, unit, modules) / next(iter(modules.values()))
    if question.kind == "count" and number != round(number):
        raise LengthError(
            _("“{value}” is no whole number: type, say, 3.").format(value=quoted(words))
        )
    return number

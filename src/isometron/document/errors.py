"""Choices that the bench does not offer."""

from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import write_number
from isometron.words import _


class ChoiceError(IsometronError):
    """A choice outside what the bench offers."""


def within(what: str, value: float, limits: tuple[float, float], unit: str) -> None:
    """Raises ChoiceError for a value outside its limits."""
    least, most = limits
    if not least <= value <= most:
        raise ChoiceError(
            _("{what} of {value}{unit} is of no use: choose {least}{unit} to {most}{unit}.").format(
                what=what,
                value=write_number(value),
                unit=unit,
                least=write_number(least),
                most=write_number(most),
            )
        )

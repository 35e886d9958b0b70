"""Choices that the bench does not offer."""

from isometron.perspective.errors import IsometronError


class ChoiceError(IsometronError):
    """A choice outside what the bench offers."""


def within(what: str, value: float, limits: tuple[float, float], unit: str) -> None:
    """Raises ChoiceError for a value outside its limits."""
    least, most = limits
    if not least <= value <= most:
        raise ChoiceError(
            f"{what} of {value:g}{unit} is of no use: choose {least:g}{unit} to {most:g}{unit}."
        )

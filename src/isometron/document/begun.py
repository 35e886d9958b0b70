"""What a starter was told, kept with what it set down, so that it can be opened again."""

from collections.abc import Collection
from dataclasses import dataclass, replace
from typing import NamedTuple

from isometron.document.errors import ChoiceError
from isometron.words import _

MOST_BEGUN = 50


class Answer(NamedTuple):
    """What a question was told."""

    question: str
    value: float


class Part(NamedTuple):
    """Which volume of the sheet, by its key, a part is that a starter knows by its own number."""

    part: int
    key: int


class Called(NamedTuple):
    """What a module of a starter is called on the sheet."""

    module: str
    name: str


@dataclass(frozen=True)
class Begun:
    """A framework begun with a starter: its name, its answers, its parts, and its modules."""

    starter: str
    answers: tuple[Answer, ...]
    parts: tuple[Part, ...]
    modules: tuple[Called, ...] = ()

    @property
    def keys(self) -> frozenset[int]:
        """Keys of its volumes."""
        return frozenset(one.key for one in self.parts)

    def without_lost(self, there: Collection[int]) -> "Begun":
        """It with the parts that are still there."""
        if self.keys <= set(there):
            return self
        return replace(self, parts=tuple(one for one in self.parts if one.key in there))


def kept_begun(begun: tuple[Begun, ...], there: Collection[int]) -> tuple[Begun, ...]:
    """Those of which something is there."""
    if not begun:
        return begun
    return tuple(left for one in begun if (left := one.without_lost(there)).parts)


def few_begun(begun: tuple[Begun, ...]) -> None:
    """Raise ChoiceError for more than a sheet keeps."""
    if len(begun) > MOST_BEGUN:
        raise ChoiceError(_("A sheet keeps {most} starters open.").format(most=MOST_BEGUN))

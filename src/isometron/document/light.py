"""The light of a sheet: what any light answers, and how its values are shown."""

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar, NamedTuple, Self

from isometron.document.errors import ChoiceError
from isometron.perspective.eye import LARGEST_MM
from isometron.perspective.places import Place, WorldPlace
from isometron.words import _

FEWEST_STEPS, MOST_STEPS, USUAL_STEPS = 3, 6, 5
"""With five, the three planes of a box that are lit have a step each."""

LESS = 0.618
"""A light a hair beside another is off by so much less along each further axis."""


class Grip(NamedTuple):
    """What a light is taken hold of by on the sheet: its key and title, whether it is where rays
    run (else where shadows run), the edit that a drag means (document, place of the sheet →
    document), and what stays."""

    key: str
    title: str
    of_rays: bool
    drag: Callable[[Any, Place], Any]
    stays: str


class LightNumber(NamedTuple):
    """A number of a light that is typed: its key, words and caption, a whole-sentence tip, whether
    it is an angle in degrees (else a length in mm), its value, and the light with another one."""

    key: str
    words: str
    caption: str
    tip: str
    angle: bool
    value: "Callable[[Any], float]"
    changed: "Callable[[Any, float], Light]"


class Switching(NamedTuple):
    """How a light is put on: words, tip, and what undo calls it."""

    text: str
    tip: str
    name: str


class Light(ABC):
    """One light, a frozen value. Adding one means a file in `lights/` that answers all of this; its
    word is what it is called in files."""

    word: ClassVar[str]
    rank: ClassVar[int]
    """Its place in lists."""
    called: ClassVar[str]
    put_on: ClassVar[Switching]
    fields: ClassVar[Mapping[str, tuple[float, float, int]]]
    """What a file holds of it: least and largest value of a field, and how many it has (3 are a
    place)."""
    points: ClassVar[tuple[str, str]]
    """What a hand calls the places that its shadows and its rays run to."""
    grips: ClassVar[tuple[Grip, ...]]
    numbers: ClassVar[tuple[LightNumber, ...]]

    @property
    @abstractmethod
    def source(self) -> tuple[float, float, float, float]:
        """Where its rays come from, homogeneous: a place and 1, or a unit direction and 0."""

    @property
    def far(self) -> bool:
        """Whether all its rays run alike."""
        return self.source[3] == 0

    @classmethod
    @abstractmethod
    def usual(cls, heading_deg: float, corners: Sequence[WorldPlace]) -> Self:
        """The one that is put on, by our heading and the corners of all volumes."""

    @abstractmethod
    def beside(self, hair: float) -> Self:
        """A hair (mm or degrees) beside, at no round place."""

    @abstractmethod
    def turned(self, deg: float) -> "Self | None":
        """Turned about the framework, where that can be done."""

    @abstractmethod
    def lifted(self, mm: float) -> "Self | None":
        """Hung so high above the ground, where that can be done."""

    @abstractmethod
    def casting(self, corner: WorldPlace, ground: WorldPlace) -> Self:
        """The light whose ray through a corner of the world meets the ground at a place."""

    @abstractmethod
    def in_words(self, unit: str) -> str:
        """Where it stands, shortly."""

    @abstractmethod
    def building_in_words(self, shadows_at: str, rays_at: str) -> str:
        """Where shadows and rays run, as a hand builds with them."""


def within_reach(mm: float) -> float:
    """A place along an axis, no farther than the world goes."""
    return min(max(mm, -LARGEST_MM), LARGEST_MM)


FLAT, HATCH, NUMBERS, NONE = "flat", "hatch", "numbers", "none"
WAYS = (FLAT, HATCH, NUMBERS, NONE)


@dataclass(frozen=True)
class Shading:
    """How values are shown: in so many steps of grey, as flat tones, hatching, numbers or not;
    whether cast shadows are drawn; and the steps given by hand to faces, by the key of their volume
    and their number."""

    way: str = FLAT
    steps: int = USUAL_STEPS
    shadows: bool = True
    by_hand: tuple[tuple[int, int, int], ...] = field(default=())

    def __post_init__(self) -> None:
        if self.way not in WAYS:
            raise ChoiceError(_("Values are shown flat, as a hatch, as numbers or not at all."))
        if not FEWEST_STEPS <= self.steps <= MOST_STEPS:
            raise ChoiceError(_("Values have 3 to 6 steps: choose one of these."))

    def step_of(self, key: int, face: int) -> int | None:
        """The step given to a face by hand, or None."""
        for volume, number, step in self.by_hand:
            if (volume, number) == (key, face):
                return min(step, self.steps - 1)
        return None

"""The light of a sheet: the sun or a lamp, and how its values are shown."""

import math
from dataclasses import dataclass, field

from isometron.document.errors import ChoiceError
from isometron.perspective.eye import LARGEST_MM
from isometron.perspective.places import WorldPlace
from isometron.words import _

HIGHEST_DEG = 90.0
FEWEST_STEPS, MOST_STEPS, USUAL_STEPS = 3, 6, 5
"""With five, the three planes of a box that are lit have a step each."""


LESS = 0.618
"""A light a hair beside another is off by so much less along each further axis."""


@dataclass(frozen=True)
class Sun:
    """The sun: where it stands, measured like a heading (0 along world depth, to the right), and
    how high. Degrees."""

    azimuth_deg: float
    elevation_deg: float

    def __post_init__(self) -> None:
        if not math.isfinite(self.azimuth_deg) or abs(self.azimuth_deg) > 36_000:
            raise ChoiceError(_("The sun stands in no such direction: type an angle, say 135°."))
        if not 0 <= self.elevation_deg <= HIGHEST_DEG:
            raise ChoiceError(_("The sun stands between 0° (level) and 90° (overhead)."))

    @property
    def toward(self) -> WorldPlace:
        """Unit direction to the sun."""
        a, e = math.radians(self.azimuth_deg), math.radians(self.elevation_deg)
        return math.cos(e) * math.sin(a), math.cos(e) * math.cos(a), math.sin(e)

    def beside(self, hair: float) -> "Sun":
        """Turned by a hair, degrees, to no round place."""
        inward = LESS * abs(hair) * (1.0 if self.elevation_deg < 45.0 else -1.0)
        return Sun((self.azimuth_deg + hair) % 360.0, self.elevation_deg + inward)


@dataclass(frozen=True)
class Lamp:
    """A lamp at a place of the world, mm."""

    place_mm: WorldPlace

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.place_mm):
            raise ChoiceError(_("The lamp is out of reach: keep it within a kilometre."))

    def beside(self, hair: float) -> "Lamp":
        """Moved by a hair, mm, to no round place."""
        x, y, z = self.place_mm
        return Lamp((x + hair, y + LESS * hair, z + LESS * LESS * hair))


Light = Sun | Lamp

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

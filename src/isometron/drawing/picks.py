"""What a person has pointed at, and the readings that answer."""

from dataclasses import dataclass
from typing import NamedTuple


@dataclass(frozen=True)
class Pick:
    """Something on the board a person has pointed at.

    kind: "edge" (index 0…11), "face" (0…5), "corner" (0…7) of a volume, "point" with a family
    ("left", "right", "third", "centre"), "circle" (its number), or "curve" (an arc's number, −1 − n
    for outline n).
    """

    kind: str
    volume: int
    index: int = 0
    family: str = ""


class Row(NamedTuple):
    """One line of a reading: label, value, and its kind: mm, deg, percent, text, or place (the
    value is then a sheet point in mm)."""

    label: str
    value: float | str | tuple[float, float]
    kind: str


class Reading(NamedTuple):
    """A titled list of rows."""

    title: str
    rows: tuple[Row, ...]

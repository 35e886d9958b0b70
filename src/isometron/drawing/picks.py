"""What a person has pointed at, and the readings that answer."""

from dataclasses import dataclass
from typing import NamedTuple

from isometron.drawing.scene import Scene


@dataclass(frozen=True)
class Pick:
    """Something on the board a person has pointed at.

    kind: "edge", "face" or "corner" with its number in the body, "point" with a family
    ("left", "right", "third", "centre"), "circle" (its number), or "curve" (an arc's number, −1 − n
    for outline n).
    """

    kind: str
    volume: int
    index: int = 0
    family: str = ""


def is_there(scene: Scene, pick: Pick) -> bool:
    """Whether what was picked is still there: an edit may have taken it away."""
    if pick.volume >= len(scene.pictures):
        return False
    picture = scene.pictures[pick.volume]
    counts = {
        "edge": len(picture.edges),
        "corner": len(picture.world),
        "face": picture.body.faces,
        "circle": len(picture.body.circles),
        "curve": len(picture.body.arcs),
    }
    return pick.index < counts.get(pick.kind, pick.index + 1)


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

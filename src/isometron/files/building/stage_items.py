"""A stage of a build order as items of a page: its lines by age, its points with their letters."""

from typing import NamedTuple

import numpy as np

from isometron.construction.labels import label_centres
from isometron.construction.stages import Spot, Stage
from isometron.construction.strokes import AGES, BROKEN, NEW, OLD, Stroke
from isometron.drawing.pencils import Pencil
from isometron.files.building.order_words import LOOKS
from isometron.pages.flow import MM_PER_POINT, wide_of
from isometron.pages.page import (
    MIDDLE,
    Box,
    Cubics,
    Disc,
    Item,
    Lines,
    Placed,
    Words,
)
from isometron.perspective.places import Place, Rectangle

LEAST_MM = 0.4 * MM_PER_POINT
"""Thinner lines than this vanish on some printers."""

DASH_MM = (3 * MM_PER_POINT, 2 * MM_PER_POINT)
LABEL_MM = 8.0 * MM_PER_POINT
NEW_MM, OLD_MM = 1.8 * MM_PER_POINT, 1.0 * MM_PER_POINT
APART_MM = 6.0 * MM_PER_POINT
EDGE = Pencil("#a69980", 0.5 * MM_PER_POINT)
"""The edge of the paper, or of a part of it."""


class Look(NamedTuple):
    """How a part of the sheet lies on a page: mm of the page to a mm of the sheet, and where the
    sheet's corner is."""

    scale: float
    corner: Place

    def at(self, places: np.ndarray) -> np.ndarray:
        """Places of the sheet (..., 2) on the page."""
        return places * self.scale + self.corner


def look_at(part: Rectangle, box: Box) -> Look:
    """A part of the sheet as large as a box of the page takes."""
    scale = min(box[2] / (part[2] - part[0]), box[3] / (part[3] - part[1]))
    return Look(scale, (box[0] - scale * part[0], box[1] - scale * part[1]))


def pencil_of(age: str) -> Pencil:
    """What draws lines of an age."""
    colour, wide = LOOKS[age]
    return Pencil(colour, max(wide, LEAST_MM), DASH_MM if age in BROKEN else ())


def framed(stage: Stage, part: Rectangle, box: Box) -> Placed:
    """A part of the sheet in a box of the page, cut to it."""
    look = look_at(part, box)
    return Placed((*drawn(stage, look), *_spots(stage.spots, look, box)), box=box)


def edge_of(box: Box) -> Lines:
    """The edge of the paper, or of a part of it."""
    left, bottom, wide, high = box
    x, y = left + wide, bottom + high
    ends = [[left, bottom, x, bottom], [x, bottom, x, y], [x, y, left, y], [left, y, left, bottom]]
    return Lines(EDGE, np.array(ends))


def drawn(stage: Stage, look: Look) -> list[Item]:
    """The lines of a stage, older ones below."""
    found: list[Item] = []
    for age in AGES:
        found += strokes_of([one for one in stage.strokes if one.age == age], pencil_of(age), look)
    return found


def strokes_of(strokes: list[Stroke], pencil: Pencil, look: Look) -> list[Item]:
    """Strokes of one pencil."""
    found: list[Item] = []
    straight = [one.ends for one in strokes if one.cubics is None and one.ends is not None]
    if straight:
        found.append(Lines(pencil, look.at(np.array(straight)).reshape(-1, 4)))
    return found + [
        Cubics(pencil, look.at(one.cubics)) for one in strokes if one.cubics is not None
    ]


def _spots(spots: tuple[Spot, ...], look: Look, box: Box) -> list[Item]:
    """The points inside a frame with their letters, new ones first served."""
    low, high = np.array(box[:2]), np.array(box[:2]) + box[2:]
    shown = []
    for spot in sorted(spots, key=lambda spot: not spot.new):
        place = look.at(np.array(spot.place))
        if (place >= low).all() and (place <= high).all():
            shown.append((spot, place))
    if not shown:
        return []
    sizes = [(wide_of(spot.label, LABEL_MM, bold=spot.new), LABEL_MM) for spot, _unused in shown]
    places = np.array([place for _spot, place in shown])
    centres = label_centres(places, np.array(sizes), APART_MM, np.concatenate([low, high]))
    found: list[Item] = []
    for (spot, place), (x, y) in zip(shown, centres.tolist(), strict=True):
        colour = LOOKS[NEW if spot.new else OLD][0]
        found.append(Disc(colour, (place[0], place[1]), NEW_MM if spot.new else OLD_MM))
        foot = (x, y - 0.36 * LABEL_MM)
        found.append(Words(spot.label, foot, LABEL_MM, colour, MIDDLE, bold=spot.new))
    return found

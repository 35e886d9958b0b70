"""A page as a display list: what stands on it, lowest first, in mm with y up from the lower left.

The writers (`svg`, `pdf`, `raster`, and the painter in `render`) know these items and nothing of
what they show; y is turned downward in the writers only.
"""

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from isometron.drawing.curves import ellipse_cubics
from isometron.drawing.dimension_marks import CAPITALS, Label
from isometron.drawing.pencils import Pencil
from isometron.perspective.eye import Array
from isometron.perspective.places import Place

Box = tuple[float, float, float, float]
"""Left, bottom, width, height, mm."""

INK = "#1f2426"
"""Words of pages that say no other colour."""

START, MIDDLE, END = "start", "middle", "end"
"""Which part of words stands at their place."""


class Lines(NamedTuple):
    """Straight lines (n, 4) x0, y0, x1, y1 of one pencil."""

    pencil: Pencil
    ends: Array


class Arcs(NamedTuple):
    """Arcs (n, 3, 3) of conics, homogeneous control points, of one pencil."""

    pencil: Pencil
    arcs: Array


class Cubics(NamedTuple):
    """One curve of cubics (n, 4, 2) that follow each other."""

    pencil: Pencil
    cubics: Array


class Area(NamedTuple):
    """A filled area: how much of the paper it covers (0 to 1), and what gives its rings as polygons
    (n, 2), and as arcs (n, 3, 3) true to the drawing, for a writer that has curves."""

    colour: str
    cover: float
    polygons: Callable[[], Sequence[Array]]
    rings: Callable[[], Sequence[Array]]


class Boxes(NamedTuple):
    """Filled boxes (n, 4): left, bottom, width, height."""

    colour: str
    boxes: Array


class Disc(NamedTuple):
    """A filled disc."""

    colour: str
    place: Place
    radius_mm: float


class Words(NamedTuple):
    """Words at a place: their em in mm, and how they run, degrees to the level."""

    text: str
    place: Place
    size_mm: float
    colour: str = INK
    stands: str = START
    bold: bool = False
    angle_deg: float = 0.0
    label: Label | None = None
    """The label of a sheet that they are, which hangs or stands by the height of its capitals."""


class Picture(NamedTuple):
    """An encoded picture (PNG or JPEG): its lower left corner, its size, its turn about that corner
    (degrees), and how strongly it is shown (0 to 1)."""

    content: bytes
    corner: Place
    size: Place
    turn_deg: float = 0.0
    strength: float = 1.0


class Link(NamedTuple):
    """A box that leads to a bookmark of the same file; nowhere when there is none of that key."""

    box: Box
    to: str


class Layer(NamedTuple):
    """Items under a name, in formats that know layers; `key` names it for programs."""

    name: str
    items: "tuple[Item, ...]"
    key: str = ""


class Placed(NamedTuple):
    """Items moved by (x, y), and cut to a box of the page, if one is given."""

    items: "tuple[Item, ...]"
    by: Place = (0.0, 0.0)
    box: Box | None = None


class Kept(NamedTuple):
    """Items that come back: a writer that can draws them once for each key. `around` holds them
    all: left, bottom, right, top."""

    key: str
    around: Box
    items: "Callable[[], tuple[Item, ...]]"


Item = Lines | Arcs | Cubics | Area | Boxes | Disc | Words | Picture | Link | Layer | Placed | Kept


class Bookmark(NamedTuple):
    """A place in a file by which it is found: its key, its title, the top of what it shows, mm."""

    key: str
    title: str
    top_mm: float


class Page(NamedTuple):
    """One page: width and height, its items, its bookmarks."""

    size_mm: Place
    items: tuple[Item, ...]
    bookmarks: tuple[Bookmark, ...] = ()


class Pages(NamedTuple):
    """The pages of one file under a title."""

    title: str
    pages: tuple[Page, ...]


def words_of(label: Label, colour: str) -> Words:
    """The label of a sheet as words."""
    return Words(
        label.words,
        label.foot(),
        label.size_mm / CAPITALS,
        colour,
        MIDDLE,
        angle_deg=label.angle_deg,
        label=label,
    )


def circle(pencil: Pencil, centre: Place, radius_mm: float) -> Cubics:
    """A circle."""
    return Cubics(pencil, ellipse_cubics(np.array([*centre, radius_mm, radius_mm, 0.0])))

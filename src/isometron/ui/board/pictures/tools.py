"""The tools that mark a picture: what each takes, and what a row of places means.

To add one, write it here; the board, its switches and the help read this table."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from isometron.document.document import Document
from isometron.document.edits.pictures import marking
from isometron.document.edits.pictures.bringing import change_picture, in_work
from isometron.document.marks import FAMILIES
from isometron.perspective.places import Place
from isometron.words import _

if TYPE_CHECKING:
    from isometron.reading.of_picture import PictureReading
    from isometron.reading.results import Reading


@dataclass(frozen=True)
class Given:
    """What a tool marks with: the places that were clicked or dragged between, whether it lays
    itself to what shows in the picture, within how many px, and what has been read so far."""

    places: Sequence[Place]
    snaps: bool
    beside: float
    read: "PictureReading | None"

    @property
    def reading(self) -> "Reading | None":
        """What has been read so far, without its fit."""
        return None if self.read is None else self.read.reading


Marks = Callable[[Document, Given], Document]


@dataclass(frozen=True)
class PictureTool:
    """One tool: its key, its name on the board, its switch, tip and hint; what undo calls a mark of
    it; how many places it takes at least and at most, whether a drag gives its first two; and the
    edit."""

    key: str
    title: str
    switch: str
    tip: str
    hint: str
    name: str
    least: int
    most: int
    marks: Marks
    drags: bool = False
    closed: bool = False
    boxed: "Marks | None" = None
    """What a drag means, when that is a box."""


def _edge(document: Document, given: Given) -> Document:
    from isometron.reading.of_picture import likely_family, snapped

    start, end = given.places[0], given.places[-1]
    picture = in_work(document)
    if given.snaps:
        start, end = snapped(picture.file.content, start, end, given.beside)
    family = likely_family(picture, start, end, given.reading)
    return marking.add_edge(document, start, end, family)


def _corner(document: Document, given: Given) -> Document:
    from isometron.reading.of_picture import corner_at, likely_corner

    picture = in_work(document)
    at, *ends = given.places
    if given.snaps:
        at, ends = corner_at(picture.file.content, at, ends, given.beside)
    named = _named(picture_families(document, at, ends, given.reading), ends)
    noise = given.reading.noise.value if given.reading is not None else 0.0
    corner = likely_corner(picture, at, named, max(noise, 1.0))
    return marking.add_corner(document, corner, at, named)


def picture_families(
    document: Document, at: Place, ends: Sequence[Place], read: "Reading | None"
) -> list[str]:
    """Families of a corner's edges, no two alike, all of the thing itself."""
    from isometron.reading.of_picture import likely_family

    picture = in_work(document)
    wanted = [likely_family(picture, at, end, read) for end in ends]
    found: list[str] = []
    for name in wanted:
        fair = name in FAMILIES and name not in found
        left = [one for one in ("height", "width", "depth") if one not in found + wanted]
        spare = [one for one in ("width", "depth", "height") if one not in found]
        found.append(name if fair else (left or spare)[0])
    return found


def _named(families: Sequence[str], ends: Sequence[Place]) -> list[tuple[str, Place]]:
    return list(zip(families, ends, strict=True))


def _rim(document: Document, given: Given) -> Document:
    from isometron.reading.of_picture import likely_axle

    axle = likely_axle(in_work(document), given.places, given.read)
    return marking.add_round(document, given.places, axle)


def _rim_in_box(document: Document, given: Given) -> Document:
    from isometron.reading.of_picture import likely_axle, rim_in

    picture, box = in_work(document), (given.places[0], given.places[-1])
    px_per_mm = None if picture.paper_mm is None else picture.width / picture.paper_mm[0]
    points = rim_in(picture.file.content, box, px_per_mm)
    axle = likely_axle(in_work(document), points, given.read)
    return marking.add_round(document, points, axle)


def _thing(document: Document, given: Given) -> Document:
    from isometron.reading.of_picture import weighed

    box = given.places[0], given.places[-1]
    return change_picture(document, lambda picture: weighed(picture, box))


def _row(document: Document, given: Given) -> Document:
    from isometron.reading.of_picture import likely_family

    picture = in_work(document)
    family = likely_family(picture, given.places[0], given.places[-1], given.reading)
    return marking.add_row(document, given.places, family)


EDGE = PictureTool(
    "mark edge",
    _("Marking edges"),
    _("Edge"),
    _("Drag along an edge of the thing; the line lays itself to it (E)."),
    _("drag along an edge; Alt holds it where you draw it."),
    _("mark an edge"),
    2,
    2,
    _edge,
    drags=True,
)
CORNER = PictureTool(
    "mark corner",
    _("Marking a corner"),
    _("Corner"),
    _("Click a corner of the thing, then the far ends of its three edges (C)."),
    _("click a corner, then the far ends of the three edges that meet there."),
    _("mark a corner"),
    3,
    4,
    _corner,
)
RIM = PictureTool(
    "mark rim",
    _("Marking a rim"),
    _("Rim"),
    _("Drag a box over a rim, or click at least six points along it (R)."),
    _("drag a box over a rim, or click points along it; Enter ends it."),
    _("mark a rim"),
    6,
    200,
    _rim,
    closed=True,
    boxed=_rim_in_box,
)
ROW = PictureTool(
    "mark row",
    _("Measuring along a line"),
    _("Along a line"),
    _("Click three or more places along one straight line of the thing (A)."),
    _("click three or more places along one straight line; Enter ends it."),
    _("measure along a line"),
    3,
    50,
    _row,
)
THING = PictureTool(
    "thing in a box",
    _("The thing in hand"),
    _("Thing"),
    _("Drag a box round the thing: only lines within it are read (B)."),
    _("drag a box round the thing; only lines within it are read."),
    _("the thing in hand"),
    2,
    2,
    _thing,
    boxed=_thing,
)
SPOT = PictureTool(
    "mark point",
    _("Marking a point"),
    _("Point"),
    _("Click a place that you want to name (P)."),
    _("click a place; name it on the card."),
    _("mark a point"),
    1,
    1,
    lambda document, given: marking.add_spot(document, given.places[0]),
)
PICTURE_TOOLS = (THING, EDGE, CORNER, RIM, ROW, SPOT)

"""Marks on a picture: edges, rims, and what is known of them."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.words import _

FAMILIES = ("width", "depth", "height")
"""The families of a box, at right angles to each other; height is upright. Others are free."""

LARGEST = 1e7
"""Coordinates of marks, in the picture's own unit, are no larger."""

MOST_MARKS = 20_000

FAINT = 0.5
"""What a faint stroke of construction weighs."""


class MarksError(IsometronError):
    """Marks that cannot be read."""


@dataclass(frozen=True)
class Edge:
    """A straight edge: its two ends, the family it belongs to, the corners of the box it joins
    (numbered as in the report: bits width, depth, height), or None; open_ends: only its direction
    counts, since its ends are no corners; weight: how much its misses count, at most 1; left: it is
    not read; name: what the person calls it; found: the program found it by itself; mended:
    what was off in it has been put right on paper."""

    start: Place
    end: Place
    family: str
    corners: tuple[int, int] | None = None
    open_ends: bool = False
    weight: float = 1.0
    left: bool = False
    name: str = ""
    found: bool = False
    mended: bool = False

    @property
    def faint(self) -> bool:
        """Whether it is faint construction: found by the program, weighing less. It helps to tell
        the points, and is not judged."""
        return self.found and self.weight <= FAINT


@dataclass(frozen=True)
class Round:
    """A rim: points along it, the family its axle belongs to ("" when none is said), its name; how
    much its misses count; whether it is not read."""

    points: tuple[Place, ...]
    axle: str = ""
    name: str = ""
    weight: float = 1.0
    left: bool = False
    mended: bool = False


@dataclass(frozen=True)
class Row:
    """Places along one straight line of the thing, in order: at least three; the family it runs
    with, its name, whether what was off in it has been mended."""

    points: tuple[Place, ...]
    family: str
    name: str = ""
    mended: bool = False


@dataclass(frozen=True)
class Known:
    """What is known of edges, by their numbers: a "length" (value), a "ratio" of the first to the
    second (value), "equal" lengths, or that two are sides of a "square"."""

    kind: str
    edges: tuple[int, ...]
    value: float | None = None


@dataclass(frozen=True)
class Lens:
    """A station distance that is known beforehand, from EXIF say, and how surely."""

    station_distance: float
    standard_error: float


@dataclass(frozen=True)
class Picture:
    """Size of a picture in its own unit, and its centre of vision when that is known."""

    width: float
    height: float
    centre_of_vision: Place | None = None


@dataclass(frozen=True)
class Marks:
    """All marks on one picture; lengths in one unit (mm or px), y upward from the lower left
    corner. noise: how far a marked end lies off in each direction, as a standard deviation; None
    when that is to be told from the marks themselves, but no less than least_noise."""

    picture: Picture
    edges: tuple[Edge, ...] = ()
    rounds: tuple[Round, ...] = ()
    known: tuple[Known, ...] = ()
    noise: float | None = None
    lens: Lens | None = None
    rows: tuple[Row, ...] = ()
    least_noise: float = 0.0

    def __post_init__(self) -> None:
        size = (self.picture.width, self.picture.height)
        if not all(math.isfinite(v) and 0 < v <= LARGEST for v in size):
            raise MarksError(_("The picture has no size: give its width and height."))
        if len(self.edges) + len(self.rounds) > MOST_MARKS:
            raise MarksError(_("These are too many marks: keep those that matter."))
        places = [p for e in self.edges for p in (e.start, e.end)]
        places += [p for rim in self.rounds for p in rim.points]
        places += [p for row in self.rows for p in row.points]
        if self.picture.centre_of_vision is not None:
            places.append(self.picture.centre_of_vision)
        if not all(_fair(v) for place in places for v in place):
            raise MarksError(
                _("A mark lies nowhere near the picture: give its place in the picture's unit.")
            )
        if self.noise is not None and not (math.isfinite(self.noise) and 0 < self.noise <= LARGEST):
            raise MarksError(_("The noise of marks is a length above 0: give it, or null."))
        for number, edge in enumerate(self.edges):
            _check_edge(number, edge)
        weights = [*(e.weight for e in self.edges), *(rim.weight for rim in self.rounds)]
        if not all(0 < weight <= 1 for weight in weights):
            raise MarksError(_("A mark counts by a weight above 0, at most 1: give such a one."))
        for row in self.rows:
            if len(row.points) < 3 or len(set(row.points)) < len(row.points):
                raise MarksError(_("A row has at least three places, all apart: mark them anew."))
        for one in self.known:
            _check_known(one, self.edges)
        if self.lens is not None and not (
            _fair(self.lens.station_distance)
            and self.lens.station_distance > 0
            and _fair(self.lens.standard_error)
            and self.lens.standard_error > 0
        ):
            raise MarksError(_("The lens hint is no length with its error: give both above 0."))


def _fair(value: float) -> bool:
    return math.isfinite(value) and abs(value) <= LARGEST


def _check_edge(number: int, edge: Edge) -> None:
    if edge.start == edge.end:
        raise MarksError(
            _("Edge {number} has no length: mark its two ends apart.").format(number=number)
        )
    if edge.corners is None:
        return
    first, second = edge.corners
    if edge.family not in FAMILIES:
        raise MarksError(
            _(
                "Edge {number} joins corners of the box but belongs to “{family}”: say width, "
                "depth or height."
            ).format(number=number, family=edge.family)
        )
    bit = 1 << FAMILIES.index(edge.family)
    if not (0 <= first < 8 and 0 <= second < 8 and first ^ second == bit):
        raise MarksError(
            _("Corners {one} and {two} of edge {number} are no ends of a {family}.").format(
                one=first, two=second, number=number, family=edge.family
            )
        )


def _check_known(one: Known, edges: Iterable[Edge]) -> None:
    count = len(tuple(edges))
    wanted = 1 if one.kind == "length" else 2
    if one.kind not in ("length", "ratio", "equal", "square") or len(one.edges) < wanted:
        raise MarksError(
            _("What is known is a length, a ratio, equal lengths or a square, with its edges.")
        )
    if any(not 0 <= number < count for number in one.edges):
        raise MarksError(_("What is known speaks of an edge that is not marked: number it anew."))
    valued = one.kind in ("length", "ratio")
    if valued and not (one.value is not None and _fair(one.value) and one.value > 0):
        raise MarksError(_("A known length or ratio has a value above 0: give it."))

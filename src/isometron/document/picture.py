"""A picture of a sheet: its file, what is marked on it, and how it lies under the sheet."""

import hashlib
import math
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from isometron.document.errors import ChoiceError
from isometron.document.marks import (
    LARGEST,
    Edge,
    Known,
    Lens,
    Marks,
    Picture,
    Round,
    Row,
)
from isometron.nearness import NEAR
from isometron.perspective.eye import Eye
from isometron.perspective.places import Place
from isometron.words import _, said

MOST_BYTES = 16_000_000
"""An encoded picture takes no more; a larger one is made smaller when it is brought in."""

MOST_PICTURES = 6
"""Pictures that one sheet carries."""

LEAST_NOISE_PX = 0.06
"""No line of a picture is known better: its pixels are squares, and its edges are not."""

LONGEST_NAME = 120

STRENGTH = 0.45
"""How strong a picture shows under the lines at first."""


EDGE, ROUND, ROW, SPOT = said("edge"), said("rim"), said("row"), said("point")
"""Kinds of marks."""


class Mark(NamedTuple):
    """One mark of a picture: its kind and its number among those of its kind."""

    kind: str
    number: int


@dataclass(frozen=True, eq=False)
class PictureFile:
    """An encoded picture. Two are the same when their content is; it is never copied, whatever
    document holds it. stand_in: what stands for the content where it is kept elsewhere."""

    content: bytes
    stand_in: str = ""
    sha256: str = field(init=False)

    def __post_init__(self) -> None:
        if len(self.content) > MOST_BYTES:
            raise ChoiceError(
                _("A picture of {size} MB is more than a sheet carries: make it smaller.").format(
                    size=round(len(self.content) / 1e6)
                )
            )
        object.__setattr__(self, "sha256", hashlib.sha256(self.content).hexdigest())

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, PictureFile) and self.sha256 == other.sha256)

    def __hash__(self) -> int:
        return hash(self.sha256)


@dataclass(frozen=True)
class Spot:
    """A named place of a picture, px."""

    place: Place
    name: str = ""


@dataclass(frozen=True)
class Laid:
    """How a picture lies under the sheet: the place of the picture (px) that lies at a place of the
    sheet (mm), mm per px, how far it is turned about there (degrees, counter-clockwise: the roll
    taken out), the eye it is seen from, how strong it shows, whether it shows, whether it goes
    out with the sheet, and whether its view stays as a ghost when we look from elsewhere."""

    centre_px: Place
    at_mm: Place
    mm_per_px: float
    turn_deg: float
    eye: Eye
    strength: float = STRENGTH
    shown: bool = True
    sent: bool = False
    ghost: bool = True

    def __post_init__(self) -> None:
        places = (*self.centre_px, *self.at_mm, self.turn_deg)
        fair = all(math.isfinite(v) and abs(v) <= LARGEST for v in places)
        if not fair or not NEAR <= self.mm_per_px <= 1e4 or not 0 <= self.strength <= 1:
            raise ChoiceError(_("The picture cannot lie so under the sheet: lay it anew."))

    def seen_from(self, eye: Eye) -> "Laid | None":
        """How it lies under the sheet seen from an eye: another station distance or centre of
        vision makes the picture larger or pushes it along; from another place, or looking another
        way, it does not fit (None)."""
        own = self.eye
        same = (own.x_mm, own.y_mm, own.height_mm, own.heading_deg, own.tilt_deg)
        if same != (eye.x_mm, eye.y_mm, eye.height_mm, eye.heading_deg, eye.tilt_deg):
            return None
        grown = eye.station_distance_mm / own.station_distance_mm
        (x, y), (ox, oy), (ax, ay) = (
            eye.centre_of_vision_mm,
            own.centre_of_vision_mm,
            self.at_mm,
        )
        at = (x + (ax - ox) * grown, y + (ay - oy) * grown)
        return replace(self, eye=eye, at_mm=at, mm_per_px=self.mm_per_px * grown)

    def on_sheet(self, place: Place) -> Place:
        """Where a place of the picture (px) lies on the sheet (mm)."""
        x, y = place[0] - self.centre_px[0], place[1] - self.centre_px[1]
        c, s = self.mm_per_px * self._cos, self.mm_per_px * self._sin
        return self.at_mm[0] + c * x - s * y, self.at_mm[1] + s * x + c * y

    def on_picture(self, place: Place) -> Place:
        """Which place of the picture (px) lies at one of the sheet (mm)."""
        x, y = place[0] - self.at_mm[0], place[1] - self.at_mm[1]
        c, s = self._cos / self.mm_per_px, self._sin / self.mm_per_px
        return self.centre_px[0] + c * x + s * y, self.centre_px[1] - s * x + c * y

    @property
    def _cos(self) -> float:
        return math.cos(math.radians(self.turn_deg))

    @property
    def _sin(self) -> float:
        return math.sin(math.radians(self.turn_deg))


WAYS, CUT = "ways", "cut"
DOUBTS = ("", WAYS, CUT)
"""What may be in doubt of found lines: nothing; whether several eyes explain them about as well;
whether the picture is all that the camera saw."""


@dataclass(frozen=True)
class SheetPicture:
    """A picture with its marks; places in px, right and up from its lower left corner.

    smaller: how many times smaller it is than the file it came from. cropped: it may be a part of
    what the camera saw, so that its middle says nothing. lens: the station distance as its file
    told it, and whether that is used (lens_used). bend: how the lens bends straight lines,
    p_ideal − c = (p − c)(1 + bend r²), r in longer sides of the picture, with its standard error;
    long_lines: how many lines
    showed it, -1 before any were looked for. noise: how far marks lie off, px; None when they
    shall tell it. paper_mm: the size of the sheet of paper that it shows straightened; None for a
    picture of a thing. corners: those of a sheet of paper that is not straightened yet. centre: the
    centre of vision, px, where that is known to lie elsewhere than in the middle. dpi: of a scan,
    where its file or a person says it."""

    name: str
    file: PictureFile
    width: int
    height: int
    smaller: float = 1.0
    cropped: bool = False
    lens: Lens | None = None
    lens_used: bool = True
    bend: float = 0.0
    bend_error: float = 0.0
    long_lines: int = -1
    noise: float | None = None
    edges: tuple[Edge, ...] = ()
    rounds: tuple[Round, ...] = ()
    rows: tuple[Row, ...] = ()
    spots: tuple[Spot, ...] = ()
    known: tuple[Known, ...] = ()
    laid: Laid | None = None
    paper_mm: tuple[float, float] | None = None
    corners: tuple[Place, ...] = ()
    centre: Place | None = None
    dpi: float | None = None
    doubt: str = ""
    """What is in doubt of the lines that were found: one of DOUBTS."""

    def __post_init__(self) -> None:
        if not (0 < self.width <= 60_000 and 0 < self.height <= 60_000):
            raise ChoiceError(_("The picture has no size: bring it in anew."))
        if self.dpi is not None and not 1 <= self.dpi <= 20_000:
            raise ChoiceError(_("No scan has so many dots per inch: type a number from 1 on."))
        if self.corners and (
            len(self.corners) != 4
            or not all(math.isfinite(v) and abs(v) <= LARGEST for p in self.corners for v in p)
        ):
            raise ChoiceError(_("A sheet of paper has four corners: mark them anew."))
        if len(self.name) > LONGEST_NAME:
            object.__setattr__(self, "name", self.name[:LONGEST_NAME])
        self.marks  # noqa: B018 - refuses marks that make no sense

    @property
    def marks(self) -> Marks:
        """What is marked on it, as it lies in the picture. Raises MarksError."""
        return Marks(
            Picture(*self.size, None if self.cropped else self.looked_at),
            self.edges,
            self.rounds,
            self.known,
            self.noise,
            self.lens if self.lens_used else None,
            self.rows,
        )

    @property
    def size(self) -> tuple[float, float]:
        """Width and height, px."""
        return float(self.width), float(self.height)

    @property
    def looked_at(self) -> Place:
        """Where the centre of vision is taken to lie, px."""
        return self.centre or self.middle

    @property
    def middle(self) -> Place:
        """Its middle, px."""
        return self.width / 2, self.height / 2

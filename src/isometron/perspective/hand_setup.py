"""The hand's set-up: what a sketcher lays down with a pencil, and the eye it implies.

Each kind of set-up states the picture by marks on the sheet; `station()` gives what those marks
say about the eye (derivations in docs/numbers.md). A near edge then says where the eye stands.
"""

import math
from dataclasses import dataclass

import numpy as np

from isometron.perspective.angles import EXTENDED, cosine_sine, from_quarter, wrapped
from isometron.perspective.errors import SetupError
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.lengths import write_number
from isometron.perspective.places import Place
from isometron.perspective.vanishing import PARALLEL
from isometron.words import _

QUARTER_DEG = 1e-11
"""A turn this near to a whole number of quarters is one, degrees."""


@dataclass(frozen=True)
class Station:
    """What the marks say: centre of vision (sheet mm), station distance (mm), tilt (degrees), and
    the turn: degrees from the picture plane to the level direction that runs to the right."""

    centre_of_vision_mm: Place
    station_distance_mm: float
    tilt_deg: float
    turn_deg: float


@dataclass(frozen=True)
class OnePoint:
    """A face square to us, a level eye. The station distance cannot be read from such a picture,
    so it is part of the set-up."""

    centre_of_vision_mm: Place
    station_distance_mm: float

    def station(self) -> Station:
        """The eye these marks imply."""
        _refuse_nowhere(self.station_distance_mm)
        return Station(self.centre_of_vision_mm, self.station_distance_mm, 0.0, 0.0)


@dataclass(frozen=True)
class TwoPoint:
    """An upright edge nearest us, a level eye: two points on the eye level, CV between them."""

    eye_level_mm: float
    left_mm: float
    right_mm: float
    centre_mm: float

    def station(self) -> Station:
        """The eye these marks imply: d² = (cx − VP_L)(VP_R − cx)."""
        before, behind = _either_side(self.left_mm, self.centre_mm, self.right_mm)
        turn = math.degrees(math.atan2(math.sqrt(before), math.sqrt(behind)))
        return Station((self.centre_mm, self.eye_level_mm), math.sqrt(before * behind), 0.0, turn)


@dataclass(frozen=True)
class SquareTwoPoint:
    """A face square to us seen with a tilted eye: one point on the eye level, the third point
    straight above or below it, the centre of vision between the two."""

    eye_level_mm: float
    third_mm: float
    centre_of_vision_mm: Place

    def station(self) -> Station:
        """The eye these marks imply: d² = (e − cy)(cy − t)."""
        cy = self.centre_of_vision_mm[1]
        product = (self.eye_level_mm - cy) * (cy - self.third_mm)
        _refuse_unless(
            product > 0,
            _(
                "The centre of vision must lie between the eye level and the third point: "
                "move the third point further away."
            ),
        )
        d = math.sqrt(product)
        tilt = math.degrees(math.atan2(cy - self.eye_level_mm, d))
        return Station(self.centre_of_vision_mm, d, tilt, 0.0)


@dataclass(frozen=True)
class ThreePoint:
    """A corner nearest us: two points on the eye level and the third point for the uprights.

    `third_mm` is its place on the sheet; its upright through the sheet carries the centre of
    vision, which is the orthocentre of the three.
    """

    eye_level_mm: float
    left_mm: float
    right_mm: float
    third_mm: Place

    def station(self) -> Station:
        """The eye these marks imply: the orthocentre, and d² = −(VP_i − CV)·(VP_j − CV)."""
        cx, t = self.third_mm
        before, behind = _either_side(self.left_mm, cx, self.right_mm)
        product = before * behind
        height = self.eye_level_mm - t
        _refuse_unless(
            height * height > product,
            _(
                "The three vanishing points must make a triangle with only sharp corners: "
                "move the third point more than {product} mm from the eye level."
            ).format(product=write_number(math.sqrt(product), 0)),
        )
        cy = self.eye_level_mm - product / height
        d = math.sqrt(product - (product / height) ** 2)
        tilt = math.degrees(math.atan2(cy - self.eye_level_mm, d))
        turn = math.degrees(math.atan2(math.sqrt(before), math.sqrt(behind)))
        return Station((cx, cy), d, tilt, turn)


HandSetup = OnePoint | TwoPoint | SquareTwoPoint | ThreePoint


@dataclass(frozen=True)
class NearEdge:
    """The nearest upright edge: its foot (the near corner) on the sheet, and its drawn length."""

    corner_mm: Place
    drawn_mm: float


def setup_of(eye: Eye, right_yaw_deg: float) -> HandSetup:
    """The hand's set-up of an eye, for level directions at `right_yaw_deg` and square to it.

    `right_yaw_deg` is the yaw of the level direction that runs to the right (any multiple of 90°
    more or less means the same pair). Raises SetupError when the sight line is vertical.
    """
    level = eye_level(eye)
    if level is None:
        raise SetupError(
            _("Looking straight down or up, no eye level crosses the sheet: tilt less than 90°.")
        )
    turn = EXTENDED(right_yaw_deg) + EXTENDED(eye.heading_deg)
    cosine, sine = (abs(v) for v in cosine_sine(turn - 90 * np.floor(turn / 90)))
    ct, st = cosine_sine(eye.tilt_deg)
    cx, cy = eye.centre_of_vision_mm
    d = EXTENDED(eye.station_distance_mm)
    square = min(cosine, sine) < PARALLEL
    third = float(cy + d * ct / st) if abs(st) >= PARALLEL else None
    if square:
        if third is None:
            return OnePoint((cx, cy), eye.station_distance_mm)
        return SquareTwoPoint(level, third, (cx, cy))
    left, right = float(cx - d / ct * sine / cosine), float(cx + d / ct * cosine / sine)
    if third is None:
        return TwoPoint(level, left, right, cx)
    return ThreePoint(level, left, right, (cx, third))


def station_of(eye: Eye, right_yaw_deg: float) -> Station:
    """The station of an eye, told for the level direction at `right_yaw_deg`."""
    turn = wrapped(right_yaw_deg + eye.heading_deg)
    return Station(eye.centre_of_vision_mm, eye.station_distance_mm, eye.tilt_deg, turn)


def eye_at(
    station: Station,
    right_yaw_deg: float,
    near_edge: NearEdge,
    corner_world: tuple[float, float, float],
    true_height_mm: float,
) -> Eye:
    """The eye at a station that sees the near edge where it is drawn.

    `corner_world` (mm) is the foot of the near edge, `true_height_mm` its true length,
    `right_yaw_deg` the yaw of the level direction running to the right VP. The depth of the near
    corner follows in closed form from the drawn length of its upright (docs/numbers.md).
    Raises SetupError for marks that no eye sees.
    """
    _refuse_unless(
        near_edge.drawn_mm > 0 and true_height_mm > 0,
        _("The near edge needs a length: pull its ends apart."),
    )
    _refuse_nowhere(station.station_distance_mm)
    ct, st = (float(v) for v in cosine_sine(station.tilt_deg))
    d = station.station_distance_mm
    a = (near_edge.corner_mm[0] - station.centre_of_vision_mm[0]) / d
    b = (near_edge.corner_mm[1] - station.centre_of_vision_mm[1]) / d
    drawn_at_depth_one = d * true_height_mm * math.hypot(a * st, ct - b * st)
    depth = drawn_at_depth_one / near_edge.drawn_mm - true_height_mm * st
    _refuse_unless(
        depth > 0 and depth + true_height_mm * st > 0,
        _("An edge drawn that long would reach behind the eye: draw it shorter or step back."),
    )
    heading = float(EXTENDED(station.turn_deg) - EXTENDED(right_yaw_deg))
    ch, sh = (float(v) for v in cosine_sine(heading))
    along, up, ahead = a * depth, b * depth, depth
    x = along * ch - up * sh * st + ahead * sh * ct
    y = -along * sh - up * ch * st + ahead * ch * ct
    z = up * ct + ahead * st
    px, py, pz = corner_world
    return Eye(px - x, py - y, pz - z, heading, station.tilt_deg, d, station.centre_of_vision_mm)


def right_going_yaw(eye: Eye, yaw_deg: float) -> float:
    """Of the level directions at `yaw_deg` and square to it, the yaw of the one running right.

    Its turn from the picture plane (yaw + heading) lies in [0°, 90°).
    """
    turn = yaw_deg + eye.heading_deg
    if abs(from_quarter(turn)) < QUARTER_DEG:
        return yaw_deg - 90.0 * round(turn / 90.0)
    return yaw_deg - 90.0 * math.floor(turn / 90.0)


def family_of(eye: Eye, direction: Array) -> str:
    """ "left", "right", "third" or "centre": where a box direction runs; "" when it stays parallel.

    For the three directions of an upright volume. "centre" is the one point of a face square to us.
    """
    along = np.asarray(direction, dtype=float)
    if abs(along[2]) > math.hypot(along[0], along[1]):
        return "third" if abs(cosine_sine(eye.tilt_deg)[1]) >= PARALLEL else ""
    if abs(eye.tilt_deg) == 90.0:
        return ""
    turn = math.degrees(math.atan2(along[1], along[0])) + eye.heading_deg
    if abs(from_quarter(turn)) < QUARTER_DEG:
        square_ahead = round(turn / 90.0) % 2 == 1
        return "centre" if square_ahead else ""
    return "right" if turn % 180.0 < 90.0 else "left"


def _either_side(left: float, centre: float, right: float) -> tuple[float, float]:
    if not left < right:
        raise SetupError(
            _(
                "The left and right vanishing points coincide or have changed sides: move "
                "the left one to the left."
            )
        )
    if not left < centre < right:
        raise SetupError(
            _(
                "The centre of vision must lie between the two vanishing points: move it, "
                "or the point that has passed it."
            )
        )
    return centre - left, right - centre


def _refuse_nowhere(station_distance_mm: float) -> None:
    _refuse_unless(
        station_distance_mm > 0, _("The station distance must be more than nothing: step back.")
    )


def _refuse_unless(legal: bool, sentence: str) -> None:
    if not legal:
        raise SetupError(sentence)

"""Turned forms, and circles in space, as bodies; curves on turned surfaces."""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from isometron.framework.bodies.body import Segment, TurnedPatch
from isometron.framework.bodies.lathe import Station
from isometron.framework.bodies.making import Making, half_space
from isometron.framework.box import CORNERS
from isometron.nearness import CLOSE, NEAR, ROUNDING, SAME
from isometron.perspective.conics import circle_arcs
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides


def turned_form(place: Array, axle: Array, segment: Segment) -> Array:
    """The form of a turned surface, |x|² − h² − (a + b·h + c·h²) with h along the axle."""
    form = np.zeros((4, 4))
    form[:3, :3] = np.eye(3) - (1.0 + segment.c) * np.outer(axle, axle)
    form[:3, 3] = form[3, :3] = -segment.b / 2 * axle
    form[3, 3] = -segment.a
    shift = np.eye(4)
    shift[:3, 3] = -place
    return np.asarray(shift.T @ form @ shift)


def disc_limits(centre: Array, inner: float, outer: float) -> list[Array]:
    """The forms that are ≥ 0 between two radii about a point (in the plane of a disc)."""
    ball = np.eye(4)
    ball[:3, 3] = ball[3, :3] = -centre
    square = float(centre @ centre)
    limits: list[Array] = []
    for radius, sign in ((outer, -1.0), (inner, 1.0)):
        form = ball.copy()
        form[3, 3] = square - radius * radius
        limits.append(sign * form)
    return limits if inner > 0 else limits[:1]


class Axle(NamedTuple):
    """Where a form is turned: unit axle, two directions across, middle of its base, length and
    largest radius, own mm."""

    along: Array
    across: tuple[Array, Array]
    base: Array
    length: float
    radius: float

    def at(self, height: float) -> Array:
        """The place (3,) on the axle at a height above the base."""
        return np.asarray(self.base + height * self.along)


def axle_of(axis: int, sides: Sides) -> Axle:
    """The axle of what is turned in a box about an own axis."""
    own = np.eye(3)
    first, second = (axis + 1) % 3, (axis + 2) % 3
    base = own[first] * sides[first] / 2 + own[second] * sides[second] / 2
    radius = min(sides[first], sides[second]) / 2
    return Axle(own[axis], (own[first], own[second]), base, sides[axis], radius)


def loop_making(axle: Axle, shares: Sequence[float], turns: tuple[float, float]) -> Making:
    """Circles or arcs in space about the middle of an axle."""
    making = Making()
    for share in shares:
        making.circle(
            axle.at(axle.length / 2),
            axle.across,
            share * axle.radius,
            (-1, -1),
            "loop",
            turns=turns,
        )
    return making


def turned_making(
    axle: Axle, pieces: Sequence[Segment], bore: float, rings: Sequence[Station]
) -> Making:
    """A turned form of pieces along an axle, with a bore (mm) and further circles drawn on it."""
    making = Making()
    surfaces = _skins(making, axle, pieces)
    making.ends = _discs(making, axle, pieces, bore)
    _circles(making, axle, pieces, surfaces)
    if bore:
        _bored(making, axle, bore, (pieces[0].low, pieces[-1].high))
    for share, size in rings:
        height, radius = share * axle.length, size * axle.radius
        on = _surface_under(pieces, surfaces, making.ends, height, radius)
        if size > SAME:
            making.circle(
                axle.at(height), axle.across, radius, (on, -1), "ring", share=share, rim=False
            )
    return making


def _skins(making: Making, axle: Axle, pieces: Sequence[Segment]) -> list[int]:
    """The turned surfaces, from the base up; gives their numbers."""
    surfaces = []
    for piece in pieces:
        number = making.surface(
            turned_form(axle.base, axle.along, piece),
            within=[
                half_space(axle.along, axle.at(piece.low)),
                half_space(-axle.along, axle.at(piece.high)),
            ],
        )
        making.turned.append(TurnedPatch(number, axle.base, axle.along, piece))
        surfaces.append(number)
    return surfaces


def _discs(making: Making, axle: Axle, pieces: Sequence[Segment], bore: float) -> tuple[int, int]:
    """The plane ends; −1 where the form comes to a tip."""
    ends = []
    for height, piece, way in (
        (pieces[0].low, pieces[0], -1.0),
        (pieces[-1].high, pieces[-1], 1.0),
    ):
        wide, place = piece.radius(height), axle.at(height)
        disc = -1
        if wide > SAME * axle.radius:
            limits = disc_limits(place, bore, wide)
            disc = making.plane(way * axle.along, place, limits=limits)
        ends.append(disc)
    return ends[0], ends[1]


def _circles(
    making: Making, axle: Axle, pieces: Sequence[Segment], surfaces: Sequence[int]
) -> None:
    """The circles between the pieces and round the ends, drawn where the form has an edge."""
    bounds = [(pieces[0].low, making.ends[0], surfaces[0])]
    for i, (lower, upper) in enumerate(itertools.pairwise(pieces)):
        bounds.append((lower.high, surfaces[i], surfaces[i + 1]))
        a, b = lower.radius(lower.high), upper.radius(upper.low)
        if abs(a - b) > SAME * axle.radius:  # a step: an annulus between the two radii
            place = axle.at(lower.high)
            way = axle.along if a > b else -axle.along
            step = making.plane(way, place, limits=disc_limits(place, min(a, b), max(a, b)))
            bounds[-1] = (lower.high, surfaces[i], step)
            share = lower.high / axle.length
            if b > SAME * axle.radius:  # no circle where the next piece begins in a point
                making.circle(
                    place, axle.across, b, (step, surfaces[i + 1]), "station", share=share
                )
    bounds.append((pieces[-1].high, surfaces[-1], making.ends[1]))
    bare: list[tuple[float, float, tuple[int, int]]] = []
    for i, (height, below, above) in enumerate(bounds):
        wide = pieces[max(i - 1, 0)].radius(height)
        if wide <= SAME * axle.radius:
            continue
        ended = i in (0, len(bounds) - 1)
        if ended or _creased(pieces[i - 1], pieces[i], height):
            role, share = "end" if ended else "station", height / axle.length
            making.circle(axle.at(height), axle.across, wide, (below, above), role, share=share)
        else:
            bare.append((height, wide, (below, above)))
    _bound_by_circles(making, axle, bare)


def _bound_by_circles(
    making: Making, axle: Axle, bare: Sequence[tuple[float, float, tuple[int, int]]]
) -> None:
    """Circles (height, radius, surfaces) that bound surfaces without being drawn, all at once."""
    if not bare:
        return
    unit = circle_arcs(np.zeros(3), *axle.across)
    heights = np.array([height for height, _, _ in bare])
    radii = np.array([radius for _, radius, _ in bare])
    arcs = np.tile(unit, (len(bare), 1, 1, 1))
    arcs[..., :3] *= radii[:, None, None, None]
    places = axle.base + heights[:, None] * axle.along
    arcs[..., :3] += arcs[..., 3:] * places[:, None, None]
    for one, (_, _, on) in zip(arcs, bare, strict=True):
        making.bound(one, on)


def _creased(lower: Segment, upper: Segment, height: float) -> bool:
    """Whether two pieces meet at an angle: their r² has different slopes, or radii differ."""
    a, b = lower.b + 2 * lower.c * height, upper.b + 2 * upper.c * height
    size = max(lower.squared(height), upper.squared(height))
    step = abs(lower.radius(height) - upper.radius(height))
    scale = max(abs(a), abs(b), size / max(abs(height), lower.high - lower.low))
    return abs(a - b) > CLOSE * scale or step > SAME * math.sqrt(size)


def _bored(making: Making, axle: Axle, bore: float, reach: tuple[float, float]) -> None:
    inner = Segment(reach[0], reach[1], bore * bore, 0.0, 0.0, True)
    low, high = (axle.at(height) for height in reach)
    wall = making.surface(
        turned_form(axle.base, axle.along, inner),
        within=[half_space(axle.along, low), half_space(-axle.along, high)],
    )
    making.turned.append(TurnedPatch(wall, axle.base, axle.along, inner))
    for end, place, height in zip(making.ends, (low, high), reach, strict=True):
        share = height / axle.length
        making.circle(place, axle.across, bore, (end, wall), "bore", share=share)


def _surface_under(
    pieces: Sequence[Segment],
    surfaces: Sequence[int],
    ends: Sequence[int],
    height: float,
    radius: float,
) -> int:
    """The surface a circle of a radius at a height lies on: an end, else the surface there."""
    slack = SAME * (pieces[-1].high - pieces[0].low)
    if height <= pieces[0].low + slack and radius < pieces[0].radius(pieces[0].low):
        return ends[0]
    if height >= pieces[-1].high - slack and radius < pieces[-1].radius(pieces[-1].high):
        return ends[1]
    for piece, number in zip(pieces, surfaces, strict=True):
        near = piece.low - slack <= height <= piece.high + slack
        if near and abs(piece.radius(height) - radius) <= NEAR * max(radius, 1e-9):
            return number
    return -1


FlatPoint = tuple[float, float, float]
"""A homogeneous control point along the axle and aside of it: w·h, w·y, w."""


def curve_on_round(
    piece: Segment,
    across: tuple[float, float],
    base: Array,
    axle: Array,
    towards: Array,
    aside: Array,
) -> Array:
    """Arcs (k, 3, 4) of the curve on a turned surface whose place along `towards` is
    across[0] + across[1]·h, on the side of `aside`, over the heights h of the piece.

    There the place along `aside` is √Y with Y = r² − (across)², a quadratic in h: a conic.
    """
    flat = flat_curve(piece, across)
    return lifted_curves(flat, [across] * (len(flat) // 3), base, axle, towards, aside)


def lifted_curves(
    flat: Sequence[FlatPoint],
    lines: Sequence[tuple[float, float]],
    base: Array,
    axle: Array,
    towards: Array,
    aside: Array,
) -> Array:
    """Arcs (k, 3, 4) from their flat control points (3·k) and the line each keeps to."""
    table = np.array(flat).reshape(-1, 3, 3)
    line = np.array(lines).reshape(-1, 1, 2)
    along, y, w = table[..., 0, None], table[..., 1, None], table[..., 2, None]
    p, q = line[:, :, 0, None], line[:, :, 1, None]
    beside = p * w + q * along
    places = w * base + along * axle + beside * towards + y * aside
    return np.concatenate([places, w], axis=2)


def flat_curve(piece: Segment, across: tuple[float, float]) -> list[FlatPoint]:
    """The control points of a curve on a turned surface, three to an arc."""
    p, q = across
    y0, y1, y2 = piece.a - p * p, piece.b - 2 * p * q, piece.c - q * q
    size = max(abs(y0), abs(y1) * piece.high, abs(y2) * piece.high**2, 1e-300)
    lines = abs(y1 * y1 - 4 * y0 * y2) <= ROUNDING * size * max(abs(y2), size / piece.high**2)
    flat: list[FlatPoint] = []
    for low, high in _above_zero(y0, y1, y2, piece.low, piece.high):
        cuts = [low, high] if lines else [low, (low + high) / 2, high]
        for a, b in itertools.pairwise(cuts):
            ya, yb = (math.sqrt(max(y0 + y1 * h + y2 * h * h, 0.0)) for h in (a, b))
            middle = (
                ((a + b) / 2, (ya + yb) / 2, 1.0)
                if lines
                else _control((a, ya), (b, yb), (y0, y1, y2))
            )
            flat += [(a, ya, 1.0), middle, (b, yb, 1.0)]
    return flat


def _control(
    start: tuple[float, float], end: tuple[float, float], curve: tuple[float, float, float]
) -> tuple[float, float, float]:
    """The homogeneous control point between two points (h, y) of y² = y0 + y1·h + y2·h²: where the
    tangents there meet, weighted as `perspective.conics.conic_arc` does."""
    (a, ya), (b, yb), (y0, y1, y2) = start, end, curve
    l0, l1, l2 = y2 * a + y1 / 2, -ya, y0 + y1 * a / 2
    m0, m1, m2 = y2 * b + y1 / 2, -yb, y0 + y1 * b / 2
    h, y, w = l1 * m2 - l2 * m1, l2 * m0 - l0 * m2, l0 * m1 - l1 * m0
    at_pole = y * y - y2 * h * h - y1 * h * w - y0 * w * w
    between = ya * yb - y2 * a * b - y1 * (a + b) / 2 - y0
    weight = math.sqrt(max(-between / (2 * at_pole), 0.0)) if at_pole else 0.0
    # On the side of the chord that the curve bulges to: there y² is larger than on the chord.
    h, y, w = weight * h, weight * y, weight * w
    x = (a + b) / 2
    on_curve = math.sqrt(max(y0 + y1 * x + y2 * x * x, 0.0))
    chord0, chord1, chord2 = ya - yb, b - a, a * yb - b * ya
    bulge = chord0 * x + chord1 * on_curve + chord2
    if (chord0 * h + chord1 * y + chord2 * w) * bulge < 0:
        return -h, -y, -w
    return h, y, w


def _above_zero(
    y0: float, y1: float, y2: float, low: float, high: float
) -> list[tuple[float, float]]:
    """The parts of low … high where y0 + y1·h + y2·h² is above zero."""
    cuts = [low, high]
    square = y1 * y1 - 4 * y0 * y2
    if square > 0:
        q = -(y1 + math.copysign(math.sqrt(square), y1)) / 2
        for root in (q / y2 if y2 else math.nan, y0 / q if q else math.nan):
            if low < root < high:
                cuts.append(root)
    cuts.sort()
    slack = ROUNDING * (high - low)
    return [
        (a, b)
        for a, b in itertools.pairwise(cuts)
        if b - a > slack and y0 + y1 * (a + b) / 2 + y2 * ((a + b) / 2) ** 2 > 0
    ]


def round_footprint(axis: int, sides: Sides) -> Array:
    """What a form turned about an own axis stands on, own mm (n, 3): its largest circle when the
    axle is upright in its box, else the base of the box."""
    if axis != 2:
        return np.asarray(CORNERS[[0, 1, 3, 2]] * np.array(sides))
    middle = np.array([sides[0] / 2, sides[1] / 2, 0.0])
    turn = np.radians(np.arange(0, 360, 10))
    ring = np.stack([np.cos(turn), np.sin(turn), np.zeros(len(turn))], axis=1)
    return np.asarray(middle + min(sides[0], sides[1]) / 2 * ring)

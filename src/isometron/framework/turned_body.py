"""A turned form, and a circle in space, as curved bodies."""

import itertools
import math
from collections.abc import Sequence

import numpy as np

from isometron.framework.curved import Making, Round, half_space, plane_form
from isometron.framework.turned import Loop, Segment, Turned, segments_of
from isometron.perspective.eye import Array

Sides = tuple[float, float, float]


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


def curved_loop(shape: Loop, sides: Sides) -> Making:
    """A circle or arc in space."""
    making = Making()
    axle, across, along, base, length, radius = turned_frame(shape.axis, sides)
    for share in shape.shares:
        making.circle(
            base + length / 2 * axle,
            (across, along),
            share * radius,
            (-1, -1),
            "loop",
            turns=(shape.start_deg, shape.sweep_deg),
        )
    return making


def turned_frame(axis: int, sides: Sides) -> tuple[Array, Array, Array, Array, float, float]:
    """Axle, two directions across, middle of the base, length and largest radius of what is turned
    in a box about an own axis."""
    own = np.eye(3)
    first, second = (axis + 1) % 3, (axis + 2) % 3
    base = own[first] * sides[first] / 2 + own[second] * sides[second] / 2
    radius = min(sides[first], sides[second]) / 2
    return own[axis], own[first], own[second], base, sides[axis], radius


def curved_turned(shape: Turned, sides: Sides) -> Making:
    """A turned form."""
    making = Making()
    axle, across, along, base, length, radius = turned_frame(shape.axis, sides)
    axes = (across, along)
    pieces = segments_of(shape, length, radius)
    surfaces = []
    for piece in pieces:
        at_low, at_high = base + piece.low * axle, base + piece.high * axle
        number = making.patch(
            turned_form(base, axle, piece),
            plane=False,
            within=[half_space(axle, at_low), half_space(-axle, at_high)],
        )
        making.rounds.append(Round(number, base, axle, piece))
        surfaces.append(number)
    bore = shape.bore * radius
    ends = []
    for height, piece in ((pieces[0].low, pieces[0]), (pieces[-1].high, pieces[-1])):
        wide = piece.radius(height)
        at = base + height * axle
        disc = -1
        if wide > 1e-9 * radius:
            disc = making.patch(
                plane_form(axle, at), plane=True, limits=disc_limits(at, bore, wide)
            )
        ends.append(disc)
    making.ends = (ends[0], ends[1])
    bounds = [(pieces[0].low, ends[0], surfaces[0])]
    for i, (lower, upper) in enumerate(itertools.pairwise(pieces)):
        bounds.append((lower.high, surfaces[i], surfaces[i + 1]))
        a, b = lower.radius(lower.high), upper.radius(upper.low)
        if abs(a - b) > 1e-9 * radius:  # a step: an annulus between the two radii
            at = base + lower.high * axle
            step = making.patch(
                plane_form(axle, at), plane=True, limits=disc_limits(at, min(a, b), max(a, b))
            )
            bounds[-1] = (lower.high, surfaces[i], step)
            making.circle(
                at, axes, b, (step, surfaces[i + 1]), "station", share=lower.high / length
            )
    bounds.append((pieces[-1].high, surfaces[-1], ends[1]))
    for i, (height, below, above) in enumerate(bounds):
        piece = pieces[min(i, len(pieces) - 1)] if i == 0 else pieces[i - 1]
        wide = piece.radius(height)
        if wide <= 1e-9 * radius:
            continue
        ended = i in (0, len(bounds) - 1)
        crease = ended or _creased(pieces[i - 1], pieces[i], height)
        making.circle(
            base + height * axle,
            axes,
            wide,
            (below, above),
            "end" if ended else "station",
            drawn=crease,
            share=height / length,
        )
    if bore:
        _bored(making, base, axle, axes, bore, (pieces[0].low, pieces[-1].high), length)
    for share, size in shape.rings:
        height = share * length
        on = _patch_under(pieces, surfaces, ends, height, size * radius)
        if size * radius > 1e-9 * radius:
            making.circle(
                base + height * axle, axes, size * radius, (on, -1), "ring", share=share, rim=False
            )
    return making


def _creased(lower: Segment, upper: Segment, height: float) -> bool:
    """Whether two pieces meet at an angle: their r² has different slopes, or radii differ."""
    a, b = lower.b + 2 * lower.c * height, upper.b + 2 * upper.c * height
    size = max(lower.squared(height), upper.squared(height))
    step = abs(lower.radius(height) - upper.radius(height))
    scale = max(abs(a), abs(b), size / max(abs(height), lower.high - lower.low))
    return abs(a - b) > 1e-7 * scale or step > 1e-9 * math.sqrt(size)


def _bored(
    making: Making,
    base: Array,
    axle: Array,
    axes: tuple[Array, Array],
    bore: float,
    reach: tuple[float, float],
    length: float,
) -> None:
    inner = Segment(reach[0], reach[1], bore * bore, 0.0, 0.0, True)
    at = [base + height * axle for height in reach]
    wall = making.patch(
        turned_form(base, axle, inner),
        plane=False,
        within=[half_space(axle, at[0]), half_space(-axle, at[1])],
    )
    making.rounds.append(Round(wall, base, axle, inner))
    for end, place, height in zip(making.ends, at, reach, strict=True):
        making.circle(place, axes, bore, (end, wall), "bore", share=height / length)


def _patch_under(
    pieces: Sequence[Segment],
    surfaces: Sequence[int],
    ends: Sequence[int],
    height: float,
    radius: float,
) -> int:
    """The patch a circle of a radius at a height lies on: an end, else the surface there."""
    slack = 1e-9 * (pieces[-1].high - pieces[0].low)
    if height <= pieces[0].low + slack and radius < pieces[0].radius(pieces[0].low):
        return ends[0]
    if height >= pieces[-1].high - slack and radius < pieces[-1].radius(pieces[-1].high):
        return ends[1]
    for piece, number in zip(pieces, surfaces, strict=True):
        near = piece.low - slack <= height <= piece.high + slack
        if near and abs(piece.radius(height) - radius) <= 1e-6 * max(radius, 1e-9):
            return number
    return -1


Flat = tuple[float, float, float]
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
    flat: Sequence[Flat],
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


def flat_curve(piece: Segment, across: tuple[float, float]) -> list[Flat]:
    """The control points of a curve on a turned surface, three to an arc."""
    p, q = across
    y0, y1, y2 = piece.a - p * p, piece.b - 2 * p * q, piece.c - q * q
    size = max(abs(y0), abs(y1) * piece.high, abs(y2) * piece.high**2, 1e-300)
    lines = abs(y1 * y1 - 4 * y0 * y2) <= 1e-12 * size * max(abs(y2), size / piece.high**2)
    flat: list[Flat] = []
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
    slack = 1e-12 * (high - low)
    return [
        (a, b)
        for a, b in itertools.pairwise(cuts)
        if b - a > slack and y0 + y1 * (a + b) / 2 + y2 * ((a + b) / 2) ** 2 > 0
    ]

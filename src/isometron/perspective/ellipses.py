"""The picture of a circle: centre, axes, tilt and degree of its ellipse, and what rules of thumb
about it cost.

The circle c + r·(e·cos θ + g·sin θ) is laid so that g is parallel to the picture plane. With
z₀ and ρ the depth of c and of r·e, k = ρ/z₀ and cos θ = (cos ψ − k)/(1 − k·cos ψ) its picture is
M + A·cos ψ + B·sin ψ with conjugate half diameters A and B (derivation in docs/numbers.md). This is
the same ellipse as C' = H⁻ᵀ·C·H⁻¹, without the matrices.
"""

import math
from typing import NamedTuple

import numpy as np

from isometron.nearness import ROUNDING, SAME
from isometron.perspective.angles import EXTENDED
from isometron.perspective.curved import place_points
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.places import Place
from isometron.perspective.projection import NEAR_MM
from isometron.perspective.vanishing import VanishingPoint, vanishing_point
from isometron.words import _

EXTENDED_BITS = 1e-15
"""What extended precision leaves, with room to spare: less, of its size, is nothing."""

PARABOLA_WITHIN = 1e-9
"""A circle whose nearest point comes this near the eye's own plane (share of its depth) is drawn
as a parabola."""

LINE_WITHIN = 1e-9
"""An ellipse no more open than this (short axis over long one) is the straight line of a circle
seen edge-on."""

ROUND_WITHIN = 1e-9
"""An ellipse whose axes differ by no more than this share is round: it has no long axis."""

_AROUND = 360
"""Places round an ellipse at which its gap to another is looked for first."""


class Ellipse(NamedTuple):
    """An ellipse on the sheet: centre and half axes, mm; `major_axis_deg` the tilt of its long axis
    in (−90, 90], counter-clockwise from the paper's right."""

    centre_mm: Place
    semi_major_mm: float
    semi_minor_mm: float
    major_axis_deg: float

    @property
    def degree_deg(self) -> float:
        """Openness: asin of the short axis over the long one."""
        return math.degrees(math.asin(min(self.semi_minor_mm / self.semi_major_mm, 1.0)))

    @property
    def minor_axis_deg(self) -> float:
        """Tilt of the short axis in (−90, 90]."""
        return folded(self.major_axis_deg + 90.0)

    def point(self, turn_deg: Array) -> Array:
        """Points (n, 2) sheet mm at eccentric angles from the long axis."""
        tilt = math.radians(self.major_axis_deg)
        long = np.array([math.cos(tilt), math.sin(tilt)])
        short = np.array([-long[1], long[0]])
        turn = np.radians(turn_deg)[:, None]
        return np.asarray(
            np.array(self.centre_mm)
            + self.semi_major_mm * np.cos(turn) * long
            + self.semi_minor_mm * np.sin(turn) * short
        )


class CirclePicture(NamedTuple):
    """How a circle is drawn.

    conic: "ellipse"; "round", an ellipse without a long axis; "line", seen exactly edge-on: it then
    runs along `segment_mm`; "parabola" or "hyperbola" for a circle that reaches the eye's own
    plane; "behind" for one wholly behind it. ellipse: for the first two. centre_mm: picture of the
    circle's own centre (None behind the eye).
    axle: vanishing point of the axle. axle_deg: direction of the drawn axle on the paper in
    (−90, 90], None when it is seen end on. miss_deg: angle in 0 … 90 between axle and minor axis.
    """

    ellipse: Ellipse | None
    conic: str
    centre_mm: Place | None
    axle: VanishingPoint
    axle_deg: float | None
    miss_deg: float | None
    segment_mm: tuple[Place, Place] | None = None
    gap_mm: float | None = None
    """On a curved sheet, where it is no conic: how far its best-fitting ellipse misses it at most.
    """


def circle_picture(eye: Eye, centre: Array, normal: Array, radius_mm: float) -> CirclePicture:
    """The picture of a circle: centre (3,) world mm, normal (3,) along its axle, radius mm.

    In extended precision throughout: within 1e-9 of the long axis of a fifty-digit computation for
    ellipses of 1° and more, 1e-6 for thinner ones. Raises VolumeError for a circle without size or
    axle.
    """
    n = np.asarray(normal, dtype=EXTENDED)
    length = np.sqrt((n * n).sum())
    if not (length > 0 and np.isfinite(length) and radius_mm > 0 and math.isfinite(radius_mm)):
        raise VolumeError(_("A circle needs a radius and an axle: give both a length."))
    n = n / length
    if eye.curved:
        return _on_curved_sheet(eye, np.asarray(centre, dtype=float), n.astype(float), radius_mm)
    axes = sight_axes(eye)
    own = axes @ n
    middle = axes @ (np.asarray(centre, dtype=EXTENDED) - np.array(eye.place, dtype=EXTENDED))
    e, g = _in_plane(own)
    d, cv = EXTENDED(eye.station_distance_mm), eye.centre_of_vision_mm
    x0, xe, xg = (d * part[:2] for part in (middle, radius_mm * e, radius_mm * g))
    z0, rho = middle[2], radius_mm * e[2]
    axle = vanishing_point(eye, np.asarray(n))
    place = (x0 / z0).astype(float) + cv if z0 > NEAR_MM else None
    centre_mm = None if place is None else (float(place[0]), float(place[1]))
    axle_deg = _axle_on_paper(own, middle) if place is not None else None
    if z0 + abs(rho) <= NEAR_MM:
        return CirclePicture(None, "behind", None, axle, None, None)
    nearest = z0 - abs(rho)
    if nearest <= max(NEAR_MM, PARABOLA_WITHIN * abs(z0)):
        crossing = abs(nearest) <= PARABOLA_WITHIN * abs(z0)
        kind = "parabola" if crossing else "hyperbola"
        return CirclePicture(None, kind, centre_mm, axle, axle_deg, None)
    k = rho / z0
    rest = (z0 - rho) * (z0 + rho) / z0
    m, a, b = (x0 - k * xe) / rest, (xe - k * x0) / rest, xg / np.sqrt((z0 - rho) * (z0 + rho))
    long, short, tilt = _axes_of(a, b)
    mx, my = (float(v) for v in m + np.array(cv, dtype=EXTENDED))
    if short <= LINE_WITHIN * long:
        turn = math.radians(tilt)
        run = (long * math.cos(turn), long * math.sin(turn))
        ends = ((mx - run[0], my - run[1]), (mx + run[0], my + run[1]))
        return CirclePicture(None, "line", centre_mm, axle, axle_deg, None, ends)
    ellipse = Ellipse((mx, my), long, short, tilt)
    if long - short <= ROUND_WITHIN * long:
        return CirclePicture(ellipse, "round", centre_mm, axle, axle_deg, None)
    miss = None if axle_deg is None else apart(ellipse.minor_axis_deg, axle_deg)
    return CirclePicture(ellipse, "ellipse", centre_mm, axle, axle_deg, miss)


ROUND_PLACES = 192


def _on_curved_sheet(eye: Eye, centre: Array, normal: Array, radius_mm: float) -> CirclePicture:
    """A circle of a curved sheet by its best-fitting ellipse: that of the mean and the first
    harmonic of its places over the turn, which fits them in the sense of least squares."""
    across = np.linalg.svd(normal[None])[2][1:]
    turn = 2 * math.pi * np.arange(ROUND_PLACES) / ROUND_PLACES
    circle = np.stack([np.cos(turn), np.sin(turn)], axis=1)
    drawn = place_points(eye, centre + radius_mm * circle @ across).sheet
    middle = place_points(eye, centre[None]).sheet[0]
    axle = vanishing_point(eye, normal)
    if not np.isfinite(drawn).all() or not np.isfinite(middle).all():
        return CirclePicture(None, "behind", None, axle, None, None)
    centre_mm = (float(middle[0]), float(middle[1]))
    step = place_points(eye, (centre + 1e-4 * radius_mm * normal)[None]).sheet[0] - middle
    seen_on_end = float(np.hypot(*step)) < SAME
    axle_deg = None if seen_on_end else folded(math.degrees(math.atan2(step[1], step[0])))
    a, b = (2 / ROUND_PLACES * (wave @ drawn) for wave in circle.T)
    long, short, tilt = _axes_of(a, b)
    mx, my = drawn.mean(axis=0).tolist()
    if short <= LINE_WITHIN * long:
        run = (long * math.cos(math.radians(tilt)), long * math.sin(math.radians(tilt)))
        ends = ((mx - run[0], my - run[1]), (mx + run[0], my + run[1]))
        return CirclePicture(None, "line", centre_mm, axle, axle_deg, None, ends)
    ellipse = Ellipse((mx, my), long, short, tilt)
    gap = _largest_gap(ellipse, drawn)
    miss = None if axle_deg is None else apart(ellipse.minor_axis_deg, axle_deg)
    kind = "round" if long - short <= ROUND_WITHIN * long else "ellipse"
    return CirclePicture(
        ellipse, kind, centre_mm, axle, axle_deg, None if kind == "round" else miss, gap_mm=gap
    )


def _largest_gap(ellipse: Ellipse, places: Array) -> float:
    """How far places (n, 2) lie from an ellipse at most, mm (Sampson's distance)."""
    tilt = math.radians(ellipse.major_axis_deg)
    axes = np.array([[math.cos(tilt), math.sin(tilt)], [-math.sin(tilt), math.cos(tilt)]])
    own = (places - ellipse.centre_mm) @ axes.T
    half = np.array([ellipse.semi_major_mm, ellipse.semi_minor_mm])
    value = ((own / half) ** 2).sum(axis=1) - 1
    slope = 2 * np.hypot(*(own / half**2).T)
    return float(np.abs(value / slope).max())


def _in_plane(own: Array) -> tuple[Array, Array]:
    """Two unit directions (3,) square to a normal in the eye's frame, the second one parallel to
    the picture plane."""
    level = np.array([-own[1], own[0], EXTENDED(0)])
    size = np.sqrt((level * level).sum())
    if size < EXTENDED(EXTENDED_BITS / 1000):
        one, zero = EXTENDED(1), EXTENDED(0)
        return np.array([one, zero, zero]), np.array([zero, one, zero])
    g = level / size
    return np.cross(g, own), g


def _axes_of(a: Array, b: Array) -> tuple[float, float, float]:
    """Half axes and tilt in degrees of an ellipse with conjugate half diameters a and b (2,).

    The half axes are the singular values of [a b]: from (s + t)² and (s − t)², so that the smaller
    one does not lose its digits.
    """
    plus = np.hypot(a[0] + b[1], a[1] - b[0])
    minus = np.hypot(a[0] - b[1], a[1] + b[0])
    long = (plus + minus) / 2
    short = abs(a[0] * b[1] - a[1] * b[0]) / long
    turned = np.arctan2(a[1] - b[0], a[0] + b[1]) + np.arctan2(a[1] + b[0], a[0] - b[1])
    tilt = (
        0.0 if minus <= EXTENDED_BITS * plus or plus <= EXTENDED_BITS * minus else float(turned) / 2
    )
    return float(long), float(short), folded(math.degrees(tilt))


def _axle_on_paper(own: Array, middle: Array) -> float | None:
    """Direction in degrees of the drawn axle through a point, both in the eye's frame."""
    run = own[:2] * middle[2] - middle[:2] * own[2]
    size = np.hypot(run[0], run[1])
    if size <= EXTENDED_BITS * np.sqrt((middle * middle).sum()):
        return None
    return folded(math.degrees(float(np.arctan2(run[1], run[0]))))


def folded(degrees: float) -> float:
    """The direction of an undirected line as an angle in (−90, 90]."""
    rest = math.remainder(degrees, 180.0)
    return 90.0 if rest <= -90.0 else rest


def apart(first_deg: float, second_deg: float) -> float:
    """Angle in 0 … 90 between two undirected lines."""
    return abs(math.remainder(first_deg - second_deg, 180.0))


def rule_gap(ellipse: Ellipse, axle_deg: float) -> float:
    """Largest gap, mm, between the true ellipse and the one drawn by the rule of the minor axis:
    the same centre and axes, its short axis laid along the axle.

    The distance is taken from points of the turned ellipse to the true one, looked for all round
    and then closed in on; both ellipses being alike, the other way round gives the same.
    """
    turn = math.remainder(axle_deg - ellipse.minor_axis_deg, 180.0)
    a, b = ellipse.semi_major_mm, ellipse.semi_minor_mm

    def gaps(at_deg: Array) -> Array:
        angle, by = np.radians(at_deg), math.radians(turn)
        x, y = a * np.cos(angle), b * np.sin(angle)
        return distance_to(
            a, b, x * math.cos(by) - y * math.sin(by), x * math.sin(by) + y * math.cos(by)
        )

    places, step = 360.0 * np.arange(_AROUND) / _AROUND, 360.0 / _AROUND
    for _unused in range(3):
        found = gaps(places)
        best = float(places[int(found.argmax())])
        places, step = best + step * np.linspace(-1.0, 1.0, 41), step / 20.0
    return float(gaps(places).max())


def distance_to(a: float, b: float, x: Array, y: Array) -> Array:
    """Distance (n,) of points (n,) to the ellipse x²/a² + y²/b² = 1, a ≥ b ≥ 0; one without any
    opening is the line between its two ends.

    The foot of the normal is found by Newton's method on Eberly's equation
    (a·u/(t + a²))² + (b·v/(t + b²))² = 1, begun where it converges from one side.
    """
    u, v = np.abs(np.asarray(x, dtype=float)), np.abs(np.asarray(y, dtype=float))
    if b <= ROUNDING * a:
        return np.asarray(np.hypot(np.maximum(u - a, 0.0), v))
    v = np.maximum(v, 1e-12 * a)
    spread = a * a - b * b
    s = np.maximum(b * v, a * u - spread)  # t + b², so that nothing is lost near the long axis
    for _unused in range(100):
        p, q = a * u / (s + spread), b * v / s
        value = p * p + q * q - 1.0
        slope = -2.0 * (p * p / (s + spread) + q * q / s)
        step = value / slope
        s = s - step
        if (np.abs(step) <= EXTENDED_BITS * s).all():
            break
    foot_x, foot_y = a * a * u / (s + spread), b * b * v / s
    return np.asarray(np.hypot(u - foot_x, v - foot_y))


class Guide(NamedTuple):
    """An ellipse guide: its degree, the length of its long axis in mm, and the largest error on the
    paper, mm, if it is used for a true ellipse (same centre, same tilt)."""

    degree_deg: float
    long_axis_mm: float
    error_mm: float
    larger: bool = False
    """Whether the ellipse is larger than every guide of the set."""


GUIDE_ROOM_MM = 0.5
"""An ellipse this much larger than the largest guide, to each side, is larger than the set."""

ALIKE = 1e-9
"""Errors that differ by less than this share are alike."""


def nearest_guide(
    ellipse: Ellipse, degrees: tuple[float, ...], sizes_mm: tuple[float, ...]
) -> Guide | None:
    """The guide of a set that errs least; None for a set without guides.

    Two ellipses with one centre and one tilt are at most max(|Δa|, |Δb|) apart. Of guides that err
    alike along the worse axis, the one that errs least along the other is the nearest.
    """
    if not degrees or not sizes_mm:
        return None
    half = np.array(sizes_mm)[:, None] / 2
    short = half * np.sin(np.radians(np.array(degrees)))
    along, across = np.abs(half - ellipse.semi_major_mm), np.abs(short - ellipse.semi_minor_mm)
    error, rest = np.maximum(along, across), np.minimum(along, across)
    alike = error <= error.min() + ALIKE * ellipse.semi_major_mm
    size, degree = np.unravel_index(int(np.where(alike, rest, np.inf).argmin()), error.shape)
    larger = 2 * ellipse.semi_major_mm > max(sizes_mm) + 2 * GUIDE_ROOM_MM
    return Guide(degrees[degree], sizes_mm[size], float(error[size, degree]), larger)

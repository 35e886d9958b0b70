"""Steps along the curve in which two quadrics meet.

Every step is a handful of products in three coordinates, too small a matter for arrays: numbers and
triples of numbers are many times faster here."""

import math
from typing import NamedTuple

import numpy as np

from isometron.nearness import LAST_BITS, NOUGHT, ROUNDING, SAME
from isometron.perspective.eye import Array
from isometron.perspective.places import WorldPlace

HARDLY = 1e-10
"""A step that moves by no more has all but ended; ways turned by less run one way."""

OFF = 2e-6
"""Share of a figure's size by which an arc may miss the curve it stands for."""

STEP = 0.12
"""First step, as a share of the smaller figure's size."""

MOST_STEPS = 400
MOST_HALVINGS = 12
NEWTON = 20

Step = tuple[WorldPlace, WorldPlace, WorldPlace]
"""Start, a place between, end of one step along the curve."""


class Quadric(NamedTuple):
    """xx·x² + yy·y² + zz·z² + 2·(xy·x·y + xz·x·z + yz·y·z + x·x + y·y + z·z) + one = 0."""

    xx: float
    yy: float
    zz: float
    xy: float
    xz: float
    yz: float
    x: float
    y: float
    z: float
    one: float

    def off(self, place: WorldPlace) -> float:
        """The value of its form at a place."""
        u, v, w = place
        a, b, c = self.slope(place)
        return u * (a + self.x) + v * (b + self.y) + w * (c + self.z) + self.one

    def slope(self, place: WorldPlace) -> WorldPlace:
        """Half its gradient at a place: its normal, not of unit length."""
        u, v, w = place
        return (
            self.xx * u + self.xy * v + self.xz * w + self.x,
            self.xy * u + self.yy * v + self.yz * w + self.y,
            self.xz * u + self.yz * v + self.zz * w + self.z,
        )


def quadric_of(form: Array) -> Quadric:
    """A form (4, 4) as a quadric."""
    f = form.tolist()
    return Quadric(
        f[0][0], f[1][1], f[2][2], f[0][1], f[0][2], f[1][2], f[0][3], f[1][3], f[2][3], f[3][3]
    )


class Patch(NamedTuple):
    """A piece of a quadric: where some planes (a, b, c, d) and limits are not below 0."""

    quadric: Quadric
    planes: tuple[tuple[float, float, float, float], ...]
    limits: tuple[Quadric, ...]

    def holds(self, place: WorldPlace) -> bool:
        """Whether a place on the quadric lies on this piece of it."""
        u, v, w = place
        if any(a * u + b * v + c * w + d < 0 for a, b, c, d in self.planes):
            return False
        return all(limit.off(place) >= 0 for limit in self.limits)


def _dot(a: WorldPlace, b: WorldPlace) -> float:
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def _apart(a: WorldPlace, b: WorldPlace) -> WorldPlace:
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]


def _along(a: WorldPlace, t: float, way: WorldPlace) -> WorldPlace:
    return a[0] + t * way[0], a[1] + t * way[1], a[2] + t * way[2]


def _half(a: WorldPlace, b: WorldPlace) -> WorldPlace:
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2


def walk(one: Patch, other: Patch, start: WorldPlace, sense: float, size: float) -> list[Step]:
    """Steps from a place on until the curve closes or leaves either surface. size: mm."""
    steps: list[Step] = []
    at, step = start, STEP * size
    way = _way(one, other, at, None)
    if way is None:
        return []
    way = (sense * way[0], sense * way[1], sense * way[2])
    for _ in range(MOST_STEPS):
        taken = _step(one, other, at, way, step, size)
        if taken is None:
            break
        middle, end, length = taken
        step = min(2 * length, STEP * size)
        if not (one.holds(end) and other.holds(end)):
            last = _up_to_the_rim(one, other, at, way, length)
            if last is not None:
                steps.append((at, *last))
            break
        home = len(steps) > 1 and math.dist(end, start) < 0.75 * length
        if home and _dot(_apart(start, at), way) > 0:
            steps += _home(one, other, at, start)
            break
        steps.append((at, middle, end))
        forward = _way(one, other, end, way)
        if forward is None:
            break
        at, way = end, forward
    return steps


def _home(one: Patch, other: Patch, at: WorldPlace, start: WorldPlace) -> list[Step]:
    """The last way back to the start, in two steps: the arc of one might miss the curve."""
    middle = _onto(one, other, _half(at, start)) or _half(at, start)
    return [
        (a, _onto(one, other, _half(a, b)) or _half(a, b), b)
        for a, b in ((at, middle), (middle, start))
    ]


def _way(
    one: Patch, other: Patch, place: WorldPlace, before: WorldPlace | None
) -> WorldPlace | None:
    """Unit direction of the curve at a place, going on as before; None where the surfaces touch."""
    a, b = one.quadric.slope(place), other.quadric.slope(place)
    x, y, z = a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]
    length = math.hypot(x, y, z)
    if length <= SAME * math.hypot(*a) * math.hypot(*b):
        return None
    if before is not None and x * before[0] + y * before[1] + z * before[2] < 0:
        length = -length
    return x / length, y / length, z / length


def _onto(one: Patch, other: Patch, place: WorldPlace) -> WorldPlace | None:
    """The place of the curve near a place: the least move that puts it on both surfaces, repeated
    (Newton's method); None when it leads nowhere."""
    moved = math.inf
    for _ in range(NEWTON):
        f, g = one.quadric.off(place), other.quadric.off(place)
        a, b = one.quadric.slope(place), other.quadric.slope(place)
        aa, ab, bb = _dot(a, a), _dot(a, b), _dot(b, b)
        square = aa * bb - ab * ab
        if square <= NOUGHT:
            return None
        s, t = (bb * f - ab * g) / (2 * square), (aa * g - ab * f) / (2 * square)
        move = (s * a[0] + t * b[0], s * a[1] + t * b[1], s * a[2] + t * b[2])
        place = _apart(place, move)
        moved = max(map(abs, move)) / (1.0 + max(map(abs, place)))
        if moved <= LAST_BITS:
            return place
    return place if moved <= HARDLY else None


def _step(
    one: Patch, other: Patch, at: WorldPlace, way: WorldPlace, length: float, size: float
) -> tuple[WorldPlace, WorldPlace, float] | None:
    """A step short enough that its arc runs along the curve: a place between, its end, its
    length."""
    for _ in range(MOST_HALVINGS):
        end = _onto(one, other, _along(at, length, way))
        middle = None if end is None else _onto(one, other, _half(at, end))
        if end is not None and middle is not None:
            forward = _way(one, other, end, way)
            straightened = forward is not None and _dot(forward, way) > 0.8
            if straightened and _misses(one, other, (at, middle, end)) <= OFF * size:
                return middle, end, length
        length /= 2
    return None


def _misses(one: Patch, other: Patch, step: Step) -> float:
    """How far the arc of a step lies off the surfaces where it may lie furthest, mm."""
    start, end = step[0], step[2]
    control, weight = _control(one, other, *step)
    worst = 0.0
    for t in (0.2, 0.5, 0.8):
        a, m, b = (1 - t) ** 2, 2 * t * (1 - t) * weight, t * t
        total = a + m + b
        x, y, z = ((a * start[i] + m * control[i] + b * end[i]) / total for i in range(3))
        for patch in (one, other):
            slope = 2 * math.hypot(*patch.quadric.slope((x, y, z)))
            worst = max(worst, abs(patch.quadric.off((x, y, z))) / max(slope, 1e-300))
    return worst


def _control(
    one: Patch, other: Patch, start: WorldPlace, middle: WorldPlace, end: WorldPlace
) -> tuple[WorldPlace, float]:
    """Control point and weight of the arc of a conic from start to end whose middle place is given:
    the point is where the tangents at the ends come nearest each other."""
    chord, half = _apart(end, start), _half(start, end)
    a, b = _way(one, other, start, chord), _way(one, other, end, chord)
    control = half
    if a is not None and b is not None:
        turn = _dot(a, b)
        square = 1.0 - turn * turn
        if square > HARDLY:
            s = (_dot(chord, a) - _dot(chord, b) * turn) / square
            t = (_dot(chord, a) * turn - _dot(chord, b)) / square
            control = _half(_along(start, s, a), _along(end, t, b))
    bulge, rise = _apart(control, half), _apart(middle, half)
    length = _dot(bulge, bulge)
    share = _dot(rise, bulge) / length if length > ROUNDING**2 * _dot(chord, chord) else 0.5
    share = min(max(share, 1e-3), 0.999)
    return control, share / (1.0 - share)


def arc_of(one: Patch, other: Patch, step: Step) -> Array:
    """The arc (3, 4) of a step."""
    control, weight = _control(one, other, *step)
    x, y, z = control
    return np.array(
        [[*step[0], 1.0], [weight * x, weight * y, weight * z, weight], [*step[2], 1.0]]
    )


def _up_to_the_rim(
    one: Patch, other: Patch, at: WorldPlace, way: WorldPlace, length: float
) -> tuple[WorldPlace, WorldPlace] | None:
    """The last step, to where the curve leaves either surface: a place between, and its end."""
    low, high = 0.0, length
    for _ in range(60):
        half = (low + high) / 2
        place = _onto(one, other, _along(at, half, way))
        if place is not None and one.holds(place) and other.holds(place):
            low = half
        else:
            high = half
    end = _onto(one, other, _along(at, low, way))
    middle = None if end is None else _onto(one, other, _half(at, end))
    if end is None or middle is None or low <= SAME * length:
        return None
    return middle, end

"""The model that marks are fitted to: an eye, a box, free directions and rims, and how every
marked place changes with each of its numbers."""

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.document.marks import FAMILIES, Marks
from isometron.nearness import NEAR

Array = NDArray[np.float64]

TURNS = slice(0, 3)
ROLL, DISTANCE = 2, 3
CENTRE = slice(4, 6)
CORNER = slice(6, 8)
SIDES = slice(8, 11)
FIXED = 11
"""Numbers of the model, in order: three small turns, the logarithm of the station distance, the
centre of vision, where the box's first corner is drawn, the logarithms of its sides; then two for
every free direction and three for every rim."""


@dataclass(frozen=True, eq=False)
class State:
    """Where the numbers stand. turned (3, 3): width, depth and height of the box in the eye's own
    frame (right, up, away) as columns; distance: the station distance; centre (2,); corner (2,):
    picture of the first corner, which lies in the picture plane; sides (3,): of the box at that
    corner's scale; free (k, 3): unit directions of free families, in the eye's frame; rims (m, 3):
    where the middle is drawn (2) and the radius, at the station distance. Lengths in the picture's
    unit, from the origin the places were moved to."""

    turned: Array
    distance: float
    centre: Array
    corner: Array
    sides: Array
    free: Array
    rims: Array

    def moved(self, step: Array) -> "State":
        """The state after a step in all numbers."""
        free = self.free
        if len(free):
            pair = step[FIXED : FIXED + 2 * len(free)].reshape(-1, 2)
            free = free + np.einsum("ki,kij->kj", pair, tangents(free))
            free = free / np.linalg.norm(free, axis=1)[:, None]
        rims = self.rims
        if len(rims):
            more = step[FIXED + 2 * len(free) :].reshape(-1, 3)
            rims = np.concatenate(
                [rims[:, :2] + more[:, :2], rims[:, 2:] * np.exp(np.clip(more[:, 2:], -1, 1))],
                axis=1,
            )
        return State(
            rotation(step[TURNS]) @ self.turned,
            self.distance * math.exp(min(max(float(step[DISTANCE]), -1.0), 1.0)),
            self.centre + step[CENTRE],
            self.corner + step[CORNER],
            self.sides * np.exp(np.minimum(np.maximum(step[SIDES], -1.0), 1.0)),
            free,
            rims,
        )

    @property
    def count(self) -> int:
        """How many numbers there are."""
        return FIXED + 2 * len(self.free) + 3 * len(self.rims)


def middle_spread(misses: Array) -> float:
    """The standard deviation of misses by the middle one of them, as a normal distribution has it,
    so that a few wild ones count little."""
    return 1.4826 * float(np.median(np.abs(misses)))


def rotation(turn: Array) -> Array:
    """The rotation (3, 3) about a vector by its length in radians (Rodrigues)."""
    x, y, z = turn.tolist()
    angle = math.sqrt(x * x + y * y + z * z)
    first, second = 1.0, 0.5
    if angle > NEAR:
        first, second = math.sin(angle) / angle, (1 - math.cos(angle)) / angle**2
    cross = np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])
    whole: Array = first * cross + second * (cross @ cross)
    whole.flat[::4] += 1.0
    return whole


def tangents(directions: Array) -> Array:
    """Two unit vectors (k, 2, 3) at right angles to each of some directions (k, 3)."""
    helper = np.where(np.abs(directions[:, :1]) < 0.9, [[1.0, 0, 0]], [[0, 1.0, 0]])
    first = np.cross(directions, helper)
    first = first / np.linalg.norm(first, axis=1)[:, None]
    both: Array = np.stack([first, np.cross(directions, first)], axis=1)
    return both


MarkedRim = tuple[Array, int, float]
"""Points (n, 2) along a rim, the column of its axle, and how much it counts."""


@dataclass(frozen=True, eq=False)
class Observed:
    """Marks as arrays, their places counted from an origin. shut: ends of edges that are corners of
    the box, as their bits less those of the first corner (n, 3), places (n, 2), number of the edge
    (n,). drawn: open edges of the box, bits of both corners (m, 2, 3), places (m, 2, 2), edges
    (m,). loose: edges of a family only, the column of the family (box 0 … 2, free from 3), places,
    edges. rims: each with its points and axle. names: the free families.
    weights (r,): how much every miss counts; None when all count alike."""

    origin: Array
    first: int
    shut: tuple[Array, Array, Array]
    drawn: tuple[Array, Array, Array]
    loose: tuple[Array, Array, Array]
    rims: tuple[MarkedRim, ...]
    names: tuple[str, ...]
    weights: Array | None = None

    @property
    def boxed(self) -> bool:
        """Whether corners of a box are marked."""
        return len(self.shut[0]) + len(self.drawn[0]) > 0


def observed(marks: Marks, use: Array, rims: tuple[MarkedRim, ...] = ()) -> Observed:
    """Marks as arrays; `use` (edges,) says which edges count."""
    picture = marks.picture
    origin = np.array(picture.centre_of_vision or (picture.width / 2, picture.height / 2))
    numbers = [i for i in range(len(marks.edges)) if use[i]]
    edges = [(i, marks.edges[i]) for i in numbers]
    names = tuple(sorted({edge.family for _i, edge in edges} - set(FAMILIES)))
    corners = [c for _i, edge in edges if edge.corners is not None for c in edge.corners]
    first = max(set(corners), key=corners.count) if corners else 0

    def bits(corner: int) -> list[float]:
        return [float((corner >> a & 1) - (first >> a & 1)) for a in range(3)]

    shut = [
        (bits(corner), place, i)
        for i, edge in edges
        if edge.corners is not None and not edge.open_ends
        for corner, place in zip(edge.corners, (edge.start, edge.end), strict=True)
    ]
    drawn = [
        ([bits(c) for c in edge.corners], (edge.start, edge.end), i)
        for i, edge in edges
        if edge.corners is not None and edge.open_ends
    ]
    loose = [
        (
            FAMILIES.index(edge.family)
            if edge.family in FAMILIES
            else 3 + names.index(edge.family),
            (edge.start, edge.end),
            i,
        )
        for i, edge in edges
        if edge.corners is None
    ]
    return Observed(
        origin,
        first,
        (
            np.array([s[0] for s in shut]).reshape(-1, 3),
            np.array([s[1] for s in shut]).reshape(-1, 2) - origin,
            np.array([s[2] for s in shut], dtype=int),
        ),
        (
            np.array([s[0] for s in drawn]).reshape(-1, 2, 3),
            np.array([s[1] for s in drawn]).reshape(-1, 2, 2) - origin,
            np.array([s[2] for s in drawn], dtype=int),
        ),
        (
            np.array([s[0] for s in loose], dtype=int),
            np.array([s[1] for s in loose]).reshape(-1, 2, 2) - origin,
            np.array([s[2] for s in loose], dtype=int),
        ),
        tuple((points - origin, column, weight) for points, column, weight in rims),
        names,
        _weights(marks, [s[2] for s in (*_twice(shut), *_twice(drawn), *loose)], rims),
    )


def _weights(marks: Marks, edges: list[int], rims: tuple[MarkedRim, ...]) -> Array | None:
    """How much every miss counts, (r,), by the edges the first belong to: two for each end at a
    corner, else one; None when all count alike."""
    own = [marks.edges[number].weight for number in edges]
    whole = np.concatenate([own, *(np.full(len(points), weight) for points, _c, weight in rims)])
    return None if (whole == 1.0).all() else whole


def rim_alone(points: Array, column: int) -> Observed:
    """A rim by itself, its points counted from the origin of a state."""
    ends, numbers = np.empty((0, 2)), np.empty(0, dtype=int)
    return Observed(
        np.zeros(2),
        0,
        (np.empty((0, 3)), ends, numbers),
        (np.empty((0, 2, 3)), np.empty((0, 2, 2)), numbers),
        (numbers, np.empty((0, 2, 2)), numbers),
        ((points, column, 1.0),),
        (),
    )


def _twice(some: list[Any]) -> list[Any]:
    return [one for one in some for _unused in range(2)]


def residuals(seen: Observed, state: State) -> tuple[Array, Array]:
    """How far every mark lies off the model, (r,), and how that changes with every number of the
    state, (r, p). Ends at corners give two numbers, open edges two, loose edges one, rims one for
    each point; all are lengths in the picture."""
    parts = [
        made(marked, state)
        for made, marked in ((_shut, seen.shut), (_drawn, seen.drawn), (_loose, seen.loose))
        if len(marked[0])
    ]
    parts += [
        _rim(points, column, number, state)
        for number, (points, column, _weight) in enumerate(seen.rims)
    ]
    if not parts:
        return np.empty(0), np.empty((0, state.count))
    misses, slopes = parts[0]
    if len(parts) > 1:
        misses, slopes = (np.concatenate([part[i] for part in parts]) for i in (0, 1))
    if seen.weights is None:
        return misses, slopes
    return misses * seen.weights, slopes * seen.weights[:, None]


def corners(bits: Array, state: State) -> tuple[Array, Array]:
    """Pictures (n, 2) of corners of the box, by their bits less those of the first corner, and how
    they change (n, 2, p)."""
    d, count = state.distance, state.count
    reach = bits * state.sides
    own = reach @ state.turned.T
    first = state.corner - state.centre
    off = own + np.array([first[0], first[1], d])
    scale = d / off[:, 2]
    places = state.centre + scale[:, None] * off[:, :2]
    moved = np.zeros((len(bits), 3, count))
    moved[:, 1, 0], moved[:, 2, 0] = -own[:, 2], own[:, 1]
    moved[:, 0, 1], moved[:, 2, 1] = own[:, 2], -own[:, 0]
    moved[:, 0, 2], moved[:, 1, 2] = -own[:, 1], own[:, 0]
    moved[:, 2, DISTANCE] = d
    moved[:, 0, 4] = moved[:, 1, 5] = -1.0
    moved[:, 0, 6] = moved[:, 1, 7] = 1.0
    moved[:, :, SIDES] = reach[:, None, :] * state.turned
    slopes = moved[:, :2] - (off[:, :2] / off[:, 2:])[:, :, None] * moved[:, 2:]
    slopes *= scale[:, None, None]
    slopes[:, :, DISTANCE] += places - state.centre
    slopes[:, 0, 4] += 1.0
    slopes[:, 1, 5] += 1.0
    return places, slopes


def _shut(shut: tuple[Array, Array, Array], state: State) -> tuple[Array, Array]:
    bits, marked, _edges = shut
    places, slopes = corners(bits, state)
    return (places - marked).ravel(), slopes.reshape(-1, state.count)


def _drawn(drawn: tuple[Array, Array, Array], state: State) -> tuple[Array, Array]:
    bits, marked, _edges = drawn
    start, starts = corners(bits[:, 0], state)
    end, ends = corners(bits[:, 1], state)
    run, runs = end - start, ends - starts
    length = np.hypot(*run.T)
    misses, slopes = [], []
    for k in (0, 1):
        off = marked[:, k] - start
        miss = (run[:, 0] * off[:, 1] - run[:, 1] * off[:, 0]) / length
        change = (
            runs[:, 0] * off[:, 1:2]
            - runs[:, 1] * off[:, 0:1]
            - run[:, 0:1] * starts[:, 1]
            + run[:, 1:2] * starts[:, 0]
        ) / length[:, None]
        stretch = (run[:, 0:1] * runs[:, 0] + run[:, 1:2] * runs[:, 1]) / length[:, None] ** 2
        misses.append(miss)
        slopes.append(change - miss[:, None] * stretch)
    return (
        np.stack(misses, axis=1).ravel(),
        np.stack(slopes, axis=1).reshape(-1, state.count),
    )


def directions(state: State) -> Array:
    """All families' directions (3 + k, 3) in the eye's frame."""
    return np.concatenate([state.turned.T, state.free])


def direction_slopes(state: State) -> Array:
    """How all families' directions change with the numbers, (3 + k, 3, p)."""
    ways = state.turned.T
    slopes = np.zeros((3 + len(state.free), 3, state.count))
    slopes[:3, 1, 0], slopes[:3, 2, 0] = -ways[:, 2], ways[:, 1]
    slopes[:3, 0, 1], slopes[:3, 2, 1] = ways[:, 2], -ways[:, 0]
    slopes[:3, 0, 2], slopes[:3, 1, 2] = -ways[:, 1], ways[:, 0]
    for k, pair in enumerate(tangents(state.free)):
        slopes[3 + k, :, FIXED + 2 * k : FIXED + 2 * k + 2] = pair.T
    return slopes


def vanishing(state: State) -> tuple[Array, Array]:
    """Vanishing points of all families, homogeneous (3 + k, 3): (x w, y w, w), and how they change
    (3 + k, 3, p)."""
    ways, slopes = directions(state), direction_slopes(state)
    d, centre = state.distance, state.centre
    points = np.stack(
        [*(d * ways[:, i] + centre[i] * ways[:, 2] for i in (0, 1)), ways[:, 2]], axis=1
    )
    changes = np.stack(
        [*(d * slopes[:, i] + centre[i] * slopes[:, 2] for i in (0, 1)), slopes[:, 2]], axis=1
    )
    for i in (0, 1):
        changes[:, i, DISTANCE] += d * ways[:, i]
        changes[:, i, 4 + i] += ways[:, 2]
    return points, changes


def _loose(loose: tuple[Array, Array, Array], state: State) -> tuple[Array, Array]:
    """How far the two ends of an edge lie off the best line through its vanishing point: with a_k
    from the end to the point, the area they span over the root of |a_1|² + |a_2|², which is the
    least distance to first order."""
    columns, marked, _edges = loose
    points, changes = (part[columns] for part in vanishing(state))
    one, two = marked[:, 0], marked[:, 1]
    run = one - two
    across = one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0]
    area = points[:, 0] * run[:, 1] - points[:, 1] * run[:, 0] + points[:, 2] * across
    areas = (
        changes[:, 0] * run[:, 1:2] - changes[:, 1] * run[:, 0:1] + changes[:, 2] * across[:, None]
    )
    square, squares = np.zeros(len(run)), np.zeros((len(run), state.count))
    for end in (one, two):
        away = points[:, :2] - points[:, 2:] * end
        aways = changes[:, :2] - end[:, :, None] * changes[:, 2:3]
        square = square + (away**2).sum(axis=1)
        squares = squares + (away[:, :, None] * aways).sum(axis=1)
    root = np.sqrt(square)
    miss = area / root
    return miss, areas / root[:, None] - (miss / square)[:, None] * squares


def cone_of(way: Array, middle: Array, radius: float) -> Array:
    """The cone (3, 3) from the eye through a circle: its axle's direction, its middle, its radius,
    all in the eye's frame. With h = way · middle: |h X − middle (way · X)|² = radius² (way · X)².
    """
    h = float(way @ middle)
    both = np.outer(middle, way)
    square: Array = (
        h * h * np.eye(3)
        - h * (both + both.T)
        + (float(middle @ middle) - radius**2) * np.outer(way, way)
    )
    return square


def _rim(points: Array, column: int, number: int, state: State) -> tuple[Array, Array]:
    """How far points lie off the picture of a rim: the cone's value over its slope (Sampson), after
    one step of Newton toward it; and how that changes, as the distance from a curve does: by what
    the curve moves at the foot."""
    x, y, radius = state.rims[number]
    middle = np.array([x - state.centre[0], y - state.centre[1], state.distance])
    way = directions(state)[column]
    cone = cone_of(way, middle, float(radius))
    rays = np.concatenate(
        [points - state.centre, np.full((len(points), 1), state.distance)], axis=1
    )
    value = np.einsum("ni,ij,nj->n", rays, cone, rays)
    slope = 2 * (rays @ cone)[:, :2]
    steep = (slope**2).sum(axis=1)
    rays[:, :2] -= (value / steep)[:, None] * slope
    left = np.einsum("ni,ij,nj->n", rays, cone, rays)
    sign = -1.0 if float(middle @ cone @ middle) > 0 else 1.0
    misses: Array = sign * (value + left) / np.sqrt(steep)
    moving, changes = _cone_slopes(column, number, state, way, middle)
    steady = 2 * (rays @ cone)
    moved = np.einsum("ni,pij,nj->np", rays, changes, rays)
    for place, turn in ((DISTANCE, state.distance * steady[:, 2]), (4, -steady[:, 0])):
        moved[:, moving.index(place)] += turn
    moved[:, moving.index(5)] -= steady[:, 1]
    slopes = np.zeros((len(points), state.count))
    slopes[:, moving] = sign * moved / np.hypot(steady[:, 0], steady[:, 1])[:, None]
    return misses, slopes


def _cone_slopes(
    column: int, number: int, state: State, way: Array, middle: Array
) -> tuple[list[int], Array]:
    """Numbers of the state that a rim's cone depends on, and how it changes with each (p, 3, 3)."""
    first = FIXED + 2 * len(state.free) + 3 * number
    moving = [*range(6), *range(first, first + 3)]
    if column >= 3:
        moving += [FIXED + 2 * (column - 3), FIXED + 2 * (column - 3) + 1]
    radius, count = float(state.rims[number, 2]), len(moving)
    ways = direction_slopes(state)[column][:, moving].T
    middles, radii = np.zeros((count, 3)), np.zeros(count)
    middles[moving.index(DISTANCE), 2] = state.distance
    middles[moving.index(4), 0] = middles[moving.index(5), 1] = -1.0
    middles[moving.index(first), 0] = middles[moving.index(first + 1), 1] = 1.0
    radii[moving.index(first + 2)] = radius
    h = float(way @ middle)
    hs = ways @ middle + middles @ way
    both = np.outer(middle, way) + np.outer(way, middle)
    mixed = middles[:, :, None] * way + middle[:, None] * ways[:, None, :]
    turned = ways[:, :, None] * way
    grown = 2 * (middles @ middle) - 2 * radius * radii
    changes: Array = (
        (2 * h * hs)[:, None, None] * np.eye(3)
        - hs[:, None, None] * both
        - h * (mixed + mixed.transpose(0, 2, 1))
        + grown[:, None, None] * np.outer(way, way)
        + (float(middle @ middle) - radius**2) * (turned + turned.transpose(0, 2, 1))
    )
    return moving, changes

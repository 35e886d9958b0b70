"""Where a fit begins: vanishing points that most lines agree on, then an eye, a box and rims in
closed form."""

import itertools
import math

import numpy as np

from isometron.document.marks import FAMILIES, Marks
from isometron.nearness import ROUNDING, SAME
from isometron.reading.model import Array, Observed, State
from isometron.reading.rims import RimError, fit_rim

AGREES = 3.0
"""A line runs to a point when it misses it by less than so many times the noise."""

MOST_PAIRS = 400
"""Pairs of lines whose crossing is tried."""

FAR = 1.2
"""A station distance nobody can tell is begun at so many times the picture's longer side."""


def lines_of(seen: Observed, marks: Marks) -> dict[str, tuple[Array, Array]]:
    """Both ends (n, 2, 2) and the numbers (n,) of the edges of each family, from the origin."""
    found: dict[str, tuple[list[Array], list[int]]] = {}
    used = {int(i) for part in (seen.shut, seen.drawn, seen.loose) for i in part[2]}
    for number in sorted(used):
        edge = marks.edges[number]
        ends, numbers = found.setdefault(edge.family, ([], []))
        ends.append(np.array([edge.start, edge.end]) - seen.origin)
        numbers.append(number)
    return {name: (np.array(ends), np.array(numbers)) for name, (ends, numbers) in found.items()}


def point_of_lines(ends: Array, noise: float, size: float) -> tuple[Array, Array]:
    """The vanishing point (3,), homogeneous and of unit length when lengths are counted in `size`,
    that most of some lines (n, 2, 2) run to, and which do, (n,). Crossings of pairs are tried, then
    the best one is made the least-squares point of its lines."""
    own = ends / size
    lines = np.cross(
        np.concatenate([own[:, 0], np.ones((len(own), 1))], axis=1),
        np.concatenate([own[:, 1], np.ones((len(own), 1))], axis=1),
    )
    pairs = list(itertools.combinations(range(len(lines)), 2))
    if not pairs:
        way = own[0, 1] - own[0, 0]
        return np.array([*way / np.hypot(*way), 0.0]), np.ones(1, dtype=bool)
    step = max(1, len(pairs) // MOST_PAIRS)
    best, agreeing = -1.0, np.ones(len(lines), dtype=bool)
    for one, two in pairs[::step]:
        point = np.cross(lines[one], lines[two])
        length = float(np.linalg.norm(point))
        if length < ROUNDING:
            continue
        misses = np.abs(misses_of(own, point / length)) * size
        runs = misses < AGREES * noise
        worth = float(np.maximum(0.0, 1.0 - misses / (AGREES * noise)).sum())
        if worth > best:
            best, agreeing = worth, runs
    if agreeing.sum() < 2:
        agreeing = np.ones(len(lines), dtype=bool)
    point = np.linalg.svd(lines[agreeing])[2][-1]
    for _unused in range(4):  # each line weighs as the true distances of its ends do
        away = point[:2] - point[2] * own[agreeing]
        weight = 1.0 / np.maximum(np.sqrt((away**2).sum(axis=(1, 2))), 1e-12)
        point = np.linalg.svd(lines[agreeing] * weight[:, None])[2][-1]
    return point, agreeing


def misses_of(ends: Array, point: Array) -> Array:
    """How far lines (n, 2, 2) miss a homogeneous point, as distances of their ends, (n,)."""
    away = point[:2] - point[2] * ends
    area = away[:, 0, 0] * away[:, 1, 1] - away[:, 0, 1] * away[:, 1, 0]
    root = np.sqrt((away**2).sum(axis=(1, 2)))
    missed: Array = area / np.maximum(root * abs(point[2]), 1e-15)
    if abs(point[2]) < SAME:
        run = ends[:, 1] - ends[:, 0]
        missed = (point[0] * run[:, 1] - point[1] * run[:, 0]) / np.maximum(
            np.hypot(*point[:2]) * math.sqrt(2), 1e-15
        )
    return missed


def begin(seen: Observed, marks: Marks, noise: float, distance: float | None = None) -> State:
    """A state near the one that fits; `distance`: a station distance to begin with, in longer sides
    of the picture. Never fails: what cannot be told is guessed, and the errors of the fit say
    so."""
    size = max(marks.picture.width, marks.picture.height)
    points = {
        name: point_of_lines(ends, noise, size)[0]
        for name, (ends, _numbers) in lines_of(seen, marks).items()
    }
    box = {name: points[name] for name in FAMILIES if name in points}
    known = marks.picture.centre_of_vision is not None
    centre, guessed = _eye(box, known=known)
    distance = guessed if distance is None else distance
    turned = _turned(seen, marks, box, centre, distance, size)
    free = np.array([_ahead(points[name], centre, distance) for name in seen.names])
    state = State(
        turned,
        distance * size,
        centre * size,
        np.zeros(2),
        np.ones(3) * size / 3,
        free.reshape(-1, 3),
        np.zeros((0, 3)),
    )
    state = _with_box(seen, state)
    return State(**{**vars(state), "rims": _rims(seen, state)})


def _eye(box: dict[str, Array], *, known: bool) -> tuple[Array, float]:
    """Centre of vision (2,) and station distance, in sizes of the picture, from vanishing points at
    right angles to each other."""
    points = list(box.values())
    if not known and len(points) == 3:
        rows, right = [], []
        for p, q in itertools.combinations(points, 2):
            rows.append([p[0] * q[2] + p[2] * q[0], p[1] * q[2] + p[2] * q[1], p[2] * q[2]])
            right.append(-(p[0] * q[0] + p[1] * q[1]))
        scale = np.maximum(np.linalg.norm(rows, axis=1, keepdims=True), 1e-12)
        rows = (np.array(rows) / scale).tolist()
        a, b, e = np.linalg.lstsq(np.array(rows), np.array(right) / scale[:, 0], rcond=SAME)[0]
        square = e - a * a - b * b
        if square > 0.01 and math.hypot(a, b) < 5:
            return -np.array([a, b]), math.sqrt(square)
    best, distance = 0.0, FAR
    for p, q in itertools.combinations(points, 2):
        depth = p[2] * q[2]
        square = -(p[0] * q[0] + p[1] * q[1]) / depth if depth else -1.0
        if square > 0.01 and abs(depth) > best:
            best, distance = abs(depth), math.sqrt(square)
    return np.zeros(2), min(max(distance, 0.1), 50.0)


def _ahead(point: Array, centre: Array, distance: float) -> Array:
    """The direction in the eye's frame that runs to a vanishing point."""
    way = np.array([*((point[:2] - point[2] * centre) / distance), point[2]])
    ahead: Array = way / np.linalg.norm(way)
    return ahead


def _turned(
    seen: Observed, marks: Marks, box: dict[str, Array], centre: Array, distance: float, size: float
) -> Array:
    """Directions of the box as columns (3, 3), at right angles, each the way its corners count."""
    ways: list[Array | None] = [None, None, None]
    for axis, name in enumerate(FAMILIES):
        if name in box:
            way = _ahead(box[name], centre, distance)
            ways[axis] = way if _counts_along(marks, seen, name, box[name], size) else -way
    missing = [axis for axis in range(3) if ways[axis] is None]
    if len(missing) == 1:  # in the eye's frame width × height is depth, and so on in turn
        axis = missing[0]
        before, after = ways[(axis + 2) % 3], ways[(axis + 1) % 3]
        assert before is not None and after is not None
        third = np.cross(before, after)
        ways[axis] = third / max(float(np.linalg.norm(third)), 1e-12)
    elif len(missing) > 1:
        ways = [w if w is not None else None for w in ways]
        upright = ways[2] if ways[2] is not None else np.array([0.0, 1.0, 0.0])
        side = ways[0]
        if side is None:
            ahead = ways[1] if ways[1] is not None else np.array([0.0, 0.0, 1.0])
            side = np.cross(upright, ahead)
        side = side - float(side @ upright) * upright
        side = side / max(float(np.linalg.norm(side)), 1e-12)
        ways = [side, np.cross(side, upright), upright]
    given = np.stack([w for w in ways if w is not None], axis=1)
    u, _unused, v = np.linalg.svd(given)
    found: Array = u @ v
    if np.linalg.det(found) > 0:  # the eye's frame is left-handed: width, depth, height are too
        weakest = _weakest(box)
        found[:, weakest] = -found[:, weakest]
    return found


def _weakest(box: dict[str, Array]) -> int:
    """The family whose way along its lines is least sure: one that is not marked, else the one
    whose vanishing point is farthest."""
    for axis, name in enumerate(FAMILIES):
        if name not in box:
            return axis
    return int(np.argmin([abs(box[name][2]) for name in FAMILIES]))


def _counts_along(marks: Marks, seen: Observed, name: str, point: Array, size: float) -> bool:
    """Whether corners of a family count toward its vanishing point; without corners, whether the
    point lies to the right (width), above (height) or ahead (depth)."""
    toward = 0.0
    for edge in marks.edges:
        if edge.family == name and edge.corners is not None:
            start, end = (np.array(p) - seen.origin for p in (edge.start, edge.end))
            run = (end - start) * (1.0 if edge.corners[0] < edge.corners[1] else -1.0)
            toward += float((point[:2] - point[2] * start / size) @ run)
    if toward:
        return toward > 0
    middle = np.zeros(2)
    for edge in marks.edges:
        if edge.family == name:
            middle = (np.array(edge.start) - seen.origin) / size
    way = point[:2] - point[2] * middle
    return bool({"width": way[0], "depth": point[2], "height": way[1]}[name] > 0)


def _with_box(seen: Observed, state: State) -> State:
    """The state with the box's first corner and sides in closed form: a corner of the picture and
    the ray through it are parallel, which is linear in both."""
    bits, marked, _edges = seen.shut
    if len(seen.drawn[0]):
        bits = np.concatenate([bits, seen.drawn[0].reshape(-1, 3)])
        marked = np.concatenate([marked, seen.drawn[1].reshape(-1, 2)])
    if not len(bits):
        return state
    d, own = state.distance, marked - state.centre
    rows, right = [], []
    for i in (0, 1):
        turned = bits * (d * state.turned[i] - own[:, i : i + 1] * state.turned[2])
        unit = np.zeros((len(bits), 2))
        unit[:, i] = d
        rows.append(np.concatenate([unit, turned], axis=1))
        right.append(own[:, i] * d)
    found = np.linalg.lstsq(np.concatenate(rows), np.concatenate(right), rcond=SAME)[0]
    size = float(np.ptp(marked, axis=0).max()) or 1.0
    sides = np.where(found[2:] > 1e-3 * size, found[2:], size / 2)
    return State(**{**vars(state), "corner": found[:2] + state.centre, "sides": sides})


def _rims(seen: Observed, state: State) -> Array:
    """Middles and radii of rims, from the ellipses by themselves."""
    found = [rim_of(points) for points, column, _weight in seen.rims]
    return np.array(found).reshape(-1, 3)


def rim_of(points: Array) -> Array:
    """Middle and radius (3,) of a rim, from its ellipse by itself."""
    try:
        cx, cy, long, _short, _angle = fit_rim(points).values
    except RimError:
        cx, cy = points.mean(axis=0)
        long = float(np.ptp(points, axis=0).max()) / 2
    return np.array([cx, cy, long])

"""The fit: the state that makes the marks most likely, and how surely each number is told."""

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from isometron.document.marks import FAMILIES, Marks
from isometron.nearness import NEAR, SAME
from isometron.reading.beginning import begin, rim_of
from isometron.reading.model import (
    CENTRE,
    DISTANCE,
    FIXED,
    ROLL,
    Array,
    MarkedRim,
    Observed,
    State,
    middle_spread,
    observed,
    residuals,
    rim_alone,
)

MOST_ROUNDS = 25
LEAST_GAIN = 1e-9
"""A round that gains less than this share of the cost ends the fit."""

UNSURE = 1e-7
"""A direction of the numbers in which the marks change by less than this share of the most is
one that they do not tell."""

WRONG = 4.0
"""A line that misses by so many times the noise is set aside."""

READMITTED = 3.0
"""A line that was set aside is taken in again when, the worse ones gone, it misses by less."""

SUSPECTS, SUSPECT_SHARE = 5, 0.4
"""So many of the lines that miss most, and by this share of the worst at least, may be the wrong
one."""

MOST_WRONG = 0.25
"""At most this share of the lines is set aside."""

OTHERS = (1.0, 2.0, 4.0)
"""Station distances, in longer sides of the picture, from which a fit is begun again."""

ENOUGH = 1.8
"""A fit whose squares are more than so many times what noise explains is begun again."""

APART, OWN_SHARE = 3.0, 0.3
"""Rims and edges that together miss by so many times what the edges alone do are looked at one by
one; edges that fit better than this share of the noise are taken to have that."""

HAND = 0.3
"""Noise of marks that nobody gave and that are too few to tell it, mm or px."""


@dataclass(frozen=True, eq=False)
class Fit:
    """The best state; covariance (p, p) of its numbers, as steps; noise and its standard error;
    misses of all marks (r,); which numbers are not told by the marks (p, k), as directions; edges
    that were set aside, with how many times the noise they miss."""

    seen: Observed
    state: State
    covariance: Array
    noise: float
    noise_error: float
    misses: Array
    open_ways: Array
    wrong: dict[int, float]
    rims: tuple[int, ...] = ()
    """Numbers of the rims that are in it, among those that were given."""

    @property
    def cost(self) -> float:
        """The sum of all squared misses."""
        return float(self.misses @ self.misses)


class Frame:
    """Which numbers of a state may move: all that the marks speak of, less those that are known."""

    def __init__(self, marks: Marks, seen: Observed, count: int, *, level: bool = False) -> None:
        moving = np.ones(count, dtype=bool)
        if marks.picture.centre_of_vision is not None:
            moving[CENTRE] = False
        if not seen.boxed:
            moving[6:FIXED] = False
        base = np.eye(count)[:, moving]
        rows = [row[moving] for row in _constraints(marks, seen, count)]
        if level:
            rows.append(np.eye(count)[ROLL][moving])
        if rows:  # what is known exactly is kept by moving at right angles to it
            _u, s, v = np.linalg.svd(np.array(rows))
            base = base @ v[(s > SAME).sum() :].T
        self.base: Array = base


def _constraints(marks: Marks, seen: Observed, count: int) -> list[Array]:
    """Rows (count,) that a step must have no part along: ratios that are known exactly, and sides
    that no mark speaks of."""
    rows = []
    for one, two, _ratio in ratios_of(marks):
        row = np.zeros(count)
        row[8 + one], row[8 + two] = 1.0, -1.0
        rows.append(row)
    bits = np.concatenate([seen.shut[0], seen.drawn[0].reshape(-1, 3)])
    ratioed = {axis for one, two, _r in ratios_of(marks) for axis in (one, two)}
    for axis in range(3):
        if seen.boxed and not np.ptp(bits[:, axis]) and axis not in ratioed:
            row = np.zeros(count)
            row[8 + axis] = 1.0
            rows.append(row)
    return rows


def ratios_of(marks: Marks) -> list[tuple[int, int, float]]:
    """Pairs of sides of the box (0 … 2) whose ratio is known, and the ratio."""
    found = []
    for known in marks.known:
        if known.kind == "length":
            continue
        axes = [_side(marks, number) for number in known.edges]
        for other in axes[1:]:
            first = axes[0]
            if first is not None and other is not None and first != other:
                found.append((first, other, known.value if known.kind == "ratio" else 1.0))
    return [(one, two, float(ratio or 1.0)) for one, two, ratio in found]


def _side(marks: Marks, number: int) -> int | None:
    edge = marks.edges[number]
    return FAMILIES.index(edge.family) if edge.corners is not None else None


def with_known_sides(marks: Marks, state: State) -> State:
    """The state with sides that keep to what is known of them."""
    sides = state.sides.copy()
    for one, two, ratio in ratios_of(marks):
        middle = math.sqrt(sides[one] * sides[two])
        sides[one], sides[two] = middle * math.sqrt(ratio), middle / math.sqrt(ratio)
    return State(**{**vars(state), "sides": sides})


def fit(marks: Marks, rims: tuple[MarkedRim, ...] = ()) -> Fit:
    """The most likely state of marks; lines that do not fit are set aside one by one, the worst
    first. Never raises for marks that make sense: what they do not tell shows as open ways."""
    use = _read_of(marks)
    wrong: dict[int, float] = {}
    noise = marks.noise or _guessed(marks)
    kept = _agreeing_rims(marks, use, rims, noise)
    rims = tuple(rims[number] for number in kept)
    best = _fit_some(marks, use, rims, noise)
    for _unused in range(int(MOST_WRONG * len(marks.edges))):
        own, times = _misses_of(best, marks)
        if times < WRONG:
            break
        worst = _culprit(marks, use, rims, best, own)
        use[worst] = False
        tried = _fit_some(marks, use, rims, noise)
        wrong[worst] = times
        best = tried
    best = _readmitted(marks, use, rims, best, wrong)
    return Fit(**{**vars(best), "wrong": wrong, "rims": kept})


def _culprit(
    marks: Marks, use: Any, rims: tuple[MarkedRim, ...], best: Fit, own: list[float]
) -> int:
    """Of the lines that miss most the one that misses most when the others alone are fitted: a
    wrong line may pull a fit so far that a right one misses by more."""
    order = sorted(range(len(own)), key=lambda number: -own[number])
    some = [number for number in order[:SUSPECTS] if own[number] > SUSPECT_SHARE * own[order[0]]]
    if len(some) == 1:
        return some[0]
    missed = {}
    for number in some:
        without = use.copy()
        without[number] = False
        seen = observed(marks, without, rims)
        if seen.names != best.seen.names or seen.first != best.seen.first:
            missed[number] = own[number]
            continue
        others = refined(marks, seen, best.state)
        again = Fit(**{**vars(best), "misses": residuals(best.seen, others.state)[0]})
        missed[number] = float(np.abs(of_edges(again, len(own))[number]).max(initial=0.0))
    return max(some, key=lambda number: missed[number])


def _readmitted(
    marks: Marks, use: Any, rims: tuple[MarkedRim, ...], best: Fit, wrong: dict[int, float]
) -> Fit:
    """The fit with lines taken in again that were set aside only because a worse one led the way:
    of those set aside, all that now miss by less than makes a line wrong."""
    back = [number for number in wrong if _misses_by(marks, best, number) < READMITTED]
    if not back or len(wrong) < 2:
        return best
    for number in back:
        use[number] = True
        del wrong[number]
    return _fit_some(marks, use, rims, best.noise)


def _misses_by(marks: Marks, best: Fit, number: int) -> float:
    """By how many times the noise an edge misses a fit that it is not in."""
    only = np.zeros(len(marks.edges), dtype=bool)
    only[number] = True
    seen = observed(marks, only)
    shift = seen.origin - best.seen.origin
    if shift.any() or (seen.names and seen.names[0] not in best.seen.names):
        return math.inf
    if seen.names or (seen.first != best.seen.first and seen.boxed):
        return math.inf
    misses = residuals(seen, State(**{**vars(best.state), "free": np.empty((0, 3))}))[0]
    return float(np.abs(misses).max(initial=0.0)) / max(best.noise, 1e-12)


def _agreeing_rims(
    marks: Marks, use: Any, rims: tuple[MarkedRim, ...], noise: float
) -> tuple[int, ...]:
    """Numbers of the rims that agree with the edges: when all together miss by far more than the
    edges alone, those that cannot be drawn where the edges see them are left out, the worst first.
    """
    kept = tuple(range(len(rims)))
    if not kept or not use.any():
        return kept
    edges = _fit_some(marks, use, (), noise)
    own = max(edges.noise, OWN_SHARE * noise)
    while kept:
        some = tuple(rims[number] for number in kept)
        both = _fit_some(marks, use, some, noise)
        spread = math.sqrt(both.cost / max(len(both.misses) - both.state.count, 1))
        if spread < APART * own:
            break
        misses = {
            number: fitted_rim(edges.state, rims[number][0] - edges.seen.origin, rims[number][1])
            for number in kept
        }
        worst = max(kept, key=lambda number: misses[number])
        if misses[worst] < WRONG * own:
            break
        kept = tuple(number for number in kept if number != worst)
    return kept


def fitted_rim(state: State, points: Array, column: int) -> float:
    """How far points (n, 2) along a rim lie off the circle about an axle that fits them best, the
    eye being known: root mean square, in the picture's unit."""
    misses = residuals(rim_alone(points, column), rim_beside(state, points, column))[0]
    return math.sqrt(float(misses @ misses) / len(points))


def rim_beside(state: State, points: Array, column: int) -> State:
    """The state with the one circle about an axle that fits points (n, 2) along a rim best, the eye
    being known."""
    rim = rim_of(points)
    count = FIXED + 2 * len(state.free) + 3
    alone = State(**{**vars(state), "rims": rim[None]})
    frame = np.eye(count)[:, -3:]
    seen_alone = rim_alone(points, column)
    misses, slopes = residuals(seen_alone, alone)
    cost, damping = float(misses @ misses), NEAR
    for _unused in range(MOST_ROUNDS):
        rows = slopes @ frame
        square = rows.T @ rows
        square.flat[::4] *= 1 + damping
        step = frame @ np.linalg.lstsq(square, -(misses @ rows), rcond=None)[0]
        tried = alone.moved(step)
        missed, sloped = residuals(seen_alone, tried)
        reached = float(missed @ missed)
        if reached <= cost:
            gain, alone, misses, slopes = cost - reached, tried, missed, sloped
            cost, damping = reached, damping / 10
            if gain <= NEAR * cost:
                break
        else:
            damping = max(damping * 10, 1e-3)
            if damping > 1e8:
                break
    return alone


def _read_of(marks: Marks) -> Any:
    """Which edges are read, (edges,)."""
    return np.array([not edge.left for edge in marks.edges], dtype=bool)


def fit_all(marks: Marks) -> Fit:
    """The most likely state of all marks, none set aside."""
    use = _read_of(marks)
    seen = observed(marks, use)
    return refined(marks, seen, begin(seen, marks, marks.noise or _guessed(marks)))


def _guessed(marks: Marks) -> float:
    """Noise to begin with when none is given: a thousandth of the picture, or a hand's."""
    return max(HAND, 1e-3 * max(marks.picture.width, marks.picture.height))


def _fit_some(marks: Marks, use: Array, rims: tuple[MarkedRim, ...], noise: float) -> Fit:
    """The best fit of some marks: from the closed form, and from other station distances when that
    leaves more than the noise explains."""
    seen = observed(marks, use, rims)
    best: Fit | None = None
    size = max(marks.picture.width, marks.picture.height)
    lens = [] if marks.lens is None else [marks.lens.station_distance / size]
    for distance in (None, *lens, *OTHERS):
        found = refined(marks, seen, with_known_sides(marks, begin(seen, marks, noise, distance)))
        if best is None or found.cost < best.cost:
            best = found
        if best.cost <= ENOUGH * (max(len(best.misses) - FIXED, 0) + 8) * noise**2:
            break
    assert best is not None
    return best


def refined(marks: Marks, seen: Observed, state: State, *, level: bool = False) -> Fit:
    """The most likely state near another: Levenberg and Marquardt, with columns of like weight.
    level: the camera is taken to have no roll."""
    frame = Frame(marks, seen, state.count, level=level).base
    sigma = marks.noise or HAND
    rounds = 1 if marks.noise is not None or marks.lens is None else 3
    for _unused in range(rounds):
        state, values, rows = _descend(marks, seen, state, frame, sigma)
        misses = sigma * (values[:-1] if marks.lens is not None else values)
        freedom = len(misses) - frame.shape[1]
        if marks.noise is None and freedom > 0:
            own = math.sqrt(float(misses @ misses) / freedom)
            before, sigma = sigma, max(own, marks.least_noise, 1e-12)
            rows[: len(misses)] *= before / sigma
    weighed = rows @ frame
    scale = np.linalg.norm(weighed, axis=0)
    scale = np.where(scale > 0, scale, 1.0)
    _u, values, v = np.linalg.svd(weighed / scale, full_matrices=True)
    values = np.append(values, np.zeros(len(v) - len(values)))
    told = values > UNSURE * values[0] if len(values) else np.zeros(0, dtype=bool)
    inverse = (v[told].T / values[told]) / scale[:, None]
    covariance = frame @ inverse @ inverse.T @ frame.T
    ways = frame @ (v[~told].T / scale[:, None])
    error = sigma / math.sqrt(2 * freedom) if marks.noise is None and freedom > 0 else 0.0
    return Fit(seen, state, covariance, sigma, error, misses, ways, {})


def system_of(marks: Marks, seen: Observed, state: State, sigma: float) -> tuple[Array, Array]:
    """Misses in units of the noise and how they change (r, p), with a row for a lens that is known
    beforehand."""
    misses, slopes = residuals(seen, state)
    values, rows = misses / sigma, slopes / sigma
    if marks.lens is not None:
        error = marks.lens.standard_error / marks.lens.station_distance
        row = np.zeros((1, state.count))
        row[0, DISTANCE] = 1.0 / error
        value = math.log(state.distance / marks.lens.station_distance) / error
        values, rows = np.append(values, value), np.concatenate([rows, row])
    return values, rows


def _descend(
    marks: Marks, seen: Observed, state: State, frame: Array, sigma: float
) -> tuple[State, Array, Array]:
    """The state where the sum of squares is least, with its misses in units of the noise and how
    they change."""
    values, rows = system_of(marks, seen, state, sigma)
    cost, damping = float(values @ values), NEAR
    for _unused in range(MOST_ROUNDS):
        slopes = rows @ frame
        square = slopes.T @ slopes
        weights = square.diagonal()  # columns of like weight, whatever their units
        scale = np.sqrt(np.where(weights > 0, weights, 1.0))
        square = square / scale[:, None] / scale
        square.flat[:: len(square) + 1] += damping
        step = frame @ (np.linalg.solve(square, -(values @ slopes) / scale) / scale)
        tried = state.moved(step)
        missed, sloped = system_of(marks, seen, tried, sigma)
        reached = float(missed @ missed)
        if reached <= cost:
            gain = cost - reached
            state, values, rows, cost = tried, missed, sloped, reached
            damping = max(damping / 10, 1e-15)
            if gain <= LEAST_GAIN * cost:
                break
        else:
            damping *= 10
            if damping > 1e10:
                break
    return state, values, rows


def _misses_of(best: Fit, marks: Marks) -> tuple[list[float], float]:
    """How far every edge misses, and by how many times the noise the worst does."""
    misses = of_edges(best, len(marks.edges))
    own = [float(np.abs(part).max(initial=0.0)) for part in misses]
    spread = marks.noise
    if spread is None:  # one wrong line must not hide behind the noise that it makes
        whole = np.abs(np.concatenate(misses)) if misses else np.zeros(1)
        spread = max(middle_spread(whole), marks.least_noise, 1e-12)
    return own, (max(own) / spread if own else 0.0)


def of_edges(best: Fit, count: int) -> list[Array]:
    """The misses that belong to each edge."""
    found: list[list[float]] = [[] for _unused in range(count)]
    place = 0
    for edges, each in ((best.seen.shut[2], 2), (best.seen.drawn[2], 2), (best.seen.loose[2], 1)):
        for number in edges.tolist():
            found[number] += best.misses[place : place + each].tolist()
            place += each
    return [np.array(values) for values in found]

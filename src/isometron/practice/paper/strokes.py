"""A person's pencil strokes on an exercise, and the answer that they are."""

import itertools
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import NEAR, SAME
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.asks import Answer, Held, Stroke
from isometron.practice.drill import HIGH_MM, Exercise
from isometron.reading.rims import RimError, fit_rim

JOINED_MM = 2
"""Ink that lies no farther apart hangs together."""

SPECK_MM = 3.0
"""Shorter ink is a speck."""

ALONG_DEG, BESIDE_MM = 10.0, 2.0
"""A stroke along the line of a held point ends where the point is; others cross it there."""

RUNS_ON = 0.5
"""A stroke means the place that it would cross when it ran on by this share of its length."""

TOGETHER_MM = 2.0
GIVEN_MM = 3.0
"""Ends of strokes so near to each other are one place; those so near to a given mark begin at it.
"""

THIN_MM = 1.5
"""An ellipse with a shorter half axis cannot be told from a line."""

STRAIGHT = 0.06
"""A stroke whose ink spreads more, in shares of its length, is no straight one."""


class Pencil(NamedTuple):
    """Ink (rows, columns), how dark it is, px per mm."""

    ink: NDArray[np.bool_]
    dark: NDArray[np.float32]
    px_per_mm: int


class Line(NamedTuple):
    """A straight stroke: both ends (2,) sheet mm."""

    start: Array
    end: Array

    @property
    def run(self) -> Array:
        """(2,) from end to end."""
        return np.asarray(self.end - self.start)

    @property
    def long(self) -> float:
        """How long it is, mm."""
        return float(np.hypot(*self.run))


def answer_of(
    exercise: Exercise, pencil: Pencil
) -> tuple[tuple[Place, ...], tuple[bool, ...], tuple[Place, ...]]:
    """The answer that strokes are: places of the held points (where each stands at first when none
    is found for it), which were surely found, and the stroke."""
    if isinstance(exercise.asks, Stroke):
        return (), (), _stroke(pencil, closed=exercise.asks.closed)
    if not exercise.asks.held:
        return (), (), ()
    if _asks_rim(exercise):
        return _rim(exercise, _inked(pencil, all_of_it=True))
    lines = lines_in(pencil)
    near = [_candidates(exercise, held, lines) for held in exercise.asks.held]
    chosen = _assigned(exercise, near)
    places = tuple(
        held.start if place is None else _pair(held.kept(_pair(place)))
        for held, place in zip(exercise.asks.held, chosen, strict=True)
    )
    return places, tuple(place is not None for place in chosen), ()


def lines_in(pencil: Pencil) -> list[Line]:
    """The straight strokes, the longest first."""
    from isometron.reading.sketch.strokes import strokes_in

    grey = np.round(255 * (1 - np.clip(pencil.dark * 1.4, 0, 1))).astype(np.uint8)
    scale = pencil.px_per_mm
    found = [
        Line(np.array(one.start) / scale, np.array(one.end) / scale)
        for one in strokes_in(grey, float(scale), SPECK_MM)
    ]
    return sorted((one for one in found if one.long > SPECK_MM), key=lambda one: -one.long)


def _candidates(exercise: Exercise, held: Held, lines: list[Line]) -> list[Array]:
    """Places that strokes give a held point: where they cross its line, or the ends of those along
    it; for a free point the ends that begin at nothing given."""
    given = exercise.lines.reshape(-1, 2)
    if held.along is None:
        ends = [end for line in lines for end in (line.start, line.end)]
        return _gathered([end for end in ends if not _begins(end, given)])
    base, way = np.array(held.along[0]), np.array(held.along[1])
    side = float((np.array(held.start) - base) @ way)
    found = []
    for line in lines:
        sine = abs(float(way[0] * line.run[1] - way[1] * line.run[0])) / line.long
        across = np.array([-way[1], way[0]])
        if sine < np.sin(np.radians(ALONG_DEG)):
            if max(abs(float((end - base) @ across)) for end in (line.start, line.end)) < BESIDE_MM:
                found += [end for end in (line.start, line.end) if not _begins(end, given)]
            continue
        share = -float((line.start - base) @ across) / float(line.run @ across)
        if -RUNS_ON <= share <= 1 + RUNS_ON:
            found.append(line.start + share * line.run)
    return _gathered([place for place in found if float((place - base) @ way) * side > 0])


def _begins(end: Array, given: Array) -> bool:
    """Whether a stroke's end lies at the end of something printed."""
    return bool(len(given) and np.hypot(*(given - end).T).min() < GIVEN_MM)


def _gathered(places: list[Array]) -> list[Array]:
    """Places, those together taken for one."""
    found: list[list[Array]] = []
    for place in places:
        own = [group for group in found if np.hypot(*(group[0] - place)) < TOGETHER_MM]
        if own:
            own[0].append(place)
        else:
            found.append([place])
    return [np.mean(group, axis=0) for group in found]


def _assigned(exercise: Exercise, near: list[list[Array]]) -> list[Array | None]:
    """A place for every held point: where as many places as points of a kind were found, those
    nearest to where the points stand at first, each once; None for points that are unsure."""
    chosen: list[Array | None] = [None] * len(near)
    free = [n for n, held in enumerate(exercise.asks.held) if held.along is None]
    if len(free) == 1 and len(near) == 1:
        near = [_one_of(exercise, near[0])]
    for n, held in enumerate(exercise.asks.held):
        if held.along is None or not near[n]:
            continue
        others = [m for m in range(len(near)) if m != n and _same_line(held, exercise.asks.held[m])]
        if not others and len(near[n]) == 1:
            chosen[n] = near[n][0]
        elif others and len(near[n]) == 1 + len(others):
            chosen[n] = _matched(exercise, [n, *others], near[n])[0]
    if free and len(near[free[0]]) == len(free):
        for n, place in zip(free, _matched(exercise, free, near[free[0]]), strict=True):
            chosen[n] = place
    return chosen


def _one_of(exercise: Exercise, places: list[Array]) -> list[Array]:
    """Places for the only point of an answer: the first, where all of them say the same."""
    told = [exercise.told(Answer(places=(_pair(place),))).misses[0] for place in places]
    if told and max(abs(one.error - told[0].error) for one in told) < told[0].hand:
        return places[:1]
    return places


def _same_line(one: Held, other: Held) -> bool:
    """Whether two held points slide on one line."""
    if one.along is None or other.along is None:
        return False
    (a, way), (b, _way) = one.along, other.along
    off = np.subtract(b, a)
    beside = abs(float(way[0] * off[1] - way[1] * off[0]))
    return beside < NEAR and abs(float(np.dot(way, other.along[1]))) > 1 - SAME


def _matched(exercise: Exercise, points: list[int], places: list[Array]) -> list[Array]:
    """Places for points so that together they lie nearest to where the points stand at first, their
    own middle taken off."""
    starts = np.array([exercise.asks.held[n].start for n in points])
    best = min(
        itertools.permutations(range(len(places)), len(points)),
        key=lambda order: float(
            np.hypot(*_centred(np.array([places[n] for n in order]) - starts).T).sum()
        ),
    )
    return [places[n] for n in best]


def _centred(offs: Array) -> Array:
    return np.asarray(offs - offs.mean(axis=0)) if len(offs) > 1 else offs


# Rims


def _asks_rim(exercise: Exercise) -> bool:
    """Whether the held points are centre and half axes of an ellipse."""
    drawn = exercise.asks.drawn(exercise.truth)
    closed = len(drawn) > 8 and np.allclose(drawn[0, :2], drawn[-1, 2:])
    return bool(closed and len(exercise.asks.held) == 3)


def _rim(
    exercise: Exercise, places: Array
) -> tuple[tuple[Place, ...], tuple[bool, ...], tuple[Place, ...]]:
    """Centre and half axes of the ellipse that the ink lies on."""
    ring = np.array(_ring(places)).reshape(-1, 2)
    if not len(ring):
        return exercise.first_answer().places, (False,) * 3, ()
    x, y, long, short, tilt = fit_rim(ring[:-1]).values.tolist()
    along, up = np.array([np.cos(tilt), np.sin(tilt)]), np.array([-np.sin(tilt), np.cos(tilt)])
    centre = np.array([x, y])
    ends = (centre, centre + long * along, centre + short * up)
    return tuple(_pair(end) for end in ends), (True,) * 3, ()


# Strokes


def _stroke(pencil: Pencil, *, closed: bool) -> tuple[Place, ...]:
    """The stroke that answers: the ellipse that the ink lies on, or the line with its bow; nothing
    when there is none."""
    places = _inked(pencil, all_of_it=closed)
    if len(places) == 0:
        return ()
    return _ring(places) if closed else _bowed(places)


def _inked(pencil: Pencil, *, all_of_it: bool) -> Array:
    """(n, 2) places, mm, of the ink that hangs together and reaches farthest, or of all that is
    more than a speck."""
    import cv2

    kernel = np.ones((JOINED_MM * pencil.px_per_mm,) * 2, np.uint8)
    joined = cv2.morphologyEx(pencil.ink.astype(np.uint8), cv2.MORPH_CLOSE, kernel)
    _count, named, told, _middles = cv2.connectedComponentsWithStats(joined, connectivity=8)
    reach = np.hypot(told[:, cv2.CC_STAT_WIDTH], told[:, cv2.CC_STAT_HEIGHT]) / pencil.px_per_mm
    reach[0] = 0.0  # the paper itself
    if reach.max() < 2 * SPECK_MM:
        return np.empty((0, 2))
    own = reach > SPECK_MM if all_of_it else np.arange(len(reach)) == reach.argmax()
    rows, columns = np.nonzero(own[named] & pencil.ink)
    return np.stack(
        [(columns + 0.5) / pencil.px_per_mm, HIGH_MM - (rows + 0.5) / pencil.px_per_mm], axis=1
    )


def _bowed(places: Array) -> tuple[Place, ...]:
    """The middle of a line's ink, from end to end."""
    middle = places.mean(axis=0)
    way = np.linalg.svd(places - middle, full_matrices=False)[2][0]
    across = np.array([-way[1], way[0]])
    along, aside = (places - middle) @ way, (places - middle) @ across
    low, high = float(along.min()), float(along.max())
    if float(aside.std()) > STRAIGHT * 2 * (high - low):
        return ()
    count = max(int((high - low) / 2.0), 3)
    bins = np.minimum(((along - low) / (high - low) * count).astype(int), count - 1)
    found = []
    for n in range(count):
        own = bins == n
        if own.any():
            found.append(middle + along[own].mean() * way + aside[own].mean() * across)
    first, last = found[0], found[-1]  # the middles of the outer bins lie half a bin inside
    slope = (last - first) / np.hypot(*(last - first))
    found[0] = first + (low - float((first - middle) @ way)) * slope
    found[-1] = last + (high - float((last - middle) @ way)) * slope
    return tuple(_pair(place) for place in found)


def _ring(places: Array) -> tuple[Place, ...]:
    """The middle of an ellipse's ink, once round; nothing when the ink goes round nothing."""
    try:
        x, y, long, short, tilt = fit_rim(
            np.asarray(places[:: max(len(places) // 400, 1)], dtype=float)
        ).values.tolist()
    except RimError:
        return ()
    c, s = np.cos(tilt), np.sin(tilt)
    own = (places - (x, y)) @ np.array([[c, -s], [s, c]]) / (long, short)
    turn = np.arctan2(own[:, 1], own[:, 0])
    bins = ((turn + np.pi) / (2 * np.pi) * 64).astype(int) % 64
    found = [places[bins == n].mean(axis=0) for n in range(64) if (bins == n).any()]
    if len(found) < 48 or short < THIN_MM:
        return ()
    return tuple(_pair(place) for place in [*found, found[0]])


def _pair(place: Array | Place) -> Place:
    return float(place[0]), float(place[1])

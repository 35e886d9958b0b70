"""Pairs of extents that overlap, found by a sweep over sorted bounds.

A plane sweep along the axis on which fewest extents overlap (Bentley and Wood, 1980, an optimal
algorithm for reporting intersections of rectangles, without its tree): time grows with the number
of extents and of pairs, not with its square.
"""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Indices
from isometron.perspective.eye import Array
from isometron.perspective.watching import tick

FEW = 4096
"""Up to so many pairs are simply all looked at."""

MOST = 2_000_000
"""Pairs are looked at in lots of about this many."""

Windows = tuple[Indices, Indices, Indices]
"""Order of the sorted, first and last (exclusive) place in it for each of the others."""


def overlapping(a: Array, b: Array) -> tuple[Indices, Indices]:
    """Pairs of extents (n, 2k) and (m, 2k), each k low ends and k high ends, that overlap or touch:
    their numbers (p,), in order."""
    if len(a) * len(b) <= FEW:
        one, other = np.nonzero(_both(a[:, None], b[None]))
        return one, other
    ways = [_windows(a, b, axis) for axis in range(a.shape[1] // 2)]
    within, around = min(ways, key=lambda way: sum(int((e - s).sum()) for _order, s, e in way))
    pairs = [_kept(a, b, one, other) for one, other in _expanded(within)]
    pairs += [_kept(a, b, one, other) for other, one in _expanded(around)]
    return _in_order(pairs)


def overlapping_among(a: Array) -> tuple[Indices, Indices]:
    """Pairs (first < second) of extents (n, 2k) that overlap or touch: their numbers (p,)."""
    ways = []
    for axis in range(a.shape[1] // 2):
        order = np.argsort(a[:, axis], kind="stable")
        end = np.searchsorted(a[order, axis], a[order, axis + a.shape[1] // 2], side="right")
        begin = np.arange(1, len(a) + 1)
        ways.append((order, begin, np.maximum(end, begin)))
    order, begin, end = min(ways, key=lambda way: int((way[2] - way[1]).sum()))
    sorted_by = a[order]
    pairs = []
    for one, other in _expanded((np.arange(len(a)), begin, end)):
        first, second = (order[some] for some in _kept(sorted_by, sorted_by, one, other))
        pairs.append((np.minimum(first, second), np.maximum(first, second)))
    return _in_order(pairs)


def _in_order(pairs: list[tuple[Indices, Indices]]) -> tuple[Indices, Indices]:
    none = np.empty(0, dtype=np.intp)
    first = np.concatenate([none, *(pair[0] for pair in pairs)])
    second = np.concatenate([none, *(pair[1] for pair in pairs)])
    order = np.lexsort((second, first))
    return first[order], second[order]


def _both(a: Array, b: Array) -> NDArray[np.bool_]:
    """Whether extents overlap along every axis."""
    axes = a.shape[-1] // 2
    both = np.ones(np.broadcast_shapes(a.shape[:-1], b.shape[:-1]), dtype=bool)
    for axis in range(axes):
        both &= (a[..., axis] <= b[..., axis + axes]) & (b[..., axis] <= a[..., axis + axes])
    return both


def _windows(a: Array, b: Array, axis: int) -> tuple[Windows, Windows]:
    """For each a the b that begin within it, and for each b the a that begin within it but after
    it: together every pair that overlaps along an axis, once."""
    high = a.shape[1] // 2 + axis
    order_b, order_a = np.argsort(b[:, axis]), np.argsort(a[:, axis])
    low_b, low_a = b[order_b, axis], a[order_a, axis]
    begin = np.searchsorted(low_b, a[:, axis], side="left")
    end = np.maximum(np.searchsorted(low_b, a[:, high], side="right"), begin)
    after = np.searchsorted(low_a, b[:, axis], side="right")
    last = np.maximum(np.searchsorted(low_a, b[:, high], side="right"), after)
    return (order_b, begin, end), (order_a, after, last)


def _expanded(windows: Windows) -> Iterator[tuple[Indices, Indices]]:
    """Owner and member of every window, in lots."""
    order, begin, end = windows
    before = np.concatenate([[0], np.cumsum(end - begin)])
    start = 0
    while start < len(begin):
        tick()
        stop = max(int(np.searchsorted(before, before[start] + MOST, side="right")) - 1, start + 1)
        counts = end[start:stop] - begin[start:stop]
        owner = np.repeat(np.arange(start, stop), counts)
        shift = begin[start:stop] - (before[start:stop] - before[start])
        yield owner, order[np.arange(len(owner)) + np.repeat(shift, counts)]
        start = stop


def _kept(a: Array, b: Array, one: Indices, other: Indices) -> tuple[Indices, Indices]:
    """Those of some pairs that overlap along every axis."""
    axes = a.shape[1] // 2
    for axis in range(axes):
        both = (a[one, axis] <= b[other, axis + axes]) & (b[other, axis] <= a[one, axis + axes])
        if not both.all():
            one, other = one[both], other[both]
    return one, other

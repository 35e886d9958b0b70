"""Items cut into pieces that are wholly seen or wholly hidden."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import SMOOTH, Indices
from isometron.hiding.covers import Ahead, Covers
from isometron.hiding.slabs import SHORTEST
from isometron.hiding.standing import Lot
from isometron.perspective.eye import Array


class Pieces(NamedTuple):
    """k pieces of the items of a figure, in the order of the items: item (k,), span (k, 2) in its
    parameter, whether it is seen (k,), and whether it is drawn at all (k,)."""

    item: Indices
    span: Array
    seen: NDArray[np.bool_]
    drawn: NDArray[np.bool_]


NO_PIECES = Pieces(
    np.empty(0, dtype=np.intp), np.empty((0, 2)), np.empty(0, dtype=bool), np.empty(0, dtype=bool)
)


def cut(
    lot: Lot,
    ahead: Ahead,
    covers: Sequence[Covers],
    lost: Sequence[tuple[Indices, Array]],
    thick: NDArray[np.bool_],
    solid: NDArray[np.bool_],
) -> list[Pieces]:
    """The pieces of the items of several figures at once.

    ahead: parts of the items of the lot that lie ahead; covers of each figure, and of all in a row
    whether nothing shows through the hider; lost: parts of edges of each figure that are none,
    because a flush face of the same body goes on there; solid (n,): figures of which nothing hidden
    is drawn.
    """
    base = lot.first[:-1]
    item = in_a_row([one.item for one in covers], base)
    span = np.concatenate([one.span for one in covers])
    gone_item = in_a_row([rows for rows, _ in lost], base)
    gone_span = np.concatenate([spans for _, spans in lost])
    turned = lot.items.turned
    number, low, high, covered, shut = _swept(ahead, (item, span, thick), (gone_item, gone_span))
    seen = turned[number] & ~covered & ~shut
    drawn = seen | ~(shut | (solid[lot.owner[number]] & ~turned[number]))
    # Edges within a round corner are drawn as an outline only.
    keep = (lot.items.kinds[number] != SMOOTH) | lot.items.outline[number]
    number, low, high, seen, drawn = _joined(
        number[keep], low[keep], high[keep], seen[keep], drawn[keep]
    )
    spans = np.stack([low, high], axis=1)
    return [
        Pieces(number[a:b] - first, spans[a:b], seen[a:b], drawn[a:b])
        for a, b, first in lot.split(number)
    ]


def in_a_row(numbers: Sequence[Indices], base: Indices) -> Indices:
    """Numbers of the items of each figure as numbers of all in a row, from the first of each."""
    return np.concatenate(numbers) + np.repeat(base, [len(one) for one in numbers])


def _swept(
    parts: tuple[Indices, Array],
    covers: tuple[Indices, Array, NDArray[np.bool_]],
    lost: tuple[Indices, Array],
) -> tuple[Indices, Array, Array, NDArray[np.bool_], NDArray[np.bool_]]:
    """The elementary pieces of items between the ends of their parts, covers and losses: item (k,),
    from (k,), to (k,), whether covered by anything (k,), and whether by something that nothing
    shows through, or lost (k,).

    Every end is an event; between two events the counts of what lies over the item do not change.
    Pieces shorter than SHORTEST are roundings and are left out.
    """
    item, span, thick = covers
    gone, gone_span = lost
    every = np.concatenate([parts[0], item, gone])
    spans = np.concatenate([parts[1], span, gone_span])
    n, c, g = len(parts[0]), len(item), len(gone)
    ahead = np.zeros(n + c + g, dtype=np.int64)
    ahead[:n] = 1
    over = np.zeros(n + c + g, dtype=np.int64)
    over[n : n + c] = 1
    shut = np.zeros(n + c + g, dtype=np.int64)
    shut[n : n + c] = thick
    shut[n + c :] = 1
    number = np.concatenate([every, every])
    at = np.concatenate([spans[:, 0], spans[:, 1]])
    order = np.lexsort((at, number))
    number, at = number[order], at[order]
    counts = np.cumsum(
        np.stack([np.concatenate([x, -x])[order] for x in (ahead, over, shut)]), axis=1
    )
    inner = np.zeros(len(at), dtype=bool)
    inner[:-1] = number[1:] == number[:-1]
    length = np.zeros(len(at))
    length[:-1] = at[1:] - at[:-1]
    some = np.flatnonzero(inner & (length > SHORTEST) & (counts[0] > 0))
    return (
        number[some],
        at[some],
        at[np.minimum(some + 1, len(at) - 1)],
        counts[1][some] > 0,
        counts[2][some] > 0,
    )


def _joined(
    number: Indices, low: Array, high: Array, seen: NDArray[np.bool_], drawn: NDArray[np.bool_]
) -> tuple[Indices, Array, Array, NDArray[np.bool_], NDArray[np.bool_]]:
    """Neighbouring pieces of one item with one state as one."""
    same = np.zeros(len(number), dtype=bool)
    same[1:] = (number[1:] == number[:-1]) & (seen[1:] == seen[:-1]) & (drawn[1:] == drawn[:-1])
    same[1:] &= low[1:] - high[:-1] <= 2 * SHORTEST
    begins = np.flatnonzero(~same)
    ends = np.append(begins[1:], len(number)) - 1 if len(number) else begins
    return number[begins], low[begins], high[ends], seen[begins], drawn[begins]

"""Items cut into pieces that are wholly seen or wholly hidden."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.framework.body import SMOOTH, Indices
from isometron.hiding.covers import Covers
from isometron.hiding.slabs import SHORTEST
from isometron.hiding.standing import Items
from isometron.perspective.eye import Array


@dataclass(frozen=True, eq=False)
class Pieces:
    """k pieces of the items of a figure, in the order of the items: item (k,), span (k, 2) in its
    parameter, whether it is seen (k,), and whether it is drawn at all (k,)."""

    item: Indices
    span: Array
    seen: NDArray[np.bool_]
    drawn: NDArray[np.bool_]


def cut(
    items: Sequence[Items],
    ahead: Sequence[tuple[Indices, Array]],
    covers: Sequence[Covers],
    lost: Sequence[tuple[Indices, Array]],
    dense: Sequence[NDArray[np.bool_]],
    solid: NDArray[np.bool_],
) -> list[Pieces]:
    """The pieces of several figures at once.

    ahead: parts of the items that lie ahead; covers, and of each whether nothing shows through its
    hider; lost: parts of edges that are none, because a flush face of the same body goes on there;
    solid (n,): figures of which nothing hidden is drawn.
    """
    if not items:
        return []
    first = np.concatenate([[0], np.cumsum([len(one.kinds) for one in items])])
    base = first[:-1].tolist()
    whole = [rows + b for (rows, _), b in zip(ahead, base, strict=True)]
    part_item = np.concatenate(whole)
    part_span = np.concatenate([spans for _, spans in ahead])
    item = np.concatenate([one.item + b for one, b in zip(covers, base, strict=True)])
    span = np.concatenate([one.span for one in covers])
    thick = np.concatenate(dense)
    gone_item = np.concatenate([rows + b for (rows, _), b in zip(lost, base, strict=True)])
    gone_span = np.concatenate([spans for _, spans in lost])
    turned = np.concatenate([one.turned for one in items])
    owner = np.repeat(np.arange(len(items)), np.diff(first))
    own_solid = solid[owner]
    number, low, high, covered, shut = _swept(
        (part_item, part_span), (item, span, thick), (gone_item, gone_span)
    )
    seen = turned[number] & ~covered & ~shut
    drawn = seen | ~(shut | (own_solid[number] & ~turned[number]))
    keep = _kept_smooth(items, number)
    number, low, high, seen, drawn = _joined(
        number[keep], low[keep], high[keep], seen[keep], drawn[keep]
    )
    ends = np.searchsorted(number, first)
    return [
        Pieces(
            number[a:b] - start,
            np.stack([low[a:b], high[a:b]], axis=1),
            seen[a:b],
            drawn[a:b],
        )
        for a, b, start in zip(ends[:-1].tolist(), ends[1:].tolist(), base, strict=True)
    ]


def _kept_smooth(items: Sequence[Items], number: Indices) -> NDArray[np.bool_]:
    """(k,) all pieces but those of edges within a round corner that are no outline."""
    kinds = np.concatenate([one.kinds for one in items])
    outline = np.concatenate([one.outline for one in items])
    return np.asarray(((kinds != SMOOTH) | outline)[number])


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

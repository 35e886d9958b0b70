"""All figures of a scene as one viewpoint sees them.

A sight remembers what it was made from. Asked for the next scene it looks again only at the pairs
of an item and a hider of which one has changed: everything else is taken over, down to single
surfaces of one figure.
"""

import itertools
from collections import defaultdict
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import EDGE, Indices
from isometron.framework.figures import Figure
from isometron.hiding.ahead import ahead_of, apart, put_together
from isometron.hiding.carry_over import Mapped, mapped
from isometron.hiding.covers import (
    NONE,
    Ahead,
    Asked,
    Covers,
    Hiders,
    asked_of,
    hidden_by_slabs,
    hidden_by_surfaces,
    together,
)
from isometron.hiding.meeting import Meeting, flush_spans, meetings_of
from isometron.hiding.pieces import Pieces, cut
from isometron.hiding.standing import Lot, Standing, lot_of, stand, with_meetings
from isometron.hiding.surfaces import row_of
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.eye import Array

NOTHING_LOST = (np.empty(0, dtype=np.intp), np.empty((0, 2)))


class Sight(NamedTuple):
    """n figures before a viewpoint: each as it stands there, what covers its items, and its pieces;
    where the figures meet, by pair; pairs of figures that are one body; and all items in one row,
    when all was looked at anew."""

    viewpoint: Viewpoint
    standing: tuple[Standing, ...]
    meetings: dict[tuple[int, int], Meeting]
    hiders: Hiders
    ahead: tuple[Ahead, ...]
    covers: tuple[Covers, ...]
    pieces: tuple[Pieces, ...]
    solid: NDArray[np.bool_]
    bodies: frozenset[tuple[int, int]]
    lot: Lot | None = None


def sight_of(
    viewpoint: Viewpoint,
    figures: Sequence[Figure],
    solid: NDArray[np.bool_],
    groups: Sequence[str] = (),
    before: Sight | None = None,
) -> Sight:
    """What a viewpoint sees of some figures.

    solid (n,): figures through which nothing shows. groups: figures of one group (not "") are one
    body. What stands unchanged in `before` is taken over as it is.
    """
    if before is not None and len(before.standing) != len(figures):
        before = None
    changed = _changed(before, figures)
    meetings = _meetings(figures, before, changed)
    alike = before is not None and before.viewpoint.same(viewpoint)
    standing = list(before.standing) if alike and before is not None else []
    if standing:
        fresh = stand(viewpoint, [figures[i] for i in changed])
        for i, one in zip(changed, fresh, strict=True):
            standing[i] = one
    else:
        standing = stand(viewpoint, figures)
    by_first: dict[int, list[Meeting]] = defaultdict(list)
    for meeting in meetings.values():
        if meeting.there:
            by_first[meeting.first].append(meeting)
    bodies = frozenset(
        pair
        for pair in meetings
        if groups and groups[pair[0]] and groups[pair[0]] == groups[pair[1]]
    )
    known = before if alike else None
    for i in _to_be_met(known, by_first, meetings, changed, len(figures)):
        standing[i] = with_meetings(standing, i, by_first.get(i, []), viewpoint)
    if known is None:
        return _all_anew(viewpoint, standing, meetings, solid, bodies)
    return _brought_up(known, standing, meetings, solid, bodies)


def _changed(before: Sight | None, figures: Sequence[Figure]) -> list[int]:
    if before is None:
        return list(range(len(figures)))
    pairs = zip(before.standing, figures, strict=True)
    return [i for i, (one, figure) in enumerate(pairs) if one.figure is not figure]


def _meetings(
    figures: Sequence[Figure], before: Sight | None, changed: list[int]
) -> dict[tuple[int, int], Meeting]:
    if before is None:
        return meetings_of(figures)
    return meetings_of(figures, before.meetings, set(changed)) if changed else before.meetings


def _to_be_met(
    before: Sight | None,
    by_first: dict[int, list[Meeting]],
    meetings: dict[tuple[int, int], Meeting],
    changed: list[int],
    count: int,
) -> list[int]:
    """Figures whose lines of meeting are to be put on anew."""
    if before is None:
        return sorted(by_first)
    touched = set(changed)
    then = {pair for pair, one in before.meetings.items() if one.there}
    now = {pair for pair, one in meetings.items() if one.there}
    for pair in then | now:
        if before.meetings.get(pair) is not meetings.get(pair):
            touched.add(pair[0])
    return sorted(touched)


def _front(viewpoint: Viewpoint, one: Standing) -> NDArray[np.bool_]:
    """(s,) surfaces of a figure that bends that count: not its faces turned away from a viewpoint
    outside of it."""
    if one.seen is None:
        return np.empty(0, dtype=bool)
    front = ~one.seen.plane
    front[: len(one.turned)] |= one.turned
    low, high = one.figure.reach[:3], one.figure.reach[3:]
    within = not viewpoint.far and bool(
        (low <= viewpoint.place).all() and (viewpoint.place <= high).all()
    )
    return np.ones_like(front) if within else front


def _hiders(viewpoint: Viewpoint, standing: Sequence[Standing]) -> Hiders:
    n = len(standing)
    return Hiders(
        np.array([one.bounds for one in standing]).reshape(n, 4),
        np.array([one.nearest for one in standing]),
        np.array([one.hides for one in standing], dtype=bool),
        np.array([one.hides_itself for one in standing], dtype=bool),
        np.array([one.figure.reach for one in standing]).reshape(n, 6),
        row_of([one.seen for one in standing]),
        np.concatenate([_front(viewpoint, one) for one in standing]),
    )


def _wanted(lot: Lot, mixed: bool) -> NDArray[np.bool_]:
    """Items of a lot of which it matters whether they are covered: those turned to us; where some
    figures are solid and others see-through, all."""
    turned = lot.items.turned
    return np.ones(len(turned), dtype=bool) if mixed else turned


def _mixed(solid: NDArray[np.bool_]) -> bool:
    return bool(solid.any() and not solid.all())


def _all_anew(
    viewpoint: Viewpoint,
    standing: list[Standing],
    meetings: dict[tuple[int, int], Meeting],
    solid: NDArray[np.bool_],
    bodies: frozenset[tuple[int, int]],
) -> Sight:
    hiders = _hiders(viewpoint, standing)
    everyone = np.arange(len(standing))
    lot = lot_of([one.items for one in standing])
    ahead = ahead_of(viewpoint, lot)
    fresh = np.ones(len(lot.owner), dtype=bool)
    asked = asked_of(viewpoint, lot, everyone, ahead, _wanted(lot, _mixed(solid)), fresh)
    old = np.zeros(len(standing), dtype=bool), np.zeros(len(hiders.front), dtype=bool)
    covers = _asked_all(viewpoint, standing, asked, hiders, old)
    pieces = _cut(standing, everyone, (lot, ahead), covers, solid, bodies)
    return Sight(
        viewpoint,
        tuple(standing),
        meetings,
        hiders,
        tuple(apart(lot, ahead)),
        tuple(covers),
        tuple(pieces),
        solid,
        bodies,
        lot,
    )


def _asked_all(
    viewpoint: Viewpoint,
    standing: Sequence[Standing],
    asked: Asked,
    hiders: Hiders,
    fresh: tuple[NDArray[np.bool_], NDArray[np.bool_]],
) -> list[Covers]:
    """What hides what, where the item or the flat figure (n,) or surface (s,) that hides it is
    fresh, by the figure whose items are hidden."""
    found = [
        hidden_by_slabs(standing, asked, hiders, fresh[0]),
        hidden_by_surfaces(viewpoint, asked, hiders, fresh[1]),
    ]
    owner = np.concatenate([some[0] for some in found])
    every = together([some[1] for some in found])
    order = np.argsort(owner, kind="stable")
    owner, every = owner[order], every.some(order) if len(order) else every
    ends = np.searchsorted(owner, np.arange(len(standing) + 1)).tolist()
    return [
        Covers(every.item[a:b], every.span[a:b], every.hider[a:b], every.part[a:b])
        if b > a
        else NONE
        for a, b in itertools.pairwise(ends)
    ]


def _cut(
    standing: Sequence[Standing],
    which: Indices,
    parts: tuple[Lot, Ahead],
    covers: Sequence[Covers],
    solid: NDArray[np.bool_],
    bodies: frozenset[tuple[int, int]],
) -> list[Pieces]:
    lot, ahead = parts
    thick = solid[np.concatenate([one.hider for one in covers])]
    lost = [_lost(standing, i, bodies) for i in which.tolist()]
    return cut(lot, ahead, covers, lost, thick, solid[which])


def _lost(
    standing: Sequence[Standing], number: int, bodies: frozenset[tuple[int, int]]
) -> tuple[Indices, Array]:
    """Parts of edges that are no edges, because a flush face of the same body goes on there."""
    if not bodies:
        return NOTHING_LOST
    rows: list[int] = []
    spans: list[tuple[float, float]] = []
    one = standing[number].figure
    for pair in bodies:
        if number not in pair:
            continue
        other = standing[pair[0] if pair[1] == number else pair[1]].figure
        for edge, start, end in flush_spans(one, other):
            if one.kinds[edge] == EDGE:
                rows.append(edge)
                spans.append((start, end))
    return np.array(rows, dtype=np.intp), np.array(spans).reshape(-1, 2)


def _brought_up(
    before: Sight,
    standing: list[Standing],
    meetings: dict[tuple[int, int], Meeting],
    solid: NDArray[np.bool_],
    bodies: frozenset[tuple[int, int]],
) -> Sight:
    """The sight of the next scene before the same viewpoint."""
    n = len(standing)
    redrawn = [i for i in range(n) if standing[i] is not before.standing[i]]
    refigured = [i for i in redrawn if standing[i].figure is not before.standing[i].figure]
    mixed = _mixed(solid)
    if mixed != _mixed(before.solid):
        return _all_anew(before.viewpoint, standing, meetings, solid, bodies)
    hiders = _hiders(before.viewpoint, standing) if refigured else before.hiders
    maps = {i: mapped(before.standing[i], standing[i]) for i in redrawn}
    near = set(redrawn)
    if refigured:
        old, new = before.hiders.bounds[refigured], hiders.bounds[refigured]
        near |= _overlapped(hiders.bounds, np.concatenate([old, new]))
    which = sorted(near)
    ahead = list(before.ahead)
    if redrawn:
        lot = lot_of([standing[i].items for i in redrawn])
        for i, parts in zip(redrawn, apart(lot, ahead_of(before.viewpoint, lot)), strict=True):
            ahead[i] = parts
    kept = {i: _kept(before, i, maps, set(refigured)) for i in which}
    found = _missing(
        before.viewpoint, standing, hiders, which, refigured, maps, [ahead[i] for i in which], mixed
    )
    covers = list(before.covers)
    stale = []
    for i, fresh in zip(which, found, strict=True):
        covers[i] = together([kept[i], fresh])
        same = i not in maps and kept[i].size == before.covers[i].size and not fresh.size
        if not same:
            stale.append(i)
    again = set(stale) | set(redrawn) | _in_bodies(before.bodies, bodies, set(refigured))
    if not np.array_equal(solid, before.solid):
        again = set(range(n))
    pieces = list(before.pieces)
    some = sorted(again)
    if some:
        lot = lot_of([standing[i].items for i in some])
        mine = lot, put_together(lot, [ahead[i] for i in some])
        over = [covers[i] for i in some]
        for i, one in zip(
            some, _cut(standing, np.array(some), mine, over, solid, bodies), strict=True
        ):
            pieces[i] = one
    return Sight(
        before.viewpoint,
        tuple(standing),
        meetings,
        hiders,
        tuple(ahead),
        tuple(covers),
        tuple(pieces),
        solid,
        bodies,
    )


def _in_bodies(
    before: frozenset[tuple[int, int]], now: frozenset[tuple[int, int]], changed: set[int]
) -> set[int]:
    """Figures whose flush joints may have changed."""
    pairs = (before ^ now) | {pair for pair in now if changed.intersection(pair)}
    return {i for pair in pairs for i in pair}


def _overlapped(bounds: Array, places: Array) -> set[int]:
    """Figures whose bounds (n, 4) overlap any of some places (m, 4) of the picture."""
    found = np.zeros(len(bounds), dtype=bool)
    for left, bottom, right, top in places.tolist():
        found |= (
            (bounds[:, 0] <= right)
            & (left <= bounds[:, 2])
            & (bounds[:, 1] <= top)
            & (bottom <= bounds[:, 3])
        )
    return set(np.flatnonzero(found).tolist())


def _kept(before: Sight, number: int, maps: dict[int, Mapped], changed: set[int]) -> Covers:
    """The covers of a figure that still hold, in new numbers."""
    known = before.covers[number]
    if not known.size:
        return NONE
    item, part = known.item, known.part
    if number in maps:
        item = maps[number].items[item]
    keep = item >= 0
    for hider in changed:
        mine = known.hider == hider
        if not mine.any():
            continue
        surfaces = maps[hider].surfaces
        if before.standing[hider].seen is None or not len(surfaces):
            keep &= ~mine
            continue
        part = np.where(mine, surfaces[np.where(mine, part, 0)], part)
        keep &= part >= 0
    return Covers(item, known.span, known.hider, part).some(keep)


def _missing(
    viewpoint: Viewpoint,
    standing: Sequence[Standing],
    hiders: Hiders,
    which: Sequence[int],
    changed: Sequence[int],
    maps: dict[int, Mapped],
    ahead: Sequence[Ahead],
    mixed: bool,
) -> list[Covers]:
    """The covers of pairs that were not there before: new items under everything, old items under
    new surfaces."""
    row = hiders.row
    count = 0 if row is None else len(row.owner)
    fresh_surface = np.zeros(count, dtype=bool)
    for i in changed:
        if row is not None and standing[i].seen is not None:
            mine = np.flatnonzero(row.owner == i)
            known = maps[i].surfaces[maps[i].surfaces >= 0]
            fresh_surface[mine] = True
            fresh_surface[mine[known]] = False
    lot = lot_of([standing[i].items for i in which])
    fresh = np.zeros(len(lot.owner), dtype=bool)
    for place, i in enumerate(which):
        if i in maps:
            begin, end = lot.first[place : place + 2].tolist()
            fresh[begin:end] = True
            fresh[begin + maps[i].items[maps[i].items >= 0]] = False
    figure = np.zeros(len(standing), dtype=bool)
    figure[list(changed)] = True
    parts = put_together(lot, ahead)
    asked = asked_of(
        viewpoint, lot, np.array(which, dtype=np.intp), parts, _wanted(lot, mixed), fresh
    )
    every = _asked_all(viewpoint, standing, asked, hiders, (figure, fresh_surface))
    return [every[i] for i in which]

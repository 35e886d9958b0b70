"""All figures of a scene as one viewpoint sees them.

A sight remembers what it was made from. Asked for the next scene it looks again only at the pairs
of an item and a hider of which one has changed: everything else is taken over, down to single
surfaces of one figure.
"""

import itertools
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from isometron.framework.body import EDGE, Indices
from isometron.framework.figures import Figure
from isometron.hiding.covers import (
    NONE,
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
from isometron.hiding.standing import Standing, stand, with_meetings
from isometron.hiding.surfaces import in_a_row
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import at, roots
from isometron.perspective.eye import Array

Ahead = tuple[Indices, Array]
"""Items (k,) and spans (k, 2) of their parts that lie ahead."""


@dataclass(frozen=True, eq=False)
class Sight:
    """n figures before a viewpoint: each as it stands there, what covers its items, and its pieces;
    where the figures meet, by pair."""

    viewpoint: Viewpoint
    standing: tuple[Standing, ...]
    meetings: dict[tuple[int, int], Meeting]
    hiders: Hiders
    ahead: tuple[Ahead, ...]
    covers: tuple[Covers, ...]
    pieces: tuple[Pieces, ...]
    solid: NDArray[np.bool_]
    bodies: frozenset[tuple[int, int]] = field(default_factory=frozenset)


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


def _one_body(groups: Sequence[str], pair: tuple[int, int]) -> bool:
    return bool(groups and groups[pair[0]] and groups[pair[0]] == groups[pair[1]])


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


def _hiders(standing: Sequence[Standing]) -> Hiders:
    n = len(standing)
    return Hiders(
        np.array([one.bounds for one in standing]).reshape(n, 4),
        np.array([one.nearest for one in standing]),
        np.array([one.hides for one in standing], dtype=bool),
        np.array([one.hides_itself for one in standing], dtype=bool),
        np.array([one.figure.reach for one in standing]).reshape(n, 6),
        in_a_row([one.seen for one in standing]),
    )


def _ahead(viewpoint: Viewpoint, standing: Sequence[Standing], which: Sequence[int]) -> list[Ahead]:
    """The parts of the items of some figures that lie ahead."""
    if viewpoint.ahead is None:
        counts = [len(standing[i].items.kinds) for i in which]
        return [(np.arange(k), np.tile([0.0, 1.0], (k, 1))) for k in counts]
    form = viewpoint.ahead.copy()
    form[3] += float(viewpoint.ahead[:3] @ viewpoint.origin)
    first = np.cumsum([0, *(len(standing[i].items.kinds) for i in which)])
    arcs = [standing[i].items.arcs for i in which]
    depth = (np.concatenate(arcs) if arcs else np.empty((0, 3, 4))) @ form
    before_us = depth > 0
    whole, some = before_us.all(axis=1), before_us.any(axis=1)
    rows, spans = [np.flatnonzero(whole)], [np.tile([0.0, 1.0], (int(whole.sum()), 1))]
    crossing = np.flatnonzero(some & ~whole)
    if len(crossing):
        number, t = roots(depth[crossing])
        for place, one in enumerate(crossing.tolist()):
            cuts = np.concatenate([[0.0], np.sort(t[number == place]), [1.0]])
            middle = (cuts[:-1] + cuts[1:]) / 2
            there = at(np.tile(depth[one][:, None], (len(middle), 1, 1)), middle)[:, 0] > 0
            there &= cuts[1:] - cuts[:-1] > 1e-12
            rows.append(np.full(int(there.sum()), one))
            spans.append(np.stack([cuts[:-1], cuts[1:]], axis=1)[there])
    row, span = np.concatenate(rows), np.concatenate(spans)
    order = np.lexsort((span[:, 0], row))
    row, span = row[order], span[order]
    ends = np.searchsorted(row, first)
    return [
        (row[a:b] - start, span[a:b])
        for a, b, start in zip(ends[:-1].tolist(), ends[1:].tolist(), first.tolist(), strict=False)
    ]


def _wanted(standing: Sequence[Standing], number: int, mixed: bool) -> NDArray[np.bool_]:
    """Items of a figure of which it matters whether they are covered: those turned to us; where
    some figures are solid and others see-through, all."""
    turned = standing[number].items.turned
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
    hiders = _hiders(standing)
    which = list(range(len(standing)))
    ahead = _ahead(viewpoint, standing, which)
    wanted = [_wanted(standing, i, _mixed(solid)) for i in which]
    asked = asked_of(viewpoint, standing, which, wanted, ahead)
    everyone = np.arange(len(standing))
    row = hiders.row
    all_surfaces = np.ones(0 if row is None else len(row.owner), dtype=bool)
    covers = _asked_all(viewpoint, standing, asked, hiders, everyone, all_surfaces)
    pieces = _cut(standing, which, ahead, covers, solid, bodies)
    return Sight(
        viewpoint,
        tuple(standing),
        meetings,
        hiders,
        tuple(ahead),
        tuple(covers),
        tuple(pieces),
        solid,
        bodies,
    )


def _asked_all(
    viewpoint: Viewpoint,
    standing: Sequence[Standing],
    asked: Asked,
    hiders: Hiders,
    flat: Indices,
    surfaces: NDArray[np.bool_],
) -> list[Covers]:
    """What the flat figures `flat` and the marked surfaces hide, by the figure whose items are
    hidden."""
    found = [
        hidden_by_slabs(standing, asked, hiders, flat),
        hidden_by_surfaces(viewpoint, asked, hiders, surfaces),
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
    which: Sequence[int],
    ahead: Sequence[Ahead],
    covers: Sequence[Covers],
    solid: NDArray[np.bool_],
    bodies: frozenset[tuple[int, int]],
) -> list[Pieces]:
    return cut(
        [standing[i].items for i in which],
        ahead,
        covers,
        [_lost(standing, i, bodies) for i in which],
        [solid[one.hider] for one in covers],
        solid[list(which)] if len(which) else solid[:0],
    )


def _lost(
    standing: Sequence[Standing], number: int, bodies: frozenset[tuple[int, int]]
) -> tuple[Indices, Array]:
    """Parts of edges that are no edges, because a flush face of the same body goes on there."""
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
    hiders = _hiders(standing) if refigured else before.hiders
    maps = {i: _mapped(before.standing[i], standing[i]) for i in redrawn}
    near = set(redrawn)
    if refigured:
        old, new = before.hiders.bounds[refigured], hiders.bounds[refigured]
        near |= _overlapped(hiders.bounds, np.concatenate([old, new]))
    which = sorted(near)
    ahead = list(before.ahead)
    for i, parts in zip(redrawn, _ahead(before.viewpoint, standing, redrawn), strict=True):
        ahead[i] = parts
    kept = {i: _kept(before, i, maps, set(refigured)) for i in which}
    found = _missing(before.viewpoint, standing, hiders, which, refigured, maps, ahead, mixed)
    covers = list(before.covers)
    stale = []
    for i in which:
        covers[i] = together([kept[i], found[i]])
        same = i not in maps and len(kept[i]) == len(before.covers[i]) and not len(found[i])
        if not same:
            stale.append(i)
    again = set(stale) | set(redrawn) | _in_bodies(before.bodies, bodies, set(refigured))
    if not np.array_equal(solid, before.solid):
        again = set(range(n))
    pieces = list(before.pieces)
    some = sorted(again)
    for i, one in zip(
        some,
        _cut(standing, some, [ahead[i] for i in some], [covers[i] for i in some], solid, bodies),
        strict=True,
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


@dataclass(frozen=True, eq=False)
class Mapped:
    """What of a changed figure is as it was: for each item and each surface (or slab) the new
    number of an old one, −1 where it is gone."""

    items: Indices
    surfaces: Indices
    slabs: bool


def _mapped(old: Standing, new: Standing) -> Mapped:
    a, b = old.items, new.items
    items = _same_rows(
        [a.arcs, a.kinds, a.faces, a.mate, a.mate_face, a.turned],
        [b.arcs, b.kinds, b.faces, b.mate, b.mate_face, b.turned],
    )
    if old.figure is new.figure:
        surfaces = np.arange(0 if new.seen is None else len(new.seen.forms))
        return Mapped(items, surfaces, True)
    surfaces = np.empty(0, dtype=np.intp)
    if old.seen is not None and new.seen is not None:
        one, other = old.seen, new.seen
        surfaces = _same_rows(
            [one.forms, one.within, one.limits, one.plane, one.bounds],
            [other.forms, other.within, other.limits, other.plane, other.bounds],
        )
        regions = [i for i in range(len(one.forms)) if i in one.regions]
        surfaces[regions] = -1
    return Mapped(items, surfaces, False)


def _same_rows(old: Sequence[NDArray[np.generic]], new: Sequence[NDArray[np.generic]]) -> Indices:
    """For each old row of some arrays the number of the new row that is the very same, else −1."""
    place = {key: i for i, key in enumerate(_keys(new))}
    return np.array([place.get(key, -1) for key in _keys(old)], dtype=np.intp)


def _keys(columns: Sequence[NDArray[np.generic]]) -> list[bytes]:
    n = len(columns[0])
    if not n:
        return []
    rows = [np.ascontiguousarray(column).reshape(n, -1).view(np.uint8) for column in columns]
    return [row.tobytes() for row in np.concatenate(rows, axis=1)]


def _kept(before: Sight, number: int, maps: dict[int, Mapped], changed: set[int]) -> Covers:
    """The covers of a figure that still hold, in new numbers."""
    known = before.covers[number]
    if not len(known):
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
    fresh_items, old_items = [], []
    for i in which:
        want = _wanted(standing, i, mixed)
        fresh = np.zeros(len(want), dtype=bool)
        if i in maps:
            fresh[:] = True
            known = maps[i].items[maps[i].items >= 0]
            fresh[known] = False
        fresh_items.append(want & fresh)
        old_items.append(want & ~fresh)
    parts = [ahead[i] for i in which]
    everyone, some = np.arange(len(standing)), np.array(changed, dtype=np.intp)
    found = []
    for wanted, flat, surfaces in (
        (fresh_items, everyone, np.ones(count, dtype=bool)),
        (old_items, some, fresh_surface),
    ):
        asked = asked_of(viewpoint, standing, which, wanted, parts)
        found.append(_asked_all(viewpoint, standing, asked, hiders, flat, surfaces))
    return [together(pair) for pair in zip(*found, strict=True)]

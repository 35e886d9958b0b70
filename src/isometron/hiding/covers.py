"""What covers what: for every pair of an item that is drawn and a surface that may hide it, the
parts of the item that the surface covers.

Every pair is looked at by itself, so that what has been found for a pair holds as long as neither
of the two changes.
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.framework.body import OUTLINE, Indices
from isometron.hiding.cuts import (
    Cuts,
    form_cuts,
    overlapping_pairs,
    parts_between,
    sight_cuts,
    signed,
    slab_cuts,
    turning_cuts,
)
from isometron.hiding.slabs import hidden_spans
from isometron.hiding.standing import Standing
from isometron.hiding.surfaces import Row, meets
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import at, between
from isometron.perspective.eye import Array

INSIDE = 1e-9
"""What is hidden by a flat body lies behind it by more than this share of its distance."""


@dataclass(frozen=True, eq=False)
class Covers:
    """c covers of the items of one figure: item (c,), its span (c, 2) in the item's parameter (for
    a line the share of its true length), and what hides it: figure (c,) and the number (c,) of its
    slab or surface."""

    item: Indices
    span: Array
    hider: Indices
    part: Indices

    def __len__(self) -> int:
        return len(self.item)

    def some(self, keep: NDArray[np.bool_] | Indices) -> "Covers":
        """Those that are kept, or those of some numbers."""
        return Covers(self.item[keep], self.span[keep], self.hider[keep], self.part[keep])


NONE = Covers(
    np.empty(0, dtype=np.intp),
    np.empty((0, 2)),
    np.empty(0, dtype=np.intp),
    np.empty(0, dtype=np.intp),
)


def together(covers: Sequence[Covers]) -> Covers:
    """Several covers in one."""
    some = [one for one in covers if len(one)]
    if len(some) <= 1:
        return some[0] if some else NONE
    return Covers(
        np.concatenate([one.item for one in some]),
        np.concatenate([one.span for one in some]),
        np.concatenate([one.hider for one in some]),
        np.concatenate([one.part for one in some]),
    )


@dataclass(frozen=True, eq=False)
class Asked:
    """Items of several figures in one row, cut to what lies ahead: arcs (m, 3, 4) from the origin,
    the figure (m,) and item (m,) each is a part of and its span (m, 2) of it; surfaces (m, 2) of
    its own figure, mate (m,) and mate's surface (m,) that it lies on; kinds (m,); bounds (m, 4) in
    the picture, furthest depth (m,); line (m,) whether it is straight."""

    arcs: Array
    owner: Indices
    item: Indices
    span: Array
    faces: Indices
    mate: Indices
    mate_face: Indices
    kinds: Indices
    bounds: Array
    furthest: Array
    line: NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Hiders:
    """What the hiders of a scene have in common for any question: bounds (n, 4), nearest depth
    (n,), whether each hides others (n,) and itself (n,), its upright extents (n, 6), and all
    surfaces that bend in one row."""

    bounds: Array
    nearest: Array
    others: NDArray[np.bool_]
    itself: NDArray[np.bool_]
    reach: Array
    row: Row | None


def hidden_by_slabs(
    standing: Sequence[Standing],
    asked: Asked,
    hiders: Hiders,
    numbers: Indices,
) -> tuple[Indices, Covers]:
    """What the flat figures `numbers` hide of what is asked: the figure (c,) whose item each cover
    is of, and the covers."""
    found = []
    by_width: dict[int, list[int]] = defaultdict(list)
    for i in numbers.tolist():
        if len(standing[i].slabs):
            by_width[standing[i].slabs.shape[1]].append(i)
    for alike in by_width.values():
        pairs = _each_slab(standing, asked, hiders, np.array(alike, dtype=np.intp))
        for wanted, by in ((True, _lines_by_slabs), (False, _arcs_by_slabs)):
            mine = asked.line[pairs[0]] == wanted
            found.append(by(asked, *(x[mine] for x in pairs)))
    owners = [some[0] for some in found]
    return np.concatenate([NONE.item, *owners]), together([some[1] for some in found])


def _each_slab(
    standing: Sequence[Standing], asked: Asked, hiders: Hiders, numbers: Indices
) -> tuple[Indices, Indices, Array, Indices]:
    """Every item with every slab (of one number of planes) that may hide it: item, slab, planes
    (q, p, 4), hider. A slab does not hide what lies on the face before it, nor a convex figure the
    lines along which it meets others."""
    items, columns = overlapping_pairs(asked.bounds, hiders.bounds[numbers])
    owner = numbers[columns]
    own = asked.owner[items] == owner
    keep = np.where(own, hiders.itself[owner], hiders.others[owner])
    keep &= hiders.nearest[owner] < asked.furthest[items]
    items, columns = items[keep], columns[keep]
    counts = np.array([len(standing[i].slabs) for i in numbers.tolist()])
    begin = np.cumsum(counts) - counts
    some = counts[columns]
    pair = np.repeat(np.arange(len(items)), some)
    slab = np.arange(some.sum()) - np.repeat(np.cumsum(some) - some, some)
    item, column = items[pair], columns[pair]
    at_slab, hider = begin[column] + slab, numbers[column]
    face = np.concatenate([standing[i].slab_faces for i in numbers.tolist()])[at_slab]
    on_mate = asked.mate[item] == hider
    free = ~(on_mate & ((face < 0) | (face == asked.mate_face[item])))
    mine = asked.owner[item] == hider
    free &= ~(mine & (face >= 0) & (asked.faces[item] == face[:, None]).any(axis=1))
    planes = np.concatenate([standing[i].slabs for i in numbers.tolist()])
    return item[free], slab[free], planes[at_slab[free]], hider[free]


def _lines_by_slabs(
    asked: Asked, item: Indices, slab: Indices, planes: Array, hider: Indices
) -> tuple[Indices, Covers]:
    ends = asked.arcs[item][:, [0, 2]]
    ends = ends[..., :3] / ends[..., 3:]
    spans = hidden_spans(ends[:, 0], ends[:, 1], planes)
    hit = np.flatnonzero(spans[:, 1] > spans[:, 0])
    return _told(asked, item[hit], spans[hit], hider[hit], slab[hit])


def _arcs_by_slabs(
    asked: Asked, item: Indices, slab: Indices, planes: Array, hider: Indices
) -> tuple[Indices, Covers]:
    if not len(item):
        return NONE.item, NONE
    values = np.einsum("qik,qpk->qpi", signed(asked.arcs[item]), planes)
    may = ~(values.max(axis=2) <= 0).any(axis=1)
    item, slab, planes, hider = item[may], slab[may], planes[may], hider[may]
    pair, low, high = parts_between(len(item), slab_cuts(asked.arcs, item, planes))
    middle = at(asked.arcs[item[pair]], (low + high) / 2)
    points = middle[:, :3] / middle[:, 3:]
    depth = np.einsum("qpk,qk->qp", planes[pair][..., :3], points) - planes[pair][..., 3]
    hit = np.flatnonzero(depth.min(axis=1) > INSIDE * np.abs(points).max(axis=1))
    spans = np.stack([low[hit], high[hit]], axis=1)
    one = pair[hit]
    return _told(asked, item[one], spans, hider[one], slab[one])


def _told(
    asked: Asked, item: Indices, spans: Array, hider: Indices, part: Indices
) -> tuple[Indices, Covers]:
    """Covers in the parameters of the whole items they are of, and whose items those are."""
    whole = asked.span[item]
    span = whole[:, :1] + spans * (whole[:, 1:] - whole[:, :1])
    return asked.owner[item], Covers(asked.item[item], span, hider, part)


def hidden_by_surfaces(
    viewpoint: Viewpoint,
    asked: Asked,
    hiders: Hiders,
    surfaces: NDArray[np.bool_],
) -> tuple[Indices, Covers]:
    """What surfaces that bend (those of the row that are marked) hide of what is asked: as
    `hidden_by_slabs`."""
    row = hiders.row
    if row is None or not len(asked.arcs) or not surfaces.any():
        return NONE.item, NONE
    some = np.flatnonzero(surfaces)
    item, place = overlapping_pairs(asked.bounds, row.bounds[some])
    surface = some[place]
    item, surface, own = _pairs_that_count(asked, hiders, row, item, surface)
    if not len(item):
        return NONE.item, NONE
    cuts = _all_cuts(viewpoint, asked, hiders, row, (item, surface, own))
    pair, low, high = parts_between(len(item), cuts)
    middle = at(asked.arcs[item[pair]], (low + high) / 2)
    near = _in_bounds(viewpoint, middle, row.bounds[surface[pair]])
    pair, low, high, middle = pair[near], low[near], high[near], middle[near]
    points = middle[:, :3] / middle[:, 3:]
    hit = meets(row, viewpoint, points, surface[pair], own[pair])
    one = pair[hit]
    spans = np.stack([low[hit], high[hit]], axis=1)
    return _told(asked, item[one], spans, row.owner[surface[one]], row.local[surface[one]])


def _pairs_that_count(
    asked: Asked, hiders: Hiders, row: Row, item: Indices, surface: Indices
) -> tuple[Indices, Indices, NDArray[np.bool_]]:
    """Pairs in which the surface may hide the item, and whether the item lies on it. A plane
    surface does not hide what lies on it, nor one that bends its own outline."""
    owner = row.owner[surface]
    own_figure = asked.owner[item] == owner
    keep = row.nearest[surface] < asked.furthest[item] * (1 + 1e-9)
    keep &= np.where(own_figure, hiders.itself[owner], hiders.others[owner])
    item, surface, owner, own_figure = (x[keep] for x in (item, surface, owner, own_figure))
    local = row.local[surface]
    on = own_figure & (asked.faces[item] == local[:, None]).any(axis=1)
    on |= (asked.mate[item] == owner) & (asked.mate_face[item] == local)
    keep = ~(on & (row.plane[surface] | (asked.kinds[item] == OUTLINE)))
    return item[keep], surface[keep], on[keep]


def _all_cuts(
    viewpoint: Viewpoint,
    asked: Asked,
    hiders: Hiders,
    row: Row,
    pairs: tuple[Indices, Indices, NDArray[np.bool_]],
) -> Cuts:
    """Where the item of each pair may begin or cease to be hidden by its surface."""
    item, surface, own = pairs
    sighted = asked.arcs @ viewpoint.sight.T
    found = [sight_cuts(row, sighted, asked.bounds, item, surface)]
    through = np.flatnonzero(_may_pierce(viewpoint, asked, hiders, row, pairs))
    number, t = form_cuts(asked.arcs, item[through], row.forms[surface[through]])
    found.append((through[number], t))
    mine = np.flatnonzero(own)
    number, t = turning_cuts(row, viewpoint.homogeneous, asked.arcs, item[mine], surface[mine])
    found.append((mine[number], t))
    return np.concatenate([f[0] for f in found]), np.concatenate([f[1] for f in found])


def _may_pierce(
    viewpoint: Viewpoint,
    asked: Asked,
    hiders: Hiders,
    row: Row,
    pairs: tuple[Indices, Indices, NDArray[np.bool_]],
) -> NDArray[np.bool_]:
    """(q,) whether an item may run through its surface: it belongs to another figure, and reaches
    into the space that figure takes up."""
    item, surface, own = pairs
    owner = row.owner[surface]
    foreign = (asked.owner[item] != owner) & ~own
    controls = asked.arcs
    weight = np.where(controls[..., 3:] > 1e-12, controls[..., 3:], np.nan)
    places = controls[..., :3] / weight + viewpoint.origin
    low, high = places.min(axis=1), places.max(axis=1)
    low, high = (np.where(np.isnan(x), s * np.inf, x) for x, s in ((low, -1.0), (high, 1.0)))
    reach = hiders.reach[owner]
    slack = 1e-9 * (np.abs(reach).max(axis=1, initial=1.0))[:, None]
    into = (low[item] <= reach[:, 3:] + slack).all(axis=1)
    into &= (high[item] >= reach[:, :3] - slack).all(axis=1)
    return np.asarray(foreign & into)


def _in_bounds(viewpoint: Viewpoint, places: Array, bounds: Array) -> NDArray[np.bool_]:
    """(q,) whether places (q, 4) are drawn within bounds (q, 4) of the picture."""
    drawn = viewpoint.drawn(places)
    if drawn is None:
        return np.ones(len(places), dtype=bool)
    with np.errstate(divide="ignore", invalid="ignore"):
        flat = drawn[:, :2] / drawn[:, 2:]
    inside = (flat >= bounds[:, :2]).all(axis=1) & (flat <= bounds[:, 2:]).all(axis=1)
    return np.asarray(inside | (drawn[:, 2] <= 0))


def asked_of(
    viewpoint: Viewpoint,
    standing: Sequence[Standing],
    which: Sequence[int],
    wanted: Sequence[NDArray[np.bool_]],
    ahead: Sequence[tuple[Indices, Array]],
) -> Asked:
    """The wanted items of some figures in one row, each cut to its parts that lie ahead, given as
    items (k,) and spans (k, 2)."""
    arcs, owner, item, span, faces, mate, mate_face, kinds, line = ([] for _ in range(9))
    for number, want, (every_row, every_span) in zip(which, wanted, ahead, strict=True):
        keep = want[every_row]
        rows, spans = every_row[keep], every_span[keep]
        if not len(rows):
            continue
        items = standing[number].items
        cut = items.arcs[rows]
        some = np.flatnonzero((spans[:, 0] > 0) | (spans[:, 1] < 1))
        if len(some):
            cut[some] = between(cut[some], spans[some, 0], spans[some, 1])
        arcs.append(cut)
        owner.append(np.full(len(rows), number))
        item.append(rows)
        span.append(spans)
        faces.append(items.faces[rows])
        mate.append(items.mate[rows])
        mate_face.append(items.mate_face[rows])
        kinds.append(items.kinds[rows])
        line.append(rows < items.lines)
    if not arcs:
        none = np.empty(0, dtype=np.intp)
        return Asked(
            np.empty((0, 3, 4)),
            none,
            none,
            np.empty((0, 2)),
            none.reshape(0, 2),
            none,
            none,
            none,
            np.empty((0, 4)),
            np.empty(0),
            np.empty(0, dtype=bool),
        )
    every = np.concatenate(arcs)
    return Asked(
        every,
        np.concatenate(owner),
        np.concatenate(item),
        np.concatenate(span),
        np.concatenate(faces),
        np.concatenate(mate),
        np.concatenate(mate_face),
        np.concatenate(kinds),
        viewpoint.bounds(every),
        viewpoint.depths(every)[1],
        np.concatenate(line),
    )

"""What covers what: for every pair of an item that is drawn and a surface that may hide it, the
parts of the item that the surface covers.

Every pair is looked at by itself, so that what has been found for a pair holds as long as neither
of the two changes.
"""

from collections import defaultdict
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import OUTLINE, Indices
from isometron.hiding.cuts import (
    Cuts,
    form_cuts,
    may_meet,
    parts_between,
    sight_cuts,
    signed,
    slab_cuts,
    turning_cuts,
)
from isometron.hiding.slabs import hidden_spans
from isometron.hiding.standing import Lot, Standing
from isometron.hiding.surfaces import Row, meets
from isometron.hiding.sweeping import overlapping
from isometron.hiding.viewpoint import Viewpoint
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.conics import at, between
from isometron.perspective.eye import Array

INSIDE = 1e-9
"""What is hidden by a flat body lies behind it by more than this share of its distance."""


Ahead = tuple[Indices, Array]
"""Items (k,), in order, and spans (k, 2) of their parts that lie ahead."""


class Covers(NamedTuple):
    """c covers of the items of one figure: item (c,), its span (c, 2) in the item's parameter (for
    a line the share of its true length), and what hides it: figure (c,) and the number (c,) of its
    slab or surface."""

    item: Indices
    span: Array
    hider: Indices
    part: Indices

    @property
    def size(self) -> int:
        """How many there are."""
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
    some = [one for one in covers if one.size]
    if len(some) <= 1:
        return some[0] if some else NONE
    return Covers(
        np.concatenate([one.item for one in some]),
        np.concatenate([one.span for one in some]),
        np.concatenate([one.hider for one in some]),
        np.concatenate([one.part for one in some]),
    )


class Asked(NamedTuple):
    """Items of several figures in one row, cut to what lies ahead: arcs (m, 3, 4) from the origin,
    the figure (m,) and item (m,) each is a part of and its span (m, 2) of it; surfaces (m, 2) of
    its own figure, mate (m,) and mate's surface (m,) that it lies on; kinds (m,); bounds (m, 4) in
    the picture, furthest depth (m,); line (m,) whether it is straight; fresh (m,) whether it is
    looked at for the first time."""

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
    fresh: NDArray[np.bool_]


class Hiders(NamedTuple):
    """What the hiders of a scene have in common for any question: bounds (n, 4), nearest depth
    (n,), whether each hides others (n,) and itself (n,), its upright extents (n, 6), and all
    surfaces that bend in one row, with `front` (s,) those that count: of a closed body those turned
    to a viewpoint outside of it hide all it hides."""

    bounds: Array
    nearest: Array
    others: NDArray[np.bool_]
    itself: NDArray[np.bool_]
    reach: Array
    row: Row | None
    front: NDArray[np.bool_]


def hidden_by_slabs(
    standing: Sequence[Standing], asked: Asked, hiders: Hiders, fresh: NDArray[np.bool_]
) -> tuple[Indices, Covers]:
    """What flat figures hide of what is asked, where the item or the figure (n,) is fresh: the
    figure (c,) whose item each cover is of, and the covers."""
    found = []
    by_width: dict[int, list[int]] = defaultdict(list)
    for i, one in enumerate(standing):
        if len(one.slabs):
            by_width[one.slabs.shape[1]].append(i)
    for alike in by_width.values():
        pairs = _each_slab(standing, asked, hiders, np.array(alike, dtype=np.intp), fresh)
        for wanted, by in ((True, _lines_by_slabs), (False, _arcs_by_slabs)):
            mine = asked.line[pairs[0]] == wanted
            found.append(by(asked, *(x[mine] for x in pairs)))
    owners = [some[0] for some in found]
    return np.concatenate([NONE.item, *owners]), together([some[1] for some in found])


def _each_slab(
    standing: Sequence[Standing],
    asked: Asked,
    hiders: Hiders,
    numbers: Indices,
    fresh: NDArray[np.bool_],
) -> tuple[Indices, Indices, Array, Indices]:
    """Every item with every slab (of one number of planes) that may hide it: item, slab, planes
    (q, p, 4), hider. A slab does not hide what lies on the face before it, nor a convex figure the
    lines along which it meets others."""
    items, columns = _near(asked, hiders, numbers)
    keep = hiders.nearest[numbers[columns]] < asked.furthest[items]
    keep &= asked.fresh[items] | fresh[numbers[columns]]
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


def _near(asked: Asked, hiders: Hiders, numbers: Indices) -> tuple[Indices, Indices]:
    """Items and places among some hiders that may hide them and whose bounds in the picture
    overlap: first sorted out by the whole figures the items belong to."""
    begins = np.flatnonzero(np.diff(asked.owner, prepend=-1))
    counts = np.diff(np.append(begins, len(asked.owner)))
    hider_bounds = hiders.bounds[numbers]
    owner = asked.owner[begins]
    figure, column = overlapping(hiders.bounds[owner], hider_bounds)
    hider = numbers[column]
    may = np.where(owner[figure] == hider, hiders.itself[hider], hiders.others[hider])
    figure, column = figure[may], column[may]
    some = counts[figure]
    item = np.repeat(begins[figure] - np.cumsum(some) + some, some) + np.arange(some.sum())
    column = np.repeat(column, some)
    near = may_meet(asked.bounds[item], hider_bounds[column])
    return item[near], column[near]


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
    fresh: NDArray[np.bool_],
) -> tuple[Indices, Covers]:
    """What bodies that bend hide of what is asked, where the item or the surface (s,) of their row
    is fresh: as `hidden_by_slabs`."""
    row = hiders.row
    if row is None or not len(asked.arcs):
        return NONE.item, NONE
    some = np.flatnonzero(hiders.front)
    item, place = overlapping(asked.bounds, row.bounds[some])
    surface = some[place]
    new = asked.fresh[item] | fresh[surface]
    item, surface = item[new], surface[new]
    item, surface, own = _pairs_that_count(asked, hiders, row, item, surface)
    if not len(item):
        return NONE.item, NONE
    behind = _may_lie_behind(viewpoint, asked, row, item, surface)
    item, surface, own = item[behind], surface[behind], own[behind]
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
    keep = row.nearest[surface] < asked.furthest[item] * (1 + SAME)
    keep &= np.where(own_figure, hiders.itself[owner], hiders.others[owner])
    item, surface, owner, own_figure = (x[keep] for x in (item, surface, owner, own_figure))
    local = row.local[surface]
    on = own_figure & (asked.faces[item] == local[:, None]).any(axis=1)
    on |= (asked.mate[item] == owner) & (asked.mate_face[item] == local)
    keep = ~(on & (row.plane[surface] | (asked.kinds[item] == OUTLINE)))
    return item[keep], surface[keep], on[keep]


def _may_lie_behind(
    viewpoint: Viewpoint, asked: Asked, row: Row, item: Indices, surface: Indices
) -> NDArray[np.bool_]:
    """(q,) whether any of an item lies on the far side of its surface, where that is plane."""
    plane = 2 * row.forms[surface, 3]
    plane[:, 3] /= 2
    ours = plane @ viewpoint.homogeneous
    beyond = np.einsum("qik,qk->qi", asked.arcs[item], plane)
    size = np.abs(asked.arcs[item, :, :3]).max(axis=(1, 2))
    far = (beyond * np.sign(ours)[:, None] < -INSIDE * size[:, None]).any(axis=1)
    return np.asarray(far | ~row.plane[surface])


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
    weight = np.where(controls[..., 3:] > ROUNDING, controls[..., 3:], np.nan)
    places = controls[..., :3] / weight + viewpoint.origin
    low, high = places.min(axis=1), places.max(axis=1)
    low, high = (np.where(np.isnan(x), s * np.inf, x) for x, s in ((low, -1.0), (high, 1.0)))
    reach = hiders.reach[owner]
    slack = SAME * (np.abs(reach).max(axis=1, initial=1.0))[:, None]
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
    lot: Lot,
    owner: Indices,
    ahead: Ahead,
    wanted: NDArray[np.bool_],
    fresh: NDArray[np.bool_],
) -> Asked:
    """The wanted items (m,) of a lot, each cut to its parts that lie ahead, given as items (k,) of
    the lot and spans (k, 2); owner (n,): the numbers of the figures of the lot; fresh (m,) items.
    """
    keep = wanted[ahead[0]]
    rows, spans = ahead[0][keep], ahead[1][keep]
    items = lot.items
    arcs = items.arcs[rows]
    some = np.flatnonzero((spans[:, 0] > 0) | (spans[:, 1] < 1))
    if len(some):
        arcs[some] = between(arcs[some], spans[some, 0], spans[some, 1])
    place = lot.owner[rows]
    return Asked(
        arcs,
        owner[place],
        rows - lot.first[place],
        spans,
        items.faces[rows],
        items.mate[rows],
        items.mate_face[rows],
        items.kinds[rows],
        viewpoint.bounds(arcs),
        viewpoint.depths(arcs)[1],
        lot.line[rows],
        fresh[rows],
    )

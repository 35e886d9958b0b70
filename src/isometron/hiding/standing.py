"""Figures standing before a viewpoint: each with what it hides and what is drawn of it."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import JOIN, OUTLINE, Indices
from isometron.framework.figures import Figure, Hides
from isometron.hiding.meeting import Meeting
from isometron.hiding.slabs import facing, slab_faces, slabs_of
from isometron.hiding.surfaces import Seen, gathered, seen_surfaces
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import straight
from isometron.perspective.eye import Array


class Items(NamedTuple):
    """What is drawn of one figure, m items: its lines first (`lines` of them), as straight arcs,
    then its arcs and outlines.

    starts, ends (lines, 3) of the lines, world mm; arcs (m, 3, 4) taken from the origin; number
    (m,): which line or which arc of the figure each is (−1 − n: its outline n); kinds (m,); faces
    (m, 2) surfaces of its own that it lies on, mate (m,) the other figure it lies on and mate_face
    (m,) where (−1: none); turned (m,) whether a face it lies on turns to the viewpoint; outline
    (m,) whether it lies between a face that does and one that does not."""

    lines: int
    starts: Array
    ends: Array
    arcs: Array
    number: Indices
    kinds: Indices
    faces: Indices
    mate: Indices
    mate_face: Indices
    turned: NDArray[np.bool_]
    outline: NDArray[np.bool_]


class Lot(NamedTuple):
    """Items of several figures in one row: `first` (n + 1,) where those of each begin, owner (m,)
    its place among the n, and line (m,) whether each is straight."""

    items: Items
    first: Indices
    owner: Indices
    line: NDArray[np.bool_]

    def split(self, number: Indices) -> list[tuple[int, int, int]]:
        """For each figure the begin and end of its part of a sorted row of item numbers, and its
        first item."""
        ends = np.searchsorted(number, self.first).tolist()
        return list(zip(ends[:-1], ends[1:], self.first[:-1].tolist(), strict=True))


class Standing(NamedTuple):
    """A figure before a viewpoint: turned (k,) faces to it; slabs (h, p, 4) it hides when flat, and
    the face (h,) each stands behind; `seen` what it hides with when it bends; items; bounds (4,) in
    the picture, nearest and furthest depth."""

    figure: Figure
    turned: NDArray[np.bool_]
    slabs: Array
    slab_faces: Indices
    seen: Seen | None
    own: Items
    items: Items
    bounds: Array
    nearest: float
    furthest: float

    @property
    def hides(self) -> bool:
        """Whether it hides anything of others."""
        if self.figure.hides is not Hides.ALL:
            return False
        return len(self.slabs) > 0 or self.seen is not None

    @property
    def hides_itself(self) -> bool:
        """Whether it may hide parts of its own."""
        if self.figure.hides is Hides.NOTHING:
            return False
        return self.seen is not None or (len(self.slabs) > 0 and not self.figure.body.convex)


def stand(viewpoint: Viewpoint, figures: Sequence[Figure]) -> list[Standing]:
    """Figures set before a viewpoint, without the lines along which they meet."""
    if not figures:
        return []
    turned, faced = facing(viewpoint, figures)
    slabs = slabs_of(viewpoint, figures, turned)
    seen = [None if f.hides is Hides.NOTHING else seen_surfaces(viewpoint, f) for f in figures]
    items = _items(viewpoint, figures, (turned, faced), seen)
    bounds, nearest, furthest = _extents(viewpoint, figures, items)
    none = np.empty(0, dtype=np.intp)
    return [
        Standing(
            figure,
            turned[i],
            slabs[i],
            slab_faces(figure, turned[i]) if len(slabs[i]) else none,
            seen[i],
            items[i],
            items[i],
            bounds[i],
            nearest[i],
            furthest[i],
        )
        for i, figure in enumerate(figures)
    ]


def _extents(
    viewpoint: Viewpoint, figures: Sequence[Figure], items: Sequence[Items]
) -> tuple[Array, list[float], list[float]]:
    """Bounds (n, 4) in the picture and least and greatest depth (n,) of each figure: of its corners
    and of everything drawn of it that bends, or of its lines when it has neither."""
    n = len(figures)
    corners = [figure.world for figure in figures]
    bent = [one.arcs[one.lines :] if len(one.kinds) > one.lines else one.arcs[:0] for one in items]
    lines = [
        one.arcs[: one.lines] if not len(world) else one.arcs[:0]
        for one, world in zip(items, corners, strict=True)
    ]
    number = np.arange(n)
    world = np.concatenate(corners) - viewpoint.origin
    control = np.concatenate([*bent, *lines]).reshape(-1, 4)
    every = np.concatenate([np.column_stack([world, np.ones(len(world))]), control])[:, None]
    owner = np.concatenate(
        [
            np.repeat(number, [len(one) for one in corners]),
            np.repeat(number, [3 * len(one) for one in bent]),
            np.repeat(number, [3 * len(one) for one in lines]),
        ]
    )
    # Control points with no weight lie nowhere: what they belong to is bounded by its fellows.
    real = every[:, 0, 3] > 0
    bounds = gathered(n, viewpoint.bounds(every[real]), owner[real])
    bounds[owner[~real]] = (-np.inf, -np.inf, np.inf, np.inf)
    near, far = viewpoint.depths(every[real])
    nearest, furthest = np.full(n, np.inf), np.full(n, -np.inf)
    np.minimum.at(nearest, owner[real], near)
    np.maximum.at(furthest, owner[real], far)
    return bounds, nearest.tolist(), furthest.tolist()


def _items(
    viewpoint: Viewpoint,
    figures: Sequence[Figure],
    facing_us: tuple[Sequence[NDArray[np.bool_]], Sequence[NDArray[np.bool_]]],
    seen: Sequence[Seen | None],
) -> list[Items]:
    """What is drawn of each figure by itself; all worked out in one row."""
    lines, arcs = [len(f.kinds) for f in figures], [len(f.arc_kinds) for f in figures]
    shown = [
        None if f.hides is Hides.NOTHING else one for f, one in zip(figures, seen, strict=True)
    ]
    outlined = [one for one in shown if one is not None]
    outlines = [0 if one is None else len(one.outlines) for one in shown]
    starts = np.concatenate([f.starts for f in figures])
    ends = np.concatenate([f.ends for f in figures])
    made = [straight(starts - viewpoint.origin, ends - viewpoint.origin)]
    kinds = [np.concatenate([f.kinds for f in figures])]
    on = [np.concatenate([f.faces for f in figures])]
    number = [counting(lines)]
    owner = [np.repeat(np.arange(len(figures)), count) for count in (lines, arcs, outlines)]
    if any(arcs) or any(outlines):
        made += [viewpoint.taken(np.concatenate([f.arcs for f in figures]))]
        made += [one.outlines for one in outlined]
        kinds += [f.arc_kinds for f in figures] + [np.full(sum(outlines), OUTLINE)]
        surface = np.concatenate([kinds[0][:0], *(one.outline_surface for one in outlined)])
        on += [f.arc_faces for f in figures] + [np.stack([surface, surface], axis=1)]
        number += [counting(arcs), -1 - counting(outlines)]
    every, kind, faces = np.concatenate(made), np.concatenate(kinds), np.concatenate(on)
    numbers, whose = np.concatenate(number), np.concatenate(owner)
    if len(made) > 1:
        order = np.argsort(whose, kind="stable")
        every, kind, faces = every[order], kind[order], faces[order]
        numbers, whose = numbers[order], whose[order]
    bends = [one is not None for one in seen]
    to_us, outline = _turned(*facing_us, bends, whose, faces)
    to_us |= kind == OUTLINE
    none = np.full(len(kind), -1)
    first = np.cumsum([0, *lines]).tolist()
    counts = np.array(lines) + np.array(arcs) + np.array(outlines)
    last = np.cumsum(counts).tolist()
    return [
        Items(
            m,
            starts[i : i + m],
            ends[i : i + m],
            every[a:b],
            numbers[a:b],
            kind[a:b],
            faces[a:b],
            none[a:b],
            none[a:b],
            to_us[a:b],
            outline[a:b],
        )
        for i, m, a, b in zip(first[:-1], lines, [0, *last[:-1]], last, strict=True)
    ]


def counting(counts: Sequence[int]) -> Indices:
    """0, 1, 2 … for each of several counts in a row."""
    ends = np.cumsum(np.array(counts, dtype=np.intp))
    total = int(ends[-1]) if len(ends) else 0
    return np.arange(total) - np.repeat(ends - counts, counts)


def _turned(
    turned: Sequence[NDArray[np.bool_]],
    faced: Sequence[NDArray[np.bool_]],
    bends: Sequence[bool],
    owner: Indices,
    faces: Indices,
) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """Whether a surface (m, 2) of its figure (m,) that each item lies on is faced by the viewpoint
    (one that bends may be, always; a line in one seen edge-on is only touched by what lies before
    it), and whether it lies between one that turns to us and one that does not. What lies on none
    is faced; so is everything of a flat body no face of which is."""
    counts = np.array([len(one) for one in turned], dtype=np.intp)
    bent = int(counts.sum())  # then, of surfaces that bend, and of none
    begin = (np.cumsum(counts) - counts)[owner, None]
    at = np.where(faces >= counts[owner, None], bent, begin + faces)
    at = np.where(faces < 0, bent + 1, at)
    both = np.concatenate([*turned, [True, False]])[at]
    to_us = np.concatenate([*faced, [True, False]])[at].any(axis=1) | (faces < 0).all(axis=1)
    blind = [not bent and not one.any() for bent, one in zip(bends, faced, strict=True)]
    if any(blind):
        to_us |= np.array(blind)[owner]
    return np.asarray(to_us), np.asarray(both[:, 0] != both[:, 1])


def with_meetings(
    standing: Sequence[Standing], number: int, meetings: Sequence[Meeting], viewpoint: Viewpoint
) -> Standing:
    """A figure with the lines along which it meets others drawn on it."""
    one = standing[number]
    if not meetings:
        return one if one.items is one.own else one._replace(items=one.own)
    own = one.own
    lines = [_part(own, slice(None, own.lines))]
    arcs = [_part(own, slice(own.lines, None))]
    for meeting in meetings:
        other = standing[meeting.second]
        made = straight(meeting.starts, meeting.ends)
        joint = _joint(one, other, meeting, viewpoint.taken(made), meeting.faces)
        lines.append(joint._replace(starts=meeting.starts, ends=meeting.ends, lines=len(made)))
        arcs.append(_joint(one, other, meeting, viewpoint.taken(meeting.arcs), meeting.arc_faces))
    drawn = in_one([*lines, *arcs])
    first = int(own.number[own.lines :].max(initial=-1)) + 1
    drawn.number[: drawn.lines] = np.arange(drawn.lines)
    fresh = np.flatnonzero((drawn.kinds == JOIN) & (np.arange(len(drawn.kinds)) >= drawn.lines))
    drawn.number[fresh] = first + np.arange(len(fresh))
    return one._replace(items=drawn)


def _part(items: Items, some: slice) -> Items:
    """Either the lines or the arcs of some items."""
    straight_ones = some.start is None
    none = items.starts[:0]
    return Items(
        items.lines if straight_ones else 0,
        items.starts if straight_ones else none,
        items.ends if straight_ones else none,
        items.arcs[some],
        items.number[some],
        items.kinds[some],
        items.faces[some],
        items.mate[some],
        items.mate_face[some],
        items.turned[some],
        items.outline[some],
    )


def _joint(one: Standing, other: Standing, meeting: Meeting, arcs: Array, on: Indices) -> Items:
    """Arcs along which a figure meets another, on surfaces (k, 2) of both, as items of the
    first."""
    count = len(on)
    pair, bends = [one.turned, other.turned], [one.seen is not None, other.seen is not None]
    first = np.zeros(count, dtype=np.intp)
    mine, _ = _turned(pair, pair, bends, first, on[:, :1].repeat(2, axis=1))
    theirs, _ = _turned(pair, pair, bends, first + 1, on[:, 1:].repeat(2, axis=1))
    none = np.empty((0, 3))
    return Items(
        0,
        none,
        none,
        arcs,
        np.zeros(count, dtype=np.intp),
        np.full(count, JOIN),
        np.stack([on[:, 0], np.full(count, -1)], axis=1),
        np.full(count, meeting.second),
        on[:, 1],
        mine & theirs,
        np.zeros(count, dtype=bool),
    )


def lot_of(items: Sequence[Items]) -> Lot:
    """Items of several figures in one row."""
    counts = np.array([len(one.kinds) for one in items], dtype=np.intp)
    owner = np.repeat(np.arange(len(items)), counts)
    lines = np.array([one.lines for one in items], dtype=np.intp)
    first = np.concatenate([[0], np.cumsum(counts)])
    line = np.arange(len(owner)) - first[owner] < lines[owner]
    return Lot(in_one(items), first, owner, line)


def in_one(items: Sequence[Items]) -> Items:
    """Items of several figures, or several of one, in one row."""
    if len(items) == 1:
        return items[0]
    return Items(
        sum(one.lines for one in items),
        *(
            np.concatenate([getattr(one, name) for one in items])
            for name in ("starts", "ends", "arcs", "number", "kinds", "faces", "mate", "mate_face")
        ),
        *(np.concatenate([getattr(one, name) for one in items]) for name in ("turned", "outline")),
    )

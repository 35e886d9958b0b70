"""Figures standing before a viewpoint: each with what it hides and what is drawn of it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from isometron.framework.body import JOIN, OUTLINE, Indices
from isometron.framework.figures import Figure, Hides
from isometron.hiding.meeting import Meeting
from isometron.hiding.slabs import facing, slab_faces, slabs_of
from isometron.hiding.surfaces import Seen, seen_surfaces
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import straight
from isometron.perspective.eye import Array


@dataclass(frozen=True, eq=False)
class Items:
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


@dataclass(frozen=True, eq=False)
class Standing:
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
    turned = facing(viewpoint, figures)
    slabs = slabs_of(viewpoint, figures, turned)
    seen = [None if f.hides is Hides.NOTHING else seen_surfaces(viewpoint, f) for f in figures]
    everything = [
        _items(viewpoint, figure, faces, surfaces)
        for figure, faces, surfaces in zip(figures, turned, seen, strict=True)
    ]
    bounds, nearest, furthest = _extents(viewpoint, figures, everything)
    return [
        Standing(
            figure,
            turned[i],
            slabs[i],
            slab_faces(figure, turned[i]) if len(slabs[i]) else np.empty(0, dtype=np.intp),
            seen[i],
            everything[i],
            everything[i],
            bounds[i],
            float(nearest[i]),
            float(furthest[i]),
        )
        for i, figure in enumerate(figures)
    ]


def _extents(
    viewpoint: Viewpoint, figures: Sequence[Figure], items: Sequence[Items]
) -> tuple[Array, Array, Array]:
    """Bounds (n, 4) in the picture and least and greatest depth (n,) of each figure: of its corners
    and of everything drawn of it."""
    hulls: list[Array] = []
    counts: list[int] = []
    for figure, drawn in zip(figures, items, strict=True):
        corners = figure.world - viewpoint.origin
        hulls.append(np.concatenate([corners, np.ones((len(corners), 1))], axis=1)[:, None])
        hulls.append(drawn.arcs[drawn.lines :].reshape(-1, 1, 4))
        if not len(corners):
            hulls.append(drawn.arcs[: drawn.lines].reshape(-1, 1, 4))
        counts.append(sum(len(h) for h in hulls) - sum(counts))
    every = np.concatenate(hulls)
    n = len(figures)
    bounds = np.tile([np.inf, np.inf, -np.inf, -np.inf], (n, 1))
    owner = np.repeat(np.arange(n), counts)
    # Control points with no weight lie nowhere: what they belong to is bounded by its fellows.
    real = every[:, 0, 3] > 0
    each = viewpoint.bounds(every[real])
    near, far = viewpoint.depths(every[real])
    np.minimum.at(bounds[:, 0], owner[real], each[:, 0])
    np.minimum.at(bounds[:, 1], owner[real], each[:, 1])
    np.maximum.at(bounds[:, 2], owner[real], each[:, 2])
    np.maximum.at(bounds[:, 3], owner[real], each[:, 3])
    bounds[owner[~real]] = (-np.inf, -np.inf, np.inf, np.inf)
    nearest, furthest = np.full(n, np.inf), np.full(n, -np.inf)
    np.minimum.at(nearest, owner[real], near)
    np.maximum.at(furthest, owner[real], far)
    return bounds, nearest, furthest


def _items(
    viewpoint: Viewpoint, figure: Figure, turned: NDArray[np.bool_], seen: Seen | None
) -> Items:
    """What is drawn of a figure by itself."""
    lines = straight(figure.starts - viewpoint.origin, figure.ends - viewpoint.origin)
    arcs = viewpoint.taken(figure.arcs)
    outlines = seen.outlines if seen is not None else arcs[:0]
    on = seen.outline_surface if seen is not None else np.empty(0, dtype=np.intp)
    if figure.hides is Hides.NOTHING:
        outlines, on = outlines[:0], on[:0]
    m, a, o = len(lines), len(arcs), len(outlines)
    faces = np.concatenate([figure.faces, figure.arc_faces, np.stack([on, on], axis=1)])
    to_us, outline = _turned(turned, faces, seen is not None)
    to_us[m + a :] = True
    none = np.full(m + a + o, -1)
    return Items(
        m,
        figure.starts,
        figure.ends,
        np.concatenate([lines, arcs, outlines]),
        np.concatenate([np.arange(m), np.arange(a), -1 - np.arange(o)]),
        np.concatenate([figure.kinds, figure.arc_kinds, np.full(o, OUTLINE)]),
        faces,
        none,
        none,
        to_us,
        outline,
    )


def _turned(
    turned: NDArray[np.bool_], faces: Indices, bends: bool
) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """Whether a surface each item lies on turns to the viewpoint (one that bends may, always), and
    whether it lies between one that does and one that does not. What lies on none is turned; so is
    everything of a flat body no face of which is."""
    k = len(turned)
    known = np.append(turned, [True])  # for surfaces that bend
    at = np.where(faces >= k, k, faces)
    both = np.where(faces >= 0, known[np.maximum(at, 0)], False)
    to_us = both.any(axis=1) | (faces < 0).all(axis=1)
    if not bends and not turned.any():
        to_us = np.ones(len(faces), dtype=bool)
    return np.asarray(to_us), np.asarray(both[:, 0] != both[:, 1])


def with_meetings(
    standing: Sequence[Standing], number: int, meetings: Sequence[Meeting], viewpoint: Viewpoint
) -> Standing:
    """A figure with the lines along which it meets others drawn on it."""
    one = standing[number]
    if not meetings:
        return one if one.items is one.own else replace(one, items=one.own)
    own = one.own
    lines = [_part(own, slice(None, own.lines))]
    arcs = [_part(own, slice(own.lines, None))]
    for meeting in meetings:
        other = standing[meeting.second]
        made = straight(meeting.starts, meeting.ends)
        joint = _joint(one, other, meeting, viewpoint.taken(made), meeting.faces)
        ends = {"starts": meeting.starts, "ends": meeting.ends, "lines": len(made)}
        lines.append(replace(joint, **ends))  # type: ignore[arg-type]
        arcs.append(_joint(one, other, meeting, viewpoint.taken(meeting.arcs), meeting.arc_faces))
    drawn = _in_a_row([*lines, *arcs])
    first = int(own.number[own.lines :].max(initial=-1)) + 1
    drawn.number[: drawn.lines] = np.arange(drawn.lines)
    fresh = np.flatnonzero((drawn.kinds == JOIN) & (np.arange(len(drawn.kinds)) >= drawn.lines))
    drawn.number[fresh] = first + np.arange(len(fresh))
    return replace(one, items=drawn)


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
    mine, _ = _turned(one.turned, on[:, :1].repeat(2, axis=1), one.seen is not None)
    theirs, _ = _turned(other.turned, on[:, 1:].repeat(2, axis=1), other.seen is not None)
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


def _in_a_row(items: Sequence[Items]) -> Items:
    return Items(
        sum(one.lines for one in items),
        np.concatenate([one.starts for one in items]),
        np.concatenate([one.ends for one in items]),
        np.concatenate([one.arcs for one in items]),
        np.concatenate([one.number for one in items]),
        np.concatenate([one.kinds for one in items]),
        np.concatenate([one.faces for one in items]),
        np.concatenate([one.mate for one in items]),
        np.concatenate([one.mate_face for one in items]),
        np.concatenate([one.turned for one in items]),
        np.concatenate([one.outline for one in items]),
    )

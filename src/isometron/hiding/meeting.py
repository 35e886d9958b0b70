"""Where figures meet: the lines along which they pierce each other, and edges lost in flush joints.

A plane face and a plane face meet in a straight line, a plane face and a surface that bends in arcs
of conics, both exact; two surfaces that bend meet in curves that are followed step by step
(`hiding.following`). Two figures of one group are one body: where their faces lie in one plane and
carry each other on, no edge is drawn between them.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import MOST_FACES, Indices, Ring
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.bodies.sections import Cutting, cutting, whole_circles
from isometron.framework.figures import Figure, Hides
from isometron.hiding.following import follow
from isometron.hiding.nearness import may_meet
from isometron.hiding.sweeping import overlapping, overlapping_among
from isometron.perspective.conics import between, moved, straight
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered
from isometron.perspective.watching import ticking

FLUSH = 1e-7
"""Share of a figure's size within which two faces lie in one plane."""

BESIDE = 1e-5
"""An edge is looked at this share of the figure's size beyond it, to see whether a face goes on."""

SLIVER = 1e-6
"""A shared line shorter than this share of a figure's size is a touch, not a piercing."""


class Meeting(NamedTuple):
    """Lines where figures `first` and `second` (numbers) pierce each other: starts, ends (k, 3)
    world mm with the surface (k, 2) of each that the line lies on; arcs (j, 3, 4) likewise."""

    first: int
    second: int
    starts: Array
    ends: Array
    faces: Indices
    arcs: Array
    arc_faces: Indices

    @property
    def there(self) -> bool:
        """Whether they pierce each other at all."""
        return len(self.starts) > 0 or len(self.arcs) > 0


def near_pairs(reach: Array, some: Sequence[int] | None = None) -> list[tuple[int, int]]:
    """Pairs (first < second) of figures whose upright extents (n, 6) overlap or touch; only those
    with one of `some` in them, when given."""
    slack = FLUSH * float((reach[:, 3:] - reach[:, :3]).max(initial=0.0))
    padded = reach + np.array([0, 0, 0, slack, slack, slack])
    if some is None:
        first, second = overlapping_among(padded)
        return list(zip(first.tolist(), second.tolist(), strict=True))
    rows = np.array(sorted(some), dtype=np.intp)
    one, other = overlapping(padded[rows], padded)
    one = rows[one]
    apart = one != other
    low, high = np.minimum(one, other)[apart], np.maximum(one, other)[apart]
    return sorted(set(zip(low.tolist(), high.tolist(), strict=True)))


def meetings_of(
    figures: Sequence[Figure],
    known: dict[tuple[int, int], Meeting] | None = None,
    changed: set[int] | None = None,
) -> dict[tuple[int, int], Meeting]:
    """Where figures that hide something touch or pierce each other, by pair; those of pairs that
    have not changed are taken over."""
    found = {}
    if known is not None and changed is not None:
        found = {pair: one for pair, one in known.items() if not changed.intersection(pair)}
    solid = np.array([i for i, figure in enumerate(figures) if figure.hides is Hides.ALL])
    if not len(solid):
        return {}
    reach = np.array([figures[i].reach for i in solid.tolist()])
    rows = None if changed is None else np.flatnonzero(np.isin(solid, list(changed))).tolist()
    pairs = near_pairs(reach, rows)
    for row, other in ticking(pairs, len(pairs)):
        first, second = int(solid[row]), int(solid[other])
        found[first, second] = pierce(figures[first], figures[second], first, second)
    return dict(sorted(found.items()))


def pierce(a: Figure, b: Figure, first: int, second: int) -> Meeting:
    """The lines along which two figures pierce each other.

    Lines that run along an edge of either are that edge already.
    """
    size = float(min(_size(a), _size(b)))
    lines: list[tuple[Array, Array, int, int]] = []
    arcs: list[tuple[Array, int, int]] = []
    if not (_kept_apart(a, b, size) or _kept_apart(b, a, size)):
        if a.body.surfaces is None and b.body.surfaces is None:
            lines = _flat_pieces(a, b, size)
        else:
            lines, arcs = _bent_pieces(a, b, size)
    return Meeting(
        first,
        second,
        np.array([line[0] for line in lines]).reshape(-1, 3),
        np.array([line[1] for line in lines]).reshape(-1, 3),
        np.array([line[2:] for line in lines], dtype=np.intp).reshape(-1, 2),
        np.array([arc[0] for arc in arcs]).reshape(-1, 3, 4),
        np.array([arc[1:] for arc in arcs], dtype=np.intp).reshape(-1, 2),
    )


def _size(figure: Figure) -> float:
    return float((figure.reach[3:] - figure.reach[:3]).max())


def _kept_apart(a: Figure, b: Figure, size: float) -> bool:
    """Whether all of b lies on the outer side of one face of a convex flat figure a."""
    if not a.body.convex:
        return False
    held = b.body.enclosing @ b.axes + b.place
    off = held @ a.normals.T - a.offsets
    return bool((off.min(axis=0) >= -FLUSH * size).any())


def _flat_pieces(a: Figure, b: Figure, size: float) -> list[tuple[Array, Array, int, int]]:
    """Every convex piece of a face of one cut with every piece of the other: the planes meet in a
    line, clipped to both pieces."""
    lines = []
    for piece in a.body.parts:
        for mate in b.body.parts:
            cut = _cut(a, piece, b, mate, size)
            if cut is not None:
                lines.append((*cut, piece[0], mate[0]))
    return lines


def _cut(
    a: Figure, piece: tuple[int, Ring], b: Figure, mate: tuple[int, Ring], size: float
) -> tuple[Array, Array] | None:
    (face, ring), (other, edge) = piece, mate
    corners, across = a.world[list(ring)], b.world[list(edge)]
    off_b = corners @ b.normals[other] - b.offsets[other]
    off_a = across @ a.normals[face] - a.offsets[face]
    slack = FLUSH * size
    if not (off_b.min() < -slack and off_b.max() > slack):
        return None
    if not (off_a.min() < -slack and off_a.max() > slack):
        return None
    return _common(_chord(corners, off_b), _chord(across, off_a), size)


def _common(
    one: tuple[Array, Array], two: tuple[Array, Array], size: float
) -> tuple[Array, Array] | None:
    """The common part of two lines on one straight line; None when it is a touch."""
    along = one[1] - one[0]
    length = float(np.linalg.norm(along))
    if length <= SLIVER * size:
        return None
    along = along / length
    other = sorted(float((p - one[0]) @ along) for p in two)
    low, high = max(0.0, other[0]), min(length, other[1])
    if high - low <= SLIVER * size:
        return None
    return one[0] + low * along, one[0] + high * along


def _chord(corners: Array, off: Array) -> tuple[Array, Array]:
    """The two places where a convex ring crosses the plane its corners are `off` from."""
    after, off_after = np.roll(corners, -1, axis=0), np.roll(off, -1)
    cross = (off < 0) != (off_after < 0)
    share = off[cross] / (off[cross] - off_after[cross])
    places = corners[cross] + share[:, None] * (after[cross] - corners[cross])
    return places[0], places[-1]


def _bent_pieces(
    a: Figure, b: Figure, size: float
) -> tuple[list[tuple[Array, Array, int, int]], list[tuple[Array, int, int]]]:
    """Every face of one cut with every surface of the other, and what bends with what bends."""
    lines: list[tuple[Array, Array, int, int]] = []
    arcs: list[tuple[Array, int, int]] = []
    near = may_meet(a, b)
    for one, other, swapped in ((a, b, False), (b, a, True)):
        some = near.T if swapped else near
        for face in np.flatnonzero(some[: one.body.faces].any(axis=1)).tolist():
            for part, surface, straight_on in _on_face(one, face, other, some[face], size):
                pair = (surface, face) if swapped else (face, surface)
                if not straight_on:
                    arcs.append((part, *pair))
                elif not swapped or surface >= other.body.faces:  # planes with planes are done
                    ends = part[[0, 2], :3] / part[[0, 2], 3:]
                    lines.append((ends[0], ends[1], *pair))
    if a.body.bent and b.body.bent:
        arcs += follow(a, b, near, size)
    return lines, arcs


def _on_face(
    a: Figure, face: int, b: Figure, some: NDArray[np.bool_], size: float
) -> list[tuple[Array, int, bool]]:
    """Where some surfaces (s,) of b cut a face of a: arcs (3, 4) world mm, the surface of b, and
    whether each is straight; without what runs along the outline of the face."""
    cut = _in_plane(a, face, b, some, size)
    if not (cut.lines or cut.arcs):
        return []
    made = straight(
        np.array([start for start, _, _ in cut.lines]).reshape(-1, 3),
        np.array([end for _, end, _ in cut.lines]).reshape(-1, 3),
    )
    counts = [len(some) for some, _ in cut.arcs]
    surface = np.array(
        [*(other for _, _, other in cut.lines), *np.repeat([o for _, o in cut.arcs], counts)],
        dtype=np.intp,
    )
    world = moved(np.concatenate([made, *(some for some, _ in cut.arcs)]), b.axes, b.place)
    own = moved(world, a.axes.T, -(a.axes @ a.place))
    outline = outline_of(a.body, face)
    number, low, high = outline.parts(outline.flat(own))
    parts = between(world[number], low, high)
    ends = parts[:, [0, 2], :3] / parts[:, [0, 2], 3:]
    keep = np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1) > SLIVER * size
    is_line = number < len(made)
    keep &= ~(is_line & _along_an_edge(a, face, ends, size))
    return [
        (parts[i], int(surface[number[i]]), bool(is_line[i])) for i in np.flatnonzero(keep).tolist()
    ]


def _in_plane(a: Figure, face: int, b: Figure, some: NDArray[np.bool_], size: float) -> Cutting:
    """Where the plane of a face of a cuts some surfaces of b, in b's own mm; nothing where b lies
    on one side of it, or a face of b lies in it."""
    normal = b.axes @ a.normals[face]
    offset = float(a.offsets[face] - b.place @ a.normals[face])
    slack = FLUSH * size
    held = b.body.enclosing @ normal
    nothing = Cutting([], [], [])
    if held.min() >= offset - slack or held.max() <= offset + slack:
        return nothing
    low, high = b.body.reach_along(normal)
    if low >= offset - slack or high <= offset + slack:
        return nothing
    return whole_circles(cutting(b.body, normal, offset, some))


def _along_an_edge(a: Figure, face: int, ends: Array, size: float) -> NDArray[np.bool_]:
    """(k,) whether lines with ends (k, 2, 3) run along one of the edges of a face."""
    edges = a.body.edges[(a.body.edge_faces == face).any(axis=1)]
    start = a.world[edges[:, 0]]
    along = a.world[edges[:, 1]] - start
    along = along / np.linalg.norm(along, axis=1, keepdims=True)
    off = ends[:, None] - start[None, :, None]
    far = off - (off * along[None, :, None]).sum(axis=3, keepdims=True) * along[None, :, None]
    return np.asarray((np.linalg.norm(far, axis=3).max(axis=2) <= FLUSH * size).any(axis=1))


def flush_spans(a: Figure, b: Figure) -> list[tuple[int, float, float]]:
    """Parts of a's edges, as (edge, from, to), that a flush face of b carries over.

    An edge is lost where, just beyond it in the plane of one of its faces, a face of b goes on.
    """
    size = float(max(_size(a), _size(b)))
    same = a.normals @ b.normals.T > 1.0 - FLUSH**2 * 50
    same &= np.abs(a.offsets[:, None] - b.offsets[None]) <= FLUSH * size
    lost: list[tuple[int, float, float]] = []
    for face, other in zip(*(x.tolist() for x in np.nonzero(same)), strict=True):
        edges, outward = _edges_round(a, face)
        shift = BESIDE * size * outward
        found, low, high = _covered(b, other, a.starts[edges] + shift, a.ends[edges] + shift)
        lost += zip(edges[found].tolist(), low.tolist(), high.tolist(), strict=True)
    return lost


@remembered(most=MOST_FACES)
def _edges_round(a: Figure, face: int) -> tuple[Indices, Array]:
    """The straight edges (k,) of a face and their unit directions (k, 3) out of it, in its
    plane."""
    edges = np.flatnonzero((a.body.edge_faces[: len(a.starts)] == face).any(axis=1))
    start, end = a.starts[edges], a.ends[edges]
    run = end - start
    outward = np.cross(run, a.normals[face])
    outward /= np.linalg.norm(outward, axis=1, keepdims=True)
    if a.body.convex:
        middle = a.body.middle_of(face) @ a.axes + a.place
        inside = ((middle - start) * outward).sum(axis=1) > 0
    else:
        outline = outline_of(a.body, face)
        long = np.linalg.norm(run, axis=1, keepdims=True)
        beside = (start + end) / 2 + BESIDE * long * outward
        own = (beside - a.place) @ a.axes.T - outline.place
        inside = outline.inside(own @ outline.across.T)
    return edges, np.where(inside[:, None], -outward, outward)


def _covered(b: Figure, face: int, starts: Array, ends: Array) -> tuple[Indices, Array, Array]:
    """The parts of lines (k, 3), in shares of them, that lie within a face in whose plane they
    lie: number, from, to."""
    outline = outline_of(b.body, face)
    own_starts, own_ends = ((one - b.place) @ b.axes.T for one in (starts, ends))
    return outline.parts(outline.flat(straight(own_starts, own_ends)))

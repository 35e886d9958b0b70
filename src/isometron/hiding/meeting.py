"""Where figures meet: the lines along which they pierce each other, and edges lost in flush joints.

A plane face and a plane face meet in a straight line, a plane face and a surface that bends in arcs
of conics, both exact; two surfaces that bend meet in curves that are followed step by step
(`hiding.following`). Two figures of one group are one body: where their faces lie in one plane and
carry each other on, no edge is drawn between them.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from isometron.framework.body import Indices, Ring, flat_loop, is_straight
from isometron.framework.figures import Figure, Hides
from isometron.framework.sections import (
    Cutting,
    across_face,
    cutting,
    inside_loops,
    whole_circles,
)
from isometron.hiding.following import follow
from isometron.perspective.conics import (
    adjugate,
    between,
    linear_along,
    moved,
    points_at,
    quadratic_along,
    roots,
)
from isometron.perspective.eye import Array

FLUSH = 1e-7
"""Share of a figure's size within which two faces lie in one plane."""

BESIDE = 1e-5
"""An edge is looked at this share of the figure's size beyond it, to see whether a face goes on."""

SLIVER = 1e-6
"""A shared line shorter than this share of a figure's size is a touch, not a piercing."""


@dataclass(frozen=True, eq=False)
class Meeting:
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
    low, high = reach[:, :3], reach[:, 3:]
    slack = FLUSH * (high - low).max(initial=0.0)
    rows = np.arange(len(reach)) if some is None else np.array(sorted(some), dtype=np.intp)
    both = (low[rows, None] <= high[None] + slack).all(axis=2)
    both &= (low[None] <= high[rows, None] + slack).all(axis=2)
    one, other = np.nonzero(both)
    pairs = zip(rows[one].tolist(), other.tolist(), strict=True)
    return sorted({(min(a, b), max(a, b)) for a, b in pairs if a != b})


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
    for row, other in near_pairs(reach, rows):
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
    for face in range(a.body.faces):
        found = _in_plane(a, face, b, size)
        for start, end, other in found.lines:
            lines += _line_in_face(a, face, start, end, other, size)
        for some, other in found.arcs:
            arcs += [(arc, face, other) for arc in _arcs_in_face(a, face, some, size)]
    for face in range(b.body.faces):
        found = _in_plane(b, face, a, size)
        for start, end, other in found.lines:
            if other >= a.body.faces:  # planes with planes are done
                turned = _line_in_face(b, face, start, end, other, size)
                lines += [(s, e, two, one) for s, e, one, two in turned]
        for some, other in found.arcs:
            arcs += [(arc, other, face) for arc in _arcs_in_face(b, face, some, size)]
    if a.body.bent and b.body.bent:
        arcs += follow(a, b, size)
    return lines, arcs


def _in_plane(a: Figure, face: int, b: Figure, size: float) -> Cutting:
    """Where the plane of a face of a cuts b, in world mm; nothing where b lies on one side of it,
    or a face of b lies in it."""
    normal, offset = a.normals[face], float(a.offsets[face])
    own_normal = b.axes @ normal
    own_offset = offset - float(b.place @ normal)
    low, high = b.body.reach_along(own_normal)
    slack = FLUSH * size
    if low >= own_offset - slack or high <= own_offset + slack:
        return Cutting([], [], [])
    found = whole_circles(cutting(b.body, own_normal, own_offset))

    def out(place: Array) -> Array:
        return np.asarray(place @ b.axes + b.place)

    lines = [(out(start), out(end), other) for start, end, other in found.lines]
    arcs = [(moved(some, b.axes, b.place), other) for some, other in found.arcs]
    return Cutting(lines, arcs, [])


def _line_in_face(
    a: Figure, face: int, start: Array, end: Array, other: int, size: float
) -> list[tuple[Array, Array, int, int]]:
    """The parts of a line in the plane of a face that lie on the face itself, and not along its
    outline."""
    along = (end - start) / max(float(np.linalg.norm(end - start)), 1e-300)
    across = np.cross(a.normals[face], along)
    own = a.axes @ across
    offset = float((start - a.place) @ across)
    found = []
    for low, high in across_face(a.body, face, own, offset):
        both = _common((low @ a.axes + a.place, high @ a.axes + a.place), (start, end), size)
        if both is not None and not _along_an_edge(a, face, *both, size):
            found.append((*both, face, other))
    return found


def _along_an_edge(a: Figure, face: int, start: Array, end: Array, size: float) -> bool:
    """Whether a line runs along one of the edges of a face."""
    mine = (a.body.edge_faces == face).any(axis=1)
    for edge in a.body.edges[mine]:
        one, two = a.world[edge]
        along = (two - one) / np.linalg.norm(two - one)
        off = [np.linalg.norm(np.cross(p - one, along)) for p in (start, end)]
        if max(off) <= FLUSH * size:
            return True
    return False


def _arcs_in_face(a: Figure, face: int, arcs: Array, size: float) -> list[Array]:
    """The parts of arcs (k, 3, 4) in the plane of a face that lie on the face itself."""
    loops = [moved(loop, a.axes, a.place) for loop in a.body.loops(face)]
    normal = a.normals[face]
    kept = []
    for arc in arcs:
        cuts = [0.0, 1.0, *_crossings(arc, loops, normal)]
        for low, high in itertools.pairwise(sorted(cuts)):
            if high - low <= 1e-9:
                continue
            part = between(arc[None], np.array([low]), np.array([high]))[0]
            ends = part[[0, 2], :3] / part[[0, 2], 3:]
            middle = points_at(part[None], np.array([0.5]))
            if float(np.linalg.norm(ends[1] - ends[0])) <= SLIVER * size:
                continue
            if inside_loops(loops, normal, middle)[0]:
                kept.append(part)
    return kept


def _crossings(arc: Array, loops: list[Array], normal: Array) -> list[float]:
    """Parameters at which an arc may cross the outlines of a face in whose plane it lies: where it
    crosses the planes through straight pieces, and for arcs where the two conics meet."""
    found: list[float] = []
    for loop in loops:
        level = is_straight(loop)
        if level.any():
            ends = loop[level][:, [0, 2], :3] / loop[level][:, [0, 2], 3:]
            across = np.cross(normal, ends[:, 1] - ends[:, 0])
            across = across / np.maximum(np.linalg.norm(across, axis=1, keepdims=True), 1e-300)
            forms = np.concatenate([across, -(across * ends[:, 0]).sum(axis=1)[:, None]], axis=1)
            values = linear_along(np.tile(arc, (len(forms), 1, 1)), forms)
            found += roots(values)[1].tolist()
        for bent in loop[~level]:
            found += _with_arc(arc, bent, normal)
    return found


def _with_arc(arc: Array, other: Array, normal: Array) -> list[float]:
    """Parameters of an arc at which it meets the conic of another in the same plane."""
    mine, theirs = flat_loop(arc[None], normal)[0], flat_loop(other[None], normal)[0]
    size = float(np.abs(theirs).max())
    inverse = adjugate(theirs.T / size)
    conic = np.array([[0.0, 0.0, -2.0], [0.0, 1.0, 0.0], [-2.0, 0.0, 0.0]])
    form = inverse.T @ conic @ inverse
    largest = float(np.abs(form).max())
    if largest == 0:
        return []
    values = quadratic_along(mine[None], form[None] / largest)
    scale = float(np.abs(mine).max()) ** 2
    if float(np.abs(values).max()) <= 1e-10 * scale:
        return []
    return [float(t) for t in roots(values)[1]]


def flush_spans(a: Figure, b: Figure) -> list[tuple[int, float, float]]:
    """Parts of a's edges, as (edge, from, to), that a flush face of b carries over.

    An edge is lost where, just beyond it in the plane of one of its faces, a face of b goes on.
    """
    size = float(max(_size(a), _size(b)))
    same = a.normals @ b.normals.T > 1.0 - FLUSH**2 * 50
    same &= np.abs(a.offsets[:, None] - b.offsets[None]) <= FLUSH * size
    lost = []
    for face, other in zip(*(x.tolist() for x in np.nonzero(same)), strict=True):
        for edge, outward in _edges_round(a, face):
            shift = BESIDE * size * outward
            start, end = a.starts[edge] + shift, a.ends[edge] + shift
            lost += [(edge, *span) for span in _covered(b, other, start, end)]
    return lost


def _edges_round(a: Figure, face: int) -> list[tuple[int, Array]]:
    """Each edge of a face with its unit direction out of the face, in its plane."""
    found = []
    middle = a.body.middle_of(face) @ a.axes + a.place
    loops = [moved(loop, a.axes, a.place) for loop in a.body.loops(face)]
    for edge in np.flatnonzero((a.body.edge_faces == face).any(axis=1)).tolist():
        if edge >= len(a.starts):
            continue
        start, end = a.starts[edge], a.ends[edge]
        outward = np.cross(end - start, a.normals[face])
        outward = outward / np.linalg.norm(outward)
        beside = (start + end) / 2 + BESIDE * float(np.linalg.norm(end - start)) * outward
        if a.body.convex:
            inside = float((middle - start) @ outward) > 0
        else:
            inside = bool(inside_loops(loops, a.normals[face], beside[None])[0])
        found.append((edge, -outward if inside else outward))
    return found


def _covered(b: Figure, face: int, start: Array, end: Array) -> list[tuple[float, float]]:
    """The parts of a line, in shares of it, that lie within a face in whose plane it lies."""
    along = end - start
    length = float(np.linalg.norm(along))
    across = np.cross(b.normals[face], along / length)
    own, offset = b.axes @ across, float((start - b.place) @ across)
    found = []
    for low, high in across_face(b.body, face, own, offset):
        shares = sorted(
            float((p @ b.axes + b.place - start) @ along) / length**2 for p in (low, high)
        )
        a, z = max(0.0, shares[0]), min(1.0, shares[1])
        if z - a > 1e-9:
            found.append((a, z))
    return found

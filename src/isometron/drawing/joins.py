"""Where volumes meet: the lines along which they pierce each other, and edges lost in flush joints.

Two volumes of one group are one body: where their faces lie in one plane and carry each other on,
no edge is drawn between them.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.built import Built
from isometron.framework.solid import Ring
from isometron.perspective.eye import Array

FLUSH = 1e-7
"""Share of a volume's size within which two faces lie in one plane."""

BESIDE = 1e-5
"""An edge is looked at this share of the volume's size beyond it, to see whether a face goes on."""

SLIVER = 1e-6
"""A shared line shorter than this share of a volume's size is a touch, not a piercing."""


@dataclass(frozen=True, eq=False)
class Join:
    """Lines where volumes `first` and `second` (numbers) pierce each other: starts, ends (k, 3)
    world mm, and the face (k, 2) of each volume that the line lies on."""

    first: int
    second: int
    starts: Array
    ends: Array
    faces: NDArray[np.intp]


def meeting(reach: Array, some: Sequence[int] | None = None) -> list[tuple[int, int]]:
    """Pairs (first < second) of volumes whose upright extents (n, 6) overlap or touch; only those
    with one of `some` in them, when given."""
    low, high = reach[:, :3], reach[:, 3:]
    slack = FLUSH * (high - low).max(initial=0.0)
    rows = np.arange(len(reach)) if some is None else np.array(sorted(some), dtype=np.intp)
    both = (low[rows, None] <= high[None] + slack).all(axis=2)
    both &= (low[None] <= high[rows, None] + slack).all(axis=2)
    one, other = np.nonzero(both)
    pairs = zip(rows[one].tolist(), other.tolist(), strict=True)
    return sorted({(min(a, b), max(a, b)) for a, b in pairs if a != b})


def pierce(a: Built, b: Built, first: int, second: int) -> Join:
    """The lines along which two volumes pierce each other.

    Every convex piece of a face of one is cut with every piece of the other: the planes meet in a
    line, clipped to both pieces. Lines that run along an edge of either are that edge already.
    """
    size = float(min(np.ptp(a.world, axis=0).max(), np.ptp(b.world, axis=0).max()))
    starts, ends, faces = [], [], []
    apart = _kept_apart(a, b, size) or _kept_apart(b, a, size)
    for piece in () if apart else a.solid.parts:
        for mate in b.solid.parts:
            cut = _cut(a, piece, b, mate, size)
            if cut is not None:
                starts.append(cut[0])
                ends.append(cut[1])
                faces.append((piece[0], mate[0]))
    return Join(
        first,
        second,
        np.array(starts).reshape(-1, 3),
        np.array(ends).reshape(-1, 3),
        np.array(faces, dtype=np.intp).reshape(-1, 2),
    )


def _kept_apart(a: Built, b: Built, size: float) -> bool:
    """Whether all of b lies on the outer side of one face of a convex volume a."""
    off = b.world @ a.normals.T - a.offsets
    return a.solid.convex and bool((off.min(axis=0) >= -FLUSH * size).any())


def _cut(
    a: Built, piece: tuple[int, Ring], b: Built, mate: tuple[int, Ring], size: float
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
    one, two = _chord(corners, off_b), _chord(across, off_a)
    along = one[1] - one[0]
    length = float(np.linalg.norm(along))
    if length <= SLIVER * size:
        return None
    along = along / length
    from_b = sorted(float((p - one[0]) @ along) for p in two)
    low, high = max(0.0, from_b[0]), min(length, from_b[1])
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


def flush_spans(a: Built, b: Built) -> list[tuple[int, float, float]]:
    """Parts of a's edges, as (edge, from, to), that a flush face of b carries over.

    An edge is lost where, just beyond it in the plane of one of its faces, a face of b goes on.
    """
    size = float(max(np.ptp(a.world, axis=0).max(), np.ptp(b.world, axis=0).max()))
    same = a.normals @ b.normals.T > 1.0 - FLUSH**2 * 50
    same &= np.abs(a.offsets[:, None] - b.offsets[None]) <= FLUSH * size
    lost = []
    for face, other in zip(*np.nonzero(same), strict=True):
        parts = [b.world[list(ring)] for part, ring in b.solid.parts if part == other]
        for edge, outward in _edges_round(a, int(face)):
            shift = BESIDE * size * outward
            start, end = a.starts[edge] + shift, a.ends[edge] + shift
            spans = (_within(start, end, ring, b.normals[other]) for ring in parts)
            lost += [(edge, *span) for span in spans if span is not None]
    return lost


def _edges_round(a: Built, face: int) -> list[tuple[int, Array]]:
    """Each edge of a face with its unit direction out of the face, in its plane."""
    numbers = {frozenset(edge): n for n, edge in enumerate(a.solid.edges.tolist())}
    found = []
    for ring in a.solid.rings[face]:
        for i, j in itertools.pairwise((*ring, ring[0])):
            outward = np.cross(a.world[j] - a.world[i], a.normals[face])
            edge = numbers.get(frozenset((i, j)))
            if edge is not None:
                found.append((edge, outward / np.linalg.norm(outward)))
    return found


def _within(start: Array, end: Array, ring: Array, normal: Array) -> tuple[float, float] | None:
    """The part of a line that lies within a convex ring in whose plane it lies."""
    inward = np.cross(normal, np.roll(ring, -1, axis=0) - ring)
    inward /= np.linalg.norm(inward, axis=1, keepdims=True)
    a = ((start - ring) * inward).sum(axis=1)
    b = ((end - ring) * inward).sum(axis=1)
    low, high = 0.0, 1.0
    slack = 1e-9 * float(np.ptp(ring, axis=0).max())
    for one, two in zip(a.tolist(), b.tolist(), strict=True):
        if one < -slack and two < -slack:
            return None
        if one < -slack:
            low = max(low, one / (one - two))
        elif two < -slack:
            high = min(high, one / (one - two))
    return (low, high) if high - low > 1e-9 else None

"""How two figures stand to each other: apart, touching (and how), running through each other, or
one inside the other.

Skins are taken in facets (`regions.facets_of`): exact for flat bodies, and for those that bend to
within the sag of their chords, which is allowed for. Distances of triangles are those of their
corners to faces and of their edges to each other (Ericson, Real-Time Collision Detection, 2005,
chapter 5).
"""

from enum import Enum
from typing import NamedTuple
from weakref import WeakKeyDictionary

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body
from isometron.framework.figures import Figure
from isometron.hiding.facets import AROUND, facets_of
from isometron.hiding.meeting import pierce
from isometron.hiding.sweeping import overlapping
from isometron.nearness import CLOSE, ROUNDING, SAME
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

TOUCH_MM = 1.0
"""Volumes nearer to each other than this touch."""

BACK_AND_FORTH = 4
"""So often the nearest corner of one skin is sought from the other's, to begin with."""

UPRIGHT = 0.7
"""A contact whose normal rises more steeply than this (sine) carries; another one leans."""

SAG = 1.0 - np.cos(np.pi / AROUND)
"""How far a facet lies inside its round, as a share of the radius."""

RAYS = 5
"""Rays that vote on whether one figure lies inside another."""

UNEVEN = np.array([0.2113, 0.3391, 0.4496])
"""A place on a triangle that lies on no symmetry of anything."""

FEW = 256
"""Pairs of triangles looked at first, to know how far the others need be looked at."""

ALIKE_MM = 1e-6
"""Contacts this much further than the nearest one count as much."""


class How(Enum):
    """How one figure stands to another."""

    APART = "apart"
    ON = "on"
    """It stands on the other: the other carries it from below."""
    UNDER = "under"
    AGAINST = "against"
    THROUGH = "through"
    """Their skins pierce each other."""
    INSIDE = "inside"
    AROUND = "around"


class Contact(NamedTuple):
    """How the first of two figures stands to the second, and the gap between them, mm (0 unless
    apart; infinite when further apart than was asked for)."""

    how: How
    gap_mm: float

    @property
    def holds(self) -> bool:
        """Whether there is any hold of one in the other."""
        return self.how is not How.APART


@remembered()
def _known(figure: Figure) -> "WeakKeyDictionary[Figure, Contact]":
    return WeakKeyDictionary()


@remembered()
def _measured(figure: Figure) -> "WeakKeyDictionary[Figure, Contact]":
    """Gaps that were measured, however wide."""
    return WeakKeyDictionary()


def contact(
    a: Figure, b: Figure, within: float = TOUCH_MM, *, pierced: bool | None = None
) -> Contact:
    """How figure a stands to figure b; gaps up to `within` mm are measured. pierced: whether their
    skins pierce each other, where that is known already."""
    reach = within + _sag(a) + _sag(b)
    if (a.reach[:3] > b.reach[3:] + reach).any() or (b.reach[:3] > a.reach[3:] + reach).any():
        return Contact(How.APART, np.inf)
    known = _measured(a) if within > TOUCH_MM else _known(a)
    if b not in known or (known[b].gap_mm == np.inf and within > TOUCH_MM):
        known[b] = _contact(a, b, within, pierced)
    return known[b]


def _contact(a: Figure, b: Figure, within: float, pierced: bool | None) -> Contact:
    if pierce(a, b, 0, 1).there if pierced is None else pierced:
        return Contact(How.THROUGH, 0.0)
    slack, one, other = _sag(a) + _sag(b), _triangles(a), _triangles(b)
    reach = within + slack
    if within > TOUCH_MM:
        one, other, reach = _facing(one, other, reach)
    gaps, normals, heights = _near(one, other, reach, TOUCH_MM + slack)
    gap = float(gaps.min(initial=np.inf))
    if gap > TOUCH_MM + slack:
        if _holds_place(b, a):
            return Contact(How.INSIDE, 0.0)
        around = _holds_place(a, b)
        return Contact(How.AROUND, 0.0) if around else Contact(How.APART, max(gap - slack, 0.0))
    some = gaps <= max(gap, TOUCH_MM + slack) + ALIKE_MM
    at = heights[some & (np.abs(normals[:, 2]) > UPRIGHT)]
    return Contact(_carries(a, b, at, 2 * (TOUCH_MM + slack)), 0.0)


def _carries(a: Figure, b: Figure, at: Array, least: float) -> How:
    """How a stands to b, from the heights (k,) at which one may carry the other: what touches flush
    with its own base or top, nearer to it than `least`, carries nothing."""
    if ((at - b.reach[2] > least) & (a.reach[5] - at > least)).any():
        return How.ON
    if ((at - a.reach[2] > least) & (b.reach[5] - at > least)).any():
        return How.UNDER
    return How.AGAINST


def _sag(figure: Figure) -> float:
    if not figure.body.bent:
        return 0.0
    return float(SAG) * float((figure.reach[3:] - figure.reach[:3]).max()) / 2


@remembered()
def _skin(body: Body) -> Array:
    """The skin of a body as triangles (n, 3, 3) of own mm."""
    found = [
        np.array([ring[0], ring[i], ring[i + 1]])
        for _surface, ring in facets_of(body)
        for i in range(1, len(ring) - 1)
    ]
    return np.array(found).reshape(-1, 3, 3)


def _triangles(figure: Figure) -> Array:
    return np.asarray(_skin(figure.body) @ figure.axes + figure.place)


def _facing(a: Array, b: Array, within: float) -> tuple[Array, Array, float]:
    """Those of two skins' triangles (n, 3, 3) and (m, 3, 3) that may be nearest to each other, and
    a distance they are no further apart than.

    The skins are no further apart than their nearest corners. A place of a triangle lies within its
    longest edge of each of its corners, so a triangle whose corners are all further than that, and
    the longest edge of the other skin, from the other's corners is not the nearest.
    """
    from scipy.spatial import cKDTree

    if not len(a) or not len(b):
        return a, b, 0.0
    a, b = _fore(a, b, within)
    trees = [cKDTree(skin.reshape(-1, 3)) for skin in (a, b)]
    edges = [
        np.linalg.norm(np.roll(skin, -1, axis=1) - skin, axis=2).max(axis=1) for skin in (a, b)
    ]
    apart = trees[1].query(a.reshape(-1, 3))[0].reshape(-1, 3).min(axis=1)
    back = trees[0].query(b.reshape(-1, 3))[0].reshape(-1, 3).min(axis=1)
    least = min(float(apart.min()) * (1 + SAME) + TOUCH_MM, within)
    keep = apart <= least + edges[0] + float(edges[1].max())
    kept = back <= least + edges[1] + float(edges[0].max())
    return a[keep], b[kept], least


def _fore(a: Array, b: Array, within: float) -> tuple[Array, Array]:
    """Those of two skins' triangles that lie on the sides facing each other, as far as a direction
    between two near corners tells.

    Going back and forth to the nearest corner gives two corners so far apart, U, along a direction
    n. Two places are never nearer than the difference of their places along n: so a triangle is not
    nearest to anything if all of the other skin lies further than U from it along n.
    """
    corners = [skin.reshape(-1, 3) for skin in (a, b)]
    place, most, way = corners[0].mean(axis=0), within, np.zeros(3)
    for turn in range(2 * BACK_AND_FORTH):
        there = corners[1 - turn % 2]
        off = np.linalg.norm(there - place, axis=1)
        nearest = there[int(off.argmin())]
        if turn:
            most, way = min(most, float(off.min())), (nearest - place) * (1 - 2 * (turn % 2))
        place = nearest
    size = float(np.linalg.norm(way))
    if size <= TOUCH_MM:
        return a, b
    one, other = (skin @ (way / size) for skin in (a, b))
    slack = most * (1 + SAME) + TOUCH_MM
    if one.mean() > other.mean():
        one, other = -one, -other
    return a[one.max(axis=1) >= other.min() - slack], b[other.min(axis=1) <= one.max() + slack]


def _near(a: Array, b: Array, within: float, touch: float) -> tuple[Array, Array, Array]:
    """Gaps (k,) of triangles (n, 3, 3) and (m, 3, 3) nearer than `within`, and the unit normals
    (k, 3) of the contact there, either way, and its height (k,). Of what lies further apart than
    `touch` only the nearest counts."""
    low = np.concatenate([a.min(axis=1) - within, a.max(axis=1) + within], axis=1)
    bounds = np.concatenate([b.min(axis=1), b.max(axis=1)], axis=1)
    one, other = overlapping(low, bounds)
    apart = np.linalg.norm(a.mean(axis=1)[one] - b.mean(axis=1)[other], axis=1)
    least = apart - _round(a)[one] - _round(b)[other]  # no pair is nearer than this
    if len(one) > FEW and within > touch:
        best = np.argpartition(least, FEW)[:FEW]
        gap = _gaps(a[one[best]], b[other[best]])[0].min(initial=np.inf)
        within = min(within, max(float(gap), touch))
    near = least <= within
    gap, normal, height = _gaps(a[one[near]], b[other[near]])
    some = gap <= within
    return gap[some], normal[some], height[some]


def _gaps(first: Array, second: Array) -> tuple[Array, Array, Array]:
    """Gaps (k,) between pairs of triangles (n, 3, 3): every corner to the other's face, every edge
    to every other; normals (k, 3) and heights (k,) of them."""
    gaps, normals, heights = [], [], []
    for corners, faces in ((first, second), (second, first)):
        for k in range(3):
            gap, normal, inside = _to_face(corners[:, k], faces)
            gaps.append(np.where(inside, gap, np.inf))
            normals.append(normal)
            heights.append(corners[:, k, 2])
    for i in range(3):
        for j in range(3):
            gap, normal, height = _between_edges(
                *(first[:, i], first[:, (i + 1) % 3], second[:, j], second[:, (j + 1) % 3])
            )
            gaps.append(gap)
            normals.append(normal)
            heights.append(height)
    return np.concatenate(gaps), np.concatenate(normals), np.concatenate(heights)


def _round(triangles: Array) -> Array:
    """Radii (n,) of balls about the middles of triangles (n, 3, 3) that hold them."""
    off = triangles - triangles.mean(axis=1, keepdims=True)
    return np.asarray(np.linalg.norm(off, axis=2).max(axis=1))


def _to_face(places: Array, faces: Array) -> tuple[Array, Array, NDArray[np.bool_]]:
    """Distances (k,) of places (k, 3) from the planes of triangles (k, 3, 3), their unit
    normals (k, 3), and whether the foot of each lies on its triangle."""
    one, other = faces[:, 1] - faces[:, 0], faces[:, 2] - faces[:, 0]
    normal = np.cross(one, other)
    size = np.linalg.norm(normal, axis=1, keepdims=True)
    normal = normal / np.maximum(size, 1e-300)
    off = places - faces[:, 0]
    gap = (off * normal).sum(axis=1)
    foot = off - gap[:, None] * normal
    u = (np.cross(foot, other) * normal).sum(axis=1)
    v = (np.cross(one, foot) * normal).sum(axis=1)
    slack = SAME * size[:, 0]
    inside = (u >= -slack) & (v >= -slack) & (u + v <= size[:, 0] + slack) & (size[:, 0] > 0)
    return np.abs(gap), normal, inside


def _between_edges(p0: Array, p1: Array, q0: Array, q1: Array) -> tuple[Array, Array, Array]:
    """Distances (k,) of lines p0 to p1 and q0 to q1 (k, 3), a unit normal (k, 3) of both, and the
    height (k,) at which they are nearest."""
    d, e, r = p1 - p0, q1 - q0, p0 - q0
    a, b, f = (d * d).sum(1), (e * e).sum(1), (e * r).sum(1)
    c, g = (d * r).sum(1), (d * e).sum(1)
    a, b = np.maximum(a, 1e-300), np.maximum(b, 1e-300)
    apart = a * b - g * g
    with np.errstate(divide="ignore", invalid="ignore"):
        s = np.where(apart > ROUNDING * a * b, np.clip((g * f - c * b) / apart, 0, 1), 0.0)
    t = np.clip((g * s + f) / b, 0, 1)
    s = np.clip((g * t - c) / a, 0, 1)
    run = (p0 + s[:, None] * d) - (q0 + t[:, None] * e)
    gap = np.linalg.norm(run, axis=1)
    across = np.cross(d, e)
    use = np.where((gap > ALIKE_MM)[:, None], run, across)
    size = np.linalg.norm(use, axis=1, keepdims=True)
    normal = np.where(size > 0, use / np.maximum(size, 1e-300), np.array([0.0, 0.0, 0.0]))
    return gap, normal, p0[:, 2] + s * d[:, 2]


def _holds_place(outer: Figure, inner: Figure) -> bool:
    """Whether a figure whose skin is apart from another's lies within it: most of a few upright
    rays from places of it leave through an odd number of faces."""
    faces, skin = _triangles(outer), _triangles(inner)
    if not len(skin) or not len(faces):
        return False
    some = skin[np.linspace(0, len(skin) - 1, RAYS).astype(int)]
    within = [_leaves_once(faces, UNEVEN @ triangle) for triangle in some]
    return 2 * sum(within) > RAYS


def holds(figure: Figure, place: Array) -> bool:
    """Whether a place (3,) world mm lies within a figure's skin: most upright rays from round about
    it leave through an odd number of faces."""
    low, high = figure.reach[:3], figure.reach[3:]
    if not ((place > low) & (place < high)).all():
        return False
    faces = _triangles(figure)
    apart = CLOSE * float((high - low).max()) * np.array([[1.0, 0.6, 0.0], [-0.7, 1.1, 0.0],
                                                         [-0.4, -1.3, 0.0]])  # fmt: skip
    return sum(_leaves_once(faces, place + step) for step in apart) >= 2


def _leaves_once(faces: Array, place: Array) -> bool:
    flat = faces[..., :2] - place[:2]
    edge = np.roll(flat, -1, axis=1)
    side = flat[..., 0] * edge[..., 1] - flat[..., 1] * edge[..., 0]
    over = (side > 0).all(axis=1) | (side < 0).all(axis=1)
    share = np.abs(side[over]) / np.abs(side[over]).sum(axis=1, keepdims=True)
    height = (np.roll(share, -1, axis=1) * faces[over][..., 2]).sum(axis=1)
    return int((height > place[2]).sum()) % 2 == 1

"""The one body: what a volume is made of in its own axes, whatever it is.

Straight edges between corners, arcs of conics where it bends, plane faces, and the surfaces it
hides with. Surfaces are numbered; the plane ones come first, so that the number of a face is its
number as a surface. A straight piece of an outline is an edge and a plane piece of a skin is a
face, whatever made them."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.box import EDGES
from isometron.framework.outlines import Flat
from isometron.nearness import CLOSE, NEAR, ROUNDING, SAME
from isometron.perspective.conics import at, straight
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered
from isometron.words import said

ALONG_AXIS = 1e-4
"""An edge whose direction leaves an own axis by less, as a share of its length, runs along it."""

MOST_FACES = 4096
"""Faces of one body of which results are remembered."""

ALONG = 1e-9
"""An edge this close to an own axis (sine of the angle) runs along it."""

EDGE, SMOOTH, DIVISION, SECTION, JOIN, CIRCLE, OUTLINE, SKIN = range(8)
"""Kinds of lines and arcs: edges; edges within a round corner (drawn only as outline); division
marks; section and centre lines; lines along which two volumes pierce each other; circles drawn on a
face; where a surface turns away from us; courses and boards that are gone over."""


@cache
def _nodes() -> tuple[Array, Array]:
    """Gauss's places and weights for areas under arcs of at most a quarter turn: exact to the last
    digits of a double."""
    from numpy.polynomial.legendre import leggauss

    places, weights = leggauss(24)
    return places, weights


ROLES = {
    "end": said("end circle"),
    "station": said("circle"),
    "ring": said("inner circle"),
    "bore": said("bore"),
    "hole": said("hole"),
    "section": said("section"),
    "mark": said("circle"),
    "loop": said("circle"),
}
"""What a circle is called, by its role."""

Ring = tuple[int, ...]
Indices = NDArray[np.intp]


@dataclass(frozen=True)
class Circle:
    """A circle of a body in own mm: centre, two unit directions across (2, 3), radius; what it is
    ("end", "station", "ring", "bore", "hole", "section", "mark", "loop"); its arcs from first to
    last (exclusive), none when others draw it; how far up the axle it lies, as a share."""

    centre: Array
    axes: Array
    radius_mm: float
    role: str
    first: int
    last: int
    height_share: float = 0.0

    @property
    def normal(self) -> Array:
        """Unit direction of its axle."""
        return np.asarray(np.cross(self.axes[0], self.axes[1]))

    @property
    def called(self) -> str:
        """What it is called by its role alone."""
        return ROLES[self.role]


class Segment(NamedTuple):
    """A piece of a turned form between two heights, mm: r² = a + b·h + c·h². straight: a cone or
    cylinder."""

    low: float
    high: float
    a: float
    b: float
    c: float
    straight: bool

    def squared(self, height: float) -> float:
        """r² at a height, never below 0."""
        return max(self.a + self.b * height + self.c * height * height, 0.0)

    def radius(self, height: float) -> float:
        """Radius at a height, mm."""
        return math.sqrt(self.squared(height))


class TurnedPatch(NamedTuple):
    """A piece of a turned surface: its number, the middle of the base of its axle, unit axle, its
    segment."""

    surface: int
    place: Array
    axle: Array
    segment: Segment


@dataclass(frozen=True, eq=False)
class Ends:
    """Where an extrusion begins and stops along its way, as shares, between places along the first
    direction of its outline: breaks (m,) mm and the begin and stop at each (m,)."""

    breaks: Array
    begin: Array
    stop: Array

    def at(self, u: float) -> tuple[float, float]:
        """Begin and stop at a place."""
        return (
            float(np.interp(u, self.breaks, self.begin)),
            float(np.interp(u, self.breaks, self.stop)),
        )

    def along(self, i: int) -> tuple[tuple[float, float], tuple[float, float]]:
        """Begin and stop in interval i as (value at u = 0, rise per mm of u)."""
        run = self.breaks[i + 1] - self.breaks[i]
        lines = []
        for ends in (self.begin, self.stop):
            rise = float((ends[i + 1] - ends[i]) / run)
            lines.append((float(ends[i] - rise * self.breaks[i]), rise))
        return lines[0], lines[1]


class SweptPatch(NamedTuple):
    """An arc of a circle carried along a way: its number, the arc's plane as two directions (2, 3),
    centre, radius, start and turn (radians) in it, the way from the near end to the far one, and
    where the ends begin and stop."""

    surface: int
    plane: Array
    centre: Array
    radius: float
    first: float
    turn: float
    way: Array
    ends: Ends


class Region(NamedTuple):
    """The rings of a plane surface, and the affine map (2, 4) from own mm to their plane."""

    surface: int
    rings: list[Flat]
    to_flat: Array


class Surfaces(NamedTuple):
    """What a body that bends hides with: p surfaces in own mm, the plane ones first.

    forms (p, 4, 4): xᵀ·F·x = 0 on each; plane (p,) which are planes; within (p, w, 4) half spaces
    and limits (p, 2, 4, 4) forms that are ≥ 0 on it; regions: rings of plane ones; rims (k, 3, 4)
    arcs that bound them and rim_surface (k,) which; turned and swept: the bent ones again, for
    their outlines.
    """

    forms: Array
    plane: NDArray[np.bool_]
    within: Array
    limits: Array
    regions: tuple[Region, ...]
    rims: Array
    rim_surface: Indices
    turned: tuple[TurnedPatch, ...]
    swept: tuple[SweptPatch, ...]


@dataclass(frozen=True, eq=False)
class Body:
    """A body in its own axes, mm.

    vertices (n, 3): its corners, the ends of straight edges; edges (m, 2) corner numbers,
    edge_faces (m, 2) the surfaces each joins (−1: none), smooth (m,) edges between facets of one
    round corner, drawn only as an outline; arcs (a, 3, 4) homogeneous, arc_kinds (a,), arc_faces
    (a, 2); circles; normals (k, 3) outward and offsets (k,) of its faces (normal·p = offset).
    parts: convex pieces of faces as (face, ring of corners), together covering all, when it is flat
    all over; surfaces: what it hides with when it bends. One of the two is there, or neither for a
    line in space.
    """

    vertices: Array
    edges: Indices
    edge_faces: Indices
    smooth: NDArray[np.bool_]
    arcs: Array
    arc_kinds: Indices
    arc_faces: Indices
    circles: tuple[Circle, ...]
    normals: Array
    offsets: Array
    rings: tuple[tuple[Ring, ...], ...]
    parts: tuple[tuple[int, Ring], ...]
    convex: bool
    surfaces: Surfaces | None = None

    @cached_property
    def edge_axes(self) -> Indices:
        """(m,) own axis (0, 1, 2) that each edge runs along, −1 for a sloping one."""
        run = self.vertices[self.edges[:, 1]] - self.vertices[self.edges[:, 0]]
        along = np.abs(run) / np.linalg.norm(run, axis=1, keepdims=True)
        axis = along.argmax(axis=1)
        rest = np.sqrt(np.maximum(1.0 - along.max(axis=1, initial=0.0) ** 2, 0.0))
        level = np.partition(along, 1, axis=1)[:, :2].max(axis=1, initial=0.0) <= ALONG
        return np.where(level & (rest <= ALONG_AXIS), axis, -1)

    @cached_property
    def plain(self) -> NDArray[np.bool_]:
        """(m,) edges that are neither within a round corner nor chords of its rim."""
        round_corners = np.zeros(len(self.vertices), dtype=bool)
        round_corners[self.edges[self.smooth]] = True
        return ~self.smooth & ~round_corners[self.edges].all(axis=1)

    @cached_property
    def true_mm(self) -> Array:
        """(m,) true lengths of its edges."""
        run = self.vertices[self.edges[:, 1]] - self.vertices[self.edges[:, 0]]
        return np.asarray(np.linalg.norm(run, axis=1))

    @property
    def boxed(self) -> bool:
        """Whether its corners, edges and faces are numbered as those of a box."""
        return self.edges is EDGES

    @property
    def faces(self) -> int:
        """How many plane faces it has."""
        return len(self.normals)

    @cached_property
    def bent(self) -> bool:
        """Whether any of its surfaces bends."""
        return self.surfaces is not None and not bool(self.surfaces.plane.all())

    def loops(self, face: int) -> tuple[Array, ...]:
        """The outlines of a face, largest first, each as its arcs (k, 3, 4) in order round."""
        return _loops(self, face)

    def face_corners(self, face: int) -> Array:
        """The corners (c, 3) of the outline of a face, in order round; its straight pieces only."""
        return _outer_corners(self, face)

    def middle_of(self, face: int) -> Array:
        """The middle (3,) of a face: of its corners, or of its outline when it has none."""
        corners = self.face_corners(face)
        if len(corners):
            return np.asarray(corners.mean(axis=0))
        outline = self.loops(face)[0]
        half = at(outline, np.full(len(outline), 0.5))
        ends = outline[:, 0, :3] / outline[:, 0, 3:]
        return np.asarray(np.concatenate([ends, half[:, :3] / half[:, 3:]]).mean(axis=0))

    def area_of(self, face: int) -> float:
        """True area of a face, mm², its holes taken off."""
        sizes = [abs(loop_area(flat_loop(loop, self.normals[face]))) for loop in self.loops(face)]
        return sizes[0] - sum(sizes[1:]) if sizes else 0.0

    @cached_property
    def contents_of_parts_mm3(self) -> float:
        """Contents of a flat body, mm³ (sum of the tetrahedra over the convex pieces)."""
        total = 0.0
        for _unused, ring in self.parts:
            first, rest = self.vertices[ring[0]], self.vertices[list(ring[1:])]
            total += float((np.cross(rest[:-1], rest[1:]) @ first).sum()) / 6.0
        return total

    def reach_along(self, direction: Array) -> tuple[float, float]:
        """Least and greatest place (mm) of the body along a unit direction (3,) in own axes."""
        found: list[Array] = [self.vertices @ direction] if len(self.vertices) else []
        edges = np.flatnonzero(self.arc_kinds == EDGE)
        if len(edges):
            found.append(arcs_along(self.arcs[edges], direction))
        if self.surfaces is not None:
            found.append(np.asarray(_turned_along(self.surfaces.turned, direction)))
        every = np.concatenate(found) if found else np.zeros(1)
        return float(every.min()), float(every.max())

    @cached_property
    def enclosing(self) -> Array:
        """Points (p, 3) whose hull holds the body: its corners, the control points of its arcs, and
        those of the circles at the ends and the widest place of each turned piece."""
        edges = self.arcs[self.arc_kinds == EDGE].reshape(-1, 4)
        if self.surfaces is not None:
            edges = np.concatenate([edges, *(_squares(one) for one in self.surfaces.turned)])
        edges = edges[edges[:, 3] > SAME]
        return np.concatenate([self.vertices, edges[:, :3] / edges[:, 3:]])


def _squares(one: TurnedPatch) -> Array:
    """Corners (8 or 12, 4) of the squares round the circles of a turned piece."""
    piece = one.segment
    heights = [piece.low, piece.high]
    if piece.c < 0 and piece.low < -piece.b / (2 * piece.c) < piece.high:
        heights.append(-piece.b / (2 * piece.c))
    across = np.linalg.svd(one.axle[None])[2][1:]
    found = []
    for height in heights:
        radius = piece.radius(height)
        for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
            place = one.place + height * one.axle + radius * (x * across[0] + y * across[1])
            found.append(np.append(place, 1.0))
    return np.array(found)


def arcs_along(arcs: Array, direction: Array) -> Array:
    """Ends and turning places of arcs (n, 3, 4) along a direction, mm.

    (x(t)/w(t))' vanishes where a quadratic in t does.
    """
    x, w = arcs[..., :3] @ direction, arcs[..., 3]
    ends = (x[:, [0, 2]] / w[:, [0, 2]]).reshape(-1)
    a = x[:, 0] * w[:, 1] - x[:, 1] * w[:, 0]
    b = x[:, 0] * w[:, 2] - x[:, 2] * w[:, 0]
    c = x[:, 1] * w[:, 2] - x[:, 2] * w[:, 1]
    # The derivative's numerator is a·s² + b·s·t + c·t² up to a factor, with s = 1 − t.
    square = b * b / 4 - a * c
    inner = []
    root = -(b / 2 + np.copysign(np.sqrt(np.maximum(square, 0.0)), b))
    with np.errstate(divide="ignore", invalid="ignore"):
        for ratio in (root / a, c / root):
            t = 1.0 / (1.0 + ratio)
            good = (square > 0) & (t > 0) & (t < 1) & np.isfinite(t)
            places = at(arcs[good], t[good])
            inner.append(places[:, :3] @ direction / places[:, 3])
    return np.concatenate([ends, *inner])


def _turned_along(patches: Sequence[TurnedPatch], direction: Array) -> list[float]:
    """Places along a direction at which turned pieces may reach furthest: at their ends, and where
    h·d + r(h)·e turns, d and e being the direction's parts along and across the axle."""
    found = []
    for one in patches:
        piece = one.segment
        base, along = float(one.place @ direction), float(one.axle @ direction)
        across = math.sqrt(max(1.0 - along * along, 0.0))
        heights = [piece.low, piece.high]
        # along + across·(b + 2·c·h) / (2·r) = 0, squared
        e, d = across * across, along * along
        q2 = e * piece.c * piece.c - d * piece.c
        q1 = e * piece.b * piece.c - d * piece.b
        q0 = e * piece.b * piece.b / 4 - d * piece.a
        roots = np.roots([q2, q1, q0]) if abs(q2) + abs(q1) > 0 else np.empty(0)
        heights += [
            float(h.real)
            for h in roots
            if abs(h.imag) < ROUNDING and piece.low < h.real < piece.high
        ]
        for height in heights:
            out = across * piece.radius(height)
            found += [base + along * height - out, base + along * height + out]
    return found


@remembered(most=MOST_FACES)
def _loops(body: Body, face: int) -> tuple[Array, ...]:
    if body.rings:
        loops = []
        for ring in body.rings[face]:
            corners = body.vertices[list(ring)]
            loops.append(straight(corners, np.roll(corners, -1, axis=0)))
        return tuple(loops)
    if body.surfaces is None:
        return ()
    mine = body.surfaces.rims[body.surfaces.rim_surface == face]
    loops = _chained(mine)
    normal = body.normals[face]
    sizes = [abs(loop_area(flat_loop(loop, normal))) for loop in loops]
    return tuple(loops[i] for i in sorted(range(len(loops)), key=lambda i: -sizes[i]))


def _chained(arcs: Array) -> list[Array]:
    """Arcs in any order and sense strung together to closed loops."""
    left = list(range(len(arcs)))
    ends = arcs[:, [0, 2], :3] / arcs[:, [0, 2], 3:]
    size = float(np.ptp(ends.reshape(-1, 3), axis=0).max()) if len(arcs) else 0.0
    loops = []
    while left:
        number = left.pop(0)
        run, home, at_end = [arcs[number]], ends[number, 0], ends[number, 1]
        while left and float(np.abs(at_end - home).max()) > CLOSE * size:
            gaps = np.abs(ends[left] - at_end).max(axis=2)
            place, side = np.unravel_index(int(gaps.argmin()), gaps.shape)
            if float(gaps[place, side]) > NEAR * size:
                break
            number = left.pop(int(place))
            run.append(arcs[number] if side == 0 else arcs[number, ::-1])
            at_end = ends[number, 1 - side]
        loops.append(np.array(run))
    return loops


@remembered(most=MOST_FACES)
def _outer_corners(body: Body, face: int) -> Array:
    loops = body.loops(face)
    if not loops:
        return np.empty((0, 3))
    if body.rings:
        return np.asarray(body.vertices[list(body.rings[face][0])])
    outline = loops[0]
    flat = is_straight(outline)
    corner = flat | np.roll(flat, 1)
    return np.asarray(outline[corner, 0, :3] / outline[corner, 0, 3:])


def is_straight(arcs: Array) -> NDArray[np.bool_]:
    """(n,) which homogeneous arcs (n, 3, k) run straight: their control point lies between their
    ends."""
    places = arcs[..., :-1] / np.where(arcs[..., -1:] == 0, 1.0, arcs[..., -1:])
    a, m, b = places[:, 0], places[:, 1], places[:, 2]
    chord = b - a
    square = np.maximum((chord * chord).sum(axis=1), 1e-300)
    share = ((m - a) * chord).sum(axis=1) / square
    off = np.linalg.norm(m - a - share[:, None] * chord, axis=1)
    between = (share > 0) & (share < 1) & (arcs[:, 1, -1] != 0)
    return np.asarray(between & (off <= SAME * np.sqrt(square)))


def flat_loop(loop: Array, normal: Array) -> Array:
    """The arcs of a loop (k, 3, 4) as arcs (k, 3, 3) in a plane with a unit normal, so that loops
    counter-clockwise from outside stay so."""
    across = np.linalg.svd(normal[None])[2][1:]
    if float(np.cross(across[0], across[1]) @ normal) < 0:
        across = across[::-1]
    return np.concatenate([loop[..., :3] @ across.T, loop[..., 3:]], axis=2)


def loop_area(loop: Array) -> float:
    """Signed area, counter-clockwise positive, within a closed loop of flat arcs (k, 3, 3):
    ½·∮(x·dy − y·dx), by Gauss's rule on each arc."""
    nodes, weights = _nodes()
    t = (nodes + 1) / 2
    s = 1 - t
    basis = np.stack([s * s, 2 * s * t, t * t])
    rise = np.stack([-2 * s, 2 * (s - t), 2 * t])
    p = np.einsum("kic,in->knc", loop, basis)
    d = np.einsum("kic,in->knc", loop, rise)
    x, y, w = p[..., 0], p[..., 1], p[..., 2]
    # x/w · d(y/w) − y/w · d(x/w) = (x·y' − y·x') / w²
    return float((((x * d[..., 1] - y * d[..., 0]) / (w * w)) @ weights).sum()) / 4

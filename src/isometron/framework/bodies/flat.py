"""Flat bodies: those made of straight edges and plane faces only.

Cutting one from another is the work of the manifold3d library; this module turns its triangles back
into whole faces and edges.
"""

import itertools
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body, Indices, Ring
from isometron.framework.bodies.making import merged
from isometron.framework.box import CORNERS, EDGE_FACES, EDGES, FACE_NORMALS, FACES
from isometron.nearness import CLOSE, ROUNDING, SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _

SAME_PLANE = 1e-9
"""Unit normals of neighbouring triangles closer than this belong to one flat face."""

FILM = 1e-8
"""A face thinner, or an edge shorter, than this share of a body's size is left by rounding."""

THIN = 1e-9
"""A triangle of no more than this share of the largest one's area has no normal to go by."""

_NONE = np.empty(0, dtype=np.intp)
_PAIRS = np.empty((0, 2), dtype=np.intp)
_ARCS = np.empty((0, 3, 4))
_BLOCK_RINGS = tuple((tuple(ring),) for ring in FACES.tolist())
_BLOCK_PARTS = tuple((face, tuple(ring)) for face, ring in enumerate(FACES.tolist()))
_NOT_SMOOTH = np.zeros(12, dtype=bool)


def flat_body(
    vertices: Array,
    edges: Indices,
    edge_faces: Indices,
    smooth: NDArray[np.bool_],
    normals: Array,
    rings: tuple[tuple[Ring, ...], ...],
    parts: tuple[tuple[int, Ring], ...],
    convex: bool,
) -> Body:
    """A body without a bend."""
    firsts = [face[0][0] for face in rings]
    return Body(
        vertices,
        edges,
        edge_faces,
        smooth,
        _ARCS,
        _NONE,
        _PAIRS,
        (),
        normals,
        (normals * vertices[firsts]).sum(axis=1),
        rings,
        parts,
        convex,
    )


def block(sides: Sides) -> Body:
    """A box of the given sides, numbered as in `framework.box`."""
    return flat_body(
        CORNERS * np.array(sides),
        EDGES,
        EDGE_FACES,
        _NOT_SMOOTH,
        FACE_NORMALS,
        _BLOCK_RINGS,
        _BLOCK_PARTS,
        True,
    )


def from_faces(
    points: Array,
    faces: Sequence[Sequence[Sequence[int]]],
    smooth: frozenset[frozenset[int]] = frozenset(),
) -> Body:
    """A body from plane faces, each given as its rings of point numbers: the outline
    counter-clockwise from outside, then its holes clockwise.

    Points in one place become one corner, faces that close up vanish (so a ridge or a tip may be
    given as a face without area). smooth: pairs of points whose edge belongs to a round corner.
    Raises VolumeError when less than a body is left.
    """
    vertices, number = merged(points)
    kept: list[tuple[Ring, ...]] = []
    for given in faces:
        numbered = [tuple(number[i] for i in ring) for ring in given]
        bare = [tuple(v for at, v in enumerate(r) if v != r[at - 1]) for r in numbered]
        whole = [ring for ring in bare if len(set(ring)) == len(ring) >= 3]
        if whole and whole[0] == bare[0]:
            kept.append(tuple(whole))
    if len(kept) < 4:
        raise VolumeError(_("That leaves no body: give it some width, depth and height."))
    edges, edge_faces = _edges_of(kept)
    round_edges = {frozenset(number[i] for i in pair) for pair in smooth}
    normals = _normals_of(vertices, [rings[0] for rings in kept])
    parts = _parts_of(vertices, kept, normals)
    return flat_body(
        vertices,
        edges,
        edge_faces,
        np.array([frozenset(edge) in round_edges for edge in edges.tolist()], dtype=bool),
        normals,
        tuple(kept),
        tuple(parts),
        _is_convex(vertices, [rings[0] for rings in kept], normals),
    )


def _edges_of(faces: Sequence[tuple[Ring, ...]]) -> tuple[Indices, Indices]:
    joined: dict[tuple[int, int], list[int]] = defaultdict(list)
    for face, rings in enumerate(faces):
        for ring in rings:
            for at, v in enumerate(ring):
                joined[min(ring[at - 1], v), max(ring[at - 1], v)].append(face)
    if any(len(sides) != 2 for sides in joined.values()):
        raise VolumeError(_("That folds the volume through itself: keep its sides apart."))
    return (
        np.array(list(joined), dtype=np.intp).reshape(-1, 2),
        np.array(list(joined.values()), dtype=np.intp).reshape(-1, 2),
    )


def _alike(vertices: Array, rings: Sequence[Ring]) -> Iterator[tuple[list[int], Array]]:
    """Rings of one count of corners each time: their numbers, their corners (n, k, 3)."""
    alike = defaultdict(list)
    for number, ring in enumerate(rings):
        alike[len(ring)].append(number)
    for numbers in alike.values():
        yield numbers, vertices[[rings[number] for number in numbers]]


def _normals_of(vertices: Array, rings: Sequence[Ring]) -> Array:
    """Unit normals (n, 3) of flat rings, Newell's method."""
    normals = np.zeros((len(rings), 3))
    for numbers, corners in _alike(vertices, rings):
        after = np.roll(corners, -1, axis=1)
        totals = np.cross(corners - corners[:, :1], after - corners[:, :1]).sum(axis=1)
        sizes = np.array([np.linalg.norm(one) for one in totals])[:, None]
        normals[numbers] = np.divide(totals, sizes, out=np.zeros_like(totals), where=sizes > 0)
    return normals


def _is_convex(vertices: Array, rings: Sequence[Ring], normals: Array) -> bool:
    size = float(np.ptp(vertices, axis=0).max())
    offsets = np.array([n @ vertices[ring[0]] for n, ring in zip(normals, rings, strict=True)])
    return bool((vertices @ normals.T - offsets <= CLOSE * size).all())


def _parts_of(
    vertices: Array, faces: Sequence[tuple[Ring, ...]], normals: Array
) -> list[tuple[int, Ring]]:
    """Flat faces as convex rings of their vertices, each with its face's number."""
    convex = np.zeros(len(faces), dtype=bool)
    for numbers, corners in _alike(vertices, [rings[0] for rings in faces]):
        run = np.roll(corners, -1, axis=1) - corners
        turn = np.einsum("nkx,nx->nk", np.cross(run, np.roll(run, -1, axis=1)), normals[numbers])
        convex[numbers] = (turn >= -ROUNDING * np.abs(turn).max(axis=1, keepdims=True)).all(axis=1)
    parts: list[tuple[int, Ring]] = []
    for face, rings in enumerate(faces):
        whole = convex[face] and len(rings) == 1
        some = [rings[0]] if whole else _in_triangles(vertices, rings, normals[face])
        parts += [(face, part) for part in some]
    return parts


def _in_triangles(vertices: Array, rings: tuple[Ring, ...], normal: Array) -> list[Ring]:
    """A flat face, given by its outline and the holes in it, as triangles of its vertices."""
    from manifold3d import triangulate

    across = np.linalg.svd(normal[None])[2][1:]
    if np.cross(across[0], across[1]) @ normal < 0:
        across = across[::-1]
    flat = [np.ascontiguousarray(vertices[list(ring)] @ across.T) for ring in rings]
    every = [v for ring in rings for v in ring]
    return [tuple(every[int(i)] for i in triangle) for triangle in triangulate(flat)]


def without(body: Body, tools: Sequence[Body]) -> Body:
    """What is left of a body when the tools (in the same axes) are taken out of it.

    Raises VolumeError when nothing is left.
    """
    return _without(body, (_to_manifold(tool) for tool in tools))


def solid_without(body: Body, prisms: Sequence[tuple[Array, Array, Array, Array]]) -> Body:
    """What is left of a body when prisms are taken out of it, each given by its section (n, 2),
    counter-clockwise, in two square directions (2, 3), from a start (3,) along a run (3,).

    Raises VolumeError when nothing is left.
    """
    return _without(body, (_prism(*one) for one in prisms))


def _prism(section: Array, plane: Array, start: Array, run: Array):  # type: ignore[no-untyped-def]
    from manifold3d import CrossSection, FillRule

    long = float(np.linalg.norm(run))
    made = CrossSection([np.ascontiguousarray(section)], FillRule.NonZero).extrude(long)
    rows = np.stack([plane[0], plane[1], run / long])
    handed = float(np.linalg.det(rows))
    if handed < 0:
        rows[2], start = -rows[2], start + run
    return made.transform(np.ascontiguousarray(np.concatenate([rows.T, start[:, None]], axis=1)))


def _without(body: Body, tools) -> Body:  # type: ignore[no-untyped-def]
    # each tool is made after what it is taken from: in their order the library numbers what is left
    left = _to_manifold(body)
    for tool in tools:
        left = left - tool
    if left.is_empty() or left.volume() <= SAME * body.contents_of_parts_mm3:
        raise VolumeError(_("That cut removes everything: make it smaller or move it."))
    size = float(np.ptp(body.vertices, axis=0).max())
    cut = _from_triangles(left, size) or _from_triangles(left, size, weld_mm=FILM * size)
    if cut is None:
        raise FilmError(
            _("Faces fall together there and leave a film: move the cut by a millimetre.")
        )
    return replace(cut, smooth=_still_smooth(cut, body, size))


class FilmError(VolumeError):
    """What is left of a body has a film without thickness."""


def _sound(body: Body, size: float) -> bool:
    """Whether a flat body is whole for its size, mm: no edge a hair, no face without width, and no
    two faces back to back with nothing between them."""
    ends = body.vertices[body.edges]
    if float(np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).min()) < FILM * size:
        return False
    for rings in body.rings:
        corners = body.vertices[list(rings[0])]
        after = np.roll(corners, -1, axis=0)
        around = float(np.linalg.norm(after - corners, axis=1).sum())
        twice = np.cross(corners - corners[0], after - corners[0]).sum(axis=0)
        if float(np.linalg.norm(twice)) < FILM * size * around:
            return False
    return not _back_to_back(body, size)


def _back_to_back(body: Body, size: float) -> bool:
    """Whether two faces that look away from each other share a part of one plane."""
    against = (body.normals @ body.normals.T < -1 + FILM) & (
        np.abs(body.offsets[:, None] + body.offsets[None]) < FILM * size
    )
    for one, other in np.argwhere(np.triu(against)).tolist():
        parts = [[part for face, part in body.parts if face == number] for number in (one, other)]
        for own, theirs in (parts, parts[::-1]):
            places = np.concatenate([_within(body.vertices[list(part)]) for part in own])
            if any(_inside(body, part, places, size) for part in theirs):
                return True
    return False


def _within(ring: Array) -> Array:
    """Places (k + 1, 3) well within a convex ring: its middle, and half way to each corner."""
    middle = ring.mean(axis=0)
    return np.concatenate([middle[None], (ring + middle) / 2])


def _inside(body: Body, part: Ring, places: Array, size: float) -> bool:
    """Whether any of some places in the plane of a convex part lies well inside of it."""
    ring = body.vertices[list(part)]
    normal = _normals_of(body.vertices, [part])[0]
    run = np.roll(ring, -1, axis=0) - ring
    inward = np.cross(normal, run)
    inward /= np.maximum(np.linalg.norm(inward, axis=1, keepdims=True), 1e-300)
    depth = ((places[:, None] - ring[None]) * inward[None]).sum(axis=2)
    return bool((depth > FILM * size).all(axis=1).any())


def _still_smooth(cut: Body, body: Body, size: float) -> NDArray[np.bool_]:
    """(m,) edges of a cut body that lie on edges within a round corner of the whole one."""
    found = np.zeros(len(cut.edges), dtype=bool)
    ends = cut.vertices[cut.edges]
    for start, end in body.vertices[body.edges[body.smooth]]:
        along = (end - start) / np.linalg.norm(end - start)
        off = np.linalg.norm(np.cross(ends - start, along), axis=2).max(axis=1)
        found |= off <= CLOSE * size
    return found


def _to_manifold(body: Body):  # type: ignore[no-untyped-def]  # manifold3d has no types
    from manifold3d import Manifold, Mesh64

    triangles, faces = [], []
    for face, ring in body.parts:
        for b, c in itertools.pairwise(ring[1:]):
            triangles.append((ring[0], b, c))
            faces.append(face)
    mesh = Mesh64(
        vert_properties=np.ascontiguousarray(body.vertices, dtype=np.float64),
        tri_verts=np.array(triangles, dtype=np.uint64),
        face_id=np.array(faces, dtype=np.uint64),
    )
    return Manifold(mesh)


def _from_triangles(body, size: float, weld_mm: float = 0.0) -> Body | None:  # type: ignore[no-untyped-def]
    """The body of the library's triangles, vertices nearer than a length made one; None when it is
    not sound."""
    mesh = body.to_mesh64()
    vertices = np.array(mesh.vert_properties[:, :3], dtype=float)
    triangles = _with_one_number_each(vertices, np.array(mesh.tri_verts, dtype=np.intp), mesh)
    if weld_mm:
        triangles = _welded(vertices, triangles, weld_mm)
    if not len(triangles):
        return None
    corner = vertices[triangles]
    across = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
    area = np.linalg.norm(across, axis=1)
    normals = across / np.where(area > 0, area, 1.0)[:, None]
    face_of = _flat_faces(triangles, vertices, normals, area)
    count = int(face_of.max()) + 1
    face_normals = np.zeros((count, 3))
    np.add.at(face_normals, face_of, across)
    lengths = np.linalg.norm(face_normals, axis=1, keepdims=True)
    if float(lengths.min()) <= THIN * float(area.max()):
        return None
    face_normals /= lengths
    outline: dict[int, list[tuple[int, int]]] = defaultdict(list)
    side = {}
    for number, (a, b, c) in enumerate(triangles.tolist()):
        for edge in ((a, b), (b, c), (c, a)):
            side[edge] = int(face_of[number])
    for (a, b), face in side.items():
        if side.get((b, a), face) != face:
            outline[face].append((a, b))
    edges, edge_faces = _straight_edges(side, vertices, size)
    used = np.unique(edges)
    renumber = {int(v): i for i, v in enumerate(used.tolist())}
    points = vertices[used]
    rings = tuple(
        _outline_first(_rings_of(outline[face], renumber), points, face_normals[face])
        for face in range(count)
    )
    if not all(rings):
        return None
    parts = _parts_of(points, rings, face_normals)
    made = flat_body(
        points,
        np.array([[renumber[a], renumber[b]] for a, b in edges.tolist()], dtype=np.intp),
        edge_faces,
        np.zeros(len(edges), dtype=bool),
        face_normals,
        rings,
        tuple(parts),
        _is_convex(points, [ring[0] for ring in rings], face_normals),
    )
    return made if _sound(made, size) else None


def _with_one_number_each(vertices: Array, triangles: Indices, mesh) -> Indices:  # type: ignore[no-untyped-def]
    """Triangles with vertices that the library keeps twice (along seams) given one number."""
    number = np.arange(len(vertices))
    for a, b in zip(mesh.merge_from_vert, mesh.merge_to_vert, strict=True):
        number[int(a)] = int(b)
    return np.asarray(number[triangles])


def _welded(vertices: Array, triangles: Indices, mm: float) -> Indices:
    """Triangles with vertices nearer to each other than a length made one; those that lose their
    area by it are gone, and pairs that lie back to back with them."""
    off = np.linalg.norm(vertices[:, None] - vertices[None], axis=2)
    number = (off <= mm).argmax(axis=1)
    number = number[number]
    kept: dict[frozenset[int], list[tuple[int, int, int]]] = defaultdict(list)
    for a, b, c in number[triangles].tolist():
        if len({a, b, c}) == 3:
            kept[frozenset((a, b, c))].append((a, b, c))
    left = [some[0] for some in kept.values() if len(some) % 2]
    return np.array(left, dtype=np.intp)


def _flat_faces(triangles: Indices, vertices: Array, normals: Array, area: Array) -> Indices:
    """Number (t,) of the flat face each triangle belongs to: neighbours with one normal."""
    face = np.arange(len(triangles))

    def root(i: int) -> int:
        while face[i] != i:
            i = int(face[i])
        return i

    owner = {}
    for number, (a, b, c) in enumerate(triangles.tolist()):
        for edge in ((a, b), (b, c), (c, a)):
            owner[edge] = number
    normals = _told_normals(triangles, vertices, normals, area, owner)
    for (a, b), one in owner.items():
        other = owner.get((b, a))
        if other is not None and float(np.abs(normals[one] - normals[other]).max()) <= SAME_PLANE:
            face[root(one)] = root(other)
    roots = [root(i) for i in range(len(triangles))]
    return np.unique(roots, return_inverse=True)[1]


def _told_normals(
    triangles: Indices,
    vertices: Array,
    normals: Array,
    area: Array,
    owner: dict[tuple[int, int], int],
) -> Array:
    """The normals (t, 3) of triangles; one without area, which lies on the seam of two faces, has
    that of its neighbour beyond its longest edge."""
    told = normals.copy()
    open_ones = set(np.flatnonzero(area <= THIN * float(area.max())).tolist())
    while open_ones:
        settled = {}
        for number in open_ones:
            others = _beyond(triangles[number], vertices, owner)
            if others and others[0] not in open_ones:
                settled[number] = others[0]
        if not settled:  # their long edges join them only to each other
            for number in open_ones:
                known = [
                    i for i in _beyond(triangles[number], vertices, owner) if i not in open_ones
                ]
                if known:
                    settled = {number: known[0]}
                    break
        if not settled:
            break
        for number, other in settled.items():
            told[number] = told[other]
        open_ones -= settled.keys()
    return told


def _beyond(triangle: Indices, vertices: Array, owner: dict[tuple[int, int], int]) -> list[int]:
    """The neighbours of a triangle, that beyond its longest edge first."""
    a, b, c = triangle.tolist()
    edges = sorted(
        ((a, b), (b, c), (c, a)),
        key=lambda edge: -float(np.linalg.norm(vertices[edge[1]] - vertices[edge[0]])),
    )
    return [owner[end, begin] for begin, end in edges if (end, begin) in owner]


def _straight_edges(
    side: dict[tuple[int, int], int], vertices: Array, size: float
) -> tuple[Indices, Indices]:
    """Edges between two flat faces, pieces in one straight line joined to one."""
    between: dict[tuple[int, int], list[tuple[int, int]]] = defaultdict(list)
    for (a, b), face in side.items():
        other = side.get((b, a), face)
        if face < other:
            between[face, other].append((a, b))
    edges, faces = [], []
    for pair, pieces in between.items():
        run = dict(pieces)
        ends = set(run.values())
        for first in [a for a in run if a not in ends] or list(run)[:1]:
            at, begun = first, first
            while at in run:
                onward = run.pop(at)
                further = run.get(onward)
                if further is None or not _in_line(vertices[[begun, onward, further]], size):
                    edges.append((begun, onward))
                    faces.append(pair)
                    begun = onward
                at = onward
    return np.array(edges, dtype=np.intp), np.array(faces, dtype=np.intp)


def _in_line(three: Array, size: float) -> bool:
    run, on = three[1] - three[0], three[2] - three[1]
    away = np.linalg.norm(np.cross(run, on)) / max(
        float(np.linalg.norm(three[2] - three[0])), 1e-30
    )
    return bool(away <= SAME * size and run @ on > 0)


def _rings_of(pieces: list[tuple[int, int]], number: dict[int, int]) -> tuple[Ring, ...]:
    """Directed pieces round a face as closed rings of the numbered vertices."""
    onward: dict[int, list[int]] = defaultdict(list)
    for a, b in pieces:
        onward[a].append(b)
    rings = []
    while onward:
        first = next(iter(onward))
        ring, at = [], first
        while at in onward:
            ring.append(at)
            following = onward[at].pop()
            if not onward[at]:
                del onward[at]
            at = following
        rings.append(tuple(number[v] for v in ring if v in number))
    return tuple(ring for ring in rings if len(ring) >= 3)


def _outline_first(rings: tuple[Ring, ...], points: Array, normal: Array) -> tuple[Ring, ...]:
    """The rings of a face by signed area: outlines run counter-clockwise, holes clockwise."""

    def area(ring: Ring) -> float:
        corners = points[list(ring)] - points[ring[0]]
        return float(np.cross(corners, np.roll(corners, -1, axis=0)).sum(axis=0) @ normal)

    return tuple(sorted(rings, key=area, reverse=True))


def moved(body: Body, axes: Array, place: Array) -> Body:
    """The flat body with its own axes turned to the rows of `axes` (3, 3) and set at `place`
    (3,)."""
    return flat_body(
        np.asarray(body.vertices @ axes + place),
        body.edges,
        body.edge_faces,
        body.smooth,
        np.asarray(body.normals @ axes),
        body.rings,
        body.parts,
        body.convex,
    )

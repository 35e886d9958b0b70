"""Which parts of plane faces a viewpoint sees.

Whatever stands between a face and the viewpoint is cast onto the plane of the face along the sight
lines, and taken away from it. Plane faces are cast exactly; arcs go in chords that miss them by
less than CHORD of their radius, surfaces that bend in facets as fine."""

import itertools
import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body, SweptPatch, TurnedPatch, is_straight
from isometron.framework.bodies.face_outlines import FaceOutline, outline_of
from isometron.framework.figures import Figure, Hides
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import points_at
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

if TYPE_CHECKING:
    from shapely import Geometry

CHORD = 5.4e-4
"""Share of its radius by which a chord may miss an arc."""

AROUND = 96
"""Facets round a whole turn: 1 − cos(π / 96) is CHORD."""

ALONG = 12
"""Facets along a curved side of a turned form."""

TOUCH = 1e-9
"""Share of the sizes within which two surfaces count as touching, not covering."""


class SeenRegion(NamedTuple):
    """The part of a plane face that is seen: its figure and face, its outline in its own plane, and
    the polygons of that plane, mm, that are left of it; whole: its area, mm²."""

    figure: Figure
    face: int
    outline: FaceOutline
    polygons: "Geometry"
    whole_mm2: float

    @property
    def area_mm2(self) -> float:
        """True area that is seen, mm²."""
        return float(self.polygons.area)

    def holds(self, place: Array) -> bool:
        """Whether a world place (3,) of the face is seen."""
        import shapely

        own = self.figure.axes @ (place - self.figure.place) - self.outline.place
        return bool(shapely.contains_xy(self.polygons, *(self.outline.across @ own)))

    def world(self) -> list[list[Array]]:
        """The polygons as rings (k, 3) of world mm, each with its holes after it."""
        import shapely

        rings = []
        for polygon in shapely.get_parts(self.polygons):
            every = [polygon.exterior, *polygon.interiors]
            rings.append([self._out(np.asarray(ring.coords)) for ring in every])
        return rings

    def _out(self, flat: Array) -> Array:
        own = flat @ self.outline.across + self.outline.place
        return np.asarray(own @ self.figure.axes + self.figure.place)


def seen_regions(
    viewpoint: Viewpoint, figures: Sequence[Figure], number: int
) -> dict[int, SeenRegion]:
    """What is seen of each plane face of one figure that turns to the viewpoint, by its number."""
    import shapely

    mine = figures[number]
    hiding = [f for i, f in enumerate(figures) if f.hides is Hides.ALL or i == number]
    found = {}
    for face in range(mine.body.faces):
        normal, offset = mine.normals[face], float(mine.offsets[face])
        height = float(normal @ viewpoint.place) - (0.0 if viewpoint.far else offset)
        if height <= TOUCH * (1.0 if viewpoint.far else abs(offset) + abs(height)):
            continue
        outline = outline_of(mine.body, face)
        whole = face_polygons(mine.body, face)
        left, bottom, right, top = shapely.bounds(whole).tolist()
        cast = [
            flat
            for figure in hiding
            for flat in _cast(viewpoint, figure, mine, face, height)
            if flat[:, 0].max() > left and flat[:, 0].min() < right
            if flat[:, 1].max() > bottom and flat[:, 1].min() < top
        ]
        polygons = [shapely.Polygon(ring) for ring in cast]
        hidden = shapely.union_all(shapely.make_valid(polygons)) if cast else None
        seen = whole if hidden is None else shapely.difference(whole, hidden)
        found[face] = SeenRegion(mine, face, outline, _areas(seen), float(whole.area))
    return found


def _areas(shape: Any) -> Any:
    """The polygons of a shape, without the lines and points a difference may leave."""
    import shapely

    parts = [part for part in shapely.get_parts(shape) if part.geom_type == "Polygon"]
    return shapely.multipolygons(parts)


def _cast(
    viewpoint: Viewpoint, figure: Figure, onto: Figure, face: int, height: float
) -> list[Array]:
    """The facets of a figure that stand between a face and the viewpoint, cast onto its plane: flat
    rings (k, 2). height: of the viewpoint over the plane (of a direction: its rise)."""
    normal, offset = onto.normals[face], float(onto.offsets[face])
    outline = outline_of(onto.body, face)
    size = float(np.abs(figure.reach - np.tile(onto.place, 2)).max()) + abs(height)
    low = TOUCH * size
    high = np.inf if viewpoint.far else height * (1 - 1e-6)
    flat = []
    for own_face, ring in facets_of(figure.body):
        if figure is onto and own_face == face:
            continue
        world: Array = ring @ figure.axes + figure.place
        above = world @ normal - offset
        if above.max() <= low or above.min() >= high:
            continue
        if above.min() < low or above.max() > high:
            world = _clipped(_clipped(world, above - low), None, high, normal, offset)
            if len(world) < 3:
                continue
            above = world @ normal - offset
        if viewpoint.far:
            foot = world - (above / height)[:, None] * viewpoint.place
        else:
            share = above / (height - above)
            foot = world + share[:, None] * (world - viewpoint.place)
        own = (foot - onto.place) @ onto.axes.T - outline.place
        flat.append(own @ outline.across.T)
    return flat


def _clipped(
    ring: Array,
    off: Array | None,
    high: float = 0.0,
    normal: Array | None = None,
    offset: float = 0.0,
) -> Array:
    """The part of a ring (k, 3) where `off` (k,) is above 0; or, without it, that lies less than
    `high` over a plane (Sutherland and Hodgman)."""
    if off is None:
        if normal is None or not len(ring) or not np.isfinite(high):
            return ring
        off = high - (ring @ normal - offset)
    kept: list[Array] = []
    for i in range(len(ring)):
        before, here = float(off[i - 1]), float(off[i])
        if (before > 0) != (here > 0):
            share = before / (before - here)
            kept.append(ring[i - 1] + share * (ring[i] - ring[i - 1]))
        if here > 0:
            kept.append(ring[i])
    return np.array(kept).reshape(-1, 3)


def face_polygons(body: Body, face: int) -> Any:
    """A plane face as polygons of its own plane, arcs in chords."""
    import shapely

    outline = outline_of(body, face)
    rings = [_chords(outline.flat(loop)) for loop in body.loops(face)]
    return shapely.Polygon(rings[0], rings[1:])


def _chords(loop: Array) -> Array:
    """Corners (k, d) of a loop of arcs, bent ones in chords."""
    straight_ones = is_straight(loop)
    steps = AROUND // 4
    places = []
    for arc, level in zip(loop, straight_ones.tolist(), strict=True):
        t = np.zeros(1) if level else np.arange(steps) / steps
        places.append(points_at(np.tile(arc, (len(t), 1, 1)), t))
    return np.concatenate(places)


@remembered()
def facets_of(body: Body) -> tuple[tuple[int, Array], ...]:
    """The skin of a body as convex or simple rings (k, 3) of own mm, each with the number of its
    surface: flat pieces as they are, plane faces by their outline (cut from hole to hole), bent
    ones in facets."""
    if body.surfaces is None:
        return tuple((face, body.vertices[list(ring)]) for face, ring in body.parts)
    found: list[tuple[int, Array]] = []
    for face in range(body.faces):
        found += [(face, ring) for ring in _flat_pieces(body, face)]
    for turned in body.surfaces.turned:
        found += [(turned.surface, ring) for ring in _turned_facets(turned)]
    for swept in body.surfaces.swept:
        found += [(swept.surface, ring) for ring in _swept_facets(swept)]
    return tuple(found)


def _flat_pieces(body: Body, face: int) -> list[Array]:
    """A plane face as triangles, arcs in chords."""
    import shapely

    outline = outline_of(body, face)
    pieces = shapely.get_parts(shapely.constrained_delaunay_triangles(face_polygons(body, face)))
    return [
        np.asarray(piece.exterior.coords)[:-1] @ outline.across + outline.place for piece in pieces
    ]


@remembered()
def bent_facets(body: Body) -> tuple[tuple[int, Array], ...]:
    """The bent surfaces of a body in flat pieces (k, 3) of own mm, each with the number of its
    surface; four corners where these lie in one plane."""
    assert body.surfaces is not None
    found: list[tuple[int, Array]] = []
    for turned in body.surfaces.turned:
        found += [(turned.surface, ring) for ring in _turned_facets(turned, whole=True)]
    for swept in body.surfaces.swept:
        found += [(swept.surface, ring) for ring in _swept_facets(swept, whole=True)]
    return tuple(found)


def _turned_facets(one: TurnedPatch, *, whole: bool = False) -> list[Array]:
    piece = one.segment
    count = 1 if piece.straight else ALONG
    share = (1.0 - np.cos(np.pi * np.arange(count + 1) / count)) / 2
    heights = piece.low + share * (piece.high - piece.low)
    across = np.linalg.svd(one.axle[None])[2][1:]
    turn = 2 * math.pi * np.arange(AROUND + 1) / AROUND
    ring = np.stack([np.cos(turn), np.sin(turn)], axis=1) @ across
    rows = [one.place + h * one.axle + piece.radius(float(h)) * ring for h in heights.tolist()]
    return _quads(rows, whole=whole)


def _swept_facets(one: SweptPatch, *, whole: bool = False) -> list[Array]:
    steps = max(1, math.ceil(abs(one.turn) * AROUND / (2 * math.pi)))
    angles = one.first + one.turn * np.arange(steps + 1) / steps
    feet = one.centre + one.radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    ends = [one.ends.at(float(foot[0])) for foot in feet]
    places = feet @ one.plane
    begin, stop = (np.array([end[i] for end in ends])[:, None] for i in (0, 1))
    rows = [places + begin * one.way, places + stop * one.way]
    return _quads(rows, whole=whole)


def _quads(rows: Sequence[Array], *, whole: bool) -> list[Array]:
    """For every four neighbours of rows of places (k, 3): two triangles; or, as a whole, one ring
    of four where they lie in one plane."""
    found = []
    for low, high in itertools.pairwise(rows):
        for i in range(len(low) - 1):
            ring = np.array([low[i], low[i + 1], high[i + 1], high[i]])
            if whole and _in_one_plane(ring):
                found.append(ring)
            else:
                found += [ring[[0, 1, 2]], ring[[0, 2, 3]]]
    return found


def _in_one_plane(ring: Array) -> bool:
    """Whether four places (4, 3), no two the same, lie in one plane."""
    a, b, c = ring[1] - ring[0], ring[2] - ring[0], ring[3] - ring[0]
    size = float(np.abs(ring - ring[0]).max())
    apart = min(float(np.linalg.norm(ring[i] - ring[i - 1])) for i in range(4))
    return apart > 1e-9 * size and abs(float(np.cross(a, b) @ c)) < 1e-9 * size**3

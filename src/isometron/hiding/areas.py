"""Which parts of all surfaces a viewpoint sees, as areas of a picture.

The skin of every figure comes in facets: plane faces as they are cut, bent ones as fine as CHORD.
Where two of them overlap in the picture the nearer one hides the other; how near a plane is changes
evenly over the picture (1/depth for a point, depth for a direction), so that the line along which
two of them change order is straight. Asked from the light, what is not seen lies in shadow."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.figures import Figure
from isometron.hiding.facets import bent_facets, face_polygons, facets_of
from isometron.nearness import LAST_BITS
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered
from isometron.perspective.watching import ticking

LEAST_DEPTH = 1e-9
NOTHING = 1e-12
"""Overlaps of less than this share of the smaller facet are none."""

COLLECTION = 7
"""What the polygon library calls several things of several kinds."""

ALIKE = 1e-9
"""Facets as near as each other to this share lie in one plane."""

OUT = 1e-5
"""Share of a body's size from a facet to the place that is asked whether it is outside."""


@dataclass(frozen=True, eq=False)
class Chart:
    """A picture to count areas in: origin (3,) mm, drawn at `middle` (2,), right, up and ahead (3,)
    at right angles; far: seen along ahead from far away, each mm drawn `distance` long; else
    central, `distance` from the origin, and only what lies deeper than `near`; edge: only |x|, |y|
    up to it (inf for all)."""

    origin: Array
    right: Array
    up: Array
    ahead: Array
    far: bool = False
    distance: float = 1.0
    middle: tuple[float, float] = (0.0, 0.0)
    near: float = 0.0
    edge: float = math.inf

    def depth(self, places: Array) -> Array:
        """How deep world places (n, 3) lie."""
        deep: Array = (places - self.origin) @ self.ahead
        return deep

    def picture(self, places: Array) -> Array:
        """(n, 2) where world places (n, 3), deeper than `near`, are drawn."""
        off = places - self.origin
        flat = off @ np.stack([self.right, self.up], axis=1)
        if self.far:
            return np.asarray(flat * self.distance + self.middle)
        deep = np.maximum(off @ self.ahead, max(self.near, LEAST_DEPTH) / 2)  # rounding at the cut
        scale = self.distance / deep
        return np.asarray(flat * scale[:, None] + self.middle)

    def nearness(self, normals: Array, offsets: Array) -> Array:
        """(n, 3) a, b, c: over the picture a plane is as near as a·x + b·y + c; worthless for
        planes seen from the edge."""
        onto = np.stack([normals @ way for way in (self.right, self.up, self.ahead)], axis=1)
        level = offsets - normals @ self.origin
        with np.errstate(divide="ignore", invalid="ignore"):
            if self.far:  # −depth: nearer is more
                slope = onto[:, :2] / self.distance
                even = -level - slope @ np.asarray(self.middle)
                told = np.column_stack([slope, even]) / onto[:, 2:]
            else:
                slope = onto[:, :2] / self.distance
                even = onto[:, 2] - slope @ np.asarray(self.middle)
                told = np.column_stack([slope, even]) / level[:, None]
        return np.asarray(told)

    def facing(self, normals: Array, offsets: Array) -> NDArray[np.bool_]:
        """Which planes turn their outer side to the viewpoint."""
        if self.far:
            return np.asarray(normals @ self.ahead < -ALIKE)
        height = normals @ self.origin - offsets
        return np.asarray(height > ALIKE * (1.0 + np.abs(offsets)))

    def world(self, flat: Array, normals: Array, offsets: Array) -> Array:
        """(n, 3) the world places on planes that are drawn at places (n, 2)."""
        if self.far:
            own = (flat - self.middle) / self.distance
            start = self.origin + own @ np.stack([self.right, self.up])
            way = np.broadcast_to(self.ahead, start.shape)
        else:
            start = np.broadcast_to(self.origin, (len(flat), 3))
            own = (flat - self.middle) / self.distance
            way = own @ np.stack([self.right, self.up]) + self.ahead
        share = (offsets - (normals * start).sum(axis=1)) / (normals * way).sum(axis=1)
        return np.asarray(start + share[:, None] * way)


class Facet(NamedTuple):
    """One flat piece of a body: its surface, its rings (k, 3) of own mm, holes after the outer one,
    its outward unit normal (3,), and of a bent surface the outward unit normals (k, 3) of the true
    surface at its corners."""

    face: int
    rings: tuple[Array, ...]
    normal: Array
    bends: Array | None = None


@remembered()
def outward_facets(body: Body) -> tuple[Facet, ...]:
    """The skin of a body in flat pieces with their outward normals: plane faces whole, arcs in
    chords; bent ones in facets. Those of one bent surface turn the same way along it; which way is
    out is asked of a place beside one of them."""
    found = []
    for face in range(body.faces):
        outline = outline_of(body, face)
        for polygon in shapely_parts(face_polygons(body, face)):
            rings = tuple(
                np.asarray(ring.coords)[:-1] @ outline.across + outline.place
                for ring in (polygon.exterior, *polygon.interiors)
            )
            if len(rings[0]) > 2:
                found.append(Facet(face, rings, body.normals[face]))
    if body.surfaces is None:
        return tuple(found)
    corners = _triangles([ring for _face, ring in facets_of(body)])
    size = float(np.ptp(body.enclosing, axis=0).max())
    signs: dict[int, float] = {}
    for face, rows in bent_facets(body):
        normals, fair = _normals(rows[..., :3])
        if not fair.any():
            continue
        own, normals, square = rows[fair, :, :3], normals[fair], rows[fair, :, 3:]
        if face not in signs:
            beside = own[0].mean(axis=0) + OUT * size * normals[0]
            signs[face] = 1.0 if _crossings(beside, normals[0], corners) % 2 == 0 else -1.0
        normals = signs[face] * normals
        bends = _along(square, normals)
        found += [Facet(face, (one,), normals[n], bends[n]) for n, one in enumerate(own)]
    return tuple(found)


def _along(square: Array, normals: Array) -> Array:
    """Directions (n, k, 3) as unit directions to the side of normals (n, 3); these themselves where
    there is none."""
    way = np.sign((square * normals[:, None]).sum(axis=2, keepdims=True))
    length = np.linalg.norm(square, axis=2, keepdims=True)
    told = square * way / np.maximum(length, 1e-300)
    return np.where(told.any(axis=2, keepdims=True), told, normals[:, None])


def mended(shape: Any) -> Any:
    """A shape whose rings cross or touch themselves as sound polygons, and nothing but polygons:
    what collapses to a line or a point is gone."""
    import shapely

    parts = [
        one
        for given in shapely_parts(shape)
        for one in shapely_parts(
            shapely.make_valid(given, method="structure", keep_collapsed=False)
        )
    ]
    return shapely.union_all(parts) if parts else shapely.Polygon()


def mend(shapes: "NDArray[Any]") -> "NDArray[Any]":
    """Each of some shapes (n,) as sound polygons."""
    import shapely

    broken = ~shapely.is_valid(shapes) | (shapely.get_type_id(shapes) == COLLECTION)
    for number in np.flatnonzero(broken).tolist():
        shapes[number] = mended(shapes[number])
    return shapes


def shapely_parts(shape: Any) -> list[Any]:
    """The polygons of a shape."""
    import shapely

    parts = shapely.get_parts(shapely.get_parts(shape))  # a collection may hold several of several
    return [one for one in parts if one.geom_type == "Polygon" and one.area > 0]


def _normals(rings: Array) -> tuple[Array, NDArray[np.bool_]]:
    """Unit normals (n, 3) of rings (n, k, 3) (Newell), and which have any area."""
    off = rings - rings[:, :1]
    normals = np.cross(off[:, 1:-1], off[:, 2:]).sum(axis=1)
    length = np.linalg.norm(normals, axis=1)
    size = np.ptp(rings, axis=1).max(axis=1)
    fair = length > LAST_BITS * np.maximum(size * size, 1e-30)
    return normals / np.maximum(length, 1e-300)[:, None], fair


def _triangles(rings: Sequence[Array]) -> Array:
    """(n, 3, 3) triangles of rings, as fans."""
    found = [
        np.stack([np.broadcast_to(ring[0], ring[1:-1].shape), ring[1:-1], ring[2:]], axis=1)
        for ring in rings
    ]
    return np.concatenate(found) if found else np.empty((0, 3, 3))


def _crossings(place: Array, way: Array, corners: Array) -> int:
    """How many triangles (n, 3, 3) a ray crosses, a little aside from its way so that it meets no
    edge (Möller and Trumbore)."""
    way = way + np.array([0.0137, -0.0071, 0.0113])
    one, two = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    across = np.cross(np.broadcast_to(way, two.shape), two)
    det = (one * across).sum(axis=1)
    off = place - corners[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        u = (off * across).sum(axis=1) / det
        turn = np.cross(off, one)
        v = turn @ way / det
        t = (two * turn).sum(axis=1) / det
        crossed = (u >= 0) & (v >= 0) & (u + v <= 1) & (t > 0)
    return int(crossed.sum())


@dataclass(frozen=True, eq=False)
class Skin:
    """The flat pieces of some figures in the world: their rings of corners, of which figure and
    surface (n,), middles (n, 3), outward normals (n, 3) and offsets (n,), and the normals (k, 3) of
    the true surface at the corners of those that bend."""

    rings: tuple[tuple[Array, ...], ...]
    figure: NDArray[np.intp]
    face: NDArray[np.intp]
    middles: Array
    normals: Array
    offsets: Array
    bends: tuple[Array | None, ...]


def skin_of(figures: Sequence[Figure], which: Sequence[int]) -> Skin:
    """The skin of some of the figures."""
    rings: list[tuple[Array, ...]] = []
    figure: list[int] = []
    face: list[int] = []
    normals: list[Array] = []
    bends: list[Array | None] = []
    for number in ticking(which, len(which)):
        one = figures[number]
        for facet in outward_facets(one.body):
            rings.append(tuple(ring @ one.axes + one.place for ring in facet.rings))
            normals.append(facet.normal @ one.axes)
            bends.append(None if facet.bends is None else facet.bends @ one.axes)
            figure.append(number)
            face.append(facet.face)
    out = np.array(normals).reshape(-1, 3)
    places = np.array([own[0].mean(axis=0) for own in rings]).reshape(-1, 3)
    return Skin(
        tuple(rings),
        np.array(figure, dtype=np.intp),
        np.array(face, dtype=np.intp),
        places,
        out,
        (out * places).sum(axis=1),
        tuple(bends),
    )


class Areas(NamedTuple):
    """Facets (n,) of a skin and what a viewpoint sees of each: polygons of the chart."""

    facets: NDArray[np.intp]
    seen: Any


def seen_areas(chart: Chart, skin: Skin) -> Areas:
    """What is seen of every facet that turns to the viewpoint; facets that are not seen at all are
    left out."""
    import shapely

    toward = np.flatnonzero(chart.facing(skin.normals, skin.offsets))
    facets, shapes = _drawn(chart, skin, toward)
    if not len(facets):
        return Areas(facets, shapes)
    near = chart.nearness(skin.normals[facets], skin.offsets[facets])
    hidden = _hidden(shapes, near)
    if hidden:
        numbers = np.fromiter(hidden, dtype=np.intp)
        before = [
            parts[0] if len(parts) == 1 else shapely.union_all(parts) for parts in hidden.values()
        ]
        shapes[numbers] = shapely.difference(shapes[numbers], np.array(before, dtype=object))
    kept = shapely.area(shapes) > 0
    return Areas(facets[kept], shapes[kept])


def _drawn(chart: Chart, skin: Skin, which: NDArray[np.intp]) -> tuple[NDArray[np.intp], Any]:
    """Facets and their polygons in the chart, without those that show no area."""
    import shapely

    rings: list[Array] = []
    owner: list[int] = []
    kept: list[int] = []
    for number in ticking(which.tolist(), len(which)):
        before = ahead_of(chart, skin.rings[number])
        if before:
            rings += before
            owner += [len(kept)] * len(before)
            kept.append(number)
    if not rings:
        return np.empty(0, dtype=np.intp), np.empty(0, dtype=object)
    shapes = polygons_of([chart.picture(np.concatenate(rings))], [len(r) for r in rings], owner)
    shapes = mend(shapes)
    if math.isfinite(chart.edge):
        frame = shapely.box(-chart.edge, -chart.edge, chart.edge, chart.edge)
        shapes = shapely.intersection(shapes, frame)
    fair = shapely.area(shapes) > 0
    return np.array(kept, dtype=np.intp)[fair], shapes[fair]


def ahead_of(chart: Chart, rings: Sequence[Array]) -> list[Array]:
    """The part of the rings (k, 3) of a flat piece that lies before a chart's viewpoint."""
    if chart.far:
        return list(rings)
    found = []
    for ring in rings:
        deep = chart.depth(ring) - chart.near
        kept = ring if deep.min() > 0 else clipped(ring, deep)
        if len(kept) > 2:
            found.append(kept)
        elif not found:
            return []  # without its outer ring there is nothing
    return found


def polygons_of(places: Sequence[Array], lengths: Sequence[int], owner: Sequence[int]) -> Any:
    """Polygons from rings of places (n, 2) one after the other: the first ring of each owner is the
    outer one, others are its holes."""
    import shapely

    flat = np.concatenate(places)
    rings = shapely.linearrings(flat, indices=np.repeat(np.arange(len(lengths)), lengths))
    begins = np.concatenate([[True], np.diff(owner) > 0])
    shapes = shapely.polygons(rings[begins])
    for number in {owner[n] for n in np.flatnonzero(~begins).tolist()}:
        own = [rings[n] for n in range(len(owner)) if owner[n] == number]
        shapes[number] = shapely.Polygon(own[0], own[1:])
    return shapes


def clipped(ring: Array, off: Array) -> Array:
    """The part of a ring (k, d) where `off` (k,) is above 0 (Sutherland and Hodgman)."""
    kept: list[Array] = []
    for i in range(len(ring)):
        before, here = float(off[i - 1]), float(off[i])
        if (before > 0) != (here > 0):
            share = before / (before - here)
            kept.append(ring[i - 1] + share * (ring[i] - ring[i - 1]))
        if here > 0:
            kept.append(ring[i])
    return np.array(kept).reshape(-1, ring.shape[1])


def _hidden(shapes: Any, near: Array) -> dict[int, list[Any]]:
    """By number of a polygon: the parts of it that nearer ones hide."""
    import shapely

    tree = shapely.STRtree(shapes)
    one, two = tree.query(shapes, predicate="intersects")
    once = one < two
    one, two = one[once], two[once]
    found: dict[int, list[Any]] = {}
    low, high = _reach_of(shapes, near)
    for first, second in ((one, two), (two, one)):  # all of one lies before all of the other
        for a, b in zip(
            *(some[low[second] > high[first]].tolist() for some in (first, second)), strict=True
        ):
            found.setdefault(a, []).append(shapes[b])
    unsure = (low[two] <= high[one]) & (low[one] <= high[two])
    one, two = one[unsure], two[unsure]
    both = shapely.intersection(shapes[one], shapes[two])
    area = shapely.area(shapes)
    there = shapely.area(both) > NOTHING * np.minimum(area[one], area[two])
    one, two, both = one[there], two[there], both[there]
    if not len(one):
        return found
    places, owner = shapely.get_coordinates(both, return_index=True)
    level = np.column_stack([places, np.ones(len(places))])
    first, second = ((near[some][owner] * level).sum(axis=1) for some in (one, two))
    ahead = (second - first) / np.maximum(np.maximum(np.abs(first), np.abs(second)), 1e-300)
    begins = np.searchsorted(owner, np.arange(len(one)))
    low, high = np.minimum.reduceat(ahead, begins), np.maximum.reduceat(ahead, begins)
    for i, (least, most) in enumerate(zip(low.tolist(), high.tolist(), strict=True)):
        a, b, part = int(one[i]), int(two[i]), both[i]
        if most > ALIKE and least < -ALIKE:  # they pierce each other: each hides a part
            line = near[b] - near[a]
            found.setdefault(a, []).append(shapely.intersection(part, _side(line, part)))
            found.setdefault(b, []).append(shapely.intersection(part, _side(-line, part)))
        elif most > ALIKE:
            found.setdefault(a, []).append(part)
        elif least < -ALIKE:
            found.setdefault(b, []).append(part)
    return found


def _reach_of(shapes: Any, near: Array) -> tuple[Array, Array]:
    """How near each polygon (n,) is, least and most, (n,) each."""
    import shapely

    places, owner = shapely.get_coordinates(shapes, return_index=True)
    level = (near[owner] * np.column_stack([places, np.ones(len(places))])).sum(axis=1)
    begins = np.searchsorted(owner, np.arange(len(shapes)))
    return np.minimum.reduceat(level, begins), np.maximum.reduceat(level, begins)


def _side(line: Array, part: Any) -> Any:
    """The part of the bounds of a polygon where a·x + b·y + c > 0, as a polygon."""
    import shapely

    left, bottom, right, top = shapely.bounds(part).tolist()
    wide = max(right - left, top - bottom)
    left, bottom, right, top = left - wide, bottom - wide, right + wide, top + wide
    ring = np.array([[left, bottom], [right, bottom], [right, top], [left, top]])
    kept = clipped(ring, ring @ line[:2] + line[2])
    return shapely.Polygon(kept) if len(kept) > 2 else shapely.Polygon()

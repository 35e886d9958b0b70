"""Openings: outlines on plane faces of any body, sunk to a depth or taken right through.

What an opening adds to a body (its walls, its floor, the holes in the faces it leads through) is
exact, arcs and all. Whether it fits is asked of the solids library manifold3d, on chords.
"""

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any, NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body, Ends, Region
from isometron.framework.bodies.extruded import Carried, skin_over
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.bodies.making import Making
from isometron.framework.circles import FacePlane
from isometron.framework.outlines import Flat, area, centroid, chorded, curves_of
from isometron.nearness import CLOSE, NEAR, ROUNDING, SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

Triangles = tuple[Array, Any]

CHORD_DEG = 3.75
"""Where arcs of an opening are tried and meshed in chords, they turn by this."""

CLEAR = 1e-6
"""Share of its contents by which an opening may reach out of the body it is cut into."""


FLOOR = 1e-4
"""Under the floor of an opening this share of its depth is left at least."""

ROOM = 1e-6
"""Round an opening this share of its size is left of its face at least."""


class Opening(NamedTuple):
    """An outline, mm, in the plane of a face of that number; how deep it is sunk square to the
    face, None right through along an own axis."""

    face: int
    plane: FacePlane
    ring: Flat
    deep_mm: float | None


class Tunnel(NamedTuple):
    """An opening carried through a body: its outline in a plane through the body's origin and the
    way inward; the face it leaves by (−1: none, it has a floor)."""

    face: int
    exit: int
    carried: Carried

    @property
    def ring(self) -> Flat:
        """Its outline."""
        return self.carried.rings[0]

    @property
    def contents_mm3(self) -> float:
        """What it takes away, mm³: area times length at its centroid."""
        begin, stop = self.carried.ends.at(float(centroid(self.ring)[0]))
        square = np.cross(*self.carried.plane)
        long = (stop - begin) * abs(float(self.carried.way @ square))
        return abs(area(self.ring)) * long


def tunnels_of(body: Body, openings: Sequence[Opening]) -> tuple[Tunnel, ...]:
    """The openings carried into a body. Raises VolumeError for one that leaves its face, and one
    that finds no single face to go out by."""
    return tuple(_tunnel(body, one) for one in openings)


def _tunnel(body: Body, one: Opening) -> Tunnel:
    normal = body.normals[one.face]
    flat_basis = np.stack([one.plane.across, one.plane.along])
    way = -normal * (one.deep_mm or 0.0) if one.deep_mm is not None else _way_through(body, normal)
    begin = float(body.offsets[one.face]) / float(way @ normal)
    corners = one.ring.corners + flat_basis @ (one.plane.corner - begin * way)
    ring = Flat(corners, one.ring.bulges)
    _on_face(body, one.face, flat_basis, ring, way)
    if one.deep_mm is not None:
        spans = _span(ring)
        ends = Ends(spans, np.full(2, begin), np.full(2, begin + 1.0))
        return Tunnel(one.face, -1, Carried((ring,), 0, flat_basis, way, ends))
    return _way_out(body, one.face, flat_basis, ring, way, begin)


def _way_through(body: Body, normal: Array) -> Array:
    """Along the own axis a face looks along most, as far as the body reaches that way: what goes
    through a leaning side runs level."""
    axis = int(np.abs(normal).argmax())
    own = -np.eye(3)[axis] * math.copysign(1.0, normal[axis])
    return np.asarray(own * float(np.ptp(body.enclosing @ own)))


def _span(ring: Flat) -> Array:
    """Places along its first direction between which a ring lies well."""
    low, high = ring.corners[:, 0].min(), ring.corners[:, 0].max()
    room = 4 * float(np.ptp(ring.corners, axis=0).max())
    return np.array([low - room, high + room])


def _on_face(body: Body, face: int, basis: Array, ring: Flat, way: Array) -> None:
    """Raise VolumeError unless an outline, carried along a way, lies wholly within a face."""
    outline = outline_of(body, face)
    middle = centroid(ring)
    grown = Flat(middle + (1.0 + ROOM) * (ring.corners - middle), ring.bulges)
    curves = np.concatenate(curves_of(grown))
    places = on_plane(curves, basis, body.normals[face], float(body.offsets[face]), way)
    number, low, high = outline.parts(outline.flat(places))
    whole = np.zeros(len(curves))
    np.add.at(whole, number, high - low)
    if (whole < 1 - NEAR).any():
        raise VolumeError(
            _("An opening lies within its face: make it smaller, or move it in from the edge.")
        )


def on_plane(
    curves: Array, basis: Array, normal: Array, offset: float, way: Array | None = None
) -> Array:
    """Flat arcs (k, 3, 3), told along two directions (2, 3), carried along a way (the normal
    without one) onto the plane normal·x = offset, as arcs (k, 3, 4)."""
    run = normal if way is None else way
    lifted = curves[..., :2] @ basis
    off = (offset * curves[..., 2] - lifted @ normal) / float(run @ normal)
    return np.concatenate([lifted + off[..., None] * run, curves[..., 2:]], axis=2)


def _way_out(body: Body, face: int, basis: Array, ring: Flat, way: Array, begin: float) -> Tunnel:
    """The opening taken through to the first face that all of it comes out by."""
    heading = body.normals @ way
    base = ring.corners @ basis
    found: list[tuple[float, int]] = []
    for number in np.flatnonzero(heading > SAME * np.linalg.norm(way)).tolist():
        share = (body.offsets[number] - base @ body.normals[number]) / heading[number]
        if float(share.min()) <= begin:
            continue
        try:
            _on_face(body, number, basis, ring, way)
        except VolumeError:
            continue
        found.append((float(share.mean()), number))
    if not found:
        raise VolumeError(
            _("That opening finds no face to go out by: give it a depth, or move it.")
        )
    out = min(found)[1]
    normal = body.normals[out]
    lean = basis @ normal
    size = float(np.hypot(*lean))
    turn = np.array([lean, [-lean[1], lean[0]]]) / size if size > ROUNDING else np.eye(2)
    turned, plane = Flat(ring.corners @ turn.T, ring.bulges), turn @ basis
    spans = _span(turned)
    rise = size if size > ROUNDING else 0.0
    stop = (body.offsets[out] - spans * rise) / float(normal @ way)
    ends = Ends(spans, np.full(2, begin), stop)
    return Tunnel(face, out, Carried((turned,), 0, plane, way, ends))


def opened(body: Body, tunnels: Sequence[Tunnel]) -> Body:
    """A body with openings in it; its corners, edges and plane faces keep their numbers."""
    making = Making.of(body)
    for one in tunnels:
        _open(making, body, one)
    done = making.done(range(body.faces), corners=body.vertices)
    smooth = np.zeros(len(done.edges), dtype=bool)
    smooth[: len(body.smooth)] = body.smooth
    return replace(done, smooth=smooth)


def _open(making: Making, body: Body, one: Tunnel) -> None:
    carried, ring = one.carried, one.ring
    stop = carried.ends.along(0)[1]
    far = one.exit
    if far < 0:
        normal = body.normals[one.face]
        far = making.plane(normal, stop[0] * carried.way)
        making.regions.append(Region(far, [ring], carried.to_flat[:2]))
    else:
        _hole_in(making, body, far, carried)
    _hole_in(making, body, one.face, carried)
    skin_over(making, carried, ring, not area(ring) > 0, [[one.face], [far]])


def _hole_in(making: Making, body: Body, face: int, carried: Carried) -> None:
    """One more hole in the region of a plane face, told along the way of what goes through it."""
    to_flat = carried.to_flat[:2]
    mine = [i for i, region in enumerate(making.regions) if region.surface == face]
    if not mine:
        corners = np.concatenate(body.loops(face))[:, 0]
        places = corners[:, :3] / corners[:, 3:] @ to_flat[:, :3].T
        room = 4 * float(np.ptp(places, axis=0).max())
        (left, low), (right, high) = places.min(axis=0) - room, places.max(axis=0) + room
        frame = np.array([[left, low], [right, low], [right, high], [left, high]])
        making.regions.append(Region(face, [Flat(frame, np.zeros(4)), *carried.rings], to_flat))
        return
    known = making.regions[mine[0]]
    rings = [_told_in(known, one, to_flat, body, face) for one in known.rings]
    making.regions[mine[0]] = Region(face, [*rings, *carried.rings], to_flat)


def _told_in(known: Region, ring: Flat, to_flat: Array, body: Body, face: int) -> Flat:
    """A ring of a region told in another map of its plane. Raises VolumeError where that would
    bend its arcs out of round."""
    normal = body.normals[face]
    there = np.linalg.inv(np.concatenate([known.to_flat[:, :3], normal[None]]))
    linear = to_flat[:, :3] @ there[:, :2]
    level = to_flat[:, :3] @ there[:, 2] * body.offsets[face]
    corners = ring.corners @ linear.T + level
    if not ring.bulges.any():
        return Flat(corners, ring.bulges)
    if float(np.abs(linear.T @ linear - np.eye(2)).max()) > SAME:
        raise VolumeError(
            _("Round openings come out of that face aslant already: give this one a depth.")
        )
    return Flat(corners, ring.bulges * math.copysign(1.0, float(np.linalg.det(linear))))


def solid_of(triangles: Triangles, tunnels: Sequence[Tunnel]) -> Any:
    """A body's skin as a solid of the library, its openings taken out. Raises VolumeError for an
    opening that reaches out of it, or into another one."""
    solid = _solid(*triangles)
    for one in tunnels:
        tool = _tool(one, CLOSE)
        if (tool - solid).volume() > CLEAR * tool.volume():
            raise VolumeError(
                _("That opening runs out of the volume or into another cut: make it less deep.")
            )
        solid = solid - _tool(one, -1e-4)
    return solid


def _solid(vertices: Array, triangles: Any) -> Any:
    from manifold3d import Manifold, Mesh64

    mesh = Mesh64(
        vert_properties=np.array(vertices, dtype=np.float64, order="C"),
        tri_verts=np.array(triangles, dtype=np.uint64, order="C"),
    )
    mesh.merge()
    return Manifold(mesh)


def _tool(one: Tunnel, inset: float) -> Any:
    """What an opening takes out, in chords; drawn in by a share of the way at both ends, or (below
    0) let out where it meets a face."""
    from manifold3d import CrossSection

    carried = one.carried
    prism = CrossSection([chorded(one.ring, CHORD_DEG)]).extrude(1.0).to_mesh64()
    own = np.asarray(prism.vert_properties, dtype=float)[:, :3]
    begin, stop = carried.ends.along(0)
    first = begin[0] + begin[1] * own[:, 0] + inset
    deeper = inset if one.exit >= 0 else -FLOOR if inset > 0 else 0.0
    last = stop[0] + stop[1] * own[:, 0] - deeper
    share = np.where(own[:, 2] < 0.5, first, last)
    placed = own[:, :2] @ carried.plane + share[:, None] * carried.way
    triangles = np.asarray(prism.tri_verts)
    return _solid(placed, triangles if carried.handed > 0 else triangles[:, ::-1])


def trimmed(triangles: Triangles, planes: Sequence[tuple[Array, float]]) -> Triangles:
    """A skin without what lies beyond some planes (unit normal, offset)."""
    solid = _solid(*triangles)
    for normal, offset in planes:
        solid = solid.trim_by_plane(tuple(-normal), -offset)
    return triangles_of(solid)


def triangles_of(solid: Any) -> Triangles:
    """The skin of a solid of the library."""
    mesh = solid.to_mesh64()
    return (
        np.asarray(mesh.vert_properties, dtype=float)[:, :3],
        np.asarray(mesh.tri_verts, dtype=np.intp),
    )

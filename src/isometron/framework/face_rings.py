"""Outlines on the faces of a volume: drawn on them, or cut in as openings."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from isometron.framework.bent_sides import BentSide, bent_numbers, side_of
from isometron.framework.bodies.body import CIRCLE, Body, Circle, Indices
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.bodies.openings import Opening, on_plane
from isometron.framework.circles import FacePlane, face_at, face_like, flat_plane
from isometron.framework.outlines import (
    Flat,
    Knot,
    Ring,
    chorded,
    curves_of,
    flat,
    turned_round,
)
from isometron.perspective.conics import between
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.places import Sides
from isometron.words import _

OPENINGS = ("square", "arched", "round")
"""The shapes an opening has by itself."""


@dataclass(frozen=True)
class FaceRing:
    """An outline on a flat face, or drawn on a bent side.

    face: its number, or −1 − n for bent side n (`framework.bent_sides`). ring: knots as shares of
    the face's extents from its lower left, arcs true circles. deep_mm: 0 draws it, a length sinks
    it in square to the face; through: right through the volume along its own axis, whatever the
    depth. twin: the same again on the other side of a centre plane of the volume, across its width
    (0) or depth (1).
    """

    face: int
    ring: Ring
    deep_mm: float = 0.0
    through: bool = False
    twin: int | None = None

    def __post_init__(self) -> None:
        if len(self.ring) < 2:
            raise VolumeError(_("An outline on a face needs 2 points or more: draw it again."))
        if not 0 <= self.deep_mm <= LARGEST_MM:
            raise VolumeError(_("An opening has a depth of 0 or more: type, say, 40 mm."))

        if self.face < 0 and self.cut:
            raise VolumeError(_("On a round side outlines are drawn: type drawn for how deep."))

    @property
    def cut(self) -> bool:
        """Whether it is an opening."""
        return self.through or self.deep_mm > 0

    def on(self, plane: FacePlane | BentSide) -> Flat:
        """It in mm of its face's plane. Raises VolumeError when it has no room."""
        return flat(self.ring, *plane.extents)


def ring_of(
    shape: str, plane: FacePlane | BentSide, corner: tuple[float, float], size: tuple[float, float]
) -> Ring:
    """A square, arched or round outline of a size (mm) whose lower left corner lies at a place (mm)
    of a face, as shares of it. A round one takes its width; an arched one ends in a half circle.
    Raises VolumeError for a size that gives none."""
    (x, y), (wide, high) = corner, size
    if not (wide > 0 and high > 0):
        raise VolumeError(_("An opening has a width and a height: type lengths above 0."))
    if shape == "round":
        middle, half = y + wide / 2, wide / 2
        places = [(x, middle, 1.0), (x + 2 * half, middle, 1.0)]
    elif shape == "arched":
        spring = y + high - wide / 2
        if high <= wide / 2:
            raise VolumeError(
                _("An arch is higher than half its width: make it higher or narrower.")
            )
        places = [(x, y, 0.0), (x + wide, y, 0.0), (x + wide, spring, 1.0), (x, spring, 0.0)]
    else:
        places = [(x, y, 0.0), (x + wide, y, 0.0), (x + wide, y + high, 0.0), (x, y + high, 0.0)]
    across, along = plane.extents
    return tuple(Knot(u / across, v / along, bulge) for u, v, bulge in places)


def extent_of(one: FaceRing, plane: FacePlane | BentSide) -> tuple[Array, Array]:
    """Lower left corner (2,) and size (2,) of an outline, mm of its face."""
    points = chorded(one.on(plane), 1.0)
    low = points.min(axis=0)
    return low, points.max(axis=0) - low


def told_shape(one: FaceRing) -> str:
    """Which of OPENINGS an outline is; "" for any other."""
    bulges = [knot.bulge for knot in one.ring]
    if any(knot.smooth for knot in one.ring):
        return ""
    if bulges == [1.0, 1.0]:
        return "round"
    if len(bulges) != 4 or bulges not in ([0.0] * 4, [0.0, 0.0, 1.0, 0.0]):
        return ""
    (a, b, c, d) = one.ring
    square = a.y == b.y and b.x == c.x and c.y == d.y and d.x == a.x
    return ("arched" if any(bulges) else "square") if square else ""


def with_twins(rings: tuple[FaceRing, ...], body: Body, sides: Sides) -> list[FaceRing]:
    """The outlines, those with a twin followed by it. Raises VolumeError where the other side of a
    body has no such face."""
    found = []
    for one in rings:
        found.append(one)
        if one.twin is not None:
            other = mirrored_ring(one, body, body, sides[one.twin], one.twin)
            if other is None:
                raise VolumeError(
                    _("The other side has no such face: leave the mirrored outline away.")
                )
            if other != one:
                found.append(other)
    return found


def mirrored_ring(
    one: FaceRing, body: Body, twin: Body, side_mm: float, axis: int = 0
) -> FaceRing | None:
    """An outline on a face of a body as it lies on the body mirrored across its width (0) or depth
    (1), a side of that length; None when the face it was on is gone."""
    if one.face < 0:
        return _on_other_side(one, twin, axis)
    plane = flat_plane(body, one.face)
    flip = 1.0 - 2.0 * np.eye(3)[axis]
    shift = side_mm * np.eye(3)[axis]
    wide, high = plane.extents
    places = [plane.place(k.x * wide, k.y * high) * flip + shift for k in one.ring]
    face = face_at(twin, places[0], body.normals[one.face] * flip)
    if face < 0:
        return None
    other = flat_plane(twin, face)
    basis = np.stack([other.across, other.along])
    handed = float(np.linalg.det(basis @ (np.stack([plane.across, plane.along]) * flip).T))
    shares = [other.shares(place) for place in places]
    ring = tuple(replace(knot, x=x, y=y) for knot, (x, y) in zip(one.ring, shares, strict=True))
    return replace(one, face=face, ring=turned_round(ring) if handed < 0 else ring, twin=None)


def _on_other_side(one: FaceRing, twin: Body, axis: int) -> FaceRing | None:
    """An outline on the side of a turned form across from where it is: left and right changed over
    (0), front and back (1); None on another body."""
    side = side_of(twin, one.face)
    if not side.turned or abs(side.turned[0].axle[2]) < 0.9:
        return None
    across = 1.0 if axis == 0 else 0.5
    ring = tuple(replace(knot, x=across - knot.x) for knot in one.ring)
    low = min(knot.x for knot in ring)
    ring = tuple(replace(knot, x=knot.x + (1.0 if low < 0 else 0.0)) for knot in ring)
    return replace(one, ring=turned_round(ring), twin=None)


def openings_of(rings: Sequence[FaceRing], body: Body) -> list[Opening]:
    """Those outlines that are cut in, ready to be. Raises VolumeError when a face is gone."""
    planes = {one.face: flat_plane(body, one.face) for one in rings if one.cut}
    return [
        Opening(
            one.face,
            planes[one.face],
            one.on(planes[one.face]),
            None if one.through else one.deep_mm,
        )
        for one in rings
        if one.cut
    ]


def drawn_on_side(one: FaceRing, base: Body) -> tuple[Array, Indices]:
    """An outline on a bent side as arcs (k, 3, 4), and the surface (k,) of the body without
    openings that each lies on."""
    side = side_of(base, one.face)
    return side.carried(one.on(side))


def arcs_on(body: Body, one: FaceRing, base: Body) -> Array:
    """An outline as arcs (k, 3, 4) where its face is there; base: the body the faces are numbered
    on."""
    if one.face < 0:
        return drawn_on_side(one, base)[0]
    plane = flat_plane(base, one.face)
    ring, basis = one.on(plane), np.stack([plane.across, plane.along])
    shifted = Flat(ring.corners + basis @ plane.corner, ring.bulges)
    normal, offset = base.normals[one.face], float(base.offsets[one.face])
    whole = on_plane(np.concatenate(curves_of(shifted)), basis, normal, offset)
    outline = outline_of(body, one.face)
    number, low, high = outline.parts(outline.flat(whole))
    return between(whole[number], low, high)


def with_drawn(body: Body, rings: Sequence[FaceRing], base: Body) -> Body:
    """A body with those outlines that are drawn among its arcs, where its faces are there; base:
    the body the faces are numbered on."""
    arcs, faces, found = [body.arcs], [], list(body.circles)
    count = len(body.arcs)
    for one in rings:
        if one.cut:
            continue
        if one.face < 0:
            made, on_side = drawn_on_side(one, base)
            arcs.append(made)
            faces += (on_side + (body.faces - base.faces)).tolist()
            count += len(made)
            continue
        made = arcs_on(body, one, base)
        if told_shape(one) == "round":
            plane = flat_plane(base, one.face)
            ring, basis = one.on(plane), np.stack([plane.across, plane.along])
            middle = plane.place(*((ring.corners[0] + ring.corners[1]) / 2))
            radius = float(np.linalg.norm(ring.corners[1] - ring.corners[0])) / 2
            found.append(Circle(middle, basis, radius, "mark", count, count + len(made)))
        arcs.append(made)
        faces += [one.face] * len(made)
        count += len(made)
    if len(arcs) == 1:
        return body
    on = np.stack([np.array(faces, dtype=np.intp), np.full(len(faces), -1)], axis=1)
    return replace(
        body,
        arcs=np.concatenate(arcs),
        arc_kinds=np.concatenate([body.arc_kinds, np.full(len(faces), CIRCLE)]),
        arc_faces=np.concatenate([body.arc_faces, on]),
        circles=tuple(found),
    )


def rings_kept(rings: Sequence[FaceRing], before: Body, after: Body) -> tuple[FaceRing, ...]:
    """Outlines on the faces of a body as they lie on what has become of it: in their places where a
    face lies in the same plane, in their shares of the largest one that looks their way otherwise,
    and away where none does."""
    kept = []
    for one in rings:
        if one.face < 0:
            if -1 - one.face < len(set(bent_numbers(after))):
                kept.append(one)
            continue
        if one.face >= before.faces or not after.faces:
            continue
        plane, normal = flat_plane(before, one.face), before.normals[one.face]
        middle = plane.place(*(np.array(plane.extents) / 2))
        face = face_at(after, middle, normal)
        if face >= 0:
            kept.append(replace(one, face=face, ring=_told_on(one, plane, flat_plane(after, face))))
            continue
        if (face := face_like(after, normal)) >= 0:
            kept.append(replace(one, face=face))
    return tuple(kept)


def _told_on(one: FaceRing, plane: FacePlane, other: FacePlane) -> Ring:
    """An outline told in another drawing plane of the same face's plane."""
    if plane.extents == other.extents and np.array_equal(plane.corner, other.corner):
        return one.ring
    wide, high = plane.extents
    shares = [other.shares(plane.place(knot.x * wide, knot.y * high)) for knot in one.ring]
    return tuple(replace(knot, x=x, y=y) for knot, (x, y) in zip(one.ring, shares, strict=True))

"""The body of a volume: of its kind, with what is cut from it, drilled through it, drawn on it."""

from collections.abc import Hashable, Sequence
from dataclasses import replace
from weakref import WeakValueDictionary

import numpy as np

from isometron.framework.bodies.body import CIRCLE, Body, Circle
from isometron.framework.bodies.cuts import Cut, cut_body
from isometron.framework.bodies.edging import Edging, edged
from isometron.framework.bodies.facets import flat_triangles
from isometron.framework.bodies.openings import (
    Tunnel,
    opened,
    solid_of,
    triangles_of,
    trimmed,
    tunnels_of,
)
from isometron.framework.bodies.slicing import Slice, chamfered
from isometron.framework.circles import FaceCircle
from isometron.framework.face_rings import FaceRing, arcs_on, openings_of, with_drawn, with_twins
from isometron.framework.kinds.kind import Kind, Triangles
from isometron.perspective.conics import circle_arcs
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _


def holes_of(circles: tuple[FaceCircle, ...]) -> tuple[FaceCircle, ...]:
    """The circles that are holes right through."""
    return tuple(one for one in circles if one.through)


_BODIES: WeakValueDictionary[Hashable, Body] = WeakValueDictionary()
"""Bodies somebody holds, by what they are made from."""


def bare_body(
    shape: Kind,
    sides: Sides,
    cuts: tuple[Cut, ...],
    holes: tuple[FaceCircle, ...],
    rings: tuple[FaceRing, ...] = (),
    edgings: tuple[Edging, ...] = (),
) -> Body:
    """The body of a kind in a box of the given sides (mm), cut, drilled, edges taken off, and with
    those of its outlines that are openings; nothing drawn on it.

    A kind that cannot be cut keeps what it has. Raises VolumeError for a lean that folds it, an
    outline that crosses itself, a cut that removes everything, a hole or opening that does not fit.
    """
    rings = tuple(one for one in rings if one.cut)
    key = (shape, sides, cuts, holes, rings, edgings)
    body = _BODIES.get(key)
    if body is not None:
        return body
    if rings:
        base = bare_body(shape, sides, cuts, holes, (), edgings)
        tunnels = tunnels_through(base, sides, rings)
        slices = _slices(bare_body(shape, sides, cuts, holes), edgings)
        solid_of(_skin(base, shape, sides, holes, slices), tunnels)
        body = opened(base, tunnels)
    elif edgings:
        body = _edged(bare_body(shape, sides, cuts, holes), edgings)
    else:
        body = _made(shape, sides, cuts, holes)
    _BODIES[key] = body
    return body


def _edged(whole: Body, edgings: tuple[Edging, ...]) -> Body:
    return edged(whole, edgings) if whole.parts else chamfered(whole, edgings)[0]


def _slices(sharp: Body, edgings: tuple[Edging, ...]) -> list[Slice]:
    """What chamfers take off a body that bends; nothing of a flat one, whose faces tell it."""
    return chamfered(sharp, edgings)[1] if edgings and not sharp.parts else []


def tunnels_through(base: Body, sides: Sides, rings: tuple[FaceRing, ...]) -> tuple[Tunnel, ...]:
    """The openings among outlines, twins too, carried through a body without them."""
    return tunnels_of(base, openings_of(with_twins(rings, base, sides), base))


def rings_on(
    body: Body, base: Body, sides: Sides, rings: tuple[FaceRing, ...]
) -> tuple[Array, ...]:
    """The outlines that are only drawn, twins too, each as its arcs (k, 3, 4) where its face is
    there."""
    drawn = [one for one in with_twins(rings, base, sides) if not one.cut]
    return tuple(arcs_on(body, one, base) for one in drawn)


def _skin(
    base: Body,
    shape: Kind,
    sides: Sides,
    holes: tuple[FaceCircle, ...],
    slices: Sequence[Slice],
) -> Triangles:
    found = flat_triangles(base) if base.parts else shape.triangles(sides, holes)
    if found is None:
        raise VolumeError(_("A line in space has no face to open: choose a volume."))
    return trimmed(found, [(one.normal, one.offset) for one in slices]) if slices else found


def skin_of(
    shape: Kind,
    sides: Sides,
    cuts: tuple[Cut, ...],
    circles: tuple[FaceCircle, ...],
    rings: tuple[FaceRing, ...],
    edgings: tuple[Edging, ...],
) -> Triangles | None:
    """The skin of a volume as triangles in own mm, arcs in chords; None for what has no body."""
    holes = holes_of(circles)
    base = bare_body(shape, sides, cuts, holes, (), edgings)
    if not base.parts and shape.triangles(sides, holes) is None:
        return None
    slices = _slices(bare_body(shape, sides, cuts, holes), edgings)
    skin = _skin(base, shape, sides, holes, slices)
    cut = tuple(one for one in rings if one.cut)
    return triangles_of(solid_of(skin, tunnels_through(base, sides, cut))) if cut else skin


def _made(shape: Kind, sides: Sides, cuts: tuple[Cut, ...], holes: tuple[FaceCircle, ...]) -> Body:
    flat = shape.faceted(sides) if cuts else None
    if flat is None:
        return shape.body(sides, holes)
    if holes:
        raise VolumeError(_("A volume with cuts takes no round hole: fill its cuts first."))
    return cut_body(flat, cuts, sides)


def with_outlines(body: Body, base: Body, sides: Sides, rings: tuple[FaceRing, ...]) -> Body:
    """A body with those of its outlines that are only drawn; base: without its openings. Raises
    VolumeError for one on a face that is gone."""
    drawn = tuple(one for one in rings if not one.cut)
    return with_drawn(body, with_twins(drawn, base, sides), base) if drawn else body


def with_circles(
    body: Body, base: Body, shape: Kind, sides: Sides, circles: tuple[FaceCircle, ...]
) -> Body:
    """A body with circles drawn on its faces; base: without its openings. Raises VolumeError for
    one that fits nowhere."""
    drawn = [one for one in circles if not one.through]
    if not drawn:
        return body
    arcs: list[Array] = [body.arcs]
    faces: list[int] = []
    found: list[Circle] = []
    count = len(body.arcs)
    for one in drawn:
        plane, face = shape.face_plane(base, sides, one)
        middle, radius = plane.middle(one), plane.radius_of(one)
        axes = np.stack([plane.across, plane.along])
        for share in one.shares:
            size = share * radius
            made = circle_arcs(middle, size * axes[0], size * axes[1], one.start_deg, one.sweep_deg)
            found.append(Circle(middle, axes, size, "mark", count, count + len(made)))
            arcs.append(made)
            faces += [face] * len(made)
            count += len(made)
    on = np.stack([np.array(faces, dtype=np.intp), np.full(len(faces), -1)], axis=1)
    kinds = np.full(len(faces), CIRCLE)
    return replace(
        body,
        arcs=np.concatenate(arcs),
        arc_kinds=np.concatenate([body.arc_kinds, kinds]),
        arc_faces=np.concatenate([body.arc_faces, on]),
        circles=(*body.circles, *found),
    )


def contents_of(
    shape: Kind,
    sides: Sides,
    cuts: tuple[Cut, ...],
    circles: tuple[FaceCircle, ...],
    rings: tuple[FaceRing, ...],
    edgings: tuple[Edging, ...],
) -> float:
    """True contents, mm³."""
    holes = holes_of(circles)
    opened_up = tuple(one for one in rings if one.cut)
    base = bare_body(shape, sides, cuts, holes, (), edgings)
    flat = (cuts or edgings) and base.parts
    whole = base.contents_of_parts_mm3 if flat else shape.contents_mm3(sides, holes)
    whole -= sum(one.contents_mm3 for one in _slices(bare_body(shape, sides, cuts, holes), edgings))
    return whole - sum(one.contents_mm3 for one in tunnels_through(base, sides, opened_up))

"""The body of a volume: of its kind, with what is cut from it, drilled through it, drawn on it."""

from collections.abc import Hashable
from dataclasses import replace
from weakref import WeakValueDictionary

import numpy as np

from isometron.framework.bodies.body import CIRCLE, Body, Circle
from isometron.framework.bodies.cuts import Cut, cut_body
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.kind import Kind, Sides
from isometron.perspective.conics import circle_arcs
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _


def holes_of(circles: tuple[FaceCircle, ...]) -> tuple[FaceCircle, ...]:
    """The circles that are holes right through."""
    return tuple(one for one in circles if one.through)


_BODIES: WeakValueDictionary[Hashable, Body] = WeakValueDictionary()
"""Bodies somebody holds, by what they are made from."""


def bare_body(
    shape: Kind, sides: Sides, cuts: tuple[Cut, ...], holes: tuple[FaceCircle, ...]
) -> Body:
    """The body of a kind in a box of the given sides (mm), cut and drilled, nothing drawn on it.

    A kind that cannot be cut keeps what it has. Raises VolumeError for a lean that folds it, an
    outline that crosses itself, a cut that removes everything, a hole that does not fit.
    """
    key = (shape, sides, cuts, holes)
    body = _BODIES.get(key)
    if body is None:
        body = _BODIES[key] = _made(shape, sides, cuts, holes)
    return body


def _made(shape: Kind, sides: Sides, cuts: tuple[Cut, ...], holes: tuple[FaceCircle, ...]) -> Body:
    flat = shape.faceted(sides) if cuts else None
    if flat is None:
        return shape.body(sides, holes)
    if holes:
        raise VolumeError(_("A volume with cuts takes no round hole: fill its cuts first."))
    return cut_body(flat, cuts, sides)


def with_circles(body: Body, shape: Kind, sides: Sides, circles: tuple[FaceCircle, ...]) -> Body:
    """A body with circles drawn on its faces. Raises VolumeError for one that fits nowhere."""
    drawn = [one for one in circles if not one.through]
    if not drawn:
        return body
    arcs: list[Array] = [body.arcs]
    faces: list[int] = []
    found: list[Circle] = []
    count = len(body.arcs)
    for one in drawn:
        plane, face = shape.face_plane(body, sides, one)
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
    shape: Kind, sides: Sides, cuts: tuple[Cut, ...], circles: tuple[FaceCircle, ...]
) -> float:
    """True contents, mm³."""
    holes = holes_of(circles)
    if cuts and shape.faceted(sides) is not None:
        return bare_body(shape, sides, cuts, holes).contents_of_parts_mm3
    return shape.contents_mm3(sides, holes)

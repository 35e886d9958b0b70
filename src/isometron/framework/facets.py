"""Round volumes as triangles, for meshes: the only place where a curve becomes chords.

The triangles come from the solids library manifold3d.
"""

import itertools
import math

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies import round_shape
from isometron.framework.extruded import Extruded, flats_of
from isometron.framework.outlines import chorded
from isometron.framework.turned import Segment, Turned, segments_of
from isometron.framework.turned_body import turned_frame
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array

AROUND = 96
"""Chords round a whole turn: they miss the circle by 0.05 % of its radius."""

CURVE_STEPS = 12
"""Chords along a curved piece of a turned form's side."""

Triangles = tuple[Array, NDArray[np.intp]]


def triangles_of(volume: Volume) -> Triangles | None:
    """Vertices (n, 3) world mm and triangles (t, 3) of a round volume; None for a flat one, or for
    a circle in space, which has no body."""
    form = round_shape(volume.shape, volume.sides, volume.circles, bool(volume.cuts))
    if isinstance(form, Turned):
        vertices, triangles = _turned(form, volume.sides)
    elif isinstance(form, Extruded):
        vertices, triangles = _extruded(form, volume.sides)
    else:
        return None
    place, axes = volume.frame
    return np.asarray(vertices @ axes + place), triangles


def _turned(form: Turned, sides: tuple[float, float, float]) -> Triangles:
    from manifold3d import CrossSection

    axle, across, along, base, length, radius = turned_frame(form.axis, sides)
    side = [
        (piece.radius(h), h) for piece in segments_of(form, length, radius) for h in _heights(piece)
    ]
    bore = form.bore * radius
    ring = [*side, (bore, side[-1][1]), (bore, side[0][1])]
    kept = [p for i, p in enumerate(ring) if math.dist(p, ring[i - 1]) > 1e-9 * radius]
    solid = CrossSection([np.array(kept)]).revolve(AROUND)
    own, triangles = _mesh(solid)
    turned = base + own[:, :1] * across + own[:, 1:2] * along + own[:, 2:] * axle
    return turned, triangles


def _heights(piece: Segment) -> list[float]:
    """Heights of the chords of a piece, closer together towards its ends, where it turns most."""
    if piece.straight:
        return [piece.low, piece.high]
    share = (1.0 - np.cos(np.pi * np.arange(CURVE_STEPS + 1) / CURVE_STEPS)) / 2
    return [float(h) for h in piece.low + share * (piece.high - piece.low)]


def _extruded(form: Extruded, sides: tuple[float, float, float]) -> Triangles:
    from manifold3d import CrossSection, FillRule, Manifold, OpType

    first, second = form.cross
    rings = [chorded(ring, 360.0 / AROUND) for ring in flats_of(form, sides)]
    outline = CrossSection(rings, FillRule.EvenOdd)
    breaks = [(share * sides[first], width) for share, width in form.widths]
    parts = []
    spans = list(itertools.pairwise(breaks)) or [((0.0, 1.0), (0.0, 1.0))]
    for (low, begin), (high, end) in spans:
        piece = outline
        if breaks:
            tall = 10 * (sides[second] + 1)
            slab = CrossSection([[(low, -tall), (high, -tall), (high, tall), (low, tall)]])
            piece = outline ^ slab

        def along(
            own: Array, low: float = low, high: float = high, begin: float = begin, end: float = end
        ) -> Array:
            share = (own[:, 0] - low) / (high - low) if high > low else 0.0
            width = begin + (end - begin) * share
            moved = own.copy()
            moved[:, 2] = 0.5 + (own[:, 2] - 0.5) * width
            return moved

        parts.append(piece.extrude(1.0).warp_batch(along))
    solid = Manifold.batch_boolean(parts, OpType.Add) if len(parts) > 1 else parts[0]
    own, triangles = _mesh(solid)
    axes = np.eye(3)
    way = sides[form.axis] * axes[form.axis]
    way = way + form.slant[0] * sides[first] * axes[first]
    way = way + form.slant[1] * sides[second] * axes[second]
    placed = own[:, :1] * axes[first] + own[:, 1:2] * axes[second] + own[:, 2:] * way
    if form.axis == 1:  # across, up and along are then left-handed
        triangles = triangles[:, ::-1]
    return placed, triangles


def _mesh(solid) -> Triangles:  # type: ignore[no-untyped-def]
    mesh = solid.to_mesh64() if hasattr(solid, "to_mesh64") else solid.to_mesh()
    return (
        np.asarray(mesh.vert_properties, dtype=float)[:, :3],
        np.asarray(mesh.tri_verts, dtype=np.intp),
    )

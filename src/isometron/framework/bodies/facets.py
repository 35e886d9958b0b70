"""Bodies as triangles, for meshes: the only place where a curve becomes chords.

The triangles come from the solids library manifold3d.
"""

import itertools
import math
from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body, Segment
from isometron.framework.bodies.extruded import Carried
from isometron.framework.bodies.turned import Axle
from isometron.framework.outlines import chorded
from isometron.nearness import SAME
from isometron.perspective.eye import Array

AROUND = 96
"""Chords round a whole turn: they miss the circle by 0.05 % of its radius."""

CURVE_STEPS = 12
"""Chords along a curved piece of a turned form's side."""

Triangles = tuple[Array, NDArray[np.intp]]


def flat_triangles(body: Body) -> Triangles:
    """The skin of a flat body."""
    triangles = [(ring[0], b, c) for _, ring in body.parts for b, c in itertools.pairwise(ring[1:])]
    return body.vertices, np.array(triangles, dtype=np.intp)


def turned_triangles(axle: Axle, pieces: Sequence[Segment], bore: float) -> Triangles:
    """The skin of a turned form with a bore (mm)."""
    from manifold3d import CrossSection

    side = [(piece.radius(h), h) for piece in pieces for h in _heights(piece)]
    ring = [*side, (bore, side[-1][1]), (bore, side[0][1])]
    kept = [p for i, p in enumerate(ring) if math.dist(p, ring[i - 1]) > SAME * axle.radius]
    own, triangles = _mesh(CrossSection([np.array(kept)]).revolve(AROUND))
    across, along = axle.across
    turned = axle.base + own[:, :1] * across + own[:, 1:2] * along + own[:, 2:] * axle.along
    return turned, triangles


def _heights(piece: Segment) -> list[float]:
    """Heights of the chords of a piece, closer together towards its ends, where it turns most."""
    if piece.straight:
        return [piece.low, piece.high]
    share = (1.0 - np.cos(np.pi * np.arange(CURVE_STEPS + 1) / CURVE_STEPS)) / 2
    return [float(h) for h in piece.low + share * (piece.high - piece.low)]


def carried_triangles(one: Carried) -> Triangles:
    """The skin of an extrusion."""
    from manifold3d import CrossSection, FillRule, Manifold, OpType

    rings = [chorded(ring, 360.0 / AROUND) for ring in one.rings]
    outline = CrossSection(rings, FillRule.EvenOdd)
    breaks = one.ends.breaks.tolist()
    widths = (one.ends.stop - one.ends.begin).tolist()
    stations = list(itertools.pairwise(zip(breaks, widths, strict=True)))
    parts = []
    for (low, first), (high, last) in stations:
        piece = outline
        if len(stations) > 1 or first != 1.0 or last != 1.0:
            tall = 10 * (max(float(np.abs(ring).max()) for ring in rings) + 1)
            slab = CrossSection([[(low, -tall), (high, -tall), (high, tall), (low, tall)]])
            piece = outline ^ slab

        parts.append(piece.extrude(1.0).warp_batch(_widened(low, high, first, last)))
    solid = Manifold.batch_boolean(parts, OpType.Add) if len(parts) > 1 else parts[0]
    own, triangles = _mesh(solid)
    placed = own[:, :1] * one.plane[0] + own[:, 1:2] * one.plane[1] + own[:, 2:] * one.way
    return placed, triangles if one.handed > 0 else triangles[:, ::-1]


def _widened(low: float, high: float, first: float, last: float) -> Callable[[Array], Array]:
    """What sets an extrusion of thickness 1 to a thickness that changes evenly across it."""

    def along(own: Array) -> Array:
        width = first + (last - first) * (own[:, 0] - low) / (high - low)
        moved = own.copy()
        moved[:, 2] = 0.5 + (own[:, 2] - 0.5) * width
        return moved

    return along


def _mesh(solid) -> Triangles:  # type: ignore[no-untyped-def]
    mesh = solid.to_mesh64() if hasattr(solid, "to_mesh64") else solid.to_mesh()
    return (
        np.asarray(mesh.vert_properties, dtype=float)[:, :3],
        np.asarray(mesh.tri_verts, dtype=np.intp),
    )

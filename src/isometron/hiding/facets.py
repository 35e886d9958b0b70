"""The skin of a body in flat pieces: plane faces as they are, arcs in chords that miss them by less
than CHORD of their radius, surfaces that bend in facets as fine."""

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body, Segment, SweptPatch, TurnedPatch, is_straight
from isometron.framework.bodies.face_outlines import outline_of
from isometron.nearness import SAME
from isometron.perspective.conics import points_at
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

CHORD = 5.4e-4
"""Share of its radius by which a chord may miss an arc."""

AROUND = 96
"""Facets round a whole turn: 1 − cos(π / 96) is CHORD."""

FINE = 96
"""Places along a curved side of a turned form between which its facets are chosen."""


def face_polygons(body: Body, face: int) -> Any:
    """A plane face as polygons of its own plane, arcs in chords; openings that touch each other, or
    the rim, are taken out one by one, and a rim that touches itself is parted there."""
    import shapely

    outline = outline_of(body, face)
    rings = [_chords(outline.flat(loop)) for loop in body.loops(face)]
    whole = shapely.Polygon(rings[0], rings[1:])
    if shapely.is_valid(whole):
        return whole
    outer, *inner = (shapely.make_valid(shapely.Polygon(ring)) for ring in rings)
    return shapely.difference(outer, shapely.union_all(inner))


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
        found += _each(turned.surface, _turned_facets(turned))
    for swept in body.surfaces.swept:
        found += _each(swept.surface, _swept_facets(swept))
    return tuple(found)


def _each(surface: int, groups: list[Array]) -> list[tuple[int, Array]]:
    return [(surface, ring) for rings in groups for ring in rings[..., :3]]


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
    """The bent surfaces of a body in flat pieces (n, k, 6) as long as each other, with the number
    of their surface; four corners where these lie in one plane. Rows: a corner, own mm, and the
    direction square to the true surface there, of any length and either way."""
    assert body.surfaces is not None
    found: list[tuple[int, Array]] = []
    for turned in body.surfaces.turned:
        found += [(turned.surface, some) for some in _turned_facets(turned, whole=True)]
    for swept in body.surfaces.swept:
        found += [(swept.surface, some) for some in _swept_facets(swept, whole=True)]
    return tuple(found)


def _turned_facets(one: TurnedPatch, *, whole: bool = False) -> list[Array]:
    across = np.linalg.svd(one.axle[None])[2][1:]
    turn = 2 * math.pi * np.arange(AROUND + 1) / AROUND
    ring = np.stack([np.cos(turn), np.sin(turn)], axis=1) @ across
    rows = [
        np.column_stack(
            [one.place + h * one.axle + one.segment.radius(h) * ring, _square_to(one, h, ring)]
        )
        for h in _heights(one.segment)
    ]
    return _quads(rows, whole=whole)


def _heights(piece: Segment) -> list[float]:
    """Heights between which a side of a turned form turns no more than a facet round it does."""
    if piece.straight:
        return [piece.low, piece.high]
    share = (1.0 - np.cos(np.pi * np.arange(FINE + 1) / FINE)) / 2
    heights = piece.low + share * (piece.high - piece.low)
    radii = [piece.radius(h) for h in heights.tolist()]
    turns = np.arctan2(piece.b / 2 + piece.c * heights, np.array(radii))
    run = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(turns)))])
    count = max(1, math.ceil(run[-1] * AROUND / (2 * math.pi)))
    found: list[float] = np.interp(run[-1] * np.arange(count + 1) / count, run, heights).tolist()
    return found


def _square_to(one: TurnedPatch, height: float, ring: Array) -> Array:
    """(k, 3) directions square to a turned surface at a height, where unit directions (k, 3) lead
    out from its axle: with r² = q they are r·out − q'/2·axle; of a cone, also at its tip, out minus
    the slope of its side."""
    piece = one.segment
    if piece.straight:
        slope = (piece.radius(piece.high) - piece.radius(piece.low)) / (piece.high - piece.low)
        return np.asarray(ring - slope * one.axle)
    rise = piece.b + 2 * piece.c * height
    return np.asarray(piece.radius(height) * ring - rise / 2 * one.axle)


def _swept_facets(one: SweptPatch, *, whole: bool = False) -> list[Array]:
    steps = max(1, math.ceil(abs(one.turn) * AROUND / (2 * math.pi)))
    angles = one.first + one.turn * np.arange(steps + 1) / steps
    feet = one.centre + one.radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    ends = [one.ends.at(float(foot[0])) for foot in feet]
    places = feet @ one.plane
    run = np.stack([-np.sin(angles), np.cos(angles)], axis=1) @ one.plane
    square = np.cross(run, one.way)
    begin, stop = (np.array([end[i] for end in ends])[:, None] for i in (0, 1))
    rows = [np.column_stack([places + share * one.way, square]) for share in (begin, stop)]
    return _quads(rows, whole=whole)


def _quads(rows: Sequence[Array], *, whole: bool) -> list[Array]:
    """For every four neighbours of rows (k, 6) of places and what is square there: two triangles;
    or, as a whole, one ring of four where they lie in one plane. Rings (n, 3 or 4, 6)."""
    grid = np.array(rows)
    low, high = grid[:-1], grid[1:]
    rings = np.stack([low[:, :-1], low[:, 1:], high[:, 1:], high[:, :-1]], axis=2)
    rings = rings.reshape(-1, 4, rings.shape[-1])
    plane = _in_one_plane(rings[..., :3]) if whole else np.zeros(len(rings), dtype=bool)
    bent = rings[~plane]
    triangles = np.stack([bent[:, [0, 1, 2]], bent[:, [0, 2, 3]]], axis=1)
    found = [rings[plane], triangles.reshape(-1, 3, rings.shape[-1])]
    return [some for some in found if len(some)]


def _in_one_plane(rings: Array) -> NDArray[np.bool_]:
    """(n,) whether four places (n, 4, 3), no two the same, lie in one plane."""
    off = rings[:, 1:] - rings[:, :1]
    size = np.abs(off).max(axis=(1, 2))
    apart = np.linalg.norm(rings - np.roll(rings, 1, axis=1), axis=2).min(axis=1)
    solid = np.abs((np.cross(off[:, 0], off[:, 1]) * off[:, 2]).sum(axis=1))
    return np.asarray((apart > SAME * size) & (solid < SAME * size**3))

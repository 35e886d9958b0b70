"""The skin of a body in flat pieces: plane faces as they are, arcs in chords that miss them by less
than CHORD of their radius, surfaces that bend in facets as fine."""

import itertools
import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

import numpy as np

from isometron.framework.bodies.body import Body, SweptPatch, TurnedPatch, is_straight
from isometron.framework.bodies.face_outlines import outline_of
from isometron.perspective.conics import points_at
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

if TYPE_CHECKING:
    pass

CHORD = 5.4e-4
"""Share of its radius by which a chord may miss an arc."""

AROUND = 96
"""Facets round a whole turn: 1 − cos(π / 96) is CHORD."""

ALONG = 12
"""Facets along a curved side of a turned form."""


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

"""What of a line or an arc lies on a face, against plain sampling."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.outlines import parity
from isometron.perspective.conics import circle_arcs, points_at, straight
from tests.kinds import SOLID, volume
from tests.scenes import floats

FACES = [
    (body, face)
    for body in (volume(kind, sides).body for kind, sides in SOLID)
    for face in range(body.faces)
]


def polygon(outline, arcs):
    t = np.linspace(0, 1, 60, endpoint=False)
    return np.concatenate([points_at(np.repeat(arc[None], 60, axis=0), t) for arc in arcs])


def truly_inside(body, face, points):
    """Whether points lie on a face, by its loops in fine chords; and how far from its rim."""
    outline = outline_of(body, face)
    rings = [polygon(outline, outline.flat(loop)) for loop in body.loops(face)]
    inside = np.logical_xor.reduce([parity(ring, points) for ring in rings])
    corners = np.concatenate(rings)
    gap = np.linalg.norm(points[:, None] - corners, axis=2).min(axis=1)
    return inside, gap


@given(st.sampled_from(range(len(FACES))), st.integers(0, 10_000))
def test_a_place_is_inside_just_where_its_fine_polygon_says(number, seed):
    body, face = FACES[number]
    outline = outline_of(body, face)
    ends = outline.arcs[:, 0, :2] / outline.arcs[:, 0, 2:]
    low, high = ends.min(axis=0) - 10, ends.max(axis=0) + 10
    points = np.random.default_rng(seed).uniform(low, high, (40, 2))
    truly, gap = truly_inside(body, face, points)
    sure = gap > 4.0
    assert np.array_equal(outline.inside(points)[sure], truly[sure])


@given(
    st.sampled_from(range(len(FACES))),
    st.integers(0, 10_000),
    floats(5.0, 120.0),
    st.booleans(),
)
def test_parts_on_a_face_are_where_places_of_the_arc_are_inside(number, seed, radius, bent):
    body, face = FACES[number]
    outline = outline_of(body, face)
    ends = outline.arcs[:, 0, :2] / outline.arcs[:, 0, 2:]
    rng = np.random.default_rng(seed)
    a, b = rng.uniform(ends.min(axis=0) - 30, ends.max(axis=0) + 30, (2, 2))
    at, to = (outline.place + p @ outline.across for p in (a, b))
    if bent:
        arcs = circle_arcs(at, radius * outline.across[0], radius * outline.across[1])
    else:
        arcs = straight(at[None], to[None])
    flat = outline.flat(arcs)
    which, low, high = outline.parts(flat)
    t = np.linspace(0.01, 0.99, 37)
    for arc in range(len(flat)):
        points = points_at(np.repeat(flat[arc : arc + 1], len(t), axis=0), t)
        truly, gap = truly_inside(body, face, points)
        mine = which == arc
        told = ((low[mine] <= t[:, None]) & (t[:, None] <= high[mine])).any(axis=1)
        sure = gap > 4.0
        assert np.array_equal(told[sure], truly[sure])


@pytest.mark.parametrize("number", range(0, len(FACES), 5))
def test_the_outline_of_a_face_lies_in_its_plane_and_its_own_rim_is_on_it(number):
    body, face = FACES[number]
    outline = outline_of(body, face)
    back = polygon(outline, outline.arcs) @ outline.across + outline.place
    assert np.abs(back @ body.normals[face] - body.offsets[face]).max() < 1e-9
    middle = np.cross(outline.across[0], outline.across[1])
    assert middle == pytest.approx(body.normals[face])

"""Where bodies pierce each other: every line lies on both skins, and none is missing."""

import itertools

import numpy as np
import pytest

from isometron.framework.figures import figure_of
from isometron.framework.triangles import triangles_of
from isometron.hiding.meeting import meetings_of, pierce
from isometron.perspective.conics import points_at
from tests.kinds import SOLID, name, volume
from tests.scenes import case

PAIRS = [
    pytest.param(pair, marks=() if i % 4 == 0 else pytest.mark.full)
    for i, pair in enumerate(itertools.combinations_with_replacement(SOLID, 2))
]


def crossings(vertices, faces, corners):
    """Where the edges of one mesh pass through the triangles (t, 3, 3) of another (p, 3)."""
    edges = np.unique(np.sort(faces[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2), axis=1), axis=0)
    ends = vertices[edges]
    low, high = corners.min(axis=(0, 1)), corners.max(axis=(0, 1))
    ends = ends[((ends.max(axis=1) > low) & (ends.min(axis=1) < high)).all(axis=1)]
    ends = ends[:: 1 + len(ends) // 400]
    low, high = ends.min(axis=(0, 1)), ends.max(axis=(0, 1))
    corners = corners[((corners.max(axis=1) > low) & (corners.min(axis=1) < high)).all(axis=1)]
    one, two = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    found = [np.empty((0, 3))]
    for some in np.array_split(ends, 1 + len(ends) * len(corners) // 200_000):
        begin, run = some[:, 0], some[:, 1] - some[:, 0]
        across = np.cross(run[:, None], two)
        with np.errstate(all="ignore"):
            f = 1 / (one * across).sum(axis=2)
            s = begin[:, None] - corners[:, 0]
            q = np.cross(s, one)
            u, v = f * (s * across).sum(axis=2), f * (q * run[:, None]).sum(axis=2)
            t = f * (two * q).sum(axis=2)
            hit = (u > 1e-6) & (v > 1e-6) & (u + v < 1 - 1e-6) & (t > 1e-6) & (t < 1 - 1e-6)
        row, triangle = np.nonzero(hit)
        found.append(begin[row] + t[row, triangle][:, None] * run[row])
    return np.concatenate(found)


@pytest.mark.sample(2)
@pytest.mark.parametrize("pair", PAIRS, ids=lambda pair: " and ".join(k.called for k, _ in pair))
def test_lines_lie_on_both_skins_and_none_is_missing(pair):
    (one, sides), (other, others) = pair
    volumes = [
        volume(one, sides, pitch_deg=10.0),
        volume(other, others, x_mm=-20.0, y_mm=2047.0, z_mm=1473.0, yaw_deg=-31.0, roll_deg=24.0),
    ]
    a, b = (figure_of(v) for v in volumes)
    meeting = pierce(a, b, 0, 1)
    t = np.linspace(0, 1, 65)
    lines = meeting.starts[:, None] + t[:, None] * (meeting.ends - meeting.starts)[:, None]
    arcs = points_at(np.repeat(meeting.arcs, 65, axis=0), np.tile(t, len(meeting.arcs)))
    drawn = np.concatenate([lines.reshape(-1, 3), arcs])
    on = np.concatenate([np.repeat(x, 65, axis=0) for x in (meeting.faces, meeting.arc_faces)])
    for figure, surface in ((a, on[:, 0]), (b, on[:, 1])):
        off = drawn @ figure.normals.T - figure.offsets
        plane = surface < figure.body.faces
        numbers = surface[plane]
        assert np.abs(off[plane, numbers]).max(initial=0.0) < 1e-4
        if figure.body.bent:
            forms = figure.body.surfaces.forms[surface[~plane]]
            own = (drawn[~plane] - figure.place) @ figure.axes.T
            place = np.concatenate([own, np.ones((len(own), 1))], axis=1)
            slope = np.einsum("pij,pj->pi", forms, place)
            value = (slope * place).sum(axis=1)
            miss = np.abs(value) / (2 * np.linalg.norm(slope[:, :3], axis=1))
            assert miss.max(initial=0.0) < 2e-3
    meshes = [triangles_of(v) for v in volumes]
    (va, fa), (vb, fb) = meshes
    places = np.concatenate([crossings(va, fa, vb[fb]), crossings(vb, fb, va[fa])])
    assert len(places) > 5 and len(drawn)
    gaps = np.array([np.linalg.norm(drawn - place, axis=1).min() for place in places])
    assert gaps.max() < 4.0, "every place where the meshes cross is near a line"


def test_what_has_not_changed_is_taken_over():
    figures = [figure_of(case(key=i, x_mm=150.0 * i)) for i in range(4)]
    before = meetings_of(figures)
    figures[3] = figure_of(case(key=3, x_mm=470.0))
    after = meetings_of(figures, before, {3})
    assert after.keys() == before.keys() and after[0, 1] is before[0, 1]
    assert after[2, 3] is not before[2, 3] and after[2, 3].there
    assert name(figures[0].body) is None

"""Bodies by the thousand, cut where planes coincide: closed, no face without thickness, Euler, and
their contents by two other ways."""

import itertools
from fractions import Fraction

import numpy as np
import pytest

from isometron.framework.bodies.cuts import Cut
from isometron.framework.bodies.edging import Edging
from isometron.framework.bodies.whole import Whole
from isometron.framework.face_rings import FaceRing
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.outlines import Knot
from isometron.perspective.errors import VolumeError
from tests.kinds import L_PLAN

LEAST = 1e-7
"""No face is thinner than this share of its body's size."""


def thin(body, rings):
    corners = body.vertices[list(rings[0])]
    after = np.roll(corners, -1, axis=0)
    around = np.linalg.norm(after - corners, axis=1).sum()
    return float(np.linalg.norm(np.cross(corners, after).sum(axis=0))) / 2 / around


def assert_sound(body):
    """Closed, flat, with no film and no hair; gives its contents, by its rings alone."""
    size = float(np.ptp(body.vertices, axis=0).max())
    contents, sides = 0.0, {}
    for face, rings in enumerate(body.rings):
        normal = body.normals[face]
        assert abs(np.linalg.norm(normal) - 1) < 1e-9
        assert thin(body, rings) > LEAST * size, (face, rings)
        for ring in rings:
            corners = body.vertices[list(ring)]
            off = corners @ normal - body.offsets[face]
            assert np.abs(off).max() < 1e-7 * size
            area = np.cross(corners, np.roll(corners, -1, axis=0)).sum(axis=0) @ normal / 2
            contents += area * body.offsets[face] / 3
            for one, other in zip(ring, ring[1:] + ring[:1], strict=True):
                sides.setdefault(frozenset((one, other)), []).append(face)
    assert all(len(faces) % 2 == 0 for faces in sides.values())
    ends = body.vertices[body.edges]
    assert np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).min() > LEAST * size
    holes = sum(len(rings) - 1 for rings in body.rings)
    pinched = any(len(every := sum(rings, ())) > len(set(every)) for rings in body.rings)
    assert pinched or (len(body.vertices) - len(sides) + len(body.rings) - holes) % 2 == 0
    return contents


def left_by_cells(sides, cuts):
    """What cuts that lie square leave of a box, by the cells between all of their planes."""
    levels = [
        sorted({Fraction(0), Fraction(1), *(clip(v) for c in cuts for v in (c[0][a], c[1][a]))})
        for a in range(3)
    ]
    left = Fraction(0)
    for cell in itertools.product(*map(itertools.pairwise, levels)):
        middle = [(a + b) / 2 for a, b in cell]
        if not any(
            all(lo < m < hi for lo, m, hi in zip(*c[:1], middle, c[1], strict=True)) for c in cuts
        ):
            left += np.prod([b - a for a, b in cell])
    return float(left) * float(np.prod(sides))


def clip(share):
    return min(max(share, Fraction(0)), Fraction(1))


def some_cuts(rng, sides):
    """Two to four cuts, some sharing sides, at thirds, centimetres, or thirds of them; the shares
    come as a person types them: a length divided by the side."""
    count, cuts = int(rng.integers(2, 5)), []
    for _cut in range(count):
        low, high = [], []
        for side in sides:
            step = (Fraction(side) / 3, Fraction(10), Fraction(10, 3))[int(rng.integers(3))]
            most = max(int(Fraction(side) / step), 1)
            a, b = sorted(rng.integers(-1, most + 2, 2).tolist())
            low.append(a * step / Fraction(side))
            high.append(max(b, a + 1) * step / Fraction(side))
        if cuts and rng.random() < 0.7:  # one side with the cut before
            axis, other = int(rng.integers(3)), cuts[-1]
            low[axis], high[axis] = (other[0][axis], other[1][axis])
            if rng.random() < 0.5:
                low[axis] = (low[axis] + high[axis]) / 2
        cuts.append((low, high))
    return cuts


def rounded(cuts):
    """As numbers of the machine, each off by what typing and dividing make of it."""
    return tuple(
        Cut(tuple(float(v) for v in low), tuple(float(v) for v in high)) for low, high in cuts
    )


def tried(seed):
    rng = np.random.default_rng(seed)
    sides = tuple(
        float(v) for v in rng.integers(3, 60, 3) * (10.0, 10 / 3, 7.3)[int(rng.integers(3))]
    )
    return rng, sides, some_cuts(rng, sides)


def test_cuts_of_a_box_that_share_planes_leave_no_film(many):
    found = 0
    for seed in range(many(60, 4000)):
        _rng, sides, cuts = tried(seed)
        true = left_by_cells(sides, cuts)
        try:
            body = Whole(BLOCK, sides, rounded(cuts)).bare
        except VolumeError:
            assert true < 1e-6 * np.prod(sides)
            continue
        found += 1
        for contents in (assert_sound(body), body.contents_of_parts_mm3):
            assert contents == pytest.approx(true, abs=1e-9 * np.prod(sides)), (seed, sides, cuts)
    assert found > 0.9 * many(60, 4000)


KINDS = (Taper(20, 10, 30, -15), Taper(0, 0, 12, 12), Plan(L_PLAN), BLOCK)
DOOR = (Knot(0.3, 0.3), Knot(0.6, 0.3), Knot(0.6, 0.6), Knot(0.3, 0.6))


@pytest.mark.full
def test_cut_kinds_with_edges_taken_off_and_openings_are_sound(many):
    refused = 0
    for seed in range(many(40, 2000)):
        rng, sides, cuts = tried(10_000 + seed)
        kind = KINDS[seed % len(KINDS)]
        try:
            body = Whole(kind, sides, rounded(cuts[:2])).bare
            assert assert_sound(body) == pytest.approx(body.contents_of_parts_mm3, rel=1e-7)
            edge, mm = int(rng.integers(len(body.edges))), float(rng.integers(1, 6)) * 10 / 3
            edging = Edging(edge, mm, mm, rounded=bool(rng.random() < 0.5))
            edged = Whole(kind, sides, rounded(cuts[:2]), edgings=(edging,)).bare
            assert assert_sound(edged) == pytest.approx(edged.contents_of_parts_mm3, rel=1e-7)
            ring = FaceRing(
                int(rng.integers(len(edged.rings))), DOOR, deep_mm=float(rng.integers(1, 9))
            )
            assert Whole(kind, sides, rounded(cuts[:2]), (), (ring,), (edging,)).bare.faces
        except VolumeError as error:
            assert str(error).endswith(".")
            refused += 1
    assert refused < 0.8 * many(40, 2000)

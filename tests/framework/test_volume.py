import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.framework.box import EDGE_FACES, EDGES, FACE_NORMALS, FACES
from isometron.framework.volume import Volume, corners_of
from isometron.perspective.errors import VolumeError
from tests import exact
from tests.scenes import boxes, case, floats


@given(boxes())
def test_corners_agree_with_fifty_digits(box):
    for corner, world in enumerate(box.corners()):
        reference = [float(v) for v in exact.box_corner(box, corner)]
        assert world == pytest.approx(reference, abs=1e-9)
    assert corners_of((box, box))[1] == pytest.approx(box.corners(), abs=0)


def test_edges_and_faces_make_a_closed_body():
    assert len({tuple(edge) for edge in EDGES.tolist()}) == 12
    for edge, (i, j) in enumerate(EDGES.tolist()):
        assert bin(i ^ j).count("1") == 1
        assert edge // 4 == (i ^ j).bit_length() - 1
        for face in EDGE_FACES[edge]:
            assert {i, j} <= set(FACES[face].tolist())
    corners = Volume("Case", 2.0, 3.0, 5.0).corners()
    for face, normal in zip(FACES, FACE_NORMALS, strict=True):
        ring = corners[face]
        out = ring.mean(axis=0) - corners.mean(axis=0)
        assert (out @ normal) > 0
        assert np.abs((ring - ring[0]) @ normal).max() == 0


@given(boxes(), st.integers(0, 2), floats(1, 1e4), st.integers(0, 7), floats(-180, 180))
def test_a_corner_stays_while_sides_and_turn_change(box, axis, mm, corner, yaw):
    stays = box.corners()[corner]
    resized = box.resized(axis, mm, fixed_corner=corner)
    assert resized.corners()[corner] == pytest.approx(stays, abs=1e-9)
    assert resized.sides[axis] == mm
    turned = box.turned(yaw, fixed_corner=corner)
    assert turned.corners()[corner] == pytest.approx(stays, abs=1e-9)
    assert turned.sides == box.sides


def test_yaw_turns_counter_clockwise_seen_from_above():
    assert Volume("Case", 10, 20, 30, yaw_deg=90.0).corners()[1] == pytest.approx([0, 10, 0])


@pytest.mark.parametrize(
    "change",
    [
        {"width_mm": 0.0},
        {"depth_mm": float("nan")},
        {"height_mm": 2e6},
        {"x_mm": float("inf")},
        {"yaw_deg": float("nan")},
        {"name": ""},
        {"name": "two\nlines"},
        {"name": "x" * 61},
    ],
)
def test_a_box_without_body_place_or_name_is_refused_with_a_sentence(change):
    with pytest.raises(VolumeError, match=r"(choose|keep|give|change).*\."):
        case(**change)

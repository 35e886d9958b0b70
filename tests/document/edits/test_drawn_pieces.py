"""Pieces drawn with a drag lie where the drag shows them, true to the face and to the edge."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from isometron.document.edits.faces import on_faces
from isometron.document.edits.faces.drawn_pieces import divide_across, draw_cut, draw_opening
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.box import EDGES
from isometron.framework.circles import flat_plane
from isometron.framework.face_rings import extent_of
from isometron.perspective.errors import VolumeError
from isometron.perspective.projection import project
from tests.scenes import case, sheet

SHARE = st.floats(0.05, 0.95)


def drawn_of(document, world):
    return [tuple(place) for place in project(document.eye, np.array(world)).sheet.tolist()]


def on_face(document, face, shares):
    """Places of the sheet at which places of a face, in shares of it, are drawn."""
    volume = document.volume
    plane, (place, axes) = flat_plane(volume.unopened, face), volume.pose
    own = [plane.place(s * plane.extents[0], t * plane.extents[1]) for s, t in shares]
    return drawn_of(document, np.array(own) @ axes + place)


@settings(max_examples=12)
@given(SHARE, SHARE, SHARE, SHARE)
def test_an_opening_and_a_cut_have_the_corners_that_the_drag_shows(a, b, c, d):
    document = sheet(case())
    face = on_faces.face_to(document.volume, 2)
    width, _depth, height = document.volume.sides
    if abs(a - c) * width < 2 or abs(b - d) * height < 2:
        return
    start, to = on_face(document, face, [(a, b), (c, d)])
    done = draw_opening(document, start, to, snap=False).document.volume
    low, size = extent_of(done.face_rings[0], flat_plane(done.unopened, face))
    assert low == pytest.approx([min(a, c) * width, min(b, d) * height], abs=1e-6)
    assert size == pytest.approx([abs(a - c) * width, abs(b - d) * height], abs=1e-6)
    cut = draw_cut(document, start, to, snap=False).document.volume
    whole = np.prod(document.volume.sides)
    assert cut.contents_mm3 == pytest.approx(whole * (1 - abs(a - c) * abs(b - d) / 2), rel=1e-9)


@settings(max_examples=24)
@given(SHARE, st.integers(0, 11))
def test_a_drag_across_an_edge_divides_it_where_it_crosses_it(share, edge):
    document = sheet(case())
    world = document.volume.corners()[EDGES[edge]]
    (x, y), a, b = drawn_of(document, [world[0] + share * (world[1] - world[0]), *world])
    along = np.subtract(b, a) / np.hypot(*np.subtract(b, a))
    off = 0.05 * np.array([-along[1], along[0]])
    done = divide_across(document, (x - off[0], y - off[1]), (x + off[0], y + off[1]), snap=False)
    crossed = [mark.shares[0] for mark in done.document.volume.marks]
    assert crossed == [pytest.approx(share, abs=1e-6)] or (edge >= 0 and len(crossed) == 1)


def test_what_is_drawn_near_a_third_is_a_third_and_says_so():
    document = sheet(case())
    face = on_faces.face_to(document.volume, 2)
    start, to = on_face(document, face, [(0.335, 0.26), (0.66, 0.99)])
    done = draw_cut(document, start, to)
    (cut,) = done.document.volume.cuts
    assert (cut.low[0], cut.high[0], cut.low[2]) == pytest.approx((1 / 3, 2 / 3, 1 / 4), abs=1e-9)
    assert cut.high[2] == pytest.approx(1.0, abs=1e-9) and "1/3" in done.words
    assert "12 cm × 13.5 cm" in done.words
    for draw in (draw_opening, draw_cut):
        with pytest.raises(VolumeError, match="Drag further"):
            draw(document, start, start)
        with pytest.raises(VolumeError, match="No flat face"):
            draw(document, (1.0, 1.0), (9.0, 9.0))
    with pytest.raises(VolumeError, match="Drag across"):
        divide_across(document, (1.0, 1.0), (2.0, 2.0))


@pytest.mark.parametrize("face", range(6))
@pytest.mark.parametrize(("left", "up"), [("1/4", "0"), ("0", "1/4"), ("0", "0"), ("2/3", "2/3")])
def test_a_square_opening_may_come_to_the_edge_of_its_face_as_a_door_does(face, left, up):
    document = sheet(case())
    whole, sides = np.prod(document.volume.sides), document.volume.sides
    number = on_faces.face_to(document.volume, face)

    def door(**more):
        wanted = on_faces.Wanted("square", left, up, "1/3", "1/3", **more)
        return on_faces.put_on(document, lambda _volume: number, wanted).volume

    for deep, share in (("through", 1.0), ("1e9 m", 1.0), ("1 cm", 10 / sides[face // 2])):
        one = door(deep=deep)
        assert one.contents_mm3 == pytest.approx(whole * (1 - share / 9), rel=1e-12)
        assert (len(one.cuts), one.face_rings) == (1, ())
        cut = document.with_volume(0, one)
        assert sheet_from_text(sheet_as_text(cut).encode(), "it") == cut
    one, twins = door(deep="1 cm"), door(deep="1 cm", twin=face // 2)
    assert whole - twins.contents_mm3 == pytest.approx(2 * (whole - one.contents_mm3), rel=1e-9)
    assert not door(deep="drawn").cuts, "what is only drawn may lie anywhere on the face"
    with pytest.raises(VolumeError, match="within its face"):
        wanted = on_faces.Wanted("square", "4/5", up, "1/3", "1/3")
        on_faces.put_on(document, lambda _volume: number, wanted)
    with pytest.raises(VolumeError):
        wanted = on_faces.Wanted("square", "0", "0", "1/1", "1/1")
        on_faces.put_on(document, lambda _volume: number, wanted)


@pytest.mark.parametrize("face", range(6))
def test_an_arched_door_on_the_foot_of_a_face_goes_through_and_its_head_is_half_a_circle(face):
    document = sheet(case())
    number = on_faces.face_to(document.volume, face)
    plane = on_faces.drawing_plane(document.volume.unopened, number)
    sides = np.array(document.volume.sides)
    wide, high = 0.25 * plane.extents[0], 0.7 * plane.extents[1]

    def put(deep, up="0", left="1/8", shape="arched"):
        wanted = on_faces.Wanted(shape, left, up, f"{wide} mm", f"{high} mm", deep=deep)
        return on_faces.put_on(document, lambda _volume: number, wanted).volume

    high = max(high, 0.6 * wide)
    done = put("through")
    area = wide * (high - wide / 2) + np.pi * wide**2 / 8
    assert done.contents_mm3 == pytest.approx(sides.prod() - area * sides[face // 2], rel=1e-12)
    middle = plane.place(plane.extents[0] / 8 + wide / 2, high - wide / 2)
    ends = done.bare.arcs[:, [0, 2], :3] / done.bare.arcs[:, [0, 2], 3:]
    off = (ends - middle)[..., [axis for axis in range(3) if axis != face // 2]]
    assert np.linalg.norm(off, axis=-1) == pytest.approx(np.full(off.shape[:2], wide / 2))
    assert put("drawn").face_rings and put("through", up="1/9").face_rings
    with pytest.raises(VolumeError, match="type “through”"):
        put("1 cm")
    with pytest.raises(VolumeError, match="runs out of the side"):
        put("through", left="0")

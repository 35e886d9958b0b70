"""Boxes laid by their face, and where what is laid stands."""

from dataclasses import replace

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.document.edits import viewing
from isometron.document.edits.places import laying
from isometron.document.edits.stances import SQUARE, take_stance
from isometron.drawing.measures import kind_of_sheet
from isometron.drawing.scene import scene_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import eye_level
from isometron.perspective.projection import depths, project
from tests.scenes import bare, case, crowd, eye, sheet

NAMES = ["left", "right", "front", "back", "base", "top"]
BENCH = Volume("Bench", 900.0, 500.0, 700.0, -200.0, 1800.0, 0.0, 10.0, key=5)


@pytest.mark.parametrize("heading", [0.0, 35.0, -120.0])
@pytest.mark.parametrize("way", [1, -1])
def test_a_face_is_drawn_where_it_was_dragged_and_the_box_is_square_to_us(heading, way):
    corners = ((120.0, 60.0), (240.0, 150.0))[::way]
    done = laying.lay_face(bare(eye(heading_deg=heading)), *corners)
    box = done.document.volume
    drawn = project(done.document.eye, box.corners()).sheet
    assert drawn[0] == pytest.approx([120.0, 60.0]) and drawn[5] == pytest.approx([240.0, 150.0])
    assert drawn[1] == pytest.approx([240.0, 60.0]) and box.z_mm == pytest.approx(0.0, abs=1e-9)
    assert kind_of_sheet(done.document) == "one-point"
    assert box.depth_mm == pytest.approx(min(box.width_mm, box.height_mm))
    shown = scene_of(done.document).pictures[0].shown
    told = [n for n, s in zip(NAMES, shown, strict=True) if s]
    assert done.words == f"on the ground, {', '.join(told)} show"


def test_its_depth_is_drawn_towards_the_vanishing_point():
    document = laying.lay_face(bare(), (100.0, 60.0), (200.0, 130.0)).document
    box = replace(document.volume, depth_mm=777.0)
    for front, back in ((0, 2), (1, 3), (4, 6), (5, 7)):
        start, far = project(document.eye, box.corners()).sheet[[front, back]].tolist()
        done = laying.draw_depth(document, tuple(start), tuple(far))
        assert done.document.volume.depth_mm == pytest.approx(777.0)
        assert done.document.volume.place == document.volume.place
        assert done.words.startswith("77.7 cm deep, ")


def test_what_is_laid_stands_on_what_lies_under_its_foot_and_follows_it():
    document = sheet(BENCH)
    middle = BENCH.corners()[4:].mean(axis=0)
    x, y = project(document.eye, middle[None]).sheet[0].tolist()
    for lay in (
        laying.lay_face(document, (x, y), (x + 30.0, y + 20.0)),
        laying.edge_laid(document, (x, y), (x, y + 20.0)),
    ):
        assert lay.words.startswith("on Bench")
        assert lay.document.volume.z_mm == pytest.approx(700.0)
        lower = lay.document.with_volume(0, replace(BENCH, height_mm=450.0))
        assert lower.volumes[1].z_mm == pytest.approx(450.0)
    ground = laying.lay_face(document, (x, y), (x + 30.0, y + 20.0), "ground")
    assert ground.words.startswith("on the ground") and ground.document.volume.z_mm == 0.0


@pytest.mark.parametrize("above", [-0.5, -4.0, 5.0])
def test_near_and_above_the_eye_level_it_floats_beside_what_is_there(above):
    """A foot half a millimetre below the eye level stood hundreds of metres away."""
    document = sheet(case(z_mm=0.0), by=eye())
    level = eye_level(document.eye)
    done = laying.lay_face(document, (60.0, level + above), (120.0, level + 60.0))
    near = float(depths(document.eye, np.array([document.volumes[0].place]))[0])
    foot = float(depths(document.eye, np.array([done.document.volume.place]))[0])
    assert foot == pytest.approx(near) and done.words.startswith("floating")
    assert max(done.document.volume.sides) < 1000.0


def test_what_gives_no_face_is_refused():
    for corners in (((10.0, 10.0), (10.2, 90.0)), ((10.0, 10.0), (10.0, 10.0))):
        with pytest.raises(IsometronError, match="no face"):
            laying.lay_face(bare(), *corners)


def test_three_crates_stand_on_above_and_across_the_eye_level():
    document = take_stance(Document(), SQUARE)
    level = eye_level(document.eye)
    document = laying.lay_face(document, (60.0, level - 110.0), (140.0, level - 50.0)).document
    document = laying.lay_face(document, (180.0, level - 20.0), (250.0, level + 30.0), "").document
    document = laying.lay_face(document, (290.0, level + 20.0), (360.0, level + 70.0)).document
    assert kind_of_sheet(document) == "one-point" and len(document.volumes) == 3
    told = [laying.faces_told(document.eye, volume) for volume in document.volumes]
    assert "top" in told[0] and "base" in told[2]
    assert "top" not in told[1] and "base" not in told[1]


@pytest.mark.parametrize(
    "begun",
    [
        Document(),
        sheet(case()),
        sheet(case(), by=eye(tilt_deg=-20.0)),
        sheet(*crowd(6)),
        viewing.add_from_behind(sheet(case())),
    ],
    ids=["blank", "case", "three-point", "crowd", "page"],
)
def test_a_box_that_is_added_stands_in_the_frame_and_in_nothing_else(begun):
    document = begun
    for _more in range(5):
        document = laying.add_box(document)
        new = len(document.volumes) - 1
        meetings = scene_of(document).meetings
        assert not any(one.there for pair, one in meetings.items() if new in pair)
        frame = viewing.frame_of(document, document.view)
        places = np.array(project(document.eye, document.volumes[new].corners()).sheet)
        low = np.array([frame.left_mm, frame.bottom_mm])
        assert (places >= low - 1e-9).all()
        assert (places <= low + (frame.width_mm, frame.height_mm) + 1e-9).all()

"""Bent bars: their length and contents, their ends, their bends, and what is refused."""

import math

import numpy as np
import pytest

from isometron.document.edits.shapes import bending
from isometron.document.edits.shapes.bending import SHAPES, Section
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.kinds.block import BLOCK
from isometron.perspective.errors import VolumeError
from tests.kinds import volume
from tests.scenes import sheet

TUBE, SLAT = Section(20.0, 20.0, 40.0, True), Section(10.0, 60.0, 30.0, False)


def boxed(**changes):
    return sheet(volume(BLOCK, (420.0, 60.0, 320.0), **changes))


@pytest.mark.parametrize("section", [TUBE, SLAT])
def test_a_handle_holds_its_section_times_the_length_of_its_line(section):
    one = bending.make_bar(boxed(), "handle", section, 1).volume
    legs = 2 * (320.0 - section.thick_mm / 2) + 420.0 - section.thick_mm
    bend = section.bend_mm
    steps = 12  # of 7.5°
    chords = 2 * bend * math.sin(math.radians(3.75)) * steps
    long = legs - 4 * bend + 2 * chords
    area = math.pi * 100.0 if section.round else 600.0
    assert one.contents_mm3 == pytest.approx(area * long, rel=1e-12)
    low, high = one.bare.reach_along(np.array([1.0, 0.0, 0.0]))
    assert high - low == pytest.approx(420.0, abs=0.2 * section.thick_mm)
    ends = [one.bare.middle_of(face) for face in (0, 1)]
    assert ends[0][2] == pytest.approx(0.0, abs=1e-9), "it stands on the base of its box"
    assert ends[1] - ends[0] == pytest.approx([420.0 - section.thick_mm, 0.0, 0.0])
    if section.round:
        assert not one.body.arc_kinds.any() and len(one.body.arcs) == 8, "only its ends are rims"
    else:
        assert one.bare.smooth.sum() == 4 * (steps + 1) * 2


@pytest.mark.parametrize("shape", SHAPES)
def test_its_outline_runs_on_through_its_bends(shape):
    document = bending.make_bar(boxed(), shape, TUBE._replace(bend_mm=22.0), 2)
    (picture,) = scene_of(document).pictures
    arcs = picture.outlines
    ends = np.concatenate([arcs[:, 0], arcs[:, 2]])
    places = ends[:, :3] / ends[:, 3:]
    gaps = np.linalg.norm(places[:, None] - places[None], axis=2)
    np.fill_diagonal(gaps, np.inf)
    loose = (gaps.min(axis=1) > 1e-6).sum()
    assert loose <= 4, "each side begins and ends at the two ends of the bar"


def test_a_line_of_ones_own_is_typed_told_again_and_kept():
    document = bending.bar_through(boxed(), "0 0 0, 30 0 0, 30 20 10", TUBE)
    one = document.volume
    assert one.sides[0] == pytest.approx(300.0 + 10.0)  # flush where it begins, round at its bend
    assert bending.points_in_words(one, "cm") == "0 0 0, 30 0 0, 30 20 10"
    again = sheet_from_text(sheet_as_text(document).encode(), "it")
    assert again.volumes == document.volumes


def test_a_bar_keeps_its_section_when_its_points_are_typed_and_its_line_when_its_section_changes():
    flat = Section(20.0, 40.0, 0.0, False)
    document = bending.make_bar(boxed(), "handle", flat, 1)
    told = bending.points_in_words(document.volume, "cm")
    again = bending.bar_through(document, told, TUBE)
    assert again.volume.shape.thick_mm == 20.0 and not again.volume.shape.round
    lines = [d.volume.shape.places(d.volume.sides) for d in (again, document)]
    told_to = 0.06  # a tenth of a millimetre
    assert np.allclose(*(line - line.min(axis=0) for line in lines), atol=told_to)
    changed = bending.change_section(document, TUBE).volume
    assert changed.shape.round and changed.shape.points == document.volume.shape.points
    assert changed.sides == document.volume.sides
    with pytest.raises(VolumeError, match="Only a bent bar"):
        bending.change_section(boxed(), TUBE)


@pytest.mark.parametrize(
    ("text", "section", "words"),
    [
        ("0 0, 30 0", TUBE, "across, away and up"),
        ("0 0 0", TUBE, "across, away and up"),
        ("0 0 0, 0 0 0", TUBE, "one place"),
        ("0 0 0, 30 0 0, 0 0 0", TUBE, "back on itself"),
        ("0 0 0, 30 0 0, 30 0 3", TUBE, "wider than its legs"),
        ("0 0 0, 30 0 0, 30 0 30", Section(200.0, 200.0, 20.0, True), "folds"),
    ],
)
def test_a_line_that_is_none_is_told_and_changes_nothing(text, section, words):
    document = boxed()
    with pytest.raises(VolumeError, match=words):
        bending.bar_through(document, text, section)
    with pytest.raises(VolumeError, match="thicker"):
        bending.make_bar(document, "handle", TUBE._replace(thick_mm=90.0), 1)
    with pytest.raises(VolumeError, match="up and down"):
        bending.make_bar(document, "wave", TUBE, 0)

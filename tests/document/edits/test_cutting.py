"""Cuts by what is typed: where they go, and that each is changed and taken away again."""

from dataclasses import replace

import pytest

from isometron.document.edits.shapes import cutting
from isometron.perspective.errors import VolumeError
from tests.scenes import sheet

WHOLE = 360.0 * 240.0 * 180.0


def contents(document):
    return document.volume.contents_mm3 / WHOLE


@pytest.mark.parametrize("side", cutting.EDGES_CUT)
@pytest.mark.parametrize("upper", [True, False])
def test_a_step_lies_along_its_edge(side, upper):
    document = cutting.step_cut(sheet(), side, upper=upper, inward=1 / 3, deep=1 / 4)
    assert contents(document) == pytest.approx(1 - 1 / 12)
    corners = {tuple(c) for c in document.volume.bare.vertices.round(6).tolist()}
    gone = [
        (x, y, z)
        for x in (0.0, 360.0) for y in (0.0, 240.0) for z in (0.0, 180.0)
        if (x, y, z) not in corners
    ]  # fmt: skip
    axis, at = {"front": (1, 0.0), "back": (1, 240.0), "left": (0, 0.0), "right": (0, 360.0)}[side]
    assert len(gone) == 2 and all(c[axis] == at and (c[2] == 180.0) == upper for c in gone)
    for wrong in ((0.0, 0.5), (0.5, 1.0), (float("nan"), 0.5)):
        with pytest.raises(VolumeError, match="between 0 and 1"):
            cutting.step_cut(sheet(), side, upper=upper, inward=wrong[0], deep=wrong[1])


SPANS = {
    "1/3 to 2/3": (1 / 3, 2 / 3), "10% 60%": (0.1, 0.6), "3cm to 18cm": (30 / 360, 0.5),
    "0 0.25": (0.0, 2.5 / 360), "all": (0.0, 1.0), "": (0.0, 1.0), "1/2 to 1": (0.5, 1.0),
    "5 to 30": (50 / 360, 300 / 360), "0 to 36": (0.0, 1.0), "2/3 to end": (2 / 3, 1.0),
    "0 to 1": (0.0, 10 / 360), "20% to 1": (0.2, 1.0), "1cm to 36 cm": (10 / 360, 1.0),
    "1 3/8 in to end": (1.375 * 25.4 / 360, 1.0), "3,5 to 12": (35 / 360, 120 / 360),
    "7 7/8in to 1": None,
}  # fmt: skip


@pytest.mark.parametrize("text", SPANS)
def test_a_span_is_read_as_people_write_it_and_written_so_that_it_reads_back(text):
    if SPANS[text] is None:
        with pytest.raises(VolumeError, match="no part"):
            cutting.read_span(text, 360.0, "cm")
        return
    found = cutting.read_span(text, 360.0, "cm")
    assert found == pytest.approx(SPANS[text])
    for unit in ("mm", "cm", "m", "in"):
        again = cutting.read_span(cutting.write_span(*found, 360.0, unit), 360.0, unit)
        shown = 25.4 / 32 if unit == "in" else 0.5  # what a field shows of a length
        assert again == pytest.approx(found, abs=(shown + 1e-6) / 360)


@pytest.mark.parametrize(
    "text",
    [
        "1/2",
        "0.6 0.2",
        "x to y",
        "1 2 3",
        "0.4 0.4",
        "1/0 to 1",
        "35 to 60",
        "-3 to 5",
        "3 to 36.1",
        "nan 1/2",
    ],
)
def test_what_is_no_span_is_refused(text):
    with pytest.raises(VolumeError, match="no part"):
        cutting.read_span(text, 360.0, "cm")


def test_each_cut_is_changed_and_taken_away_again():
    document = cutting.cut_span(sheet(), ("1/4 to 3/4", "all", "1/2 to 1"))
    document = cutting.cut_span(document, ("0 to 1/8", "0 to 1/8", "all"))
    assert contents(document) == pytest.approx(1 - 1 / 4 - 1 / 64)
    assert cutting.cuts_in_words(document.volume, "cm")[0] == "1: 1/4 to 3/4 · all · 1/2 to end"
    changed = cutting.change_cut(document, 0, 2, "3/4 to 1")
    assert contents(changed) == pytest.approx(1 - 1 / 8 - 1 / 64)
    through = cutting.change_cut(changed, 0, 2, "all")
    assert contents(through) == pytest.approx(1 - 1 / 2 - 1 / 64)
    assert contents(cutting.fill_cut(document, 0)) == pytest.approx(1 - 1 / 64)
    with pytest.raises(VolumeError, match="gone"):
        cutting.fill_cut(document, 2)
    with pytest.raises(VolumeError, match="whole volume"):
        cutting.cut_span(document, ("all", "", "all"))
    locked = replace(document, volumes=(replace(document.volume, locked=True),))
    with pytest.raises(VolumeError, match="pinned"):
        cutting.change_cut(locked, 0, 0, "0 to 1/2")

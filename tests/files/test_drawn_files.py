import io
import json
import re
from pathlib import Path
from xml.etree import ElementTree as ET

import numpy as np
import pypdf
import pytest

from isometron.document.edits.sheet_edits import change_sheet, show_fans, show_see_through
from isometron.drawing import layers
from isometron.drawing.scene import scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.files.formats import DRAWING, Asked
from isometron.files.report import report_of
from isometron.files.sheet_file import sample_sheet
from isometron.files.sheet_page import pdf_of, svg_of
from isometron.framework.box import EDGES
from isometron.pages.svg import SVG_NAMESPACE
from isometron.perspective.errors import FileError
from isometron.perspective.sheet import Sheet
from tests import exact
from tests.published import checker
from tests.scenes import bare, case, eye, sheet

MICROMETRE = 1e-3


def strokes(document):
    return {s.layer: s.lines for s in sheet_strokes(document, scene_of(document))}


def svg_lines(content):
    root = ET.fromstring(content)
    drawn = {}
    for layer in root.findall(f"{{{SVG_NAMESPACE}}}g"):
        name = layer.find(f"{{{SVG_NAMESPACE}}}title").text
        rows = [
            [float(line.get(key)) for key in ("x1", "y1", "x2", "y2")]
            for line in layer.findall(f"{{{SVG_NAMESPACE}}}line")
        ]
        drawn[name] = np.array(rows)
    return root, drawn


def test_svg_has_a_named_layer_per_role_in_true_millimetres():
    document = sample_sheet()
    root, drawn = svg_lines(svg_of(document))
    assert (root.get("width"), root.get("height")) == ("420mm", "297mm")
    assert root.get("viewBox") == "0 0 420 297"
    expected = strokes(document)
    assert list(drawn) == [layer.name for layer in expected]
    for layer, lines in expected.items():
        upright = drawn[layer.name] * [1, -1, 1, -1] + [0, 297, 0, 297]
        assert np.abs(upright - lines).max() < MICROMETRE
    assert len({g.get("id") for g in root.iter(f"{{{SVG_NAMESPACE}}}g")}) == len(expected)


def pdf_page(content):
    (page,) = pypdf.PdfReader(io.BytesIO(content)).pages
    data = page.get_contents().get_data().decode()
    rows = re.findall(r"([\d.]+) ([\d.]+) m ([\d.]+) ([\d.]+) l", data)
    return page.mediabox, np.array(rows, dtype=float) * 25.4 / 72


@pytest.mark.parametrize(
    "paper", [Sheet(420.0, 297.0), Sheet(594.0, 841.0), Sheet(215.9, 279.4), Sheet(333.3, 77.7)]
)
def test_pdf_keeps_the_page_and_every_line_true_to_a_micrometre(paper):
    document = change_sheet(sample_sheet(), paper)
    box, lines = pdf_page(pdf_of(document))
    assert float(box.left) == float(box.bottom) == 0
    assert float(box.width) * 25.4 / 72 == pytest.approx(paper.width_mm, abs=MICROMETRE)
    assert float(box.height) * 25.4 / 72 == pytest.approx(paper.height_mm, abs=MICROMETRE)
    expected = np.concatenate(list(strokes(document).values()))
    assert lines.shape == expected.shape
    assert np.abs(lines - expected).max() < MICROMETRE


def test_solid_leaves_hidden_edges_out_and_fans_can_be_left_out():
    document = show_fans(show_see_through(sample_sheet(), False), False)
    assert set(strokes(document)) == {layers.OBJECT, layers.EYE_LEVEL, layers.CENTRE}
    assert set(svg_lines(svg_of(document))[1]) == {"object lines", "eye level", "centre of vision"}


def test_an_empty_sheet_draws_its_eye_level():
    assert set(strokes(bare())) == {layers.EYE_LEVEL, layers.CENTRE}
    assert svg_of(bare()) and pdf_of(bare())


def test_drawing_to_an_unknown_kind_says_which_there_are(tmp_path: Path):
    with pytest.raises(FileError, match=r"\.pdf, \.svg, \.png"):
        DRAWING.write(sample_sheet(), tmp_path / "case.doc", Asked())
    DRAWING.write(sample_sheet(), tmp_path / "case.SVG", Asked())
    assert (tmp_path / "case.SVG").read_bytes().startswith(b"<?xml")


def report(document):
    found = report_of(document)
    text = json.dumps(found, allow_nan=False)
    checker("report")(json.loads(text))
    return json.loads(text)


def test_the_report_tells_what_fifty_digits_tell():
    by = eye(heading_deg=-14.0, tilt_deg=-18.0)
    document = sheet(case(), by=by)
    found = report(document)
    (volume,) = found["volumes"]
    for corner, told in enumerate(volume["corners"]):
        x, y, depth = exact.seen(by, exact.box_corner(document.volume, corner))
        assert told["sheet_mm"] == pytest.approx([float(x), float(y)], abs=1e-9)
        assert told["depth_mm"] == pytest.approx(float(depth), abs=1e-9)
    assert [(e["from"], e["to"]) for e in volume["edges"]] == [tuple(e) for e in EDGES.tolist()]
    for axis, told in enumerate(volume["vanishing_points"][:2]):
        x, y = exact.vanishing(by, exact.level_direction(30 + 90 * axis))
        assert told["sheet_mm"] == pytest.approx([float(x), float(y)], abs=1e-9)
    assert [p["names"] for p in volume["vanishing_points"]] == [["right"], ["left"], ["third"]]
    assert found["cone"]["radius_mm"] == pytest.approx(600 / 3**0.5)
    assert found["eye_level_mm"] == pytest.approx(volume["vanishing_points"][0]["sheet_mm"][1])


def test_the_report_has_nulls_behind_the_eye_and_at_infinity():
    found = report(sheet(case(y_mm=-3000.0, yaw_deg=0.0)))
    (volume,) = found["volumes"]
    assert {c["sheet_mm"] is None for c in volume["corners"]} == {True}
    assert {e["drawn_mm"] is None and e["visible"] == [] for e in volume["edges"]} == {True}
    assert [p["sheet_mm"] is None for p in volume["vanishing_points"]] == [True, False, True]
    at_eye = report(sheet(case(x_mm=0.0, y_mm=0.0, z_mm=1500.0)))["volumes"][0]["corners"]
    assert at_eye[0]["off_axis_deg"] is None
    assert report(sheet(by=eye(tilt_deg=-90.0)))["eye_level_mm"] is None

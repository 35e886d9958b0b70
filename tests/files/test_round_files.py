"""Curves in files: true ones, read back by other readers; outlines brought in from SVG."""

import io
import math

import ezdxf
import numpy as np
import pytest
import svgelements
from pypdf import PdfReader

from isometron.document.document import Document
from isometron.document.edits.shapes import ellipses
from isometron.drawing.curves import cubics, form_of
from isometron.drawing.scene import scene_of
from isometron.files.dxf import dxf_of
from isometron.files.outline import read_outline_file
from isometron.files.report import report_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.files.sheet_page import pdf_of, svg_of
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.loop import Loop
from isometron.framework.outlines import area, chorded, flat
from isometron.framework.volume import Volume
from isometron.perspective.conics import points_at
from isometron.perspective.errors import FileError
from tests.drawing.test_curves import ARCHED, VASE
from tests.scenes import case, eye, seen_by, sheet


def scenery():
    volumes = (
        Volume("Wheel", 620, 200, 620, -300, 2600, 1150, 30, shape=lathe.wheel()),
        Volume("Lamp", 200, 200, 300, 350, 2100, 1300, shape=VASE),
        case(circles=(FaceCircle(5), FaceCircle(2, start_deg=20, sweep_deg=100)), y_mm=2500.0),
        Volume("Body", 300, 100, 200, -700, 2400, 1400, 12, shape=Extruded((ARCHED,), axis=1)),
    )
    return Document(views=seen_by(eye(tilt_deg=-8.0)), volumes=volumes, selected=2)


def sampled(document):
    """Points of every curve drawn as an object line, sheet mm."""
    scene = scene_of(document)
    arcs = np.concatenate([p.curves_drawn("seen") for p in scene.pictures])
    arcs = arcs[[form_of(arc).kind == "ellipse" for arc in arcs]]
    return np.concatenate([points_at(arcs, np.full(len(arcs), t)) for t in np.linspace(0, 1, 9)])


def on_paper(points):
    return points[((points > 0.01) & (points < (419.99, 296.99))).all(axis=1)]


def gaps(points, curve):
    """Distance of each point to a densely sampled curve (n, 2)."""
    return np.array([np.hypot(*(curve - p).T).min() for p in points])


def test_svg_curves_are_elliptical_arcs_on_the_true_picture(tmp_path):
    document = scenery()
    svg = svg_of(document)
    assert b" A " in svg and svg.count(b"<path") < 120
    (tmp_path / "s.svg").write_bytes(svg)
    parsed = svgelements.SVG.parse(str(tmp_path / "s.svg"), ppi=25.4)
    found = []
    for path in parsed.elements():
        if isinstance(path, svgelements.Path) and path.stroke.hex == "#23282b":
            for segment in path:
                if type(segment).__name__ in ("Arc", "QuadraticBezier", "CubicBezier", "Line"):
                    found += [segment.point(t) for t in np.linspace(0, 1, 400)]
    scale = 0.0393701 * 25.4  # what that reader takes a millimetre for
    curve = np.array([(p.x / scale, 297 - p.y / scale) for p in found])
    assert gaps(on_paper(sampled(document))[::5], curve).max() < 0.15


def test_dxf_ellipses_lie_on_the_true_picture():
    document = scenery()
    drawing = ezdxf.read(io.StringIO(dxf_of(document).decode()))
    curves = [
        e
        for e in drawing.modelspace()
        if e.dxf.layer == "object lines" and e.dxftype() == "ELLIPSE"
    ]
    assert len(curves) > 40
    points = np.array([(p.x, p.y) for e in curves for p in e.flattening(1e-4)])
    assert gaps(on_paper(sampled(document))[::5], points).max() < 0.5
    scene = scene_of(document)
    arcs = np.concatenate([p.curves_drawn("seen") for p in scene.pictures])
    fine = np.concatenate([points_at(arcs, np.full(len(arcs), t)) for t in np.linspace(0, 1, 200)])
    assert gaps(points[::25], fine).max() < 0.3


def test_pdf_curves_are_cubics_within_a_ten_thousandth_of_a_millimetre():
    document = scenery()
    content = PdfReader(io.BytesIO(pdf_of(document))).pages[0].get_contents().get_data().split()
    curves = content.count(b"c")
    assert 50 < curves < 1500
    arcs = np.concatenate([p.curves_drawn("seen") for p in scene_of(document).pictures])
    for arc in arcs[::7]:
        form = form_of(arc)
        if form.kind != "ellipse":
            continue
        long, short, centre = (np.array(v) for v in (form.long, form.short, form.centre))
        for a, b, c, d in cubics(arc[None], 1e-4)[0]:
            for t in np.linspace(0, 1, 21):
                s = 1 - t
                away = s**3 * a + 3 * s * s * t * b + 3 * s * t * t * c + t**3 * d - centre
                x, y = away @ long / (long @ long), away @ short / (short @ short)
                assert abs(math.hypot(x, y) - 1) * math.hypot(*short) < 2e-4


def test_round_volumes_are_saved_and_found_again():
    document = scenery()
    document = ellipses.choose_circle(ellipses.set_guides(document, (15.0, 40.0), (20.0,)), 1)
    loop = Volume("Loop", 90, 90, 1, shape=Loop(start_deg=10, sweep_deg=-200, shares=(1.0, 0.5)))
    slanted = Volume(
        "Slant", 90, 90, 40, shape=Extruded((ARCHED,), axis=2, slant=(0.3, -0.1), at=0.5)
    )
    wide = Volume("Wide", 90, 40, 90, shape=Extruded((ARCHED,), widths=((0, 0.5), (1, 1))))
    tube = Volume("Tube", 90, 90, 90, shape=lathe.TUBE, circles=(FaceCircle(1, radius_mm=39.0),))
    grown = document.settled([*document.volumes, loop, slanted, wide, tube])
    assert sheet_from_text(sheet_as_text(grown).encode(), "it") == grown


def test_the_report_tells_every_circle_with_its_ellipse():
    document = scenery()
    rounds = report_of(document)["rounds"]
    assert {r["kind"] for r in rounds} >= {"end", "station", "ring", "mark"}
    for told in rounds:
        ellipse, square = told["ellipse"], np.array(told["square_mm"])
        assert ellipse["semi_minor_mm"] <= ellipse["semi_major_mm"]
        assert ellipse["degree_deg"] == pytest.approx(
            math.degrees(math.asin(ellipse["semi_minor_mm"] / ellipse["semi_major_mm"]))
        )
        turn = math.radians(ellipse["major_axis_deg"])
        away = np.array(told["touching_mm"]) - ellipse["centre_mm"]
        x = away @ [math.cos(turn), math.sin(turn)] / ellipse["semi_major_mm"]
        y = away @ [-math.sin(turn), math.cos(turn)] / ellipse["semi_minor_mm"]
        assert np.hypot(x, y) == pytest.approx(np.ones(4), abs=1e-6) and square.shape == (4, 2)


SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="{0}" height="{1}" viewBox="0 0 200 100">'
    "{2}</svg>"
)
DRAWN = "M10 90 L10 50 C 30 10 80 5 120 20 S 180 40 190 90 L 60 90 A 15 15 0 0 0 30 90 Z"
BODY = f'<path d="{DRAWN}"/><circle cx="100" cy="50" r="10"/>'


def test_an_svg_outline_comes_in_at_its_size_within_its_stated_error(tmp_path):
    file = tmp_path / "body.svg"
    file.write_text(SVG.format("200mm", "100mm", BODY))
    outline, hole = read_outline_file(file)
    assert abs(area(flat(hole, 1, 1))) == pytest.approx(math.pi * 100, rel=1e-3)
    path = svgelements.Path(DRAWN)
    points = np.array([(p.x, -p.y) for p in (path.point(t) for t in np.linspace(0, 1, 300))])
    fine = chorded(flat(outline, 1, 1), 0.2)
    run = np.roll(fine, -1, axis=0) - fine
    for place in points:
        share = np.clip(((place - fine) * run).sum(axis=1) / (run * run).sum(axis=1), 0, 1)
        assert np.hypot(*(fine + share[:, None] * run - place).T).min() < 0.052


PLACED = (
    '<defs><path id="p" d="M0 0h30v20h-30z"/></defs><g transform="translate(20,30) rotate(30)">'
    '<use href="#p" x="5"/></g>',
    '<rect x="3" y="4" width="50" height="40" rx="8"/>',
    '<ellipse cx="40" cy="30" rx="20" ry="9" transform="scale(2,.5) translate(1)"/>',
    '<circle cx="40" cy="30" r="20" transform="matrix(0 -1.5 1.5 0 10 90)"/>',
    '<polygon points="1,2 60 5,40-20" transform="rotate(20 10 10) translate(3)"/>',
    '<path d="m10 30c5-19 20-19 30 0q9 5 0 12t-6 9a25 19 30 0 1-24-6z"/>',
    '<svg x="5" y="6" width="40" height="30" viewBox="0 0 80 90"><path d="M1 1H70V60z"/></svg>',
)


@pytest.mark.parametrize("drawn", PLACED)
@pytest.mark.parametrize("size", [("200mm", "100mm"), ("50cm", "25cm"), (200, 100)])
def test_an_outline_is_where_another_reader_puts_it(tmp_path, drawn, size):
    file = tmp_path / "drawn.svg"
    file.write_text(SVG.format(*size, drawn))
    (ring,) = read_outline_file(file)
    mine = chorded(flat(ring, 1, 1), 0.01)
    read = svgelements.SVG.parse(str(file), ppi=25.4, reify=True)
    shape = next(s for s in read.elements() if isinstance(s, svgelements.Shape))
    inch = 1.0 if size[0] == 200 else 1 / (25.4 * 0.0393701)  # its millimetre is a little short
    box = np.array(shape.bbox()) * inch
    low, high = mine.min(axis=0), mine.max(axis=0)
    assert [low[0], -high[1], high[0], -low[1]] == pytest.approx(box, abs=0.06)


BOMB = "".join(f'<g id="g{i}">' + f'<use href="#g{i + 1}"/>' * 10 + "</g>" for i in range(9))


@pytest.mark.sample(4)
@pytest.mark.parametrize(
    ("content", "words"),
    [
        (
            SVG.format(9, 9, BOMB + '<path id="g9" d="M0 0L1 0L1 1Z"/>'),
            "repeats itself|too many pieces",
        ),
        (SVG.format(9, 9, '<g id="a"><use href="#a"/></g>'), "repeats itself"),
        (SVG.format(9, 9, "<g>" * 5000), "too many elements"),
        (SVG.format(9, 9, '<circle r="4"/>' * 10_000), "closed paths|too many pieces"),
        (SVG.format(9, 9, f'<path d="M0 0{"L1 1L0 2" * 30_000}"/>'), "too many pieces"),
        (SVG.format(9, 9, f'<path d="M0 0{"L1 1L0 2" * 500}"/>'), "bends too often"),
        (SVG.format(9, 9, f'<g transform="{"scale(" * 20_000}"/>'), "no closed path"),
        (SVG.format(9, 9, '<path d="M0 0L1e300 0L1 1Z"/>'), "larger than"),
        (SVG.format(9, 9, '<path d="M0 0 A 1 1"/>'), "damaged"),
        ('<!DOCTYPE svg [<!ENTITY a "b">]><svg/>', "entities"),
        ("<html/>", "no SVG drawing"),
        ("", "no SVG drawing"),
        ("nonsense", "no SVG drawing"),
        (SVG.format(9, 9, ""), "no closed path"),
        (SVG.format(9, 9, '<path d="M0 0 L10 10 L10 0 L0 10 Z"/>'), "crosses itself"),
        (SVG.format(9, 9, '<path d="M0 0 L1 0 L1 1Z M5 5 L6 5 L6 6Z"/>'), "outside"),
    ],
)
def test_a_bad_outline_gets_one_clear_sentence(tmp_path, content, words):
    file = tmp_path / "bad.svg"
    file.write_text(content)
    with pytest.raises(FileError, match=words):
        read_outline_file(file)
    with pytest.raises(FileError, match=r"cannot be read|no file"):
        read_outline_file(tmp_path / "none.svg")


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ('"join": "straight"', '"join": "bent"', "must be"),
        ('"stations": [', '"stations": [[0.0, -0.5],', "A radius of a turned form"),
        ('"axis": 2', '"axis": 3', "must be"),
    ],
)
def test_a_sheet_with_bad_radii_is_refused(old, new, words):
    text = sheet_as_text(sheet(Volume("Lamp", 90, 90, 90, shape=lathe.CONE)))
    with pytest.raises(FileError, match=words):
        sheet_from_text(text.replace(old, new, 1).encode(), "it")

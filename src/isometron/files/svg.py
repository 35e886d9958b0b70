"""SVG: one named layer per role of line, in true millimetres."""

import base64
import math
from xml.etree import ElementTree as ET

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import sent_underlay_of
from isometron.drawing.curves import ArcForm, chained, cubics, form_of
from isometron.drawing.dimension_marks import CAPITALS, Label
from isometron.drawing.page import page_strokes
from isometron.drawing.pencils import GRAPHITE
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import Strokes
from isometron.perspective.eye import Array
from isometron.words import _

SVG_NAMESPACE = "http://www.w3.org/2000/svg"
DIGITS = 6
"""Digits behind the point: a nanometre."""

HYPERBOLA_MM = 1e-5
"""How far a cubic may miss an arc of a hyperbola, which SVG has no word for."""


def svg_of(document: Document, scene: Scene | None = None) -> bytes:
    """The sheet as SVG: one user unit is one millimetre, y downward from the paper's top."""
    sheet = document.sheet
    width, height = _number(sheet.width_mm), _number(sheet.height_mm)
    root = ET.Element(
        "svg",
        {
            "xmlns": SVG_NAMESPACE,
            "width": f"{width}mm",
            "height": f"{height}mm",
            "viewBox": f"0 0 {width} {height}",
        },
    )
    ET.SubElement(root, "title").text = _("Isometron sheet")
    underlay = _underlay(document)
    if underlay is not None:
        root.append(underlay)
    for wash in _washes(document, scene):
        root.append(wash)
    for strokes in page_strokes(document, scene or scene_of(document)):
        root.append(_layer(strokes, sheet.height_mm))
    ET.indent(root, " ")
    content: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return content


def _underlay(document: Document) -> ET.Element | None:
    """The picture under the sheet, when it goes out with it: a layer of its own, cut to the
    paper by the page."""
    laid, picture = sent_underlay_of(document), document.photograph
    if laid is None or picture is None:
        return None
    kind = "png" if picture.file.content.startswith(b"\x89PNG") else "jpeg"
    content = base64.b64encode(picture.file.content).decode()
    high = document.sheet.height_mm
    (ox, oy), (rx, ry), (dx, dy) = (
        laid.on_sheet(place)
        for place in (
            (0.0, float(picture.height)),
            (float(picture.width), float(picture.height)),
            (0.0, 0.0),
        )
    )
    way = (rx - ox, oy - ry, dx - ox, oy - dy, ox, high - oy)
    layer = ET.Element("g", {"id": "picture", "opacity": _number(laid.strength)})
    ET.SubElement(layer, "title").text = "picture"
    ET.SubElement(
        layer,
        "image",
        {
            "width": "1",
            "height": "1",
            "preserveAspectRatio": "none",
            "transform": f"matrix({' '.join(map(_number, way))})",
            "href": f"data:image/{kind};base64,{content}",
        },
    )
    return layer


def _washes(document: Document, scene: Scene | None) -> list[ET.Element]:
    """Values and shadows as areas, a layer for each kind; cut to the paper by the page."""
    if document.light is None:
        return []
    from isometron.drawing.page import page_washes
    from isometron.drawing.shading.outlines import outlines_of

    scene, light = scene or scene_of(document), document.light
    high, layers = document.sheet.height_mm, dict[str, ET.Element]()
    for wash in page_washes(document, scene):
        layer = layers.get(wash.name)
        if layer is None:
            layer = layers[wash.name] = ET.Element(
                "g", {"id": wash.name.replace(" ", "-"), "fill": GRAPHITE, "fill-rule": "evenodd"}
            )
            ET.SubElement(layer, "title").text = wash.name
        path = " ".join(
            f"{_path(ring, high)} Z"
            for polygon in outlines_of(wash.scene, light, wash.area)
            for ring in polygon
        )
        ET.SubElement(layer, "path", {"fill-opacity": _number(wash.cover), "d": path})
    return list(layers.values())


def _layer(strokes: Strokes, sheet_height: float) -> ET.Element:
    pencil = strokes.layer.pencil
    look = {
        "id": strokes.layer.name.replace(" ", "-"),
        "fill": "none",
        "stroke": pencil.colour,
        "stroke-width": str(pencil.width_mm),
        "stroke-linecap": "round",
    }
    if pencil.dash_mm:
        look["stroke-dasharray"] = " ".join(str(mm) for mm in pencil.dash_mm)
        look["stroke-linecap"] = "butt"
    layer = ET.Element("g", look)
    ET.SubElement(layer, "title").text = strokes.layer.name
    for x0, y0, x1, y1 in strokes.lines.tolist():
        ends = {"x1": x0, "y1": sheet_height - y0, "x2": x1, "y2": sheet_height - y1}
        ET.SubElement(layer, "line", {key: _number(mm) for key, mm in ends.items()})
    for run in chained(strokes.arcs):
        ET.SubElement(layer, "path", {"d": _path(run, sheet_height)})
    for label in strokes.labels:
        layer.append(_words(label, pencil.colour, sheet_height))
    return layer


def _words(label: Label, colour: str, sheet_height: float) -> ET.Element:
    foot = label.foot()
    x, y = _number(foot[0]), _number(sheet_height - foot[1])
    words = ET.Element(
        "text",
        {
            "x": x,
            "y": y,
            "transform": f"rotate({_number(-label.angle_deg)} {x} {y})",
            "text-anchor": "middle",
            "font-family": "B612, sans-serif",
            "font-size": _number(label.size_mm / CAPITALS),
            "fill": colour,
            "stroke": "none",
        },
    )
    words.text = label.words
    return words


def _path(run: Array, sheet_height: float) -> str:
    """A run of arcs as path data: ellipses as true elliptical arcs, parabolas as quadratic curves,
    hyperbolas as cubics within HYPERBOLA_MM."""

    def place(at: tuple[float, float]) -> str:
        return f"{_number(at[0])} {_number(sheet_height - at[1])}"

    words: list[str] = []
    for arc in run:
        form = form_of(arc)
        if not words:
            words.append(f"M {place(form.start)}")
        if form.kind == "line":
            words.append(f"L {place(form.end)}")
        elif form.kind == "parabola":
            words.append(f"Q {place(form.control)} {place(form.end)}")
        elif form.kind == "hyperbola":
            for _unused, one, two, end in cubics(arc[None], HYPERBOLA_MM)[0].tolist():
                words.append(f"C {place(one)} {place(two)} {place(end)}")
        else:
            words.append(f"A {_radii(form)} 0 {0 if form.left_turning else 1} {place(form.end)}")
    return " ".join(words)


def _radii(form: ArcForm) -> str:
    (ax, ay), (bx, by) = form.long, form.short
    tilt = math.degrees(math.atan2(-ay, ax))
    return f"{_number(math.hypot(ax, ay))} {_number(math.hypot(bx, by))} {tilt:.9g}"


def _number(mm: float) -> str:
    text = f"{mm:.{DIGITS}f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text

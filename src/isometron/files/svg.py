"""SVG: one named layer per role of line, in true millimetres."""

from xml.etree import ElementTree as ET

from isometron.document.document import Document
from isometron.drawing.pencils import PENCILS
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import Strokes, sheet_strokes

SVG_NAMESPACE = "http://www.w3.org/2000/svg"
DIGITS = 6
"""Digits behind the point: a nanometre."""


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
    ET.SubElement(root, "title").text = "Isometron sheet"
    for strokes in sheet_strokes(document, scene or scene_of(document)):
        root.append(_layer(strokes, sheet.height_mm))
    ET.indent(root, " ")
    content: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return content


def _layer(strokes: Strokes, sheet_height: float) -> ET.Element:
    pencil = PENCILS[strokes.role]
    look = {
        "id": strokes.role.value.replace(" ", "-"),
        "fill": "none",
        "stroke": pencil.colour,
        "stroke-width": str(pencil.width_mm),
        "stroke-linecap": "round",
    }
    if pencil.dash_mm:
        look["stroke-dasharray"] = " ".join(str(mm) for mm in pencil.dash_mm)
        look["stroke-linecap"] = "butt"
    layer = ET.Element("g", look)
    ET.SubElement(layer, "title").text = strokes.role.value
    for x0, y0, x1, y1 in strokes.lines.tolist():
        ends = {"x1": x0, "y1": sheet_height - y0, "x2": x1, "y2": sheet_height - y1}
        ET.SubElement(layer, "line", {key: _number(mm) for key, mm in ends.items()})
    return layer


def _number(mm: float) -> str:
    text = f"{mm:.{DIGITS}f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text

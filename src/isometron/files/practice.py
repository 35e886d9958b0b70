"""Pages of exercises as files, at true size."""

import base64
import io
from collections.abc import Sequence
from typing import Any
from xml.etree import ElementTree as ET

from isometron.drawing.pencils import GRAPHITE
from isometron.files.pdf import POINTS_PER_MM
from isometron.files.svg import SVG_NAMESPACE
from isometron.perspective.errors import FileError
from isometron.practice.drill import HIGH_MM, WIDE_MM, Exercise
from isometron.practice.paper.layout import ON_PAGE, PAGE_MM, Page, pages_of
from isometron.words import _

DIGITS = 6
FAMILY = "B612, sans-serif"


def exercises_svg(exercises: Sequence[Exercise], *, answers: bool = False) -> bytes:
    """One page of exercises as SVG in true millimetres. Raises FileError for more of them."""
    if len(exercises) > ON_PAGE:
        raise FileError(_("An SVG holds one page of two exercises: write more to a PDF."))
    (page,) = pages_of(exercises, answers=answers)
    wide, high = PAGE_MM
    size = {"width": f"{wide:g}mm", "height": f"{high:g}mm", "viewBox": f"0 0 {wide:g} {high:g}"}
    root = ET.Element("svg", {"xmlns": SVG_NAMESPACE, **size})
    ET.SubElement(root, "title").text = " ".join(f"{one.drill} {one.seed}" for one in exercises)
    for content, (left, bottom) in page.photos:
        href = "data:image/png;base64," + base64.b64encode(content).decode()
        box = {"x": left, "y": high - bottom - HIGH_MM, "width": WIDE_MM, "height": HIGH_MM}
        ET.SubElement(root, "image", {"href": href, **{k: f"{v:g}" for k, v in box.items()}})
    for ink in page.inks:
        style = {"stroke": ink.colour, "stroke-width": str(ink.width_mm)}
        group = ET.SubElement(root, "g", style)
        for x0, y0, x1, y1 in ink.lines.tolist():
            ends = {"x1": x0, "y1": high - y0, "x2": x1, "y2": high - y1}
            ET.SubElement(group, "line", {k: f"{v:.{DIGITS}f}" for k, v in ends.items()})
    for x, y, across, up in page.cells.tolist():
        box = {"x": x, "y": high - y - up, "width": across, "height": up}
        ET.SubElement(root, "rect", {k: f"{v:.{DIGITS}f}" for k, v in box.items()})
    for words in page.words:
        (x, y), anchor = words.place, "end" if words.ends else "start"
        style = {"font-size": f"{words.size_mm:g}", "font-family": FAMILY, "text-anchor": anchor}
        text = ET.SubElement(root, "text", {"x": f"{x:g}", "y": f"{high - y:g}", **style})
        text.text = words.text
    ET.indent(root, " ")
    whole: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return whole


def exercises_pdf(exercises: Sequence[Exercise], *, answers: bool = False) -> bytes:
    """Exercises as PDF at 1 : 1, two on a page of A4."""
    from reportlab.pdfgen.canvas import Canvas

    from isometron.files.type_family import register

    register()
    content = io.BytesIO()
    size = (PAGE_MM[0] * POINTS_PER_MM, PAGE_MM[1] * POINTS_PER_MM)
    canvas = Canvas(content, pagesize=size, invariant=1, pageCompression=1)
    canvas.setViewerPreference("PrintScaling", "None")
    for page in pages_of(exercises, answers=answers):
        _print(canvas, page)
        canvas.showPage()
    canvas.save()
    return content.getvalue()


def _print(canvas: Any, page: Page) -> None:
    from reportlab.lib.colors import HexColor
    from reportlab.lib.utils import ImageReader

    for content, (left, bottom) in page.photos:
        box = [mm * POINTS_PER_MM for mm in (left, bottom, WIDE_MM, HIGH_MM)]
        canvas.drawImage(ImageReader(io.BytesIO(content)), *box)
    for ink in page.inks:
        canvas.setStrokeColor(HexColor(ink.colour))
        canvas.setLineWidth(ink.width_mm * POINTS_PER_MM)
        canvas.lines((ink.lines * POINTS_PER_MM).tolist())
    canvas.setFillColor(HexColor("#000000"))
    for box in (page.cells * POINTS_PER_MM).tolist():
        canvas.rect(*box, stroke=0, fill=1)
    canvas.setFillColor(HexColor(GRAPHITE))
    for words in page.words:
        canvas.setFont("B612", words.size_mm * POINTS_PER_MM)
        x, y = (mm * POINTS_PER_MM for mm in words.place)
        (canvas.drawRightString if words.ends else canvas.drawString)(x, y, words.text)

"""The correction sheet: a sketch at 1 : 1, its strokes pale, what is to be redrawn thin in teal."""

import io
import itertools

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import in_work
from isometron.document.picture import ROUND
from isometron.drawing.pencils import TEAL
from isometron.files.pdf import POINTS_PER_MM
from isometron.perspective.errors import FileError
from isometron.reading.sketch.faults import Fault
from isometron.reading.sketch.judging import faults_in
from isometron.words import _

PALE, PALE_MM, THIN_MM, MARK_MM = "#c9c4b6", 0.35, 0.18, 4.0


def corrections_of(document: Document) -> bytes:
    """The corrections of the sketch in work as one PDF page of exactly its size. Raises FileError
    for a picture that is no straightened sheet, or has nothing to correct."""
    from reportlab.lib.colors import HexColor
    from reportlab.pdfgen.canvas import Canvas

    picture = in_work(document)
    if picture.paper_mm is None:
        raise FileError(_("The picture is no straightened sheet: straighten your sheet first."))
    faults = [fault for fault in faults_in(document) if not fault.mended]
    if not faults:
        raise FileError(_("Nothing on this sheet is off by more than a hand's own precision."))
    wide, high = (side * POINTS_PER_MM for side in picture.paper_mm)
    scale = wide / picture.width
    page = io.BytesIO()
    canvas = Canvas(page, pagesize=(wide, high), invariant=1, pageCompression=1)
    canvas.setTitle(_("Corrections"))
    canvas.setCreator("Isometron")
    canvas.setViewerPreference("PrintScaling", "None")
    canvas.setLineCap(1)
    canvas.setStrokeColor(HexColor(PALE))
    canvas.setLineWidth(PALE_MM * POINTS_PER_MM)
    for edge in picture.edges:
        if not edge.left:
            canvas.line(*(v * scale for v in (*edge.start, *edge.end)))
    for rim in picture.rounds:
        ring = (np.array([*rim.points, rim.points[0]]) * scale).tolist()
        for one, two in itertools.pairwise(ring):
            canvas.line(*one, *two)
    canvas.setStrokeColor(HexColor(TEAL))
    canvas.setFillColor(HexColor(TEAL))
    canvas.setLineWidth(THIN_MM * POINTS_PER_MM)
    for number, fault in enumerate(faults, start=1):
        _draw(canvas, number, fault, scale)
    canvas.showPage()
    canvas.save()
    return page.getvalue()


def _draw(canvas, number: int, fault: Fault, scale: float) -> None:  # type: ignore[no-untyped-def]
    """One correction: its line from edge to edge of the paper, and its number."""
    from isometron.files.type_family import register

    register()
    if fault.redraw is not None:
        one, two = ([v * POINTS_PER_MM for v in place] for place in fault.redraw)
        canvas.line(*one, *two)
    x, y = (v * scale for v in fault.at)
    if fault.mark.kind == ROUND:
        canvas.circle(x, y, MARK_MM / 2 * POINTS_PER_MM)
    canvas.setFont("B612", 9)
    canvas.drawString(x + 6, y + 6, str(number))

"""PDF at 1 : 1: the page box and every coordinate true to far less than a micrometre."""

import io
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import sent_underlay_of
from isometron.drawing.curves import begins_run, cubics
from isometron.drawing.dimension_marks import CAPITALS, Label
from isometron.drawing.page import page_strokes
from isometron.drawing.pencils import GRAPHITE
from isometron.drawing.scene import Scene, scene_of
from isometron.framework.bodies.body import is_straight
from isometron.perspective.errors import FileError
from isometron.perspective.eye import Array
from isometron.words import _

POINTS_PER_MM = 72.0 / 25.4

CUBIC_MM = 1e-4
"""PDF has no arcs of ellipses: they are written as cubic curves that miss them by less than this.
"""


def pdf_of(document: Document, scene: Scene | None = None) -> bytes:
    """The sheet as one PDF page of exactly its size, origin at the paper's bottom-left corner."""
    from reportlab.lib.colors import HexColor
    from reportlab.pdfgen.canvas import Canvas

    sheet = document.sheet
    page = io.BytesIO()
    size = (sheet.width_mm * POINTS_PER_MM, sheet.height_mm * POINTS_PER_MM)
    canvas = Canvas(page, pagesize=size, invariant=1, pageCompression=1)
    canvas.setTitle(_("Isometron sheet"))
    canvas.setCreator("Isometron")
    canvas.setViewerPreference("PrintScaling", "None")
    _underlay(canvas, document)
    _washes(canvas, document, scene)
    for strokes in page_strokes(document, scene or scene_of(document)):
        pencil = strokes.layer.pencil
        canvas.setStrokeColor(HexColor(pencil.colour))
        canvas.setLineWidth(pencil.width_mm * POINTS_PER_MM)
        canvas.setLineCap(0 if pencil.dash_mm else 1)
        canvas.setDash([mm * POINTS_PER_MM for mm in pencil.dash_mm])
        canvas.lines((strokes.lines * POINTS_PER_MM).tolist())
        if len(strokes.arcs):
            path = canvas.beginPath()
            curves, number = cubics(strokes.arcs, CUBIC_MM)
            fresh = begins_run(strokes.arcs)[number] & (np.diff(number, prepend=-1) > 0)
            for begins, curve in zip(
                fresh.tolist(), (curves * POINTS_PER_MM).reshape(-1, 8).tolist(), strict=True
            ):
                if begins:
                    path.moveTo(*curve[:2])
                path.curveTo(*curve[2:])
            canvas.drawPath(path)
        if strokes.labels:
            _words(canvas, strokes.labels, HexColor(pencil.colour))
    canvas.showPage()
    canvas.save()
    return page.getvalue()


def _underlay(canvas: Any, document: Document) -> None:
    """The picture under the sheet, when it goes out with it."""
    laid, picture = sent_underlay_of(document), document.photograph
    if laid is None or picture is None:
        return
    image = _image(picture.file.content)
    left, top = (mm * POINTS_PER_MM for mm in laid.on_sheet((0.0, 0.0)))
    side = laid.mm_per_px * POINTS_PER_MM
    canvas.saveState()
    canvas.translate(left, top)
    canvas.rotate(laid.turn_deg)
    canvas.setFillAlpha(laid.strength)
    canvas.drawImage(image, 0, 0, picture.width * side, picture.height * side)
    canvas.restoreState()


def _washes(canvas: Any, document: Document, scene: Scene | None) -> None:
    """Values and shadows as areas, under all lines."""
    if document.light is None:
        return
    from reportlab.lib.colors import HexColor

    from isometron.drawing.page import page_washes
    from isometron.drawing.shading.outlines import outlines_of

    scene = scene or scene_of(document)
    canvas.saveState()
    canvas.setFillColor(HexColor(GRAPHITE))
    for wash in page_washes(document, scene):
        canvas.setFillAlpha(wash.cover)
        path = canvas.beginPath()
        for polygon in outlines_of(wash.scene, document.light, wash.area):
            for ring in polygon:
                _run_round(path, ring)
        canvas.drawPath(path, stroke=0, fill=1, fillMode=0)
    canvas.restoreState()


def _run_round(path: Any, ring: Array) -> None:
    """A closed ring of arcs (n, 3, 3)."""
    curves, number = cubics(ring, CUBIC_MM)
    level = is_straight(ring)[number].tolist()
    path.moveTo(*(curves[0, 0] * POINTS_PER_MM).tolist())
    for flat, curve in zip(level, (curves * POINTS_PER_MM).reshape(-1, 8).tolist(), strict=True):
        if flat:
            path.lineTo(*curve[6:])
        else:
            path.curveTo(*curve[2:])
    path.close()


def _image(content: bytes) -> Any:
    """An encoded picture for a page. Raises FileError for a damaged one."""
    from reportlab.lib.utils import ImageReader

    try:
        image = ImageReader(io.BytesIO(content))
        image.getRGBData()
    except Exception as error:  # whatever a decoder raises for what is no sound picture
        raise FileError(
            _("The picture under the sheet is damaged: let it not go out with the sheet.")
        ) from error
    return image


def _words(canvas: Any, labels: tuple[Label, ...], colour: Any) -> None:
    from isometron.files.type_family import register

    register()
    canvas.setFillColor(colour)
    for label in labels:
        canvas.saveState()
        canvas.translate(*(mm * POINTS_PER_MM for mm in label.foot()))
        canvas.rotate(label.angle_deg)
        canvas.setFont("B612", label.size_mm / CAPITALS * POINTS_PER_MM)
        canvas.drawCentredString(0, 0, label.words)
        canvas.restoreState()

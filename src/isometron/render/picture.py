"""The sheet as a picture (PNG) at a chosen resolution, with or without paper."""

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRectF
from PyQt6.QtGui import QColor, QImage, QPainter

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import sent_underlay_of
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.perspective.errors import FileError
from isometron.perspective.lengths import write_number
from isometron.render.letters import paint_labels
from isometron.render.painter import paint_arcs, paint_lines, painting_on, pen_of
from isometron.render.underlay import paint_underlay
from isometron.render.view import View
from isometron.words import _

PAPER = "#fbf7ec"
MM_PER_INCH = 25.4
MOST_PIXELS = 250_000_000
"""A picture larger than this fills the memory of an ordinary machine."""
DPI_RANGE = (10.0, 2400.0)


def png_of(
    document: Document, scene: Scene | None = None, *, dpi: float = 300.0, paper: bool = True
) -> bytes:
    """The sheet as PNG. Raises FileError for a resolution nobody can store."""
    sheet = document.sheet
    scale = dpi / MM_PER_INCH
    pixels = sheet.width_mm * scale * sheet.height_mm * scale
    if not (DPI_RANGE[0] <= dpi <= DPI_RANGE[1] and pixels <= MOST_PIXELS):
        raise FileError(
            _("{dpi} dots per inch make no picture of this sheet: choose fewer, 300 say.").format(
                dpi=write_number(dpi)
            )
        )
    width, height = round(sheet.width_mm * scale), round(sheet.height_mm * scale)
    form = QImage.Format.Format_ARGB32_Premultiplied
    image = QImage(max(width, 1), max(height, 1), form)
    image.fill(QColor(PAPER) if paper else QColor(0, 0, 0, 0))
    image.setDotsPerMeterX(round(scale * 1000))
    image.setDotsPerMeterY(round(scale * 1000))
    with painting_on(image) as painter:
        paint_sheet(painter, View(scale, 0.0, sheet.height_mm * scale), document, scene)
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if not image.save(buffer, "PNG"):
        raise FileError(_("The picture could not be made: choose fewer dots per inch."))
    return content.data()


def paint_sheet(
    painter: QPainter, view: View, document: Document, scene: Scene | None = None
) -> None:
    """Everything drawn on the paper, at a scale."""
    if sent_underlay_of(document) is not None:
        paint_underlay(painter, view, document)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    if document.light is not None:
        from isometron.drawing.shading.shown import washes_of
        from isometron.render.shading import paint_washes

        painter.save()
        painter.setClipRect(_paper(view, document))
        paint_washes(painter, view, washes_of(document, scene or scene_of(document)))
        painter.restore()
    for strokes in sheet_strokes(document, scene or scene_of(document)):
        pen = pen_of(strokes.layer.pencil, view.scale)
        paint_lines(painter, view, strokes.lines, pen)
        paint_arcs(painter, view, strokes.arcs, pen)
        paint_labels(painter, view, strokes.labels, QColor(strokes.layer.pencil.colour))


def _paper(view: View, document: Document) -> QRectF:
    """The paper at a scale."""
    corner = view.point((0.0, document.sheet.height_mm))
    sheet = document.sheet
    return QRectF(corner.x(), corner.y(), sheet.width_mm * view.scale, sheet.height_mm * view.scale)

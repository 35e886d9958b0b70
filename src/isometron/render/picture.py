"""The sheet as a picture (PNG) at a chosen resolution, with or without paper."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRectF
from PyQt6.QtGui import QColor, QImage, QPainter

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import sent_underlay_of
from isometron.drawing.page import page_strokes
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import Strokes
from isometron.perspective.errors import FileError
from isometron.perspective.lengths import write_number
from isometron.render.letters import paint_labels
from isometron.render.painter import paint_arcs, paint_lines, painting_on, pen_of
from isometron.render.underlay import paint_underlay
from isometron.render.view import View
from isometron.words import _

if TYPE_CHECKING:
    from isometron.drawing.shading.shown import Wash

PAPER = "#fbf7ec"
MM_PER_INCH = 25.4
MOST_PIXELS = 250_000_000
"""A picture larger than this fills the memory of an ordinary machine."""
DPI_RANGE = (10.0, 2400.0)


def png_of(
    document: Document, scene: Scene | None = None, *, dpi: float = 300.0, paper: bool = True
) -> bytes:
    """The sheet as PNG. Raises FileError for a resolution nobody can store."""

    def whole(painter: QPainter, view: View) -> None:
        paint_sheet(painter, view, document, scene)

    return _png(document, dpi, whole, PAPER if paper else None)


def layers_of(document: Document, *, dpi: float = 300.0) -> list[tuple[str, bytes]]:
    """The sheet as named layers, each a PNG of it without paper, the lowest first: paper, picture,
    values and shadows by their kind, then the lines. Raises FileError."""
    found = [(_("paper"), _png(document, dpi, lambda painter, view: None, PAPER))]
    found += [(name, _png(document, dpi, paint)) for name, paint in _parts(document)]
    return found


Paint = Callable[[QPainter, View], None]


def _png(document: Document, dpi: float, paint: Paint, paper: str | None = None) -> bytes:
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
    image.fill(QColor(0, 0, 0, 0) if paper is None else QColor(paper))
    image.setDotsPerMeterX(round(scale * 1000))
    image.setDotsPerMeterY(round(scale * 1000))
    with painting_on(image) as painter:
        paint(painter, View(scale, 0.0, sheet.height_mm * scale))
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
    for _name, paint in _parts(document, scene):
        paint(painter, view)


def _parts(document: Document, scene: Scene | None = None) -> Iterator[tuple[str, Paint]]:
    """Everything on the paper by layers, the lowest first: names, and what paints each."""
    scene = scene or scene_of(document)
    if sent_underlay_of(document) is not None:
        yield _("picture"), lambda painter, view: paint_underlay(painter, view, document)
    if document.light is not None:
        from isometron.drawing.page import page_washes

        by_name: dict[str, list[Wash]] = {}
        for wash in page_washes(document, scene):
            by_name.setdefault(wash.name, []).append(wash)
        for name, some in by_name.items():
            yield name, partial(_washes, document=document, washes=some)
    for strokes in page_strokes(document, scene):
        yield strokes.layer.name, partial(_strokes, strokes=strokes)


def _washes(painter: QPainter, view: View, document: Document, washes: "list[Wash]") -> None:
    """Washes of one kind, cut to the paper."""
    from isometron.render.shading import paint_washes

    painter.save()
    painter.setClipRect(_paper(view, document))
    paint_washes(painter, view, washes)
    painter.restore()


def _strokes(painter: QPainter, view: View, strokes: Strokes) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    pen = pen_of(strokes.layer.pencil, view.scale)
    paint_lines(painter, view, strokes.lines, pen)
    paint_arcs(painter, view, strokes.arcs, pen)
    paint_labels(painter, view, strokes.labels, QColor(strokes.layer.pencil.colour))


def _paper(view: View, document: Document) -> QRectF:
    """The paper at a scale."""
    corner = view.point((0.0, document.sheet.height_mm))
    sheet = document.sheet
    return QRectF(corner.x(), corner.y(), sheet.width_mm * view.scale, sheet.height_mm * view.scale)

"""The sheet as a picture (PNG) at a chosen resolution, with or without paper."""

from collections.abc import Sequence

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, Qt
from PyQt6.QtGui import QColor, QImage, QPainter

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.files.sheet_page import sheet_page
from isometron.pages.page import Item, Layer, Page
from isometron.perspective.errors import FileError
from isometron.perspective.lengths import write_number
from isometron.render.pages import paint, paper_of
from isometron.render.painter import painting_on
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
    page = sheet_page(document, scene)
    return _png(page, page.items, dpi, PAPER if paper else None)


def layers_of(document: Document, *, dpi: float = 300.0) -> list[tuple[str, bytes]]:
    """The sheet as named layers, each a PNG of it without paper, the lowest first: paper, picture,
    values and shadows by their kind, then the lines. Raises FileError."""
    page = sheet_page(document)
    found = [(_("paper"), _png(page, (), dpi, PAPER))]
    return found + [
        (layer.name, _png(page, (layer,), dpi)) for layer in page.items if isinstance(layer, Layer)
    ]


def _png(page: Page, items: Sequence[Item], dpi: float, paper: str | None = None) -> bytes:
    scale = dpi / MM_PER_INCH
    wide, high = (mm * scale for mm in page.size_mm)
    pixels = wide * high
    if not (DPI_RANGE[0] <= dpi <= DPI_RANGE[1] and pixels <= MOST_PIXELS):
        raise FileError(
            _("{dpi} dots per inch make no picture of this sheet: choose fewer, 300 say.").format(
                dpi=write_number(dpi)
            )
        )
    width, height = round(wide), round(high)
    form = QImage.Format.Format_ARGB32_Premultiplied
    image = QImage(max(width, 1), max(height, 1), form)
    image.fill(QColor(0, 0, 0, 0) if paper is None else QColor(paper))
    image.setDotsPerMeterX(round(scale * 1000))
    image.setDotsPerMeterY(round(scale * 1000))
    with painting_on(image) as painter:
        paint_page(painter, View(scale, 0.0, high), page, items)
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if not image.save(buffer, "PNG"):
        raise FileError(_("The picture could not be made: choose fewer dots per inch."))
    return content.data()


def paint_page(painter: QPainter, view: View, page: Page, items: Sequence[Item]) -> None:
    """Items of a page, nothing beyond its paper."""
    painter.save()
    painter.setClipRect(paper_of(page, view), Qt.ClipOperation.IntersectClip)
    paint(painter, view, items)
    painter.restore()

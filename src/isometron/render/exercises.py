"""Pages of exercises on a printer, at true size."""

from collections.abc import Sequence

from PyQt6.QtCore import QLineF, QMarginsF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPageLayout, QPageSize, QPainter, QPen
from PyQt6.QtPrintSupport import QPrinter

from isometron.drawing.pencils import GRAPHITE
from isometron.perspective.errors import FileError
from isometron.practice.drill import HIGH_MM, WIDE_MM
from isometron.practice.paper.layout import PAGE_MM, Page
from isometron.render.painter import painting_on
from isometron.render.typeface import FAMILY
from isometron.words import _


def page_layout() -> QPageLayout:
    """A4, upright, without margins: the page brings its own."""
    size = QPageSize(QPageSize.PageSizeId.A4)
    return QPageLayout(size, QPageLayout.Orientation.Portrait, QMarginsF(0, 0, 0, 0))


def print_pages(pages: Sequence[Page], printer: QPrinter) -> None:
    """Print pages at true size, measured from the corner of the paper. Raises FileError."""
    printer.setFullPage(True)
    with painting_on(printer) as painter:
        if not painter.isActive():
            raise FileError(_("The printer does not answer: choose another one, or write a PDF."))
        for number, page in enumerate(pages):
            if number:
                printer.newPage()
            paint_page(painter, page, printer.resolution() / 25.4)


def paint_page(painter: QPainter, page: Page, px_per_mm: float) -> None:
    """Paint a page, its upper left corner at the origin, so many px a mm."""

    def at(x: float, y: float) -> QPointF:
        return QPointF(x * px_per_mm, (PAGE_MM[1] - y) * px_per_mm)

    for content, (left, bottom) in page.photos:
        box = QRectF(at(left, bottom + HIGH_MM), at(left + WIDE_MM, bottom))
        painter.drawImage(box, QImage.fromData(content))
    for ink in page.inks:
        painter.setPen(QPen(QColor(ink.colour), ink.width_mm * px_per_mm))
        for line in ink.lines.tolist():
            painter.drawLine(QLineF(at(*line[:2]), at(*line[2:])))
    for x, y, wide, high in page.cells.tolist():
        painter.fillRect(QRectF(at(x, y + high), at(x + wide, y)), Qt.GlobalColor.black)
    painter.setPen(QColor(GRAPHITE))
    for words in page.words:
        face = painter.font()
        face.setFamily(FAMILY)
        face.setPixelSize(max(round(words.size_mm * px_per_mm), 1))
        painter.setFont(face)
        place = at(*words.place)
        if words.ends:
            place.setX(place.x() - painter.fontMetrics().horizontalAdvance(words.text))
        painter.drawText(place, words.text)

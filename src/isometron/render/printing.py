"""Pages on a printer at true size; the sheet over several when the printer's paper is smaller."""

import math
from collections.abc import Sequence

from PyQt6.QtCore import QMarginsF, QPointF, QRectF, QSizeF
from PyQt6.QtGui import QColor, QPageLayout, QPageSize, QPainter, QPen
from PyQt6.QtPrintSupport import QPrinter

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.files.sheet_page import sheet_page
from isometron.pages.page import Page
from isometron.perspective.errors import FileError
from isometron.perspective.places import Place
from isometron.render.pages import paint
from isometron.render.painter import painting_on
from isometron.render.picture import paint_page
from isometron.render.view import View
from isometron.words import _

MM_PER_INCH = 25.4
OVERLAP_MM = 10.0
"""Neighbouring pages share this much, to be trimmed and joined at the marks."""

SAME_SIZE_MM = 0.6
"""Page sizes are rounded to whole points, a third of a millimetre each way."""


def layout_of(size_mm: Place) -> QPageLayout:
    """A page of a size without margins: the page brings its own."""
    lying = size_mm[0] > size_mm[1]
    size = QPageSize(QSizeF(*sorted(size_mm)), QPageSize.Unit.Millimeter)
    way = QPageLayout.Orientation.Landscape if lying else QPageLayout.Orientation.Portrait
    return QPageLayout(size, way, QMarginsF())


def print_pages(pages: Sequence[Page], printer: QPrinter) -> None:
    """Print pages at true size, measured from the corner of the paper. Raises FileError."""
    printer.setFullPage(True)
    scale = printer.resolution() / MM_PER_INCH
    with painting_on(printer) as painter:
        if not painter.isActive():
            raise FileError(_("The printer does not answer: choose another one, or write a PDF."))
        for number, page in enumerate(pages):
            if number:
                printer.newPage()
            paint(painter, View(scale, 0.0, page.size_mm[1] * scale), page.items)


def print_sheet(document: Document, scene: Scene, printer: QPrinter) -> int:
    """Print the sheet at true size; gives how many pages it took. Raises FileError."""
    paper = printer.pageLayout().fullRect(QPageLayout.Unit.Millimeter)
    printable = printer.pageLayout().paintRect(QPageLayout.Unit.Millimeter)
    printer.setFullPage(True)
    sheet = document.sheet
    whole = (
        paper.width() >= sheet.width_mm - SAME_SIZE_MM
        and paper.height() >= sheet.height_mm - SAME_SIZE_MM
    )
    part = QRectF(paper) if whole else QRectF(printable)
    columns = 1 if whole else _pages(sheet.width_mm, part.width())
    rows = 1 if whole else _pages(sheet.height_mm, part.height())
    scale = printer.resolution() / MM_PER_INCH
    page = sheet_page(document, scene)
    with painting_on(printer) as painter:
        if not painter.isActive():
            raise FileError(_("The printer does not answer: choose another one, or draw to a PDF."))
        for number in range(columns * rows):
            if number:
                printer.newPage()
            row, column = divmod(number, columns)
            left = part.left() - column * (part.width() - OVERLAP_MM)
            bottom = part.top() + sheet.height_mm - row * (part.height() - OVERLAP_MM)
            painter.setClipRect(
                QRectF(
                    part.left() * scale,
                    part.top() * scale,
                    part.width() * scale,
                    part.height() * scale,
                )
            )
            view = View(scale, left * scale, bottom * scale)
            paint_page(painter, view, page, page.items)
            if not whole:
                _joining_marks(painter, part, scale)
    return columns * rows


def _pages(length_mm: float, part_mm: float) -> int:
    return max(1, math.ceil((length_mm - OVERLAP_MM) / (part_mm - OVERLAP_MM)))


def _joining_marks(painter: QPainter, part: QRectF, scale: float) -> None:
    """Small crosses in the middle of the overlap at the page's four corners."""
    painter.setPen(QPen(QColor("#7d8283"), 0.15 * scale))
    inset = OVERLAP_MM / 2
    for x in (part.left() + inset, part.right() - inset):
        for y in (part.top() + inset, part.bottom() - inset):
            at, arm = QPointF(x, y) * scale, 3.0 * scale
            painter.drawLine(at - QPointF(arm, 0), at + QPointF(arm, 0))
            painter.drawLine(at - QPointF(0, arm), at + QPointF(0, arm))

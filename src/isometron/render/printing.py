"""The sheet on a printer at 1 : 1, over several pages when the printer's paper is smaller."""

import math

from PyQt6.QtCore import QMarginsF, QPointF, QRectF, QSizeF
from PyQt6.QtGui import QColor, QPageLayout, QPageSize, QPainter, QPen
from PyQt6.QtPrintSupport import QPrinter

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.perspective.errors import FileError
from isometron.perspective.sheet import Sheet
from isometron.render.picture import paint_sheet
from isometron.render.view import View
from isometron.words import _

MM_PER_INCH = 25.4
OVERLAP_MM = 10.0
"""Neighbouring pages share this much, to be trimmed and joined at the marks."""

SAME_SIZE_MM = 0.6
"""Page sizes are rounded to whole points, a third of a millimetre each way."""


def page_of(sheet: Sheet) -> QPageLayout:
    """A page of the sheet's own size without margins."""
    size = QPageSize(QSizeF(*sorted((sheet.width_mm, sheet.height_mm))), QPageSize.Unit.Millimeter)
    way = QPageLayout.Orientation.Landscape if sheet.lying else QPageLayout.Orientation.Portrait
    return QPageLayout(size, way, QMarginsF())


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
    painter = QPainter()
    if not painter.begin(printer):
        raise FileError(_("The printer does not answer: choose another one, or draw to a PDF."))
    try:
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
            paint_sheet(painter, view, document, scene)
            if not whole:
                _joining_marks(painter, part, scale)
    finally:
        painter.end()
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

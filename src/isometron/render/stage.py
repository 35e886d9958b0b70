"""A stage of a build order on a QPainter, and as a PNG for layered underlays."""

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QPointF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF

from isometron.construction.stages import KEPT, NEW, OLD, PAST, RUB, Stage
from isometron.document.document import Document
from isometron.render.painter import View

LAYER_DPI = 150.0
MM_PER_INCH = 25.4
LOOKS = {
    PAST: ("#dcd5c3", 0.7),
    OLD: ("#a0967e", 0.9),
    KEPT: ("#6b675c", 1.0),
    RUB: ("#b0571c", 1.0),
    NEW: ("#0f6270", 2.4),
}
"""Colour and width in px of the lines of a stage on the board, by age."""
ON_FELT = {
    PAST: ("#39443f", 0.7),
    OLD: ("#5d6863", 0.9),
    KEPT: ("#7d8984", 1.0),
    RUB: ("#d98b52", 1.0),
    NEW: ("#5fb3c0", 2.4),
}
"""The same beyond the paper, on the felt."""

AGES = (PAST, OLD, KEPT, RUB, NEW)


def paint_stage(
    painter: QPainter, view: View, stage: Stage, width: float = 1.0, *, felt: bool = False
) -> None:
    """The lines of a stage: older ones pale, what is to be rubbed out dashed, new ones bright."""
    looks = ON_FELT if felt else LOOKS
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for age in AGES:
        colour, wide = looks[age]
        pen = QPen(QColor(colour), wide * width)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        if age == RUB:
            pen.setDashPattern([4.0, 4.0])
        painter.setPen(pen)
        for stroke in stage.strokes:
            if stroke.age == age:
                places = [view.point((x, y)) for x, y in stroke.points.tolist()]
                painter.drawPolyline(QPolygonF(places))


def paint_spots(painter: QPainter, view: View, stage: Stage, size: float = 1.0) -> None:
    """The points of a stage with their letters: new ones large."""
    for spot in sorted(stage.spots, key=lambda spot: spot.new):
        at = view.point(spot.place)
        colour = QColor(LOOKS[NEW if spot.new else OLD][0])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        radius = (4.0 if spot.new else 2.0) * size
        painter.drawEllipse(at, radius, radius)
        if spot.label:
            painter.setPen(QColor("#23282b" if spot.new else "#8b7f66"))
            painter.drawText(at + QPointF(6.0, -6.0) * size, spot.label)


def stage_png(document: Document, stage: Stage) -> bytes:
    """The lines of a stage as a PNG of the sheet, without paper."""
    sheet = document.sheet
    scale = LAYER_DPI / MM_PER_INCH
    width, height = round(sheet.width_mm * scale), round(sheet.height_mm * scale)
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(QColor(0, 0, 0, 0))
    painter = QPainter(image)
    paint_stage(painter, View(scale, 0.0, sheet.height_mm * scale), stage, 1.4)
    painter.end()
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return content.data()

"""A stage of a build order on a QPainter, and as a PNG for layered underlays."""

import numpy as np
from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPainterPath, QPen, QRegion

from isometron.construction.labels import label_centres
from isometron.construction.stages import Stage
from isometron.construction.strokes import (
    AGES,
    BROKEN,
    DASHED,
    KEPT,
    LAID,
    NEW,
    OBJECT,
    OLD,
    PAST,
    RUB,
    THIN,
    Stroke,
)
from isometron.document.document import Document
from isometron.render.painter import painting_on
from isometron.render.view import View

LAYER_DPI = 150.0
MM_PER_INCH = 25.4
LOOKS = {
    PAST: ("#dcd5c3", 0.7),
    OLD: ("#a0967e", 0.9),
    LAID: ("#0f6270", 0.9),
    KEPT: ("#55524a", 1.2),
    RUB: ("#c06c34", 0.7),
    THIN: ("#7d8283", 0.8),
    DASHED: ("#7d8283", 0.9),
    OBJECT: ("#23282b", 2.0),
    NEW: ("#0f6270", 2.4),
}
"""Colour and width in px of the lines of a stage on the board, by age."""
ON_FELT = {
    PAST: ("#39443f", 0.7),
    OLD: ("#5d6863", 0.9),
    LAID: ("#5fb3c0", 0.9),
    KEPT: ("#7d8984", 1.0),
    RUB: ("#9c6a45", 0.7),
    THIN: ("#5d6863", 0.8),
    DASHED: ("#5d6863", 0.9),
    OBJECT: ("#a9b3ae", 1.6),
    NEW: ("#5fb3c0", 2.4),
}
"""The same beyond the paper, on the felt."""

INKS = {True: "#23282b", False: "#7d725a"}
FELT_INKS = {True: "#f1ebdc", False: "#8d968f"}
"""Colours of letters of new (True) and older points, on the paper and on the felt."""


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
        if age in BROKEN:
            pen.setDashPattern([4.0, 4.0])
        painter.setPen(pen)
        for stroke in stage.strokes:
            if stroke.age == age:
                painter.drawPath(_path(view, stroke))


def _path(view: View, stroke: Stroke) -> QPainterPath:
    """A stroke on the device."""
    curve = stroke.points if stroke.cubics is None else stroke.cubics.reshape(-1, 2)
    places = [view.point((x, y)) for x, y in curve.tolist()]
    path = QPainterPath(places[0])
    if stroke.cubics is None:
        path.lineTo(places[-1])
    else:
        for i in range(0, len(places), 4):
            path.cubicTo(places[i + 1], places[i + 2], places[i + 3])
    return path


def paint_on_desk(
    painter: QPainter,
    view: View,
    stage: Stage,
    paper: QPainterPath,
    desk: QRectF,
    size: float = 1.0,
) -> None:
    """A stage with its letters on the paper and, in the felt's colours, around it. `size` scales
    lines and points; letters are in the painter's font."""
    on_paper = QRegion(paper.toFillPolygon().toPolygon())
    around = QRegion(desk.toAlignedRect()).subtracted(on_paper)
    for felt, part in ((True, around), (False, on_paper)):
        painter.setClipRegion(part)
        paint_stage(painter, view, stage, size, felt=felt)
        paint_spots(painter, view, stage, desk, size, felt=felt)
    painter.setClipping(False)


def paint_spots(
    painter: QPainter, view: View, stage: Stage, desk: QRectF, size: float = 1.0, *, felt: bool
) -> None:
    """The points of a stage with their letters: new ones large. Letters that would cover each other
    move apart."""
    spots = sorted(stage.spots, key=lambda spot: not spot.new)
    spots = [spot for spot in spots if desk.contains(view.point(spot.place))]
    if not spots:
        return
    metrics = painter.fontMetrics()
    at = [view.point(spot.place) for spot in spots]
    centres = label_centres(
        np.array([(p.x(), -p.y()) for p in at]),
        np.array([(metrics.horizontalAdvance(s.label), metrics.capHeight() + 2) for s in spots]),
        9.0 * size,
        np.array([desk.left(), -desk.bottom(), desk.right(), -desk.top()]),
    )
    looks, inks = (ON_FELT, FELT_INKS) if felt else (LOOKS, INKS)
    for spot, place, (x, y) in reversed(list(zip(spots, at, centres.tolist(), strict=True))):
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(looks[NEW if spot.new else OLD][0]))
        radius = (3.6 if spot.new else 2.0) * size
        painter.drawEllipse(place, radius, radius)
        if spot.label:
            painter.setPen(QColor(inks[spot.new]))
            left = x - metrics.horizontalAdvance(spot.label) / 2
            painter.drawText(QPointF(left, -y + metrics.capHeight() / 2), spot.label)


def stage_png(document: Document, stage: Stage) -> bytes:
    """The lines of a stage as a PNG of the sheet, without paper."""
    sheet = document.sheet
    scale = LAYER_DPI / MM_PER_INCH
    width, height = round(sheet.width_mm * scale), round(sheet.height_mm * scale)
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(QColor(0, 0, 0, 0))
    with painting_on(image) as painter:
        paint_stage(painter, View(scale, 0.0, sheet.height_mm * scale), stage, 1.4)
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return content.data()

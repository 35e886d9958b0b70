"""Strokes on a QPainter. Here, and only here, the sheet's y turns downward."""

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

from isometron.drawing.curves import begins_run, clipped_arcs, cubics
from isometron.drawing.pencils import Pencil
from isometron.drawing.strokes import Rectangle, clipped
from isometron.perspective.eye import Array

Point = tuple[float, float]


@dataclass(frozen=True)
class View:
    """How the sheet lies on a device: device px per mm, and where the paper's bottom-left is."""

    scale: float
    left: float
    bottom: float

    def to_device(self, lines: Array) -> Array:
        """Lines (n, 4) sheet mm as device px."""
        signs = np.array([self.scale, -self.scale, self.scale, -self.scale])
        origin = np.array([self.left, self.bottom, self.left, self.bottom])
        return np.asarray(lines * signs + origin)

    def point(self, sheet_mm: Point) -> QPointF:
        """A place of the sheet on the device."""
        return QPointF(self.left + sheet_mm[0] * self.scale, self.bottom - sheet_mm[1] * self.scale)

    def sheet(self, device: QPointF) -> Point:
        """A place of the device on the sheet, mm."""
        return (device.x() - self.left) / self.scale, (self.bottom - device.y()) / self.scale

    def rectangle(self, sheet_mm: Rectangle) -> QRectF:
        """A rectangle left, bottom, right, top of the sheet on the device."""
        left, bottom, right, top = sheet_mm
        return QRectF(self.point((left, top)), self.point((right, bottom)))


def pen_of(pencil: Pencil, px_per_mm: float, colour: QColor | None = None) -> QPen:
    """A pen for a pencil at a scale, never thinner than the device can show."""
    width = max(pencil.width_mm * px_per_mm, 0.8)
    pen = QPen(colour or QColor(pencil.colour), width)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    if pencil.dash_mm:
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        pen.setDashPattern([mm * px_per_mm / width for mm in pencil.dash_mm])
    return pen


def paint_lines(
    painter: QPainter, view: View, lines: Array, pen: QPen, within: Rectangle | None = None
) -> None:
    """Straight lines (n, 4) sheet mm, cut to a sheet rectangle first so that nothing overflows."""
    if within is not None:
        lines = clipped(lines, within)
    if len(lines):
        painter.setPen(pen)
        painter.drawLines(*[QLineF(*ends) for ends in view.to_device(lines).tolist()])


DEVICE_GAP = 0.1
"""How far, px, a cubic may miss an arc on the device."""


def path_of(view: View, arcs: Array) -> QPainterPath:
    """Sheet arcs (n, 3, 3) as a path on the device."""
    path = QPainterPath()
    curves, number = cubics(arcs, DEVICE_GAP / view.scale)
    fresh = begins_run(arcs)[number] & (np.diff(number, prepend=-1) > 0)
    placed = curves * np.array([view.scale, -view.scale]) + (view.left, view.bottom)
    for begins, curve in zip(fresh.tolist(), placed.reshape(-1, 8).tolist(), strict=True):
        if begins:
            path.moveTo(curve[0], curve[1])
        path.cubicTo(*curve[2:])
    return path


def paint_arcs(
    painter: QPainter, view: View, arcs: Array, pen: QPen, within: Rectangle | None = None
) -> None:
    """Arcs (n, 3, 3) of conics on the sheet, cut to a sheet rectangle first."""
    if within is not None:
        arcs = clipped_arcs(arcs, within)
    if len(arcs):
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path_of(view, arcs))

"""Strokes on a QPainter."""

import contextlib
import math
from collections.abc import Iterator
from typing import Any

import numpy as np
from PyQt6 import sip
from PyQt6.QtCore import QLineF, QRectF, Qt
from PyQt6.QtGui import QColor, QPaintDevice, QPainter, QPainterPath, QPen

from isometron.drawing.curves import begins_run, clipped_arcs, cubics
from isometron.drawing.pencils import Pencil
from isometron.drawing.strokes import clipped
from isometron.perspective.eye import Array
from isometron.perspective.places import Rectangle
from isometron.render.view import View


@contextlib.contextmanager
def painting_on(device: QPaintDevice) -> Iterator[QPainter]:
    """A painter on a device that ends in any case: Qt cannot survive a device that goes away while
    it is being painted on, as it does when an error leaves the function."""
    painter = QPainter(device)
    try:
        yield painter
    finally:
        painter.end()


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
    """Straight lines (n, 4) sheet mm, cut to a sheet rectangle first, or to what the device shows
    and as much around it, so that nothing overflows."""
    lines = clipped(lines, within or _around_device(painter, view))
    if len(lines):
        painter.setPen(pen)
        painter.drawLines(as_qt_lines(view.to_device(lines)))


def _around_device(painter: QPainter, view: View) -> Rectangle:
    """What a device shows and as much again on every side, sheet mm; nothing where the view shows
    nothing that is a number."""
    device = painter.device()
    if device is None or not (math.isfinite(view.scale) and view.scale > 0):
        return 0.0, 0.0, 0.0, 0.0
    wide, high = float(device.width()), float(device.height())
    back, possible = painter.combinedTransform().inverted()
    box = QRectF(-wide, -high, 3 * wide, 3 * high)
    return view.around(back.mapRect(box) if possible else box)


def as_qt_lines(lines: Array) -> Any:
    """Lines (n, 4) in device px as an array of Qt's own, handed over as one piece of memory."""
    made: Any = sip.array(QLineF, len(lines))  # type: ignore[call-arg]
    memory: Any = sip.voidptr(made, lines.size * lines.itemsize)
    np.frombuffer(memory, dtype=np.float64)[:] = lines.reshape(-1)
    return made


DEVICE_GAP = 0.1
"""How far, px, a cubic may miss an arc on the device."""


def path_of(view: View, arcs: Array) -> QPainterPath:
    """Sheet arcs (n, 3, 3) as a path on the device."""
    path = QPainterPath()
    curves, number = cubics(arcs, DEVICE_GAP / view.scale)
    fresh = begins_run(arcs)[number] & (np.diff(number, prepend=-1) > 0)
    placed = view.to_device(curves.reshape(-1, 4)).reshape(-1, 8)
    for begins, curve in zip(fresh.tolist(), placed.tolist(), strict=True):
        if begins:
            path.moveTo(curve[0], curve[1])
        path.cubicTo(*curve[2:])
    return path


def paint_arcs(
    painter: QPainter, view: View, arcs: Array, pen: QPen, within: Rectangle | None = None
) -> None:
    """Arcs (n, 3, 3) of conics on the sheet, cut as `paint_lines` cuts lines."""
    arcs = clipped_arcs(arcs, within or _around_device(painter, view))
    if len(arcs):
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path_of(view, arcs))

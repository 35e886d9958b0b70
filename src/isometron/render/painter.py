"""Strokes on a QPainter."""

import contextlib
from collections.abc import Iterator
from typing import Any

import numpy as np
from PyQt6 import sip
from PyQt6.QtCore import QLineF, Qt
from PyQt6.QtGui import QColor, QPaintDevice, QPainter, QPainterPath, QPen

from isometron.drawing.curves import begins_run, clipped_arcs, cubics
from isometron.drawing.pencils import Pencil
from isometron.drawing.strokes import clipped
from isometron.perspective.eye import Array
from isometron.perspective.sheet import Rectangle
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
    """Straight lines (n, 4) sheet mm, cut to a sheet rectangle first so that nothing overflows."""
    if within is not None:
        lines = clipped(lines, within)
    if len(lines):
        painter.setPen(pen)
        painter.drawLines(as_qt_lines(view.to_device(lines)))


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
    """Arcs (n, 3, 3) of conics on the sheet, cut to a sheet rectangle first."""
    if within is not None:
        arcs = clipped_arcs(arcs, within)
    if len(arcs):
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path_of(view, arcs))

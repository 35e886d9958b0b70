"""Values and shadows on a QPainter."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPolygonF

from isometron.drawing.pencils import GRAPHITE
from isometron.drawing.shading.shown import Wash
from isometron.perspective.eye import Array
from isometron.render.view import View


def paint_washes(painter: QPainter, view: View, washes: Sequence[Wash]) -> None:
    """Areas in their tones."""
    for wash in washes:
        rings = [ring for polygon in wash.area.rings() for ring in polygon]
        fill(painter, view, GRAPHITE, wash.cover, rings)


def fill(
    painter: QPainter, view: View, colour: str, cover: float, polygons: Sequence[Array]
) -> None:
    """Polygons (n, 2) mm in one tone, what lies in an even number of them left free. Edges are not
    smoothed: neighbours would show a seam between them."""
    tone, path = QColor(colour), QPainterPath()
    tone.setAlphaF(cover)
    for ring in polygons:
        path.addPolygon(QPolygonF(view.places(ring)))
        path.closeSubpath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.fillPath(path, tone)
    painter.restore()

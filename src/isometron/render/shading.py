"""Values and shadows on a QPainter."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPolygonF

from isometron.drawing.pencils import GRAPHITE
from isometron.drawing.shading.shown import Wash
from isometron.render.view import View


def paint_washes(painter: QPainter, view: View, washes: Sequence[Wash]) -> None:
    """Areas in their tones. Edges are not smoothed: neighbours would show a seam between them."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setPen(Qt.PenStyle.NoPen)
    for wash in washes:
        tone = QColor(GRAPHITE)
        tone.setAlphaF(wash.cover)
        path = QPainterPath()
        for polygon in wash.area.rings():
            for ring in polygon:
                path.addPolygon(QPolygonF([_point(view, x, y) for x, y in ring.tolist()]))
                path.closeSubpath()
        path.setFillRule(Qt.FillRule.OddEvenFill)
        painter.fillPath(path, tone)
    painter.restore()


def _point(view: View, x: float, y: float) -> QPointF:
    return view.point((x, y))

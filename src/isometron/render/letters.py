"""Words on a QPainter, in the shipped type family."""

import math
from collections.abc import Sequence

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QFont, QPainter

from isometron.drawing.dimension_marks import CAPITALS, Label
from isometron.render.typeface import FAMILY, load_fonts
from isometron.render.view import View

LEAST_PX = 11
"""Words never get smaller than this."""


def paint_labels(painter: QPainter, view: View, labels: Sequence[Label], colour: QColor) -> None:
    """Words on the sheet, in the shipped type family, at the size they have there."""
    load_fonts()
    for label in labels:
        made = QFont(FAMILY)
        made.setPixelSize(max(round(label.size_mm / CAPITALS * view.scale), LEAST_PX))
        painter.save()
        painter.setFont(made)
        painter.setPen(colour)
        high = made.pixelSize() * CAPITALS / view.scale
        painter.translate(view.point(label.foot(high)))
        turn = math.remainder(label.angle_deg + view.turn_deg, 360.0)
        over = abs(turn) > 90.0 + 1e-9  # it would stand on its head
        painter.rotate(-turn + (180.0 if over else 0.0))
        wide = painter.fontMetrics().horizontalAdvance(label.words)
        painter.drawText(QPointF(-wide / 2, high * view.scale if over else 0.0), label.words)
        painter.restore()

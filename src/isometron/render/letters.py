"""Words on a QPainter, in the shipped type family."""

import math
from collections.abc import Iterable, Sequence

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QFont, QPainter

from isometron.drawing.dimension_marks import CAPITALS, Label
from isometron.nearness import SAME
from isometron.pages.page import END, MIDDLE, START, Words, words_of
from isometron.render.typeface import FAMILY, load_fonts
from isometron.render.view import View

LEAST_PX = 11
"""Words never get smaller than this."""

BEFORE = {START: 0.0, MIDDLE: 0.5, END: 1.0}
"""How much of words stands before their place."""


def paint_labels(painter: QPainter, view: View, labels: Sequence[Label], colour: QColor) -> None:
    """Words on the sheet, in the shipped type family, at the size they have there."""
    paint_words(painter, view, (words_of(label, colour.name()) for label in labels))


def paint_words(painter: QPainter, view: View, every: Iterable[Words]) -> None:
    """Words of a page, at the size they have there; none stand on their heads."""
    load_fonts()
    for words in every:
        made = QFont(FAMILY)
        made.setPixelSize(max(round(words.size_mm * view.scale), LEAST_PX))
        made.setBold(words.bold)
        painter.save()
        painter.setFont(made)
        painter.setPen(QColor(words.colour))
        high = made.pixelSize() * CAPITALS / view.scale
        foot = words.place if words.label is None else words.label.foot(high)
        painter.translate(view.point(foot))
        turn = math.remainder(words.angle_deg + view.turn_deg, 360.0)
        over = abs(turn) > 90.0 + SAME  # it would stand on its head
        painter.rotate(-turn + (180.0 if over else 0.0))
        wide = painter.fontMetrics().horizontalAdvance(words.text)
        before = BEFORE[words.stands]
        left = -wide * ((1 - before) if over else before)
        painter.drawText(QPointF(left, high * view.scale if over else 0.0), words.text)
        painter.restore()

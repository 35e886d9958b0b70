"""The desk: felt, the paper on it with its shadow, and rulers along its edges."""

import math
from typing import NamedTuple

from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPixmap

from isometron.nearness import SAME
from isometron.perspective.lengths import RULER_LADDERS, ruler_unit_mm, write_length
from isometron.perspective.places import Rectangle
from isometron.perspective.sheet import Sheet
from isometron.render.painter import painting_on
from isometron.render.view import View
from isometron.ui.parts.theme import PAPER, Room, font

SHADOW_PX = 5
LEAST_TICK_PX, LEAST_LABEL_PX = 4.0, 42.0
"""Divisions of the rulers stand at least this far apart, and their numbers."""


class Surroundings(NamedTuple):
    """What the standing picture depends on besides the scene."""

    view: View
    size: QSize
    ratio: float
    sheet: Sheet
    unit: str
    cone_deg: float
    room: Room

    @property
    def paper(self) -> QPainterPath:
        """The paper as it lies on the board, px."""
        return self.view.outline(self.sheet.paper)

    @property
    def whole(self) -> QRect:
        """All of the board, px."""
        return QRect(QPoint(), self.size)


def board_rectangle(view: View, size: QSize) -> Rectangle:
    """The whole board in sheet mm, with a pen's width to spare."""
    spare = 4.0 / view.scale
    left, bottom, right, top = view.around(QRectF(0, 0, size.width(), size.height()))
    return left - spare, bottom - spare, right + spare, top + spare


def blank(around: Surroundings) -> QPixmap:
    """A picture of the board's size."""
    made = QPixmap(around.size * around.ratio)
    made.setDevicePixelRatio(around.ratio)
    return made


class Desk:
    """The ready picture of a desk."""

    def __init__(self) -> None:
        self._around: Surroundings | None = None
        self._picture = QPixmap()

    def picture(self, around: Surroundings) -> QPixmap:
        """The picture of a desk in its surroundings."""
        if around != self._around:
            self._picture = blank(around)
            with painting_on(self._picture) as painter:
                paint_desk(painter, around)
            self._around = around
        return self._picture


def paint_desk(painter: QPainter, around: Surroundings) -> None:
    """Felt, shadow, paper and rulers."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paper = around.paper
    painter.fillRect(around.whole, QColor(around.room.felt))
    painter.fillPath(paper.translated(SHADOW_PX, SHADOW_PX), QColor(around.room.card_shade))
    painter.fillPath(paper, QColor(PAPER))
    _paint_rulers(painter, around)


def _paint_rulers(painter: QPainter, around: Surroundings) -> None:
    """Measures along the lower and left paper edges, counted from the corner."""
    step, parts, labelled = _ruler_steps(around.unit, around.view.scale)
    painter.setFont(font())
    painter.setPen(QPen(QColor(around.room.felt_soft), 1.0))
    for along, reach in ((True, around.sheet.width_mm), (False, around.sheet.height_mm)):
        for i in range(math.floor(reach / step + SAME) + 1):
            long = i % labelled == 0
            tick = 9.0 if long else (6.0 if i % parts == 0 else 3.5)
            label = write_length(i * step, around.unit, with_unit=i == 0) if long else ""
            _paint_tick(painter, around.view, i * step, tick, label, along=along)


def _paint_tick(
    painter: QPainter, view: View, at: float, tick: float, label: str, *, along: bool
) -> None:
    """One division, `at` mm from the paper's lower left corner; its number stays upright."""
    along_px = view.level
    down = QPointF(-along_px.y(), along_px.x())
    outward = down if along else -along_px
    start = view.point((at, 0.0) if along else (0.0, at)) + outward
    painter.drawLine(start, start + tick * outward)
    if label and (along or at):
        away = 18.0 if along else 12.0 + painter.fontMetrics().horizontalAdvance(label) / 2
        middle = start + away * outward
        box = QRectF(middle.x() - 30, middle.y() - 9, 60, 18)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, label)


def _ruler_steps(unit: str, scale: float) -> tuple[float, int, int]:
    """Smallest division in mm, divisions per middle tick, divisions per label, for a scale."""
    unit_mm, ladders = ruler_unit_mm(unit), RULER_LADDERS["in" if unit == "in" else "cm"]
    for step, parts, labelled in ladders:
        px = step * unit_mm * scale
        if px >= LEAST_TICK_PX and px * labelled >= LEAST_LABEL_PX:
            return step * unit_mm, parts, labelled
    step, parts, labelled = ladders[-1]
    return step * unit_mm, parts, labelled

"""What stands on the board between edits: desk, paper, rulers and every volume's lines.

Kept as a ready picture. When an edit changes some volumes only, just the places they leave and
take are painted again; everything else is copied.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPixmap, QRegion

from isometron.drawing.curves import outside_arcs
from isometron.drawing.pencils import OXBLOOD, PENCILS
from isometron.drawing.scene import Scene, VolumePicture
from isometron.drawing.strokes import (
    Rectangle,
    eye_level_line,
    outside,
    standing_curves,
    standing_lines,
)
from isometron.hiding.cuts import overlapping_pairs
from isometron.perspective.cone import cone_radius
from isometron.perspective.conics import bounds_of
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.lengths import MM_PER, write_angle, write_length
from isometron.perspective.sheet import Sheet
from isometron.render.painter import View, paint_arcs, paint_lines, pen_of
from isometron.ui.parts.theme import FELT_OBJECT, FELT_PENCILS, PAPER, Room, font

SCREEN_PX_PER_MM = 3.6
"""Pens on the board keep the width they have at this scale, so that any zoom stays legible."""

LABEL_PX = 20.0
"""Nearer than this to the paper's upper edge the eye level is labelled below its line."""

PAD_PX = 3.0
SHADOW_PX = 5


@dataclass(frozen=True)
class Surroundings:
    """What the standing picture depends on besides the scene."""

    view: View
    size: QSize
    ratio: float
    sheet: Sheet
    unit: str
    cone_deg: float
    room: Room


class StandingLayer:
    """The ready picture of what stands, brought up to date with as little painting as possible."""

    def __init__(self) -> None:
        self._around: Surroundings | None = None
        self._scene: Scene | None = None
        self._picture = QPixmap()

    def picture(self, around: Surroundings, scene: Scene) -> QPixmap:
        """The picture of a scene in its surroundings."""
        known = self._scene
        if around != self._around or known is None or _all_else(known) != _all_else(scene):
            self._paint_all(around, scene)
        elif scene is not known:
            self._paint_changed(around, scene, known)
        self._around, self._scene = around, scene
        return self._picture

    def _paint_all(self, around: Surroundings, scene: Scene) -> None:
        size = around.size * around.ratio
        if self._picture.size() != size:
            self._picture = QPixmap(size)
        self._picture.setDevicePixelRatio(around.ratio)
        painter = QPainter(self._picture)
        _paint(painter, around, scene, scene.pictures, QRect(QPoint(), around.size))
        painter.end()

    def _paint_changed(self, around: Surroundings, scene: Scene, before: Scene) -> None:
        now, then = set(map(id, scene.pictures)), set(map(id, before.pictures))
        changed = [p.bounds for p in scene.pictures if id(p) not in then]
        changed += [p.bounds for p in before.pictures if id(p) not in now]
        board = QRect(QPoint(), around.size)
        region = QRegion()
        for bounds in changed:
            region += _reach(around.view, bounds, board)
        if region.isEmpty():
            return
        painter = QPainter(self._picture)
        painter.setClipRegion(region)
        touched = region.boundingRect()
        reach = np.array([_sheet_reach(around.view, touched)])
        bounds = np.array([p.bounds for p in scene.pictures]).reshape(-1, 4)
        near = overlapping_pairs(bounds, reach)[0].tolist()
        _paint(painter, around, scene, [scene.pictures[i] for i in near], touched)
        painter.end()


def _sheet_reach(view: View, touched: QRect) -> Rectangle:
    """A device rectangle on the sheet, with room for the pen."""
    left, top = view.sheet(QPointF(touched.topLeft()))
    right, bottom = view.sheet(QPointF(touched.bottomRight()))
    pad = PAD_PX / view.scale
    return left - pad, bottom - pad, right + pad, top + pad


def _crossing(lines: Array, reach: Rectangle) -> NDArray[np.bool_]:
    """Which lines (n, 4) may cross a rectangle of the sheet. They are painted whole, so that dashes
    fall where they fell before."""
    left, bottom, right, top = reach
    x, y = lines[:, 0::2], lines[:, 1::2]
    return np.asarray(
        (x.max(axis=1, initial=-np.inf) >= left)
        & (x.min(axis=1, initial=np.inf) <= right)
        & (y.max(axis=1, initial=-np.inf) >= bottom)
        & (y.min(axis=1, initial=np.inf) <= top)
    )


def _all_else(scene: Scene) -> tuple[Eye, bytes]:
    """What the whole picture depends on: the eye, and the drawing aids as they are seen."""
    return scene.eye, scene.aid_lines.tobytes()


def _reach(view: View, bounds: Array, board: QRect) -> QRect:
    """Device rectangle that sheet bounds (4,) take up on the board, with room for the pen."""
    if not np.isfinite(bounds).all():
        return board
    left, bottom, right, top = bounds.tolist()
    rectangle = view.rectangle((left, bottom, right, top))
    rectangle = rectangle.adjusted(-PAD_PX, -PAD_PX, PAD_PX, PAD_PX)
    return rectangle.intersected(QRectF(board)).toAlignedRect()


def paper_rectangle(view: View, sheet: Sheet) -> QRectF:
    """The paper on the device."""
    return view.rectangle((0.0, 0.0, sheet.width_mm, sheet.height_mm))


def board_rectangle(view: View, size: QSize) -> Rectangle:
    """The whole board in sheet mm, with a pen's width to spare."""
    spare = 4.0 / view.scale
    left, top = view.sheet(QPointF(0, 0))
    right, bottom = view.sheet(QPointF(size.width(), size.height()))
    return left - spare, bottom - spare, right + spare, top + spare


def _paint(
    painter: QPainter,
    around: Surroundings,
    scene: Scene,
    pictures: Sequence[VolumePicture],
    touched: QRect,
) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paper = paper_rectangle(around.view, around.sheet)
    inside_paper = paper.contains(QRectF(touched))
    if not inside_paper:
        painter.fillRect(touched, QColor(around.room.felt))
        painter.fillRect(paper.translated(SHADOW_PX, SHADOW_PX), QColor(around.room.card_shade))
    painter.fillRect(paper.intersected(QRectF(touched)), QColor(PAPER))
    if not inside_paper:
        _paint_rulers(painter, around, paper)
    _paint_cone(painter, around, scene.eye, paper)
    _paint_eye_level(painter, around, scene.eye, paper)
    reach = _sheet_reach(around.view, touched)
    curves = dict(standing_curves(pictures))
    for role, every in standing_lines(scene, pictures):
        lines, arcs = every[_crossing(every, reach)], curves.get(role, every[:0])
        pencil = PENCILS[role]
        pens = (
            pen_of(pencil, SCREEN_PX_PER_MM),
            pen_of(pencil, SCREEN_PX_PER_MM, QColor(FELT_OBJECT)),
        )
        if len(lines):
            _paint_over_both(painter, around, lines, pens)
        if len(arcs):
            near = overlapping_pairs(bounds_of(arcs), np.array([reach]))[0]
            _paint_arcs_over_both(painter, around, arcs[near], pens)


def _paint_over_both(
    painter: QPainter, around: Surroundings, lines: Array, pens: tuple[QPen, QPen]
) -> None:
    """Lines (n, 4) with one pen on the paper and another on the felt."""
    sheet = (0.0, 0.0, around.sheet.width_mm, around.sheet.height_mm)
    board = board_rectangle(around.view, around.size)
    paint_lines(painter, around.view, lines, pens[0], within=_overlap(sheet, board))
    if not _inside(lines, sheet):
        paint_lines(painter, around.view, outside(lines, sheet), pens[1], within=board)


def _paint_arcs_over_both(
    painter: QPainter, around: Surroundings, arcs: Array, pens: tuple[QPen, QPen]
) -> None:
    """Arcs (n, 3, 3) with one pen on the paper and another on the felt."""
    sheet = (0.0, 0.0, around.sheet.width_mm, around.sheet.height_mm)
    board = board_rectangle(around.view, around.size)
    paint_arcs(painter, around.view, arcs, pens[0], within=_overlap(sheet, board))
    beyond = outside_arcs(arcs, sheet)
    if len(beyond):
        paint_arcs(painter, around.view, beyond, pens[1], within=board)


def _paint_eye_level(painter: QPainter, around: Surroundings, eye: Eye, paper: QRectF) -> None:
    """The eye level right across the board, with its height."""
    board = board_rectangle(around.view, around.size)
    line = eye_level_line(eye, (board[0], board[2]))
    if not len(line):
        return
    felt = QColor(FELT_PENCILS["level"])
    _paint_over_both(painter, around, line, (QPen(QColor(OXBLOOD), 1.4), QPen(felt, 1.4)))
    y = float(line[0, 1])
    at = around.view.point((0.0, y))
    if 0 <= at.y() <= around.size.height():
        painter.setFont(font())
        text = f"eye level  {write_length(y, around.unit)} up"
        crowded = abs(at.y() - paper.top()) < LABEL_PX
        down = LABEL_PX - 4.0 if crowded else -6.0
        place = QPointF(max(paper.left(), 4.0) + 8, at.y() + down)
        painter.setPen(QColor(OXBLOOD) if paper.contains(place) else felt)
        painter.drawText(place, text)


def _paint_cone(painter: QPainter, around: Surroundings, eye: Eye, paper: QRectF) -> None:
    """The cone of vision as a dotted circle."""
    radius = cone_radius(eye.station_distance_mm, around.cone_deg) * around.view.scale
    centre = around.view.point(eye.centre_of_vision_mm)
    far = math.hypot(centre.x(), centre.y()) + around.size.width() + around.size.height()
    if radius > far:
        return  # the whole board lies inside it
    pen = QPen(QColor(160, 150, 130, 170), 1.3)
    pen.setDashPattern([1.5, 5.0])
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(centre, radius, radius)
    board = QRectF(QRect(QPoint(), around.size)).adjusted(90, 70, -90, -60)
    for across, down in ((0.0, -1.0), (0.7071, -0.7071), (-0.7071, -0.7071)):
        place = centre + QPointF(across, down) * radius
        level = eye_level(eye)
        beside = (
            level is None or abs(around.view.point((0.0, level)).y() - place.y()) > 2 * LABEL_PX
        )
        if board.contains(place) and beside:
            painter.setFont(font())
            painter.setPen(QColor("#6b675c" if paper.contains(place) else around.room.felt_soft))
            words = f"cone {write_angle(around.cone_deg)}"
            width = painter.fontMetrics().horizontalAdvance(words)
            left = -width / 2 if across == 0 else (8.0 if across > 0 else -width - 8.0)
            painter.drawText(place + QPointF(left, -7), words)
            return


def _overlap(first: Rectangle, second: Rectangle) -> Rectangle:
    return (
        max(first[0], second[0]),
        max(first[1], second[1]),
        min(first[2], second[2]),
        min(first[3], second[3]),
    )


def _inside(lines: Array, rectangle: Rectangle) -> bool:
    x, y = lines[:, 0::2], lines[:, 1::2]
    left, bottom, right, top = rectangle
    if not len(lines):
        return True
    return bool(x.min() >= left and x.max() <= right and y.min() >= bottom and y.max() <= top)


def _paint_rulers(painter: QPainter, around: Surroundings, paper: QRectF) -> None:
    """Measures along the lower and left paper edges, counted from the corner."""
    step, parts, labelled = _ruler_steps(around.unit, around.view.scale)
    painter.setFont(font())
    painter.setPen(QPen(QColor(around.room.felt_soft), 1.0))
    scale = around.view.scale
    sheet = around.sheet
    for along, reach in ((True, sheet.width_mm), (False, sheet.height_mm)):
        for i in range(math.floor(reach / step + 1e-9) + 1):
            mm = i * step
            long = i % labelled == 0
            tick = 9.0 if long else (6.0 if i % parts == 0 else 3.5)
            label = write_length(mm, around.unit, with_unit=i == 0) if long else ""
            if along:
                x, y = paper.left() + mm * scale, paper.bottom() + 1
                painter.drawLine(QPointF(x, y), QPointF(x, y + tick))
                if label:
                    box = QRectF(x - 30, y + 9, 60, 18)
                    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, label)
            else:
                x, y = paper.left() - 1, paper.bottom() - mm * scale
                painter.drawLine(QPointF(x - tick, y), QPointF(x, y))
                if label and i:
                    box = QRectF(x - 52, y - 9, 40, 18)
                    right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
                    painter.drawText(box, right, label)


def _ruler_steps(unit: str, scale: float) -> tuple[float, int, int]:
    """Smallest division in mm, divisions per middle tick, divisions per label, for a scale."""
    unit_mm = MM_PER["cm" if unit == "mm" else unit]
    ladders = (
        [(0.1, 5, 10), (0.5, 2, 10), (1.0, 5, 5), (5.0, 2, 2), (10.0, 5, 5), (50.0, 2, 2)]
        if unit != "in"
        else [(0.0625, 4, 16), (0.25, 2, 4), (0.5, 2, 4), (1.0, 2, 2), (4.0, 3, 3), (12.0, 2, 2)]
    )
    for step, parts, labelled in ladders:
        if step * unit_mm * scale >= 4.0 and step * labelled * unit_mm * scale >= 42.0:
            return step * unit_mm, parts, labelled
    step, parts, labelled = ladders[-1]
    return step * unit_mm, parts, labelled

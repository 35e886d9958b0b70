"""What stands on the board between edits: the desk, and every layer that does not depend on what is
in work.

Kept as a ready picture. When an edit changes some volumes only, just the places they leave and
take are painted again; everything else is copied.
"""

import math

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPixmap, QRegion

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import underlay_of
from isometron.document.picture import Laid
from isometron.drawing.layers import EYE_LEVEL, LAYERS, Given, layer_in
from isometron.drawing.scene import Scene
from isometron.hiding.sweeping import overlapping
from isometron.perspective.cone import cone_radius
from isometron.perspective.conics import bounds_of
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.lengths import write_angle, write_length
from isometron.perspective.places import Rectangle
from isometron.render.painter import painting_on
from isometron.render.underlay import paint_underlay
from isometron.render.view import View
from isometron.ui.board.desk import Desk, Surroundings, blank, board_rectangle
from isometron.ui.board.layer_painting import board_pens, paint_layer, paint_layer_arcs
from isometron.ui.parts.theme import CONE, SOFT, font
from isometron.words import _

LABEL_PX = 20.0
"""Nearer than this to the paper's upper edge the eye level is labelled below its line."""

PAD_PX = 3.0


class StandingLayer:
    """The ready picture of what stands, brought up to date with as little painting as possible."""

    def __init__(self) -> None:
        self._around: Surroundings | None = None
        self._scene: Scene | None = None
        self._under: Laid | None = None
        self._weights: float | None = None
        self._desk, self._ground = Desk(), QPixmap()
        self._picture = QPixmap()

    def picture(self, around: Surroundings, document: Document, scene: Scene) -> QPixmap:
        """The picture of a scene in its surroundings."""
        known = self._scene
        under, finish = underlay_of(document), document.finish
        weights = finish.edge_mm if finish.weighted else None
        if (
            around != self._around
            or known is None
            or _all_else(known) != _all_else(scene)
            or (under, weights) != (self._under, self._weights)
        ):
            self._under, self._weights = under, weights
            self._paint_all(around, document, scene)
        elif scene is not known:
            self._paint_changed(around, document, scene, known)
        self._around, self._scene = around, scene
        return self._picture

    def _paint_all(self, around: Surroundings, document: Document, scene: Scene) -> None:
        self._ground = QPixmap(self._desk.picture(around))
        with painting_on(self._ground) as painter:
            paint_underlay(painter, around.view, document, around.paper)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            _paint_cone(painter, around, scene.eye, around.paper)
        if self._picture.size() != self._ground.size():
            self._picture = blank(around)
        with painting_on(self._picture) as painter:
            self._paint(painter, around, Given(document, scene, scene.pictures, EVERYWHERE), None)

    def _paint_changed(
        self, around: Surroundings, document: Document, scene: Scene, before: Scene
    ) -> None:
        region = changed_region(around, scene, before)
        if region.isEmpty():
            return
        with painting_on(self._picture) as painter:
            painter.setClipRegion(region)
            touched = region.boundingRect()
            reach = np.array([_sheet_reach(around.view, touched)])
            near = overlapping(scene.bounds, reach)[0].tolist()
            pictures = [scene.pictures[i] for i in near]
            self._paint(painter, around, Given(document, scene, pictures, EVERYWHERE), touched)

    def _paint(
        self, painter: QPainter, around: Surroundings, given: Given, touched: QRect | None
    ) -> None:
        """Ground and layers, all of them or what crosses a rectangle of the board."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Source)
        painter.drawPixmap(0, 0, self._ground)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceOver)
        view, sheet = around.view, around.sheet
        board = board_rectangle(view, around.size)
        given = Given(given.document, given.scene, given.pictures, board)
        reach = None if touched is None else _sheet_reach(view, touched)
        for layer in LAYERS:
            if not layer.stands or not layer.on_board:
                continue
            lines, arcs = layer.draws(given)
            if reach is not None and len(lines):
                lines = lines[_crossing(lines, reach)]
            if reach is not None and len(arcs):
                arcs = arcs[overlapping(bounds_of(arcs), np.array([reach]))[0]]
            own = layer_in(layer, given.document.finish)
            paint_layer(painter, view, sheet, board, own, lines)
            paint_layer_arcs(painter, view, sheet, board, own, arcs)
            if layer is EYE_LEVEL:
                _label_eye_level(painter, around, given.scene.eye, around.paper)


EVERYWHERE = (-math.inf, -math.inf, math.inf, math.inf)


def changed_region(around: Surroundings, scene: Scene, before: Scene) -> QRegion:
    """The part of the board on which two scenes with the same eye and aids may differ."""
    now, then = set(map(id, scene.pictures)), set(map(id, before.pictures))
    changed = [p for p in scene.pictures if id(p) not in then]
    changed += [p for p in before.pictures if id(p) not in now]
    reaches = {layer.reaches for layer in LAYERS if layer.stands and layer.on_board}
    region = QRegion()
    for picture in changed:
        for reach in reaches:
            region += _reach(around.view, reach(picture), around.whole)
    return region


def _sheet_reach(view: View, touched: QRect) -> Rectangle:
    """A device rectangle on the sheet, with room for the pen."""
    left, bottom, right, top = view.around(QRectF(touched))
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


def _label_eye_level(
    painter: QPainter, around: Surroundings, eye: Eye, paper: QPainterPath
) -> None:
    """The height of the eye level beside its line."""
    y = eye_level(eye)
    if y is None:
        return
    at = around.view.point((0.0, y))
    if not 0 <= at.y() <= around.size.height():
        return
    painter.setFont(font())
    crowded = abs(at.y() - paper.boundingRect().top()) < LABEL_PX or around.view.level.y() < 0
    down = LABEL_PX - 4.0 if crowded else -6.0
    place = QPointF(max(at.x(), 4.0) + 8, at.y() + down)
    on_paper, on_felt = board_pens(EYE_LEVEL)
    painter.setPen((on_paper if paper.contains(place) else on_felt).color())
    up = write_length(y, around.unit)
    painter.drawText(place, _("eye level  {up} up").format(up=up))


def _paint_cone(painter: QPainter, around: Surroundings, eye: Eye, paper: QPainterPath) -> None:
    """The cone of vision as a dotted circle."""
    radius = cone_radius(eye, around.cone_deg) * around.view.scale
    centre = around.view.point(eye.centre_of_vision_mm)
    far = math.hypot(centre.x(), centre.y()) + around.size.width() + around.size.height()
    if radius > far:
        return  # the whole board lies inside it
    pen = QPen(QColor(*CONE), 1.3)
    pen.setDashPattern([1.5, 5.0])
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(centre, radius, radius)
    _label_cone(painter, around, centre, radius, eye, paper)


def _label_cone(
    painter: QPainter,
    around: Surroundings,
    centre: QPointF,
    radius: float,
    eye: Eye,
    paper: QPainterPath,
) -> None:
    """The angle of the cone where there is room for it on its circle."""
    board = QRectF(around.whole).adjusted(90, 70, -90, -60)
    level = eye_level(eye)
    level_px = None if level is None else around.view.point((0.0, level)).y()
    for across, down in ((0.0, -1.0), (0.7071, -0.7071), (-0.7071, -0.7071)):
        place = centre + QPointF(across, down) * radius
        beside = level_px is None or abs(level_px - place.y()) > 2 * LABEL_PX
        if board.contains(place) and beside:
            painter.setFont(font())
            painter.setPen(QColor(SOFT if paper.contains(place) else around.room.felt_soft))
            words = _("cone {angle}").format(angle=write_angle(around.cone_deg))
            width = painter.fontMetrics().horizontalAdvance(words)
            left = -width / 2 if across == 0 else (8.0 if across > 0 else -width - 8.0)
            painter.drawText(place + QPointF(left, -7), words)
            return

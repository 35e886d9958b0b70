"""What lies over the standing picture: layers of the volume in work, swipes, handles' tags."""

import math

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QColor,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
    QRegion,
)

from isometron.document.document import Document
from isometron.drawing.dimension_marks import mark_of
from isometron.drawing.layers import GHOST, LAYERS, Given
from isometron.drawing.meant import meant_marks
from isometron.drawing.measures import SlopingPoint, sloping_points
from isometron.drawing.page import part_of
from isometron.drawing.pencils import MOSS
from isometron.drawing.picks.pick import Pick, Swipe
from isometron.drawing.scene import Scene
from isometron.drawing.strokes import bounding_lines
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.box import EDGES
from isometron.framework.dimensions import Dimension
from isometron.perspective.conics import chords
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.render.letters import paint_labels
from isometron.render.painter import paint_arcs, paint_lines
from isometron.render.view import View
from isometron.ui.board.desk import board_rectangle
from isometron.ui.board.handles.handle import On
from isometron.ui.board.layer_painting import paint_end_marks, paint_layer, paint_layer_arcs
from isometron.ui.parts.theme import (
    GROUND,
    INK,
    MARKER,
    WASH,
    WHITE,
    Room,
    felt_colour,
    font,
)
from isometron.words import _

SWIPE_PX, CURVE_ALPHA, FELT_ALPHA = 9.0, 170, 90
WASH_GAP_PX = 0.2
SPOT_PX = 20.0
TAG_PX = 24.0
CORNER_PX = 5.0


def _shows_box(document: Document, picture: VolumePicture) -> bool:
    """Whether the box a volume fills is drawn round it; the square of an ellipse stands for it."""
    if picture.body.boxed:
        return False
    return not (picture.body.bent and document.choices.ellipse_aids)


class Marks:
    """Painter of everything that lies over the standing picture."""

    def __init__(self, room: Room, view: View, size: QSize, document: Document) -> None:
        self.view, self.document = view, document
        self.board = board_rectangle(view, size)
        self.on = On(view, size, view.outline(document.sheet.paper), room)

    def layers(self, painter: QPainter, scene: Scene) -> None:
        """Every layer that depends on what is in work."""
        given = Given(self.document, scene, scene.pictures, self.board)
        sheet = self.document.sheet
        painter.setClipPath(self._room_of_view())
        for layer in LAYERS:
            if layer.stands or not layer.on_board:
                continue
            lines, arcs = layer.draws(given)
            painter.setClipping(not layer.of_paper)
            paint_layer(painter, self.view, sheet, self.board, layer, lines)
            paint_layer_arcs(painter, self.view, sheet, self.board, layer, arcs)
            paint_end_marks(painter, self.view, self.board, layer, lines)
            if layer.says is not None:
                colour = QColor(layer.pencil.colour)
                paint_labels(painter, self.view, layer.says(given), colour)
        painter.setClipping(False)

    def _room_of_view(self) -> QPainterPath:
        """The frame of the view in work, and the felt around the paper."""
        room = QPainterPath()
        room.addRect(self.on.board)
        view = self.document.views[self.document.view]
        if view.frame is None:
            return room
        frame = self.view.outline(part_of(self.document, view))
        return room.subtracted(self.on.paper).united(frame)

    def framework(self, painter: QPainter, scene: Scene, ghost: Array) -> None:
        """The old edges of what has just changed, the box a cut or leaning volume fills, the
        bounding volume of several chosen ones, and where sloping edges vanish."""
        chosen = [i for i in self.document.chosen if i < len(scene.pictures)]
        old = QPen(QColor(GHOST.pencil.colour), 1.0)
        old.setDashPattern([1.0, 3.0])
        paint_lines(painter, self.view, ghost, old, within=self.board)
        thin = QPen(QColor(GROUND), 1.0)
        thin.setDashPattern([6.0, 3.0])
        if len(chosen) > 1:
            lines = bounding_lines(self.document)
            paint_lines(painter, self.view, lines, thin, within=self.board)
        elif chosen and _shows_box(self.document, scene.pictures[chosen[0]]):
            ends = scene.pictures[chosen[0]].box_sheet[EDGES].reshape(-1, 4)
            paint_lines(painter, self.view, ends, thin, within=self.board)
        if chosen and self.document.selected is not None and self.document.choices.fans:
            picture = scene.pictures[self.document.selected]
            for point in sloping_points(self.document.eye, picture):
                self._sloping(painter, point)

    def meant(self, painter: QPainter) -> None:
        """What the volume in work is meant to be to others."""
        lines, words = meant_marks(self.document)
        colour = QColor(MOSS)
        thin = QPen(colour, 1.4)
        thin.setDashPattern([1.0, 2.0])
        paint_lines(painter, self.view, lines, thin, within=self.board)
        painter.setFont(font())
        metrics, taken = QFontMetricsF(painter.font()), QRegion()
        painter.setPen(colour)
        for text, place, hangs in words:
            box = QRectF(0, 0, metrics.horizontalAdvance(text) + 6, metrics.height())
            way = box.height() if hangs else -box.height()
            at = self.view.point(place) + QPointF(0, 0.7 * way)
            box.moveCenter(at)
            if hangs:  # the origin has its words to the right of it
                box.moveRight(at.x() - 4)
            while taken.intersects(box.toAlignedRect()):
                box.translate(0, way)
            taken += box.toAlignedRect()
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _sloping(self, painter: QPainter, point: SlopingPoint) -> None:
        at = self.view.point(point.sheet_mm)
        if not self.on.board.contains(at):
            return
        colour = QColor(SLOPE) if self.on.paper.contains(at) else felt_colour("third")
        painter.setPen(QPen(colour, 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        rise = -7.0 if point.above else 7.0
        painter.drawPolygon(
            QPolygonF([at + QPointF(0, rise), at + QPointF(6, -rise), at + QPointF(-6, -rise)])
        )
        painter.setFont(font())
        words = _("slope, above the eye level") if point.above else _("slope, below the eye level")
        painter.drawText(at + QPointF(10.0, 4.0), words)

    # What is picked

    def pick(self, painter: QPainter, scene: Scene, pick: Pick) -> None:
        """The marker over what is picked."""
        swipe = pick.swipe(scene)
        if swipe.loops:
            self._wash(painter, swipe)
        for x0, y0, x1, y1 in swipe.lines.tolist():
            self._line(painter, (x0, y0), (x1, y1))
        if len(swipe.arcs):
            self._curve(painter, swipe.arcs)
        for start, out in swipe.pushes.tolist():
            self._push(painter, self.view.point(tuple(start)), self.view.point(tuple(out)))
        for x, y in swipe.places.tolist():
            painter.setPen(QPen(QColor(INK), 1.4))
            painter.setBrush(QColor(MARKER))
            painter.drawEllipse(self.view.point((x, y)), CORNER_PX, CORNER_PX)

    def measure(self, painter: QPainter, dimension: Dimension) -> None:
        """A measure that is not pinned to the sheet yet."""
        mark = mark_of(self.document, dimension)
        if mark is None:
            return
        pen = QPen(QColor(SLOPE), 1.2)
        paint_lines(painter, self.view, mark.lines, pen, within=self.board)
        paint_labels(painter, self.view, [mark.label], QColor(SLOPE))

    def armed(self, painter: QPainter) -> None:
        """A frame round the board while a tool is in hand."""
        frame = self.on.board.adjusted(1.5, 1.5, -1.5, -1.5)
        painter.setPen(QPen(QColor(self.on.room.armed), 3.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame)

    def _push(self, painter: QPainter, at: QPointF, out: QPointF) -> None:
        """A grip with an arrow outward: what lies under it is pushed."""
        way = out - at
        long = math.hypot(way.x(), way.y())
        painter.setPen(QPen(QColor(INK), 2.0))
        painter.setBrush(QColor(WHITE))
        if long > PUSH_LEAST_PX:
            along = way / long
            tip, side = at + PUSH_PX * along, QPointF(-along.y(), along.x())
            painter.drawLine(at, tip)
            back = tip - 8.0 * along
            painter.drawLine(tip, back + 4.5 * side)
            painter.drawLine(tip, back - 4.5 * side)
        painter.drawEllipse(at, CORNER_PX + 2, CORNER_PX + 2)

    def _wash(self, painter: QPainter, swipe: Swipe) -> None:
        shape = QPainterPath()
        shape.setFillRule(Qt.FillRule.OddEvenFill)
        for loop in swipe.loops:
            runs = chords(loop, WASH_GAP_PX / self.view.scale)
            shape.addPolygon(
                QPolygonF(self.view.places(np.concatenate([run[:-1] for run in runs])))
            )
            shape.closeSubpath()
        painter.save()
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(WASH))
        painter.drawPath(shape)
        painter.restore()

    def _line(self, painter: QPainter, start: Place, end: Place) -> None:
        paper = QRegion(self.on.paper.toFillPolygon().toPolygon())
        board = QRegion(self.on.board.toAlignedRect())
        for on_paper, part in ((True, paper), (False, board.subtracted(paper))):
            painter.save()
            painter.setClipRegion(part)
            colour = QColor(MARKER)
            if on_paper:
                painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
            else:
                colour.setAlpha(FELT_ALPHA)
            painter.setPen(_broad(colour))
            painter.drawLine(self.view.point(start), self.view.point(end))
            painter.restore()

    def _curve(self, painter: QPainter, arcs: Array) -> None:
        painter.save()
        colour = QColor(MARKER)
        colour.setAlpha(CURVE_ALPHA)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
        paint_arcs(painter, self.view, arcs, _broad(colour), within=self.board)
        painter.restore()

    def pick_tag(self, painter: QPainter, scene: Scene, pick: Pick) -> None:
        """The true length of what is picked on a tag at its middle."""
        told = pick.tag(scene)
        if told is not None:
            (x, y), mm = told[0].tolist(), told[1]
            place = self.view.point((x, y)) + QPointF(-6, -28)
            self.tag(painter, place, write_length(mm, self.document.choices.unit))

    def tag(self, painter: QPainter, at: QPointF, text: str, below: str = "") -> None:
        """A dark tag with a number beside the pointer, and below it what the drag has met."""
        painter.setFont(font(bold=True))
        metrics = QFontMetricsF(painter.font())
        width = max(metrics.horizontalAdvance(words) for words in (text, below)) + 16
        box = QRectF(at.x() + 16, at.y() + 16, width, 42 if below else TAG_PX)
        box.moveLeft(min(box.left(), self.on.size.width() - width - 4))
        box.moveTop(min(box.top(), self.on.size.height() - 70.0))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(INK))
        painter.drawRect(box)
        painter.setPen(QColor(WHITE))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{text}\n{below}" if below else text)

    def spot(self, painter: QPainter, place: Place) -> None:
        """A marker circle round a place a remark speaks of."""
        painter.setPen(QPen(QColor(self.on.room.lamp), 4.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(self.view.point(place), SPOT_PX, SPOT_PX)


PUSH_PX, PUSH_LEAST_PX = 34.0, 1.0
"""How long the arrow of a grip is, and where it would be seen end on, px."""

SLOPE = "#5b5a52"


def _broad(colour: QColor) -> QPen:
    pen = QPen(colour, SWIPE_PX)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    return pen

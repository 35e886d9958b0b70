"""The station plan: the view from above, the second handle on the same state."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.drawing.scene import Scene
from isometron.drawing.stations import PlanView, SideView, plan_view, side_view, turned
from isometron.perspective.lengths import write_angle, write_length
from isometron.ui.parts.theme import MARKER, Room, family_colour, font

GRAB_PX = 12.0


@dataclass(frozen=True)
class _Scale:
    """World mm of a flat view to device px."""

    px: float
    x: float
    y: float

    def point(self, place: tuple[float, float]) -> QPointF:
        return QPointF(self.x + place[0] * self.px, self.y - place[1] * self.px)

    def world(self, at: QPointF) -> tuple[float, float]:
        return (at.x() - self.x) / self.px, (self.y - at.y()) / self.px


def _fitted(points: np.ndarray, box: QRectF) -> _Scale:
    low, high = points.min(axis=0), points.max(axis=0)
    span = np.maximum(high - low, 1.0)
    px = float(min(box.width() / span[0], box.height() / span[1]))
    middle = (low + high) / 2
    return _Scale(
        px, box.center().x() - float(middle[0]) * px, box.center().y() + float(middle[1]) * px
    )


class FlatView(QWidget):
    """A flat drawing with handles. Emits `dragged` (edit), `dropped` (name), `hinted` (words)."""

    dragged = pyqtSignal(object)
    dropped = pyqtSignal(str)
    given_up = pyqtSignal()
    hinted = pyqtSignal(str)

    def __init__(self, room: Room, name: str, tip: str) -> None:
        super().__init__()
        self.room = room
        self.setAccessibleName(name)
        self.setAccessibleDescription(tip)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._scale: _Scale | None = None
        self._held: str | None = None
        self._moved = False

    def handles(self) -> dict[str, tuple[QPointF, str]]:
        """Place and words of each handle."""
        raise NotImplementedError

    def edit_for(self, key: str, place: tuple[float, float]) -> Callable[[Document], Document]:
        """The edit that dragging a handle to a place means."""
        raise NotImplementedError

    def _handle_at(self, at: QPointF) -> str | None:
        for key, (place, _) in self.handles().items():
            if math.hypot(place.x() - at.x(), place.y() - at.y()) < GRAB_PX:
                return key
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._held, self._moved = self._handle_at(event.position()), False

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._scale is None:
            return
        if self._held is None:
            key = self._handle_at(event.position())
            self.setCursor(Qt.CursorShape.OpenHandCursor if key else Qt.CursorShape.ArrowCursor)
            self.hinted.emit(self.handles()[key][1] if key else "")
            return
        self._moved = True
        self.hinted.emit(self.handles()[self._held][1])
        self.dragged.emit(self.edit_for(self._held, self._scale.world(event.position())))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self._held = self._held, None
        self._scale = None
        if held is not None and self._moved:
            self.dropped.emit(f"drag the {held}")
            self.hinted.emit("")
        self.update()

    def _knob(self, painter: QPainter, at: QPointF, colour: QColor) -> None:
        painter.setPen(QPen(colour, 2.0))
        painter.setBrush(QColor(self.room.field))
        painter.drawEllipse(at, 5.5, 5.5)


class StationPlan(FlatView):
    """Eye, picture plane, cone, footprints and sight directions from above."""

    def __init__(self, room: Room) -> None:
        super().__init__(
            room,
            self.tr("Station plan"),
            self.tr("The eye and the volumes from above; the same numbers are on the Eye card."),
        )
        self._plan: PlanView | None = None

    def show_document(self, document: Document, scene: Scene) -> None:
        """Show a document from above."""
        held = self._plan.up_deg if self._plan and self._held else document.eye.heading_deg
        self._plan = plan_view(document, scene, held)
        self.update()

    def handles(self) -> dict[str, tuple[QPointF, str]]:
        if self._plan is None or self._scale is None:
            return {}
        stays = self.tr("The near corner stays on the paper, height and station distance too.")
        turns = self.tr("The eye stays where it stands; the near corner stays on the paper.")
        return {
            "eye": (self._scale.point(self._plan.eye), f"Eye: {stays}"),
            "sight line": (self._scale.point(self._plan.sight_end), f"Sight line: {turns}"),
        }

    def edit_for(self, key: str, place: tuple[float, float]) -> Callable[[Document], Document]:
        assert self._plan is not None
        x, y = (float(v) for v in turned(np.array(place), -self._plan.up_deg))
        if key == "eye":
            return lambda document: eye_edits.move_eye(document, (x, y))
        return lambda document: eye_edits.look_towards(document, (x, y))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self._plan
        if plan is None:
            return
        if self._held is None or self._scale is None:
            box = QRectF(self.rect()).adjusted(18, 8, -18, -16)
            self._scale = _fitted(plan.extent, box)
        at = self._scale.point
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setClipRect(self.rect())
        painter.setFont(font())
        dotted = QPen(QColor(self.room.soft_ink), 1.2)
        dotted.setDashPattern([1.5, 3.5])
        painter.setPen(dotted)
        for end in plan.cone_ends:
            painter.drawLine(at(plan.eye), at(end))
        painter.setPen(QPen(QColor(self.room.soft_ink), 1.2))
        left, right = at(plan.picture_plane[0]), at(plan.picture_plane[1])
        painter.drawLine(left, right)
        for ring, chosen in plan.footprints:
            painter.setPen(QPen(QColor(self.room.ink), 1.6))
            painter.setBrush(QColor(MARKER) if chosen else QColor(0, 0, 0, 0))
            painter.drawPolygon(QPolygonF([at((x, y)) for x, y in ring.tolist()]))
        for family, end in plan.directions:
            painter.setPen(QPen(family_colour(self.room, family), 1.8))
            painter.drawLine(at(plan.eye), at(end))
        painter.setPen(QPen(QColor(self.room.ink), 1.4))
        painter.drawLine(at(plan.eye), at(plan.sight_end))
        self._knob(painter, at(plan.sight_end), QColor(self.room.ink))
        self._knob(painter, at(plan.eye), QColor(self.room.level))
        painter.setPen(QColor(self.room.level))
        painter.drawText(at(plan.eye) + QPointF(10, 14), self.tr("eye"))
        painter.setPen(QColor(self.room.soft_ink))
        words = self.tr("picture plane")
        width = painter.fontMetrics().horizontalAdvance(words)
        painter.drawText(QPointF(self.width() - width - 2, right.y() - 5), words)
        painter.end()


class SideElevation(FlatView):
    """Eye height and tilt from the side."""

    def __init__(self, room: Room) -> None:
        super().__init__(
            room,
            self.tr("Side elevation"),
            self.tr("Eye height and tilt from the side; the same numbers are on the Eye card."),
        )
        self._side: SideView | None = None

    def show_document(self, document: Document, scene: Scene) -> None:
        """Show a document from the side."""
        self._side = side_view(document, scene)
        self.update()

    def words(self, document: Document) -> str:
        """Eye height and tilt in words."""
        eye = document.eye
        height = write_length(eye.height_mm, document.choices.unit)
        if eye.tilt_deg == 0:
            return self.tr("%s up, level") % height
        way = self.tr("down") if eye.tilt_deg < 0 else self.tr("up")
        return self.tr("%s up, %s %s") % (height, write_angle(abs(eye.tilt_deg)), way)

    def handles(self) -> dict[str, tuple[QPointF, str]]:
        if self._side is None or self._scale is None:
            return {}
        up = self.tr("The eye goes up or down; the near corner stays on the paper.")
        tilt = self.tr("The eye tilts where it stands; the near corner stays on the paper.")
        return {
            "eye height": (self._scale.point(self._side.eye), f"Eye height: {up}"),
            "tilt": (self._scale.point(self._side.sight_end), f"Tilt: {tilt}"),
        }

    def edit_for(self, key: str, place: tuple[float, float]) -> Callable[[Document], Document]:
        if key == "eye height":
            return lambda document: eye_edits.set_eye_height(document, place[1])
        return lambda document: eye_edits.tilt_towards(document, place)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        side = self._side
        if side is None:
            return
        if self._held is None or self._scale is None:
            self._scale = _fitted(side.extent, QRectF(self.rect()).adjusted(18, 12, -22, -10))
        at = self._scale.point
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setClipRect(self.rect())
        ground = at((0.0, 0.0)).y()
        painter.setPen(QPen(QColor(self.room.soft_ink), 1.2))
        painter.drawLine(QPointF(4, ground), QPointF(self.width() - 4, ground))
        for (near, far, low, high), chosen in side.silhouettes:
            painter.setPen(QPen(QColor(self.room.ink), 1.6))
            painter.setBrush(QColor(MARKER) if chosen else QColor(0, 0, 0, 0))
            painter.drawRect(QRectF(at((near, high)), at((far, low))))
        painter.setPen(QPen(QColor(self.room.level), 1.4))
        painter.drawLine(at(side.eye), QPointF(at(side.eye).x(), ground))
        level = QPen(QColor(self.room.level), 1.2)
        level.setDashPattern([4.0, 3.0])
        painter.setPen(level)
        painter.drawLine(at(side.eye), QPointF(self.width() - 4.0, at(side.eye).y()))
        painter.setPen(QPen(QColor(self.room.ink), 1.4))
        painter.drawLine(at(side.eye), at(side.sight_end))
        self._knob(painter, at(side.sight_end), QColor(self.room.ink))
        self._knob(painter, at(side.eye), QColor(self.room.level))
        painter.end()

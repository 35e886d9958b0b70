"""A pad: a flat drawing on a card, in true mm, with points that can be taken hold of."""

import math
from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.document.document import Document
from isometron.ui.parts.theme import LIGHT_ROOM, MARKER, Room

Point = tuple[float, float]
Edit = Callable[[Document], Document]

GRAB_PX = 9.0
PAD = 14.0
NUDGE_MM = 1.0


class Pad(QWidget):
    """A flat drawing. Emits `dragged` (an edit of the document before the drag), `dropped` (its
    name), `wanted` (name, edit) and `picked` when another point is taken."""

    dragged = pyqtSignal(object)
    dropped = pyqtSignal(str)
    wanted = pyqtSignal(str, object)
    picked = pyqtSignal()

    def __init__(self, name: str, tip: str, height: int) -> None:
        super().__init__()
        self.room: Room = LIGHT_ROOM
        self.setAccessibleName(name)
        self.setAccessibleDescription(tip)
        self.setToolTip(tip)
        self.setMinimumHeight(height)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.held: int | None = None
        self.chosen: int | None = None
        self._moved = False
        self._scale, self._origin = 1.0, QPointF()

    # What a pad of a kind says

    def points(self) -> list[Point]:
        """The points that can be taken hold of, mm."""
        raise NotImplementedError

    def moved(self, number: int, place: Point) -> Edit:
        """The edit that moving a point to a place means."""
        raise NotImplementedError

    def added(self, place: Point) -> Edit | None:
        """The edit that a double click at a place means."""
        raise NotImplementedError

    def removed(self, number: int) -> Edit:
        """The edit that takes a point away."""
        raise NotImplementedError

    def what(self) -> str:
        """What a point is called in the list of steps."""
        raise NotImplementedError

    # Where things lie

    def fit(self, low: np.ndarray, high: np.ndarray, box: QRectF) -> None:
        """Fit a rectangle of mm into a box of the widget."""
        span = np.maximum(high - low, 1e-6)
        self._scale = float(min(box.width() / span[0], box.height() / span[1]))
        middle = (low + high) / 2
        self._origin = QPointF(
            box.center().x() - float(middle[0]) * self._scale,
            box.center().y() + float(middle[1]) * self._scale,
        )

    def at(self, place: Point | np.ndarray) -> QPointF:
        """A place in mm on the widget."""
        return QPointF(
            self._origin.x() + float(place[0]) * self._scale,
            self._origin.y() - float(place[1]) * self._scale,
        )

    def place(self, at: QPointF) -> Point:
        """A place of the widget in mm."""
        return (
            (at.x() - self._origin.x()) / self._scale,
            (self._origin.y() - at.y()) / self._scale,
        )

    def _point_at(self, at: QPointF) -> int | None:
        best: tuple[float, int] | None = None
        for number, point in enumerate(self.points()):
            where = self.at(point)
            off = math.hypot(where.x() - at.x(), where.y() - at.y())
            if off < GRAB_PX and (best is None or off < best[0]):
                best = (off, number)
        return None if best is None else best[1]

    # Mouse and keys

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self.held, self._moved = self._point_at(event.position()), False
        self.chosen = self.held
        self.picked.emit()
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.held is None:
            return
        self._moved = True
        self.dragged.emit(self.moved(self.held, self.place(event.position())))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self.held = self.held, None
        if held is not None and self._moved:
            self.dropped.emit(f"move a {self.what()}")

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._point_at(event.position()) is not None:
            return
        edit = self.added(self.place(event.position()))
        if edit is not None:
            self.wanted.emit(f"add a {self.what()}", edit)

    def event(self, event: QEvent | None) -> bool:
        """Keys of the pad come before the same keys in the menu."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and event.key() == Qt.Key.Key_Delete
            and self.chosen is not None
        ):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        keys = Qt.Key
        steps = {
            keys.Key_Left: (-1, 0),
            keys.Key_Right: (1, 0),
            keys.Key_Up: (0, 1),
            keys.Key_Down: (0, -1),
        }
        count = len(self.points())
        if event.key() in (keys.Key_PageDown, keys.Key_PageUp) and count:
            step = 1 if event.key() == keys.Key_PageDown else -1
            self.chosen = (step - 1 if self.chosen is None else self.chosen + step) % count
            self.picked.emit()
            self.update()
        elif event.key() in steps and self.chosen is not None and self.chosen < count:
            tenfold = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            x, y = self.points()[self.chosen]
            dx, dy = steps[keys(event.key())]
            place = (x + dx * NUDGE_MM * tenfold, y + dy * NUDGE_MM * tenfold)
            self.wanted.emit(f"move a {self.what()}", self.moved(self.chosen, place))
        elif event.key() == keys.Key_Delete and self.chosen is not None:
            number, self.chosen = self.chosen, None
            self.wanted.emit(f"take a {self.what()} away", self.removed(number))
        else:
            super().keyPressEvent(event)

    # Painting

    def knob(self, painter: QPainter, number: int, place: Point, *, round_one: bool) -> None:
        """One point: round where a curve runs smoothly, square at a corner."""
        at = self.at(place)
        painter.setPen(QPen(QColor("#23282b"), 1.4))
        painter.setBrush(QColor(MARKER if number == self.chosen else "#fffdf6"))
        if round_one:
            painter.drawEllipse(at, 4.5, 4.5)
        else:
            painter.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8))

"""A pad: a flat drawing on a card, in true mm, with points that can be taken hold of."""

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.perspective.places import Place, Rectangle
from isometron.render.view import View
from isometron.ui.parts.theme import INK, MARKER, SOFT, WHITE
from isometron.ui.parts.touching import apart, arrow_of
from isometron.ui.parts.wishes import Edit, Wishes

GRAB_PX = 9.0
PAD = 14.0
NUDGE_MM = 1.0


class Pad(QWidget):
    """A flat drawing. Emits `picked` when another point is taken."""

    picked = pyqtSignal()

    def __init__(self, wishes: Wishes, name: str, tip: str, height: int) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(name)
        self.setAccessibleDescription(tip)
        self.setToolTip(tip)
        self.setMinimumHeight(height)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.held: int | None = None
        self.chosen: int | None = None
        self._moved = False
        self._view = View(1.0, 0.0, 0.0)

    # What a pad of a kind says

    def points(self) -> list[Place]:
        """The points that can be taken hold of, mm."""
        raise NotImplementedError

    def moved(self, number: int, place: Place) -> Edit:
        """The edit that moving a point to a place means."""
        raise NotImplementedError

    def added(self, place: Place) -> Edit | None:
        """The edit that a double click at a place means."""
        raise NotImplementedError

    def removed(self, number: int) -> Edit:
        """The edit that takes a point away."""
        raise NotImplementedError

    def steps(self) -> tuple[str, str, str]:
        """What moving, adding and taking a point away are called in the list of steps."""
        raise NotImplementedError

    # Where things lie

    def fit(self, part: Rectangle, box: QRectF) -> None:
        """Fit a rectangle of mm into a box of the widget, unless a point is held."""
        if self.held is None:
            self._view = View.fit(part, box)

    def at(self, place: Place) -> QPointF:
        """A place in mm on the widget."""
        return self._view.point(place)

    def place(self, at: QPointF) -> Place:
        """A place of the widget in mm."""
        return self._view.sheet(at)

    def _point_at(self, at: QPointF) -> int | None:
        offs = [apart(self.at(point), at) for point in self.points()]
        best = min(range(len(offs)), key=offs.__getitem__, default=None)
        return best if best is not None and offs[best] < GRAB_PX else None

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
        self.wishes.drag(self.moved(self.held, self.place(event.position())))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self.held = self.held, None
        if held is not None and self._moved:
            self.wishes.drop(self.steps()[0])

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._point_at(event.position()) is not None:
            return
        edit = self.added(self.place(event.position()))
        if edit is not None:
            self.wishes.edit(self.steps()[1], edit)

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
        keys, count, arrow = Qt.Key, len(self.points()), arrow_of(event)
        if event.key() in (keys.Key_PageDown, keys.Key_PageUp) and count:
            step = 1 if event.key() == keys.Key_PageDown else -1
            self.chosen = (step - 1 if self.chosen is None else self.chosen + step) % count
            self.picked.emit()
            self.update()
        elif arrow is not None and self.chosen is not None and self.chosen < count:
            shift = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            mm = NUDGE_MM * (10.0 if shift else 1.0)
            x, y = self.points()[self.chosen]
            place = (x + arrow[0] * mm, y + arrow[1] * mm)
            self.wishes.edit(self.steps()[0], self.moved(self.chosen, place))
        elif event.key() == keys.Key_Delete and self.chosen is not None:
            number, self.chosen = self.chosen, None
            self.wishes.edit(self.steps()[2], self.removed(number))
        else:
            super().keyPressEvent(event)

    # Painting

    def knob(self, painter: QPainter, number: int, place: Place, *, round_one: bool) -> None:
        """One point: round where a curve runs smoothly, square at a corner."""
        at = self.at(place)
        painter.setPen(QPen(QColor(INK), 1.4))
        painter.setBrush(QColor(MARKER if number == self.chosen else WHITE))
        if round_one:
            painter.drawEllipse(at, 4.5, 4.5)
        else:
            painter.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8))
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def told(self, painter: QPainter, words: str) -> None:
        """Words in the middle of an empty pad."""
        painter.setPen(QColor(SOFT))
        inner = self.rect().adjusted(12, 0, -12, 0)
        flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(inner, flags, words)

"""The sheet of an exercise: its task at the head, the exact answer over one's own."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QTabletEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from isometron.drawing.pencils import GRAPHITE, OXBLOOD, PALE_GRAPHITE, TEAL
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.asks import Answer, Stroke
from isometron.practice.drill import HIGH_MM, WIDE_MM, Aid, Exercise, Verdict
from isometron.render.painter import paint_lines, painting_on
from isometron.render.picture import PAPER
from isometron.render.view import View
from isometron.ui.cards.practice.gallery import DrillGallery
from isometron.ui.parts.fold import Scroller
from isometron.ui.parts.theme import INK, SOFT, WHITE, font, scaled
from isometron.ui.parts.touching import apart, arrow_of
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

HEAD_PX = 46
"""Room for the task above what is drawn: two lines of text."""

GALLERY_PX, WIDEST = 10, 4000
"""Room round the gallery of drills, and how wide it may be, px."""

GRAB_PX = 14.0
NUDGE_MM, FAR_MM = 0.5, 5.0
FELT_PX = 26.0
LEAST_STROKE_MM = 0.4


class PracticeSheet(QWidget):
    """One exercise on its paper. Held points are dragged or moved by the arrow keys, strokes are
    drawn with mouse or pen. `wants` is emitted for Return: to answer, or to go on."""

    wants = pyqtSignal()
    skips = pyqtSignal()
    """Shift+Return: the exercise is left unanswered."""

    drawn = pyqtSignal()
    """A stroke has been drawn."""

    picked = pyqtSignal(int)
    """The letter of one of the answers has been typed."""

    moved = pyqtSignal()
    """A held point has come to lie elsewhere."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setObjectName("practice sheet")
        self.setAccessibleName(_("Exercise"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 240)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.exercise: Exercise | None = None
        self.verdict: Verdict | None = None
        self.places: list[Place] = []
        self.stroke: list[Place] = []
        self.aid: Aid | None = None
        self.under: QImage | None = None
        self.pressure = 0.0
        self.chosen = 0
        self._held: int | None = None
        self._drawing = False
        self.gallery = DrillGallery(wishes)
        held = Scroller(self.gallery, WIDEST)
        held.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column = QVBoxLayout(self)
        off = round(FELT_PX) + GALLERY_PX
        column.setContentsMargins(off, round(FELT_PX) + scaled(HEAD_PX), off, off)
        column.addWidget(held)
        self._holder = held

    # What is shown

    def show_exercise(self, exercise: Exercise | None) -> None:
        """A fresh exercise, or none."""
        self.exercise, self.verdict = exercise, None
        self.places = [] if exercise is None else [held.start for held in exercise.asks.held]
        self.stroke, self.chosen, self._held, self.aid = [], 0, None, None
        photo = None if exercise is None or exercise.photo is None else exercise.photo()
        self.under = None if photo is None else QImage.fromData(photo)
        self._holder.setVisible(exercise is None)
        self._describe()
        self.update()

    def show_verdict(self, verdict: Verdict) -> None:
        """What came of it."""
        self.verdict = verdict
        self._describe()
        self.update()

    def show_again(self, exercise: Exercise, answer: Answer) -> None:
        """An exercise with an answer given before, and what came of it."""
        self.show_exercise(exercise)
        self.places, self.stroke = list(answer.places), list(answer.stroke)
        self.show_verdict(exercise.told(answer))

    def show_found(self, answer: Answer, picture: NDArray[np.uint8]) -> None:
        """An answer found on a photograph (rows, columns, 3) of the sheet, which lies under it."""
        rows, columns = picture.shape[:2]
        kind = QImage.Format.Format_RGB888
        whole = np.ascontiguousarray(picture).tobytes()
        self.under = QImage(whole, columns, rows, 3 * columns, kind).copy()
        self.places, self.stroke = list(answer.places), list(answer.stroke)
        self._describe()
        self.update()

    def set_places(self, places: Sequence[Place]) -> None:
        """Places that were typed: of the held points, else of a stroke."""
        assert self.exercise is not None
        if isinstance(self.exercise.asks, Stroke):
            self.stroke = list(places)
        else:
            for number, place in enumerate(places):
                self._move(number, place)
        self._describe()
        self.update()

    def show_aid(self, aid: Aid | None) -> None:
        """Show the light lines of a help, or put them away."""
        self.aid = aid
        self.update()

    @property
    def answer(self) -> Answer:
        """What is drawn so far."""
        return Answer(places=tuple(self.places), stroke=tuple(self.stroke))

    def _describe(self) -> None:
        """The exercise in words, for those who do not see it."""
        if self.exercise is None:
            self.setAccessibleDescription(_("No exercise yet: begin a series."))
            return
        words = [self.exercise.task]
        for held, (x, y) in zip(self.exercise.asks.held, self.places, strict=True):
            words.append(
                _("{what}: {x} mm right, {y} mm up").format(
                    what=held.what, x=f"{x:.1f}", y=f"{y:.1f}"
                )
            )
        words += self.exercise.asks.lettered
        if self.verdict is not None:
            words.append(self.verdict.sentence)
        self.setAccessibleDescription(". ".join(words))

    # Where things lie

    @property
    def view(self) -> View:
        """How the paper lies on the felt."""
        head = scaled(HEAD_PX)
        whole = QRectF(self.rect()).adjusted(FELT_PX, FELT_PX + head, -FELT_PX, -FELT_PX)
        return View.fit((0.0, 0.0, WIDE_MM, HIGH_MM), whole)

    def at(self, place: Place) -> QPointF:
        """A place of the sheet on the widget."""
        return self.view.point(place)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        view, room = self.view, self.wishes.room
        below = QRectF(view.point((0.0, HIGH_MM)), view.point((WIDE_MM, 0.0)))
        paper = below.adjusted(0.0, -scaled(HEAD_PX), 0.0, 0.0)
        if self.exercise is None:  # all of the felt for the gallery
            paper = QRectF(self.rect()).adjusted(FELT_PX, FELT_PX, -FELT_PX, -FELT_PX)
        with painting_on(self) as painter:
            painter.fillRect(self.rect(), QColor(room.felt))
            painter.fillRect(paper, QColor(PAPER))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.exercise is None:
                self._words(
                    painter,
                    paper,
                    _("Short drills on exact geometry: press one, or begin a series."),
                )
                return
            painter.setClipRect(below)
            self._given(painter, self.exercise)
            self._stroke(painter)
            if self.verdict is not None:
                self._truth(painter, self.exercise)
            painter.setClipRect(below.adjusted(-8.0, 0.0, 8.0, 8.0))
            self._points(painter, self.exercise)
            painter.setClipRect(paper)
            told = self.exercise.task if self.verdict is None else self.verdict.sentence
            self._words(painter, paper, told)

    def _given(self, painter: QPainter, exercise: Exercise) -> None:
        """What the exercise gives: its picture, lines, words, and the help asked for."""
        if self.under is not None:
            whole = QRectF(self.at((0.0, HIGH_MM)), self.at((WIDE_MM, 0.0)))
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(whole, self.under)
        if self.aid is not None:
            pen = QPen(QColor(SOFT), 1.0)
            pen.setDashPattern([4.0, 3.0])
            paint_lines(painter, self.view, self.aid.lines, pen)
        paint_lines(painter, self.view, exercise.lines, QPen(QColor(PALE_GRAPHITE), 1.4))
        painter.setFont(font(bold=True))
        painter.setPen(QColor(INK))
        for words, place in exercise.words:
            at = self.at(place)
            flags = Qt.AlignmentFlag.AlignCenter
            painter.drawText(QRectF(at.x() - 20, at.y() - 12, 40, 24), flags, words)

    def _words(self, painter: QPainter, paper: QRectF, words: str) -> None:
        painter.setFont(font(bold=self.verdict is not None))
        painter.setPen(QColor(TEAL if self.verdict is not None else INK))
        head = QRectF(paper.left() + 12, paper.top() + 6, paper.width() - 24, scaled(44))
        flags = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        painter.drawText(head, int(flags), words[:1].upper() + words[1:])

    def _stroke(self, painter: QPainter) -> None:
        if len(self.stroke) > 1:
            pen = QPen(QColor(GRAPHITE), 1.4 + 2.0 * self.pressure)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.drawPolyline(QPolygonF([self.at(place) for place in self.stroke]))

    def _truth(self, painter: QPainter, exercise: Exercise) -> None:
        """The exact answer, and the way from one's own to it."""
        paint_lines(painter, self.view, exercise.drawn, QPen(QColor(TEAL), 1.6))
        pen = QPen(QColor(TEAL), 1.2)
        pen.setDashPattern([3.0, 3.0])
        painter.setFont(font())
        for own, true in zip(self.places, exercise.truth.places, strict=True):
            painter.setPen(pen)
            painter.drawLine(self.at(own), self.at(true))
            painter.setPen(QPen(QColor(TEAL), 1.8))
            painter.drawEllipse(self.at(true), 5.0, 5.0)
            middle = (self.at(own) + self.at(true)) / 2
            words = f"{np.hypot(*np.subtract(own, true)):.1f} mm"
            wide = painter.fontMetrics().horizontalAdvance(words)
            left = middle.x() + (-wide - 12.0 if true[0] < own[0] else 12.0)
            edges = self.at((0.0, 0.0)).x() + 4.0, self.at((WIDE_MM, 0.0)).x() - wide - 4.0
            inside = min(max(left, edges[0]), edges[1])
            painter.drawText(QPointF(inside, middle.y() + 20.0), words)

    def _points(self, painter: QPainter, exercise: Exercise) -> None:
        """The held points, and what they trace: what the answer draws."""
        lines = exercise.asks.drawn(self.answer)
        colour = GRAPHITE if self.under is None else OXBLOOD  # told apart from what is pictured
        paint_lines(painter, self.view, lines, QPen(QColor(colour), 1.4))
        for number, place in enumerate(self.places):
            held = exercise.asks.held[number]
            at = self.at(place)
            if held.along is not None and self.verdict is None:
                way = np.array(held.along[1]) * 5.0
                ends = (np.subtract(place, way), np.add(place, way))
                painter.setPen(QPen(QColor(SOFT), 1.0))
                painter.drawLine(*(self.at((float(x), float(y))) for x, y in ends))
            hot = number == self.chosen and self.hasFocus() and self.verdict is None
            painter.setPen(QPen(QColor(INK), 2.4 if hot else 1.6))
            painter.setBrush(QColor(self.wishes.room.lamp if hot else WHITE))
            painter.drawEllipse(at, 6.0, 6.0)
            painter.setBrush(Qt.BrushStyle.NoBrush)

    # Under the hand

    def _take(self, at: QPointF) -> None:
        if self.exercise is None or self.verdict is not None:
            return
        if isinstance(self.exercise.asks, Stroke):
            self._drawing, self.stroke = True, [self.view.sheet(at)]
            return
        offs = [apart(self.at(place), at) for place in self.places]
        if offs and min(offs) < GRAB_PX:
            self._held = self.chosen = int(np.argmin(offs))
        self.update()

    def _carry(self, at: QPointF) -> None:
        if self._drawing:
            place = self.view.sheet(at)
            if np.hypot(*np.subtract(place, self.stroke[-1])) >= LEAST_STROKE_MM:
                self.stroke.append(place)
        elif self._held is not None:
            self._move(self._held, self.view.sheet(at))
        self.update()

    def _leave(self) -> None:
        if self._drawing and len(self.stroke) > 1:
            self.drawn.emit()
        self._held, self._drawing = None, False
        self._describe()
        self.moved.emit()

    def _move(self, number: int, place: Place) -> None:
        assert self.exercise is not None
        x, y = self.exercise.asks.held[number].kept(place)
        self.places[number] = (min(max(x, 0.0), WIDE_MM), min(max(y, 0.0), HIGH_MM))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() is Qt.MouseButton.LeftButton:
            self._take(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._carry(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._leave()

    def tabletEvent(self, event: QTabletEvent | None) -> None:
        if event is None:
            return
        self.pressure = event.pressure()
        kinds = {
            event.Type.TabletPress: lambda: self._take(event.position()),
            event.Type.TabletMove: lambda: self._carry(event.position()),
            event.Type.TabletRelease: self._leave,
        }
        act = kinds.get(event.type())
        if act is not None:
            act()
            event.accept()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            shift = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            (self.skips if shift else self.wants).emit()
            return
        letter = ord(event.text().lower()) - ord("a") if len(event.text()) == 1 else -1
        if self.exercise is not None and 0 <= letter < len(self.exercise.asks.lettered):
            self.picked.emit(letter)
            return
        arrow = arrow_of(event)
        if self.exercise is None or self.verdict is not None or not self.places:
            super().keyPressEvent(event)
        elif event.key() in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp):
            step = 1 if event.key() == Qt.Key.Key_PageDown else -1
            self.chosen = (self.chosen + step) % len(self.places)
            self.update()
        elif arrow is not None:
            far = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._nudge(arrow, FAR_MM if far else NUDGE_MM)
        else:
            super().keyPressEvent(event)

    def _nudge(self, arrow: Sequence[int], mm: float) -> None:
        """Move the chosen point: along its line where it has one."""
        assert self.exercise is not None
        held, way = self.exercise.asks.held[self.chosen], np.array(arrow, dtype=float)
        place = np.array(self.places[self.chosen])
        if held.along is not None:
            line: Array = np.array(held.along[1])
            way = line * (1.0 if float(line @ way) >= 0 else -1.0)
        x, y = (place + mm * way).tolist()
        self._move(self.chosen, (x, y))
        self._describe()
        self.moved.emit()
        self.update()

"""The picture on the felt: looked at, marked, and taken hold of."""

import itertools
from collections.abc import Callable
from dataclasses import dataclass, field

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from isometron.document.document import Document
from isometron.document.edits.pictures import marking
from isometron.document.edits.pictures.bringing import move_corner
from isometron.document.edits.pictures.marking import mark_of, places_of
from isometron.document.marks import Place
from isometron.document.picture import EDGE, ROUND, Mark, SheetPicture
from isometron.perspective.errors import IsometronError
from isometron.reading.in_words import spoken
from isometron.reading.judging import Fault
from isometron.reading.of_picture import PictureReading
from isometron.render.painter import painting_on
from isometron.render.view import View
from isometron.ui.board.pictures.painting import (
    Seen,
    paint_corners,
    paint_faults,
    paint_lens,
    paint_marks,
    paint_picture,
    paint_pins,
)
from isometron.ui.board.pictures.tools import Given, PictureTool
from isometron.ui.parts.theme import INK, MARKER, scaled
from isometron.ui.parts.touching import apart, arrow_of, from_line
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

DRAG_PX = 3.0
GRAB_PX = 9.0
LINE_GRAB_PX = 7.0
SNAP_PX = 9.0
"""A line drawn by hand lays itself to an edge within so many px of the screen."""

NUDGE_PX = {"plain": 1.0, "shift": 10.0, "control": 0.1}
CURSOR_PX = 8.0
"""How far an arrow key moves the place a tool is aimed at, px of the screen."""

FREE = (16.0, 44.0, 16.0, 52.0)
"""Felt left free round a fitted picture: left, above, right, below, px."""

LEAST_SCALE, MOST_SCALE = 0.005, 40.0


@dataclass
class Hold:
    """A press that may become a drag: of an end, of whole marks, of the felt, or with a tool."""

    at: QPointF
    mark: Mark | None = None
    end: int | None = None
    pans: View | None = None
    tool: PictureTool | None = None
    corner: int | None = None
    moved: bool = False
    path: list[Place] = field(default_factory=list)


class PictureBoard(QWidget):
    """The picture in work. `chosen` are the marks in work."""

    chose = pyqtSignal()
    """Other marks are in work."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setObjectName("picture board")
        self.setAccessibleName(_("Picture"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 240)
        self.setAcceptDrops(True)
        self.chosen: tuple[Mark, ...] = ()
        self.end = 0
        self.tool: PictureTool | None = None
        self.places: list[Place] = []
        self.faults: list[Fault] = []
        self._picture: SheetPicture | None = None
        self._read: PictureReading | None = None
        self._view = View(1.0, 0.0, 0.0)
        self._fitted = True
        self._hold: Hold | None = None
        self._pointer: QPointF | None = None
        self._space = False
        self.words: Callable[[str], None] = lambda words: None

    # What is shown

    @property
    def view(self) -> View:
        """How the picture lies on the felt."""
        return self._view

    @property
    def picture(self) -> SheetPicture | None:
        """The picture shown."""
        return self._picture

    def show_picture(self, picture: SheetPicture | None) -> None:
        """Another picture, or another state of it."""
        before, self._picture = self._picture, picture
        if picture is None or before is None or picture.file != before.file:
            self.chosen, self.end, self.places = (), 0, []
            self._read = None
            self.faults = []
            self._fitted = True
        elif picture is not before:
            kept = tuple(m for m in self.chosen if mark_of(picture, m) is not None)
            if kept != self.chosen:
                self.choose(kept)
        if self._fitted:
            self.fit()
        self._describe()
        self.update()

    def show_reading(self, read: PictureReading | None) -> None:
        """What the marks say now."""
        self._read = read
        self._describe()
        self.update()

    def show_faults(self, faults: list[Fault]) -> None:
        """What is off in a sketch."""
        self.faults = faults
        self.update()

    def _describe(self) -> None:
        if self._picture is None:
            self.setAccessibleDescription(_("No picture lies here yet."))
        else:
            self.setAccessibleDescription(spoken(self._picture, self._read))

    def choose(self, marks: tuple[Mark, ...]) -> None:
        """Put marks in work."""
        self.chosen, self.end = marks, 0
        self.chose.emit()
        self.update()

    def fit(self) -> None:
        """The whole picture in view."""
        self._fitted = True
        if self._picture is None:
            return
        left, above, right, below = (scaled(px) for px in FREE)
        box = QRectF(
            left,
            above,
            max(self.width() - left - right, 50),
            max(self.height() - above - below, 50),
        )
        self._view = View.fit((0.0, 0.0, *self._picture.size), box)
        self.update()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Closer or further, about a place of the board."""
        at = about or QPointF(self.rect().center())
        self._fitted = False
        scale = min(max(self._view.scale * factor, LEAST_SCALE), MOST_SCALE)
        share = scale / self._view.scale
        left = at.x() + (self._view.left - at.x()) * share
        bottom = at.y() + (self._view.bottom - at.y()) * share
        self._view = View(scale, left, bottom)
        self.update()

    def arm(self, tool: PictureTool | None) -> None:
        """Take a tool in hand, or lay it down."""
        self.tool, self.places, self._hold = tool, [], None
        self.setCursor(Qt.CursorShape.ArrowCursor if tool is None else Qt.CursorShape.CrossCursor)
        if tool is not None:
            self.setFocus()
        self.words(self.usual_hint)
        self.update()

    @property
    def usual_hint(self) -> str:
        """What to do with the tool in hand."""
        if self.tool is None:
            return ""
        return _("{tool}: {hint} Esc ends it.").format(tool=self.tool.title, hint=self.tool.hint)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.fillRect(self.rect(), QColor(self.wishes.room.felt))
            if self._picture is not None:
                self._paint(painter, self._picture)
            if self.hasFocus() and self._picture is not None:
                painter.setPen(QPen(QColor(self.wishes.room.felt_focus), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _paint(self, painter: QPainter, picture: SheetPicture) -> None:
        if not paint_picture(painter, picture, self._view, self.size()):
            painter.setPen(QColor(self.wishes.room.felt_ink))
            words = _("This picture is damaged and cannot be shown: open it anew from its file.")
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, words)
            return
        read = None if self._read is None else self._read.reading
        room = self.wishes.room
        seen = Seen(picture, read, self._view, self.size(), room, self.chosen, self.end)
        paint_marks(painter, seen)
        paint_faults(painter, seen, self.faults)
        paint_corners(painter, seen)
        paint_pins(painter, picture, self._view, room)
        self._paint_tool(painter, picture)

    def _paint_tool(self, painter: QPainter, picture: SheetPicture) -> None:
        hold, pointer = self._hold, self._pointer
        drawing = hold is not None and hold.moved and hold.tool is not None
        places = [self._view.point(p) for p in self.places]
        if drawing and hold is not None and pointer is not None:
            places = [hold.at, pointer]
        if self.tool is not None and places:
            painter.setPen(QPen(QColor(MARKER), 2.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            tool = self.tool
            if drawing and tool.boxed is not None:
                painter.drawRect(QRectF(places[0], places[1]).normalized())
            elif tool.key == "mark corner":
                for place in [*places[1:], *([pointer] if pointer is not None else [])]:
                    painter.drawLine(places[0], place)
            else:
                for one, two in itertools.pairwise(places):
                    painter.drawLine(one, two)
                if pointer is not None and not tool.closed and not drawing:
                    painter.drawLine(places[-1], pointer)
            painter.setBrush(QColor(INK))
            for place in places:
                painter.drawEllipse(place, 3.0, 3.0)
            painter.setBrush(Qt.BrushStyle.NoBrush)
        aims = self.tool is not None and (bool(self.places) or drawing or self.tool.least == 1)
        moves = hold is not None and hold.moved and (hold.mark or hold.corner) is not None
        if pointer is not None and (aims or moves):
            at = self._view.sheet(pointer)
            if 0 <= at[0] <= picture.width and 0 <= at[1] <= picture.height:
                paint_lens(painter, picture, at, pointer, self._view, self.size())

    # The hand

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        if self._fitted:
            self.fit()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._picture is None:
            return
        at = event.position()
        self._pointer = at
        if event.button() == Qt.MouseButton.MiddleButton or self._space:
            self._hold = Hold(at, pans=self._view)
        elif event.button() != Qt.MouseButton.LeftButton:
            return
        elif self.tool is not None:
            self._hold = Hold(at, tool=self.tool)
        else:
            self._hold = self._taken_hold(at)

    def _taken_hold(self, at: QPointF) -> Hold:
        """What lies under a place: an end of what is in work, a mark, or the felt."""
        picture = self._picture
        assert picture is not None
        for number, place in enumerate(picture.corners):
            if apart(self._view.point(place), at) < GRAB_PX + 3:
                return Hold(at, corner=number, path=[place])
        if len(self.chosen) == 1:
            one = mark_of(picture, self.chosen[0])
            for number, place in enumerate(places_of(one)):
                if apart(self._view.point(place), at) < GRAB_PX:
                    return Hold(at, mark=self.chosen[0], end=number)
        mark = self.mark_at(at)
        return Hold(at, pans=self._view) if mark is None else Hold(at, mark=mark)

    def mark_at(self, at: QPointF) -> Mark | None:
        """The mark that lies nearest to a place of the board, within reach."""
        picture = self._picture
        if picture is None:
            return None
        best: tuple[float, Mark] | None = None
        for mark, one in marking.every_mark(picture):
            places = [self._view.point(p) for p in places_of(one)]
            if mark.kind == ROUND:
                far = min(
                    from_line(a, b, at)
                    for a, b in zip(places, [*places[1:], places[0]], strict=True)
                )
            else:
                far = from_line(places[0], places[-1], at)
            far += 1.0 if getattr(one, "left", False) else 0.0
            if far < LINE_GRAB_PX and (best is None or far < best[0]):
                best = far, mark
        return None if best is None else best[1]

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._picture is None:
            return
        self._pointer, hold = event.position(), self._hold
        if hold is None:
            self._hover(event.position())
        elif hold.moved or apart(hold.at, event.position()) >= DRAG_PX:
            hold.moved = True
            self._drag(hold, event.position())
        self.update()

    def _hover(self, at: QPointF) -> None:
        if self.tool is not None:
            return
        mark = self.mark_at(at)
        shape = Qt.CursorShape.ArrowCursor if mark is None else Qt.CursorShape.PointingHandCursor
        self.setCursor(shape)
        self.words("" if mark is None else self.told_of(mark))

    def told_of(self, mark: Mark) -> str:
        """A mark in words, and what a click does."""
        picture = self._picture
        one = None if picture is None else mark_of(picture, mark)
        if one is None:
            return ""
        name = one.name or _(mark.kind)
        family = getattr(one, "family", getattr(one, "axle", ""))
        if mark.kind == EDGE and one.found:
            does = _("click takes it in") if one.left else _("click leaves it out")
        else:
            does = _("click puts it in work")
        misses = self._misses(mark)
        if misses:
            return _("{name}: {misses}; {does}.").format(name=name, misses=misses, does=does)
        if family and not getattr(one, "left", False):
            return _("{name}, runs with {family}: {does}.").format(
                name=name, family=_(family), does=does
            )
        return f"{name}: {does}."

    def _misses(self, mark: Mark) -> str:
        """Why an edge does not count, when it was set aside."""
        if self._read is None or mark.kind != EDGE:
            return ""
        aside = self._read.reading.set_aside
        return next((one.why for one in aside if one.edge == mark.number), "")

    def _drag(self, hold: Hold, at: QPointF) -> None:
        if hold.pans is not None:
            self._fitted = False
            self._view = hold.pans.panned(at - hold.at)
        elif hold.corner is not None:
            number, (x, y) = hold.corner, hold.path[0]
            right, up = self._view.moved(at - hold.at)
            self.wishes.drag(lambda d: move_corner(d, number, (x + right, y + up)))
        elif hold.mark is not None:
            mark, end = hold.mark, hold.end
            right, up = self._view.moved(at - hold.at)
            if end is None:
                self.wishes.drag(lambda d: marking.move_marks(d, [mark], right, up))
                return
            picture = self.wishes.document.photograph if hold.path else self._picture
            if not hold.path and picture is not None:
                hold.path.append(places_of(mark_of(picture, mark))[end])
            x, y = hold.path[0]
            self.wishes.drag(lambda d: marking.move_end(d, mark, end, (x + right, y + up)))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        hold, self._hold = self._hold, None
        if hold is None or event is None or self._picture is None:
            return
        held = event.modifiers()
        if hold.tool is not None:
            snaps = not held & Qt.KeyboardModifier.AltModifier
            if hold.moved:
                places = [self._view.sheet(hold.at), self._view.sheet(event.position())]
                self._dragged(hold.tool, places, snaps=snaps)
            else:
                self.place(self._view.sheet(event.position()), snaps=snaps)
        elif hold.moved and hold.corner is not None:
            self.wishes.drop(_("move a corner of the paper"))
        elif hold.moved and hold.mark is not None:
            if self.chosen != (hold.mark,):
                self.choose((hold.mark,))
            self.wishes.drop(_("move a mark"))
        elif not hold.moved and hold.corner is None:
            self._clicked(hold.mark, more=bool(held & Qt.KeyboardModifier.ControlModifier))
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.tool is not None and len(self.places) >= self.tool.least:
            self.finish_tool(snaps=True)
        elif event is not None:
            self.mousePressEvent(event)

    def _clicked(self, mark: Mark | None, *, more: bool) -> None:
        if mark is None:
            if not more:
                self.choose(())
            return
        if more:
            others = tuple(m for m in self.chosen if m != mark)
            self.choose(others if mark in self.chosen else (*self.chosen, mark))
            return
        picture = self._picture
        one = None if picture is None else mark_of(picture, mark)
        self.choose((mark,))
        if mark.kind == EDGE and one is not None and one.found:
            self.take_or_leave()

    def take_or_leave(self) -> None:
        """What is in work taken into the reading, or left out; a stray line is taken with the
        family it runs nearest to."""
        picture, marks = self._picture, self.chosen
        if picture is None or not marks:
            return
        from isometron.reading.of_picture import STRAY, likely_family

        read = None if self._read is None else self._read.reading

        def edit(document: Document) -> Document:
            for mark in marks:
                one = mark_of(picture, mark)
                if mark.kind == EDGE and one.family == STRAY:
                    family = likely_family(picture, one.start, one.end, read)
                    document = marking.change_marks(document, [mark], family=family)
            return marking.take_or_leave(document, marks)

        self.wishes.edit(_("take or leave a line"), edit)

    # Tools

    def place(self, at: Place, *, snaps: bool) -> None:
        """A place clicked with the tool in hand."""
        tool = self.tool
        if tool is None:
            return
        if not self.places or self.places[-1] != at:
            self.places.append(at)
        if len(self.places) >= tool.most:
            self.finish_tool(snaps=snaps)
        else:
            self.words(self._still_to_do(tool))
        self.update()

    def _still_to_do(self, tool: PictureTool) -> str:
        left = max(tool.least - len(self.places), 0)
        if left == 0:
            return _("{tool}: go on, or press Enter.").format(tool=tool.title)
        return _("{tool}: {count} more.").format(tool=tool.title, count=left)

    def _dragged(self, tool: PictureTool, places: list[Place], *, snaps: bool) -> None:
        boxed = tool.boxed
        if boxed is not None:
            self._mark(tool.name, lambda d: boxed(d, self._given(places, snaps=snaps)))
        elif tool.drags:
            self.places = places
            self.finish_tool(snaps=snaps)
        else:
            self.place(places[1], snaps=snaps)

    def finish_tool(self, *, snaps: bool = True) -> None:
        """The places so far are a mark. Says what is missing when they are too few."""
        tool, places = self.tool, self.places
        if tool is None:
            return
        if len(places) < tool.least:
            self.words(self._still_to_do(tool))
            return
        self.places = []
        self._mark(tool.name, lambda d: tool.marks(d, self._given(places, snaps=snaps)))

    def _given(self, places: list[Place], *, snaps: bool) -> Given:
        return Given(places, snaps, SNAP_PX / self._view.scale, self._read)

    def _mark(self, name: str, edit: Callable[[Document], Document]) -> None:
        before = self._picture
        if self.wishes.edit(name, edit) and self._picture is not None and before is not None:
            known = {mark for mark, _one in marking.every_mark(before)}
            new = [m for m, _one in marking.every_mark(self._picture) if m not in known]
            self.choose(tuple(new[:1]))
            self.words(self.usual_hint)

    # Keyboard

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
        super().keyReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key, arrow = event.key(), arrow_of(event)
        if key == Qt.Key.Key_Escape:
            self.escape()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.tool is not None:
            aimed = self._pointer is not None and self.tool.most <= len(self.places) + 1
            if self.tool.least > len(self.places) or aimed:
                self.place(self._view.sheet(self._aimed()), snaps=True)
            else:
                self.finish_tool()
        elif key == Qt.Key.Key_Space and self.tool is not None:
            self.place(self._view.sheet(self._aimed()), snaps=True)
        elif key == Qt.Key.Key_Space:
            self._space = True
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp):
            self._step(1 if key == Qt.Key.Key_PageDown else -1)
        elif key == Qt.Key.Key_Tab and len(self.chosen) == 1:
            super().keyPressEvent(event)
        elif arrow is not None and self.tool is not None:
            self._pointer = self._aimed() + QPointF(arrow[0], -arrow[1]) * CURSOR_PX
            self.update()
        elif arrow is not None and self.chosen:
            self._nudge(*arrow, event)
        else:
            super().keyPressEvent(event)

    def _aimed(self) -> QPointF:
        return self._pointer or QPointF(self.rect().center())

    def escape(self) -> None:
        """Give up the drag, then the places so far, then the tool, then what is in work."""
        if self._hold is not None and self._hold.mark is not None:
            self.wishes.let_go()
        elif self.places:
            self.places = []
            self.words(self.usual_hint)
        elif self.tool is not None:
            self.wishes.do("lay picture tool down")
        else:
            self.choose(())
        self._hold = None
        self.update()

    def _step(self, by: int) -> None:
        """The next mark in work, or the next end of it."""
        picture = self._picture
        if picture is None:
            return
        every = [mark for mark, _one in marking.every_mark(picture)]
        if not every:
            return
        if len(self.chosen) == 1 and self.chosen[0] in every:
            ends = len(places_of(mark_of(picture, self.chosen[0])))
            if 0 <= self.end + by < min(ends, 60):
                self.end += by
                self._say_end()
                return
            at = every.index(self.chosen[0]) + by
        else:
            at = 0 if by > 0 else -1
        self.choose((every[at % len(every)],))
        self._say_end()

    def _say_end(self) -> None:
        words = _("{mark} — arrow keys move its end {number}.").format(
            mark=self.told_of(self.chosen[0]).rstrip("."), number=self.end + 1
        )
        self.words(words)
        self.setAccessibleDescription(words)
        self.update()

    def _nudge(self, right: int, up: int, event: QKeyEvent) -> None:
        held = event.modifiers()
        step = "plain"
        if held & Qt.KeyboardModifier.ControlModifier:
            step = "control"
        elif held & Qt.KeyboardModifier.ShiftModifier:
            step = "shift"
        px, marks, end = NUDGE_PX[step], self.chosen, self.end
        picture = self._picture
        assert picture is not None
        try:
            if len(marks) == 1:
                x, y = places_of(mark_of(picture, marks[0]))[end]
                place = (x + px * right, y + px * up)
                self.wishes.edit(
                    _("nudge a mark"), lambda d: marking.move_end(d, marks[0], end, place)
                )
            else:
                self.wishes.edit(
                    _("nudge a mark"),
                    lambda d: marking.move_marks(d, marks, px * right, px * up),
                )
        except IsometronError as error:
            self.wishes.refuse(str(error))

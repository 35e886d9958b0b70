"""The picture on the felt: looked at, marked, and taken hold of."""

from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QResizeEvent,
    QWheelEvent,
)

from isometron.document.document import Document, Edit
from isometron.document.edits.pictures import marking
from isometron.document.edits.pictures.bringing import move_corner
from isometron.document.edits.pictures.marking import mark_of, places_of
from isometron.document.picture import EDGE, ROUND, Mark
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.ui.board.pictures.asking import ANSWERS, Pass
from isometron.ui.board.pictures.shown import Hold, PictureShown
from isometron.ui.board.pictures.tools import Given, PictureTool
from isometron.ui.parts.touching import apart, arrow_of, from_line
from isometron.words import _

DRAG_PX = 3.0
GRAB_PX = 9.0
LINE_GRAB_PX = 7.0
SNAP_PX = 9.0
"""A line drawn by hand lays itself to an edge within so many px of the screen."""

NUDGE_PX = {"plain": 1.0, "shift": 10.0, "control": 0.1}
CURSOR_PX = 8.0
"""How far an arrow key moves the place a tool is aimed at, px of the screen."""


class PictureBoard(PictureShown):
    """The picture on the felt, under the hand."""

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
        if mark.kind == EDGE and one.found and self.chosen == (mark,):
            does = _("another click takes it in") if one.left else _("another click leaves it out")
        else:
            does = _("click picks it")
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
        again = self.chosen == (mark,)
        self.choose((mark,))
        if again and mark.kind == EDGE and one is not None and one.found:
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

        self.wishes.edit(_("leave out or take in a line"), edit)

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

    def _mark(self, name: str, edit: Edit) -> None:
        before = self._picture
        if self.wishes.edit(name, edit) and self._picture is not None and before is not None:
            known = {mark for mark, _one in marking.every_mark(before)}
            new = [m for m, _one in marking.every_mark(self._picture) if m not in known]
            self.choose(tuple(new[:1]))
            self.words(self.usual_hint)

    # Asking

    def ask(self) -> None:
        """Go through the unsure strokes."""
        if self._picture is None:
            return
        self.arm(None)
        self.asking = Pass(self._picture)
        self.setFocus()
        self._ask_on()

    def _ask_on(self) -> None:
        asked = self.asking
        if asked is None:
            return
        mark = asked.mark
        self.choose(() if mark is None else (mark,))
        self.words(asked.words)
        self.setAccessibleDescription(asked.words)
        if mark is None:
            self.asking = None

    def _answer(self, key: int) -> bool:
        """What a key says of the stroke in question; gives whether it says anything."""
        asked = self.asking
        if asked is None or (key not in ANSWERS and key != Qt.Key.Key_Space):
            return False
        away = key == Qt.Key.Key_0
        if key != Qt.Key.Key_Space and not self.wishes.edit(
            _("tell a stroke"), lambda d: asked.answered(d, key)
        ):
            return True
        asked.go_on(taken_away=away)
        self._ask_on()
        return True

    # Keyboard

    def event(self, event: QEvent | None) -> bool:
        """While strokes are asked, the keys that answer are no shortcuts."""
        if isinstance(event, QKeyEvent) and self.asking is not None:
            if event.type() == QEvent.Type.ShortcutOverride and event.key() in ANSWERS:
                event.accept()
                return True
            if event.type() == QEvent.Type.KeyPress and self._answer(event.key()):
                return True
        return super().event(event)

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
        if self.asking is not None:
            self.asking = None
            self.words("")
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

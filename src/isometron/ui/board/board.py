"""The board: the sheet on its desk, and everything on it that can be taken hold of."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QCursor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)

from isometron.document.document import Document
from isometron.document.edits import sliding
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene, bare
from isometron.framework.dimensions import Dimension
from isometron.perspective.eye import Array
from isometron.render.painter import painting_on
from isometron.render.view import Point, View
from isometron.ui.board.desk import Surroundings
from isometron.ui.board.flags import flags_of
from isometron.ui.board.handles.bodies import face_handle, volume_handle
from isometron.ui.board.handles.handle import Handle
from isometron.ui.board.handles.table import handles_of, load
from isometron.ui.board.marks import Marks
from isometron.ui.board.standing_layer import StandingLayer
from isometron.ui.board.tools import MEASURE, Keys, Tool
from isometron.ui.board.touch import Touch
from isometron.ui.board.view import BoardView
from isometron.ui.parts.theme import font
from isometron.ui.parts.touching import apart, arrow_of
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.construction.stages import Stage

NUDGE_MM = {"plain": 1.0, "shift": 10.0, "control": 0.1}
DRAG_PX = 3.0
"""A press that moves less than this is a click."""

NOTHING = np.empty((0, 4))

load()


@dataclass
class _Grip:
    """A press on the board that may become a drag."""

    at: QPointF
    handle: Handle | None = None
    pick: Pick | None = None
    pans: View | None = None
    moved: bool = False
    tool: Tool | None = None


class Board(BoardView):
    """The board. Shows a document, and wishes for what the person wants done to it."""

    armed_changed = pyqtSignal()

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes)
        self.setObjectName("board")
        self.setAccessibleName(_("Board"))
        self.setAccessibleDescription(
            _(
                "The sheet on its desk. Page Down and Page Up choose a handle, "
                "the arrow keys move it."
            )
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 240)
        self._standing, self._bare = StandingLayer(), StandingLayer()
        self._scene: Scene | None = None
        self._grip: _Grip | None = None
        self._hot: str | None = None
        self._keyed: str | None = None
        self._pick: Pick | None = None
        self._spot: Point | None = None
        self._tool: Tool | None = None
        self._stroke = 0
        self._aim: Pick | None = None
        self._measured: tuple[Pick, ...] = ()
        self._preview: Dimension | None = None
        self._space = False
        self._unpaintable: Scene | None = None
        self._pointer = QPointF()
        self._ghost: Array = NOTHING
        self._stage: Stage | None = None
        self._stopped_at = ""
        self.truly = False
        """Whether the arrow keys move a volume by true mm instead of mm on the paper."""

    # What is shown

    def show_document(
        self, document: Document, scene: Scene, pick: Pick | None, ghost: Array = NOTHING
    ) -> None:
        """Show another document with what is picked; `ghost` are lines of what has just been
        changed."""
        self._ghost, self._pick = ghost, pick
        resized = self._document is None or self._document.sheet != document.sheet
        self._document, self._scene = document, scene
        self._handles = handles_of(document, scene)
        if resized and self._fitted is not None:
            self._fitted()
        self.flags = flags_of(document, self._handles, self._view, self.size())
        self.update()

    def show_stage(self, stage: "Stage | None") -> None:
        """Show a stage of the build order instead of the finished lines; None shows those again."""
        if stage is not self._stage:
            self._stage = stage
            self.update()

    def show_spot(self, place: Point | None) -> None:
        """Circle a place that a remark speaks of, bringing it into view."""
        self._spot = place
        if place is not None and not self.rect().contains(self._view.point(place).toPoint()):
            self.fit_board()
        self.update()

    def show_measured(self, measured: "tuple[Pick, ...]", mark: Dimension | None) -> None:
        """Show what is being measured between, and the mark that could be pinned."""
        self._measured, self._preview = measured, mark
        self.update()

    @property
    def armed(self) -> Tool | None:
        """The drawing tool in hand."""
        return self._tool

    def arm(self, tool: Tool | None) -> None:
        """Take a drawing tool in hand, or lay it down."""
        if tool is not self._tool:
            self._tool, self._aim, self._stroke = tool, None, 0
            shape = Qt.CursorShape.ArrowCursor if tool is None else Qt.CursorShape.CrossCursor
            self.setCursor(shape)
            if tool is not None:
                self.setFocus()  # so that Escape reaches it
            self.armed_changed.emit()
            self.update()
        self.wishes.hint(self.usual_hint)

    @property
    def usual_hint(self) -> str:
        """What the plate says when there is nothing else: what to do with the tool in hand."""
        if self._tool is None:
            return ""
        hint = self._tool.strokes[self._stroke].hint
        return _("{tool}: {hint} Esc ends it.").format(tool=self._tool.title, hint=hint)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._document is None or self._scene is None:
            return
        if self._unpaintable is self._scene:
            return
        try:
            with painting_on(self) as painter:
                self.paint(painter, self._document, self._scene)
        except Exception:
            self._unpaintable = self._scene  # said once, not at every frame
            raise

    def paint(self, painter: QPainter, document: Document, scene: Scene) -> None:
        """Everything on the board."""
        around = Surroundings(
            self._view,
            QSize(self.width(), self.height()),
            self.devicePixelRatioF(),
            document.sheet,
            document.choices.unit,
            document.choices.cone_deg,
            self.wishes.room,
        )
        if self._stage is not None:
            self._paint_stage(painter, self._stage, around, document, scene)
            return
        painter.drawPixmap(0, 0, self._standing.picture(around, document, scene))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        marks = Marks(around.room, self._view, self.size(), document)
        pick = self._pick if self._pick and self._pick.is_there(scene) else None
        measuring = self._tool is MEASURE
        picked = [*self._measured, self._aim] if measuring or self._measured else [pick]
        for one in picked:
            if one is not None and one.is_there(scene):
                marks.pick(painter, scene, one)
        marks.layers(painter, scene)
        marks.framework(painter, scene, self._ghost)
        if self._preview is not None:
            marks.measure(painter, self._preview)
        self._paint_handles(painter, marks)
        if self._spot is not None:
            marks.spot(painter, self._spot)
        if self._tool is not None:
            marks.armed(painter)
        if self._grip and self._grip.moved and self._grip.handle:
            words = self._grip.handle.number(document, scene)
            marks.tag(painter, self._pointer, words, self._stopped_at)
        elif self._grip and self._grip.moved and self._grip.tool and self._stopped_at:
            marks.tag(painter, self._pointer, self._stopped_at)
        elif pick is not None and not self._measured and not measuring:
            marks.pick_tag(painter, scene, pick)

    def _paint_handles(self, painter: QPainter, marks: Marks) -> None:
        flagged = {flag.handle.key for flag in self.flags}
        hot = self._grip.handle.key if self._grip and self._grip.handle else self._hot
        hot = hot or (self._keyed if self.hasFocus() else None)
        for handle in reversed(self._handles):
            if handle.key not in flagged:
                handle.paint(painter, marks.on, hot=handle.key == hot)
        for flag in self.flags:
            flag.paint(painter, marks.on, hot=flag.handle.key == hot)

    def _paint_stage(
        self,
        painter: QPainter,
        stage: "Stage",
        around: Surroundings,
        document: Document,
        scene: Scene,
    ) -> None:
        """A stage of the build order on the bare sheet."""
        from isometron.render.stage import paint_on_desk

        painter.drawPixmap(0, 0, self._bare.picture(around, document, bare(scene)))
        painter.setFont(font(bold=True))
        paint_on_desk(painter, self._view, stage, around.paper, QRectF(self.rect()))

    def _touch(self) -> Touch:
        """What lies where on the board just now."""
        assert self._document is not None and self._scene is not None
        return Touch(self._document, self._scene, self._view, self._handles, self.flags)

    # Mouse

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._document is None:
            return
        at = event.position()
        self.show_spot(None)
        if self._stage is not None and event.button() == Qt.MouseButton.LeftButton:
            name = self._touch().stroke_at(at, self._stage)
            if name is not None:
                self.wishes.choose_line(name)
            else:
                self._grip = _Grip(at, pans=self._view)
            return
        if event.button() == Qt.MouseButton.MiddleButton or self._space:
            self._grip = _Grip(at, pans=self._view)
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._tool is not None:
            self._grip = _Grip(at, tool=self._tool)
            return
        handle = self._touch().handle_at(at)
        if handle is not None:
            self._grip = _Grip(at, handle=handle, pick=handle.pick)
            return
        pick, line = self._touch().pick_at(at), self._touch().line_at(at)
        if line is not None and (pick is None or pick.broad):
            self._grip = _Grip(at, handle=line)
        elif pick is not None:
            self._grip = _Grip(at, pick=pick)
        else:
            self._grip = _Grip(at, pans=self._view)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._document is None:
            return
        self._pointer = event.position()
        grip = self._grip
        if grip is None:
            self._hover(event.position())
            return
        if not grip.moved and apart(grip.at, event.position()) < DRAG_PX:
            return
        if not grip.moved:
            grip.moved = True
            self._take_hold(grip)
        shifted = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        snap = not event.modifiers() & Qt.KeyboardModifier.AltModifier
        if grip.tool is not None:
            self._draw(grip.tool, grip.at, event.position(), _keys(event))
        elif grip.pans is not None:
            self._fitted = None
            self._look(grip.pans.panned(event.position() - grip.at))
        elif grip.handle is not None:
            self._drag(grip, grip.handle, event.position(), shifted=shifted, snap=snap)

    def _draw(self, tool: Tool, start: QPointF, at: QPointF, keys: Keys) -> None:
        """What a tool draws from one place of the board to another."""
        draws = tool.strokes[self._stroke].draws
        first, to = self._view.sheet(start), self._view.sheet(at)
        self._stopped_at = ""
        if draws is None:
            return

        def edit(document: Document) -> Document:
            done = draws(document, first, to, keys)
            self._stopped_at = done.words
            return done.document

        self.wishes.drag(edit)

    def _use(self, tool: Tool, grip: _Grip, at: QPointF, keys: Keys) -> None:
        """A tool set down where it was pressed, or at the end of its drag."""
        stroke = tool.strokes[self._stroke]
        if stroke.draws is None:
            pick = self._touch().pick_at(at, corners=True)
            if pick is None:
                self.wishes.refuse(_("Nothing lies there: click a corner, an edge or a face."))
            else:
                self.wishes.measure(pick)
        elif grip.moved or stroke.clicks:
            if not grip.moved:
                self._draw(tool, at, at, keys)
            drawn = self.wishes.dragging
            self.wishes.drop(stroke.name)
            self._stroke = (self._stroke + drawn) % len(tool.strokes)
        self.wishes.hint(self.usual_hint)

    def _take_hold(self, grip: _Grip) -> None:
        """A press turns into a drag: a picked face slides, a volume is dragged by its body."""
        self._stopped_at = ""
        if grip.handle is None and grip.pick is not None and self._document is not None:
            known = self._pick
            self.wishes.pick(grip.pick)
            if isinstance(grip.pick, FacePick) and grip.pick == known:
                grip.handle = face_handle(self._document, grip.pick, self._view.sheet(grip.at))
            else:
                grip.handle = volume_handle(self._document)

    def _drag(self, grip: _Grip, handle: Handle, at: QPointF, *, shifted: bool, snap: bool) -> None:
        (x, y), (right, up) = handle.place, self._view.moved(at - grip.at)
        place = (x + right, y + up)
        edit = handle.shifted if shifted and handle.shifted else handle.drag
        self.wishes.hint(handle.told(shift=shifted))
        slide = handle.shift_slides if shifted and handle.shift_slides else handle.slides

        def slid(document: Document) -> Document:
            if slide is None:
                return edit(document, place)
            done = slide(document, place, snap)
            self._stopped_at = done.words
            return done.document

        self.wishes.drag(slid)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        grip, self._grip = self._grip, None
        if grip is None or event is None:
            return
        if grip.tool is not None:
            self._use(grip.tool, grip, event.position(), _keys(event))
        elif grip.handle is not None and grip.moved:
            name = _lower_first(grip.handle.title)
            self.wishes.drop(_("drag {what}").format(what=name))
            self.wishes.hint("")
        elif not grip.moved and (grip.pick is not None or grip.pans is not None):
            more = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self.wishes.pick(grip.pick, besides=more)
            if isinstance(grip.pick, FacePick) and not more:
                self.wishes.hint(_("Drag this face to slide it, or an edge to move it all."))
        self.update()

    def _hover(self, at: QPointF) -> None:
        if self._stage is not None:
            return
        touch = self._touch()
        if self._tool is not None:
            aim = touch.pick_at(at, corners=True) if self._tool is MEASURE else None
            if aim != self._aim:
                self._aim = aim
                self.update()
            return
        handle = touch.handle_at(at)
        if handle is None and touch.line_at(at) is not None and touch.pick_at(at) is None:
            handle = touch.line_at(at)
        hot = handle.key if handle else None
        if hot != self._hot:
            self._hot = hot
            self.setCursor(
                QCursor(Qt.CursorShape.OpenHandCursor if handle else Qt.CursorShape.ArrowCursor)
            )
            self.wishes.hint(handle.told() if handle else "")
            self.update()

    def volume_at(self, at: QPointF) -> int | None:
        """The volume drawn at a place of the board."""
        pick = None if self._document is None else self._touch().pick_at(at)
        return None if pick is None else pick.volume

    # Keyboard

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
            armed = self._tool is not None
            self.setCursor(Qt.CursorShape.CrossCursor if armed else Qt.CursorShape.ArrowCursor)
        super().keyReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key, arrow = event.key(), arrow_of(event)
        if key == Qt.Key.Key_Escape:
            self._escape()
        elif key == Qt.Key.Key_Space:
            self._space = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp) and self._handles:
            self._choose_handle(1 if key == Qt.Key.Key_PageDown else -1)
        elif arrow is not None and self._keyed_handle() is not None:
            self._nudge(*arrow, event.modifiers())
        elif arrow is not None and self._document is not None and self._document.chosen:
            self._nudge_volumes(*arrow, event.modifiers())
        else:
            super().keyPressEvent(event)

    def _escape(self) -> None:
        if self._grip is not None:
            self._grip = None
            self.wishes.let_go()
        self.arm(None)
        self._keyed = None
        self.show_spot(None)
        self.wishes.pick(None)

    def _keyed_handle(self) -> Handle | None:
        return next((h for h in self._handles if h.key == self._keyed), None)

    def _choose_handle(self, step: int) -> None:
        keys = [handle.key for handle in self._handles]
        at = keys.index(self._keyed) + step if self._keyed in keys else (0 if step > 0 else -1)
        self._keyed = keys[at % len(keys)]
        handle = self._keyed_handle()
        assert handle is not None
        self.setAccessibleDescription(handle.told())
        told = _("{handle} — arrow keys move it: {stays}.")
        self.wishes.hint(told.format(handle=handle.title, stays=handle.stays))
        self.update()

    def _nudge_volumes(self, right: int, up: int, modifiers: Qt.KeyboardModifier) -> None:
        mm = NUDGE_MM[_step_of(modifiers)]
        nudge = sliding.nudge_truly if self.truly else sliding.nudge_on_paper
        self.wishes.drag(lambda document: nudge(document, right * mm, up * mm))
        self.wishes.drop(_("nudge"))

    def _nudge(self, right: int, up: int, modifiers: Qt.KeyboardModifier) -> None:
        handle = self._keyed_handle()
        if handle is None:
            return
        mm = NUDGE_MM[_step_of(modifiers)]
        x, y = handle.place
        place = (x + right * mm, y + up * mm)
        self.wishes.drag(lambda document: handle.drag(document, place))
        self.wishes.drop(_("move {what}").format(what=_lower_first(handle.title)))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self._space = False
        super().focusOutEvent(event)
        self.update()


def _keys(event: QMouseEvent) -> Keys:
    """What is held while a tool draws."""
    held = Qt.KeyboardModifier
    ground, floating = (
        event.modifiers() & key for key in (held.ShiftModifier, held.ControlModifier)
    )
    how = "ground" if ground else "floating" if floating else ""
    return Keys(not event.modifiers() & held.AltModifier, how)


def _step_of(modifiers: Qt.KeyboardModifier) -> str:
    if modifiers & Qt.KeyboardModifier.ControlModifier:
        return "control"
    return "shift" if modifiers & Qt.KeyboardModifier.ShiftModifier else "plain"


def _lower_first(title: str) -> str:
    return title if title[:2].isupper() else title[:1].lower() + title[1:]

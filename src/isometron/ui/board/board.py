"""The board under the hand: mouse and keys on the sheet and everything on it."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import (
    QCursor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
)

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import underlay_of
from isometron.document.edits.places import sliding
from isometron.document.edits.places.copying import copies_at
from isometron.document.edits.projecting import flat_twin
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.of_sheet import PicturePick
from isometron.drawing.picks.pick import Pick
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.ui.board.handles.bodies import corner_handle, face_handle, volume_handle
from isometron.ui.board.handles.curved import bent, flattened, handle_place
from isometron.ui.board.handles.handle import Handle
from isometron.ui.board.tools import LAY_EDGE, MEASURE, Keys, Tool
from isometron.ui.parts.touching import apart, arrow_of
from isometron.words import _

if TYPE_CHECKING:
    pass
from isometron.ui.board.picture import BoardPicture, Grip

DIGITS = tuple("0123456789.,-−")
COMMANDING = (
    Qt.KeyboardModifier.ControlModifier
    | Qt.KeyboardModifier.AltModifier
    | Qt.KeyboardModifier.MetaModifier
)
"""Keys held that make a command of a digit."""

NUDGE_MM = {"plain": 1.0, "shift": 10.0, "control": 0.1}
DRAG_PX = 3.0
"""A press that moves less than this is a click."""


class Board(BoardPicture):
    """The board, which wishes for what the person wants done to it."""

    truly = False
    """Whether the arrow keys move a volume by true mm instead of mm on the paper."""

    _clicked: QPointF | None = None
    """Where the last click was."""
    _panned = False
    """Whether the sheet was moved while Space is held."""

    # Tools

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
            self.update()
        self.wishes.hint(self.usual_hint)

    @property
    def usual_hint(self) -> str:
        """What the plate says when there is nothing else: what to do with the tool in hand."""
        if self._tool is None:
            return ""
        hint = self._tool.strokes[self._stroke].hint
        return _("{tool}: {hint} Esc ends it.").format(tool=self._tool.title, hint=hint)

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
                self._grip = Grip(at, pans=self._view)
            return
        if event.button() == Qt.MouseButton.MiddleButton or self._space:
            self._panned = True
            self._grip = Grip(at, pans=self._view)
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._tool is not None:
            self._grip = Grip(at, tool=self._tool)
            return
        handle = self._touch().handle_at(at)
        if handle is not None:
            self._grip = Grip(at, handle=handle, pick=handle.pick)
            return
        self._grip = self._grip_of(at)

    def _grip_of(self, at: QPointF) -> Grip:
        """What is taken hold of at a place where no handle lies and no tool is armed."""
        assert self._document is not None
        pick, line = self._touch().pick_at(at), self._touch().line_at(at)
        corner = self._pick if isinstance(self._pick, CornerPick) else None
        if corner is not None and self._touch().pick_at(at, corners=True) == corner:
            pick = corner  # a corner that is picked is taken before what runs to it
        if line is not None and (pick is None or pick.broad):
            return Grip(at, handle=line, pick=line.pick)
        if pick is not None:
            return Grip(at, pick=pick)
        if self._on_paper(at) and underlay_of(self._document) is not None:
            return Grip(at, pick=PicturePick(), pans=self._view)
        if not self._document.volumes and self._on_paper(at):
            return Grip(at, tool=LAY_EDGE)  # the first move of a blank sheet
        return Grip(at, pans=self._view)

    def _on_paper(self, at: QPointF) -> bool:
        assert self._document is not None
        return self._view.rectangle(self._document.sheet.paper).contains(at)

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
            grip.copies = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self._take_hold(grip)
        shifted = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        snap = not event.modifiers() & Qt.KeyboardModifier.AltModifier
        if grip.tool is not None:
            grip.path.append(self._view.sheet(event.position()))
            keys = _keys(event)._replace(path=(self._view.sheet(grip.at), *grip.path))
            self._draw(grip.tool, grip.at, event.position(), keys)
        elif grip.pans is not None:
            self._fitted = None
            self._look(grip.pans.panned(event.position() - grip.at))
        elif grip.handle is not None:
            self._drag(grip, grip.handle, event.position(), shifted=shifted, snap=snap)

    def _draw(self, tool: Tool, start: QPointF, at: QPointF, keys: Keys) -> None:
        """What a tool draws from one place of the board to another."""
        draws = tool.strokes[self._stroke].draws
        first, to = self._told(self._view.sheet(start)), self._told(self._view.sheet(at))
        if keys.path:
            keys = keys._replace(path=tuple(self._told(place) for place in keys.path))
        self._stopped_at = ""
        if draws is None:
            return

        def edit(document: Document) -> Document:
            done = draws(document, first, to, keys)
            self._stopped_at = done.words
            return done.document

        self.wishes.drag(edit)

    def _told(self, sheet_mm: Place) -> Place:
        """A place as edits are told it: of a curved sheet where the flat one has its direction."""
        if self._document is None or not self._document.eye.curved:
            return sheet_mm
        eye = self._document.eye
        return flattened(eye, sheet_mm) or handle_place(eye, sheet_mm)

    @property
    def _flat(self) -> Document:
        """The document as edits are told it."""
        assert self._document is not None
        return flat_twin(self._document)

    def _held(self, handle: Handle | None) -> Handle | None:
        """A body taken hold of, as it lies on the sheet."""
        if handle is None or self._document is None or not self._document.eye.curved:
            return handle
        return bent(self._document.eye, handle)

    def _use(self, tool: Tool, grip: Grip, at: QPointF, keys: Keys) -> None:
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

    def _take_hold(self, grip: Grip) -> None:
        """A press turns into a drag: a picked face slides, a volume is dragged by its body."""
        self._stopped_at = ""
        part = grip.handle is None and grip.pans is None
        grip.copies = grip.copies and part and grip.pick is not None
        if part and grip.pick is not None and self._document is not None:
            known = self._pick
            if not (grip.copies and grip.pick.volume in self._document.chosen):
                self.wishes.pick(grip.pick, alone=False)
            if grip.copies:
                grip.handle = self._held(volume_handle(self._flat))
            elif grip.pick == known:
                grip.handle = self._held(self._part_handle(grip, grip.pick))
            else:
                grip.handle = self._held(volume_handle(self._flat))

    def _part_handle(self, grip: Grip, pick: Pick) -> Handle | None:
        """A part that was picked before it is dragged: a face is pushed, an edge slides with the
        face that the drag leads, a corner of a free box pulls; anything else moves its volume."""
        at = self._told(self._view.sheet(grip.at))
        if isinstance(pick, EdgePick):
            way = self._told(self._view.sheet(self._pointer))
            run = way[0] - at[0], way[1] - at[1]
            try:
                led = sliding.face_led(self._flat, pick.volume, pick.index, run)
            except IsometronError:
                return volume_handle(self._flat)
            pick = FacePick(pick.volume, led)
        if isinstance(pick, FacePick):
            return face_handle(self._flat, pick, at)
        held = corner_handle(self._flat, pick) if isinstance(pick, CornerPick) else None
        return held or volume_handle(self._flat)

    def _drag(self, grip: Grip, handle: Handle, at: QPointF, *, shifted: bool, snap: bool) -> None:
        (x, y), (right, up) = handle.place, self._view.moved(at - grip.at)
        place = (x + right, y + up)
        edit = handle.shifted if shifted and handle.shifted else handle.drag
        self.wishes.hint(_copies_told(grip) if grip.copies else handle.told(shift=shifted))
        count = int(grip.typed or "2")
        slide = handle.slides
        if shifted and (handle.shift_slides or handle.shifted):
            slide = handle.shift_slides

        def slid(document: Document) -> Document:
            if slide is None:
                return edit(document, place)
            done = slide(document, place, snap)
            self._stopped_at = done.words
            return copies_at(document, done.document, count) if grip.copies else done.document

        self.wishes.drag(slid)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        grip, self._grip = self._grip, None
        if grip is None or event is None:
            return
        if grip.tool is not None:
            self._use(grip.tool, grip, event.position(), _keys(event))
        elif grip.handle is not None and grip.moved:
            name = _lower_first(grip.handle.title)
            words = _("copies of {what}") if grip.copies else _("drag {what}")
            self.wishes.drop(words.format(what=name))
            self.wishes.hint("")
        elif not grip.moved and (grip.pick is not None or grip.pans is not None):
            more = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self._clicked = grip.at
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
            tapped, self._space = self._space and not self._panned, False
            if tapped:
                self._next_answer()
            armed = self._tool is not None
            self.setCursor(Qt.CursorShape.CrossCursor if armed else Qt.CursorShape.ArrowCursor)
        super().keyReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key, arrow = event.key(), arrow_of(event)
        if key == Qt.Key.Key_Escape:
            self.let_go()
        elif key == Qt.Key.Key_Space:
            self._panned = self._panned and self._space
            self._space = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp) and self._handles:
            self._choose_handle(1 if key == Qt.Key.Key_PageDown else -1)
        elif event.text() in DIGITS and not event.modifiers() & COMMANDING:
            self._type(event.text())
        elif arrow is not None and self._keyed_handle() is not None:
            self._nudge(*arrow, event.modifiers())
        elif arrow is not None and self._document is not None and self._document.chosen:
            self._nudge_volumes(*arrow, event.modifiers())
        else:
            super().keyPressEvent(event)

    def _type(self, text: str) -> None:
        """A number is typed: into the first field of what is picked, or what the handle in the hand
        is about."""
        held = self._grip
        if held is not None and held.copies and held.handle is not None and text.isdigit():
            held.typed += text
            self._drag(held, held.handle, self._pointer or held.at, shifted=False, snap=True)
            return
        grip, self._grip = self._grip, None
        moved = grip is not None and grip.moved and grip.handle is not None
        if grip is not None:
            self.wishes.let_go()
        deed = grip.handle.typed if moved and grip is not None and grip.handle else ""
        self.wishes.begin_typing(text, deed)

    def let_go(self) -> None:
        """Let go of everything that is in hand."""
        if self._grip is not None:
            self._grip = None
            self.wishes.let_go()
        self.arm(None)
        self._keyed = None
        self.show_spot(None)
        self.wishes.pick(None)

    def _next_answer(self) -> None:
        """Pick the next thing that may have been meant by the last click; in a drag, what else may
        give way."""
        if self.wishes.dragging:
            self.wishes.do("another answer")
            return
        if self._clicked is None or self._tool is not None or self._document is None:
            return
        answers = self._touch().answers_at(self._clicked)
        if len(answers) < 2:
            return
        known = answers.index(self._pick) if self._pick in answers else -1
        self.wishes.pick(answers[(known + 1) % len(answers)])
        told = _("{n} of {all} at this place; Space for the next.")
        number = (known + 1) % len(answers) + 1
        self.wishes.hint(told.format(n=number, all=len(answers)))

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


def _copies_told(grip: Grip) -> str:
    """What the plate says while copies are dragged."""
    if not grip.typed:
        return _("A copy; type how many in all for a row up to here.")
    return _("{n} in all, evenly up to here.").format(n=grip.typed)


def _step_of(modifiers: Qt.KeyboardModifier) -> str:
    if modifiers & Qt.KeyboardModifier.ControlModifier:
        return "control"
    return "shift" if modifiers & Qt.KeyboardModifier.ShiftModifier else "plain"


def _lower_first(title: str) -> str:
    return title if title[:2].isupper() else title[:1].lower() + title[1:]

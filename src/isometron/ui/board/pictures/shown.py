"""The picture on the felt as it is shown. Nothing here takes hold of it."""

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass, field

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QWidget

from isometron.document.edits.pictures.marking import mark_of
from isometron.document.picture import Mark, SheetPicture
from isometron.perspective.places import Place
from isometron.reading.in_words import spoken
from isometron.reading.of_picture import PictureReading
from isometron.reading.sketch.faults import Fault
from isometron.render.painter import painting_on
from isometron.render.view import View
from isometron.ui.board.pictures.asking import Pass
from isometron.ui.board.pictures.painting import (
    Seen,
    paint_corners,
    paint_faults,
    paint_lens,
    paint_marks,
    paint_picture,
    paint_pins,
)
from isometron.ui.board.pictures.tools import PictureTool
from isometron.ui.parts.theme import INK, MARKER, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

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


class PictureShown(QWidget):
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
        self.asking: Pass | None = None
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
            self.asking = None
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

    def show_spot(self, sheet_mm: tuple[float, float] | None) -> None:
        """Put the fault at a place of the sheet (mm) in work."""
        picture = self._picture
        if picture is None or picture.paper_mm is None or sheet_mm is None:
            return
        scale = picture.width / picture.paper_mm[0]
        x, y = sheet_mm
        place = (
            (x * scale, y * scale) if picture.laid is None else picture.laid.on_picture(sheet_mm)
        )
        near = [one for one in self.faults if math.dist(one.at, place) < scale]
        if near:
            self.choose((near[0].mark,))

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
        paint_pins(painter, picture, self._view, room)
        paint_marks(painter, seen)
        paint_faults(painter, seen, self.faults)
        paint_corners(painter, seen)
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

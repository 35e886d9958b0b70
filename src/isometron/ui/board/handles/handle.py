"""A handle: where it is, what a drag to here means, what stays meanwhile, how it looks."""

from collections.abc import Callable
from dataclasses import dataclass, field

from PyQt6.QtCore import QPointF, QRectF, QSize
from PyQt6.QtGui import QColor, QPainter, QPainterPath

from isometron.document.document import Document
from isometron.document.edits.places.sliding import Slid
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene
from isometron.perspective.places import Place
from isometron.render.view import View
from isometron.ui.parts.theme import WHITE, Room
from isometron.ui.parts.touching import apart

GRAB_PX = 10.0
LINE_GRAB_PX = 5.0

Drag = Callable[[Document, Place], Document]
Slide = Callable[[Document, Place, bool], Slid]
Number = Callable[[Document, Scene], str]


@dataclass(frozen=True)
class On:
    """The board a handle lies on: how the sheet lies there, its size, and the room's colours."""

    view: View
    size: QSize
    paper: QPainterPath
    room: Room

    @property
    def board(self) -> QRectF:
        """All of the board, px."""
        return QRectF(0.0, 0.0, self.size.width(), self.size.height())

    def filling(self, *, hot: bool) -> QColor:
        """What fills a handle: the lamp's light when it is held."""
        return QColor(self.room.lamp if hot else WHITE)


@dataclass(frozen=True, eq=False)
class Handle:
    """Something on the board that can be taken hold of.

    place: sheet mm. drag: the edit for a document before the drag and the sheet place dragged to;
    shifted: the same with Shift held, if it means something else. stays and shift_stays say it in
    words; number: what the drag is about, in words. slides and shift_slides are drags that snap.
    lands: where it lies in a document, where that is told without drawing it. typed: the deed that
    a number typed during a drag goes to.
    """

    key: str
    title: str
    place: Place
    drag: Drag
    stays: str
    number: Number
    pick: Pick | None = field(default=None, kw_only=True)
    shifted: Drag | None = field(default=None, kw_only=True)
    shift_stays: str = field(default="", kw_only=True)
    slides: Slide | None = field(default=None, kw_only=True)
    shift_slides: Slide | None = field(default=None, kw_only=True)
    lands: Callable[[Document], Place | None] | None = field(default=None, kw_only=True)
    typed: str = field(default="", kw_only=True)

    flies_flag = False
    """Whether a flag at the border of the board stands for it when it lies beyond."""

    of_paper = False
    """Whether it belongs to the paper, not to what is seen."""

    runs_across = False
    """Whether it is a line under everything else, taken where nothing else lies."""

    def told(self, *, shift: bool = False) -> str:
        """Its name, and what stays while it is dragged."""
        stays = self.shift_stays if shift and self.shifted else self.stays
        return f"{self.title}: {stays}."

    def at(self, view: View) -> QPointF:
        """Where it can be grabbed, px."""
        return view.point(self.place)

    def touched(self, view: View, at: QPointF) -> bool:
        """Whether it lies under a place of the board."""
        return apart(self.at(view), at) < GRAB_PX

    def brushed(self, view: View, at: QPointF) -> bool:
        """Whether its line lies under a place where no handle is touched."""
        return False

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        """Paint it on the board."""

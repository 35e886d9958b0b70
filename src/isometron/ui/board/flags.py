"""Flags at the border of the board, for points that lie beyond it."""

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPen

from isometron.document.document import Document
from isometron.drawing.layers import FANS
from isometron.perspective.lengths import write_length
from isometron.render.view import View
from isometron.ui.board.fit import Foot
from isometron.ui.board.handles.handle import GRAB_PX, Handle, On
from isometron.ui.board.handles.points import Pin
from isometron.ui.parts.theme import felt_colour, font, scaled
from isometron.ui.parts.touching import apart

HEIGHT, PAD, GAP = 40.0, 8.0, 4.0
SWITCHES_HIGH = 40.0
INSET_PX = 8.0
POLE_PX = 5.0


@dataclass(frozen=True)
class Flag:
    """A point beyond the board: where its banner is, where its pole stands, what it says."""

    handle: Pin
    banner: QRectF
    pole: QPointF
    text: str

    def touched(self, at: QPointF) -> bool:
        """Whether it lies under a place of the board."""
        return self.banner.contains(at) or apart(self.pole, at) < GRAB_PX

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        """The flag, its pole standing where the point's lines leave the board."""
        colour = felt_colour(self.handle.family)
        painter.setPen(QPen(colour, 2.5))
        edge = self.banner.center()
        if abs(self.pole.y() - edge.y()) > self.banner.height() / 2:
            painter.drawLine(self.pole, QPointF(self.pole.x(), edge.y()))
        painter.setBrush(colour)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(self.pole, POLE_PX, POLE_PX)
        deep = QColor(FANS[self.handle.family].pencil.colour)
        painter.setPen(QPen(QColor(on.room.lamp), 2.0) if hot else QPen(colour, 1.0))
        painter.setBrush(deep)
        painter.drawRect(self.banner)
        painter.setPen(QColor(Qt.GlobalColor.white))
        painter.setFont(font(bold=True))
        inner = self.banner.adjusted(PAD, 3, -PAD, -3)
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop, self.handle.title)
        painter.setFont(font())
        painter.drawText(inner, Qt.AlignmentFlag.AlignBottom, self.text)


def flags_of(
    document: Document,
    handles: list[Handle],
    view: View,
    size: QSize,
    foot: Foot = Foot(),  # noqa: B008 - a value
) -> list[Flag]:
    """A flag at the border of the board for every point that lies beyond it, off the switches at
    the foot."""
    board = QRectF(0, 0, size.width(), size.height())
    near = board.adjusted(INSET_PX, INSET_PX, -INSET_PX, -INSET_PX)
    paper = view.rectangle(document.sheet.paper)
    high = scaled(SWITCHES_HIGH) * foot.rows
    low = board.bottom() - high
    switches = [
        QRectF(0.0, low, foot.left, high),
        QRectF(board.right() - foot.right, low, foot.right, high),
    ]
    metrics, bold = QFontMetricsF(font()), QFontMetricsF(font(bold=True))
    found: list[Flag] = []
    for handle in handles:
        place = view.point(handle.place)
        if not isinstance(handle, Pin) or near.contains(place):
            continue
        pole = QPointF(
            min(max(place.x(), 0.0), board.right()), min(max(place.y(), 0.0), board.bottom())
        )
        taken = [flag.banner for flag in found]
        text = off_in_short(document, handle.place)
        width = max(metrics.horizontalAdvance(text), bold.horizontalAdvance(handle.title))
        banner = QRectF(0, 0, width + 2 * PAD, scaled(HEIGHT))
        banner = _free_place(banner, pole, board, [paper, *switches, *taken])
        found.append(Flag(handle, banner, pole, text))
    return found


def off_in_short(document: Document, place: tuple[float, float]) -> str:
    """How far a point lies off the paper, with arrows for the sides."""
    (x, y), sheet, unit = place, document.sheet, document.choices.unit
    across, along = max(-x, x - sheet.width_mm), max(-y, y - sheet.height_mm)
    told = []
    if across > 0:
        told.append(f"{'←' if x < 0 else '→'} {write_length(across, unit)}")
    if along > 0:
        told.append(f"{'↓' if y < 0 else '↑'} {write_length(along, unit)}")
    return " ".join(told)


def _free_place(banner: QRectF, pole: QPointF, board: QRectF, taken: list[QRectF]) -> QRectF:
    """The place at the border nearest the pole where a banner covers neither paper nor flag."""
    inner = board.adjusted(0, 4, 0, -4)
    at_side = pole.x() in (board.left(), board.right())
    half = (banner.height() if at_side else banner.width()) / 2 + GAP
    wished = pole.y() if at_side else pole.x()
    beside = [wished]
    for other in taken:
        low, high = (other.top(), other.bottom()) if at_side else (other.left(), other.right())
        beside += [low - half, high + half]
    places = []
    for centre in sorted(beside, key=lambda place: abs(place - wished)):
        put = QRectF(banner)
        put.moveCenter(QPointF(pole.x(), centre) if at_side else QPointF(centre, pole.y()))
        put.moveLeft(min(max(put.left(), inner.left()), inner.right() - put.width()))
        put.moveTop(min(max(put.top(), inner.top()), inner.bottom() - put.height()))
        places.append(put)
    free = (put for put in places if not any(put.intersects(other) for other in taken))
    return next(free, places[0])

"""What lies over the standing picture: fans, eye level, points, flags, handles and tags."""

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
    QRegion,
)

from isometron.document.document import Document
from isometron.drawing.ellipse_aids import ellipse_aids
from isometron.drawing.measures import SlopingPoint, drawn_loops, sloping_points
from isometron.drawing.pencils import PENCILS
from isometron.drawing.scene import Scene, VolumePicture
from isometron.drawing.strokes import (
    FAN_OF,
    MARKS,
    Role,
    bounding_lines,
    clipped,
    end_marks,
    fans,
    outside,
    reach_of,
)
from isometron.framework.box import EDGES
from isometron.perspective.conics import chords
from isometron.perspective.lengths import write_length
from isometron.render.painter import View, paint_arcs, paint_lines
from isometron.ui.board.handles import Handle, off_paper
from isometron.ui.board.standing_layer import (
    board_rectangle,
    paper_rectangle,
)
from isometron.ui.parts.theme import FELT_PENCILS, MARKER, Room, felt_colour, font

PIN_PX = 11.0
RING_PX = 6.0
BAR_PX = 11.0
BAR_GAP_PX = 13.0
FLAG_HEIGHT = 40.0
FLAG_PAD = 8.0
FLAG_GAP = 4.0
SWIPE_PX = 9.0


@dataclass(frozen=True)
class Flag:
    """A point beyond the board: where its banner is, where its pole stands, what it says."""

    handle: Handle
    banner: QRectF
    pole: QPointF
    foot: QPointF
    title: str
    text: str


def flags_of(document: Document, handles: list[Handle], view: View, size: QSize) -> list[Flag]:
    """A flag at the border of the board for every point that lies beyond it."""
    board = QRectF(0, 0, size.width(), size.height())
    paper = paper_rectangle(view, document.sheet)
    metrics = QFontMetricsF(font())
    bold = QFontMetricsF(font(bold=True))
    found: list[Flag] = []
    for handle in handles:
        place = view.point(handle.place)
        if handle.shape != "point" or board.adjusted(8, 8, -8, -8).contains(place):
            continue
        text = off_paper(document.sheet, handle.place, document.choices.unit)
        width = max(metrics.horizontalAdvance(text), bold.horizontalAdvance(handle.title))
        banner = QRectF(0, 0, width + 2 * FLAG_PAD, FLAG_HEIGHT)
        pole = QPointF(
            min(max(place.x(), 0.0), board.right()), min(max(place.y(), 0.0), board.bottom())
        )
        taken = [flag.banner for flag in found]
        banner = _free_place(banner, pole, board, [paper, *taken])
        found.append(Flag(handle, banner, pole, place, handle.title, text))
    return found


def _free_place(banner: QRectF, pole: QPointF, board: QRectF, taken: list[QRectF]) -> QRectF:
    """The place at the border nearest the pole where a banner covers neither paper nor flag."""
    inner = board.adjusted(0, 34, 0, -40)
    at_side = pole.x() in (board.left(), board.right())
    half = (banner.height() if at_side else banner.width()) / 2 + FLAG_GAP
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


def bar_place(handle: Handle, view: View) -> tuple[QPointF, QPointF]:
    """Where the bar beyond an end of the near edge lies, and the edge's direction, px."""
    if handle.line is None:
        return view.point(handle.place), QPointF(0, -1)
    start, end = (view.point(p) for p in handle.line)
    along = end - start
    length = max((along.x() ** 2 + along.y() ** 2) ** 0.5, 1e-6)
    along = along / length
    return end + along * BAR_GAP_PX, along


def _shows_box(document: Document, picture: VolumePicture) -> bool:
    """Whether the box a volume fills is drawn round it; the square of an ellipse stands for it."""
    if picture.body.boxed:
        return False
    return not (picture.body.bent and document.choices.ellipse_aids)


class Marks:
    """Painter of everything that lies over the standing picture."""

    def __init__(self, room: Room, view: View, size: QSize, document: Document) -> None:
        self.room, self.view, self.size, self.document = room, view, size, document
        self.board = board_rectangle(view, size)
        self.paper = paper_rectangle(view, document.sheet)
        self.sheet = (0.0, 0.0, document.sheet.width_mm, document.sheet.height_mm)

    def construction(self, painter: QPainter, scene: Scene) -> None:
        """Fans of the volume in work, on the paper and over the felt."""
        if not scene.pictures or not self.document.choices.fans:
            return
        picture = scene.pictures[self.document.selected or 0]
        families = {role: family for family, role in FAN_OF.items()}
        see_through = self.document.choices.see_through
        reach = reach_of(self.document.sheet) + 1e5
        for role, lines in fans(self.document.eye, picture, reach, see_through=see_through):
            pale = QColor(PENCILS[role].colour)
            pale.setAlpha(120)
            felt = felt_colour(families[role])
            felt.setAlpha(150)
            within, beyond = clipped(lines, self.sheet), outside(lines, self.sheet)
            paint_lines(painter, self.view, within, QPen(pale, 1.0), within=self.board)
            paint_lines(painter, self.view, beyond, QPen(felt, 1.0), within=self.board)
            self._end_marks(painter, lines, role, felt)

    def ellipse_aids(self, painter: QPainter, scene: Scene) -> None:
        """The aids of the circle in work."""
        lines = ellipse_aids(self.document, scene)
        pen = QPen(QColor("#a0937a"), 1.0)
        paint_lines(painter, self.view, lines, pen, within=self.board)

    def curve(self, painter: QPainter, arcs: np.ndarray) -> None:
        """A marker swipe under a curve, given as sheet arcs."""
        painter.save()
        colour = QColor(MARKER)
        colour.setAlpha(170)
        pen = QPen(colour, SWIPE_PX)
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
        paint_arcs(painter, self.view, arcs, pen, within=self.board)
        painter.restore()

    def _end_marks(
        self, painter: QPainter, lines: np.ndarray, role: object, colour: QColor
    ) -> None:
        cut = clipped(lines, self.board)
        at_border = np.abs(cut[:, 2:] - lines[: len(cut), 2:]).max(axis=1, initial=0.0) > 1e-9
        mark = MARKS[role]  # type: ignore[index]
        if len(cut) != len(lines) or not at_border.any():
            return
        run = cut[:, :2] - cut[:, 2:]
        length = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-9)[:, None]
        ends = cut[:, 2:] + run / length * np.minimum(14.0 / self.view.scale, length)
        colour.setAlpha(230)
        strokes = end_marks(ends, mark, 7.0 / self.view.scale)
        paint_lines(painter, self.view, strokes, QPen(colour, 1.2))

    def _clip(self, painter: QPainter, to_paper: bool) -> None:
        paper = QRegion(self.paper.toAlignedRect())
        board = QRegion(0, 0, self.size.width(), self.size.height())
        painter.setClipRegion(paper if to_paper else board.subtracted(paper))

    def swipe(self, painter: QPainter, ends: tuple[tuple[float, float], ...]) -> None:
        """A marker swipe under a line."""
        start, end = (self.view.point(p) for p in ends)
        for clip_to_paper in (True, False):
            painter.save()
            self._clip(painter, clip_to_paper)
            colour = QColor(MARKER)
            if clip_to_paper:
                painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
            else:
                colour.setAlpha(90)
            pen = QPen(colour, SWIPE_PX)
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
            painter.setPen(pen)
            painter.drawLine(start, end)
            painter.restore()

    def face(self, painter: QPainter, picture: VolumePicture, face: int) -> None:
        """A light marker wash over a face."""
        shape = QPainterPath()
        shape.setFillRule(Qt.FillRule.OddEvenFill)
        for loop in drawn_loops(picture, face) or []:
            runs = chords(loop, 0.2 / self.view.scale)
            places = np.concatenate([run[:-1] for run in runs])
            shape.addPolygon(QPolygonF([self.view.point((x, y)) for x, y in places.tolist()]))
            shape.closeSubpath()
        painter.save()
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor("#fff3c4"))
        painter.drawPath(shape)
        painter.restore()

    def edge(self, painter: QPainter, picture: VolumePicture, edge: int) -> None:
        """The swipe under one edge of a volume."""
        ends = picture.sheet[picture.edges[edge]]
        if np.isfinite(ends).all():
            (ax, ay), (bx, by) = ends.tolist()
            self.swipe(painter, ((ax, ay), (bx, by)))

    def edge_tag(self, painter: QPainter, picture: VolumePicture, edge: int) -> None:
        """The true length of an edge on a tag at its middle."""
        ends = picture.sheet[picture.edges[edge]]
        if np.isfinite(ends).all():
            x, y = (float(v) for v in ends.mean(axis=0))
            mm = float(picture.body.true_mm[edge])
            self.tag(
                painter,
                self.view.point((x, y)) + QPointF(-6, -28),
                write_length(mm, self.document.choices.unit),
            )

    def handle(self, painter: QPainter, handle: Handle, *, hot: bool) -> None:
        """One handle that lies on the board."""
        at = self.view.point(handle.place)
        on_paper = self.paper.contains(at)
        lamp = QColor(self.room.lamp)
        if handle.shape == "ring":
            painter.setPen(QPen(QColor("#23282b"), 1.6))
            painter.setBrush(lamp if hot else QColor("#fffdf6"))
            painter.drawEllipse(at, RING_PX, RING_PX)
        elif handle.shape == "bar" and handle.line:
            self._bar(painter, handle, hot=hot)
        elif handle.shape == "far":
            painter.setPen(QPen(QColor("#23282b"), 1.3))
            painter.setBrush(lamp if hot else QColor("#fffdf6"))
            painter.drawPolygon(
                QPolygonF([at + QPointF(x, y) for x, y in ((-5, 0), (0, -8), (5, 0), (0, 8))])
            )
        elif handle.shape == "knot":
            painter.setPen(QPen(QColor("#23282b"), 1.2))
            painter.setBrush(lamp if hot else QColor("#fffdf6"))
            painter.drawRect(QRectF(at.x() - 3.5, at.y() - 3.5, 7, 7))
        elif handle.shape == "cross":
            colour = QColor("#8f2b39" if on_paper else FELT_PENCILS["level"])
            painter.setPen(QPen(lamp if hot and not on_paper else colour, 3.0 if hot else 2.0))
            painter.drawLine(at - QPointF(8, 0), at + QPointF(8, 0))
            painter.drawLine(at - QPointF(0, 8), at + QPointF(0, 8))
        elif handle.shape == "point":
            self._pin(painter, handle, at, hot=hot, on_paper=on_paper)
        elif handle.shape == "level" and hot:
            painter.setPen(QPen(lamp, 3.0))
            for x in (10.0, self.size.width() - 10.0):
                painter.drawLine(QPointF(x, at.y() - 8), QPointF(x, at.y() + 8))

    def _bar(self, painter: QPainter, handle: Handle, *, hot: bool) -> None:
        centre, along = bar_place(handle, self.view)
        across = QPointF(-along.y(), along.x())
        stem = QPen(QColor("#23282b"), 1.0)
        painter.setPen(stem)
        painter.drawLine(centre - along * (BAR_GAP_PX - RING_PX), centre)
        pen = QPen(QColor(self.room.lamp) if hot else QColor("#23282b"), 4.0)
        if not self.paper.contains(centre) and not hot:
            pen.setColor(QColor(self.room.felt_ink))
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.drawLine(centre - across * (BAR_PX / 2), centre + across * (BAR_PX / 2))

    def _pin(
        self, painter: QPainter, handle: Handle, at: QPointF, *, hot: bool, on_paper: bool
    ) -> None:
        colour = felt_colour(handle.family)
        if on_paper:
            colour = QColor(PENCILS[FAN_OF[handle.family]].colour)
        painter.setPen(QPen(QColor(self.room.lamp) if hot else QColor("#fffdf6"), 1.5))
        painter.setBrush(QBrush(colour))
        half = PIN_PX / 2
        if handle.family == "left":
            painter.drawRect(QRectF(at.x() - half, at.y() - half, PIN_PX, PIN_PX))
        elif handle.family == "right":
            painter.drawEllipse(at, half + 1, half + 1)
        elif handle.family == "third":
            painter.drawPolygon(
                QPolygonF(
                    [
                        at + QPointF(0, -half - 2),
                        at + QPointF(half + 2, half),
                        at + QPointF(-half - 2, half),
                    ]
                )
            )
        else:
            painter.setPen(QPen(colour, 4.0))
            painter.drawLine(at - QPointF(half, half), at + QPointF(half, half))
            painter.drawLine(at - QPointF(half, -half), at + QPointF(half, -half))
        painter.setFont(font())
        painter.setPen(colour)
        dy = -10.0 if handle.family != "third" else 22.0
        painter.drawText(at + QPointF(-20.0, dy), handle.title)

    def flag(self, painter: QPainter, flag: Flag, *, hot: bool) -> None:
        """A flag at the border, its pole standing where the point's lines leave the board."""
        colour = felt_colour(flag.handle.family)
        painter.setPen(QPen(colour, 2.5))
        edge = flag.banner.center()
        if abs(flag.pole.y() - edge.y()) > flag.banner.height() / 2:
            painter.drawLine(flag.pole, QPointF(flag.pole.x(), edge.y()))
        painter.setBrush(colour)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(flag.pole, 5.0, 5.0)
        deep = QColor(PENCILS[FAN_OF[flag.handle.family]].colour)
        painter.setPen(QPen(QColor(self.room.lamp), 2.0) if hot else QPen(colour, 1.0))
        painter.setBrush(deep)
        painter.drawRect(flag.banner)
        painter.setPen(QColor("#ffffff"))
        painter.setFont(font(bold=True))
        inner = flag.banner.adjusted(FLAG_PAD, 3, -FLAG_PAD, -3)
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop, flag.title)
        painter.setFont(font())
        painter.drawText(inner, Qt.AlignmentFlag.AlignBottom, flag.text)

    def tag(self, painter: QPainter, at: QPointF, text: str, below: str = "") -> None:
        """A dark tag with a number beside the pointer, and below it what the drag has met."""
        painter.setFont(font(bold=True))
        metrics = QFontMetricsF(painter.font())
        width = max(metrics.horizontalAdvance(words) for words in (text, below)) + 16
        box = QRectF(at.x() + 16, at.y() + 16, width, 42 if below else 24)
        box.moveLeft(min(box.left(), self.size.width() - width - 4))
        box.moveTop(min(box.top(), self.size.height() - 70.0))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor("#23282b"))
        painter.drawRect(box)
        painter.setPen(QColor("#fffdf6"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{text}\n{below}" if below else text)

    def framework(self, painter: QPainter, scene: Scene, ghost: np.ndarray) -> None:
        """The old edges of what has just changed, the box a cut or leaning volume fills, the
        bounding volume of several chosen ones, and where sloping edges vanish."""
        chosen = [i for i in self.document.chosen if i < len(scene.pictures)]
        old = QPen(QColor(PENCILS[Role.GHOST].colour), 1.0)
        old.setDashPattern([1.0, 3.0])
        paint_lines(painter, self.view, ghost, old, within=self.board)
        thin = QPen(QColor("#8b7f66"), 1.0)
        thin.setDashPattern([6.0, 3.0])
        if len(chosen) > 1:
            lines = bounding_lines(self.document)
            paint_lines(painter, self.view, lines, thin, within=self.board)
        elif chosen and _shows_box(self.document, scene.pictures[chosen[0]]):
            ends = scene.pictures[chosen[0]].box_sheet[EDGES].reshape(-1, 4)
            paint_lines(painter, self.view, ends, thin, within=self.board)
        if chosen and self.document.selected is not None and self.document.choices.fans:
            picture = scene.pictures[self.document.selected]
            for point in sloping_points(self.document.eye, picture):
                self._sloping(painter, point)

    def _sloping(self, painter: QPainter, point: SlopingPoint) -> None:
        at = self.view.point(point.sheet_mm)
        if not QRectF(0, 0, self.size.width(), self.size.height()).contains(at):
            return
        colour = QColor("#5b5a52" if self.paper.contains(at) else FELT_PENCILS["third"])
        painter.setPen(QPen(colour, 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        rise = -7.0 if point.above else 7.0
        painter.drawPolygon(
            QPolygonF([at + QPointF(0, rise), at + QPointF(6, -rise), at + QPointF(-6, -rise)])
        )
        painter.setFont(font())
        words = "slope, above the eye level" if point.above else "slope, below the eye level"
        painter.drawText(at + QPointF(10.0, 4.0), words)

    def spot(self, painter: QPainter, place: tuple[float, float]) -> None:
        """A marker circle round a place a remark speaks of."""
        painter.setPen(QPen(QColor(self.room.lamp), 4.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(self.view.point(place), 20.0, 20.0)

"""What lies over a picture: its families as pencil fans, rims, rows, the eye level as a band."""

import math
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from isometron.document.edits.pictures.marking import every_mark, mark_of, places_of
from isometron.document.picture import EDGE, ROUND, ROW, Mark, SheetPicture
from isometron.drawing.layers import FANS
from isometron.drawing.pencils import TEAL
from isometron.drawing.strokes import end_marks
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.reading.in_words import level_at
from isometron.reading.of_picture import STRAY, bent
from isometron.reading.results import Reading
from isometron.reading.sketch.faults import Fault
from isometron.render.images import detail, whole
from isometron.render.painter import paint_lines
from isometron.render.view import View
from isometron.ui.parts.theme import (
    FELT_OBJECT,
    FELT_PENCILS,
    INK,
    MARKER,
    PAPER,
    WHITE,
    Room,
    font,
)
from isometron.words import _

PENCILS = {"width": "left", "depth": "right", "height": "third"}
"""Which pencil draws a family: rust for width, teal for depth, plum for height."""

FREE_MARKS = "centre"
CASING_PX, LINE_PX, FAN_PX = 3.6, 1.7, 1.0
LEFT_ALPHA = 150
PIN_PX, INSET_PX = 7.0, 13.0
BAND_ALPHA = 70
LEAST_BAND_PX = 2.0
LENS_PX, LENS_ZOOM = 150.0, 4.0
END_PX = 4.0
FAN_SHARE = 60.0
"""How far a fan's line runs on, in sides of the picture."""


class Seen(NamedTuple):
    """What is painted: a picture, what it tells, how it lies on the felt, its marks in work."""

    picture: SheetPicture
    read: Reading | None
    view: View
    size: QSize
    room: Room
    chosen: tuple[Mark, ...]
    end: int


def paint_picture(painter: QPainter, picture: SheetPicture, view: View, size: QSize) -> bool:
    """The picture itself, sharp where it is looked at closely. Gives whether it can be shown."""
    box = view.rectangle((0.0, 0.0, picture.width, picture.height))
    image = whole(picture.file)
    if image.isNull():
        return False
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.fillRect(box.translated(4, 4), QColor(0, 0, 0, 90))
    painter.drawImage(box, image)
    if view.scale > 1.2 * image.width() / picture.width:
        _paint_detail(painter, picture, view, size)
    return True


def _paint_detail(painter: QPainter, picture: SheetPicture, view: View, size: QSize) -> None:
    left, bottom, right, top = view.around(QRectF(0, 0, size.width(), size.height()))
    seen = QRectF(
        QPointF(max(left, 0.0), max(picture.height - top, 0.0)),
        QPointF(min(right, picture.width), min(picture.height - bottom, picture.height)),
    )
    if seen.width() <= 0 or seen.height() <= 0:
        return
    part, place = detail(picture.file, seen, (picture.width, picture.height))
    if part.isNull():
        return
    low = picture.height - place.bottom()
    target = view.rectangle((place.left(), low, place.right(), low + place.height()))
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, view.scale < 2)
    painter.drawImage(target, part)


def paint_pins(painter: QPainter, picture: SheetPicture, view: View, room: Room) -> None:
    """Four drawing pins at the corners of the picture."""
    box = view.rectangle((0.0, 0.0, picture.width, picture.height))
    box = box.adjusted(INSET_PX, INSET_PX, -INSET_PX, -INSET_PX)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for place in (box.topLeft(), box.topRight(), box.bottomLeft(), box.bottomRight()):
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(0, 0, 0, 90))
        painter.drawEllipse(place + QPointF(2, 2), PIN_PX, PIN_PX)
        painter.setBrush(QColor(room.lamp))
        painter.drawEllipse(place, PIN_PX, PIN_PX)
        painter.setBrush(QColor(255, 255, 255, 130))
        painter.drawEllipse(place + QPointF(-2, -2), 2.2, 2.2)


def pencil_of(family: str) -> tuple[str, str]:
    """Colours of a family: on the picture, and pale on the felt."""
    name = PENCILS.get(family)
    if name is None:
        return "#3c4a52", FELT_OBJECT
    layer = FANS[name]
    return layer.pencil.colour, FELT_PENCILS[name]


def mark_at_end(family: str) -> Array:
    """The end mark of a family, as on the sheet."""
    mark = FANS[PENCILS.get(family, FREE_MARKS)].end_mark
    assert mark is not None
    return mark


def paint_marks(painter: QPainter, seen: Seen) -> None:
    """Everything marked and read."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    _paint_level(painter, seen)
    for mark in seen.chosen:
        _paint_swipe(painter, seen, mark)
    _paint_fans(painter, seen)
    _paint_edges(painter, seen)
    for number, rim in enumerate(seen.picture.rounds):
        _paint_rim(painter, seen, number, left=rim.left)
    for row in seen.picture.rows:
        _paint_row(painter, seen, row.points, row.family)
    for spot in seen.picture.spots:
        _paint_spot(painter, seen, spot.place)
    _paint_names(painter, seen)
    if len(seen.chosen) == 1:
        _paint_ends(painter, seen, seen.chosen[0])


def _paint_level(painter: QPainter, seen: Seen) -> None:
    """The eye level as a soft band as wide as its uncertainty, its line in the middle."""
    picture, read = seen.picture, seen.read
    if read is None or read.eye_level is None:
        return
    left, _b, right, _t = seen.view.around(QRectF(0, 0, seen.size.width(), seen.size.height()))
    upper, lower, line = [], [], []
    spare = LEAST_BAND_PX / seen.view.scale
    for x in np.linspace(left, right, 9).tolist():
        told = level_at(read, picture, x)
        if told is None:
            return
        high, error = told
        upper.append(seen.view.point((x, high + max(2 * error, spare))))
        lower.append(seen.view.point((x, high - max(2 * error, spare))))
        line.append(seen.view.point((x, high)))
    band = QColor(FANS_LEVEL)
    band.setAlpha(BAND_ALPHA)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(band)
    painter.drawPolygon(QPolygonF([*upper, *reversed(lower)]))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(FANS_LEVEL), 1.3))
    painter.drawPolyline(QPolygonF(line))
    at = line[0] if line[0].x() >= 0 else QPointF(0, line[0].y())
    _paint_words(painter, at + QPointF(10, -7), _("eye level"), FELT_PENCILS["level"])


FANS_LEVEL = FELT_PENCILS["level"]


def _paint_fans(painter: QPainter, seen: Seen) -> None:
    """From every line that is read a thin line on to the point of its family."""
    if seen.read is None:
        return
    points = {one.family: one for one in seen.read.vanishing}
    for edge in seen.picture.edges:
        one = points.get(edge.family)
        if edge.left or one is None or edge.family == STRAY:
            continue
        middle = ((edge.start[0] + edge.end[0]) / 2, (edge.start[1] + edge.end[1]) / 2)
        if one.at is not None:
            away = (one.at[0] - middle[0], one.at[1] - middle[1])
        else:
            away = (one.direction[0], one.direction[1])
        ends = sorted((edge.start, edge.end), key=lambda p: -((p[0] * away[0]) + p[1] * away[1]))
        far = one.at
        size = FAN_SHARE * max(seen.picture.size)
        if far is None or math.dist(far, middle) > size:
            length = math.hypot(*away)
            far = (
                ends[0][0] + away[0] / length * size,
                ends[0][1] + away[1] / length * size,
            )
        colour = QColor(pencil_of(edge.family)[1])
        colour.setAlpha(105)
        pen = QPen(colour, FAN_PX)
        painter.setPen(pen)
        painter.drawLine(seen.view.point(ends[0]), seen.view.point(far))


def _paint_edges(painter: QPainter, seen: Seen) -> None:
    aside = {one.edge for one in seen.read.set_aside} if seen.read is not None else set()
    for number, edge in enumerate(seen.picture.edges):
        one, two = seen.view.point(edge.start), seen.view.point(edge.end)
        colour = QColor(pencil_of(edge.family)[0])
        if edge.left:
            colour = QColor(PAPER)
            colour.setAlpha(LEFT_ALPHA)
            pen = QPen(colour, 1.1)
            pen.setDashPattern([2.0, 4.0])
            painter.setPen(pen)
            painter.drawLine(one, two)
            continue
        painter.setPen(QPen(QColor(255, 253, 246, 190), CASING_PX))
        painter.drawLine(one, two)
        pen = QPen(colour, LINE_PX if edge.weight == 1 else 1.1)
        if number in aside:
            pen.setDashPattern([5.0, 3.0])
        painter.setPen(pen)
        painter.drawLine(one, two)
        _paint_end_marks(painter, seen, edge.start, edge.end, edge.family, colour)


def _paint_end_marks(
    painter: QPainter, seen: Seen, start: Place, end: Place, family: str, colour: QColor
) -> None:
    strokes = end_marks(np.array([start, end]), mark_at_end(family), 8.0 / seen.view.scale)
    paint_lines(painter, seen.view, strokes, QPen(QColor(255, 253, 246, 210), 3.2))
    paint_lines(painter, seen.view, strokes, QPen(colour, 1.3))


def _ellipse_of(seen: Seen, number: int) -> QPainterPath | None:
    """The ellipse that was fitted to a rim."""
    rim = seen.picture.rounds[number]
    if seen.read is None or rim.left:
        return None
    taken = [i for i, one in enumerate(seen.picture.rounds) if not one.left]
    names = [one.name for one in seen.read.rims]
    wanted = rim.name or str(number)
    if wanted not in names or number not in taken:
        return None
    told = seen.read.rims[names.index(wanted)]
    turn = np.linspace(0, 2 * np.pi, 181)
    c, s = (f(math.radians(told.major_axis_deg.value)) for f in (math.cos, math.sin))
    x = told.semi_major.value * np.cos(turn)
    y = told.semi_minor.value * np.sin(turn)
    cx, cy = told.centre[0].value, told.centre[1].value
    path = QPainterPath()
    places = [
        bent(seen.picture, (cx + c * u - s * v, cy + s * u + c * v))
        for u, v in zip(x.tolist(), y.tolist(), strict=True)
    ]
    path.addPolygon(QPolygonF([seen.view.point(p) for p in places]))
    return path


def _paint_rim(painter: QPainter, seen: Seen, number: int, *, left: bool) -> None:
    rim = seen.picture.rounds[number]
    colour = QColor(pencil_of(rim.axle)[0])
    path = _ellipse_of(seen, number)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if path is not None:
        painter.setPen(QPen(QColor(255, 253, 246, 190), CASING_PX))
        painter.drawPath(path)
        painter.setPen(QPen(colour, LINE_PX))
        painter.drawPath(path)
    else:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(PAPER) if left else colour)
        for place in rim.points:
            painter.drawEllipse(seen.view.point(place), 2.0, 2.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)


def _paint_row(painter: QPainter, seen: Seen, points: tuple[Place, ...], family: str) -> None:
    colour = QColor(pencil_of(family)[0])
    places = [seen.view.point(p) for p in points]
    for pen in (QPen(QColor(255, 253, 246, 200), CASING_PX), QPen(colour, 1.3)):
        painter.setPen(pen)
        painter.drawLine(places[0], places[-1])
        run = places[-1] - places[0]
        length = max(math.hypot(run.x(), run.y()), 1e-9)
        across = QPointF(-run.y(), run.x()) * (7.0 / length)
        for place in places:
            painter.drawLine(place - across, place + across)


def _paint_spot(painter: QPainter, seen: Seen, place: Place) -> None:
    at = seen.view.point(place)
    for pen in (QPen(QColor(255, 253, 246, 210), 3.4), QPen(QColor(INK), 1.4)):
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(at, 6.0, 6.0)
        painter.drawLine(at - QPointF(10, 0), at + QPointF(10, 0))
        painter.drawLine(at - QPointF(0, 10), at + QPointF(0, 10))


def _paint_names(painter: QPainter, seen: Seen) -> None:
    """What the person calls their marks, beside them."""
    for _mark, one in every_mark(seen.picture):
        if not one.name:
            continue
        places = places_of(one)
        x, y = (sum(p[i] for p in places) / len(places) for i in (0, 1))
        _paint_words(painter, seen.view.point((x, y)) + QPointF(9, -8), one.name, PAPER)


def _paint_words(painter: QPainter, at: QPointF, words: str, colour: str) -> None:
    """Words that stay legible on any picture."""
    painter.setFont(font())
    box = QRectF(painter.fontMetrics().boundingRect(words)).translated(at).adjusted(-4, -1, 4, 1)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(24, 30, 29, 200))
    painter.drawRoundedRect(box, 2, 2)
    painter.setPen(QColor(colour))
    painter.drawText(at, words)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _paint_swipe(painter: QPainter, seen: Seen, mark: Mark) -> None:
    """The marker over what is in work."""
    one = mark_of(seen.picture, mark)
    if one is None:
        return
    colour = QColor(MARKER)
    colour.setAlpha(215)
    pen = QPen(colour, 11.0)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    if mark.kind == ROUND:
        path = _ellipse_of(seen, mark.number)
        if path is not None:
            painter.drawPath(path)
            return
    places = [seen.view.point(p) for p in places_of(one)]
    if mark.kind in (EDGE, ROW):
        painter.drawLine(places[0], places[-1])
    else:
        for place in places:
            painter.drawPoint(place)


def _paint_ends(painter: QPainter, seen: Seen, mark: Mark) -> None:
    """Where what is in work can be taken hold of; the one the keys move is filled."""
    one = mark_of(seen.picture, mark)
    if one is None or (mark.kind == ROUND and len(one.points) > 40):
        return
    painter.setPen(QPen(QColor(INK), 1.3))
    for number, place in enumerate(places_of(one)):
        painter.setBrush(QColor(seen.room.lamp if number == seen.end else WHITE))
        painter.drawEllipse(seen.view.point(place), END_PX, END_PX)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def paint_corners(painter: QPainter, seen: Seen) -> None:
    """The outline of a sheet of paper that is not straightened yet, and its four corners."""
    places = [seen.view.point(place) for place in seen.picture.corners]
    if not places:
        return
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for pen in (QPen(QColor(24, 30, 29, 190), 3.6), QPen(QColor(MARKER), 1.6)):
        painter.setPen(pen)
        painter.drawPolygon(QPolygonF(places))
    painter.setPen(QPen(QColor(INK), 1.4))
    painter.setBrush(QColor(WHITE))
    for place in places:
        painter.drawEllipse(place, 6.5, 6.5)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def paint_faults(painter: QPainter, seen: Seen, faults: list[Fault]) -> None:
    """What is off in a sketch: corrected lines thin in teal, notes numbered in pencil."""
    paper = seen.picture.paper_mm
    if paper is None:
        return
    px_per_mm = seen.picture.width / paper[0]
    painter.setFont(font(bold=True))
    for number, fault in enumerate(faults, start=1):
        if fault.mended:
            continue
        if fault.redraw is not None:
            one, two = (seen.view.point((x * px_per_mm, y * px_per_mm)) for x, y in fault.redraw)
            painter.setPen(QPen(QColor(TEAL), 1.2))
            painter.drawLine(one, two)
        at = seen.view.point(fault.at) + QPointF(13, -13)
        painter.setPen(QPen(QColor(INK), 1.2))
        painter.setBrush(QColor(PAPER))
        painter.drawEllipse(at, 10.0, 10.0)
        painter.drawText(
            QRectF(at.x() - 10, at.y() - 10, 20, 20), Qt.AlignmentFlag.AlignCenter, str(number)
        )
    painter.setBrush(Qt.BrushStyle.NoBrush)


def paint_lens(
    painter: QPainter, picture: SheetPicture, at: Place, pointer: QPointF, view: View, size: QSize
) -> None:
    """A magnifier beside the pointer: what lies under it, larger."""
    zoom = max(LENS_ZOOM, 2.0 * view.scale)
    reach = LENS_PX / 2 / zoom
    seen = QRectF(at[0] - reach, picture.height - at[1] - reach, 2 * reach, 2 * reach)
    part, place = detail(picture.file, seen, (picture.width, picture.height))
    right = pointer.x() + LENS_PX + 40 < size.width()
    corner = pointer + QPointF(30 if right else -30 - LENS_PX, -LENS_PX - 20)
    corner.setY(max(corner.y(), 8.0))
    box = QRectF(corner.x(), corner.y(), LENS_PX, LENS_PX)
    ring = QPainterPath()
    ring.addEllipse(box)
    painter.save()
    painter.setClipPath(ring)
    painter.fillRect(box, QColor(INK))
    if not part.isNull():
        painter.drawImage(box, part, seen.translated(-place.left(), -place.top()))
    painter.restore()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(PAPER), 3.0))
    painter.drawEllipse(box)
    middle = box.center()
    for pen in (QPen(QColor(255, 253, 246, 200), 3.0), QPen(QColor(INK), 1.0)):
        painter.setPen(pen)
        painter.drawLine(middle - QPointF(12, 0), middle - QPointF(3, 0))
        painter.drawLine(middle + QPointF(3, 0), middle + QPointF(12, 0))
        painter.drawLine(middle - QPointF(0, 12), middle - QPointF(0, 3))
        painter.drawLine(middle + QPointF(0, 3), middle + QPointF(0, 12))

"""The picture under the sheet, at its true place."""

import math

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QImage, QPainter, QPainterPath, QTransform

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import underlay_of
from isometron.perspective.places import Place
from isometron.render.images import whole
from isometron.render.view import View


def paint_underlay(
    painter: QPainter, view: View, document: Document, paper: QPainterPath | None = None
) -> None:
    """The picture in work as it lies under the sheet, when it shows and fits the eye; cut to the
    paper (device px) when that is given."""
    laid, picture = underlay_of(document), document.photograph
    if laid is None or picture is None:
        return
    image = whole(picture.file)
    size = picture.width * laid.mm_per_px, picture.height * laid.mm_per_px
    painter.save()
    if paper is not None:
        painter.setClipPath(paper)
    painter.setOpacity(laid.strength)
    paint_picture(painter, view, image, laid.on_sheet((0.0, 0.0)), size, laid.turn_deg)
    painter.restore()


def paint_picture(
    painter: QPainter, view: View, image: QImage, corner: Place, size: Place, turn_deg: float
) -> None:
    """A decoded picture by its lower left corner, its size and its turn about that, mm; nothing of
    one that could not be decoded."""
    if image.isNull():
        return
    c, s = math.cos(math.radians(turn_deg)), math.sin(math.radians(turn_deg))
    (x, y), (wide, high) = corner, size
    low, right = view.point(corner), view.point((x + wide * c, y + wide * s))
    top = view.point((x - high * s, y + high * c))
    across, along = (right - low) / image.width(), (low - top) / image.height()
    way = QTransform(across.x(), across.y(), along.x(), along.y(), top.x(), top.y())
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.setTransform(way, True)
    painter.drawImage(QPointF(0, 0), image)
    painter.restore()

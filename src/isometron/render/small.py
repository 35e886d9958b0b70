"""Small pictures of sheets: on a widget, or as PNG made beside the window."""

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPen

from isometron.deeds.drawing import Drawing
from isometron.document.picture import PictureFile
from isometron.drawing.layers import HIDDEN, OBJECT
from isometron.drawing.small import Small
from isometron.render.images import whole
from isometron.render.painter import paint_arcs, paint_lines, painting_on, pen_of
from isometron.render.picture import PAPER
from isometron.render.view import View

MARGIN = 0.06
"""Paper left free at every edge, as a share of the side."""


def paint_small(painter: QPainter, size: QSize, small: Small | None, weight: float) -> None:
    """What a small picture shows, filling paper of a size; weight: px per mm of its lines."""
    paper = QRectF(0.0, 0.0, size.width(), size.height())
    painter.fillRect(paper, QColor(PAPER))
    if small is None or small.empty:
        return
    across, down = round(MARGIN * size.width()), round(MARGIN * size.height())
    box = paper.adjusted(across, down, -across, -down)
    if small.picture is not None:
        _photograph(painter, box, small.picture)
        return
    view = View.fit(small.part, box)
    for (lines, arcs), layer in ((small.hidden, HIDDEN), (small.seen, OBJECT)):
        pen = pen_of(layer.pencil, weight)
        paint_lines(painter, view, lines, pen)
        paint_arcs(painter, view, arcs, pen)


def paint_deed(painter: QPainter, box: QRectF, drawing: Drawing, ink: str, new: str) -> None:
    """What a deed makes of its example, in a box: what stays in one ink, what is new in another and
    heavier, what goes in thin dots."""
    left, bottom, right, top = drawing.part
    if not (right > left and top > bottom):
        return
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    view = View.fit(drawing.part, box)
    dots, pale = QPen(QColor(ink), 0.8, Qt.PenStyle.DotLine), QColor(ink)
    pale.setAlphaF(0.35)
    for (lines, arcs), pen in (
        (drawing.hidden, QPen(pale, 0.8)),
        (drawing.gone, dots),
        (drawing.stays, QPen(QColor(ink), 1.1)),
        (drawing.new, QPen(QColor(new), 1.8)),
    ):
        paint_lines(painter, view, lines, pen, drawing.part)
        paint_arcs(painter, view, arcs, pen, drawing.part)


def _photograph(painter: QPainter, box: QRectF, file: PictureFile) -> None:
    image = whole(file)
    if image.isNull():
        return
    fitting = image.size().scaled(box.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
    place = QRectF(0.0, 0.0, fitting.width(), fitting.height())
    place.moveCenter(box.center())
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.drawImage(place, image)


def small_png(small: Small, size: QSize, weight: float) -> bytes:
    """A small picture as PNG; b"" where there is nothing to show. Touches no widget, so that it can
    be made beside the window."""
    if small.empty:
        return b""
    image = QImage(size, QImage.Format.Format_RGB32)
    with painting_on(image) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_small(painter, size, small, weight)
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return content.data()

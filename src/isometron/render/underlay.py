"""The picture under the sheet, at its true place."""

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPainterPath, QTransform

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import underlay_of
from isometron.document.picture import Laid, SheetPicture
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
    if image.isNull():
        return
    painter.save()
    if paper is not None:
        painter.setClipPath(paper)
    painter.setOpacity(laid.strength)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.setTransform(_way(view, laid, picture, image.width(), image.height()), True)
    painter.drawImage(QPointF(0, 0), image)
    painter.restore()


def _way(view: View, laid: Laid, picture: SheetPicture, wide: int, high: int) -> QTransform:
    """From pixels of the decoded picture (down from its upper left corner) to the device."""
    origin, right, down = (
        view.point(laid.on_sheet(place))
        for place in (
            (0.0, float(picture.height)),
            (float(picture.width), float(picture.height)),
            (0.0, 0.0),
        )
    )
    across, along = (right - origin) / wide, (down - origin) / high
    return QTransform(across.x(), across.y(), along.x(), along.y(), origin.x(), origin.y())

"""Pages on a QPainter."""

from collections.abc import Sequence
from functools import singledispatch

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath

from isometron.document.picture import PictureFile
from isometron.pages.page import (
    Arcs,
    Area,
    Boxes,
    Cubics,
    Disc,
    Item,
    Kept,
    Layer,
    Lines,
    Link,
    Page,
    Picture,
    Placed,
    Words,
)
from isometron.render.images import whole
from isometron.render.letters import paint_words
from isometron.render.painter import paint_arcs, paint_lines, pen_of
from isometron.render.shading import fill
from isometron.render.underlay import paint_picture
from isometron.render.view import View


def paint(painter: QPainter, view: View, items: Sequence[Item]) -> None:
    """Paint items, the lowest first."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for item in items:
        _paint(item, painter, view)


@singledispatch
def _paint(item: Item, painter: QPainter, view: View) -> None:
    raise TypeError(f"the painter does not know {type(item).__name__}")


@_paint.register
def _lines(item: Lines, painter: QPainter, view: View) -> None:
    paint_lines(painter, view, item.ends, pen_of(item.pencil, view.scale))


@_paint.register
def _arcs(item: Arcs, painter: QPainter, view: View) -> None:
    paint_arcs(painter, view, item.arcs, pen_of(item.pencil, view.scale))


@_paint.register
def _cubics(item: Cubics, painter: QPainter, view: View) -> None:
    if not len(item.cubics):
        return
    placed = view.to_device(item.cubics.reshape(-1, 4)).reshape(-1, 8).tolist()
    path = QPainterPath(QPointF(*placed[0][:2]))
    for curve in placed:
        path.cubicTo(*curve[2:])
    painter.strokePath(path, pen_of(item.pencil, view.scale))


@_paint.register
def _area(item: Area, painter: QPainter, view: View) -> None:
    fill(painter, view, item.colour, item.cover, item.polygons())


@_paint.register
def _boxes(item: Boxes, painter: QPainter, view: View) -> None:
    low, high = item.boxes[:, :2], item.boxes[:, :2] + item.boxes[:, 2:]
    for left, bottom, right, top in np.concatenate([low, high], axis=1).tolist():
        painter.fillPath(view.outline((left, bottom, right, top)), QColor(item.colour))


@_paint.register
def _disc(item: Disc, painter: QPainter, view: View) -> None:
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(item.colour))
    radius = item.radius_mm * view.scale
    painter.drawEllipse(view.point(item.place), radius, radius)


@_paint.register
def _words(item: Words, painter: QPainter, view: View) -> None:
    paint_words(painter, view, [item])


@_paint.register
def _picture(item: Picture, painter: QPainter, view: View) -> None:
    image = whole(PictureFile(item.content))
    painter.save()
    painter.setOpacity(item.strength)
    paint_picture(painter, view, image, item.corner, item.size, item.turn_deg)
    painter.restore()


@_paint.register
def _link(item: Link, painter: QPainter, view: View) -> None:
    pass  # nothing to see


@_paint.register
def _layer(item: Layer, painter: QPainter, view: View) -> None:
    paint(painter, view, item.items)


@_paint.register
def _placed(item: Placed, painter: QPainter, view: View) -> None:
    painter.save()
    if item.box is not None:
        left, bottom, wide, high = item.box
        outline = view.outline((left, bottom, left + wide, bottom + high))
        painter.setClipPath(outline, Qt.ClipOperation.IntersectClip)
    by = view.point(item.by) - view.point((0.0, 0.0))
    paint(painter, view.panned(by), item.items)
    painter.restore()


@_paint.register
def _kept(item: Kept, painter: QPainter, view: View) -> None:
    paint(painter, view, item.items())


def paper_of(page: Page, view: View) -> QRectF:
    """The paper of a page on the device."""
    return view.rectangle((0.0, 0.0, *page.size_mm))

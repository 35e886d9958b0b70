"""A layer of the drawing on the board: one pen on the paper, another on the felt around it."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.drawing.curves import outside_arcs
from isometron.drawing.layers import Layer
from isometron.drawing.strokes import clipped, end_marks, outside
from isometron.nearness import SAME
from isometron.perspective.eye import Array
from isometron.perspective.places import Rectangle
from isometron.perspective.sheet import Sheet
from isometron.render.painter import paint_arcs, paint_lines, pen_of
from isometron.render.view import View
from isometron.ui.parts.theme import felt_colour

SCREEN_PX_PER_MM = 3.6
"""Pens on the board keep the width they have at this scale, so that any zoom stays legible."""

FELT_ALPHA, MARK_ALPHA = 150, 230
"""Pale layers on the felt, and the marks at their ends."""

MARK_FROM_BORDER_PX, MARK_PX = 14.0, 7.0


def board_pens(layer: Layer) -> tuple[QPen, QPen]:
    """Pens of a layer on the paper and on the felt."""
    colour, felt = QColor(layer.pencil.colour), felt_colour(layer.family)
    if layer.board_alpha < 255:
        colour.setAlpha(layer.board_alpha)
        felt.setAlpha(FELT_ALPHA)
    if layer.board_px is not None:
        return _thin(colour, layer), _thin(felt, layer)
    return (
        pen_of(layer.pencil, SCREEN_PX_PER_MM, colour),
        pen_of(layer.pencil, SCREEN_PX_PER_MM, felt),
    )


def _thin(colour: QColor, layer: Layer) -> QPen:
    """A pen of the width a layer has on the board, in its dashes."""
    wide = layer.board_px or 1.0
    pen = QPen(colour, wide)
    if layer.pencil.dash_mm:
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        pen.setDashPattern([mm * SCREEN_PX_PER_MM / wide for mm in layer.pencil.dash_mm])
    return pen


def paint_layer(
    painter: QPainter, view: View, sheet: Sheet, board: Rectangle, layer: Layer, lines: Array
) -> None:
    """Lines (n, 4) of a layer, cut to the board (sheet mm)."""
    if not len(lines):
        return
    on_paper, on_felt = board_pens(layer)
    paper = sheet.paper
    paint_lines(painter, view, lines, on_paper, within=overlap(paper, board))
    if not _inside(lines, paper):
        paint_lines(painter, view, outside(lines, paper), on_felt, within=board)


def paint_layer_arcs(
    painter: QPainter, view: View, sheet: Sheet, board: Rectangle, layer: Layer, arcs: Array
) -> None:
    """Arcs (n, 3, 3) of a layer, cut to the board (sheet mm)."""
    if not len(arcs):
        return
    on_paper, on_felt = board_pens(layer)
    paint_arcs(painter, view, arcs, on_paper, within=overlap(sheet.paper, board))
    beyond = outside_arcs(arcs, sheet.paper)
    if len(beyond):
        paint_arcs(painter, view, beyond, on_felt, within=board)


def paint_end_marks(
    painter: QPainter, view: View, board: Rectangle, layer: Layer, lines: Array
) -> None:
    """The end marks of a layer where its lines leave the board: families told apart in grey."""
    if layer.end_mark is None or not len(lines):
        return
    cut = clipped(lines, board)
    at_border = abs(cut[:, 2:] - lines[: len(cut), 2:]).max(axis=1, initial=0.0) > SAME
    if len(cut) != len(lines) or not at_border.any():
        return
    run = cut[:, :2] - cut[:, 2:]
    length = ((run * run).sum(axis=1) ** 0.5).clip(1e-9)[:, None]
    ends = cut[:, 2:] + run / length * length.clip(max=MARK_FROM_BORDER_PX / view.scale)
    colour = felt_colour(layer.family)
    colour.setAlpha(MARK_ALPHA)
    strokes = end_marks(ends, layer.end_mark, MARK_PX / view.scale)
    paint_lines(painter, view, strokes, QPen(colour, 1.2))


def overlap(first: Rectangle, second: Rectangle) -> Rectangle:
    """What two rectangles have in common."""
    return (
        max(first[0], second[0]),
        max(first[1], second[1]),
        min(first[2], second[2]),
        min(first[3], second[3]),
    )


def _inside(lines: Array, rectangle: Rectangle) -> bool:
    x, y = lines[:, 0::2], lines[:, 1::2]
    left, bottom, right, top = rectangle
    return bool(x.min() >= left and x.max() <= right and y.min() >= bottom and y.max() <= top)

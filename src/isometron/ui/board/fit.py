"""How the sheet is fitted to the board, and looked at closer or further."""

from PyQt6.QtCore import QPointF, QSize

from isometron.drawing.strokes import Rectangle, reach_of
from isometron.perspective.sheet import Sheet
from isometron.render.painter import View

MARGINS = (64.0, 48.0, 40.0, 84.0)
"""Desk left free round a fitted sheet: left (ruler), top, right, bottom (ruler, buttons), px."""

ZOOM_RANGE = (0.02, 60.0)
"""Device px per mm of sheet that can be looked at."""

SMALLEST_PX = 50.0


def fitted(sheet_mm: Rectangle, size: QSize) -> View:
    """The view that shows a rectangle left, bottom, right, top of the sheet within the margins."""
    left, bottom, right, top = sheet_mm
    ml, mt, mr, mb = MARGINS
    room_x = max(size.width() - ml - mr, SMALLEST_PX)
    room_y = max(size.height() - mt - mb, SMALLEST_PX)
    scale = min(room_x / (right - left), room_y / (top - bottom))
    x = ml + (room_x - scale * (right - left)) / 2 - scale * left
    y = mt + (room_y + scale * (top - bottom)) / 2 + scale * bottom
    return View(scale, x, y)


def round_places(sheet: Sheet, places: list[tuple[float, float]]) -> Rectangle:
    """The rectangle round the sheet and places on its board (very far ones are left out)."""
    limit = reach_of(sheet)
    near = [place for place in places if max(abs(place[0]), abs(place[1])) <= limit]
    xs = [0.0, sheet.width_mm, *(x for x, _ in near)]
    ys = [0.0, sheet.height_mm, *(y for _, y in near)]
    return min(xs), min(ys), max(xs), max(ys)


def zoomed(view: View, factor: float, about: QPointF) -> View:
    """The view closer (factor above 1) or further, one place of the board kept where it is."""
    least, most = ZOOM_RANGE
    scale = min(max(view.scale * factor, least), most)
    share = scale / view.scale
    left = about.x() + (view.left - about.x()) * share
    bottom = about.y() + (view.bottom - about.y()) * share
    return View(scale, left, bottom)

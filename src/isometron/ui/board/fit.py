"""How the sheet is fitted to the board, and looked at closer or further."""

from PyQt6.QtCore import QPointF, QRectF, QSize

from isometron.perspective.sheet import Rectangle, Sheet
from isometron.render.view import View

MARGINS = (64.0, 48.0, 40.0, 84.0)
"""Desk left free round a fitted sheet: left (ruler), top, right, bottom (ruler, buttons), px."""

ZOOM_RANGE = (0.02, 60.0)
"""Device px per mm of sheet that can be looked at."""

SMALLEST_PX = 50.0


def fitted(sheet_mm: Rectangle, size: QSize) -> View:
    """The view that shows a rectangle left, bottom, right, top of the sheet within the margins."""
    ml, mt, mr, mb = MARGINS
    wide = max(size.width() - ml - mr, SMALLEST_PX)
    high = max(size.height() - mt - mb, SMALLEST_PX)
    return View.fit(sheet_mm, QRectF(ml, mt, wide, high))


def round_places(sheet: Sheet, places: list[tuple[float, float]]) -> Rectangle:
    """The rectangle round the sheet and places on its board (very far ones are left out)."""
    limit = sheet.reach_mm
    near = [place for place in places if max(abs(place[0]), abs(place[1])) <= limit]
    xs = [0.0, sheet.width_mm, *(x for x, _y in near)]
    ys = [0.0, sheet.height_mm, *(y for _x, y in near)]
    return min(xs), min(ys), max(xs), max(ys)


def zoomed(view: View, factor: float, about: QPointF) -> View:
    """The view closer (factor above 1) or further, one place of the board kept where it is."""
    least, most = ZOOM_RANGE
    scale = min(max(view.scale * factor, least), most)
    share = scale / view.scale
    left = about.x() + (view.left - about.x()) * share
    bottom = about.y() + (view.bottom - about.y()) * share
    return View(scale, left, bottom)

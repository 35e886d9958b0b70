"""How the sheet is fitted to the board, and looked at closer or further."""

from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize

from isometron.perspective.places import Rectangle
from isometron.perspective.sheet import Sheet
from isometron.render.view import View
from isometron.ui.parts.theme import scaled

LEFT, TOP, RIGHT, RULER, SWITCHES = 44.0, 8.0, 8.0, 28.0, 36.0
"""Desk left free round a fitted sheet, px: at the left for the ruler and its numbers, above, at the
right, below for the ruler, and below that for the switches at the foot."""

FLAG_HIGH, FLAG_WIDE = 46.0, 92.0
"""Desk left free for flags besides: above the sheet, or at both of its sides, px."""

ZOOM_RANGE = (0.02, 60.0)
"""Device px per mm of sheet that can be looked at."""

SMALLEST_PX = 50.0


class Foot(NamedTuple):
    """How much of the width the switches at the foot take at the left and at the right, px, and in
    how many rows they lie."""

    left: float = 0.0
    right: float = 0.0
    rows: int = 1


def fitted(
    sheet_mm: Rectangle,
    size: QSize,
    foot: Foot = Foot(),  # noqa: B008 - a value
    turn_deg: float = 0.0,
) -> View:
    """The view, turned by so much, that shows a rectangle left, bottom, right, top of the sheet as
    large as it can, with room for flags above it or beside it, and above the switches at the foot
    or between them."""
    ruler, switches, beside = (float(scaled(px)) for px in (RULER, SWITCHES, FLAG_WIDE))
    above = TOP + scaled(FLAG_HIGH)
    left, right = float(scaled(LEFT)), RIGHT
    low = float(ruler + switches * foot.rows)
    boxes = [(left, above, right, low), (left + beside, TOP, beside, low)]
    if foot.left and foot.rows == 1:
        between = max(left + beside, foot.left + ruler), max(beside, foot.right)
        boxes.append((between[0], TOP, between[1], float(ruler)))
    views = [_in_box(sheet_mm, size, turn_deg, *box) for box in boxes]
    return max(views, key=lambda view: view.scale)


def _in_box(
    sheet_mm: Rectangle,
    size: QSize,
    turn_deg: float,
    left: float,
    top: float,
    right: float,
    bottom: float,
) -> View:
    wide, high = size.width() - left - right, size.height() - top - bottom
    box = QRectF(left, top, max(wide, SMALLEST_PX), max(high, SMALLEST_PX))
    return View.fit(sheet_mm, box, turn_deg=turn_deg)


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
    return View(scale, left, bottom, view.turn_deg)

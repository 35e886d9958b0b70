"""Composition marks: thirds, middle, safe margin and a crop, in the paper or in the crop."""

import numpy as np

from isometron.document.document import Document
from isometron.document.view import Frame
from isometron.perspective.eye import Array
from isometron.perspective.sheet import Sheet


def composition_marks(document: Document) -> Array:
    """Lines (n, 4) of the sheet: thirds and middle of the crop, where there is one, else of the
    paper; the margin inside the paper."""
    finish, sheet = document.finish, document.sheet
    whole = finish.crop or whole_of(sheet)
    lines: list[list[float]] = []
    if finish.thirds:
        lines += _across(whole, (1 / 3, 2 / 3))
    if finish.middle:
        lines += _across(whole, (1 / 2,))
    if finish.margin_mm is not None and 2 * finish.margin_mm < min(sheet.width_mm, sheet.height_mm):
        lines += _sides(_inset(whole_of(sheet), finish.margin_mm))
    if finish.crop is not None:
        lines += _sides(finish.crop)
    return np.array(lines, dtype=float).reshape(-1, 4)


def whole_of(sheet: Sheet) -> Frame:
    """The paper as a frame."""
    return Frame(0.0, 0.0, sheet.width_mm, sheet.height_mm)


def _inset(frame: Frame, mm: float) -> Frame:
    return Frame(
        frame.left_mm + mm, frame.bottom_mm + mm, frame.width_mm - 2 * mm, frame.height_mm - 2 * mm
    )


def _across(frame: Frame, shares: tuple[float, ...]) -> list[list[float]]:
    """Upright and level lines at shares of a frame."""
    x0, y0 = frame.left_mm, frame.bottom_mm
    x1, y1 = x0 + frame.width_mm, y0 + frame.height_mm
    upright = [[x, y0, x, y1] for x in (x0 + s * frame.width_mm for s in shares)]
    return upright + [[x0, y, x1, y] for y in (y0 + s * frame.height_mm for s in shares)]


def _sides(frame: Frame) -> list[list[float]]:
    x0, y0 = frame.left_mm, frame.bottom_mm
    x1, y1 = x0 + frame.width_mm, y0 + frame.height_mm
    return [[x0, y0, x1, y0], [x1, y0, x1, y1], [x1, y1, x0, y1], [x0, y1, x0, y0]]

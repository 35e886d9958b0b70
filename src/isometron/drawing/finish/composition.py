"""Composition marks: thirds, middle, safe margin and a crop, in the paper or in the crop."""

import numpy as np

from isometron.document.document import Document
from isometron.document.view import Frame
from isometron.drawing.dimension_marks import Label
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_number
from isometron.perspective.sheet import Sheet

CAPTION_BELOW_MM = 6.5


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


def frame_lines(document: Document) -> Array:
    """The frames (n, 4) of views that have one."""
    lines = [side for view in document.views if view.frame for side in _sides(view.frame)]
    return np.array(lines, dtype=float).reshape(-1, 4)


def captions(document: Document) -> list[Label]:
    """Number and name of every view below its frame; a plan's or elevation's scale besides."""
    found = []
    for number, view in enumerate(document.views):
        if view.frame is None:
            continue
        words = f"{number + 1}  {view.name}".rstrip()
        if view.eye.parallel is not None:
            words += f"  1 : {write_number(round(1 / view.eye.parallel, 2))}"
        x = view.frame.left_mm + view.frame.width_mm / 2
        found.append(Label(words, (x, view.frame.bottom_mm - CAPTION_BELOW_MM)))
    return found

"""Edits of the finish: line weights, surroundings, mirror image, composition marks."""

from dataclasses import replace
from typing import Any

from isometron.document.document import Document
from isometron.document.finish import SURROUNDINGS, usual_crop
from isometron.document.view import Frame

USUAL_MARGIN_MM = 10.0
LEAST_CROP_MM = 10.0


def set_finish(document: Document, **choices: Any) -> Document:
    """The sheet finished otherwise: any field of a Finish. Raises ChoiceError."""
    return replace(document, finish=replace(document.finish, **choices))


def set_surrounding(document: Document, what: str, step: int | None) -> Document:
    """The step of a floor, path, wall, shelf or sky by hand, or told by the light (None)."""
    pairs = zip(SURROUNDINGS, document.finish.steps, strict=True)
    return set_finish(document, steps=tuple(step if name == what else s for name, s in pairs))


def mark_margin(document: Document, on: bool) -> Document:
    """A safe margin inside the paper, or none."""
    return set_finish(document, margin_mm=USUAL_MARGIN_MM if on else None)


def mark_crop(document: Document, on: bool) -> Document:
    """A crop frame in the middle of the sheet, or none."""
    sheet = document.sheet
    return set_finish(document, crop=usual_crop(sheet.width_mm, sheet.height_mm) if on else None)


def set_crop(document: Document, name: str, mm: float) -> Document:
    """The crop with one of its lengths changed, kept on the sheet. As it was without a crop."""
    crop = document.finish.crop
    if crop is None:
        return document
    return set_finish(document, crop=kept_on_sheet(document, replace(crop, **{name: mm})))


def kept_on_sheet(document: Document, crop: Frame) -> Frame:
    """A crop moved, and where it must be made smaller, so that it lies on the sheet."""
    sheet = document.sheet
    wide = min(max(crop.width_mm, LEAST_CROP_MM), sheet.width_mm)
    high = min(max(crop.height_mm, LEAST_CROP_MM), sheet.height_mm)
    left = min(max(crop.left_mm, 0.0), sheet.width_mm - wide)
    return Frame(left, min(max(crop.bottom_mm, 0.0), sheet.height_mm - high), wide, high)


def drag_crop(document: Document, corner: int, sheet_mm: tuple[float, float]) -> Document:
    """The crop with its lower left (0) or upper right corner (1) carried to a place of the sheet;
    the other stays. As it was without a crop."""
    crop, sheet = document.finish.crop, document.sheet
    if crop is None:
        return document
    right, top = crop.left_mm + crop.width_mm, crop.bottom_mm + crop.height_mm
    x = min(max(sheet_mm[0], 0.0), sheet.width_mm)
    y = min(max(sheet_mm[1], 0.0), sheet.height_mm)
    if corner == 0:
        x, y = min(x, right - LEAST_CROP_MM), min(y, top - LEAST_CROP_MM)
        frame = Frame(x, y, right - x, top - y)
    else:
        x = max(x, crop.left_mm + LEAST_CROP_MM)
        y = max(y, crop.bottom_mm + LEAST_CROP_MM)
        frame = Frame(crop.left_mm, crop.bottom_mm, x - crop.left_mm, y - crop.bottom_mm)
    return set_finish(document, crop=frame)

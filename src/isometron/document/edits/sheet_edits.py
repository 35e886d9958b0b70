"""Edits of the paper and of the person's choices."""

from dataclasses import replace

from isometron.document.document import Document
from isometron.document.kit import USUAL_RULERS
from isometron.perspective.sheet import Sheet


def change_sheet(document: Document, sheet: Sheet) -> Document:
    """Another sheet. The drawing keeps its size and its place about the middle of the paper."""
    (ax, ay), (bx, by) = document.sheet.middle, sheet.middle
    cx, cy = document.eye.centre_of_vision_mm
    centre = (cx + bx - ax, cy + by - ay)
    moved = document.with_eye(replace(document.eye, centre_of_vision_mm=centre))
    return replace(moved, sheet=sheet)


def change_format(document: Document, name: str, *, lying: bool) -> Document:
    """A named format, upright or lying. Raises SheetError for an unknown one."""
    return change_sheet(document, Sheet.of_format(name, lying=lying))


def turn_sheet(document: Document, *, lying: bool) -> Document:
    """The same paper, lying or upright."""
    sheet = document.sheet
    if sheet.lying == lying:
        return document
    return change_sheet(document, Sheet(sheet.height_mm, sheet.width_mm))


def set_unit(document: Document, unit: str) -> Document:
    """The unit the sheet is read in: mm, cm or in; the usual ruler becomes the one that has it."""
    kit, before = document.kit, document.choices.unit
    choices = replace(document.choices, unit=unit)  # refuses a unit that is none
    if (kit.ruler_mm, kit.ruler_step_mm) == USUAL_RULERS[before]:
        length, step = USUAL_RULERS[unit]
        kit = replace(kit, ruler_mm=length, ruler_step_mm=step)
    return replace(document, choices=choices, kit=kit)


def set_cone(document: Document, full_angle_deg: float) -> Document:
    """The full angle of the cone of vision that the second look goes by."""
    return replace(document, choices=replace(document.choices, cone_deg=full_angle_deg))


def set_ruler(document: Document, reach_mm: float) -> Document:
    """The length of the person's ruler."""
    return replace(document, kit=replace(document.kit, ruler_mm=reach_mm))


def show_see_through(document: Document, see_through: bool) -> Document:
    """Hidden edges drawn (see-through) or left out (solid)."""
    return replace(document, choices=replace(document.choices, see_through=see_through))


def show_diagonal_point(document: Document, shown: bool) -> Document:
    """The 45° point of the volume in work and the line to it drawn or left out."""
    return replace(document, choices=replace(document.choices, diagonal_point=shown))


def show_fans(document: Document, fans: bool) -> Document:
    """The construction fans of the volume in work drawn or left out."""
    return replace(document, choices=replace(document.choices, fans=fans))

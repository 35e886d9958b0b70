"""How far around the paper a stage of the build order is shown on the board."""

from isometron.perspective.places import Rectangle
from isometron.perspective.sheet import Sheet

TURN_STEP_DEG = 15.0
"""By so much a sheet is turned under the hand at once."""

AROUND = 3.0
"""Stages are shown this many paper sizes around the paper."""


def stage_rectangle(sheet: Sheet) -> Rectangle:
    """The part of the desk on which a stage is drawn, sheet mm."""
    width, height = sheet.width_mm, sheet.height_mm
    return (-AROUND * width, -AROUND * height, (1 + AROUND) * width, (1 + AROUND) * height)
